"""Journals, ledgers and lists of transactions: one row an entry, offered as a statement by account and month.

Entries are told by signals: a day in each row, accounts that come again in a month, a document beside each.
They are added up, never in silence: how many they are, and what their debits and credits come to, is noted,
and each row can be kept as a line instead.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal

from humble_sum.core.amounts import EXACT, amount_text
from humble_sum.core.amounts import total as total_of
from humble_sum.core.errors import Fault
from humble_sum.core.intake.amount_reading import Convention, read_amounts
from humble_sum.core.intake.conventions import infer
from humble_sum.core.intake.periods import period_of
from humble_sum.core.intake.signals import HINTED, LIKE, NAMED, SETTLED, Signal, settle
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.locales import currencies

LEAST_ENTRIES, LEAST_HEADS = 6, 4  # rows and columns from which a table may be one of entries
SAMPLE = 400  # rows that are looked at to tell what columns are
MOSTLY = 0.9  # of a column's cells that make it one of something
MOST_ACROSS = 120  # columns that entries are set out in
OFTEN = 2.0  # entries for each account and month, on average, from which they come again
NO_AMOUNTS = ("codes", "counted", "account_column", "account_number", "line_or_account", "document_column")
NUMBERS = re.compile(r"(\d{1,2})[./-](\d{1,2})[./-](\d{4})")


@dataclass(frozen=True)
class Entries:
    """How entries are added up: the row of headings and that after the last entry; the columns that name an
    account, that say when or for what an entry is, that hold its amount with their signs, and its
    currency."""

    head: int
    end: int
    labels: tuple[int, ...]
    by: tuple[int, ...]
    values: tuple[tuple[int, int], ...]
    currency: int | None
    dated: bool
    day_first: bool
    name: str


class _Looked:
    """A table of entries as it is looked at: its headings, and cells of a sample of its rows."""

    def __init__(self, table: Table, head: int, end: int):
        self.table, self.head, self.end = table, head, end
        step = max(1, (end - head - 1) // SAMPLE)
        self.rows = [table.rows[n] for n in range(head + 1, end, step)]
        self.heads = [cell.text.strip() for cell in table.rows[head]]
        self.width = table.width

    def texts(self, column: int) -> list[str]:
        return [text for row in self.rows if (text := row[column].text.strip())]

    def distinct(self, column: int) -> int:
        return len({*self.texts(column)})

    def is_numeric(self, column: int) -> bool:
        said = [row[column] for row in self.rows if row[column].says]
        numbers = [c for c in said if isinstance(c.value, Decimal) or _is_amount(c.text)]
        return bool(said) and len(numbers) >= MOSTLY * len(said)

    def is_of_days(self, column: int) -> bool:
        said = [row[column] for row in self.rows if row[column].says]
        if len(said) < len(self.rows) or not _is_day(said[0]) or not _is_day(said[-1]):
            return False
        return sum(map(_is_day, said)) >= MOSTLY * len(said)


def entries_of(table: Table, by: int | None = None) -> Entries | None:
    """How a table of entries is added up, by month or by what the column `by` says; None where it is none."""
    head = next((n for n, row in enumerate(table.rows) if sum(c.says for c in row) >= LEAST_HEADS), None)
    if head is None or len(table.rows) - head - 1 < LEAST_ENTRIES:
        return None
    if any(isinstance(cell.value, Decimal) for cell in table.rows[head]):
        return None
    looked = _Looked(table, head, len(table.rows))
    days = [n for n in range(looked.width) if looked.is_of_days(n)]
    numeric = [n for n in range(looked.width) if n not in days and looked.is_numeric(n)]
    values = tuple(_values(looked, numeric))
    currency = next((n for n in range(looked.width) if _is_currency(looked, n)), None)
    labels = _labels(looked, {*days, *(n for n, _ in values), *([] if currency is None else [currency])})
    if not days or not values or not labels or not _are_entries(looked, days, labels):
        return None
    when = days[0]
    day_first = _day_first(looked.texts(when))
    if by is None and day_first is None:
        return None
    end = _end(table, head, when)
    chosen = when if by is None else by
    if (
        chosen in labels
        or chosen in {n for n, _ in values}
        or (by is not None and looked.distinct(by) > MOST_ACROSS)
    ):
        return None
    name = "month" if by is None or by == when else looked.heads[by] or "column"
    dated = chosen == when
    return Entries(head, end, labels, (chosen,), values, currency, dated, bool(day_first), name)


def _are_entries(looked: _Looked, days: Sequence[int], labels: Sequence[int]) -> bool:
    """Whether what a table says speaks for entries rather than for lines of a statement."""
    pairs = {(tuple(row[n].text for n in labels), _month(row[days[0]], True)) for row in looked.rows}
    again = len(looked.rows) / max(len(pairs), 1)
    signals = [Signal("entries", NAMED, "each row has a day of its own")]
    if any(says(head, "document_column") for head in looked.heads):
        signals.append(Signal("entries", NAMED, "a column names the document of each"))
    if any(says(looked.heads[n], "account_column", "codes", "line_or_account") for n in labels):
        signals.append(Signal("entries", LIKE, "a column names the account of each"))
    reading = "entries" if again >= OFTEN else "lines"
    signals.append(Signal(reading, HINTED, f"an account has {again:.1f} rows a month"))
    accounts = len({tuple(row[n].text for n in labels) for row in looked.rows})
    if accounts == len(looked.rows):
        signals.append(Signal("lines", NAMED + NAMED, "no account comes again"))
    signals.append(Signal("lines", HINTED, "most tables are statements"))
    verdict = settle("table", signals, ("entries", "lines"), "lines")
    return verdict.reading == "entries" and verdict.margin >= SETTLED


def _values(looked: _Looked, numeric: Sequence[int]) -> Iterator[tuple[int, int]]:
    """The columns that an entry's amount is in, with their signs: an amount, or debits less credits."""
    amounts = [n for n in numeric if says(looked.heads[n], "amount_column")]
    debits = [n for n in numeric if says(looked.heads[n], "debit")]
    credits = [n for n in numeric if says(looked.heads[n], "credit")]
    others = [n for n in numeric if not says(looked.heads[n], *NO_AMOUNTS)]
    if len(amounts) == 1:
        yield amounts[0], 1
    elif debits or credits:  # one side alone: the column of the other is empty, or there is none
        if len(debits) <= 1 and len(credits) <= 1:
            yield from ((n, 1) for n in debits)
            yield from ((n, -1) for n in credits)
    elif len(others) == 1:
        yield others[0], 1


