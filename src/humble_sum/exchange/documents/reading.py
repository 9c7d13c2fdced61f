"""Documents by their kind: what reads each, and what writes it back corrected."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from pathlib import PurePath

from humble_sum.core.documents.document import Document, Paragraph
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.packages import bad

KINDS = {
    ".docx": "docx",
    ".docm": "docx",
    ".dotx": "docx",
    ".pptx": "pptx",
    ".pptm": "pptx",
    ".xlsx": "xlsx",
    ".xlsm": "xlsx",
    ".pdf": "pdf",
    ".html": "html",
    ".htm": "html",
    ".xhtml": "html",
    ".md": "markdown",
    ".markdown": "markdown",
    ".txt": "text",
    ".text": "text",
}
DIGITS = re.compile(r"\d(?:[\d.,'’\u00a0\u202f]*\d)?")
MOST_BYTES = 200_000_000
MOST_NUMBERS = 40_000  # a report of 800 pages has about so many; more would keep the desk busy for minutes


def kind_of(name: str) -> str:
    """The kind of a document by the end of its name. Raises InputError for one that is not read."""
    kind = KINDS.get(PurePath(name).suffix.lower())
    if kind is None:
        what = "This kind of document is not read."
        raise bad(name, what, f"It can be one of: {', '.join(sorted(KINDS))}.")
    return kind


def read_document(name: str, data: bytes) -> Document:
    """A document of any kind that is read. Raises InputError where it cannot be."""
    if len(data) > MOST_BYTES:
        raise bad(name, "This document is larger than 200 MB.", "Take pictures out, or split it.")
    readers: dict[str, Callable[[str, bytes], Document]] = _readers()
    document = readers[kind_of(name)](name, data)
    if _numbers(document) > MOST_NUMBERS:
        raise bad(name, "This document has more than 40,000 numbers.", "Split it, and drop its parts.")
    return document


def _numbers(document: Document) -> int:
    """About how many numbers a document has: runs of digits, with the marks between them."""
    found = 0
    for block in document.blocks:
        texts = (block.text,) if isinstance(block, Paragraph) else (c for row in block.rows for c in row)
        found += sum(len(DIGITS.findall(text)) for text in texts)
    return found


def _readers() -> dict[str, Callable[[str, bytes], Document]]:
    from humble_sum.exchange.documents.docx import read_docx
    from humble_sum.exchange.documents.pdf import read_pdf
    from humble_sum.exchange.documents.plain_text import read_html, read_markdown, read_text
    from humble_sum.exchange.documents.pptx import read_pptx
    from humble_sum.exchange.documents.xlsx import read_xlsx

    return {
        "docx": read_docx,
        "pptx": read_pptx,
        "xlsx": read_xlsx,
        "pdf": read_pdf,
        "html": read_html,
        "markdown": read_markdown,
        "text": read_text,
    }


def corrected(name: str, data: bytes, corrections: Sequence[Correction], author: str, at: str) -> bytes:
    """The document with its corrections, and nothing else changed: tracked changes in Word documents,
    notes in PDF, changes in place elsewhere."""
    from humble_sum.exchange.documents.docx import correct_docx
    from humble_sum.exchange.documents.pdf import correct_pdf
    from humble_sum.exchange.documents.plain_text import correct_text
    from humble_sum.exchange.documents.pptx import correct_pptx
    from humble_sum.exchange.documents.xlsx import correct_xlsx

    kind = kind_of(name)
    if not corrections:
        return data
    if kind == "docx":
        return correct_docx(name, data, corrections, author, at)
    if kind == "pptx":
        return correct_pptx(name, data, corrections)
    if kind == "xlsx":
        return correct_xlsx(name, data, corrections)
    if kind == "pdf":
        return correct_pdf(name, data, corrections)
    return correct_text(name, data, kind, corrections)
