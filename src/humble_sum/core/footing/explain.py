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

    A held figure prints held + r(floor − held) + d, with d ≤ r: r is 1 when it is released, and
    then it prints a number of its window like any other.
    """
    free = replace(problem, entries=tuple(replace(entry, held=None) for entry in problem.entries))
    held = {n: e.held for n, e in enumerate(problem.entries) if e.held is not None}
    steps = steps_of(free)
    count = sum(len(each) for each in steps)
    released = {number: count + n for n, number in enumerate(held)}
    slack = count + len(held)
    rows_of, right_of = equations_as_rows(free)
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    rows, right = [], []
    for equation, row, limit in zip(problem.equations, rows_of, right_of, strict=True):
        more: dict[int, int] = {}
        for id, a in ((equation.total, 1), *((id, -sign) for id, sign in equation.parts)):
            number = place[id]
            if number in released:
                # It prints held, and when released its floor: held + r × (floor − held).
                off = problem.entries[number].window[0] - held[number]
                more[released[number]] = more.get(released[number], 0) + a * off
                limit += a * off
        rows.append((*row, *((v, a) for v, a in more.items() if a)))
        right.append(limit)
    slacks = 0
    for number in held:
        for v in steps[number]:
            rows.append(((v, 1), (slack + slacks, 1), (released[number], -1)))
            right.append(0)
            slacks += 1
    costs = [0] * count + [1] * len(held) + [0] * slacks
    # Among smallest sets, the holds that come last in order are released first.
    answer = least(program_of(rows, right, [costs], [0] * len(costs)), clock)
    if answer.choice is None:
        return None, answer.proved
    chosen = tuple(problem.entries[number].id for number, v in released.items() if answer.choice[v])
    return chosen, answer.proved


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
