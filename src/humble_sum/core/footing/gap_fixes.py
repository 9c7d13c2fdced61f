"""Ways to close one gap by hand: the closest calls, the largest parts, or the total."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from humble_sum.core.amounts import total
from humble_sum.core.footing.plan import added_drift, entry_of, nudge
from humble_sum.core.footing.problem import describe_added_drift, three_figures
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.proof.checks import Check
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof, TieCheck
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.marks import Nudge
from humble_sum.core.statements.relations import LineColumn

WayId = Literal["closest", "largest", "total"]


@dataclass(frozen=True)
class Way:
    """One way: what it would do, in words, its nudges, and the gaps the page would then have."""

    id: WayId
    says: str
    detail: str
    nudges: tuple[Nudge, ...]
    gaps_after: int


def ways(pack_proof: PackProof, proof: Proof, check: Check, made: str = "") -> list[Way]:
    """Ways to close the gap of one relation within one unit each, holds kept.

    Each leaves the other figures as printed, so `gaps_after` says what else it opens.
    """
    if check.status != "gap":
        return []
    policy = pack_proof.pack.policy_of(proof.statement)
    movable = []
    for cell, sign in check.relation.parts:
        figure = proof.figures[cell]
        if figure.units is None or figure.held is not None:
            continue
        target = figure.units + (sign if check.gap > 0 else -sign)
        if target in entry_of(figure, policy=policy).window:
            movable.append((figure, target))
    size = abs(check.gap)
    found = []
    closest = sorted(movable, key=lambda move: added_drift(*move))[:size]
    largest = sorted(movable, key=lambda move: -abs(move[0].units or 0))[:size]
    if len(closest) == size:
        found.append(_way(pack_proof, proof, "closest", closest, "closest calls", made))
        if {figure.cell for figure, _ in largest} != {figure.cell for figure, _ in closest}:
            found.append(
                _way(pack_proof, proof, "largest", largest, "largest lines, least relative change", made)
            )
    sum_of = proof.figures[check.relation.total]
    if sum_of.held is None and sum_of.units is not None:
        target = sum_of.units - check.gap
        if target in entry_of(sum_of, policy=policy).window:
            found.append(_way(pack_proof, proof, "total", [(sum_of, target)], "the total gives way", made))
    return found


def _way(
    pack_proof: PackProof, proof: Proof, id: WayId, moves: Sequence[tuple[Figure, int]], why: str, made: str
) -> Way:
    names = []
    added = total(added_drift(figure, target) for figure, target in moves)
    nudges = []
    for figure, target in moves:
        line = proof.statement.line(figure.cell[0])
        assert line is not None
        text = print_amount(figure.exact, figure.clauses, target, figure.money).text
        names.append(f"{line.label} to {text or 'blank'}")
        if target != figure.own_rounding:
            adds = describe_added_drift(added_drift(figure, target))
            reason = f"Chosen by hand: {why}. Adds {adds} units of drift."
            nudges.append(nudge(proof, figure, target, reason, "By hand, one gap.", made))
    moved = {figure.cell: target - (figure.units or 0) for figure, target in moves}
    owner = proof.statement.id
    kept = [n for n in pack_proof.pack.nudges if n.statement != owner or (n.line, n.column) not in moved]
    gaps = sum(check.gap + _widened(check, moved) != 0 for check in proof.checks)
    gaps += sum(_parted(tie, owner, moved) for tie in pack_proof.ties_at(owner))
    detail = f"{why}; adds {three_figures(added)} units of drift, leaves {_gaps(gaps)}"
    return Way(id, f"Nudge {', '.join(names)}", detail, (*kept, *nudges), gaps)


def _widened(check: Check, moved: dict[LineColumn, int]) -> int:
    """By how much the moves widen the gap of a relation that can be compared."""
    if check.status not in ("foots", "gap"):
        return 0
    parts = sum(sign * moved.get(cell, 0) for cell, sign in check.relation.parts)
    return moved.get(check.relation.total, 0) - parts


def _parted(tie: TieCheck, statement: str, moved: dict[LineColumn, int]) -> bool:
    """Whether the moves leave the tie's figures printing different things."""
    steps = {
        moved.get((line, column), 0) if owner == statement else 0 for owner, line, column in tie.tie.figures
    }
    return tie.status in ("foots", "gap") and (tie.status == "gap" or len(steps) > 1)


def _gaps(count: int) -> str:
    return "no gap" if count == 0 else "1 gap" if count == 1 else f"{count} gaps"
