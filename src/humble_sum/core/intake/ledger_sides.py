"""Dr and Cr after figures: the sides of a ledger, or crores."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from decimal import Decimal

from humble_sum.core.amounts import total
from humble_sum.core.errors import Fault
from humble_sum.core.intake.amount_reading import read
from humble_sum.core.intake.signals import HINTED, LIKE, MOST, NAMED, SETTLED, USUAL, Signal, Verdict, settle
from humble_sum.core.intake.table import SheetCell, Table, column_letters
from humble_sum.core.intake.units import unit_within
from humble_sum.core.intake.vocabulary import says

LEDGER = re.compile(r"\b(dr|cr)\.?\s*$", re.IGNORECASE)
IN_THREES = re.compile(r"\d,\d{3},\d{3}\b|(?<![\d,])\d{1,3},\d{3}\.\d\d(?!\d)")
IN_LAKHS = re.compile(r"\d,\d{2},\d{3}\b")
TOP = 12  # rows in which a unit or a heading stands


def with_sides(table: Table) -> Table:
    """The table with Dr and Cr after its figures as sides of a ledger: in columns that have a Dr, and where
    evidence says that Cr is a credit and not a crore. What is not sure is noted."""
    sided, notes = set(), []
    for index in range(table.width):
        marks = {mark for cell in table.column(index) if (mark := side_mark(cell))}
        if marks == {"cr"}:
            verdict = _credits_or_crores(table, index)
            if verdict.reading == "credits":
                sided.add(index)
            if verdict.margin < SETTLED:
                other = "crores" if verdict.reading == "credits" else "credits"
                what = (
                    f"Cr in column {column_letters(index)} is read as {verdict.reading}; it could be {other}."
                )
                notes.append(Fault(table.source, what, "Decide its cells, or the unit of the column."))
        elif "dr" in marks:
            sided.add(index)
    if not sided:
        return replace(table, notes=(*table.notes, *notes)) if notes else table
    rows = tuple(
        tuple(_side(cell) if n in sided else cell for n, cell in enumerate(row)) for row in table.rows
    )
    return replace(table, rows=rows, notes=(*table.notes, *notes))


def _side(cell: SheetCell) -> SheetCell:
    if side_mark(cell) is None:
        return cell
    return cell._replace(value=LEDGER.sub(lambda found: found[1].upper(), str(cell.value)))


def side_mark(cell: SheetCell) -> str | None:
    """The Dr or Cr behind the digits of a cell."""
    text = cell.value
    if not isinstance(text, str) or text[-1:] not in "rR.":
        return None
    found = LEDGER.search(text)
    return found[1].lower() if found and any(map(str.isdigit, text)) else None


def _credits_or_crores(table: Table, index: int) -> Verdict:
    signals = list(_signals(table, index))
    return settle(f"column {column_letters(index)}", signals, ("crores", "credits"), "crores")


def _signals(table: Table, index: int) -> Iterator[Signal]:
    """What speaks for Cr being crores, and for its being credits."""
    yield Signal("crores", USUAL, "small letters mostly are")
    top = [text for row in table.rows[:TOP] for cell in row if (text := cell.text.strip())]
    units = [unit for text in (*top, table.name) if (unit := unit_within(text)[0]) is not None]
    if any(unit.currency == "INR" or unit.power in (5, 7) for unit in units):
        yield Signal("crores", HINTED, "the table is in rupees")
    else:
        yield Signal("credits", HINTED, "nothing in the table is in rupees")
    if any(says(cell.text, "balance_column", "debit", "credit") for cell in table.column(index)[:TOP]):
        yield Signal("credits", NAMED, "balances stand in it")
    texts = [cell.text for cell in table.column(index) if isinstance(cell.value, str) and side_mark(cell)]
    if any(map(IN_LAKHS.search, texts)):
        yield Signal("crores", LIKE, "its digits are grouped as in lakhs")
    elif any(map(IN_THREES.search, texts)):
        yield Signal("credits", LIKE, "its digits are grouped in threes, beyond what crores come to")
    if _cancels_out(table.column(index)):
        yield Signal("credits", MOST, "as credits they cancel out what is beside them")


def _cancels_out(cells: Sequence[SheetCell]) -> bool:
    """Whether the amounts with Cr, taken off the others, leave nothing."""
    amounts: list[Decimal] = []
    for cell in cells:
        bare = _side(cell) if isinstance(cell.value, str) else cell
        amount = bare.value if isinstance(bare.value, Decimal) else read(bare.text).amount
        if amount:
            amounts.append(amount)
    return len(amounts) > 1 and total(amounts) == 0
