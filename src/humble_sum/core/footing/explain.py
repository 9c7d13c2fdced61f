"""Why a problem cannot foot: the smallest set of holds to release, and the sums in conflict."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from scipy.sparse import block_array, csr_array, eye_array, hstack

from humble_sum.core.footing.problem import Entry, Equation, Problem, drop_equations
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.footing.solver.integers import ints
from humble_sum.core.footing.solver.linear import Unsolved, solve
from humble_sum.core.footing.solver.program import Program, least
from humble_sum.core.footing.solver.search import minimise
from humble_sum.core.footing.system import asked, over_figures, over_steps, system_of

FARTHEST = 1_000_000  # units that a hold may be from its figure and still be weighed with the others


@dataclass(frozen=True)
class Impossible:
    """`release` is a smallest set of holds that would let it foot, first in order among equals.

    None when no release is enough. That none is smaller is `proved` in whole numbers, or else what
    HiGHS says (`solver_proved`). `conflict` is a set of equations that cannot hold together, none of which
    can be left out of it.
    """

    release: tuple[str, ...] | None
    conflict: tuple[Equation, ...]
    proved: bool
    solver_proved: bool


@dataclass(frozen=True)
class Release:
    """The fewest holds found whose release lets a problem foot, None where none do, and whether fewer
    were excluded: in whole numbers (`proved`), or by HiGHS (`solver_proved`)."""

    holds: tuple[str, ...] | None
    proved: bool
    solver_proved: bool


def explain(problem: Problem, clock: Clock = ENDLESS) -> Impossible:
    """Explain a problem that `foot` found no plan for."""
    release = smallest_release(problem, clock)
    return Impossible(release.holds, conflict(problem, clock), release.proved, release.solver_proved)


def smallest_release(problem: Problem, clock: Clock = ENDLESS) -> Release:
    """Fewest holds to release, as a 0-1 program of its own.

    A figure that is held at one of the two numbers of its window is released by printing the other,
    so its own step says whether it is. Any other held figure prints held + r (floor − held) + d, with
    d ≤ r: r is 1 when it is released, and then it prints a number of its window like any other.
    """
    entries = problem.entries
    if far := {entry.id for entry in entries if _far(entry)}:
        # Numbers too long for a solver: they are released first, and fewer might have been enough.
        nearer = [replace(entry, held=None) if entry.id in far else entry for entry in entries]
        others = smallest_release(replace(problem, entries=tuple(nearer)), clock).holds
        if others is None:
            return Release(None, False, False)
        found = tuple(entry.id for entry in entries if entry.id in far or entry.id in others)
        return Release(found, len(found) == 1, len(found) == 1)
    counts = [len(entry.window) - 1 for entry in entries]
    starts = np.cumsum([0, *counts])
    count = int(starts[-1])
    holds = [n for n, e in enumerate(entries) if e.held is not None and e.window != (e.held,)]
    near = [n for n in holds if counts[n] == 1 and entries[n].held in entries[n].window]
    apart = [n for n in holds if counts[n] != 1 or entries[n].held not in entries[n].window]
    releasing = {n: int(starts[n]) for n in near} | {n: count + r for r, n in enumerate(apart)}

    matrix = over_figures(problem)
    base = [entry.window[0] for entry in entries]
    off = np.zeros(len(apart), dtype=np.int64)
    for r, n in enumerate(apart):
        off[r] = base[n] - (entries[n].held or 0)
        base[n] = entries[n].held or 0
    right = asked(matrix, ints(base))
    # For each step of a hold that is apart: step + room = r, so that it is taken only if released.
    following = np.array([v for n in apart for v in range(starts[n], starts[n + 1])], dtype=np.int64)
    owner = np.repeat(np.arange(len(apart)), [counts[n] for n in apart])
    rows, one = np.arange(len(following)), np.ones(len(following), dtype=np.int64)
    steps_taken = csr_array((one, (rows, following)), shape=(len(rows), count))
    if_released = csr_array((-one, (rows, owner)), shape=(len(rows), len(apart)))
    both = csr_array(
        block_array(
            [
                [matrix @ over_steps(counts), matrix[:, apart] * off, None],
                [steps_taken, if_released, eye_array(len(rows), dtype=np.int64)],
            ]
        )
    )

    width = count + len(apart) + len(rows)
    costs, wishes = np.zeros(width, dtype=np.int64), np.zeros(width, dtype=np.int8)
    costs[count : count + len(apart)] = 1
    for n in near:
        up = entries[n].window.index(entries[n].held or 0)
        costs[starts[n]], wishes[starts[n]] = 1 - 2 * up, up
    # Among smallest sets, the holds that come last in order are released first.
    told = np.zeros(width, dtype=bool)
    told[list(releasing.values())] = True
    limits = np.concatenate([right, np.zeros(len(rows), dtype=np.int64)])
    result = least(Program(both, limits, (costs,), wishes, told), clock)
    if result.choice is None:
        return Release(None, result.proved, result.solver_proved)
    chosen = [n for n in holds if result.choice[releasing[n]] != wishes[releasing[n]]]
    return Release(tuple(entries[n].id for n in chosen), result.proved, result.solver_proved)


def _far(entry: Entry) -> bool:
    return entry.held is not None and abs(entry.held - entry.window[0]) > FARTHEST


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
    matrix, right = system_of(problem)
    count, steps = matrix.shape
    apart = eye_array(count)
    most = np.concatenate([np.ones(steps), np.full(2 * count, np.inf)])
    costs = np.concatenate([np.zeros(steps), np.ones(2 * count)])
    everything = list(range(count))
    try:
        solved = solve(hstack([matrix, apart, -apart]), right, costs, clock, most)
    except (OutOfTime, Unsolved):
        return everything
    if solved is None:
        return everything
    priced = [number for number in everything if abs(solved[1][number]) > 1e-7]
    return everything if feasible(drop_equations(problem, priced), clock) else priced


def feasible(problem: Problem, clock: Clock = ENDLESS) -> bool:
    """Whether any plan exists; taken for granted when the clock ends the search."""
    matrix, right = system_of(problem)
    found = minimise(matrix, right, np.zeros(matrix.shape[1], dtype=np.int64), clock)
    return found.choice is not None or found.ended
