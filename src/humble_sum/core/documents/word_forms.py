"""Words around the numbers of running text, read from word_forms.toml."""

from __future__ import annotations

import re
import tomllib
from functools import cache
from importlib.resources import files


@cache
def _told() -> dict[str, dict[str, str]]:
    text = (files("humble_sum.core.documents") / "word_forms.toml").read_text(encoding="utf-8")
    return tomllib.loads(text)


@cache
def forms(meaning: str) -> frozenset[str]:
    """Every form of a meaning, in all languages, in small letters."""
    return frozenset(
        form.strip() for said in _told()[meaning].values() for form in said.split("|") if form.strip()
    )


@cache
def spelled_numbers() -> dict[str, int]:
    """What the words for small numbers come to."""
    values = (*range(2, 21), *range(30, 91, 10))
    every = (said.split("|") for said in _told()["spelled"].values())
    return {word: value for words in every for word, value in zip(words, values, strict=False) if word != "-"}


def words_as_pattern(meaning: str) -> str:
    """The forms of a meaning as alternatives of a pattern, the longest first."""
    return "|".join(re.escape(form) for form in sorted(forms(meaning), key=len, reverse=True))


@cache
def pattern(meaning: str) -> re.Pattern[str]:
    """What finds a form of a meaning in text, as whole words; the longest first."""
    return re.compile(rf"(?<!\w)(?:{words_as_pattern(meaning)})(?!\w)", re.IGNORECASE)


def last_said(meaning: str, text: str) -> int:
    """Where a meaning is said last in a text: the place after it, and -1 where it is not."""
    return max((found.end() for found in pattern(meaning).finditer(text)), default=-1)
