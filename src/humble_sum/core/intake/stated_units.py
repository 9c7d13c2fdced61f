"""Where a table states a unit of its figures: over a column, over all of them, or in a note below."""

from __future__ import annotations

from collections.abc import Sequence

from humble_sum.core.intake.column_headings import stands_above
from humble_sum.core.intake.shown_heading import heading_text
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.units import Unit, unit_of, unit_within


def unit_above(table: Table, index: int, first_row: int) -> Unit | None:
    """The unit that stands over one column by itself, as in a row of units."""
    found = None
    for row in range(first_row):
        text, _ = stands_above(table, row, index)
        within = unit_within(text)[0]
        # Behind other words, over several columns, it has to say both: Year to 31 March (£ thousands).
        plain = within is not None and within.currency is not None and within.power is not None
        found = unit_of(text) or (within if plain else None) or found
    return found


def unit_of_table(table: Table, figures: list[int], first_row: int, of_periods: bool) -> Unit | None:
    """The unit that is stated over the whole table: in a title, beside the heading of the labels, or where
    its figures are `of_periods`, over whichever of them, with nothing else in its row."""
    found: Unit | None = None
    others = sorted({*range(table.width)} - {*figures})
    for row in range(first_row):
        said = [index for index, cell in enumerate(table.rows[row]) if cell.text.strip()]
        alone = len(said) == 1 and (of_periods or _heads_follow(table, row, figures, first_row))
        for cell in (table.rows[row][index] for index in (said if alone else others)):
            text = heading_text(cell)
            stated = unit_of(text) or unit_within(text)[0]
            if stated:
                found = stated.over(found)
    if found is None or found.power is None:
        found = _unit_below(table, figures, found)
    named = unit_within(table.name)[0] if table.name else None
    return named.over(found) if named and (found is None or found.power is None) else found


def _heads_follow(table: Table, row: int, figures: list[int], first_row: int) -> bool:
    """Whether headings of several columns stand below a row: what stands alone in it is said of them all."""
    below = table.rows[row + 1 : first_row]
    return any(sum(bool(cells[index].text.strip()) for index in figures) > 1 for cells in below)


def _unit_below(table: Table, figures: list[int], above: Unit | None) -> Unit | None:
    """The unit that a note below the last figure states, where nothing above the table states a scale."""
    for row in range(last_figures(table, figures) + 1, len(table.rows)):
        for cell in table.rows[row]:
            within = unit_within(cell.text)[0]
            stated = unit_of(cell.text) or (within if within and within.power is not None else None)
            if stated:
                return stated.over(above)
    return above


def last_figures(table: Table, figures: Sequence[int]) -> int:
    """The last row in which a column of figures says anything, or would once its formula is worked out; below
    it are notes."""
    for row in range(len(table.rows) - 1, -1, -1):
        cells = [table.rows[row][index] for index in figures]
        if any(cell.says or cell.formula for cell in cells):
            return row
    return -1
