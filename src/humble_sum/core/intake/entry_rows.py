"""The rows of a journal or a ledger: entries, the headings over them, and totals below them.

A row with a day is an entry. Where many rows have amounts and no day, the day stands only in the first row of
each document. Where few have, those are totals.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from re import compile as pattern

from humble_sum.core.intake.periods import period_of
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.vocabulary import says

NUMBERS = pattern(r"(\d{1,2})[./-](\d{1,2})[./-](\d{4})")
MONTHS = pattern(r"((?:19|20)\d\d)-(0[1-9]|1[0-2])|(0?[1-9]|1[0-2])[./-]((?:19|20)\d\d)")
DIGITS = pattern(r"\d+")
MANY = 0.2  # of the rows with amounts, the part without a day from which the day is that of a row above


@dataclass(frozen=True)
class EntryRows:
    """Which rows are entries, and the row that has the day of each; the account that a heading over an entry
    names; the rows with amounts that are no entries; and whether days go on from row to row."""

    entries: tuple[int, ...]
    days: Mapping[int, int]
    accounts: Mapping[int, str]
    others: tuple[int, ...]
    goes_on: bool


def entry_rows(table: Table, head: int, when: int, amounts: Sequence[int]) -> EntryRows:
    """What each row below the headings is, by the column that says when, and those that have amounts."""
    heads = [cell.text.strip() for cell in table.rows[head]]
    titles = {_without_digits(cell.text) for row in table.rows[: head + 1] for cell in row if cell.says}
    dated: list[int] = []
    undated: list[int] = []
    accounts: dict[int, str] = {}
    account = ""
    for number in range(head + 1, len(table.rows)):
        row = table.rows[number]
        if row[when].says and is_day(row[when]):
            dated.append(number)
        elif any(row[n].says for n in amounts):
            if any(row[n].text.strip() != heads[n] for n in amounts):  # the headings, printed once more
                undated.append(number)
                if row[when].says and not _is_total(row) and not says(row[when].text.strip(), "opening"):
                    account = row[when].text.strip()  # a heading with the balance that it begins with
        elif (said := _first_said(row)) and not _is_total(row) and _without_digits(said) not in titles:
            account = said
        accounts[number] = account
    goes_on = bool(dated) and len(undated) >= MANY * (len(dated) + len(undated))
    sides = [n for n in amounts if not says(heads[n], "balance_column")]
    after = undated if goes_on else []
    going_on = [n for n in after if n > dated[0] and not _states_both(table.rows[n], sides)]
    entries = sorted([*dated, *going_on])
    days: dict[int, int] = {}
    day, its_own = head, {*dated}
    for number in entries:
        day = number if number in its_own else day
        days[number] = day
    others = tuple(n for n in undated if n not in days)
    return EntryRows(tuple(entries), days, accounts, others, goes_on)


def _first_said(row: Sequence[SheetCell]) -> str:
    return next((cell.text.strip() for cell in row if cell.says), "")


def _without_digits(text: str) -> str:
    """A text as titles come again on each page: with another number of the page."""
    return DIGITS.sub("#", text.strip())


def _is_total(row: Sequence[SheetCell]) -> bool:
    return any(isinstance(cell.value, str) and says(cell.text.strip(), "total") for cell in row)


def _states_both(row: Sequence[SheetCell], amounts: Sequence[int]) -> bool:
    """Whether a row is a total of both sides: an entry called "Net wages" has an amount on one of them."""
    both = len(amounts) < 2 or sum(row[n].says for n in amounts) > 1
    return both and _is_total(row)


def is_day(cell: SheetCell) -> bool:
    """Whether a cell is a date, or is written as one: a day, or a month of a year."""
    if not isinstance(cell.value, str):
        return isinstance(cell.value, date)
    return _says_a_day(cell.value.strip())


@lru_cache(maxsize=4_096)  # days come again in every journal
def _says_a_day(text: str) -> bool:
    if NUMBERS.fullmatch(text) or MONTHS.fullmatch(text):
        return True
    found = period_of(text)
    return found is not None and found.month is not None and found.year is not None


def day_first(texts: Sequence[str]) -> bool | None:
    """Whether days stand before months in dates of numbers; None where nothing tells."""
    found = [match for text in texts if (match := NUMBERS.fullmatch(text))]
    if not found or "." in found[0][0]:
        return True
    if any(int(match[1]) > 12 for match in found):
        return True
    return False if any(int(match[2]) > 12 for match in found) else None


def month_of(cell: SheetCell, days_first: bool) -> str:
    """The year and month of a day: 2026-03."""
    if isinstance(cell.value, date):
        return f"{cell.value.year}-{cell.value.month:02d}"
    return _month(cell.text.strip(), days_first)


@lru_cache(maxsize=4_096)
def _month(text: str, days_first: bool) -> str:
    if text[4:5] == "-" and text[:4].isdigit() and text[5:7].isdigit():
        return text[:7]
    if found := MONTHS.fullmatch(text):
        return f"{found[1] or found[4]}-{int(found[2] or found[3]):02d}"
    if found := NUMBERS.fullmatch(text):
        return f"{found[3]}-{int(found[2] if days_first else found[1]):02d}"
    period = period_of(text)
    return f"{period.year}-{period.month:02d}" if period is not None and period.month else text
