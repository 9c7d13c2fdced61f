"""Entries added up: a row for each account, a column for each month or other key, and what they come to."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.amounts import total as total_of
from humble_sum.core.errors import Fault
from humble_sum.core.intake.amount_reading import Convention, read, read_amounts
from humble_sum.core.intake.conventions import infer
from humble_sum.core.intake.entries import Entries
from humble_sum.core.intake.entry_rows import month_of
from humble_sum.core.intake.entry_totals import totals_among
from humble_sum.core.intake.stated_totals import SourceBreak
from humble_sum.core.intake.table import SheetCell, Table, squared
from humble_sum.core.intake.units import unit_within
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.once import once
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.printing.resolved_clauses import ResolvedClauses

MOST_NAMED = 3
PLAIN = ResolvedClauses()
Key = tuple[tuple[str, ...], str, int]  # an account, a month or other key, and a measure


@dataclass(frozen=True)
class _Read:
    """The amounts of the rows of a table by column, as they are written and each with its sign; the cells
    that are none; and the currency of each row that states one."""

    written: dict[int, dict[int, Decimal]]
    signed: dict[int, dict[int, Decimal]]
    unread: list[tuple[int, int]]
    currencies: dict[int, str]

    @once
    def named(self) -> frozenset[str]:
        """The currencies that are stated."""
        return frozenset(self.currencies.values()) - {""}

    @property
    def mixed(self) -> bool:
        return len(self.named) > 1

    def currency(self, row: int) -> str:
        """The currency of a row; of one that states none the only one that is stated."""
        return self.currencies.get(row, "") if self.mixed else next(iter(self.named), "")


def added_up(
    table: Table, form: Entries, conventions: Mapping[int, Convention]
) -> tuple[Table, tuple[SourceBreak, ...]]:
    """The table with a row for each account and a column for each month, entries added up, and the totals
    among the entries that these do not come to. What was added, checked and left out is noted."""
    there = _read(table, form, conventions)
    totals = totals_among(table, form, there.written, there.signed)
    sums: dict[Key, list[Decimal]] = {}
    first: dict[Key, tuple[int, int]] = {}
    for row in form.rows.entries:
        cells = table.rows[row]
        label = tuple([cells[n].text.strip() for n in form.labels])
        label = (form.rows.accounts[row], *label) if form.headed else label
        if there.mixed:
            label = (*label, there.currency(row) or "no currency")
        day = table.rows[form.rows.days[row]][form.by[0]]
        across = month_of(day, form.day_first) if form.dated else cells[form.by[0]].text.strip()
        for place, measure in enumerate(form.measures):
            for column, _ in measure.columns:
                if (amount := there.signed[column].get(row)) is not None:
                    sums.setdefault((label, across, place), []).append(amount)
                    first.setdefault((label, across, place), (row, column))
    made = _as_statement(table, form, sums, first, there)
    accounts = len({label for label, _, _ in sums})
    notes = [_counted(table, form, there, accounts), *_left_out(table, form, there, totals.others)]
    if totals.count:
        what = f"{_several(totals.count, 'total')} among them: held against the entries above."
        notes.append(Fault(table.source, what))
    return replace(made, notes=(*table.notes, *notes)), totals.breaks


def _several(count: int, word: str) -> str:
    return f"{count:,} {word}" if count == 1 else f"{count:,} {word}s"


def _read(table: Table, form: Entries, conventions: Mapping[int, Convention]) -> _Read:
    rows = (*form.rows.entries, *form.rows.others)
    found = _Read({}, {}, [], {})
    if form.currency is not None:
        found.currencies.update((row, table.rows[row][form.currency].text.strip()) for row in rows)
    for column, sign in (each for measure in form.measures for each in measure.columns):
        cells = [table.rows[row][column] for row in rows]
        texts = [cell.value if isinstance(cell.value, str) else "" for cell in cells]
        amounts: list[Decimal | None]
        amounts, _ = read_amounts(texts, conventions.get(column) or infer(texts).convention)
        written, signed = found.written.setdefault(column, {}), found.signed.setdefault(column, {})
        for row, cell, amount in zip(rows, cells, amounts, strict=True):
            value = cell.value if isinstance(cell.value, Decimal) else amount
            unstated = isinstance(cell.value, str) and amount is not None and row not in found.currencies
            if unstated and (currency := _stated_currency(str(cell.value))) is not None:
                found.currencies[row] = currency
            if value is not None:
                written[row] = value
                turned = _is_credit(table, form, row, value) != (sign < 0)
                signed[row] = EXACT.minus(value) if turned else value
            elif cell.says and any(map(str.isalnum, cell.text)):
                found.unread.append((row, column))
    return found


def _stated_currency(text: str) -> str | None:
    """The currency that a cell states beside its digits; most cells are bare, and need no reading."""
    bare = text.strip()
    return None if bare[:1].isdigit() and bare[-1:].isdigit() else read(bare).currency


def _is_credit(table: Table, form: Entries, row: int, amount: Decimal) -> bool:
    """Whether a column says that a positive amount is a credit."""
    return form.side is not None and amount > 0 and says(table.rows[row][form.side].text.strip(), "credit")


def _as_statement(
    table: Table,
    form: Entries,
    sums: Mapping[Key, Sequence[Decimal]],
    first: Mapping[Key, tuple[int, int]],
    there: _Read,
) -> Table:
    labels = list(dict.fromkeys(label for label, _, _ in sums))
    keys = dict.fromkeys(across for _, across, _ in sums)
    columns = [
        (across, place)
        for across in (sorted(keys) if form.dated else keys)
        for place in range(len(form.measures))
    ]
    has_code = len(form.labels) > 1
    made = [*table.rows[: form.head], *_units(table, form)]
    made.append(_headings(table, form, columns, len(keys) > 1, there))
    origins = {(row, n): table.origin(row, n) for row in range(form.head) for n in range(table.width)}
    for number, label in enumerate(labels, len(made)):
        cells = [SheetCell(label[0])] if has_code else []
        cells.append(SheetCell(", ".join(label[1:] if has_code else label)))
        if there.mixed:
            cells.append(SheetCell(label[-1]))
        for across, place in columns:
            parts = sums.get((label, across, place))
            if parts:
                origins[number, len(cells)] = table.origin(*first[label, across, place])
            cells.append(SheetCell(total_of(parts) if parts else None))
        made.append(tuple(cells))
    rows, _ = squared([list(row) for row in made])
    return replace(table, rows=rows, hidden=frozenset(), merged=(), origins=origins)


def _units(table: Table, form: Entries) -> Iterator[tuple[SheetCell, ...]]:
    """The heading of the amounts, where it states what unit they are in: it stands over what is set out."""
    heads = [table.rows[form.head][n] for measure in form.measures for n, _ in measure.columns]
    units = [head for head in heads if unit_within(head.text)[0] is not None]
    if units and not any(measure.name for measure in form.measures):
        yield (units[0],)


def _headings(
    table: Table,
    form: Entries,
    columns: Sequence[tuple[str, int]],
    several_keys: bool,
    there: _Read,
) -> tuple[SheetCell, ...]:
    """The headings of what is set out: the account with the currency that all are in, then what is across."""
    heads = [cell.text.strip() for cell in table.rows[form.head]]
    has_code = len(form.labels) > 1
    corner = " ".join(heads[n] for n in form.labels[has_code:]) or "Account"
    if there.named and not there.mixed:
        corner = f"{corner} ({next(iter(there.named))})"
    named = [
        " ".join(
            filter(
                None,
                (across if several_keys or not form.measures[place].name else "", form.measures[place].name),
            )
        )
        for across, place in columns
    ]
    beside = [*(["Code"] if has_code else []), corner, *(["Currency"] if there.mixed else []), *named]
    return tuple(map(SheetCell, beside))


def _counted(table: Table, form: Entries, there: _Read, accounts: int) -> Fault:
    """How many entries there are, and what each measure comes to, by currency: debits and credits apart."""
    by_currency: dict[str, list[int]] = {}
    for row in form.rows.entries:
        by_currency.setdefault(there.currency(row), []).append(row)
    said = []
    for currency, rows in by_currency.items():
        for measure in form.measures:
            amounts = [a for n, _ in measure.columns for row in rows if (a := there.signed[n].get(row))]
            what = f"{measure.name} {_comes_to(amounts)}" if measure.name else _comes_to(amounts)
            said.append(f"in {currency} {what}" if len(by_currency) > 1 else what)
    count = f"{len(form.rows.entries):,} entries are added up to {_several(accounts, 'line')}"
    return Fault(table.source, f"{count}: {'; '.join(said)}.", "Each entry can be kept as a line instead.")


def _comes_to(amounts: Sequence[Decimal]) -> str:
    debits = total_of([amount for amount in amounts if amount > 0])
    credits = EXACT.minus(total_of([amount for amount in amounts if amount < 0]))
    if not debits or not credits:
        return exact_text(EXACT.subtract(debits, credits), PLAIN)
    return f"debits of {exact_text(debits, PLAIN)} and credits of {exact_text(credits, PLAIN)}"


def _left_out(table: Table, form: Entries, there: _Read, others: Sequence[int]) -> Iterator[Fault]:
    """What is not in the sums: rows that are no entries, cells that are no amounts, columns of numbers."""
    for row in others[:MOST_NAMED]:
        said = " ".join(cell.text.strip() for cell in table.rows[row] if cell.says)
        what = (
            f"Row {table.sheet_row(row) + 1} “{said[:60]}” has no day and is no total of entries: left out."
        )
        yield Fault(table.place(row, 0), what)
    if (more := len(others) - MOST_NAMED) > 0:
        yield Fault(table.source, f"{_several(more, 'more row')} without a day left out.")
    for row, column in there.unread[:MOST_NAMED]:
        where, text = table.sheet_place(row, column), table.rows[row][column].text[:40]
        yield Fault(table.place(row, column), f"{where} “{text}” is no amount: left out.")
    if (more := len(there.unread) - MOST_NAMED) > 0:
        yield Fault(table.source, f"{_several(more, 'more cell')} without an amount left out.")
    names = [f"“{table.rows[form.head][n].text.strip()}”" for n in form.left_out]
    if names:
        be = "is" if len(names) == 1 else "are"
        yield Fault(table.source, f"{', '.join(names)} {be} not added up: left out.")
