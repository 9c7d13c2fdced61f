"""The least plan of a footing problem."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import partial

import numpy as np

from humble_sum.core.amounts import EXACT, scaled, total
from humble_sum.core.collecting import uncollected
from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Equation, Problem, abs_drift, parts_of
from humble_sum.core.footing.shares import Drift, Found, Searched, Unsolved
from humble_sum.core.footing.solver.bounds import Priced
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock
from humble_sum.core.footing.solver.forest import NEVER, Forest, least_in_forest
from humble_sum.core.footing.solver.integers import ints
from humble_sum.core.footing.solver.program import Step
from humble_sum.core.footing.solver.tree_prices import tree_prices
from humble_sum.core.footing.solver.trees import ORDERED, Node, Sum, bottom_up, least_in_tree
from humble_sum.core.footing.system import program_for


@dataclass(frozen=True)
class Footed:
    """The least plan: units by figure, those that left their own rounding, and what is known of others.

    `added_drift` is Σ(|printed − exact| − |own rounding − exact|) in units. `proved`: no plan is less, as
    whole numbers show. `solver_proved`: HiGHS found none less. Otherwise the search ended early, and where
    drift is what was to be least, no plan adds less than `bound`, and HiGHS takes `solver_bound` for one.
    `settled` says that plans as good were told apart to the end.
    """

    printed: dict[str, int]
    moved: tuple[str, ...]
    added_drift: Decimal
    proved: bool
    solver_proved: bool
    bound: Decimal | None
    solver_bound: Decimal | None
    settled: bool
    parts: tuple[ProvedPart, ...] = ()


@dataclass(frozen=True)
class ProvedPart:
    """The steps that prove the plan of figures that hang together least, with what steps of the program
    belong to which figure, a figure for each variable; prices of a tree are by equation like others."""

    equations: tuple[Equation, ...]
    variables: tuple[str, ...]
    steps: tuple[Step, ...]


def foot(problem: Problem, clock: Clock = ENDLESS, certify: bool = False) -> Footed | None:
    """The least plan by the policy, then the nearest to the kept plan, then first in order.

    Every figure prints a whole number of its window, and holds as they are. None when no such plan
    exists. Figures that no relation joins are settled apart; trees of sums without a solver, and
    others by a 0-1 program: see `trees` and `program` for the proofs. Where the clock ends the
    search the best plan found is given with its bound; raises OutOfTime where there is none yet.
    """
    least_of = Objective(problem)
    parts: list[_Part] = []
    left: list[Problem] = []
    with uncollected():
        for part in parts_of(problem):
            found = _in_tree(part, least_of)
            if found is None:
                left.append(part)
            else:
                parts.append(found)
    drift = Drift(least_of.parts, sum(part.cost for part in parts), least_of.plain)
    searched = Searched([_unsolved(part, least_of) for part in left], drift, clock, certify)
    if not searched.in_shares():
        return None
    parts += [_part_of(left[number], found) for number, found in searched.found.items()]
    return _footed(problem, parts, least_of)


@dataclass(frozen=True)
class _Part:
    """A component's plan, and by how much its cost may be more than the least."""

    printed: dict[str, int]
    proved: bool = True
    solver_proved: bool = True
    settled: bool = True
    short: int = 0
    solver_short: int = 0
    cost: int = 0
    proof: ProvedPart | None = None


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
    each_costs = least_of.costs(problem.entries)
    for entry, own_costs in zip(problem.entries, each_costs, strict=True):
        if entry.held is not None:
            nodes.append(Node(entry.held, (0,)))
            continue
        costs = [*own_costs]
        if steps <= ORDERED:
            # Equals are told apart as a program does it: by the first entry that can keep its rounding.
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
    up, down = _own_steps(problem, found, each_costs)
    prices, proved = tree_prices(up, down, ordered)
    if not proved:
        return None
    of_equations = ints([prices[place[each.total]] for each in problem.equations])
    proof = Priced(of_equations, 1, 0, ints([]))
    printed = {entry.id: units for entry, units in zip(problem.entries, found, strict=True)}
    cost = 0
    if least_of.plain:
        cost = sum(
            least_of.drift(entry, units)
            for entry, units in zip(problem.entries, found, strict=True)
            if entry.held is None and units != entry.own_rounding
        )
    step = Step(least_of.weights, proof)
    return _Part(printed, cost=cost, proof=ProvedPart(problem.equations, (), (step,)))


def _own_steps(
    problem: Problem, found: Sequence[int], costs: Sequence[Sequence[int]]
) -> tuple[list[int | None], list[int | None]]:
    """What a unit more and a unit less of each figure alone would cost, None where it may not be."""
    up: list[int | None] = []
    down: list[int | None] = []
    for entry, units, own in zip(problem.entries, found, costs, strict=True):
        if entry.held is not None:
            up.append(None)
            down.append(None)
            continue
        at = units - entry.window[0]
        up.append(own[at + 1] - own[at] if at + 1 < len(own) else None)
        down.append(own[at - 1] - own[at] if at else None)
    return up, down


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


def _unsolved(problem: Problem, least_of: Objective) -> Unsolved:
    """A part that is no tree, as a program to be searched."""
    entries = [entry for entry in problem.entries if entry.held is None]
    base = sum(least_of.drift(entry, entry.base) for entry in entries) if least_of.plain else 0
    return Unsolved(partial(program_for, problem, least_of), base)


def _part_of(problem: Problem, found: Found) -> _Part:
    """The plan that a choice of steps is."""
    printed, first = {}, 0
    variables: list[str] = []
    for entry in problem.entries:
        printed[entry.id] = entry.base + int(found.choice[first : first + entry.steps].sum())
        first += entry.steps
        variables += [entry.id] * entry.steps
    known = (found.proved, found.solver_proved, found.settled, found.short, found.solver_short, found.cost)
    return _Part(printed, *known, ProvedPart(problem.equations, tuple(variables), found.steps))


def _footed(problem: Problem, parts: Sequence[_Part], least_of: Objective) -> Footed:
    """All parts together: only what is known of each of them is known of the whole."""
    printed = {id: units for part in parts for id, units in part.printed.items()}
    moved, added = [], []
    for entry in problem.entries:
        units = printed[entry.id]
        if units != entry.own_rounding:
            moved.append(entry.id)
            if not entry.following:
                added += [abs_drift(entry, units), abs_drift(entry, entry.own_rounding).copy_negate()]
    drift = total(added)
    bounds: list[Decimal | None] = [None, None]
    if least_of.plain:
        for which, short in enumerate((sum(p.short for p in parts), sum(p.solver_short for p in parts))):
            millionths = -(-short * 10**6 // least_of.parts)  # rounded up
            bounds[which] = EXACT.subtract(drift, scaled(Decimal(millionths), -6))
    return Footed(
        printed,
        tuple(moved),
        drift,
        all(part.proved for part in parts),
        all(part.solver_proved for part in parts),
        bounds[0],
        bounds[1],
        all(part.settled for part in parts),
        tuple(part.proof for part in parts if part.proof is not None),
    )
