"""Why a problem cannot foot: the smallest set of holds to release, and the sums in conflict."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from scipy.sparse import eye_array, hstack

from humble_sum.core.footing.clock import ENDLESS, Clock
from humble_sum.core.footing.linear import solve
from humble_sum.core.footing.problem import (
    Equation,
    Problem,
    drop_equations,
    equations_as_rows,
    steps_of,
)
from humble_sum.core.footing.program import least, program_of
from humble_sum.core.footing.search import minimise
from humble_sum.core.footing.whole import by_rows, ints


@dataclass(frozen=True)
class Impossible:
    """`release` is a smallest set of holds that would let it foot, first in order among equals.

    None when no release is enough. `conflict` is a set of equations that cannot hold together,
    none of which can be left out of it.
    """

    release: tuple[str, ...] | None
    conflict: tuple[Equation, ...]
    proved: bool


def explain(problem: Problem, clock: Clock = ENDLESS) -> Impossible:
    """Explain a problem that `foot` found no plan for."""
    release, proved = smallest_release(problem, clock)
    return Impossible(release, conflict(problem, clock), proved)


def smallest_release(problem: Problem, clock: Clock = ENDLESS) -> tuple[tuple[str, ...] | None, bool]:
    """Fewest holds to release, as a 0-1 program of its own, and whether fewest is proved.

    A figure that is held at one of the two numbers of its window is released by printing the other,
    so its own step says whether it is. Any other held figure prints held + r (floor − held) + d, with
    d ≤ r: r is 1 when it is released, and then it prints a number of its window like any other.
    """
    free = replace(problem, entries=tuple(replace(entry, held=None) for entry in problem.entries))
    steps = steps_of(free)
    count = sum(len(each) for each in steps)
    costs, wishes = [0] * count, [0] * count
    released: dict[int, int] = {}  # the variable that says so, by number of figure
    for number, entry in enumerate(problem.entries):
        if entry.held is None or entry.window == (entry.held,):
            continue
        if len(entry.window) == 2 and entry.held in entry.window:
            released[number] = steps[number][0]
            up = entry.window.index(entry.held)
            costs[steps[number][0]], wishes[steps[number][0]] = 1 - 2 * up, up
        else:
            released[number] = len(costs)
            costs.append(1)
            wishes.append(0)
    apart = {number: v for number, v in released.items() if v >= count}
    rows, right = [], []
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    for equation, row, limit in zip(problem.equations, *equations_as_rows(free), strict=True):
        more: dict[int, int] = {}
        for id, a in ((equation.total, 1), *((id, -sign) for id, sign in equation.parts)):
            number = place[id]
            if number in apart:
                # It prints held, and when released its floor: held + r × (floor − held).
                off = problem.entries[number].window[0] - (problem.entries[number].held or 0)
                more[apart[number]] = more.get(apart[number], 0) + a * off
                limit += a * off
        rows.append((*row, *((v, a) for v, a in more.items() if a)))
        right.append(limit)
    for number, r in apart.items():
        for v in steps[number]:
            rows.append(((v, 1), (len(costs), 1), (r, -1)))
            right.append(0)
            costs.append(0)
            wishes.append(0)
    # Among smallest sets, the holds that come last in order are released first.
    told = np.zeros(len(costs), dtype=bool)
    told[list(released.values())] = True
    answer = least(replace(program_of(rows, right, [costs], wishes), told=told), clock)
    if answer.choice is None:
        return None, answer.proved
    chosen = [number for number, v in released.items() if answer.choice[v] != wishes[v]]
    return tuple(problem.entries[number].id for number in chosen), answer.proved


def conflict(problem: Problem, clock: Clock = ENDLESS) -> tuple[Equation, ...]:
    """Equations that cannot hold together, each of them needed unless the clock ends it (a deletion
    filter: Chinneck and Dravnieks 1991)."""
    kept = _priced(problem, clock)
    for number in reversed(kept):
        if clock.over:
            break
        without = [other for other in kept if other != number]
        if not feasible(drop_equations(problem, without), clock):
            kept = without
    return tuple(problem.equations[number] for number in kept)


def _priced(problem: Problem, clock: Clock) -> list[int]:
    """Equations that cannot hold together, few of them: those that have a price where each may miss,
    and as little as possible does (phase one of the simplex method)."""
    rows, right = equations_as_rows(problem)
    matrix = by_rows(rows, sum(entry.steps for entry in problem.entries))
    apart = eye_array(len(rows))
    most = np.concatenate([np.ones(matrix.shape[1]), np.full(2 * len(rows), np.inf)])
    costs = np.concatenate([np.zeros(matrix.shape[1]), np.ones(2 * len(rows))])
    solved = solve(hstack([matrix, apart, -apart]), ints(right), costs, clock, most)
    everything = list(range(len(rows)))
    if solved is None:
        return everything
    priced = [number for number in everything if abs(solved[1][number]) > 1e-7]
    return everything if feasible(drop_equations(problem, priced), clock) else priced


def feasible(problem: Problem, clock: Clock = ENDLESS) -> bool:
    """Whether any plan exists; taken for granted when the clock ends the search."""
    rows, right = equations_as_rows(problem)
    steps = sum(entry.steps for entry in problem.entries)
    found = minimise(by_rows(rows, steps), ints(right), np.zeros(steps, dtype=np.int64), clock)
    return found.choice is not None or found.ended
