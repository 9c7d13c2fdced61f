"""Columns of growth and of shares that say so by no percent sign, told by working them out."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from itertools import permutations
from typing import Literal

from humble_sum.core.amounts import EXACT, of_units
from humble_sum.core.statements.relations import QUOTIENT

Ratio = Literal["fraction", "points"]
Column = Sequence[Decimal | None]
LEAST_LINES, MOST_COLUMNS = 2, 12


def ratio_columns(named: Iterable[int], columns: Mapping[int, Column]) -> dict[int, Ratio]:
    """Those of the named columns whose every figure is what one column has more than another, over that, one
    column over another, or a share of one of its lines: as a fraction (0.125) or in points (12.5)."""
    found: dict[int, Ratio] = {}
    for index in named:
        column = columns[index]
        others = [other for n, other in columns.items() if n != index][:MOST_COLUMNS]
        if any(_exactly(column, now, before) for now, before in permutations(others, 2)):
            continue
        ratios: tuple[tuple[Ratio, int], ...] = (("fraction", 0), ("points", 2))
        for ratio, power in ratios:
            if _is_ratio(column, others, power):
                found[index] = ratio
                break
    return found


def _exactly(column: Column, now: Column, before: Column) -> bool:
    """Whether a column is a difference of amounts, which may look like points where one of them is 100."""
    told = False
    for figure, a, b in zip(column, now, before, strict=True):
        if figure is None or a is None or b is None:
            continue
        if figure != EXACT.subtract(a, b):
            return False
        told = told or bool(figure)
    return told


def _is_ratio(column: Column, others: Sequence[Column], power: int) -> bool:
    """Whether a column is growth from one to another, a margin of one in another, or shares of the line where
    it says all is there."""
    base = next((row for row, figure in enumerate(column) if figure == Decimal(10) ** power), None)
    shares = [] if base is None else [(of, [of[base]] * len(of), 0) for of in others]
    grown = [(now, before, less) for now, before in permutations(others, 2) for less in (1, 0)]
    return any(_comes_to(column, now, of, less, power) for now, of, less in (*grown, *shares))


def _comes_to(column: Column, now: Column, of: Column, less: int, power: int) -> bool:
    """Whether figures are one over the other, less so much, to the digits that they are written with."""
    telling = set()
    for figure, a, b in zip(column, now, of, strict=True):
        if figure is None or a is None or not b:
            continue
        if abs((QUOTIENT.divide(a, b) - less).scaleb(power) - figure) > _half(figure):
            return False
        telling.add(figure)
    return len(telling - {Decimal(0)}) >= LEAST_LINES


def _half(figure: Decimal) -> Decimal:
    """Half of a figure's last digit, or a little of it where a program wrote all of its digits."""
    _, digits, exponent = figure.as_tuple()
    assert isinstance(exponent, int)
    return of_units(5, exponent - 1) if len(digits) < 12 else abs(figure).scaleb(-10)
