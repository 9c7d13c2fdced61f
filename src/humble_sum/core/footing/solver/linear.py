"""The linear program in floating point, asked until HiGHS gives an answer that can be used."""

from __future__ import annotations

import numpy as np

from humble_sum.core.footing.solver.deadline import Clock, OutOfTime
from humble_sum.core.footing.solver.highs import Floats, solve_linear
from humble_sum.core.footing.solver.integers import Ints, Matrix

SHORT = 1e6  # costs up to which HiGHS is believed when it finds no solution


class Unsolved(Exception):
    """HiGHS ended without an answer, which says nothing of the program."""


def solve(
    matrix: Matrix, right: Ints, costs: Floats, clock: Clock, most: Floats | float = 1.0
) -> tuple[Floats, Floats] | None:
    """The least costs · d with `matrix` d = `right` and 0 ≤ d ≤ `most`: values by column and prices
    by row, to HiGHS's tolerance. None where HiGHS says that there is no solution; raises OutOfTime, and
    Unsolved where it says nothing."""
    limits = np.full(len(costs), most) if isinstance(most, float) else most
    if not matrix.shape[0]:
        return np.where(costs < 0, limits, 0.0), np.zeros(0)
    if not matrix.shape[1]:
        return None if np.any(right) else (np.zeros(0), np.zeros(matrix.shape[0]))
    if clock.over:
        raise OutOfTime
    size = float(np.abs(costs).max(initial=0.0))
    # Presolve takes longer than it saves here; where the dual simplex stalls, it is tried after all.
    # Long costs can make HiGHS find no solution where there is one, so that is asked again with short ones.
    for presolve, by in ((False, 1.0), (False, size), (True, size)):
        if by <= 0:
            continue
        found = solve_linear(matrix, right, costs / by, limits, clock, presolve)
        if found.ending == "optimal":
            return found.values, found.prices * by
        if found.ending == "stopped":
            raise OutOfTime
        if found.ending == "infeasible" and size <= max(by, SHORT):
            return None
    raise Unsolved


def no_solution(matrix: Matrix, right: Ints, clock: Clock) -> Floats | None:
    """Prices by row that show that no 0 ≤ d ≤ 1 has `matrix` d = `right` (Farkas 1902), to HiGHS's
    tolerance; None where it has none to show. Raises OutOfTime."""
    if not matrix.shape[1]:
        return np.sign(right).astype(float)
    if clock.over:
        raise OutOfTime
    count = matrix.shape[1]
    found = solve_linear(matrix, right, np.zeros(count), np.ones(count), clock)
    if found.ending == "stopped":
        raise OutOfTime
    return found.ray
