"""Totals among the entries of a journal: what they state is held against the entries above them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import accumulate

from humble_sum.core.amounts import EXACT
from humble_sum.core.intake.entries import Entries
from humble_sum.core.intake.stated_totals import SourceBreak
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.vocabulary import says

Amounts = Mapping[int, Mapping[int, Decimal]]  # by column and row
Running = Mapping[int, Sequence[Decimal]]


@dataclass(frozen=True)
class TotalsRead:
    """How many rows without a day are totals of entries; where these differ from the entries; and the other
    rows with amounts."""

    count: int
    breaks: tuple[SourceBreak, ...]
    others: tuple[int, ...]


def totals_among(table: Table, form: Entries, written: Amounts, signed: Amounts) -> TotalsRead:
    """What the rows without a day are. A total is of the entries since any total before it, or of all; of
    their amounts as `written`, or `signed` by the side of each. A row that is called a total and comes to
    none of these differs."""
    entries = form.rows.entries
    running = [_running(entries, amounts) for amounts in (written, signed)]
    count, place, starts = 0, 0, [0]
    breaks: list[SourceBreak] = []
    others: list[int] = []
    for row in form.rows.others:
        while place < len(entries) and entries[place] < row:
            place += 1
        stated = {column: amounts[row] for column, amounts in written.items() if row in amounts}
        ways = [_off(stated, each, start, place) for each in running for start in starts if start < place]
        nearest = min(ways, key=lambda off: sum(map(abs, off.values())), default={})
        differs = {column: off for column, off in nearest.items() if off}
        called = any(isinstance(c.value, str) and says(c.text.strip(), "total") for c in table.rows[row])
        if not nearest or (differs and not called):
            others.append(row)
            continue
        count += 1
        starts.append(place)
        breaks.extend(_breaks(table, form, row, stated, differs))
    return TotalsRead(count, tuple(breaks), tuple(others))


def _running(entries: Sequence[int], amounts: Amounts) -> Running:
    none = Decimal(0)
    return {
        column: [*accumulate((there.get(row, none) for row in entries), EXACT.add, initial=none)]
        for column, there in amounts.items()
    }


def _off(stated: Mapping[int, Decimal], running: Running, start: int, end: int) -> dict[int, Decimal]:
    """By how much what is stated differs from the entries from one to another. A total may state a credit
    without its sign."""
    found = {}
    for column, amount in stated.items():
        comes_to = EXACT.subtract(running[column][end], running[column][start])
        found[column] = EXACT.subtract(amount.copy_sign(comes_to) if amount > 0 else amount, comes_to)
    return found


def _breaks(
    table: Table, form: Entries, row: int, stated: Mapping[int, Decimal], differs: Mapping[int, Decimal]
) -> Iterator[SourceBreak]:
    label = next((cell.text.strip() for cell in table.rows[row] if cell.says), "")
    for column, off in differs.items():
        comes_to = EXACT.subtract(stated[column], off)
        heading = table.rows[form.head][column].text.strip()
        yield SourceBreak(table.sheet_place(row, column), label, heading, stated[column], comes_to, 0)
