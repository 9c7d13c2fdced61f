"""Any choice, whatever it costs, looked for beside the relaxation: a search that ends early has a plan.

HiGHS finds some choice of a program without costs far sooner than it solves the relaxation of one with
them: of 7,000 to 16,000 figures tied in several ways in 0.1 to 0.4 seconds, beside 1.1 to 3.6. It costs more
than what is mended from the relaxation, and is taken only where there is nothing else.
"""

from __future__ import annotations

import threading

import numpy as np

from humble_sum.core.footing.solver.deadline import Clock
from humble_sum.core.footing.solver.highs import Search
from humble_sum.core.footing.solver.incumbent import Incumbent

LATER = 0.1  # seconds before it begins: most relaxations are solved by then
AT_ONCE = 0.05  # of the seconds that are left, the most it waits
MOST = 200_000  # variables, beyond which even such a program takes long


class AnyChoice:
    """A search for any choice at all of what `best` is looked for, in a thread of its own."""

    def __init__(self, best: Incumbent, clock: Clock):
        self._best, self._clock = best, clock
        self._search: Search | None = None
        self._lock, self._over = threading.Lock(), False
        left = clock.left()
        self._timer = threading.Timer(LATER if left is None else min(LATER, AT_ONCE * left), self._begin)
        self._timer.daemon = True
        self._timer.start()

    def _begin(self) -> None:
        columns, limits = self._best.columns, self._best.right.astype(float)
        with self._lock:
            if not self._over:
                none = np.zeros(len(self._best.costs))
                self._search = Search(columns, limits, limits, none, seconds=self._clock.left())

    def give(self) -> None:
        """Take what was found, where there is no choice yet."""
        if self._best.choice is None and self._search is not None:
            self._best.take(self._search.found)

    def stop(self) -> None:
        """Let it end, or never begin."""
        self._timer.cancel()
        with self._lock:
            self._over = True
            if self._search is not None:
                self._search.stop()
