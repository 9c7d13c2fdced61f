"""Reading a PDF of ours back: the texts on its pages, in the order of their lines."""

from __future__ import annotations

import io
import re
import unicodedata
from collections.abc import Iterable, Iterator

from pypdf import PdfReader
from pypdf.errors import PyPdfError

from humble_sum.core.errors import Fault, InputError

# Marks of direction and blanks are set on paper as places, and come back otherwise or not at all.
UNSET = str.maketrans(
    dict.fromkeys("\0\u061c\u200b\u200c\u200d\u200e\u200f\u2066\u2067\u2068\u2069", None)
    | dict.fromkeys(" \t\n\r\u00a0\u2007\u2009\u202f", None)
)

FAR = 20_000  # characters in which a turned text is looked for: some pages
NUMBER = re.compile(r"\d(?:[\d.,\u066b\u066c]*\d)?")


def said_on_paper(data: bytes) -> str:
    """All that the pages say, without blanks. Raises InputError where it is no PDF."""
    try:
        pages = [page.extract_text() for page in PdfReader(io.BytesIO(data)).pages]
    except (PyPdfError, ValueError, KeyError, RecursionError, OSError) as error:
        raise InputError("bad-container", Fault("pdf", f"It cannot be read: {error}.")) from None
    return "".join(pages).translate(UNSET)


def not_there(said: str, texts: Iterable[tuple[str, str]]) -> Iterator[tuple[str, str]]:
    """Those of the texts, each with its name, that do not follow one another on the pages. What comes after
    one that is missing is looked for from where the last was found."""
    at = 0
    for name, text in texts:
        wanted = text.translate(UNSET)
        found = said.find(wanted, at)
        if _turns(text) and (turned := _turned(said, wanted, at)) is not None:
            found = turned if found < 0 else min(found, turned)
        if found < 0:
            yield name, text
        else:
            at = found + len(wanted)


def _turns(text: str) -> bool:
    """Whether something in a text is written from the right, so that its parts come back in another order
    (UAX #9)."""
    return any(unicodedata.bidirectional(character) in ("R", "AL", "AN") for character in text)


def _turned(said: str, wanted: str, at: int) -> int | None:
    """Where a text's number stands with all of its other characters right around it, in whatever order: sign,
    brackets and currency may come back on either side, and what the reader takes for a word from the right
    the other way round, digits too."""
    number = max(NUMBER.findall(wanted), key=len, default="")
    found, end = None, at + FAR
    for run in dict.fromkeys(run for run in (number, number[::-1]) if run):
        first = next(_around(said, wanted, run, at, end), None)
        if first is not None:
            found, end = first, first + len(wanted)  # another one is looked for before it only
    return found


def _around(said: str, wanted: str, run: str, at: int, end: int) -> Iterator[int]:
    """Where a run of digits stands in a stretch of text with the other characters right around it."""
    characters, place = sorted(wanted), said.find(run, at, end)
    while place >= 0:
        for start in range(max(at, place - len(wanted) + len(run)), place + 1):
            if sorted(said[start : start + len(wanted)]) == characters:
                yield start
        place = said.find(run, place + 1, end)
