"""Why a problem cannot foot: the smallest set of holds to release, and the sums in conflict."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.footing.problem import (
    Equation,
    Problem,
    drop_equations,
    equations_as_rows,
    holds_of,
)
from humble_sum.core.footing.program import Program, least, minimise


@dataclass(frozen=True)
class Impossible:
    """`release` is a smallest set of holds that would let it foot, first in order among equals.

    None when no release is enough. `conflict` is a set of equations that cannot hold together,
    none of which can be left out of it.
    """

    release: tuple[str, ...] | None
    conflict: tuple[Equation, ...]
    proved: bool


def explain(problem: Problem) -> Impossible:
    """Explain a problem that `foot` found no plan for."""
    release, proved = smallest_release(problem)
    return Impossible(release, conflict(problem), proved)


def smallest_release(problem: Problem) -> tuple[tuple[str, ...] | None, bool]:
    """Fewest holds to release, as a 0-1 program of its own, and whether fewest is proved.

    A held figure prints held + r(floor − held) + d, with d ≤ r: r is 1 when it is released, and
    then it prints its floor or ceiling like any other.
    """
    held = holds_of(problem)
    count = len(problem.entries)
    rows_of, right = equations_as_rows(problem)
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    released = {place[entry.id]: count + number for number, entry in enumerate(held)}
    rows = []
    for row in rows_of:
        more = []
        for v, a in row:
            if v in released:
                entry = problem.entries[v]
                assert entry.held is not None
                if step := a * (entry.window[0] - entry.held):
                    more.append((released[v], step))
        rows.append((*row, *more))
    slack = count + len(held)
    for number, entry in enumerate(held):
        rows.append(((place[entry.id], 1), (slack + number, 1), (count + number, -1)))
    costs = [0] * count + [1] * len(held) + [0] * len(held)
    fixed = {}
    for number, entry in enumerate(problem.entries):
        if len(entry.window) == 1:
            fixed[number] = 0
    program = Program(tuple(costs), tuple(rows), (*right, *([0] * len(held))))
    # Among smallest sets, the holds that come last in order are released first.
    answer = least(program, [0] * len(costs), fixed)
    if answer.choice is None:
        return None, True
    chosen = tuple(entry.id for number, entry in enumerate(held) if answer.choice[count + number])
    return chosen, answer.proved


def conflict(problem: Problem) -> tuple[Equation, ...]:
    """Equations that cannot hold together, each of them needed (a deletion filter)."""
    kept = list(range(len(problem.equations)))
    for number in reversed(range(len(problem.equations))):
        without = [other for other in kept if other != number]
        if not feasible(drop_equations(problem, without)):
            kept = without
    return tuple(problem.equations[number] for number in kept)


def feasible(problem: Problem) -> bool:
    """Whether any plan exists."""
    rows, right = equations_as_rows(problem)
    fixed = {
        number: 0
        for number, entry in enumerate(problem.entries)
        if entry.held is not None or len(entry.window) == 1
    }
    return minimise(Program((0,) * len(problem.entries), rows, right), fixed).choice is not None
