"""The figures of one row as they are written, and the cells in it that need a look."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from humble_sum.core.amounts import EXACT
from humble_sum.core.intake.amount_reading import POINT, Reading
from humble_sum.core.intake.cell_reading import read_cell, shows_other_sign
from humble_sum.core.intake.columns import ColumnRead, Layout
from humble_sum.core.intake.conventions import decided_by
from humble_sum.core.intake.ratios import is_ratio
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.vocabulary import says


@dataclass(frozen=True)
class Doubt:
    """A cell that needs a look: its place, what it says, and why. Where a reader may well have meant
    another thing, `asks` says what of, and `spot` is its row and column; `unit` is the one that was read,
    where that is asked."""

    place: str
    text: str
    why: str
    asks: Literal["", "marks", "either", "text", "unit"] = ""
    sheet_place: tuple[int, int] = (-1, -1)
    unit: str = ""


@dataclass(frozen=True)
class RowRead:
    """A row's figures as they are written, which of them say themselves what they are in, the forms they are
    written in, the currencies they state, and what needs a look."""

    amounts: list[Decimal | None]
    itself: list[bool]
    forms: frozenset[str]
    currencies: tuple[str, ...] = ()
    doubts: tuple[Doubt, ...] = ()


AMOUNTS, ZEROS = frozenset({"amount"}), frozenset[str]()


def read_row(table: Table, row: int, layout: Layout) -> RowRead:
    """The figures of a row; a credit is below zero where a column says the side of each line."""
    figures, cells = layout.figures, table.rows[row]
    read = _plain(cells, figures) or _read(table, row, figures, row - layout.first_row)
    if layout.side_column is None or not says(cells[layout.side_column].text.strip(), "credit"):
        return read
    turned = [EXACT.minus(amount) if amount and amount > 0 else amount for amount in read.amounts]
    return replace(read, amounts=turned)


def _plain(row: Sequence[SheetCell], figures: Sequence[ColumnRead]) -> RowRead | None:
    """Most rows of a workbook are numbers and nothing else, and need no reading."""
    numbers = []
    for column in figures:
        cell = row[column.index]
        if (
            type(cell.value) is not Decimal
            or cell.snapped
            or "%" in cell.code
            or "/" in (cell.formula or "")
            or shows_other_sign(cell)
        ):
            return None
        numbers.append(cell.value)
    told = any(number for number, column in zip(numbers, figures, strict=True) if not column.percent)
    return RowRead([*numbers], [False] * len(numbers), AMOUNTS if told else ZEROS)


def _read(table: Table, row: int, figures: Sequence[ColumnRead], place: int) -> RowRead:
    cells = [table.rows[row][column.index] for column in figures]
    readings = [
        read_cell(cell, column.inferred.convention if column.inferred else POINT)
        for cell, column in zip(cells, figures, strict=True)
    ]
    readings, alone = _by_own_marks(table, row, figures, readings)
    forms, doubts = set(), list(alone)
    for cell, column, reading in zip(cells, figures, readings, strict=True):
        if reading.kind == "amount" and not column.percent:
            forms.add("percent" if reading.form == "percent" or "%" in cell.code else reading.form)
        if doubt := _doubt(table, (row, column.index), reading, column, place):
            doubts.append(doubt)
    return RowRead(
        [reading.amount if reading.kind in ("amount", "zero") else None for reading in readings],
        [
            reading.form != "amount"
            or "%" in cell.code
            or bool(reading.power and not column.percent)
            or (cell.formula is not None and is_ratio(cell.formula))
            for cell, column, reading in zip(cells, figures, readings, strict=True)
        ],
        frozenset(forms),
        tuple(reading.currency for reading in readings if reading.currency),
        tuple(doubts),
    )


def _by_own_marks(
    table: Table, row: int, figures: Sequence[ColumnRead], readings: list[Reading]
) -> tuple[list[Reading], list[Doubt]]:
    """Cells that their column's convention makes no number, and whose own marks leave no doubt, read by
    these, and named: 250,25 € among dollars with a point."""
    made, doubts = list(readings), []
    for n, (column, reading) in enumerate(zip(figures, readings, strict=True)):
        cell = table.rows[row][column.index]
        own = decided_by(cell.text) if reading.kind == "text" else None
        if own is None:
            continue
        again = read_cell(cell, own)
        if again.kind == "amount":
            made[n] = again
            why = f"read with a {own}, unlike its column"
            sheet_place = (row, column.index)
            doubts.append(Doubt(table.place(*sheet_place), cell.text, why, "marks", sheet_place))
    return made, doubts


def _doubt(
    table: Table, sheet_place: tuple[int, int], reading: Reading, column: ColumnRead, place: int
) -> Doubt | None:
    """What makes a cell need a look, if anything does."""
    cell = table.rows[sheet_place[0]][sheet_place[1]]
    ambiguous = column.inferred and place in column.inferred.ambiguous
    if not (cell.snapped or ambiguous or reading.why or reading.kind == "text"):
        return None
    where = table.place(*sheet_place)
    if cell.snapped:
        return Doubt(where, cell.text, f"a binary number with a long tail, read as {cell.text}")
    if column.inferred and ambiguous:
        why = f"could be read two ways, and was read with a {column.inferred.convention}"
        return Doubt(where, cell.text, "; ".join((why, *reading.why)), "either", sheet_place)
    if reading.kind == "text":
        why = "; ".join(reading.why) or "text where a figure is expected"
        return Doubt(where, cell.text, why, "text", sheet_place)
    why = "; ".join(reading.why) if reading.why and cell.says else ""
    return Doubt(where, cell.text, why) if why else None
