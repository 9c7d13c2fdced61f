"""Whether figures that state no unit are in that of others: worked out from them, or as large as they are."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal
from itertools import combinations, permutations

from humble_sum.core.amounts import EXACT, of_units, total

Column = Sequence[Decimal | None]
LEAST_LINES, MOST_COLUMNS = 2, 12
FAR = 30  # times as large: what is in ones beside thousands, or in thousands beside millions, is further off


def is_worked_out(column: Column, others: Sequence[Column]) -> bool:
    """Whether every figure is a difference of two others, or the sum of all of them, or of some that stand
    together, to the digits that they are written with."""
    others = others[:MOST_COLUMNS]
    differences = ([now, _minus(before)] for now, before in permutations(others, 2))
    runs = (others[a:b] for a, b in combinations(range(len(others) + 1), 2) if b - a > 1)
    return any(_adds(column, parts) for parts in (*differences, *runs))


def _minus(column: Column) -> Column:
    return [None if figure is None else -figure for figure in column]


def _adds(column: Column, parts: Sequence[Column]) -> bool:
    told = 0
    for figure, *added in zip(column, *parts, strict=True):
        there = [each for each in added if each is not None]
        if figure is None or not there:
            continue
        # Each may have been rounded by half of its last digit.
        off = total([_half(each) for each in (figure, *there)])
        if abs(EXACT.subtract(total(there), figure)) > off:
            return False
        told += bool(figure)
    return told >= LEAST_LINES


def _half(figure: Decimal) -> Decimal:
    exponent = figure.as_tuple().exponent
    assert isinstance(exponent, int)
    return of_units(5, exponent - 1)


def as_large(column: Column, others: Sequence[Column]) -> bool:
    """Whether a column's figures are about as large as those of others, by their middle ones."""
    middle, beside = _middle(column), _middle([figure for other in others for figure in other])
    return middle is not None and beside is not None and middle < beside * FAR and beside < middle * FAR


def _middle(figures: Column) -> Decimal | None:
    sizes = sorted(abs(figure) for figure in figures if figure)
    return sizes[len(sizes) // 2] if sizes else None
