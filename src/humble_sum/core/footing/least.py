"""The least plan of a footing problem."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

import numpy as np

from humble_sum.core.amounts import EXACT, scaled, total
from humble_sum.core.footing.clock import ENDLESS, Clock, OutOfTime
from humble_sum.core.footing.forest import NEVER, Forest, least_in_forest
from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Problem, abs_drift, parts_of
from humble_sum.core.footing.program import least
from humble_sum.core.footing.system import program_for
from humble_sum.core.footing.trees import ORDERED, Node, Sum, bottom_up, least_in_tree
from humble_sum.core.footing.whole import ints


@dataclass(frozen=True)
class Footed:
    """The least plan: units by figure, those that left their own rounding, and the proof.

    `added_drift` is Σ(|printed − exact| − |natural − exact|) in units. Not `proved` means the
    search ended early; where drift is what was to be least, no plan adds less than `bound`.
    """

    printed: dict[str, int]
    moved: tuple[str, ...]
    added_drift: Decimal
    proved: bool
    bound: Decimal | None


def foot(problem: Problem, clock: Clock = ENDLESS) -> Footed | None:
    """The least plan by the policy, then the nearest to the kept plan, then first in order.

    Every figure prints a whole number of its window, and holds as they are. None when no such plan
    exists. Figures that no relation joins are settled apart; trees of sums without a solver, and
    others by a 0-1 program: see `trees` and `program` for the proofs. Where the clock ends the
    search the best plan found is given with its bound; raises OutOfTime where there is none yet.
    """
    least_of = Objective(problem)
    printed: dict[str, int] = {}
    short, proved = 0, True
    for part in parts_of(problem):
        found = _in_tree(part, least_of) or _in_program(part, least_of, clock)
        if found is None:
            return None
        printed |= found.printed
        short += found.short
        proved &= found.proved
    return _footed(problem, printed, short, proved, least_of)


@dataclass(frozen=True)
class _Part:
    """A component's plan, and by how much its cost may be more than the least."""

    printed: dict[str, int]
    short: int = 0
    proved: bool = True


def _in_tree(problem: Problem, least_of: Objective) -> _Part | None:
    """The least plan of a tree of sums; None where it is no tree, or has no plan."""
    if sum(len(equation.parts) for equation in problem.equations) != len(problem.entries) - 1:
        return None  # in a tree every figure but one is a part, and of one total
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    sums = [
        Sum(place[each.total], tuple((place[id], sign) for id, sign in each.parts))
        for each in problem.equations
    ]
    ordered = bottom_up(sums)
    if ordered is None:
        return None
    steps = sum(entry.steps for entry in problem.entries)
    nodes, after = [], steps
    for entry in problem.entries:
        if entry.held is not None:
            nodes.append(Node(entry.held, (0,)))
            continue
        costs = [least_of.cost(entry, units) for units in entry.window]
        if steps <= ORDERED:
            # The same order among equals as a program's: who is first pleases first.
            near = entry.near
            costs = [
                (cost << steps)
                + sum(
                    1 << (after - 1 - step)
                    for step in range(entry.steps)
                    if (near > entry.window[step]) != (units > entry.window[step])
                )
                for units, cost in zip(entry.window, costs, strict=True)
            ]
        after -= entry.steps
        nodes.append(Node(entry.window[0], tuple(costs)))
    found = _in_forest(nodes, ordered) if steps > ORDERED else least_in_tree(nodes, ordered)
    if found is None:
        return None
    return _Part({entry.id: units for entry, units in zip(problem.entries, found, strict=True)})


def _in_forest(nodes: Sequence[Node], ordered: Sequence[Sum]) -> Sequence[int] | None:
    """The same in arrays, where no figure has more than two choices and the costs are not too long."""
    costs = [node.costs[-1] - node.costs[0] for node in nodes]
    if max(len(node.costs) for node in nodes) > 2 or sum(map(abs, costs)) >= NEVER:
        return least_in_tree(nodes, ordered)
    total, sign, level = [-1] * len(nodes), [1] * len(nodes), [0] * len(nodes)
    for each in ordered:
        for part, of in each.parts:
            total[part], sign[part] = each.total, of
        level[each.total] = 1 + max(level[part] for part, _ in each.parts)
    free = np.array([len(node.costs) == 2 for node in nodes])
    arrays = [np.array(a, dtype=np.int64) for a in (costs, total, sign, level)]
    low = ints([node.low for node in nodes])
    if low.dtype == object:
        return least_in_tree(nodes, ordered)
    found = least_in_forest(Forest(low, arrays[0], free, *arrays[1:]))
    return None if found is None else found.tolist()


def _in_program(problem: Problem, least_of: Objective, clock: Clock) -> _Part | None:
    found = least(program_for(problem, least_of), clock)
    if found.choice is None:
        if found.ended:
            raise OutOfTime
        return None
    printed, start = {}, 0
    for entry in problem.entries:
        printed[entry.id] = entry.base + int(found.choice[start : start + entry.steps].sum())
        start += entry.steps
    return _Part(printed, found.short, found.proved)


def _footed(
    problem: Problem, printed: dict[str, int], short: int, proved: bool, least_of: Objective
) -> Footed:
    moved, added = [], []
    for entry in problem.entries:
        units = printed[entry.id]
        if units != entry.natural:
            moved.append(entry.id)
            if not entry.following:
                added += [abs_drift(entry, units), abs_drift(entry, entry.natural).copy_negate()]
    drift = total(added)
    if not least_of.plain:
        return Footed(printed, tuple(moved), drift, proved, None)
    millionths = -(-short * 10**6 // least_of.parts)  # rounded up
    bound = EXACT.subtract(drift, scaled(Decimal(millionths), -6))
    return Footed(printed, tuple(moved), drift, proved, bound)
