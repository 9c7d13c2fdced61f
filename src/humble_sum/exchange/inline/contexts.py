"""The dates that a column's figures are at, or cover: what a context of XBRL states of them."""

from __future__ import annotations

import re
from calendar import monthrange
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise

from humble_sum.core.intake.periods import Period, period_of
from humble_sum.core.statements.pack import Column, Line, Pack, PeriodType, Statement

# What the titles of statements say of a time, where the dates of their columns leave it open: a year may be
# one that ends at a day, or one that lasts.
AT_A_DAY = re.compile(
    r"\b(position|balance|balances|assets|liabilities|net worth|funds|bilanz|bilan|balanço|balans|bilancio|"
    r"patrimoniale|situación|situation|posição|vermögen)\b|баланс|貸借|资产负债|財政状態|재무상태|तुलन|"
    r"المركز المالي|الميزانية",
    re.IGNORECASE,
)
OVER_A_TIME = re.compile(
    r"\b(income|profit|loss|flows?|revenue|earnings|expenditure|operating|operations|activities|changes|"
    r"costs|sales|fares|results?|gewinn|verlust|erfolgsrechnung|ergebnis|résultat|resultados?|economico|"
    r"ingresos|gastos|flux|flujos?|fluxos?|umsatz)\b|прибыл|損益|利润|손익|キャッシュ|现金流|लाभ|हानि|الدخل|الأرباح|التدفقات",
    re.IGNORECASE,
)
# How long a time is, in words of reports: so many months, a part of a year by its number, or its name.
MONTHS = re.compile(
    r"\b(?:(\d{1,2}|one|two|three|four|five|six|nine|twelve)[ -]?months?|(\d{1,2}) ?M)\b", re.IGNORECASE
)
NUMBERED = re.compile(r"\b(?:([QH])([1-4])|([1-4])([QH]))(?=\b|\d{2}|FY)", re.IGNORECASE)
NAMED = re.compile(
    r"\b(?:(quarter|quarterly)|(half[- ]?year|half[- ]?yearly)|(year|annual))\b", re.IGNORECASE
)
TO_DATE = re.compile(r"\b(to[ -]date|YTD|QTD|MTD|cumulative|weeks?)\b", re.IGNORECASE)
PLANNED = re.compile(
    r"\b(budget(ed)?|forecasts?|plan(ned)?|targets?|estimate[ds]?|projected|projections?|pro[ -]?forma)\b",
    re.IGNORECASE,
)
# Lines of a statement over a time that are at its first or its last day.
STOCK = (
    r"\b(?:cash|balances?|stocks?|inventor(?:y|ies)|bank|overdrafts?|reserves?|funds?|equity|net assets)\b"
)
AT = r"\b(?:at|on) (?:the )?"
OPENING = re.compile(
    rf"^opening\b.*{STOCK}|{STOCK}.*(?:{AT}(?:beginning|start|opening)\b|\b(?:brought forward|b/f)\b)",
    re.IGNORECASE,
)
CLOSING = re.compile(
    rf"^closing\b.*{STOCK}|{STOCK}.*(?:{AT}(?:end|close)\b|\b(?:carried forward|c/f)\b)", re.IGNORECASE
)
ON_A_DAY = re.compile(rf"{STOCK}.*\b(?:at|as at|on) \d", re.IGNORECASE)
IN_WORDS = {"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "nine": 9, "twelve": 12}


@dataclass(frozen=True)
class Dates:
    """A day, or the time from a first day to a last one, both in it."""

    last: date
    first: date | None = None

    @property
    def id(self) -> str:
        """A name for its context."""
        return f"on-{self.last}" if self.first is None else f"from-{self.first}-to-{self.last}"


class Undated(ValueError):
    """Nothing says what dates a column is of; what to do about it."""

    def __init__(self, what: str, do: str = "Give its columns dates of their own."):
        super().__init__(what)
        self.do = do


def dates_of(pack: Pack, statement: Statement, type: PeriodType | None = None) -> dict[str, Dates]:
    """The dates of every column that has facts: given ones, and sums of those over a time; at a day or over a
    time as the columns say, or as `type` does. Raises Undated, with the column and why."""
    found: dict[str, Dates] = {}
    for column in statement.columns:
        if not column.derived:
            found[column.id] = _given(pack, statement, column, type)
    for column in statement.columns:
        if column.sum and type != "instant":  # balances of several days do not add to one
            found[column.id] = _added(column, found)
    by_dates: dict[Dates, Column] = {}
    for column in statement.columns:
        if column.id in found and found[column.id] in by_dates:
            other = by_dates[found[column.id]].label
            raise Undated(f"{column.label}: its dates are those of {other}, so both would state the same.")
        if column.id in found:
            by_dates[found[column.id]] = column
    if len({dates.first is None for dates in found.values()}) > 1:
        raise Undated("Some columns are at a day and others over a time, and one line cannot be both.")
    return found


def dates_of_lines(pack: Pack, statement: Statement) -> dict[str, dict[str, Dates]]:
    """The dates of every line's figures, by line and column. Raises Undated."""
    known: dict[PeriodType | None, dict[str, Dates]] = {}

    def columns(type: PeriodType | None) -> dict[str, Dates]:
        if type not in known:
            known[type] = dates_of(pack, statement, type)
        return known[type]

    found = {}
    for line in statement.figured:
        dates = columns(line.period_type)
        if line.period_type == "instant" and OPENING.search(line.label):
            dates = columns("duration")
        found[line.id] = {column: dates_on(line, of) for column, of in dates.items()}
        if len({of.first is None for of in found[line.id].values()}) > 1:
            what = f"{line.label}: it is a balance at a day of some columns only."
            raise Undated(what, "Set it under Tags, or with the change set_period_type.")
    return found


def dates_on(line: Line, dates: Dates) -> Dates:
    """The dates of a line's figure: those of its column, or the day that a time begins or ends with where
    the line says that it is a balance at that day."""
    if dates.first is None or line.period_type == "duration":
        return dates
    before = dates.first - timedelta(days=1)
    said = period_of(line.label) if ON_A_DAY.search(line.label) else None
    day = _day(said, line.label) if said else None
    if OPENING.search(line.label) or day in (before, dates.first):
        return Dates(before)
    if CLOSING.search(line.label) or day == dates.last:
        return Dates(dates.last)
    return dates


def _given(pack: Pack, statement: Statement, column: Column, type: PeriodType | None) -> Dates:
    if PLANNED.search(column.label):
        raise Undated(f"{column.label}: what is planned is not a fact.", "Leave it out of the edition.")
    of_month = bool(column.date) and len(column.date or "") == 7
    said = period_of(f"{column.date}-01" if of_month else column.date or "") or period_of(column.label)
    if said is None:
        raise Undated(f"{column.label}: it has no date.")
    said = said._replace(day=None) if of_month else said
    at_a_day = type == "instant" if type else _nature(statement, column, said)
    if said.month and not said.day:
        return _month(said.year, said.month, at_a_day)
    day = _end(pack, said, column)
    if at_a_day:
        return Dates(day)
    months = _length(column) or _length(pack)
    if months is None:
        raise Undated(f"{column.label}: {pack.period} does not say how long a time ends then.")
    return Dates(day, _first(day, months))


def _length(said: Column | Pack) -> int | None:
    """How many months the words of a column, or of a pack's period, say that a time is. Raises Undated where
    they say that it is as long as it has lasted."""
    words = said.label if isinstance(said, Column) else said.period
    if TO_DATE.search(words):
        raise Undated(f"{words}: it does not say on which day that time began.")
    if len(NUMBERED.findall(words)) > 1:
        raise Undated(f"{words}: it names several parts of a year.")
    if found := MONTHS.search(words):
        number = found[1] or found[2]
        return IN_WORDS.get(number.lower()) or int(number)
    if found := NUMBERED.search(words):
        return _part(found)[1]
    if found := NAMED.search(words):
        return 3 if found[1] else 6 if found[2] else 12
    return None


def _part(found: re.Match[str]) -> tuple[int, int]:
    """The number of a part of a year, and its months."""
    letter, number = found[1] or found[4], found[2] or found[3]
    return int(number), 3 if letter in "Qq" else 6


def _nature(statement: Statement, column: Column, said: Period) -> bool:
    """Whether its figures are at a day, by the dates of the column: a day is one, a month or a part of a year
    lasts. Where a title says otherwise, or a year may be either, the title decides."""
    at_a_day, over = (bool(words.search(statement.title)) for words in (AT_A_DAY, OVER_A_TIME))
    if at_a_day != over:
        return at_a_day
    if said.day:
        return not MONTHS.search(column.label) and not NAMED.search(column.label)
    if said.month or _length(column):
        return False
    what = f"{column.label}: nothing says whether amounts of {statement.title} are at a day or over a time."
    raise Undated(what, "Set it under Tags, or with the change set_period_type.")


def _end(pack: Pack, said: Period, column: Column) -> date:
    if day := _day(said, column.label):
        return day
    ends = period_of(pack.period)
    if ends is None or not ends.month or not ends.day:
        raise Undated(f"{column.label}: {pack.period} does not say on which day such a year ends.")
    months = _length(column)
    if months and months != 12:
        number = _part(part)[0] if (part := NUMBERED.search(column.label)) else 1
        if NAMED.search(column.label) and not part:
            raise Undated(f"{column.label}: it does not say which part of the year.")
        if (ends.month, ends.day) != (12, 31) or number * months > 12:
            raise Undated(f"{column.label}: it may be of a financial year or of the calendar's.")
        return _month(said.year, number * months, at_a_day=True).last
    return date(said.year, ends.month, min(ends.day, monthrange(said.year, ends.month)[1]))


def _day(said: Period, words: str) -> date | None:
    """The day that a period ends with; None where none is said. Raises Undated where there is no such day."""
    if not said.month or not said.day:
        return None
    try:
        return date(said.year, said.month, said.day)
    except ValueError:
        raise Undated(f"{words}: there is no such day.") from None


def _month(year: int, month: int, at_a_day: bool) -> Dates:
    last = date(year, month, monthrange(year, month)[1])
    return Dates(last) if at_a_day else Dates(last, date(year, month, 1))


def _first(day: date, months: int) -> date:
    """The first day of so many months that end on a day."""
    after = day + timedelta(days=1)
    year, month = divmod(after.year * 12 + after.month - 1 - months, 12)
    return date(year, month + 1, min(after.day, monthrange(year, month + 1)[1]))


def _added(column: Column, found: Mapping[str, Dates]) -> Dates:
    """The time that the parts of a sum cover one after another."""
    parts = sorted((found[id] for id in column.sum or () if id in found), key=lambda dates: dates.last)
    if not parts or len(parts) != len(column.sum or ()):
        raise Undated(f"{column.label}: its parts have no dates.")
    for before, after in pairwise(parts):
        if after.first is None or after.first != before.last + timedelta(days=1):
            raise Undated(f"{column.label}: its parts do not follow one another.")
    return Dates(parts[-1].last, parts[0].first)
