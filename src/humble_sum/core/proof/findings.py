"""What is found of a relation, said in words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import of_units
from humble_sum.core.printing.figure import exact_text, print_amount
from humble_sum.core.proof.checks import Check, Status
from humble_sum.core.proof.pack_proof import PackProof, TieCheck, figure_at
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.in_edition import rates_differ
from humble_sum.core.statements.names import FigureRef, shortened
from humble_sum.core.statements.pack import Pack, Tie
from humble_sum.core.statements.relations import Relation

MOST_NAME = 120  # characters of a label or a head in the name of a sum


def describe_relation(proof: Proof, relation: Relation) -> str:
    """A relation by name: "Total costs, 2025–26" or "Fuel across to Change"."""
    line, column = relation.total
    between = ", " if relation.way == "down" else " across to "
    label, head = (shortened(text, MOST_NAME) for text in (proof.grid.labels[line], proof.grid.heads[column]))
    return f"{label}{between}{head}"


def signed_mark(number: int) -> str:
    """A gap as its bead shows it: +1 or −2."""
    return f"+{number}" if number > 0 else f"\u2212{-number}"


def describe_check(proof: Proof, check: Check) -> str:
    """What is found of one relation, in a sentence."""
    name = describe_relation(proof, check.relation)
    total = proof.figures[check.relation.total]
    match check.status:
        case "foots":
            return f"{name} foots."
        case "incomplete":
            return f"{name}: a part is missing, so it cannot be checked."
        case "mixed":
            if check.consistent:
                return f"{name}: printed in different units, and consistent within their rounding."
            return f"{name}: printed in different units, and farther apart than their rounding allows."
        case "break":
            exact = exact_text(check.miss, total.clauses)
            return f"{name} is a source break: the exact total is {exact} off its exact parts."
        case _:
            assert total.printed.units is not None
            parts = of_units(total.printed.units - check.gap, total.printed.exponent)
            added = print_amount(parts, total.clauses, money=total.money).text or "nothing"
            says = f"{name}: printed parts add to {added}, the total prints {total.printed.text or 'a blank'}"
            return f"{says}; left with a note." if check.status == "noted" else f"{says}."


def describe_figure(pack: Pack, ref: FigureRef) -> str:
    """A figure by name, with its statement: "Surplus for the year, 2025–26 in Income"."""
    statement, line, column = ref
    owner = pack.statement(statement)
    row, head = (owner.line(line), owner.column(column)) if owner else (None, None)
    assert owner is not None and row is not None and head is not None
    return f"{row.label}, {head.label} in {owner.name}"


def describe_tie(pack: Pack, tie: Tie) -> str:
    """A tie by name: what has to be the same."""
    first, *others = [describe_figure(pack, ref) for ref in tie.figures]
    return f"{first} tied to {' and '.join(others)}"


def _three_figures(amount: Decimal) -> Decimal:
    """A quotient as it is told on screen: to three significant figures, and no coarser than ones."""
    return round(amount, max(0, 2 - amount.adjusted()))


def describe_tie_check(pack: Pack, proofs: Mapping[str, Proof], check: TieCheck) -> str:
    """What is found of one tie, in a sentence."""
    name = describe_tie(pack, check.tie)
    match check.status:
        case "foots":
            return f"{name}: both print the same."
        case "incomplete":
            return f"{name}: a figure is missing, so it cannot be checked."
        case "mixed":
            if check.consistent:
                return f"{name}: printed in different units, and consistent within their rounding."
            return f"{name}: printed in different units, and farther apart than their rounding allows."
        case "break":
            figure = figure_at(proofs, check.tie.figures[-1])
            if rates_differ(pack, check.tie.figures):
                apart = exact_text(_three_figures(check.miss), figure.clauses)
                return f"{name}: about {apart} apart, a translation difference: their rates differ."
            apart = exact_text(check.miss, figure.clauses)
            return f"{name} is a source break: the exact amounts are {apart} apart."
        case _:
            texts = [
                proofs[s].figures[line, column].printed.text or "a blank"
                for s, line, column in check.tie.figures
            ]
            return f"{name}: printed as {' and '.join(texts)}."


@dataclass(frozen=True)
class Finding:
    """A relation of a statement that does not add, as printed (a gap) or in the source (a break)."""

    statement: str
    relation: str
    status: Status
    gap: int
    says: str


def findings_of(pack_proof: PackProof, statement: str) -> list[Finding]:
    """Every gap and break of one statement, ties that it says again included."""
    proof = pack_proof.proofs[statement]
    found = [
        Finding(statement, check.relation.id, check.status, check.gap, describe_check(proof, check))
        for check in proof.checks
        if check.status in ("gap", "break")
    ]
    for tie in pack_proof.ties:
        if tie.owner == statement and tie.status in ("gap", "break"):
            says = describe_tie_check(pack_proof.pack, pack_proof.proofs, tie)
            found.append(Finding(statement, f"tie:{tie.tie.id}", tie.status, tie.gap, says))
    return found


def unchecked_of(pack_proof: PackProof, statement: str) -> list[Finding]:
    """Every relation of one statement that is not checked as a whole, as a part of it is missing."""
    proof = pack_proof.proofs[statement]
    found = []
    for check in proof.checks:
        name = describe_relation(proof, check.relation)
        lacks = [
            proof.grid.labels[line] if check.relation.way == "down" else proof.grid.heads[column]
            for (line, column), _ in check.relation.parts
            if proof.figures[line, column].exact is None
        ]
        if check.status == "incomplete":
            found.append(Finding(statement, check.relation.id, "incomplete", 0, describe_check(proof, check)))
        elif lacks and proof.figures[check.relation.total].exact is not None:
            is_missing = "is missing" if len(lacks) == 1 else "are missing"
            says = f"{name}: {', '.join(lacks)} {is_missing}, so this sum is not checked."
            found.append(Finding(statement, check.relation.id, "incomplete", 0, says))
    for tie in pack_proof.ties:
        if tie.owner == statement and tie.status == "incomplete":
            says = describe_tie_check(pack_proof.pack, pack_proof.proofs, tie)
            found.append(Finding(statement, f"tie:{tie.tie.id}", "incomplete", 0, says))
    return found
