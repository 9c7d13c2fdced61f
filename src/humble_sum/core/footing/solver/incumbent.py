"""The best choice a search has seen, which it never gives up for a worse one."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array

from humble_sum.core.footing.solver.highs import NEAR, Choice, Floats
from humble_sum.core.footing.solver.integers import Ints, Matrix, total


class Incumbent:
    """Choices of d in {0, 1} with `columns` d = `right`: each is checked in whole numbers, and the least
    of those that hold is kept."""

    def __init__(self, columns: Matrix, right: Ints, costs: Ints):
        self.columns, self.right, self.costs = csc_array(columns), right, costs
        self.choice: Choice | None = None
        self.cost = 0

    def take(self, found: NDArray[Any] | None) -> bool:
        """Whether a choice in whole numbers is feasible and less than the best so far."""
        if found is None or not np.isin(found, (0, 1)).all():
            return False
        cost = total(self.costs[found == 1])
        if self.choice is not None and cost >= self.cost:
            return False
        if not np.array_equal(self.columns @ found.astype(np.int64), self.right):
            return False
        self.choice, self.cost = found.astype(np.int8), cost
        return True

    def take_values(self, values: Floats) -> bool:
        """The same of values that may not be whole."""
        nearest = np.rint(values)
        if np.abs(values - nearest).max(initial=0.0) > NEAR:
            return False
        return self.take(nearest.astype(np.int64))
