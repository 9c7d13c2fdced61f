"""What stands around a number in a document, as text that is the same in the next version of it."""

from __future__ import annotations

import re

from humble_sum.core.statements.document_answers import MOST_AROUND

DIGITS = re.compile(r"\d[\d.,]*")
SPACE = re.compile(r"\s+")
EACH_SIDE, LOOKED_AT = 140, 600  # characters kept on each side, and looked at for them


def around_in_text(sentence: str, start: int, end: int) -> str:
    """The words of a sentence around a number, with all digits left out; the number itself is a star."""
    before = _bare(sentence[max(0, start - LOOKED_AT) : start])[-EACH_SIDE:]
    after = _bare(sentence[end : end + LOOKED_AT])[:EACH_SIDE]
    return f"{before.strip()} * {after.strip()}".strip()[:MOST_AROUND]


def around_in_table(label: str, head: str) -> str:
    """The names of the row and column of a cell."""
    return f"{_bare(label).strip()[:EACH_SIDE]} | {SPACE.sub(' ', head).strip()[:EACH_SIDE]}"[:MOST_AROUND]


def _bare(text: str) -> str:
    return SPACE.sub(" ", DIGITS.sub("#", text)).casefold()
