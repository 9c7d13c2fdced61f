"""Whether a column's figures are added as amounts are, whatever its heading names: the price effect of a
variance comes to a total, the price of a ticket does not."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from humble_sum.core.amounts import total
from humble_sum.core.intake.cell_reading import read_cell
from humble_sum.core.intake.headings import heading_of
from humble_sum.core.intake.kinds import TOTAL
from humble_sum.core.intake.table import Table

LEAST_ROWS = 2


def is_added(table: Table, index: int, numeric: Sequence[int], first_row: int, label: int | None) -> bool:
    """Whether a column of numbers comes to a total in a row that is called one, or to one column that is, in
    every row with those beside it."""
    rows = table.rows[first_row:]
    amounts = {n: [read_cell(row[n]).amount for row in rows] for n in numeric}
    names = [row[label].text if label is not None else "" for row in rows]
    return _down(names, amounts[index]) or any(
        _across(index, n, amounts) for n in numeric if TOTAL.search(heading_of(table, n, first_row))
    )


def _down(names: Sequence[str], amounts: Sequence[Decimal | None]) -> bool:
    """Whether a row that is called a total has what those above it come to, since the start or another."""
    since: list[Decimal] = []
    for name, amount in zip(names, amounts, strict=True):
        if amount is not None and TOTAL.search(name):
            if len(since) >= LEAST_ROWS and total(since) == amount:
                return True
            since = []
        elif amount is not None:
            since.append(amount)
    return False


def _across(index: int, total_of: int, amounts: dict[int, list[Decimal | None]]) -> bool:
    """Whether a column has, in every row that has it all, what those up to it come to, with this one."""
    parts = [n for n in amounts if n < total_of]
    whole = [
        (amounts[total_of][row], [amounts[n][row] for n in parts])
        for row in range(len(amounts[index]))
        if amounts[total_of][row] is not None
    ]
    added = [stated == total([a for a in of if a is not None]) for stated, of in whole if None not in of]
    return index in parts and len(parts) >= LEAST_ROWS and len(added) >= LEAST_ROWS and all(added)
