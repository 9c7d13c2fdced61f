"""The period that a heading names, however its date is written: 31-Mar-2027, As at 31 March 2027, FY27."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from humble_sum.core.intake.period_words import any_part, between, folded, month_numbers, plain_months
from humble_sum.core.intake.vocabulary import says

# Marks that stand on letters and are none of their own: accents, and vowels of India and Thailand.
MARKS = "\u0300-\u036f\u0591-\u05c7\u064b-\u065f\u0900-\u0903\u093a-\u094f\u0e31\u0e34-\u0e3a\u0e47-\u0e4e"
TOKEN = re.compile(rf"\d+|[^\W\d_](?:[^\W\d_]|[{MARKS}])*")
APART = re.compile(r"[\s,.\-/'’º°ª]*")  # what stands between a day, a month and a year
CJK = re.compile(r"((?:19|20)\d\d) ?[年년] ?(\d{1,2}) ?[月월](?: ?(\d{1,2}) ?[日일])?")
ISO = re.compile(r"\b(\d{4})-(\d{1,2})-(\d{1,2})\b")
NUMBERS = re.compile(r"\b(\d{1,2})[./](\d{1,2})[./](\d{4})\b")
SPAN = re.compile(r"\b((?:19|20)\d\d)\s*[-–/]\s*(\d{4}|\d{2})\b")
FISCAL = re.compile(r"\bFY\s*'?(\d{4}|\d{2})\b", re.IGNORECASE)
YEAR = re.compile(r"(?<!\d)((?:19|20)\d\d)(?!\d)")
YEAR_SAID = re.compile(r"\b(19|20)\d\d\b|\bFY ?\d\d\b", re.IGNORECASE)
DOTTED_DATE = re.compile(r"\b\d{1,2}\.\d{1,2}\.(19|20)?\d\d\b")
# A part of a year by its number: Q3, Week 12, 2. Quartal.
NUMBERED = re.compile(
    rf"(?:[QHPMW]|{any_part()})\.? ?\d+[A-Z]?|\d[.ºª]? ?(?:er|e|[eè]me)? ?(?:{any_part()})", re.IGNORECASE
)
# A whole year, of something: not its half, quarter or month.
YEAR_ALONE = re.compile(
    rf"(?!.*\b([HQM]\d|\d{{1,2}} ?[HQM]|{any_part('half', 'quarter', 'month')})\b)"
    r"(.*\W)?(FY ?)?(19|20)\d\d([-/\u2013]\d\d(\d\d)?)?",
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


@lru_cache(maxsize=20_000)
def period_of(heading: str) -> Period | None:
    """The period a heading names last, such as the end of a year; None where it names none, or where two
    numbers could each be the day."""
    if found := _last(ISO, heading) or _last(CJK, heading):
        return Period(int(found[1]), int(found[2]), int(found[3]) if found[3] else None)
    named = _by_month(heading)
    if named is not None and named.day is not None:
        return named
    if found := _last(NUMBERS, heading):
        first, second, year = int(found[1]), int(found[2]), int(found[3])
        if "." in found[0] or first > 12:
            return Period(year, second, first)
        return Period(year, first, second) if second > 12 else Period(year)
    found = _last(SPAN, heading)
    if found and int(found[2]) % 100 == (int(found[1]) + 1) % 100:
        return Period(int(found[1]) + 1)
    if named is not None:
        return named
    found = _last(FISCAL, heading) or _last(YEAR, heading)
    return Period(_year(found[1])) if found else None


class _Token(NamedTuple):
    """A number or a word of a heading, and whether it stands right behind a word: the 1 of Q1."""

    text: str
    glued: bool

    @property
    def day(self) -> int | None:
        number = int(self.text) if self.text.isdigit() and len(self.text) < 3 and not self.glued else 0
        return number if 0 < number < 32 else None

    @property
    def year(self) -> int | None:
        text = self.text
        if not text.isdigit() or not (len(text) == 2 or (len(text) == 4 and 1900 <= int(text) < 2700)):
            return None
        return _year(text)


def _by_month(heading: str) -> Period | None:
    """The last period of a heading that a month's name is part of: 31 March 2027, March 31, 2027, Mar-27, and
    2027. március 31."""
    if not any(map(str.isdigit, heading)):
        return None
    tokens = _tokens(heading)
    for at in reversed(range(len(tokens))):
        month = month_numbers().get(tokens[at].text)
        if month is None:
            continue
        before, after, further = (_at(tokens, at + step) for step in (-1, 1, 2))
        alone = before is None or before.day is not None or before.year is not None
        if not alone and tokens[at].text not in plain_months():
            continue
        day = before.day if before else None
        if day is None and after and after.day and further and len(further.text) == 4 and further.year:
            return Period(further.year, month, after.day)
        if before and len(before.text) == 4 and before.year and (after is None or len(after.text) < 3):
            return Period(before.year, month, after.day if after else None)
        if after and after.year is not None:
            return Period(after.year, month, day)
    return None


def _tokens(heading: str) -> list[_Token]:
    """Numbers and words in small letters, without the words between a day, a month and a year. Where more
    than a blank or a mark stands between two, an empty one does."""
    found, end = [], 0
    text = folded(heading)
    for match in TOKEN.finditer(text):
        gap = text[end : match.start()]
        if not APART.fullmatch(gap):
            found.append(_Token("", False))
        glued = bool(found) and not gap and found[-1].text.isalpha() and found[-1].text not in month_numbers()
        if match[0] not in between():
            found.append(_Token(match[0], glued and match[0].isdigit()))
        end = match.end()
    return found


def _at(tokens: list[_Token], place: int) -> _Token | None:
    return tokens[place] if 0 <= place < len(tokens) else None


def _last(pattern: re.Pattern[str], text: str) -> re.Match[str] | None:
    return next(iter(reversed(list(pattern.finditer(text)))), None)


def _year(text: str) -> int:
    """The year that two or four digits are; those of Thailand's calendar begin 543 years earlier."""
    year = int(text) if len(text) == 4 else 2000 + int(text)
    return year - 543 if year >= 2400 else year
