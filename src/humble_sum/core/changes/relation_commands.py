"""The changes to what has to agree with what: ties, and answers for every gap at once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from humble_sum.core.changes.command import OnStatement, Planner
from humble_sum.core.changes.gap_answers import gaps_of, leave_gaps, rounded_totals, rounding_lines
from humble_sum.core.changes.ties import tie, untie
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof, figure_of, proof_of
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.names import FigureRef, Label
from humble_sum.core.statements.pack import Pack


class TieFigure(OnStatement):
    """Tie a figure to another that is one and the same, in another statement or in this one."""

    kind: Literal["tie"]
    line: Id
    column: Id
    to: FigureRef

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        ref = (self.statement, self.line, self.column)
        owner, line, column = self.to
        figure_of(self.proof(pack_proof), self.line, self.column)
        figure_of(proof_of(pack_proof, owner), line, column)
        pack = pack_proof.pack
        says = f"{describe_figure(pack, ref)} tied to {describe_figure(pack, self.to)}"
        return tie(pack, ref, self.to), says


class UntieFigure(OnStatement):
    """Take a figure out of its tie."""

    kind: Literal["untie"]
    line: Id
    column: Id

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        ref = (self.statement, self.line, self.column)
        figure_of(self.proof(pack_proof), self.line, self.column)
        return untie(pack_proof.pack, ref), f"{describe_figure(pack_proof.pack, ref)} tied to nothing"


class LeaveGaps(OnStatement):
    """Leave every sum of the pack that has a gap with the note."""

    kind: Literal["leave_gaps"]

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        gaps = sum(len(gaps_of(proof)) for proof in pack_proof.proofs.values())
        if not gaps:
            raise InputError("bad-structure", Fault("statement", "No sum has a gap to be left."))
        return leave_gaps(pack_proof), f"{_count(gaps, 'sum')} left with a note"


class RoundingLines(OnStatement):
    """Add a rounding line to every total of the pack that has a gap and none yet."""

    kind: Literal["rounding_lines"]
    label: Label = "Rounding"

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        totals = sum(len(rounded_totals(proof)) for proof in pack_proof.proofs.values())
        if not totals:
            raise InputError("bad-structure", Fault("statement", "No total has a gap for a rounding line."))
        return rounding_lines(pack_proof, self.label), f"{_count(totals, 'rounding line')} added"


@dataclass(frozen=True)
class GapAnswer:
    """A way to answer every gap at once, other than nudging: what it comes to, and its command."""

    says: str
    detail: str
    change: LeaveGaps | RoundingLines


def answers_of(pack_proof: PackProof) -> list[GapAnswer]:
    """The ways there are for the pack's gaps."""
    found: list[GapAnswer] = []
    statement = pack_proof.pack.statements[0].id
    totals = [len(rounded_totals(proof)) for proof in pack_proof.proofs.values()]
    if sum(totals):
        statements = sum(count > 0 for count in totals)
        where = f"{_count(sum(totals), 'total')} of {_count(statements, 'statement')}"
        detail = f"adds “Rounding” to {where}"
        lines = RoundingLines(kind="rounding_lines", statement=statement)
        found.append(GapAnswer("Print rounding lines", detail, lines))
    gaps = sum(len(gaps_of(proof)) for proof in pack_proof.proofs.values())
    if gaps:
        detail = f"{_count(gaps, 'sum')} with “{pack_proof.pack.policy.note}”"
        left = LeaveGaps(kind="leave_gaps", statement=statement)
        found.append(GapAnswer("Leave the gaps, add the note", detail, left))
    return found


def _count(number: int, of: str) -> str:
    return f"{number} {of}" if number == 1 else f"{number} {of}s"
