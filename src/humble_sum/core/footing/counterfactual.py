"""Why this figure moved and not another: the least plan that leaves it alone, and what that costs."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.footing.plan import NoPlan, Plan, plan
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.names import FigureRef


@dataclass(frozen=True)
class Instead:
    """The least plan in which a figure prints its own rounding.

    `more` is how much more drift it adds, in units; `moved` the nudges it has that the plan does
    not, and `spared` how many of the plan's it does without.
    """

    more: Decimal
    moved: tuple[Nudge, ...]
    spared: int


def instead(pack_proof: PackProof, found: Plan, ref: FigureRef, clock: Clock = ENDLESS) -> Instead | None:
    """What would happen if the figure at `ref` were left alone; None where no plan leaves it.
    Raises OutOfTime."""
    statement, line, column = ref
    hold = Hold(statement=statement, line=line, column=column)
    left = pack_proof.pack.model_copy(update={"holds": (*pack_proof.pack.holds, hold)})
    other = plan(prove_pack(left, pack_proof), clock=clock)
    if isinstance(other, NoPlan):
        return None
    known = {(n.statement, n.line, n.column, n.units) for n in found.nudges}
    moved = tuple(n for n in other.nudges if (n.statement, n.line, n.column, n.units) not in known)
    kept = len(other.nudges) - len(moved)
    more = EXACT.subtract(other.added_drift, found.added_drift)
    return Instead(more, moved, len(found.nudges) - kept)
