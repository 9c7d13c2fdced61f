"""Footnote marks beside figures: taken off, and named."""

from __future__ import annotations

import re

# After a digit or a dash, a raised figure is a mark: 310¹ is 310 with a note, and never 3101; –¹ is nothing.
# So too after a currency's code or sign, though not after the m of metres.
RAISED = re.compile(
    r"(?:(?<=[\d)\]%\-\u2010-\u2015\u2212$£€¥₹])|(?<=[A-Z]{3})|(?<=kr))\s*([\u00b9\u00b2\u00b3\u2070\u2074-\u2079]+)\s*$"
)
SYMBOL = re.compile(r"\s*([*\u2020\u2021\u00a7\u00b6]+)\s*$")
BEFORE = re.compile(r"^\s*([*\u2020\u2021\u00a7\u00b6]+)\s*")
# A note in brackets behind a figure: 75 (a), (800)(2), 12 kr (iv). Never (m) or (k), which may be a scale.
NUMBERED = re.compile(r"(?<=\S)\s*(\((?:\d{1,2}|[a-jn-z]|[ivx]{2,4})\))\s*$")


def without_raised(text: str) -> tuple[str, str]:
    """The text without raised figures after it, and those."""
    found = RAISED.search(text)
    return (text[: found.start()], found[1]) if found else (text, "")


def without_marks(text: str) -> tuple[str, str]:
    """The text without symbols or a numbered note at its ends, and the first of these."""
    for mark in (SYMBOL, BEFORE, NUMBERED):
        if found := mark.search(text):
            return text[: found.start()] + text[found.end() :], found[1]
    return text, ""
