"""Prices that show a plan of a tree of sums to be least.

What a figure and all below it would cost more if it printed one unit more, or one less, is known from
the bottom up: its own step, and the cheapest step of its parts. From the top down each sum then gets a
price between what its parts ask for a unit more and a unit less, as near as that lets it to what keeps
its total where it is.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from humble_sum.core.footing.solver.integers import Ints, ints, largest
from humble_sum.core.footing.solver.trees import Sum

Numbers = NDArray[np.int64]
Mask = NDArray[np.bool_]


def tree_prices(
    up: Sequence[int | None], down: Sequence[int | None], ordered: Sequence[Sum]
) -> tuple[list[int], bool]:
    """A price for the total of each sum, by figure (0 for figures that are no total), and whether
    the prices prove that no plan costs less.

    `up` and `down` are what each figure's own step from the plan costs, None where it may not be taken;
    `ordered` has the sums from the bottom up.
    """
    count = len(up)
    known = ints([step or 0 for step in (*up, *down)])
    never = 4 * (largest(known) + 1) * (count + 1)
    arrays = ints([never])
    kind: Any = object if known.dtype == object or arrays.dtype == object else np.int64
    steps_up = np.array([never if step is None else step for step in up], dtype=kind)
    steps_down = np.array([never if step is None else step for step in down], dtype=kind)
    total, sign, level = np.full(count, -1), np.ones(count, dtype=np.int64), np.zeros(count, dtype=np.int64)
    for each in ordered:
        for part, of in each.parts:
            total[part], sign[part] = each.total, of
        level[each.total] = 1 + max(level[part] for part, _ in each.parts)
    prices = _prices(steps_up, steps_down, total, sign, level, never)
    return prices.tolist(), _prove(prices, steps_up, steps_down, total, sign, never)


def proved_by_prices(up: Ints, down: Ints, total: Numbers, sign: Numbers, level: Numbers, never: int) -> bool:
    """Whether prices prove a plan of trees least. The arrays are by figure: what a unit more and one less
    cost, `never` where it may not be; the total it is a part of (−1: of none), its sign in it, and a level
    that is higher for a total than for its parts."""
    prices = _prices(up, down, total, sign, level, never)
    return _prove(prices, up, down, total, sign, never)


def _prove(prices: Ints, up: Ints, down: Ints, total: Numbers, sign: Numbers, never: int) -> bool:
    """Whether no figure alone costs less than its price and that of its total allow."""
    asked = prices - np.where(total >= 0, sign * prices[total], 0)
    free_up, free_down = up < never, down < never
    return bool((up >= asked)[free_up].all() and (down >= -asked)[free_down].all())


def _prices(up: Ints, down: Ints, total: Numbers, sign: Numbers, level: Numbers, never: int) -> Ints:
    most = int(level.max(initial=0))
    # The cheapest unit more and less of all parts of a total together.
    more, less = np.full(len(up), never, dtype=up.dtype), np.full(len(up), never, dtype=up.dtype)
    order = np.argsort(level, kind="stable")
    ends = np.searchsorted(level[order], np.arange(most + 2))
    is_total = level > 0
    for depth in range(most + 1):
        here = order[ends[depth] : ends[depth + 1]]
        all_up = np.minimum(up[here] + np.where(is_total[here], more[here], 0), never)
        all_down = np.minimum(down[here] + np.where(is_total[here], less[here], 0), never)
        parts = total[here] >= 0
        owner, plus = total[here][parts], sign[here][parts] > 0
        np.minimum.at(more, owner, np.where(plus, all_up[parts], all_down[parts]))
        np.minimum.at(less, owner, np.where(plus, all_down[parts], all_up[parts]))
    prices = np.zeros(len(up), dtype=up.dtype)
    for depth in range(most, 0, -1):
        here = order[ends[depth] : ends[depth + 1]]
        of_owner = np.where(total[here] >= 0, sign[here] * prices[total[here]], 0)
        # What keeps the total itself where it is, and what keeps its parts.
        low = np.where(down[here] < never, of_owner - down[here], -never)
        high = np.where(up[here] < never, of_owner + up[here], never)
        least, most_of_it = np.maximum(low, -more[here]), np.minimum(high, less[here])
        # Of the prices in between the one nearest to none.
        prices[here] = np.maximum(least, np.minimum(most_of_it, 0))
    return prices
