"""What months and the parts of a year are called, from the file of words for periods."""

from __future__ import annotations

import re
import tomllib
import unicodedata
from functools import cache
from importlib.resources import files
from typing import Any

PLAIN = 5  # letters of a month that is nothing else: out 2026 is October, and Phase-out 2026 is not


@cache
def _told() -> dict[str, Any]:
    return tomllib.loads((files("humble_sum.core.intake") / "words/periods.toml").read_text(encoding="utf-8"))


def folded(text: str) -> str:
    """A text in small letters, as months are compared: Turkish writes KASIM or NİSAN in capitals."""
    return unicodedata.normalize("NFC", text.casefold()).replace("i\u0307", "i").replace("ı", "i")


@cache
def month_numbers() -> dict[str, int]:
    """The number of a month, by each of its names in small letters. A name that is another month's in another
    language (listopad: November in Poland, October in Croatia) is left out."""
    found: dict[str, set[int]] = {}
    for months in _told()["months"].values():
        for number, forms in enumerate(months, 1):
            for form in forms.split("|"):
                found.setdefault(folded(form), set()).add(number)
    return {form: numbers.pop() for form, numbers in found.items() if len(numbers) == 1}


@cache
def plain_months() -> frozenset[str]:
    """The names that are words of no other kind in a heading: all English ones, and longer ones of others."""
    english = {folded(form) for forms in _told()["months"]["en"] for form in forms.split("|")}
    return frozenset(form for form in month_numbers() if form in english or len(form) >= PLAIN)


@cache
def english_months() -> tuple[str, ...]:
    """The months in English, January first, as headings of ours say them."""
    return tuple(forms.partition("|")[0].capitalize() for forms in _told()["months"]["en"])


@cache
def between() -> frozenset[str]:
    """The words between a day, a month and a year that say nothing."""
    return frozenset(_told()["between"]["words"].split("|"))


def part_of_year(heading: str) -> str | None:
    """Which part of a year a heading begins with: month, quarter, half or week."""
    words = re.findall(r"\w+", heading.casefold())[:1]
    return next((part for part in ("month", "quarter", "half", "week") if {*words} & _parts(part)), None)


@cache
def _parts(part: str) -> frozenset[str]:
    return frozenset(_told()["parts"][part].split("|"))


def any_part(*parts: str) -> str:
    """A pattern of what these parts of a year are called; of all where none is named."""
    named = parts or tuple(_told()["parts"])
    words = (word for part in named for word in _parts(part))
    return "|".join(sorted(map(re.escape, words), key=lambda word: (-len(word), word)))
