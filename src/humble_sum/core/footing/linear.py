"""The linear program, in floating point, as HiGHS solves it (Huangfu and Hall 2018, through SciPy)."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linprog

from humble_sum.core.footing.clock import Clock, OutOfTime
from humble_sum.core.footing.whole import Ints, Matrix

Floats = NDArray[np.float64]
SHORT = 1e6  # costs up to which HiGHS is believed when it finds no solution


def solve(
    matrix: Matrix, right: Ints, costs: Floats, clock: Clock, most: Floats | float = 1.0
) -> tuple[Floats, Floats] | None:
    """The least costs · d with `matrix` d = `right` and 0 ≤ d ≤ `most`: values by column and prices
    by row, to HiGHS's tolerance. None where there is no solution; raises OutOfTime."""
    if not matrix.shape[0]:
        return np.where(costs < 0, most, 0.0), np.zeros(0)
    if not matrix.shape[1]:
        return None if np.any(right) else (np.zeros(0), np.zeros(matrix.shape[0]))
    if clock.over:
        raise OutOfTime
    bounds = (0, most) if isinstance(most, float) else np.column_stack([np.zeros(len(most)), most])
    size = float(np.abs(costs).max(initial=0.0))
    # Presolve takes longer than it saves here; where the dual simplex stalls, it is tried after all.
    # Long costs can make HiGHS find no solution where there is one, so that is asked again with short ones.
    for method, presolve, by in (("highs-ds", False, 1.0), ("highs-ds", False, size), ("highs", True, size)):
        if by <= 0:
            continue
        options: Any = {"presolve": presolve}
        seconds = clock.left()
        if seconds is not None:
            options["time_limit"] = max(seconds, 0.001)
        run: Any = linprog
        result = run(
            costs / by,
            A_eq=matrix.astype(float),
            b_eq=right.astype(float),
            bounds=bounds,
            method=method,
            options=options,
        )
        if result.status == 0:
            return result.x, result.eqlin.marginals * by
        if result.status == 1:
            raise OutOfTime
        if result.status == 2 and size <= max(by, SHORT):
            return None
    return None
