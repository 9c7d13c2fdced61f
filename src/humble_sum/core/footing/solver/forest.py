"""Large trees of sums, level by level, in arrays.

The method of `trees`, where no figure may move by more than its floor and ceiling: at every total
it is enough to know how many of its parts must go up, and what one more would cost. Of parts equally
dear the last go up first, of equally cheap ones the first.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[np.int64]
NEVER = 1 << 60  # what a step costs that cannot be taken; a step that must be costs as much less


@dataclass(frozen=True)
class Forest:
    """Figures that may print `low` or one unit more, and the total each is a part of.

    `low`, `cost` (of the unit more, a whole number) and `free` (whether it may be taken) are by figure;
    `total` is the number of the figure's total, −1 for none, and `sign` its sign in it. A figure is
    the total of some if `made` says so; `level` is 0 for figures that are no total, and for each
    total more than for any of its parts.
    """

    low: Numbers
    cost: Numbers
    free: NDArray[np.bool_]
    total: Numbers
    sign: Numbers
    level: Numbers


def least_in_forest(forest: Forest) -> Numbers | None:
    """What each figure prints in the least plan; None where there is none. All costs together have to
    stay below NEVER."""
    free, total, sign = forest.free, forest.total, forest.sign
    low = forest.low.copy()
    # The cost of one unit more of a figure and all that is below it, as its total sees it.
    marginal = np.where(free, forest.cost, NEVER)
    wanted = np.zeros(len(low), dtype=np.int64)
    order = np.lexsort((np.arange(len(low)), forest.level))
    ends = np.searchsorted(forest.level[order], np.arange(int(forest.level.max(initial=0)) + 2))
    ranks = np.zeros(len(low), dtype=np.int64)
    for level in range(1, len(ends) - 1):
        owners = order[ends[level] : ends[level + 1]]
        place = np.full(len(low), -1, dtype=np.int64)
        place[owners] = np.arange(len(owners))
        parts = np.flatnonzero((total >= 0) & (place[total] >= 0))
        own = place[total[parts]]
        able = np.abs(marginal[parts]) < NEVER
        # A part that is taken away goes up, for its total, where it goes down.
        least = np.where(sign[parts] > 0, low[parts], -(low[parts] + able))
        step = sign[parts] * marginal[parts]
        base = np.zeros(len(owners), dtype=np.int64)
        np.add.at(base, own, least)
        count = np.bincount(own[able], minlength=len(owners))
        # From the dearest kept to the cheapest taken, parts of one total together.
        tie = np.where(step > 0, -parts, parts)
        ordered = np.lexsort((tie, step, ~able, own))
        starts = np.concatenate([[0], np.cumsum(np.bincount(own, minlength=len(owners)))[:-1]])
        rank = np.arange(len(parts)) - starts[own[ordered]]
        ranks[parts[ordered]] = np.where(able[ordered], rank, NEVER)
        costs = step[ordered]
        missing = low[owners] - base
        wanted[owners] = missing
        lower = (missing >= 0) & (missing <= count)
        upper = free[owners] & (missing + 1 >= 0) & (missing + 1 <= count)
        if not (lower | upper).all():
            return None
        # Printing one more takes the next cheapest part up.
        following = np.where(lower & upper, starts + np.clip(missing, 0, None), 0)
        more = forest.cost[owners] + costs[np.minimum(following, len(costs) - 1)]
        marginal[owners] = np.where(lower & upper, more, NEVER)
        forced = upper & ~lower
        low[owners] += forced
        wanted[owners] += forced
    return _read_back(forest, low, marginal, wanted, ranks, ends, order)


def _read_back(
    forest: Forest,
    low: Numbers,
    marginal: Numbers,
    wanted: Numbers,
    ranks: Numbers,
    ends: Numbers,
    order: Numbers,
) -> Numbers:
    """What each figure prints, from the roots down."""
    total, sign = forest.total, forest.sign
    able = np.abs(marginal) < NEVER
    more = (total < 0) & able & (marginal < 0)
    for level in range(len(ends) - 2, 0, -1):
        place = np.zeros(len(low), dtype=bool)
        place[order[ends[level] : ends[level + 1]]] = True
        parts = np.flatnonzero((total >= 0) & place[total])
        goes = ranks[parts] < wanted[total[parts]] + more[total[parts]]
        more[parts] = able[parts] & np.where(sign[parts] > 0, goes, ~goes)
    return low + more
