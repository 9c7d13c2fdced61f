"""Whether figures are added as amounts are, whatever their line or column is called: the price effect of a
variance comes to a total, the price of a ticket does not."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from decimal import Decimal

from humble_sum.core.amounts import total
from humble_sum.core.intake.cell_reading import read_cell
from humble_sum.core.intake.column_headings import heading_of
from humble_sum.core.intake.conventions import infer
from humble_sum.core.intake.kinds import TOTAL
from humble_sum.core.intake.table import SheetCell, Table

LEAST_ROWS, MOST_ROWS = 2, 40
ZERO = Decimal(0)
Amounts = Sequence[Decimal | None]


def is_added(table: Table, index: int, numeric: Sequence[int], first_row: int, label: int | None) -> bool:
    """Whether a column of numbers comes to a total in a row that is called one, or to one column that is, in
    every row with those beside it."""
    rows = table.rows[first_row:]
    amounts = {n: _amounts([row[n] for row in rows]) for n in numeric}
    names = [row[label].text if label is not None else "" for row in rows]
    return _down(names, amounts[index]) or any(
        _across(index, n, amounts) for n in numeric if TOTAL.search(heading_of(table, n, first_row))
    )


def _amounts(cells: Sequence[SheetCell]) -> Amounts:
    """A column's amounts, by the convention that its cells are written in."""
    convention = infer([cell.value if isinstance(cell.value, str) else "" for cell in cells]).convention
    return [read_cell(cell, convention).amount for cell in cells]


def added_rows(
    names: Sequence[str], amounts: Callable[[int], Amounts], apart: Callable[[str], bool]
) -> set[int]:
    """The rows that stand apart by their names, and are added all the same: with others, right above a row
    that is called a total, to what it states in every column."""
    totals = {row for row, name in enumerate(names) if TOTAL.search(name)}
    near = {row for end in totals for row in range(max(0, end - MOST_ROWS), end)} - totals
    named = {row for row in near if apart(names[row])}
    found: set[int] = set()
    for end in totals:
        own = named & {*range(max(0, end - MOST_ROWS), end)}
        if own and not apart(names[end]):
            found |= own & {*_run(names, amounts, end, named)}
    return found


def _run(names: Sequence[str], amounts: Callable[[int], Amounts], end: int, named: set[int]) -> list[int]:
    """The rows right above a total that come to it, the total above among them; none if they do not."""
    stated = [amount or ZERO for amount in amounts(end)]
    sums = [ZERO] * len(stated)
    run: list[int] = []
    for row in range(end - 1, max(0, end - MOST_ROWS) - 1, -1):
        own = amounts(row)
        if all(amount is None for amount in own):
            continue
        run.append(row)
        sums = [total((so_far, amount or ZERO)) for so_far, amount in zip(sums, own, strict=True)]
        if len(run) >= LEAST_ROWS and any(sums) and sums == stated:
            return run if {*run} - named else []
        if TOTAL.search(names[row]):
            break
    return []


def _down(names: Sequence[str], amounts: Amounts) -> bool:
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


def _across(index: int, total_of: int, amounts: Mapping[int, Amounts]) -> bool:
    """Whether a column has, in every row that has it all, what those up to it come to, with this one."""
    parts = [n for n in amounts if n < total_of]
    sums = [
        (amounts[total_of][row], [amounts[n][row] for n in parts])
        for row in range(len(amounts[index]))
        if amounts[total_of][row] is not None
    ]
    added = [stated == total([a for a in of if a is not None]) for stated, of in sums if None not in of]
    return index in parts and len(parts) >= LEAST_ROWS and len(added) >= LEAST_ROWS and all(added)
