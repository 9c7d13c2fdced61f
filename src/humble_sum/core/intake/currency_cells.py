"""Signs of currencies in columns of their own, put to the figures that they stand before."""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from decimal import Decimal

from humble_sum.core.intake.cell_reading import is_number
from humble_sum.core.intake.lexicon import currency_signs
from humble_sum.core.intake.table import EMPTY, SheetCell, Table

SOON = 60  # rows in which the first sign stands


def with_signs(table: Table) -> Table:
    """The table with each sign of a currency that has a cell of its own before a number put to that number;
    a heading over the sign heads the number."""
    columns = [n for n in range(table.width - 1) if _is_of_signs(table, n)]
    if not columns:
        return table
    return table.with_rows(tuple(_joined(row, columns) for row in table.rows))


def _is_of_signs(table: Table, index: int) -> bool:
    """Whether a column says nothing below its headings but signs of currencies, each before a number."""
    cells = table.column(index)
    top = next((n for n, cell in enumerate(cells[:SOON]) if _is_sign(cell)), None)
    if top is None:
        return False
    below = [n for n in range(top, len(cells)) if cells[n].says]
    signs = [n for n in below if _is_sign(cells[n])]
    beside = table.column(index + 1)
    return below == signs and all(is_number(beside[n]) or beside[n].formula for n in signs)


def _is_sign(cell: SheetCell) -> bool:
    if not isinstance(cell.value, str):
        return False
    text = cell.value.strip()
    before, _ = currency_signs()
    # Letters alone may be names of anything.
    return any(unicodedata.category(letter) == "Sc" for letter in text) and any(
        sign == text for sign, _ in before.get(text[0], ())
    )


def _joined(row: Sequence[SheetCell], columns: Sequence[int]) -> tuple[SheetCell, ...]:
    made = list(row)
    for index in columns:
        cell, beside = made[index], made[index + 1]
        if not cell.says:
            continue
        made[index] = EMPTY
        if not _is_sign(cell):
            made[index + 1] = beside if beside.says else cell
        elif isinstance(beside.value, str):
            made[index + 1] = beside._replace(value=f"{cell.text.strip()}{beside.value.strip()}")
        elif isinstance(beside.value, Decimal) and not beside.code and not beside.formula:
            made[index + 1] = beside._replace(value=f"{cell.text.strip()}{beside.value:f}")
    return tuple(made)
