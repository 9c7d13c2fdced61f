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
    dict.fromkeys("\u061c\u200b\u200c\u200d\u200e\u200f\u2066\u2067\u2068\u2069", None)
    | dict.fromkeys(" \t\n\r\u00a0\u2007\u2009\u202f", None)
)

MIRRORED = str.maketrans("()[]<>", ")(][><")
PARTS = re.compile(r"\d[\d.,\u066b\u066c]*|.")


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
        found = [place for order in _orders(wanted) if (place := said.find(order, at)) >= 0]
        if found:
            at = min(found) + len(wanted)
        else:
            yield name, text


def _orders(text: str) -> Iterator[str]:
    """The orders in which a text can come back: as it is, and where it is written from the right, with its
    parts around the number the other way round, mirrored or not (UAX #9, rules L2 and L4)."""
    yield text
    if any(unicodedata.bidirectional(character) in ("R", "AL", "AN") for character in text):
        turned = "".join(reversed(PARTS.findall(text)))
        yield turned
        yield turned.translate(MIRRORED)
