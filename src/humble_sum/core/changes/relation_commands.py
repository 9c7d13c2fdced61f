"""The changes to what has to agree with what: ties, and answers for every gap at once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from humble_sum.core.changes.gap_answers import gaps_of, leave_gaps, rounded_totals, rounding_lines
from humble_sum.core.changes.ties import tie, untie
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof, figure_of, proof_of
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.names import FigureRef, Label
from humble_sum.core.statements.pack import Pack


class _Relate(BaseModel):
    model_config = ConfigDict(extra="forbid")
    statement: Id


class TieFigure(_Relate):
    """Tie a figure to another that is one and the same, in another statement or in this one."""

    kind: Literal["tie"]
    line: Id
    column: Id
    to: FigureRef


class UntieFigure(_Relate):
    """Take a figure out of its tie."""

    kind: Literal["untie"]
    line: Id
    column: Id


class LeaveGaps(_Relate):
    """Leave every sum of the pack that has a gap with the note."""

    kind: Literal["leave_gaps"]


class RoundingLines(_Relate):
    """Add a rounding line to every total of the pack that has a gap and none yet."""

    kind: Literal["rounding_lines"]
    label: Label = "Rounding"


RELATING = ("tie", "untie", "leave_gaps", "rounding_lines")


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


def relate(pack_proof: PackProof, change: Any) -> tuple[Pack, str]:
    """The pack with its relations changed, and what that did. Raises InputError."""
    pack = pack_proof.pack
    match change:
        case LeaveGaps():
            gaps = sum(len(gaps_of(proof)) for proof in pack_proof.proofs.values())
            if not gaps:
                raise InputError("bad-structure", Fault("statement", "No sum has a gap to be left."))
            return leave_gaps(pack_proof), f"{_count(gaps, 'sum')} left with a note"
        case RoundingLines():
            totals = sum(len(rounded_totals(proof)) for proof in pack_proof.proofs.values())
            if not totals:
                raise InputError(
                    "bad-structure", Fault("statement", "No total has a gap for a rounding line.")
                )
            return rounding_lines(pack_proof, change.label), f"{_count(totals, 'rounding line')} added"
    figure_of(proof_of(pack_proof, change.statement), change.line, change.column)
    ref = (change.statement, change.line, change.column)
    if isinstance(change, UntieFigure):
        return untie(pack, ref), f"{describe_figure(pack, ref)} tied to nothing"
    owner, line, column = change.to
    figure_of(proof_of(pack_proof, owner), line, column)
    return tie(
        pack, ref, change.to
    ), f"{describe_figure(pack, ref)} tied to {describe_figure(pack, change.to)}"


def _count(number: int, of: str) -> str:
    return f"{number} {of}" if number == 1 else f"{number} {of}s"
