"""Why a problem cannot foot: the smallest set of holds to release, and the sums in conflict."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from scipy.sparse import block_array, csr_array, eye_array

from humble_sum.core.footing.conflict import conflict, is_empty
from humble_sum.core.footing.problem import Entry, Equation, Problem, parts_of
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime, within
from humble_sum.core.footing.solver.integers import ints
from humble_sum.core.footing.solver.program import Program, least
from humble_sum.core.footing.system import asked, over_figures, over_steps, system_of

RELEASING = 0.6  # of the time that is left goes to the release, the rest to the conflict
FARTHEST = 1_000_000  # units that a hold may be from its figure and still be weighed with the others


@dataclass(frozen=True)
class Impossible:
    """`release` is a smallest set of holds that would let it foot, first in order among equals.

    None when no release is enough. That none is smaller is `proved` in whole numbers, or else what
    HiGHS says (`solver_proved`). `conflict` is a set of equations that cannot hold together; it is the
    `smallest` where none of them can be left out of it.
    """

    release: tuple[str, ...] | None
    conflict: tuple[Equation, ...]
    proved: bool
    solver_proved: bool
    smallest: bool


@dataclass(frozen=True)
class Release:
    """The fewest holds found whose release lets a problem foot, None where none do, and whether fewer
    were excluded: in whole numbers (`proved`), or by HiGHS (`solver_proved`)."""

    holds: tuple[str, ...] | None
    proved: bool
    solver_proved: bool


def explain(problem: Problem, clock: Clock = ENDLESS) -> Impossible:
    """Explain a problem that `foot` found no plan for. Of the time that is left the release has most."""
    left = clock.left()
    release = smallest_release(problem, clock if left is None else within(clock, RELEASING * left))
    found = conflict(problem, clock)
    return Impossible(release.holds, found.equations, release.proved, release.solver_proved, found.smallest)


def smallest_release(problem: Problem, clock: Clock = ENDLESS) -> Release:
    """Fewest holds to release, of the parts that cannot foot without."""
    found: dict[str, None] = {}
    proved = solver_proved = True
    for part in parts_of(problem):
        if _may_foot(part, clock):
            continue
        release = _release_of_part(part, clock)
        proved, solver_proved = proved and release.proved, solver_proved and release.solver_proved
        if release.holds is None:
            return Release(None, release.proved, release.solver_proved)
        found |= dict.fromkeys(release.holds)
    in_order = tuple(entry.id for entry in problem.entries if entry.id in found)
    return Release(in_order, proved, solver_proved)


def _may_foot(part: Problem, clock: Clock) -> bool:
    """Whether a part foots as it is held; not taken for granted where time is up."""
    matrix, right = system_of(part)
    try:
        return not is_empty(matrix, right, clock)
    except OutOfTime:
        return False


def _release_of_part(problem: Problem, clock: Clock = ENDLESS) -> Release:
    """Fewest holds to release, as a 0-1 program of its own.

    A figure that is held at one of the two numbers of its window is released by printing the other,
    so its own step says whether it is. Any other held figure prints held + r (floor − held) + d, with
    d ≤ r: r is 1 when it is released, and then it prints a number of its window like any other.
    """
    entries = problem.entries
    if far := {entry.id for entry in entries if _far(entry)}:
        # Numbers too long for a solver: they are released first, and fewer might have been enough.
        nearer = [replace(entry, held=None) if entry.id in far else entry for entry in entries]
        others = _release_of_part(replace(problem, entries=tuple(nearer)), clock).holds
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
