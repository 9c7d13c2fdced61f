"""Columns whose headings state no unit beside others that do: whether theirs is the same."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal
from itertools import combinations, permutations
from typing import TYPE_CHECKING

from humble_sum.core.amounts import EXACT, of_units, total
from humble_sum.core.intake.decisions import ColumnDecided
from humble_sum.core.intake.periods import names_period
from humble_sum.core.intake.vocabulary import says

if TYPE_CHECKING:
    from humble_sum.core.intake.columns import ColumnRead

Column = Sequence[Decimal | None]
LEAST_LINES, MOST_COLUMNS = 2, 12
# Times as large: what is in ones beside thousands, or in thousands beside millions, is further off.
FAR = Decimal(30)


def like_the_first(columns: Sequence[ColumnRead]) -> list[ColumnRead]:
    """The columns, those of other periods in the unit that the first figures state, where they state none."""
    first = next((column for column in columns if column.role == "figures"), None)
    if first is None or first.unit is None:
        return [*columns]
    return [
        replace(column, unit=first.unit)
        if column.role == "figures" and column.unit is None and names_period(column.heading)
        else column
        for column in columns
    ]


def told_apart(columns: Sequence[ColumnRead], ways: Sequence[Mapping[int, str]]) -> list[ColumnRead]:
    """The columns, those headed alike by the first of some longer headings that tells them apart: with their
    units, 2026 £m and 2026 $m, or with what stands higher up, Budget, Q1 and Actual, Q1."""
    alike: dict[str, list[int]] = {}
    for column in columns:
        if column.role == "figures":
            alike.setdefault(column.heading, []).append(column.index)
    told: dict[int, str] = {}
    for indices in alike.values():
        for way in ways if len(indices) > 1 else ():
            headings = {index: way[index] for index in indices}
            if len(set(headings.values())) == len(indices):
                told |= headings
                break
    return [replace(column, heading=told.get(column.index, column.heading)) for column in columns]


def as_those_beside(
    columns: Sequence[ColumnRead], read: Callable[[], Mapping[int, Column]], told: Sequence[ColumnDecided]
) -> list[ColumnRead]:
    """The columns, those that state no unit in that of the others, where these are all in one that is not
    ones, and figures are worked out from theirs, or are as large and a budget or the like; those that may be
    in it too say so."""
    figures = [column for column in columns if column.role == "figures"]
    stated = {(c.unit.currency, c.unit.power): c.unit for c in figures if c.unit and c.unit.power}
    silent = [c for c in figures if c.unit is None and not c.percent and told[c.index].unit is None]
    if len(stated) != 1 or not silent:
        return [*columns]
    (unit,) = stated.values()
    amounts = read()
    others = [amounts[c.index] for c in figures if c.unit is unit or c.unit == unit]
    made = {}
    for column in silent:
        own = amounts[column.index]
        alike = as_large(own, others)
        if is_worked_out(own, others) or (alike and says(column.heading, "version")):
            made[column.index] = replace(column, unit=unit)
        elif alike:
            made[column.index] = replace(column, may_be=unit)
    return [made.get(column.index, column) for column in columns]


def is_worked_out(column: Column, others: Sequence[Column]) -> bool:
    """Whether every figure is a difference of two others, or the sum of all of them, or of some that stand
    together, to the digits that they are written with."""
    others = others[:MOST_COLUMNS]
    differences = ([now, _minus(before)] for now, before in permutations(others, 2))
    runs = (others[a:b] for a, b in combinations(range(len(others) + 1), 2) if b - a > 1)
    return any(_adds(column, parts) for parts in (*differences, *runs))


def _minus(column: Column) -> Column:
    return [None if figure is None else figure.copy_negate() for figure in column]


def _adds(column: Column, parts: Sequence[Column]) -> bool:
    told = 0
    for figure, *added in zip(column, *parts, strict=True):
        there = [each for each in added if each is not None]
        if figure is None or not there:
            continue
        # Each may have been rounded by half of its last digit.
        off = total([_half(each) for each in (figure, *there)])
        if EXACT.subtract(total(there), figure).copy_abs() > off:
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
    if middle is None or beside is None:
        return False
    return middle < EXACT.multiply(beside, FAR) and beside < EXACT.multiply(middle, FAR)


def _middle(figures: Column) -> Decimal | None:
    sizes = sorted(figure.copy_abs() for figure in figures if figure)
    return sizes[len(sizes) // 2] if sizes else None
