"""Sums, derived columns and shares that a workbook's own formulas make."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from humble_sum.core.intake.columns import Layout
from humble_sum.core.intake.found_sums import Parts
from humble_sum.core.intake.signed_cells import SUBTOTAL, Place, quotient, signed_cells
from humble_sum.core.intake.table import Table


def formula_sums(
    table: Table, layout: Layout, rows: Mapping[int, int], headings: Collection[int]
) -> dict[int, Parts]:
    """Sums down, by line number: those that are the same in every column that has one.

    `rows` gives each row's line number; headings add nothing.
    """
    found: dict[int, Parts] = {}
    for row, line in rows.items():
        ways = set()
        for column in layout.figures:
            formula = table.rows[row][column.index].formula
            cells = _added(table, formula)
            if cells is None or any(at != column.index for _, at in cells):
                continue
            passed = _passed_over(table, formula or "", cells, column.index)
            parts = tuple(
                (rows[at], sign) for (at, _), sign in cells.items() if at in rows and at not in passed
            )
            ways.add(tuple(part for part in parts if part[0] not in headings and part[0] != line))
        if len(ways) == 1 and (parts := ways.pop()):
            found[line] = parts
    return found


def _added(table: Table, formula: str | None) -> dict[Place, int] | None:
    """The cells that a formula adds, with their signs; None where it adds one of another table, as it is then
    no sum of this one's lines."""
    cells = signed_cells(formula) if formula else None
    if cells is None:
        return None
    here = {(row, at): sign for (of, at), sign in cells.items() if (row := table.row_of(of)) is not None}
    return here if len(here) == len(cells) else None


def _passed_over(table: Table, formula: str, cells: Collection[Place], column: int) -> set[int]:
    """The rows of a range that a subtotal does not count, as they are subtotals themselves."""
    if not SUBTOTAL.search(formula):
        return set()
    held = (row for row, _ in cells if row < len(table.rows))
    return {row for row in held if SUBTOTAL.search(table.rows[row][column].formula or "")}


def formula_columns(table: Table, layout: Layout) -> dict[int, Parts]:
    """Derived columns: those whose every formula adds, or takes away, the same figures of its row."""
    place = {column.index: n for n, column in enumerate(layout.figures)}
    found = {}
    for column in layout.figures:
        ways = set()
        for row in range(layout.first_row, len(table.rows)):
            formula = table.rows[row][column.index].formula
            cells = _added(table, formula)
            if cells and len(cells) > 1 and all(at == row and to in place for at, to in cells):
                ways.add(tuple((place[to], sign) for (_, to), sign in cells.items()))
        if len(ways) == 1 and _derives(parts := ways.pop()):
            found[place[column.index]] = parts
    return found


def _derives(parts: Parts) -> bool:
    """Whether a column can be made so: others added, or one taken from another."""
    signs = sorted(sign for _, sign in parts)
    return signs == [-1, 1] or -1 not in signs


def formula_shares(table: Table, layout: Layout, rows: Mapping[int, int]) -> dict[int, tuple[int, int]]:
    """Columns whose every formula divides the row's figure in one column by that of one line."""
    place = {column.index: n for n, column in enumerate(layout.figures)}
    found = {}
    for column in layout.figures:
        ways = set()
        for row in rows:
            formula = table.rows[row][column.index].formula
            cells = quotient(formula) if formula else None
            if cells is None:
                continue
            (of, at), (by, beside) = cells
            whole = rows.get(-1 if (there := table.row_of(by)) is None else there)
            if whole is not None and table.row_of(of) == row and at == beside and at in place:
                ways.add((place[at], whole))
        if len(ways) == 1:
            found[place[column.index]] = ways.pop()
    return found
