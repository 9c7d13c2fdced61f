"""Why a problem cannot foot: the smallest set of holds to release, and the sums in conflict."""

from __future__ import annotations

from dataclasses import dataclass, replace

from humble_sum.core.footing.problem import (
    Equation,
    Problem,
    drop_equations,
    equations_as_rows,
    steps_of,
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
    program = Program(tuple(costs), tuple(rows), tuple(right))
    # Among smallest sets, the holds that come last in order are released first.
    answer = least(program, [0] * len(costs))
    if answer.choice is None:
        return None, True
    chosen = tuple(problem.entries[number].id for number, v in released.items() if answer.choice[v])
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
    steps = sum(entry.steps for entry in problem.entries)
    return minimise(Program((0,) * steps, rows, right)).choice is not None
