"""Dates and times in a locale's order and language (UTS #35 part 4), in the Gregorian calendar."""

from __future__ import annotations

import re
from datetime import date, time
from decimal import Decimal
from functools import cache
from typing import Any, Literal

from humble_sum.core.locales import Digits, locale
from humble_sum.core.locales.data import locale_data, shared

Length = Literal["full", "long", "medium", "short"]
FIELD = re.compile(r"'((?:[^']|'')*)'|([A-Za-z])\2*")


def date_text(day: date, tag: str, digits: Digits = "locale", length: Length = "long") -> str:
    """A date as the locale writes it: 31 March 2026, March 31, 2026."""
    data = _data(tag)
    return _written(data[f"date.{length}"], day, None, tag, _digits(data, f"date.{length}", tag, digits))


def time_text(clock: time, tag: str, digits: Digits = "locale", length: Length = "short") -> str:
    """A time of day as the locale writes it: 14:30, 2:30 pm."""
    data = _data(tag)
    return _written(data[f"time.{length}"], None, clock, tag, _digits(data, f"time.{length}", tag, digits))


def month_text(month: int, tag: str) -> str:
    """The name of a month (1 to 12) by itself, abbreviated: Apr, avr."""
    return str(_data(tag)["months.stand-alone.abbreviated"][month - 1])


def month_year_text(year: int, month: int, tag: str, digits: Digits = "locale") -> str:
    """A month of a year as the locale writes it, abbreviated: Apr 2026, avr. 2026, 2026年4月."""
    data = _data(tag)
    written_in = _digits(data, "date.long", tag, digits)
    return _written(data["month_year"], date(year, month, 1), None, tag, written_in)


def date_number(amount: Decimal) -> date | None:
    """The day that a number such as 20260331 means, or None."""
    text = format(amount, "f")
    if not re.fullmatch(r"\d{8}", text):
        return None
    try:
        return date(int(text[:4]), int(text[4:6]), int(text[6:]))
    except ValueError:
        return None


def time_number(amount: Decimal) -> time | None:
    """The time that a number such as 1430 means, or None."""
    text = format(amount, "f").rjust(4, "0")
    if not re.fullmatch(r"([01]\d|2[0-3])[0-5]\d", text):
        return None
    return time(int(text[:2]), int(text[2:]))


@cache
def _data(tag: str) -> dict[str, Any]:
    return locale_data("dates", locale(tag).resolved.data)


def _digits(data: dict[str, Any], key: str, tag: str, digits: Digits) -> dict[int, str] | None:
    """The digits a pattern is written in; a pattern may name a numbering system of its own."""
    own = data.get(f"{key}.digits", "")
    if digits == "locale" and own in shared()["digits"]:
        return {ord(str(n)): digit for n, digit in enumerate(shared()["digits"][own])}
    return locale(tag, digits).digits


def _written(
    pattern: str, day: date | None, clock: time | None, tag: str, digits: dict[int, str] | None
) -> str:
    data = _data(tag)

    def field(match: re.Match[str]) -> str:
        if match[1] is not None:
            return match[1].replace("''", "'") or "'"
        letter, count = match[2], len(match[0])
        text = _day_field(letter, count, day, data) if day else ""
        if clock is not None:
            text = _time_field(letter, count, clock, data)
        return text.translate(digits) if digits and text.isdigit() else text

    return FIELD.sub(field, pattern).strip()


def _day_field(letter: str, count: int, day: date, data: dict[str, Any]) -> str:
    match letter:
        case "y" | "u" | "Y":
            return str(day.year)[-2:] if count == 2 else str(day.year).rjust(count, "0")
        case "M" | "L":
            if count <= 2:
                return str(day.month).rjust(count, "0")
            width = "wide" if count == 4 else "abbreviated"
            return str(data[f"months.{'format' if letter == 'M' else 'stand-alone'}.{width}"][day.month - 1])
        case "d":
            return str(day.day).rjust(count, "0")
        case "E" | "c":
            width = "wide" if count == 4 else "abbreviated"
            context = "format" if letter == "E" else "stand-alone"
            return str(data[f"days.{context}.{width}"][(day.weekday() + 1) % 7])
        case "G":
            return str(data["era"])
        case _:
            return ""  # weeks and the like, which no locale's own dates have


def _time_field(letter: str, count: int, clock: time, data: dict[str, Any]) -> str:
    hours = {"H": clock.hour, "k": clock.hour or 24, "h": clock.hour % 12 or 12, "K": clock.hour % 12}
    if letter in hours:
        return str(hours[letter]).rjust(count, "0")
    match letter:
        case "m":
            return str(clock.minute).rjust(count, "0")
        case "s":
            return str(clock.second).rjust(count, "0")
        case "a" | "b" | "B":
            return str(data["periods"][clock.hour >= 12])
        case _:
            return ""
