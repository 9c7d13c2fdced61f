"""Columns that say when each row is of, as tables of one row an amount have them: years, months."""

from __future__ import annotations

import re
from collections.abc import Sequence

from humble_sum.core.amounts import total
from humble_sum.core.intake.cell_reading import is_number, read_cell
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.vocabulary import says

WRITTEN = re.compile(r"(19|20|21)\d\d((0[1-9]|1[0-2])(0[1-9]|[12]\d|3[01])?)?")
YEARS, PARTS = range(1900, 2201), range(54)  # weeks have the highest numbers
HEADING_ROWS = 6


def columns_of_times(table: Table, numeric: Sequence[int]) -> list[int]:
    """Of the columns of numbers, those of years, and beside these of months, quarters, periods or weeks.

    Where there are no years a column *Month* may be of amounts, this month's, unless all of them can be read
    as years, months or days."""
    years = [
        index
        for index in numeric
        if (_is(table, index, "year_column", YEARS) or _is_written_out(table, index))
        and not _adds(table, index, numeric)
    ]
    parts = [index for index in numeric if index not in years and _is(table, index, "part_column", PARTS)]
    return years + parts if years else []


def _is_written_out(table: Table, index: int) -> bool:
    """Whether a column that is headed by a time says nothing but years, months or days: 2026, 202603."""
    cells = table.column(index)
    heads = [cell.text.strip() for cell in cells[:HEADING_ROWS]]
    if not any(says(head, "year_column", "part_column", "date_column") for head in heads):
        return False
    said = [cell.text.strip() for cell in cells if is_number(cell)]
    return len(said) > 1 and all(WRITTEN.fullmatch(text) for text in said)


def _is(table: Table, index: int, name: str, numbers: range) -> bool:
    """Whether a column has such a heading, and below it several numbers, all whole and of these."""
    cells = table.column(index)
    heads = [cell.text.strip() for cell in cells[:HEADING_ROWS]]
    if not any(says(head, name) for head in heads):
        return False
    read = [read_cell(cell).amount for cell in cells if is_number(cell)]
    integers = [amount for amount in read if amount is not None and amount == amount.to_integral_value()]
    return len(integers) == len(read) > 1 and all(int(amount) in numbers for amount in integers)


def _adds(table: Table, index: int, numeric: Sequence[int]) -> bool:
    """Whether a column is the sum of the others in every row: the whole year's amounts, not its number."""
    others = [other for other in numeric if other != index]
    rows = [row for row in table.rows if is_number(row[index])]
    sums = [total(amount for other in others if (amount := read_cell(row[other]).amount)) for row in rows]
    return bool(others) and sums == [read_cell(row[index]).amount for row in rows]