def _labels(looked: _Looked, taken: set[int]) -> tuple[int, ...]:
    """The columns that name an account: its code and its name, or words that come again."""
    free = [n for n in range(looked.width) if n not in taken and all(row[n].says for row in looked.rows)]
    named = [n for n in free if says(looked.heads[n], "account_column", "line_or_account")]
    named += [n for n in free if n not in named and says(looked.heads[n], "account_number")]
    if named:
        return tuple(sorted(named[:2]))
    again = [n for n in free if 1 < looked.distinct(n) * OFTEN <= len(looked.rows)]
    words = [n for n in again if any(letter.isalpha() for text in looked.texts(n)[:8] for letter in text)]
    return (max(words, key=looked.distinct),) if words else ()


def _is_currency(looked: _Looked, column: int) -> bool:
    texts = looked.texts(column)
    return bool(texts) and all(len(t) == 3 and t.isupper() and currencies.known(t) for t in texts)


def _is_amount(text: str) -> bool:
    bare = text.strip().strip("()-−+ ")
    return bool(bare) and bare[0].isdigit() and all(c.isdigit() or c in ".,' \u00a0\u202f" for c in bare)


def _is_day(cell: SheetCell) -> bool:
    if not isinstance(cell.value, str):
        return isinstance(cell.value, date)
    text, found = cell.value, period_of(cell.value)
    return bool(NUMBERS.fullmatch(text.strip())) or (found is not None and found.day is not None)


def _day_first(texts: Sequence[str]) -> bool | None:
    """Whether days stand before months in dates of numbers; None where nothing tells."""
    found = [match for text in texts if (match := NUMBERS.fullmatch(text))]
    if not found or "." in found[0][0]:
        return True
    if any(int(match[1]) > 12 for match in found):
        return True
    return False if any(int(match[2]) > 12 for match in found) else None


def _end(table: Table, head: int, when: int) -> int:
    """The row after the last entry: below it are totals and notes without a day."""
    last = len(table.rows)
    while last > head + 1 and not table.rows[last - 1][when].says:
        last -= 1
    return last


def _month(cell: SheetCell, day_first: bool) -> str:
    if isinstance(cell.value, date):
        return f"{cell.value.year}-{cell.value.month:02d}"
    text = cell.text.strip()
    if text[4:5] == "-" and text[:4].isdigit() and text[5:7].isdigit():
        return text[:7]
    if found := NUMBERS.fullmatch(text):
        return f"{found[3]}-{int(found[2] if day_first else found[1]):02d}"
    period = period_of(text)
    return f"{period.year}-{period.month:02d}" if period is not None and period.month else text


