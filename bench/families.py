"""Footing problems of four kinds that packs really have and whose relaxations are mostly fractional.

Made from a seed: rows in subtotals of two to nine crossed with months, quarters and years; statements
tied to each other by sums of lines; segments by lines by quarters; figures grouped in several
independent ways.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.sparse import csr_array

from humble_sum.core.footing.solver.program import Program

Numbers = np.ndarray[Any, np.dtype[np.int64]]
Sum = tuple[int, list[int], list[int]]


@dataclass(frozen=True)
class Sums:
    """A footing problem in arrays: exact amounts in sub-units, `parts` of them to a unit, and (total,
    parts, signs) by number."""

    exact: Numbers
    sums: list[Sum]
    parts: int = 100_000

    def program(self) -> Program:
        """Steps up from the floor of every figure that is no whole number of units."""
        floor = self.exact // self.parts
        over = self.exact - floor * self.parts
        rows = [row for row, (_, parts, _) in enumerate(self.sums) for _ in range(len(parts) + 1)]
        columns = [figure for total, parts, _ in self.sums for figure in (total, *parts)]
        signs = [sign for _, _, signs in self.sums for sign in (1, *(-s for s in signs))]
        matrix = csr_array(
            (np.array(signs), (np.array(rows), np.array(columns))), shape=(len(self.sums), len(self.exact))
        )
        free = over != 0
        costs = (self.parts - 2 * over)[free]
        near = (costs < 0).astype(np.int8)
        moved = np.where(near == 1, -1, 1).astype(np.int64)
        return Program(matrix.tocsc()[:, free].tocsr(), -(matrix @ floor), (costs, moved), near, ranked=1)


def _subtotals(made: np.random.Generator, lines: int, most: int) -> tuple[int, list[tuple[int, list[int]]]]:
    """Lines under subtotals under a total: how many rows, and what adds to what."""
    level, rows, sums = list(range(lines)), lines, []
    while len(level) > 1:
        above = []
        while level:
            group = int(made.integers(2, most + 1))
            sums.append((rows, level[:group]))
            level = level[group:]
            above.append(rows)
            rows += 1
        level = above
    return rows, sums


def _down(at: Numbers, sums: list[tuple[int, list[int]]]) -> list[Sum]:
    """The sums of every column of `at`, rows × columns of figures."""
    return [
        (int(at[total, column]), at[parts, column].tolist(), [1] * len(parts))
        for total, parts in sums
        for column in range(at.shape[1])
    ]


def crossed(seed: int, lines: int) -> Sums:
    """Rows by twelve months, four quarters, the year, last year and the change."""
    made = np.random.default_rng(seed)
    rows, sums = _subtotals(made, lines, 9)
    exact = np.zeros((rows, 19), dtype=np.int64)
    exact[:lines, :12] = made.integers(-(10**7), 10**8, (lines, 12))
    exact[:lines, 17] = made.integers(-(10**8), 10**9, lines)
    for total, parts in sums:
        exact[total] = exact[parts].sum(0)
    for quarter in range(4):
        exact[:, 12 + quarter] = exact[:, 3 * quarter : 3 * quarter + 3].sum(1)
    exact[:, 16] = exact[:, 12:16].sum(1)
    exact[:, 18] = exact[:, 16] - exact[:, 17]
    at = np.arange(exact.size).reshape(exact.shape)
    found = _down(at, sums)
    for row in at.tolist():
        found += [(row[12 + q], row[3 * q : 3 * q + 3], [1] * 3) for q in range(4)]
        found += [(row[16], row[12:16], [1] * 4), (row[18], [row[16], row[17]], [1, -1])]
    return Sums(exact.ravel(), found)


def tied(seed: int, lines: int, statements: int = 2) -> Sums:
    """Statements by four quarters and the year; each line of the later ones is a sum of one to three lines
    of the first."""
    made = np.random.default_rng(seed)
    leaf = made.integers(-(10**6), 10**8, (lines, 4))
    found: list[Sum] = []
    amounts: list[Numbers] = []
    base = 0
    for statement in range(statements):
        order = made.permutation(lines).tolist()
        groups = [[line] for line in range(lines)]
        if statement:
            groups = []
            while order:
                size = int(made.integers(1, 4))
                groups.append(order[:size])
                order = order[size:]
        rows, sums = _subtotals(made, len(groups), 9)
        exact = np.zeros((rows, 5), dtype=np.int64)
        for row, members in enumerate(groups):
            exact[row, :4] = leaf[members].sum(0)
        for total, parts in sums:
            exact[total] = exact[parts].sum(0)
        exact[:, 4] = exact[:, :4].sum(1)
        at = base + np.arange(exact.size).reshape(exact.shape)
        found += _down(at, sums)
        found += [(row[4], row[:4], [1] * 4) for row in at.tolist()]
        if statement:
            for row, members in enumerate(groups):
                found += [
                    (int(at[row, column]), [5 * member + column for member in members], [1] * len(members))
                    for column in range(5)
                ]
        base += exact.size
        amounts.append(exact.ravel())
    return Sums(np.concatenate(amounts), found)


def three_way(seed: int, lines: int, segments: int = 5) -> Sums:
    """Segments and their total, by lines, by four quarters and the year."""
    made = np.random.default_rng(seed)
    rows, sums = _subtotals(made, lines, 6)
    exact = np.zeros((segments + 1, rows, 5), dtype=np.int64)
    exact[:segments, :lines, :4] = made.integers(-(10**6), 10**8, (segments, lines, 4))
    for total, parts in sums:
        exact[:segments, total] = exact[:segments, parts].sum(1)
    exact[:segments, :, 4] = exact[:segments, :, :4].sum(2)
    exact[segments] = exact[:segments].sum(0)
    at = np.arange(exact.size).reshape(exact.shape)
    found: list[Sum] = []
    for segment in at:
        found += _down(segment, sums)
        found += [(row[4], row[:4], [1] * 4) for row in segment.tolist()]
    for row in range(rows):
        found += [
            (int(at[segments, row, column]), at[:segments, row, column].tolist(), [1] * segments)
            for column in range(5)
        ]
    return Sums(exact.ravel(), found)


def mesh(seed: int, leaves: int, ways: int = 3, size: int = 4) -> Sums:
    """Figures in groups of four in three independent ways, whose totals are one amount."""
    made = np.random.default_rng(seed)
    leaf = made.integers(-(10**8), 10**8, leaves)
    exact, found, tops = leaf.tolist(), [], []
    for _ in range(ways):
        order, groups = made.permutation(leaves).tolist(), []
        while order:
            members, order = order[:size], order[size:]
            groups.append(len(exact))
            exact.append(int(leaf[members].sum()))
            found.append((groups[-1], members, [1] * len(members)))
        tops.append(len(exact))
        exact.append(int(leaf.sum()))
        found.append((tops[-1], groups, [1] * len(groups)))
    found += [(tops[0], [top], [1]) for top in tops[1:]]
    return Sums(np.array(exact), found)


Maker = Callable[[int, int], Sums]
# Each kind with the size of its smaller and its larger problems.
FAMILIES: dict[str, tuple[Maker, tuple[int, int]]] = {
    "crossed": (crossed, (250, 830)),
    "tied": (tied, (110, 220)),
    "three-way": (three_way, (40, 150)),
    "mesh": (mesh, (450, 1700)),
}
