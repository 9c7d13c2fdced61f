"""Arrays of whole numbers of any length: machine integers where they fit, Python's own elsewhere."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array

Ints = NDArray[Any]  # int64, or objects where numbers are longer
Matrix = Any  # csr_array or csc_array of int64
ROOM = 1 << 61  # what a sum of a few products may come to in a machine integer


def ints(values: Sequence[int]) -> Ints:
    """An array of whole numbers, of machine integers if each of them leaves room."""
    try:
        found = np.array(values, dtype=np.int64)
    except OverflowError:
        return np.array(values, dtype=object)
    return found if largest(found) < ROOM else found.astype(object)


def largest(values: Ints) -> int:
    """The largest size of any of them; 0 of none."""
    return max(abs(int(values.max())), abs(int(values.min()))) if len(values) else 0


def total(values: Ints) -> int:
    """Their sum, exactly, however long."""
    if values.dtype == object:
        return int(sum(values.tolist()))
    return (int((values >> 32).sum()) << 32) + int((values & 0xFFFFFFFF).sum())


def inner(a: Ints, b: Ints) -> int:
    """Σ a b, exactly."""
    if a.dtype == object or b.dtype == object or largest(a) * largest(b) >= ROOM:
        return sum(x * y for x, y in zip(a.tolist(), b.tolist(), strict=True))
    return total(a * b)


def scaled(values: Ints, by: int) -> Ints:
    """Each of them `by` times, in longer numbers if need be."""
    if values.dtype != object and max(largest(values), 1) * by >= ROOM:
        values = values.astype(object)
    times: Ints = values * by
    return times


def added(a: Ints, b: Ints) -> Ints:
    """a + b, in longer numbers if need be."""
    if a.dtype == object or b.dtype == object or largest(a) + largest(b) >= ROOM:
        a, b = a.astype(object), b.astype(object)
    together: Ints = a + b
    return together


def less(values: Ints, matrix: Matrix, prices: Ints) -> Ints:
    """values − matrixᵀ prices, for a matrix by columns (rows × len(values))."""
    columns: csc_array = csc_array(matrix)
    most = int(np.diff(columns.indptr).max(initial=0)) * largest(columns.data) * largest(prices)
    if prices.dtype != object and most < ROOM and values.dtype != object:
        left: Ints = values - columns.T @ prices
        return left
    products = columns.data.astype(object) * prices[columns.indices].astype(object)
    found = values.astype(object)
    np.subtract.at(found, np.repeat(np.arange(len(values)), np.diff(columns.indptr)), products)
    return found
