"""Journals, ledgers and lists of transactions: one row an entry, offered as a statement by account and month.

Entries are told by signals: a day in each row, accounts that come again in a month, a document beside each.
They are added up, never in silence: how many they are, and what their debits and credits come to, is noted,
and each row can be kept as a line instead.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.intake.amount_reading import read_amounts
from humble_sum.core.intake.arithmetic import across
from humble_sum.core.intake.conventions import infer
from humble_sum.core.intake.entry_rows import EntryRows, day_first, entry_rows, is_day, month_of
from humble_sum.core.intake.signals import HINTED, LIKE, NAMED, SETTLED, Signal, settle
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.locales import currencies

LEAST_ENTRIES, LEAST_HEADS = 6, 3  # rows and columns from which a table may be one of entries
SAMPLE = 400  # rows that are looked at to tell what columns are
MOSTLY = 0.9  # of a column's cells that make it one of something
DATED = 0.1  # of all rows, the least part that has a day: a document has few rows
MOST_ACROSS = 120  # columns that entries are set out in
OFTEN = 2.0  # entries for each account and month, on average, from which they come again
LONGEST_SIDE = 8  # letters of a side: Dr, S, Haben
CODES = ("codes", "account_column", "account_number", "line_or_account", "document_column")
NO_AMOUNTS = (*CODES, "counted", "balance_column", "no_money", "per_each", "one_of", "debit", "credit")


@dataclass(frozen=True)
class Measure:
    """One amount of an entry: the heading that names it, where there are several, and the columns that it is
    in with their signs. Debits less credits are one."""

    name: str
    columns: tuple[tuple[int, int], ...]


@dataclass(frozen=True)
class Entries:
    """How entries are added up: the row of headings and what each row below is; the columns that name an
    account, that say when or for what an entry is, its currency and its side; its measures; and the columns
    of numbers that are left out. Where `headed`, a heading over the entries names their account."""

    head: int
    rows: EntryRows
    labels: tuple[int, ...]
    headed: bool
    by: tuple[int, ...]
    measures: tuple[Measure, ...]
    currency: int | None
    side: int | None
    dated: bool
    day_first: bool
    name: str
    left_out: tuple[int, ...]


class _Looked:
    """A table of entries as it is looked at: its headings, and cells of a sample of its rows."""

    def __init__(self, table: Table, head: int, numbers: Sequence[int]):
        step = max(1, len(numbers) // SAMPLE)
        self.numbers = numbers[::step]
        self.rows = [table.rows[n] for n in self.numbers]
        self.heads = [cell.text.strip() for cell in table.rows[head]]
        self.width = table.width
        self.read: dict[int, list[Decimal | None]] = {}

    def amounts(self, column: int) -> list[Decimal | None]:
        """The amounts of a column, by how most of its cells are written; None of days and other words."""
        if column in self.read:
            return self.read[column]
        cells = [row[column] for row in self.rows]
        texts = [cell.value if isinstance(cell.value, str) and not is_day(cell) else "" for cell in cells]
        amounts, _ = read_amounts(texts, infer(texts).convention)
        pairs = zip(cells, amounts, strict=True)
        self.read[column] = [c.value if isinstance(c.value, Decimal) else a for c, a in pairs]
        return self.read[column]

    def said(self, column: int) -> list[SheetCell]:
        return [row[column] for row in self.rows if row[column].says]

    def texts(self, column: int) -> list[str]:
        return [cell.text.strip() for cell in self.said(column)]

    def distinct(self, column: int) -> int:
        return len({*self.texts(column)})

    def is_numeric(self, column: int) -> bool:
        said = self.said(column)
        read = sum(amount is not None for amount in self.amounts(column))
        return bool(said) and read >= MOSTLY * len(said)

    def is_of_days(self, column: int) -> bool:
        said = [cell for cell in self.said(column) if cell.text.strip() != self.heads[column]]
        days = sum(map(is_day, said))
        return days >= max(LEAST_ENTRIES / 2, DATED * len(self.rows)) and (
            days >= MOSTLY * len(said) or says(self.heads[column], "date_column")
        )

    def is_of_currencies(self, column: int) -> bool:
        texts = self.texts(column)
        return bool(texts) and all(len(t) == 3 and t.isupper() and currencies.known(t) for t in texts)

    def is_of_sides(self, column: int) -> bool:
        """Whether a column says of each entry whether it is a debit or a credit, and nothing else."""
        texts = {*self.texts(column)}
        if not texts or not all(len(t) <= LONGEST_SIDE and says(t, "debit", "credit") for t in texts):
            return False
        both = any(says(t, "debit") for t in texts) and any(says(t, "credit") for t in texts)
        return both or says(self.heads[column], "sides")


def entries_of(table: Table, by: int | None = None) -> Entries | None:
    """How a table of entries is added up, by month or by what the column `by` says; None where it is none."""
    head = next((n for n, row in enumerate(table.rows) if sum(c.says for c in row) >= LEAST_HEADS), None)
    if head is None or len(table.rows) - head - 1 < LEAST_ENTRIES:
        return None
    if any(isinstance(cell.value, Decimal) for cell in table.rows[head]):
        return None
    first = _Looked(table, head, range(head + 1, len(table.rows)))
    days = [n for n in range(first.width) if first.is_of_days(n)]
    if not days:
        return None
    numeric = [n for n in range(first.width) if n not in days and first.is_numeric(n)]
    rows = entry_rows(table, head, days[0], [n for n in numeric if not says(first.heads[n], *CODES)])
    if len(rows.entries) < LEAST_ENTRIES:
        return None
    return _columns(table, head, rows, days, by)


def _columns(table: Table, head: int, rows: EntryRows, days: Sequence[int], by: int | None) -> Entries | None:
    """What the columns of entries are; None where they are no entries, or cannot be set out by `by`."""
    looked = _Looked(table, head, rows.entries)
    numeric = [n for n in range(looked.width) if n not in days and looked.is_numeric(n)]
    measures = _measures(looked, numeric)
    valued = {n for measure in measures for n, _ in measure.columns}
    currency = next((n for n in range(looked.width) if looked.is_of_currencies(n)), None)
    side = next((n for n in range(looked.width) if n not in valued and looked.is_of_sides(n)), None)
    free = {*range(looked.width)} - {*days, *valued, *(n for n in (currency, side) if n is not None)}
    labels = _accounts(looked, free)
    headed = not labels and len({rows.accounts[n] for n in rows.entries}) > 1
    labels = labels if labels or headed else _words(looked, free)
    if not measures or not (labels or headed) or not _are_entries(looked, rows, days[0], labels):
        return None
    when = days[0]
    first = day_first(looked.texts(when))
    if by is None and first is None:
        return None
    if by is not None and (by in labels or by in valued or looked.distinct(by) > MOST_ACROSS):
        return None
    chosen = when if by is None else by
    name = "month" if chosen == when else looked.heads[chosen] or "column"
    taken = {*valued, *labels, chosen}
    unused = tuple(n for n in numeric if n not in taken and not says(looked.heads[n], *CODES))
    dated = chosen == when
    return Entries(
        head, rows, labels, headed, (chosen,), measures, currency, side, dated, bool(first), name, unused
    )


def _are_entries(looked: _Looked, rows: EntryRows, when: int, labels: Sequence[int]) -> bool:
    """Whether what a table says speaks for entries rather than for lines of a statement."""
    accounts = [
        tuple(row[n].text for n in labels) or (rows.accounts[number],)
        for number, row in zip(looked.numbers, looked.rows, strict=True)
    ]
    months = [month_of(row[when], True) for row in looked.rows]
    again = len(accounts) / max(len({*zip(accounts, months, strict=True)}), 1)
    signals = [
        Signal("entries", LIKE, "a day goes on for the rows below it")
        if rows.goes_on
        else Signal("entries", NAMED, "each row has a day of its own")
    ]
    if any(says(head, "document_column") for head in looked.heads):
        signals.append(Signal("entries", NAMED, "a column names the document of each"))
    if not labels or any(says(looked.heads[n], "account_column", "codes", "line_or_account") for n in labels):
        signals.append(Signal("entries", LIKE, "a column or a heading names the account of each"))
    reading = "entries" if again >= OFTEN else "lines"
    signals.append(Signal(reading, HINTED, f"an account has {again:.1f} rows a month"))
    if again == 1:
        signals.append(Signal("lines", NAMED, "an account has one row a month, as a statement in rows has"))
    if not any(_names_rows(looked, n) for n in range(looked.width)):
        signals.append(Signal("entries", NAMED, "no column names each row"))
    if any(_names_rows(looked, n) for n in range(when)):
        signals.append(Signal("lines", NAMED, "a column before the days names each row"))
    if len({*accounts}) == len(accounts):
        signals.append(Signal("lines", NAMED + NAMED, "no account comes again"))
    signals.append(Signal("lines", HINTED, "most tables are statements"))
    verdict = settle("table", signals, ("entries", "lines"), "lines")
    return verdict.reading == "entries" and verdict.margin >= SETTLED


def _names_rows(looked: _Looked, column: int) -> bool:
    """Whether a column has words that are others in each row, as names of lines are."""
    texts = [text for text in looked.texts(column) if any(map(str.isalpha, text))]
    document = says(looked.heads[column], "document_column")
    return not document and len(texts) == len(looked.rows) == len({*texts}) and not looked.is_of_days(column)


def _measures(looked: _Looked, numeric: Sequence[int]) -> tuple[Measure, ...]:
    """The amounts that an entry has: one, debits less credits, or several beside each other."""
    amounts = [n for n in numeric if says(looked.heads[n], "amount_column")]
    debits = [n for n in numeric if says(looked.heads[n], "debit")]
    credits = [n for n in numeric if says(looked.heads[n], "credit")]
    if len(amounts) == 1:
        return (Measure("", ((amounts[0], 1),)),)
    if (debits or credits) and not amounts:  # one side alone: the other column is empty, or there is none
        sides = (*((n, 1) for n in debits), *((n, -1) for n in credits))
        return (Measure("", sides),) if max(len(debits), len(credits)) == 1 else ()
    added = amounts or _added(looked, numeric)
    if len(added) == 1:
        return (Measure("", ((added[0], 1),)),)
    return tuple(Measure(looked.heads[n], ((n, 1),)) for n in added)


def _added(looked: _Looked, numeric: Sequence[int]) -> list[int]:
    """The columns that can be added over entries: those of a sum across; of the others no codes, rates,
    prices or balances, and none of bare whole numbers, which are codes as well, unless there is one only."""
    rows = [*zip(*map(looked.amounts, numeric), strict=True)]
    summed = {
        numeric[place]
        for relation in across(rows)
        for place in (relation.total, *(part for part, _ in relation.parts))
    }
    free = [n for n in numeric if not says(looked.heads[n], *CODES, "balance_column")]
    named = [n for n in free if not says(looked.heads[n], *NO_AMOUNTS, "percent_head", "percent_alone")]
    marked = [n for n in named if any(map(_is_marked, looked.said(n)))]
    found = [n for n in free if n in summed or n in marked]
    return found or (named if len(named) == 1 else [])


def _is_marked(cell: SheetCell) -> bool:
    """Whether a number is written as an amount is: with decimals, with marks, or by a number code."""
    if isinstance(cell.value, Decimal):
        return cell.value != cell.value.to_integral_value() or any(mark in cell.code for mark in ",.")
    return any(mark in cell.text for mark in ",.'()")


def _accounts(looked: _Looked, free: Collection[int]) -> tuple[int, ...]:
    """The columns that are headed as an account: its code and its name."""
    full = [n for n in sorted(free) if all(row[n].says for row in looked.rows)]
    named = [n for n in full if says(looked.heads[n], "account_column", "line_or_account")]
    named += [n for n in full if n not in named and says(looked.heads[n], "account_number")]
    return tuple(sorted(named[:2]))


def _words(looked: _Looked, free: Collection[int]) -> tuple[int, ...]:
    """The column of words that come again, where none is headed as an account."""
    full = [n for n in sorted(free) if all(row[n].says for row in looked.rows)]
    again = [n for n in full if 1 < looked.distinct(n) * OFTEN <= len(looked.rows)]
    words = [n for n in again if any(letter.isalpha() for text in looked.texts(n)[:8] for letter in text)]
    return (max(words, key=looked.distinct),) if words else ()
