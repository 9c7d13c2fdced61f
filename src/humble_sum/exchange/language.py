"""The language that a page is in, and the direction that it is read in."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterable
from html import escape

from humble_sum.core.statements.pack import Pack

FROM_THE_RIGHT = ("R", "AL")


def language_of(pack: Pack) -> str:
    """The attributes of a page that say its language, where the pack says it, and its direction."""
    lang = escape(pack.language or "en")
    return f'lang="{lang}" dir="rtl"' if reads_from_the_right(pack) else f'lang="{lang}"'


def reads_from_the_right(pack: Pack) -> bool:
    """Whether most letters of a pack's labels are of scripts that are written from the right."""
    right = left = 0
    for text in _labels(pack):
        if text.isascii():
            left += sum(map(str.isalpha, text))
            continue
        for letter in text:
            direction = unicodedata.bidirectional(letter)
            right += direction in FROM_THE_RIGHT
            left += direction == "L"
    return right > left


def _labels(pack: Pack) -> Iterable[str]:
    for statement in pack.statements:
        yield statement.title
        yield from (line.label for line in statement.lines)
