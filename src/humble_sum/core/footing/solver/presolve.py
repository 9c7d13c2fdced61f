"""Variables that a row makes one: x = y, or x + y = 1 so that one is the other's opposite.

Ties between statements are such rows, and so is much of what is left of a large program once most
of its variables are set aside. A solver meets fewer rows and variables without them; values and
prices of the smaller program are read back as values and prices of the whole one.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array, csc_array, csr_array
from scipy.sparse.csgraph import breadth_first_order, connected_components

from humble_sum.core.footing.solver.integers import ROOM, Ints, Matrix, less, total

Numbers = NDArray[np.int64]
WHOLE = 1e-6  # how near to a whole number a value is taken for one


@dataclass(frozen=True)
class _Links:
    """Variables that follow others by a row each: `child` = `parent`, or 1 − it where `opposite`.

    `of_child` and `of_parent` are their coefficients in the `row`.
    """

    child: Numbers
    parent: Numbers
    row: Numbers
    of_child: Numbers
    of_parent: Numbers

    @property
    def opposite(self) -> NDArray[np.bool_]:
        return np.equal(self.of_child, self.of_parent)

    def at(self, chosen: NDArray[Any]) -> _Links:
        return _Links(
            self.child[chosen],
            self.parent[chosen],
            self.row[chosen],
            self.of_child[chosen],
            self.of_parent[chosen],
        )


@dataclass(frozen=True)
class Merged:
    """A program whose paired variables are one each.

    Variable v of the whole program is variable `number[v]` of this one, or 1 − it where `flipped[v]`
    is 1. `rows` are those of the whole program that are left.
    """

    matrix: Matrix
    right: Ints
    costs: NDArray[Any]
    number: Numbers
    flipped: Numbers
    rows: Numbers
    levels: tuple[_Links, ...]

    def values(self, found: NDArray[Any]) -> NDArray[Any]:
        """Values of the whole program's variables."""
        of_each = found[self.number]
        return np.where(self.flipped == 1, 1 - of_each, of_each)

    def prices(
        self, found: NDArray[Any], values: NDArray[Any], matrix: Matrix, costs: NDArray[Any]
    ) -> NDArray[Any]:
        """Prices of the whole program's rows, from this one's prices and values. `whole` is rows ×
        variables, by columns, and `costs` are its.

        Of a kin of variables only the sum of what prices leave is settled. The rows that pair them
        move it from one to another: no more than gives each of them the sign its value asks for, so
        that variables set aside, which share those rows, are disturbed the least.
        """
        prices = np.zeros(matrix.shape[0], dtype=found.dtype)
        prices[self.rows] = found
        kin = values[self.number]
        toward = np.where(kin < 0.5, 1, -1) * (1 - 2 * self.flipped)
        reduced = costs - matrix.T @ prices if costs.dtype == float else less(costs, matrix, prices)
        if reduced.dtype == np.int64 and total(np.abs(reduced)) >= ROOM:
            reduced = reduced.astype(object)
        if reduced.dtype == object:
            prices = prices.astype(object)
        undecided = np.abs(kin - np.rint(kin)) > WHOLE
        flows = _flows(self.levels, toward * reduced, undecided)
        for links, flow in zip(self.levels, flows, strict=True):
            prices[links.row] = flow * toward[links.child] * links.of_child
        return prices


def merged(matrix: Matrix, right: Ints, costs: NDArray[Any]) -> Merged | None:
    """The program with its pairs made one; None where no row is a pair.

    `matrix` is rows × variables in whole numbers, by columns; `costs` may be of any kind.
    """
    rows = csr_array(matrix)
    links = _pairs(rows, right)
    if not len(links.row):
        return None
    count = rows.shape[1]
    parent, flipped = np.arange(count), np.zeros(count, dtype=np.int64)
    levels = tuple(_levels(links, count))
    for level in levels:
        parent[level.child] = parent[level.parent]
        flipped[level.child] = level.opposite ^ (flipped[level.parent] == 1)
    first, number = np.unique(parent, return_inverse=True)
    sign = 1 - 2 * flipped
    onto = csr_array((sign, number, np.arange(count + 1)), shape=(count, len(first)))
    reduced = csr_array(rows @ onto)
    reduced.eliminate_zeros()
    left = right - matrix @ flipped
    # A row of which nothing is left is kept where it asks for something all the same.
    kept = np.flatnonzero((np.diff(reduced.indptr) > 0) | (left != 0))
    if costs.dtype == np.int64 and total(np.abs(costs)) >= ROOM:
        costs = costs.astype(object)
    together = np.zeros(len(first), dtype=costs.dtype)
    np.add.at(together, number, sign * costs)
    return Merged(csc_array(reduced[kept]), left[kept], together, number, flipped, kept, levels)


