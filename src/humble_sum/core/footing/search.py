"""A 0-1 program with one cost for each variable, solved to a proof.

A choice is checked against every row in whole numbers, and bounded by prices: one whose cost
equals the bound is least. Where the relaxation is fractional, only variables whose reduced cost
is within what is left between bound and cost can be otherwise in a better choice (Dantzig, Fulkerson
and Johnson 1954), so the search goes on among them alone: split on a variable (Land and Doig
1960), each half bounded the same way.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csc_array

from humble_sum.core.footing.clock import ENDLESS, Clock, OutOfTime
from humble_sum.core.footing.linear import Floats
from humble_sum.core.footing.prices import Relaxed, relax
from humble_sum.core.footing.whole import Ints, Matrix, total

Choice = NDArray[np.int8]
MOST_NODES = 20_000
FEW = 400  # variables nearest to being undecided that a search begins with
ALONE = 4  # nodes before a solver of whole numbers is asked for a good choice to begin with
WORK = 500_000  # variables times nodes that a search is given, and a few nodes in any case


@dataclass(frozen=True)
class Answer:
    """The best choice found (None: there is none, or `ended` came first) and a proved bound.

    Where prices alone prove it, `reduced` has what they leave of every cost, in 1/`fineness`,
    and `slack` how much of that is between the bound and the cost: a variable whose reduced cost
    is more has the same value in every least choice.
    """

    choice: Choice | None
    cost: int = 0
    bound: int = 0
    ended: bool = False
    reduced: Ints | None = None
    slack: int = 0

    @property
    def proved(self) -> bool:
        return self.choice is not None and self.cost <= self.bound


def minimise(
    matrix: Matrix, right: Ints, costs: Ints, clock: Clock = ENDLESS, most_nodes: int = MOST_NODES
) -> Answer:
    """The least choice of d in {0, 1} with `matrix` d = `right`; matrix is rows × variables.

    When the clock or `most_nodes` relaxations end it first, the answer is the best choice known with
    its bound.
    """
    columns = csc_array(matrix)
    try:
        root = relax(columns, right, costs, clock)
    except OutOfTime:
        return Answer(None, bound=total(np.minimum(costs, 0)), ended=True)
    if root is None:
        return Answer(None)
    choice = _whole(columns, right, root.values)
    if choice is not None:
        cost = total(costs[choice == 1])
        slack = cost * root.fineness - root.below
        if cost <= root.bound:
            return Answer(choice, cost, root.bound, reduced=root.reduced, slack=slack)
    return _among_near(columns, right, costs, root, choice, clock, most_nodes)


def _among_near(
    columns: Matrix,
    right: Ints,
    costs: Ints,
    root: Relaxed,
    choice: Choice | None,
    clock: Clock,
    most_nodes: int,
) -> Answer:
    """The search among variables near to undecided, of which more are taken until none is left out
    that a better choice could have otherwise."""
    sizes = abs(root.reduced)
    usual = (root.reduced < 0).astype(np.int8)
    open_now = np.abs(root.values - np.rint(root.values)) > 1e-6
    reach = max([0, *(int(size) for size in sizes[open_now])])
    reach = max(reach, int(np.sort(sizes)[FEW])) if len(sizes) > FEW else int(sizes.max(initial=0))
    best = Answer(choice, total(costs[choice == 1]) if choice is not None else 0, root.bound)
    while True:
        near = sizes <= reach
        left = right - columns @ np.where(near, 0, usual).astype(np.int64)
        inner = _search(columns[:, near], left, costs[near], clock, most_nodes)
        if inner.choice is not None:
            found = usual.copy()
            found[near] = inner.choice
            cost = total(costs[found == 1])
            if best.choice is None or cost < best.cost:
                best = Answer(found, cost, root.bound)
        if near.all():
            bound = inner.bound if best.choice is not None else root.bound
            return Answer(best.choice, best.cost, max(root.bound, min(bound, best.cost)), inner.ended)
        if best.choice is not None and best.cost * root.fineness - root.below <= reach:
            # Whatever was left out costs more than is left to gain.
            bound = min(best.cost, inner.bound + total(costs[~near & (usual == 1)]))
            return Answer(best.choice, best.cost, max(root.bound, bound), inner.ended)
        if inner.ended:
            return Answer(best.choice, best.cost, root.bound, True)
        reach = max(2 * reach + root.fineness, int(np.sort(sizes)[min(2 * int(near.sum()), len(sizes) - 1)]))


def _search(columns: Matrix, right: Ints, costs: Ints, clock: Clock, most_nodes: int) -> Answer:
    """Branch and bound, depth first, with exact bounds."""
    count = len(costs)
    best: tuple[Choice, int] | None = None
    waiting: list[tuple[Choice, int | None]] = [(np.full(count, -1, dtype=np.int8), None)]
    nodes, ended = 0, False
    most_nodes = min(most_nodes, max(60, WORK // max(count, 1)))
    while waiting:
        if nodes >= most_nodes or clock.over:
            ended = True
            break
        node, least = waiting.pop()
        if best is not None and least is not None and least >= best[1]:
            continue
        nodes += 1
        if nodes == ALONE:
            best = _better(best, _by_solver(columns, right, costs, clock), costs)
        clock.tell("searching", nodes, most_nodes)
        try:
            relaxed = _relax_at(columns, right, costs, node, clock)
        except OutOfTime:
            waiting.append((node, least))
            ended = True
            break
        if relaxed is None or (best is not None and relaxed[1] >= best[1]):
            continue
        values, bound = relaxed
        best = _better(best, _whole(columns, right, values), costs)
        if best is not None and bound >= best[1]:
            continue
        free = np.flatnonzero(node < 0)
        if len(free):
            away = np.minimum(values[free], 1 - values[free])
            branch = free[int(np.argmax(away))]
            nearer = int(values[branch] >= 0.5)
            for value in (1 - nearer, nearer):
                half = node.copy()
                half[branch] = value
                waiting.append((half, bound))
    unsettled = [least for _, least in waiting if least is not None]
    if best is None:
        return Answer(None, bound=min(unsettled, default=0), ended=ended)
    return Answer(best[0], best[1], min([best[1], *unsettled]), ended)


def _better(best: tuple[Choice, int] | None, found: Choice | None, costs: Ints) -> tuple[Choice, int] | None:
    if found is None:
        return best
    cost = total(costs[found == 1])
    return best if best is not None and best[1] <= cost else (found, cost)


def _relax_at(
    columns: Matrix, right: Ints, costs: Ints, node: Choice, clock: Clock
) -> tuple[Floats, int] | None:
    """Values and bound of the relaxation with the node's variables fixed."""
    free = node < 0
    left = right - columns @ np.where(free, 0, node).astype(np.int64)
    relaxed = relax(columns[:, free], left, costs[free], clock)
    if relaxed is None:
        return None
    values = node.astype(float)
    values[free] = relaxed.values
    return values, relaxed.bound + total(costs[node == 1])


def _by_solver(columns: Matrix, right: Ints, costs: Ints, clock: Clock) -> Choice | None:
    """A choice that HiGHS takes for least: good to begin with, and trusted for nothing more."""
    options: Any = {"presolve": False, "mip_rel_gap": 0.0}
    seconds = clock.left()
    options["time_limit"] = 10.0 if seconds is None else max(0.001, min(10.0, seconds / 2))
    limits = right.astype(float)
    result = milp(
        costs.astype(float),
        integrality=np.ones(len(costs), dtype=np.int64),
        bounds=Bounds(0, 1),
        constraints=LinearConstraint(columns.astype(float), limits, limits),
        options=options,
    )
    return None if result.x is None else _whole(columns, right, result.x)


def _whole(columns: Matrix, right: Ints, values: Floats) -> Choice | None:
    """The values as whole numbers if they are and every row holds exactly."""
    nearest = np.rint(values)
    if np.abs(values - nearest).max(initial=0.0) > 1e-6:
        return None
    choice = nearest.astype(np.int64)
    return choice.astype(np.int8) if np.array_equal(columns @ choice, right) else None
