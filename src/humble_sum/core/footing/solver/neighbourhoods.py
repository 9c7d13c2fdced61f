"""First choices for programs whose relaxation is fractional, and better ones from those.

A relaxed answer rounded to whole numbers misses some rows. It is repaired where it does: of the
variables around a row that misses, HiGHS chooses anew, and a row may go on missing at a high price,
so that every step is feasible and none misses more. Then the choice is made better the same way, within
neighbourhoods that are chosen anew while the rest stays as it is: by turns around a row whose
variables cost more than the prices ask for (Shaw 1998), and among the variables that the prices leave
nearest to undecided (relaxation-induced: Danna, Rothberg and Le Pape 2005). Neighbourhoods grow while
they are solved quickly and shrink when they are not.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array, csr_array, eye_array, hstack

from humble_sum.core.footing.solver.deadline import Clock
from humble_sum.core.footing.solver.highs import Choice, Floats, Search
from humble_sum.core.footing.solver.incumbent import Incumbent
from humble_sum.core.footing.solver.integers import Ints

AROUND = 600  # variables chosen anew around a row that misses
WIDER = 1.4  # times as many when the same row is tried again
NEARLY_WHOLE = 0.05  # share of undecided variables up to which a relaxed answer is completed at once
COMPLETED = 0.35  # with so many of the variables chosen anew
FIRST = 0.01  # seconds that a way to mend is taken to have spent on nothing
NEIGHBOURS = 400  # variables of the first neighbourhoods
SECONDS = 0.4  # what the first neighbourhoods are given
IN_VAIN = 6  # neighbourhoods without a better choice, after which they are given MORE times as long
MORE = 1.6
QUICK, SLOW = 0.2, 0.7  # shares of that below and above which the next one is larger or smaller
NEAR_ENOUGH = 1e-3  # of its cost by which a repair may be dearer than need be

Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class Guide:
    """What the relaxation says of a program: values, reduced costs in units of cost, and its costs as
    floats."""

    values: Floats
    reduced: Floats
    costs: Floats

    @property
    def undecided(self) -> Mask:
        return np.abs(self.values - np.rint(self.values)) > 1e-6


class Neighbourhoods:
    """Choices of a program near one in hand. `seed` settles what is drawn at random."""

    def __init__(self, best: Incumbent, guide: Guide, clock: Clock, seed: int = 1):
        self.best, self.guide, self.clock = best, guide, clock
        self.columns = csc_array(best.columns)
        self.rows = csr_array(best.columns)
        self.drawn = np.random.default_rng(seed)

    def repaired(self, beside: Search | None = None) -> bool:
        """Whether a choice was found from the relaxed answer, or by a search beside this one, before the
        clock was over."""
        choice = np.rint(self.guide.values).astype(np.int64)
        if self.guide.undecided.mean() <= NEARLY_WHOLE and self._completed(choice):
            return True
        price = 4 * float(np.abs(self.guide.costs).max(initial=1.0))
        # Two ways: misses may only become fewer, or may move to other rows too. The one that has mended
        # more in its time goes next.
        tries = np.zeros((2, self.rows.shape[0]))
        mended, spent = [1.0, 4.0], [FIRST, FIRST]
        while not self.clock.over:
            if beside is not None and self.best.take(beside.found):
                return True
            misses = self.best.right - self.columns @ choice
            missing = np.flatnonzero(misses)
            if not len(missing):
                return self.best.take(choice)
            way = int(mended[1] / spent[1] > mended[0] / spent[0])
            row = missing[np.lexsort((self.drawn.random(len(missing)), tries[way, missing]))[0]]
            free = self._around(row, int(AROUND * WIDER ** tries[way, row]))
            tries[way, row] += 1
            found, seconds = self._mended(free, choice, price, bool(way))
            spent[way] += seconds + FIRST
            if found is not None:
                left = np.abs(self.best.right - self.columns @ found).sum()
                mended[way] += float(np.abs(misses).sum() - left)
                choice = found
        return False

    def _completed(self, choice: Ints) -> bool:
        """Whether the variables nearest to undecided could be chosen anew with the others as relaxed."""
        far = np.where(self.guide.undecided, 0.0, np.abs(self.guide.reduced))
        free = np.zeros(len(choice), dtype=bool)
        free[np.argsort(far, kind="stable")[: int(COMPLETED * len(choice))]] = True
        found, _ = self._chosen_anew(free, choice, SECONDS, start=False)
        return self.best.take(found)

    def better(self) -> Iterator[bool]:
        """Step by step, whether a neighbourhood of the best choice holds a better one."""
        count = len(self.guide.costs)
        sizes = [min(NEIGHBOURS, count)] * 2
        turn, vain, given = 0, 0, SECONDS
        while True:
            free = self._about(sizes[0]) if turn == 0 else self._doubtful(sizes[1])
            assert self.best.choice is not None
            found, spent = self._chosen_anew(free, self.best.choice.astype(np.int64), given)
            if spent < QUICK * given:
                sizes[turn] = min(count, int(1.25 * sizes[turn]) + 1)
            elif spent > SLOW * given:
                sizes[turn] = max(1, int(0.8 * sizes[turn]))
            turn = 1 - turn
            better = self.best.take(found)
            vain = 0 if better else vain + 1
            if vain == IN_VAIN:
                vain, given = 0, MORE * given
            yield better

    def _around(self, row: int, count: int) -> Mask:
        """Variables near a row, breadth first, so many of them."""
        seen = np.zeros(self.rows.shape[1], dtype=bool)
        seen_rows = np.zeros(self.rows.shape[0], dtype=bool)
        seen_rows[row] = True
        edge = np.array([row])
        have = 0
        while have < count and len(edge):
            reached = np.unique(self.rows[edge].indices)
            reached = reached[~seen[reached]]
            if have + len(reached) > count:
                reached = self.drawn.permutation(reached)[: count - have]
            seen[reached] = True
            have += len(reached)
            rows = np.unique(self.columns[:, reached].indices)
            edge = rows[~seen_rows[rows]]
            seen_rows[rows] = True
        return seen

    def _about(self, count: int) -> Mask:
        """Variables near a row, drawn by what its variables cost beyond what prices ask for."""
        reduced = self.guide.reduced
        over = np.where(self.best.choice == 1, np.maximum(reduced, 0), np.maximum(-reduced, 0))
        weights = abs(self.rows) @ over + 1e-3 * float(np.abs(self.guide.costs).mean()) + 1e-9
        row = int(self.drawn.choice(len(weights), p=weights / weights.sum()))
        return self._around(row, count)

    def _doubtful(self, count: int) -> Mask:
        """Those that are otherwise than relaxed, and of the others those of the smallest reduced costs,
        more or less at random."""
        choice = self.best.choice
        assert choice is not None
        otherwise = np.abs(self.guide.values - choice) > 1e-6
        size = float(np.abs(self.guide.costs).mean()) * 2 * self.drawn.random()
        noise = self.drawn.random(len(choice)) * size
        far = np.where(otherwise, 0.0, np.abs(self.guide.reduced)) + noise
        free = np.zeros(len(choice), dtype=bool)
        free[np.argsort(far, kind="stable")[:count]] = True
        return free

    def _chosen_anew(
        self, free: Mask, choice: Ints, seconds: float, start: bool = True
    ) -> tuple[Choice | None, float]:
        """The best choice that HiGHS finds of the free variables in so many seconds, from the one in hand
        unless it is none to `start` with; and what it took."""
        left = self.best.right - self.columns @ np.where(free, 0, choice)
        part = csr_array(self.columns[:, free])
        used = np.diff(part.indptr) > 0
        limits = left[used].astype(float)
        costs = self.guide.costs[free]
        if np.any(left[~used]):
            return None, 0.0
        begin = choice[free] if start else None
        search = Search(part[used], limits, limits, costs, begin, self._least(seconds))
        ended = search.wait(self.clock, 2 * seconds)
        search.stop()
        found = search.found
        spent = search.seconds if ended else seconds
        if found is None:
            return None, spent
        anew = choice.copy()
        anew[free] = found
        return anew.astype(np.int8), spent

    def _mended(self, free: Mask, choice: Ints, price: float, moving: bool) -> tuple[Ints | None, float]:
        """The free variables chosen so that the rows they are in miss by as little as HiGHS finds, and
        what it took."""
        left = self.best.right - self.columns @ np.where(free, 0, choice)
        part = csr_array(self.columns[:, free])
        used = np.flatnonzero(np.diff(part.indptr))
        part, left = part[used], left[used]
        misses = left - part @ choice[free]
        count = int(free.sum())
        if moving:
            apart: Any = eye_array(len(used))
            room = np.maximum(np.abs(misses), 1).astype(float)
            matrix = hstack([part, apart, -apart])
            most = np.concatenate([np.ones(count), room, room])
            start = np.concatenate([choice[free], np.maximum(misses, 0), np.maximum(-misses, 0)])
        else:
            bad = np.flatnonzero(misses)
            apart = csr_array((np.sign(misses[bad]), (bad, np.arange(len(bad)))), shape=(len(used), len(bad)))
            matrix = hstack([part, apart])
            most = np.concatenate([np.ones(count), np.abs(misses[bad]).astype(float)])
            start = np.concatenate([choice[free], np.abs(misses[bad])])
        costs = np.full(len(most), price)
        costs[:count] = self.guide.costs[free]
        limits = left.astype(float)
        search = Search(matrix, limits, limits, costs, start, self._least(1.0), most, NEAR_ENOUGH)
        search.wait(self.clock, 2.0)
        search.stop()
        found = search.found
        if found is None:
            return None, search.seconds
        mended = choice.copy()
        mended[free] = found[:count]
        return mended, search.seconds

    def _least(self, seconds: float) -> float:
        left = self.clock.left()
        return seconds if left is None else min(seconds, left)
