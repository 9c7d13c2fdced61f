"""Prices raised one relation at a time: coordinate ascent on the dual of a large 0-1 program.

With the other prices as they are, a relation's best price lies where as many of its variables
would rather go up as it asks for: between two neighbours of their sorted reduced costs. Relations
that share no variable are priced at once, so a sweep takes a few passes over the matrix (a
colouring by local minima: Luby 1986; the ascent: Bertsekas 1999, section 6.4). It stops short of
the best prices in general; a solver goes on from there.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array, csr_array

from humble_sum.core.footing.solver.integers import Ints, Matrix, total

SWEEPS = 10
MANY, MORE = 50_000, 20  # variables from which more sweeps are less work than what they leave to simplex
ENOUGH = 5e-4  # of the bound gained so far; a sweep that gains less is the last
MOST_CLASSES = 200


def ascend(matrix: Matrix, right: Ints, costs: Ints) -> Ints:
    """Whole prices, one for each row; 0 for rows with other coefficients than −1, 0 and 1.

    `matrix` is rows × variables, `right` by row and `costs` by variable.
    """
    rows = csr_array(matrix)
    prices = np.zeros(rows.shape[0], dtype=np.int64)
    blocks = [block for apart in _classes(rows) for block in _blocks(rows, right, apart)]
    reduced = costs.astype(np.int64).copy()
    columns = csc_array(matrix)
    best = bound(prices, right, reduced)
    first = best
    for _ in range(MORE if len(costs) >= MANY else SWEEPS):
        for block in blocks:
            raised = block.raised(reduced)
            prices[block.rows] += raised
            reduced[block.variables] -= block.signs * raised[:, None]
        reduced = costs - columns.T @ prices
        found = bound(prices, right, reduced)
        if found - best <= ENOUGH * max(best - first, 1):
            break
        best = found
    return prices


def bound(prices: Ints, right: Ints, reduced: Ints) -> int:
    """What whole prices prove: no choice costs less."""
    return total(prices * right) + total(np.minimum(reduced, 0))


@dataclass(frozen=True)
class _Block:
    """Rows of one class that have the same number of variables, so that they are priced as one array.

    `variables` and `signs` are rows × variables of each. With as many variables turned as a row asks
    for, the last is at `last` of all their turning points in a line, and the next at `following`.
    """

    rows: NDArray[np.int64]
    variables: NDArray[np.int64]
    signs: NDArray[np.int64]
    last: NDArray[np.int64]
    following: NDArray[np.int64]

    def raised(self, reduced: Ints) -> Ints:
        """By how much each row's price goes up to be the best with the others as they are."""
        # A variable goes up once the price passes its reduced cost, or one with a minus goes down.
        turning = reduced[self.variables]
        turning *= self.signs
        turning.sort(axis=1)
        points = turning.ravel()
        raised: Ints = (points[self.last] + points[self.following]) >> 1
        return raised


def _blocks(rows: Matrix, right: Ints, apart: NDArray[np.int64]) -> Iterator[_Block]:
    starts = rows.indptr.astype(np.int64)
    lengths = starts[apart + 1] - starts[apart]
    for length in np.unique(lengths):
        chosen = apart[lengths == length]
        positions = starts[chosen][:, None] + np.arange(length)
        signs = rows.data[positions]
        turned = np.clip(right[chosen] + (signs < 0).sum(axis=1), 0, length)
        line = np.arange(len(chosen)) * length
        last, following = line + np.maximum(turned - 1, 0), line + np.minimum(turned, length - 1)
        yield _Block(chosen, rows.indices[positions].astype(np.int64), signs, last, following)


def _classes(rows: Matrix) -> Iterator[NDArray[np.int64]]:
    """The rows with variables of −1 and 1 alone, in classes whose members share no variable."""
    count = rows.shape[0]
    owner = np.repeat(np.arange(count), np.diff(rows.indptr))
    waiting = np.diff(rows.indptr) > 0
    waiting[owner[np.abs(rows.data) != 1]] = False
    # An order that is no order of the matrix, so that a chain of relations takes few rounds.
    order = (np.arange(1, count + 1, dtype=np.uint64) * np.uint64(0x9E3779B97F4A7C15)) >> np.uint64(2)
    rank = np.empty(count, dtype=np.int64)
    rank[np.argsort(order, kind="stable")] = np.arange(count)
    own, variables = owner[waiting[owner]], rows.indices[waiting[owner]]
    ranks = rank[own]
    for _ in range(MOST_CLASSES):
        if not len(own):
            return
        least = np.full(rows.shape[1], count, dtype=np.int64)
        np.minimum.at(least, variables, ranks)
        beaten = np.zeros(count, dtype=bool)
        beaten[own[least[variables] < ranks]] = True
        chosen = waiting & ~beaten
        yield np.flatnonzero(chosen)
        waiting &= ~chosen
        left = waiting[own]
        own, variables, ranks = own[left], variables[left], ranks[left]
    for row in np.flatnonzero(waiting):
        yield np.array([row])
