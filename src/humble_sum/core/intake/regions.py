"""Several tables in one sheet, told apart: two sides beside each other, or one below another.

Each region keeps the rows and columns of its sheet, with what belongs to another left empty, so that every
place is still called as in the source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from humble_sum.core.intake.blocks import blocks, first_figures, is_words, says_something
from humble_sum.core.intake.cell_reading import is_number, is_year
from humble_sum.core.intake.table import EMPTY, SheetCell, Table
from humble_sum.core.intake.units import unit_within

MOST_GAPS = 40  # empty columns that two sides are looked for on either side of


def regions(table: Table) -> list[Table]:
    """The tables of a sheet, in the order in which they are read; the sheet itself where it is one."""
    return [side for part in blocks(table) for side in _sides(part)]


def has_figures(table: Table) -> bool:
    """Whether there is a figure in a table at all, or a formula for one."""
    return any(
        cell.formula is not None or (is_number(cell) and not is_year(cell))
        for row in table.rows
        for cell in row
    )


def _sides(table: Table) -> list[Table]:
    """Two sides, each with labels and figures of its own: with an empty column between, or headed alike."""
    said = {column for row in table.rows for column, cell in enumerate(row) if says_something(cell)}
    gaps = [gap for gap in range(1, table.width - 2) if gap not in said and gap + 1 in said]
    ways = [(range(gap), range(gap + 1, table.width)) for gap in gaps[:MOST_GAPS]]
    if (begins := _headed_again(table)) is not None:
        ways.append((range(begins), range(begins, table.width)))
    for left, right in ways:
        if all(_has_labels_and_figures(table, side) for side in (left, right)):
            first = first_figures(table)
            parts = (_only(table, set(left), first), _only(table, set(right), first))
            return [_named(part, side) for part, side in zip(parts, (left, right), strict=True)]
    return [table]


def _headed_again(table: Table) -> int | None:
    """Where the second half of a table begins whose figures are headed as those of the first are:
    liabilities, rupees, assets, rupees."""
    first = first_figures(table)
    heads = next((row for row in reversed(table.rows[:first]) if sum(map(says_something, row)) > 1), ())
    texts = [cell.text.strip().casefold() for cell in heads]
    while texts and not texts[-1]:
        texts.pop()
    half, odd = divmod(len(texts), 2)
    if odd or half < 2 or not all(texts[1:half]) or texts[1:half] != texts[half + 1 :]:
        return None
    words = [row[half].text.strip() for row in table.rows[first:] if is_words(row[half])]
    return half if len(set(words)) == len(words) > 1 else None


def _has_labels_and_figures(table: Table, side: range) -> bool:
    """Whether a side has rows that begin with words and go on with figures."""
    rows = 0
    for row in table.rows:
        cells = [row[column] for column in side if says_something(row[column])]
        if len(cells) > 1 and is_words(cells[0]) and any(is_number(cell) for cell in cells[1:]):
            rows += 1
    return rows > 1


def _only(table: Table, columns: set[int], first: int) -> Table:
    """One side of a table. What stands above the headings of both sides is everybody's: titles, and a unit
    where the side states none of its own."""
    heads = max((n for n, row in enumerate(table.rows[:first]) if _several_say(row)), default=first)
    own = any(_states_a_unit(row[n]) for row in table.rows[:first] for n in columns)
    rows = []
    for place, row in enumerate(table.rows):
        title = place < first and not _several_say(row)
        shared = place < heads and not own
        rows.append(
            tuple(
                cell if title or n in columns or (shared and _states_a_unit(cell)) else EMPTY
                for n, cell in enumerate(row)
            )
        )
    return replace(table, rows=tuple(rows))


def _several_say(row: Sequence[SheetCell]) -> bool:
    return sum(map(says_something, row)) > 1


def _states_a_unit(cell: SheetCell) -> bool:
    unit, _ = unit_within(cell.text)
    return unit is not None and bool(unit.currency or unit.power)


def _named(table: Table, side: range) -> Table:
    """A side called by what heads its labels, beside the sheet's own name."""
    first = first_figures(table)
    for row in reversed(table.rows[:first]):
        cells = [row[column] for column in side if says_something(row[column])]
        if len(cells) > 1 and is_words(cells[0]):
            heading = cells[0].text.strip()
            return replace(table, name=f"{table.name}: {heading}" if table.name else heading)
    return table
