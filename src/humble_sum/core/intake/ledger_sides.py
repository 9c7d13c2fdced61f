"""Dr and Cr after figures as the sides of a ledger."""

from __future__ import annotations

import re
from dataclasses import replace

from humble_sum.core.intake.table import SheetCell, Table

LEDGER = re.compile(r"\b(dr|cr)\.?\s*$", re.IGNORECASE)


def with_sides(table: Table) -> Table:
    """The table with Dr and Cr after its figures as sides of a ledger, in columns that have a Dr: there Cr
    is its other side, and not crores."""
    sided = [n for n in range(table.width) if any(_has_debit(cell) for cell in table.column(n))]
    if not sided:
        return table

    def side(index: int, cell: SheetCell) -> SheetCell:
        if index not in sided or not isinstance(cell.value, str) or not any(c.isdigit() for c in cell.value):
            return cell
        return cell._replace(value=LEDGER.sub(lambda found: found[1].upper(), cell.value))

    rows = tuple(tuple(side(n, cell) for n, cell in enumerate(row)) for row in table.rows)
    return replace(table, rows=rows)


def _has_debit(cell: SheetCell) -> bool:
    if not isinstance(cell.value, str):
        return False
    text = cell.value
    found = LEDGER.search(text)
    return bool(found and found[1].lower() == "dr" and any(character.isdigit() for character in text))
