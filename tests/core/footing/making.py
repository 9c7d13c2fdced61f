"""0-1 programs for tests, from rows that name their variables."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.sparse import csr_array

from humble_sum.core.footing.solver.integers import ints
from humble_sum.core.footing.solver.program import Program


def program_of(
    rows: Sequence[Sequence[tuple[int, int]]],
    right: Sequence[int],
    stages: Sequence[Sequence[int]],
    preference: Sequence[int],
) -> Program:
    """A program from rows of (variable, coefficient), all in whole numbers."""
    data = [a for row in rows for _, a in row]
    places = [v for row in rows for v, _ in row]
    ends = np.cumsum([0, *(len(row) for row in rows)])
    return Program(
        csr_array(
            (np.array(data, dtype=np.int64), np.array(places, dtype=np.int64), ends),
            shape=(len(rows), len(preference)),
        ),
        ints(right),
        tuple(ints(costs) for costs in stages),
        np.array(preference, dtype=np.int8),
    )
