"""Ties: figures that are one and the same, checked as printed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT, of_units
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.checks import Status
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.statement_proof import Proof, prove
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack, Statement, Tie


@dataclass(frozen=True)
class TieCheck:
    """A tie as printed.

    `gap` is how far, in units, the first figure that differs prints from the tie's first one;
    `miss` the same of the exact amounts, not zero in a source break. Figures printed in different
    units are `consistent` where they are as near as their roundings are.
    """

    tie: Tie
    status: Status
    gap: int = 0
    miss: Decimal = Decimal(0)
    consistent: bool = True

    @property
    def owner(self) -> str:
        """The statement whose page counts it: the one that says the figure again."""
        return self.tie.figures[-1][0]


@dataclass(frozen=True)
class PackProof:
    """A pack proved: its statements by id, and the ties between them."""

    pack: Pack
    proofs: Mapping[str, Proof]
    ties: tuple[TieCheck, ...]

    def ties_at(self, statement: str) -> list[TieCheck]:
        """The ties that one of the statement's figures is in."""
        return [check for check in self.ties if any(ref[0] == statement for ref in check.tie.figures)]

    def count(self, statement: str, status: Status) -> int:
        """How many relations of a statement have this status; a tie counts where it is said again."""
        owned = sum(check.owner == statement and check.status == status for check in self.ties)
        return owned + sum(check.status == status for check in self.proofs[statement].checks)


def prove_pack(pack: Pack, last: PackProof | None = None) -> PackProof:
    """Every statement of the pack, and what ties them. Of the proof of an earlier state of the pack,
    `last`, whatever the change left alone is taken over."""
    proofs = {statement.id: _proof(pack, statement, last) for statement in pack.statements}
    return PackProof(pack, proofs, _checks(pack, proofs))


def _proof(pack: Pack, statement: Statement, last: PackProof | None) -> Proof:
    before = last.proofs.get(statement.id) if last else None
    if last is None or before is None:
        return prove(pack, statement)
    if before.statement is not statement and before.statement != statement:
        return prove(pack, statement)
    if bearing_on(last.pack, statement.id) == bearing_on(pack, statement.id):
        return before
    return prove(pack, statement, before)


def bearing_on(pack: Pack, statement: str) -> tuple[object, ...]:
    """What of a pack decides how a statement prints, besides the statement itself."""
    return (
        pack.currency,
        (pack.policy.at_most, pack.policy.note),
        [rule for rule in pack.rulebook.rules if rule.reach.in_statement(statement)],
        [hold for hold in pack.holds if hold.statement == statement],
        [nudge for nudge in pack.nudges if nudge.statement == statement],
    )


def _checks(pack: Pack, proofs: Mapping[str, Proof]) -> tuple[TieCheck, ...]:
    """Every tie of the pack, from the proofs of its statements by id."""
    return tuple(_check(tie, [figure_at(proofs, ref) for ref in tie.figures]) for tie in pack.ties)


def figure_at(proofs: Mapping[str, Proof], ref: FigureRef) -> Figure:
    statement, line, column = ref
    return proofs[statement].figures[line, column]


def _check(tie: Tie, figures: list[Figure]) -> TieCheck:
    first = figures[0]
    if any(figure.exact is None for figure in figures):
        return TieCheck(tie, "incomplete")
    for figure in figures[1:]:
        assert figure.exact is not None and first.exact is not None
        if miss := EXACT.subtract(figure.exact, first.exact):
            return TieCheck(tie, "break", miss=miss)
    if any(figure.units is None for figure in figures):
        return TieCheck(tie, "mixed")  # one prints no number: a date, a word
    if any(figure.exponent != first.exponent for figure in figures):
        return TieCheck(tie, "mixed", consistent=all(_near(figure, first) for figure in figures[1:]))
    for figure in figures[1:]:
        assert figure.units is not None and first.units is not None
        if gap := figure.units - first.units:
            return TieCheck(tie, "gap", gap)
    return TieCheck(tie, "foots")


def _near(one: Figure, other: Figure) -> bool:
    """Whether two figures in units of their own print as near as half a unit of each allows."""
    amounts = [of_units(figure.units or 0, figure.exponent) for figure in (one, other)]
    room = EXACT.add(of_units(1, one.exponent), of_units(1, other.exponent))
    apart = EXACT.subtract(*amounts).copy_abs()
    return EXACT.multiply(apart, Decimal(2)) <= room


def proof_of(pack_proof: PackProof, id: str) -> Proof:
    """The proof of one statement, or InputError."""
    proof = pack_proof.proofs.get(id)
    if proof is None:
        raise InputError("no-such-statement", Fault("statement", f'There is no statement "{id}".'))
    return proof


def figure_of(proof: Proof, line: str, column: str) -> Figure:
    """The figure at a line and column, or InputError."""
    figure = proof.figures.get((line, column))
    if figure is None:
        raise InputError(
            "no-such-figure", Fault("figure", f'There is no figure at line "{line}", column "{column}".')
        )
    return figure
