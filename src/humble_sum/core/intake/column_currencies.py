"""Columns in several currencies: 2026 £m beside 2026 $m. A pack has one currency."""

from __future__ import annotations

from collections import Counter

from humble_sum.core.intake.amount_reading import POINT, read
from humble_sum.core.intake.column_roles import LOOKED_AT
from humble_sum.core.intake.columns import ColumnRead, Layout
from humble_sum.core.intake.looks import Looks
from humble_sum.core.intake.table import Table


def columns_by_currency(table: Table, layout: Layout, looks: Looks) -> dict[str, list[ColumnRead]]:
    """The columns of figures that state a currency, by it, in the order of the first of each: in their
    headings or the table's, in most of their cells, or in the codes of these. Prices may be in another."""
    found: dict[str, list[ColumnRead]] = {}
    for place, column in enumerate(layout.figures):
        headed = column.unit and column.unit.currency
        coded = looks.columns.get(place, looks.common).clauses.get("currency")
        stated = headed or _in_cells(table, layout, column) or coded
        if stated and not column.percent and not column.per_unit:
            found.setdefault(stated, []).append(column)
    return found


def _in_cells(table: Table, layout: Layout, column: ColumnRead) -> str | None:
    """The currency that most of a column's first cells with figures state."""
    convention = column.inferred.convention if column.inferred else POINT
    cells = table.column(column.index)[layout.first_row : layout.first_row + LOOKED_AT]
    stated = Counter(read(cell.text, convention).currency for cell in cells if cell.says)
    currency, most = stated.most_common(1)[0] if stated else (None, 0)
    return currency if 2 * most > stated.total() else None