def set_out_entries(table: Table, form: Entries, conventions: Mapping[int, Convention]) -> Table:
    """The table with a row for each account and a column for each month, entries added up. What they are and
    come to is noted."""
    rows = table.rows[form.head + 1 : form.end]
    amounts = [_signed(rows, column, sign, conventions) for column, sign in form.values]
    sums: dict[tuple[tuple[str, ...], str], list[Decimal]] = {}
    places: dict[tuple[tuple[str, ...], str], int] = {}
    units = {row[form.currency].text.strip() for row in rows} if form.currency is not None else set()
    several = len(units) > 1
    key_columns = (*form.labels, *([form.currency] if several and form.currency is not None else []))
    for number, row in enumerate(rows):
        label = tuple([row[n].text.strip() for n in key_columns])
        period = _month(row[form.by[0]], form.day_first) if form.dated else row[form.by[0]].text.strip()
        key = (label, period)
        places.setdefault(key, form.head + 1 + number)
        found = sums.setdefault(key, [])
        found.extend([amount for column in amounts if (amount := column[number])])
    labels = list(dict.fromkeys(label for label, _ in sums))
    periods = (
        sorted({period for _, period in sums}) if form.dated else list(dict.fromkeys(p for _, p in sums))
    )
    return _as_statement(table, form, (labels, periods), sums, places, (units, several), amounts)


def _signed(
    rows: Sequence[Sequence[SheetCell]], column: int, sign: int, conventions: Mapping[int, Convention]
) -> list[Decimal | None]:
    """The amounts of a column of entries, read by its convention, with its sign."""
    cells = [row[column] for row in rows]
    texts = [cell.value if isinstance(cell.value, str) else "" for cell in cells]
    read: list[Decimal | None]
    read, _ = read_amounts(texts, conventions.get(column) or infer(texts).convention)
    found = []
    for cell, amount in zip(cells, read, strict=True):
        value = cell.value if isinstance(cell.value, Decimal) else amount
        found.append(value if value is None or sign > 0 else EXACT.minus(value))
    return found


def _as_statement(
    table: Table,
    form: Entries,
    axes: tuple[list[tuple[str, ...]], list[str]],
    sums: Mapping[tuple[tuple[str, ...], str], list[Decimal]],
    places: Mapping[tuple[tuple[str, ...], str], int],
    unit: tuple[set[str], bool],
    amounts: Sequence[Sequence[Decimal | None]],
) -> Table:
    labels, periods = axes
    units, several = unit
    heads = [cell.text.strip() for cell in table.rows[form.head]]
    beside = [*form.labels, *([form.currency] if several and form.currency is not None else [])]
    code = len(form.labels) > 1
    first = [SheetCell("Code")] if code else []
    corner = " ".join(heads[n] for n in beside[code:]) or "Account"
    stated = f"{corner} ({next(iter(units))})" if len(units) == 1 and not several else corner
    made = [(*first, SheetCell(stated), *map(SheetCell, periods))]
    origins: dict[tuple[int, int], tuple[int, int]] = {}
    offset = len(first) + 1
    for number, label in enumerate(labels, 1):
        cells = [SheetCell(label[0])] if code else []
        cells.append(SheetCell(", ".join(label[1:]) if code else ", ".join(label)))
        for at, period in enumerate(periods):
            parts = sums.get((label, period))
            cells.append(SheetCell(total_of(parts) if parts else None))
            if parts:
                origins[number, offset + at] = table.origin(places[label, period], form.values[0][0])
        made.append(tuple(cells))
    notes = [*table.notes, _counted(table, form, amounts, len(labels))]
    return replace(
        table, rows=tuple(made), notes=tuple(notes), hidden=frozenset(), merged=(), origins=origins
    )


def _counted(
    table: Table, form: Entries, amounts: Sequence[Sequence[Decimal | None]], accounts: int
) -> Fault:
    """How many entries there are, and what their debits and credits come to."""
    every = [amount for column in amounts for amount in column if amount]
    debits = total_of([amount for amount in every if amount > 0])
    credits = total_of([amount for amount in every if amount < 0])
    count = form.end - form.head - 1
    what = (
        f"{count:,} entries are added up to {accounts:,} lines: debits of {amount_text(debits)}"
        f" and credits of {amount_text(EXACT.minus(credits))}."
    )
    return Fault(table.source, what, "Each entry can be kept as a line instead.")
