"""Values of typed sources as cells: numbers exactly, days as days, anything else as text."""

from __future__ import annotations

from datetime import date, datetime, time
from decimal import Decimal

from humble_sum.core.amounts import read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.amount_reading import of_double
from humble_sum.core.intake.table import EMPTY, MOST_CELLS, SheetCell, Table, squared


def typed_table(source: str, name: str, heads: list[str], rows: list[list[SheetCell]]) -> Table:
    """A table of named columns. Raises InputError where it has more rows or cells than are taken in."""
    if len(heads) * (len(rows) + 1) > MOST_CELLS:
        what = f"It has {len(rows)} rows of {len(heads)} columns."
        raise InputError("too-long", Fault(source, what, "Take in the part that the statements need."))
    square, _ = squared([[SheetCell(head) for head in heads], *rows])
    return Table(source, name, square)


def typed_cell(value: object) -> SheetCell:
    """A value as a cell. A binary number is its shortest decimal, marked where that took snapping to 15
    digits; one that is not finite is text, and so is what is neither number, day nor text."""
    if value is None:
        return EMPTY
    if isinstance(value, bool | str):
        return SheetCell(value)
    if isinstance(value, int | Decimal):
        try:
            return SheetCell(read_amount(value))
        except ValueError:
            return SheetCell(str(value))
    if isinstance(value, float):
        try:
            amount, snapped = of_double(value)
        except ValueError:
            return SheetCell(str(value))
        return SheetCell(amount, snapped=snapped)
    if isinstance(value, datetime):
        return SheetCell(value.date() if value.time() == time() else value)
    if isinstance(value, date | time):
        return SheetCell(value)
    if isinstance(value, bytes):
        return SheetCell(f"{len(value)} bytes")
    return SheetCell(str(value))
