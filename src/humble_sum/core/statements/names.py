"""What the things of a pack are called by."""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import BeforeValidator, Field

from humble_sum.core.rules.rulebook import Id

# Control characters and halves of others: nothing prints them, and no workbook may hold them. Lines and tabs
# may stand in running text alone.
UNPRINTABLE = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")


def cleaned(text: object) -> object:
    """Text without what nothing prints."""
    if not isinstance(text, str) or (text.isascii() and text.isprintable()):
        return text
    return UNPRINTABLE.sub("", text)


def shortened(text: str, most: int) -> str:
    """Text of at most so many characters, its end left out where it has more."""
    return text if len(text) <= most else f"{text[: most - 1].rstrip()}…"


MOST_REASON = 500  # characters
Label = Annotated[str, Field(min_length=1, max_length=2_000), BeforeValidator(cleaned)]
# What a command calls something: to be read, it has more than spaces.
Called = Annotated[Label, Field(pattern=r"\S")]
FigureRef = tuple[Id, Id, Id]  # statement, line, column
Reason = Annotated[str, Field(max_length=MOST_REASON), BeforeValidator(cleaned)]
