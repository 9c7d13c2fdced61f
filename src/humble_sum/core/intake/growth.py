"""Columns of growth and of shares that say so by no percent sign, told by working them out."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from decimal import Decimal
from itertools import permutations
from typing import Literal

from humble_sum.core.amounts import EXACT, of_units
from humble_sum.core.statements.relations import QUOTIENT

Ratio = Literal["fraction", "points"]
Column = Sequence[Decimal | None]
# Headings of what may be a difference of amounts as well, which the figures have to tell.
MAY_BE = re.compile(
    r"\b(growth|change|chg|var(iance)?|yoy|y/y|increase|movement|mix|weight|share|of total)\b|\u0394|\u2206",
    re.IGNORECASE,
)
LEAST_LINES, MOST_COLUMNS = 2, 12


def ratio_columns(named: Iterable[int], columns: Mapping[int, Column]) -> dict[int, Ratio]:
    """Those of the named columns whose every figure is what one column has more than another, over that, or a
    share of one of its lines: as a fraction (0.125) or in points (12.5)."""
    found: dict[int, Ratio] = {}
    for index in named:
        others = [column for other, column in columns.items() if other != index][:MOST_COLUMNS]
        if any(_exactly(columns[index], now, before) for now, before in permutations(others, 2)):
            continue
        ratios: tuple[tuple[Ratio, int], ...] = (("fraction", 0), ("points", 2))
        for ratio, scale in ratios:
            if any(_is(columns[index], worked, scale) for worked in _worked(others)):
                found[index] = ratio
                break
    return found


def _exactly(column: Column, now: Column, before: Column) -> bool:
    """Whether a column is a difference of amounts, which may look like points where one of them is 100."""
    every = list(zip(column, now, before, strict=True))
    told = [(c, a, b) for c, a, b in every if c is not None and a is not None and b is not None]
    return any(c for c, _, _ in told) and all(c == EXACT.subtract(a, b) for c, a, b in told)


def _worked(columns: Sequence[Column]) -> Iterator[list[Decimal | None]]:
    """Growth from every column to every other, and shares of every line of each."""
    for now, before in permutations(columns, 2):
        grown = [_over(a, b) for a, b in zip(now, before, strict=True)]
        yield [None if each is None else each - 1 for each in grown]
    for column in columns:
        for whole in {amount for amount in column if amount}:
            yield [_over(amount, whole) for amount in column]


def _over(amount: Decimal | None, of: Decimal | None) -> Decimal | None:
    return None if amount is None or not of else QUOTIENT.divide(amount, of)


def _is(column: Column, worked: Sequence[Decimal | None], scale: int) -> bool:
    """Whether figures are those worked out, to the digits they are written with."""
    pairs = [(a, b) for a, b in zip(column, worked, strict=True) if a is not None and b is not None]
    telling = {a for a, _ in pairs if a}
    return len(telling) >= LEAST_LINES and all(abs(b.scaleb(scale) - a) <= _half(a) for a, b in pairs)


def _half(figure: Decimal) -> Decimal:
    """Half of a figure's last digit, or a little of it where a program wrote all of its digits."""
    _, digits, exponent = figure.as_tuple()
    assert isinstance(exponent, int)
    return of_units(5, exponent - 1) if len(digits) < 12 else abs(figure).scaleb(-10)