def _pairs(rows: Matrix, right: Ints) -> _Links:
    """A link for each two variables that a row pairs, as yet in no order."""
    pair = np.flatnonzero(np.diff(rows.indptr) == 2)
    at = rows.indptr[pair].astype(np.int64)
    a, b = rows.data[at], rows.data[at + 1]
    asked = right[pair]
    fits = (np.abs(a) == 1) & (((a == -b) & (asked == 0)) | ((a == b) & (asked == a)))
    found = _Links(rows.indices[at].astype(np.int64), rows.indices[at + 1].astype(np.int64), pair, a, b).at(
        fits.astype(bool)
    )
    _, once = np.unique(_key(found, rows.shape[1]), return_index=True)
    return found.at(once)


def _key(links: _Links, count: int) -> Numbers:
    """One number for two variables, whichever is named first."""
    least, most = np.minimum(links.child, links.parent), np.maximum(links.child, links.parent)
    key: Numbers = least * count + most
    return key


def _levels(links: _Links, count: int) -> Iterator[_Links]:
    """Links enough to reach every paired variable from the first of its kin, those nearest to it first."""
    graph = coo_array((np.ones(len(links.row)), (links.child, links.parent)), shape=(count, count))
    kinds, kin = connected_components(graph, directed=False)
    _, first = np.unique(kin, return_index=True)
    # From one point joined to the first of each kin, all are reached in one walk.
    outer = np.full(kinds, count)
    heads = np.concatenate([links.child, links.parent, outer])
    tails = np.concatenate([links.parent, links.child, first])
    walk = csr_array((np.ones(len(heads)), (heads, tails)), shape=(count + 1, count + 1))
    order, before = breadth_first_order(walk, count)
    place = np.empty(count + 1, dtype=np.int64)
    place[order] = np.arange(count + 1)
    reached_from = place[before[order[1:]]]
    keys = _key(links, count)
    end = kinds + 1
    while end < count + 1:
        following = 1 + int(np.searchsorted(reached_from, end))
        child = order[end:following].astype(np.int64)
        parent = before[child].astype(np.int64)
        which = np.searchsorted(keys, np.minimum(child, parent) * count + np.maximum(child, parent))
        found = links.at(which)
        named = found.child == child
        yield _Links(
            child,
            parent,
            found.row,
            np.where(named, found.of_child, found.of_parent),
            np.where(named, found.of_parent, found.of_child),
        )
        end = following


def _flows(
    levels: Sequence[_Links], surplus: NDArray[Any], undecided: NDArray[np.bool_]
) -> list[NDArray[Any]]:
    """What each link has to move from its child to its parent, so that no variable is left short and
    those of an undecided kin keep nothing."""
    surplus = surplus.copy()
    flows: list[NDArray[Any]] = []
    for links in reversed(levels):
        own = surplus[links.child]
        flow = np.where(undecided[links.child], own, np.minimum(own, 0))
        surplus[links.child] -= flow
        np.add.at(surplus, links.parent, flow)
        flows.insert(0, flow)
    # Now only the first of a kin may be short; what it lacks is with those that follow it.
    below = surplus.copy()
    for links in reversed(levels):
        np.add.at(below, links.parent, below[links.child])
    for links, flow in zip(levels, flows, strict=True):
        if (surplus[links.parent] < 0).any():
            drawn = _drawn(links, np.maximum(-surplus, 0), np.maximum(below, 0))
            flow += drawn
            surplus[links.child] -= drawn
            np.add.at(surplus, links.parent, drawn)
    return flows


def _drawn(links: _Links, lacking: NDArray[Any], have: NDArray[Any]) -> NDArray[Any]:
    """What each link's child gives its parent of what it and those after it have, the first ones first."""
    order = np.argsort(links.parent, kind="stable")
    parents = links.parent[order]
    own = have[links.child[order]]
    before = np.cumsum(own) - own
    before -= before[np.searchsorted(parents, parents)]
    drawn = np.zeros_like(own)
    drawn[order] = np.minimum(np.maximum(lacking[parents] - before, 0), own)
    return drawn
