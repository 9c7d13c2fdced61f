"""Editions beside each other: where one figure prints in each, and what differs other than scale."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import of_units
from humble_sum.core.places.agreement import AGREES, Agreement
from humble_sum.core.places.placed_figure import same_unit
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import describe_tie_check
from humble_sum.core.proof.pack_proof import PackProof, TieCheck
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.clause_registry import clause_name, describe_clause
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import EditionPack, in_pack_currency, rates_differ, untranslated
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.relations import LineColumn

# Clauses in which editions differ as a matter of course.
OF_SCALE = (
    "scale",
    "decimals",
    "scale_word",
    "currency",
    "money_sign",
    "money_shown",
    "step",
    "ladder",
    "width",
)
MOST_NAMED = 4


@dataclass(frozen=True)
class InEdition:
    """One figure as an edition's page prints it, and how that stands to the pack's own."""

    edition: str
    name: str
    figure: Figure
    agrees: Agreement


def in_editions(proofs: Mapping[str, PackProof], ref: FigureRef) -> list[InEdition]:
    """A figure in every edition; `proofs` has each by its id, the pack's own first."""
    statement, line, column = ref
    own = proofs[OWN].proofs[statement].figures[line, column]
    found = []
    for id, pack_proof in proofs.items():
        figure = pack_proof.proofs[statement].figures[line, column]
        found.append(InEdition(id, pack_proof.pack.edition_name(id), figure, _beside(own, figure)))
    return found


def _beside(own: Figure, other: Figure) -> Agreement:
    """What a reader of both would make of them. Amounts that were translated are another matter."""
    if own is other or own.exact != other.exact or own.units is None or other.units is None:
        return AGREES
    if same_unit(own, other.clauses):
        if own.units == other.units:
            return AGREES
        says = (
            f"The same unit prints {own.printed.full_text} in one and {other.printed.full_text} in the other."
        )
        return Agreement("shows_nudge", says, "another figure")
    if other.exponent < own.exponent:
        return AGREES
    again = print_amount(
        of_units(own.units, own.exponent), other.clauses, usual_sign=other.usual_sign
    ).full_text
    if again == other.printed.full_text:
        return Agreement("agrees", f"A reader who rounds {own.printed.full_text} gets {again} too.")
    says = (
        f"A reader who rounds {own.printed.full_text} gets {again}; "
        f"this edition prints {other.printed.full_text}."
    )
    return Agreement("agrees", says)


def differing(one: Proof, other: Proof) -> set[LineColumn]:
    """Figures that two editions print otherwise in more than scale: as a word, or nudged in one alone."""
    found = set()
    for cell in one.figures:
        a, b = one.figures[cell], other.figures[cell]
        if a.moved != b.moved or _worded(a) != _worded(b):
            found.add(cell)
    return found


def _worded(figure: Figure) -> str:
    """The text of a figure that prints no digits; empty where it does."""
    text = figure.printed.text
    return "" if any(letter.isdigit() for letter in text) else text


def differences(one: PackProof, other: PackProof, statement: str) -> list[str]:
    """What differs between two editions of a statement, other than scale, in sentences."""
    first, second = one.proofs[statement], other.proofs[statement]
    names = (one.pack.edition_name(one.pack.shown), other.pack.edition_name(other.pack.shown))
    labels, heads = first.grid.labels, first.grid.heads
    said: list[str] = []
    moved: dict[int, list[str]] = {0: [], 1: []}
    clauses: dict[tuple[str, str, str], int] = {}
    for cell in first.figures:
        pair = (first.figures[cell], second.figures[cell])
        words = tuple(map(_worded, pair))
        if words[0] != words[1]:
            at = 1 if words[1] else 0
            said.append(f"{labels[cell[0]]}, {heads[cell[1]]} prints “{words[at]}” in {names[at]}.")
        if pair[0].moved != pair[1].moved:
            moved[0 if pair[0].moved else 1].append(f"{labels[cell[0]]}, {heads[cell[1]]}")
        for name, ways in _said_otherwise(*pair).items():
            clauses[name, *ways] = clauses.get((name, *ways), 0) + 1
    for (name, here, there), _ in sorted(clauses.items(), key=lambda each: -each[1]):
        said.append(f"{clause_name(name).capitalize()}: {here} in {names[0]}, {there} in {names[1]}.")
    for at, figures in moved.items():
        if figures:
            shown = ", ".join(figures[:MOST_NAMED])
            more = f" and {len(figures) - MOST_NAMED} others" if len(figures) > MOST_NAMED else ""
            said.append(f"Nudged in {names[at]} alone: {shown}{more}.")
    return said


def _said_otherwise(one: Figure, other: Figure) -> dict[str, tuple[str, str]]:
    if one.clauses is other.clauses:
        return {}
    found = {}
    for name, rule in other.decided.origins.items():
        if name in OF_SCALE or rule is one.decided.origins[name]:
            continue
        if getattr(one.clauses, name) != getattr(other.clauses, name):
            found[name] = describe_clause(name, one.clauses), describe_clause(name, other.clauses)
    return found


def notes_on(pack_proof: PackProof) -> list[str]:
    """What the readers of an edition's maker should know: columns without a rate, ties and sums that only
    the rates break, and units finer than the amounts are."""
    pack = pack_proof.pack
    if not isinstance(pack, EditionPack):
        return []
    edition = pack.base.edition(pack.shown)
    assert edition is not None
    said = []
    for id in dict.fromkeys(statement for statement, _ in untranslated(pack.base, edition)):
        owner = pack.statement(id)
        columns = [column for statement, column in untranslated(pack.base, edition) if statement == id]
        heads = ", ".join(c.label for c in owner.columns if c.id in columns) if owner else ""
        said.append(f"{owner.name if owner else id} has no rate for {heads}: these stay untranslated.")
    for statement in pack.statements if pack.translates else ():
        for line in statement.figured:
            if not in_pack_currency(pack, line):
                said.append(f"{line.label} is in {line.currency} and stays so: it has no rates of its own.")
    said += [describe_tie_check(pack, pack_proof.proofs, check) for check in rate_breaks(pack_proof)]
    for proof in pack_proof.proofs.values():
        if finer := _finer_than_source(proof):
            said.append(finer)
    return said


def rate_breaks(pack_proof: PackProof) -> list[TieCheck]:
    """Ties of an edition that only its rates break."""
    ties = [tie for tie in pack_proof.ties if tie.status == "break"]
    return [tie for tie in ties if rates_differ(pack_proof.pack, tie.tie.figures)]


def _finer_than_source(proof: Proof) -> str:
    """Said where every amount is round in a unit that is larger than the one it prints in."""
    amounts = [amount for amount in proof.grid.amounts if amount]
    figures = [figure for figure in proof.figures.values() if figure.exact and figure.units is not None]
    if len(amounts) < 2 or not figures:
        return ""
    round_to = min(_zeros(amount) for amount in amounts)
    finest = min(figure.exponent for figure in figures)
    if round_to < 3 or finest >= round_to:
        return ""
    return (
        f"{proof.statement.name} prints finer than its amounts are: every one is round to 1{'0' * round_to}."
    )


def _zeros(amount: Decimal) -> int:
    """How many zeros a whole amount ends with; 0 where it has decimals."""
    exponent = amount.normalize().as_tuple().exponent
    assert isinstance(exponent, int)
    return max(0, exponent)
