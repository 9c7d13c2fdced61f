"""The period that a heading names, however its date is written: 31-Mar-2027, As at 31 March 2027, FY27."""

from __future__ import annotations

import re
from typing import NamedTuple

from humble_sum.core.intake.vocabulary import says

NAMES = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
MONTHS = {name: number for number, name in enumerate(NAMES, 1)}
MONTH = r"(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?"
DAY_FIRST = re.compile(
    rf"\b(\d{{1,2}})(?:st|nd|rd|th)?[\s.\-/]*{MONTH}[\s,.\-/']*(\d{{4}}|\d{{2}})\b", re.IGNORECASE
)
MONTH_FIRST = re.compile(rf"\b{MONTH}\s+(\d{{1,2}})(?:st|nd|rd|th)?,?\s+(\d{{4}})\b", re.IGNORECASE)
MONTH_ALONE = re.compile(rf"\b{MONTH}[\s,.\-/']*(\d{{4}}|\d{{2}})\b", re.IGNORECASE)
ISO = re.compile(r"\b(\d{4})-(\d{1,2})-(\d{1,2})\b")
NUMBERS = re.compile(r"\b(\d{1,2})[./](\d{1,2})[./](\d{4})\b")
SPAN = re.compile(r"\b((?:19|20)\d\d)\s*[-–/]\s*(\d{4}|\d{2})\b")
FISCAL = re.compile(r"\bFY\s*'?(\d{4}|\d{2})\b", re.IGNORECASE)
YEAR = re.compile(r"(?<!\d)((?:19|20)\d\d)(?!\d)")
YEAR_SAID = re.compile(r"\b(19|20)\d\d\b|\bFY ?\d\d\b", re.IGNORECASE)
DOTTED_DATE = re.compile(r"\b\d{1,2}\.\d{1,2}\.(19|20)?\d\d\b")
# A whole year, of something: not its half, quarter or month.
YEAR_ALONE = re.compile(
    r"(?!.*\b([HQM]\d|\d{1,2} ?[HQM]|half|quarter|month)\b)(.*\W)?(FY ?)?(19|20)\d\d([-/\u2013]\d\d(\d\d)?)?",
    re.IGNORECASE,
)


def names_period(text: str) -> bool:
    """Whether a text names a year, or the one before."""
    return YEAR_SAID.search(text) is not None or says(text, "prior")


class Period(NamedTuple):
    """The end of a period, as far as it is said."""

    year: int
    month: int | None = None
    day: int | None = None

    def meets(self, other: Period) -> bool:
        """Whether both may be one period: they say nothing that is not the same."""
        pairs = ((self.year, other.year), (self.month, other.month), (self.day, other.day))
        return all(one == another for one, another in pairs if one is not None and another is not None)


def period_of(heading: str) -> Period | None:
    """The period a heading names last, such as the end of a year; None where it names none, or where two
    numbers could each be the day."""
    if found := _last(ISO, heading):
        return Period(int(found[1]), int(found[2]), int(found[3]))
    if found := _last(DAY_FIRST, heading):
        return Period(_year(found[3]), _month(found[2]), int(found[1]))
    if found := _last(MONTH_FIRST, heading):
        return Period(_year(found[3]), _month(found[1]), int(found[2]))
    if found := _last(NUMBERS, heading):
        first, second, year = int(found[1]), int(found[2]), int(found[3])
        if "." in found[0] or first > 12:
            return Period(year, second, first)
        return Period(year, first, second) if second > 12 else Period(year)
    found = _last(SPAN, heading)
    if found and int(found[2]) % 100 == (int(found[1]) + 1) % 100:
        return Period(int(found[1]) + 1)
    if found := _last(MONTH_ALONE, heading):
        return Period(_year(found[2]), _month(found[1]))
    found = _last(FISCAL, heading) or _last(YEAR, heading)
    return Period(_year(found[1])) if found else None


def _last(pattern: re.Pattern[str], text: str) -> re.Match[str] | None:
    return next(iter(reversed(list(pattern.finditer(text)))), None)


def _month(name: str) -> int:
    return MONTHS[name[:3].lower()]


def _year(text: str) -> int:
    return int(text) if len(text) == 4 else 2000 + int(text)
