"""PDF as documents: lines by where their texts stand, tables by gaps that columns share; corrected by
notes."""

from __future__ import annotations

import io
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pypdf import PdfReader, PdfWriter
from pypdf.annotations import Highlight
from pypdf.errors import PyPdfError
from pypdf.generic import ArrayObject, FloatObject, NameObject, TextStringObject

from humble_sum.core.documents.document import Block, Document, Paragraph, Table
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.packages import bad

MOST_PAGES = 2_000
GAP = 1.6  # widths of a letter between two cells of a row
LEAST_ROWS = 2  # rows with several cells, one below another, that make a table


@dataclass
class Piece:
    """A text where it stands on a page, in points from its foot."""

    x: float
    y: float
    size: float
    text: str

    @property
    def width(self) -> float:
        """About how wide it is: letters are half as wide as they are high."""
        return 0.5 * self.size * len(self.text)


@dataclass(frozen=True)
class Line:
    """A line of a page: cells from the left, each with where it begins."""

    page: int
    y: float
    size: float
    cells: tuple[tuple[float, str], ...]


def read_pdf(name: str, data: bytes) -> Document:
    """A PDF. Raises InputError where it is encrypted, broken, scanned, or too long."""
    return _read(name, data)[0]


def _read(name: str, data: bytes) -> tuple[Document, dict[tuple[int | None, ...], Line]]:
    reader = _opened(name, data)
    lines = [line for number, page in enumerate(reader.pages, 1) for line in _lines(page, number)]
    if not any(line.cells for line in lines):
        what = "There is no text in this PDF: it seems to be scanned."
        raise bad(name, what, "Ask for the file that it was printed from.")
    blocks: list[Block] = []
    where: dict[tuple[int | None, ...], Line] = {}
    paragraphs = tables = at = 0
    while at < len(lines):
        end = at
        while end < len(lines) and len(lines[end].cells) > 1 and lines[end].page == lines[at].page:
            end += 1
        if end - at >= LEAST_ROWS:
            rows = _rows(lines[at:end])
            for n, line in enumerate(lines[at:end]):
                for column in range(len(rows[n])):
                    where[None, tables, n, column] = line
            blocks.append(Table(tables, rows, page=lines[at].page))
            tables += 1
            at = end
            continue
        line = lines[at]
        where[paragraphs, None, None, None] = line
        text = " ".join(text for _, text in line.cells)
        blocks.append(Paragraph(paragraphs, text, page=line.page))
        paragraphs += 1
        at += 1
    return Document(name, "pdf", tuple(blocks), ("Read line by line, as they stand on the pages.",)), where


def _opened(name: str, data: bytes) -> PdfReader:
    try:
        reader = PdfReader(io.BytesIO(data))
        if reader.is_encrypted and not reader.decrypt(""):
            raise bad(name, "This PDF is encrypted.", "Save it without a password.")
        if len(reader.pages) > MOST_PAGES:
            raise bad(name, f"This PDF has more than {MOST_PAGES:,} pages.", "Split it.")
    except (PyPdfError, ValueError, KeyError, RecursionError, OSError, TypeError) as error:
        raise bad(name, f"This PDF cannot be read: {error}.") from None
    return reader


def _lines(page: Any, number: int) -> list[Line]:
    """The lines of a page from its head, each cut into cells where there is a wide gap."""
    pieces: list[Piece] = []

    def visit(text: str, _: Any, matrix: Sequence[float], __: Any, size: float) -> None:
        if text.strip():
            scale = abs(matrix[3]) or abs(matrix[0]) or 1.0
            pieces.append(Piece(matrix[4], matrix[5], max(4.0, size * scale), text.strip("\n")))

    try:
        page.extract_text(visitor_text=visit)
    except (PyPdfError, ValueError, KeyError, RecursionError, TypeError, IndexError):
        return []
    rows: list[list[Piece]] = []
    for piece in sorted(pieces, key=lambda each: (-each.y, each.x)):
        if rows and abs(rows[-1][0].y - piece.y) <= 0.35 * piece.size:
            rows[-1].append(piece)
        else:
            rows.append([piece])
    return [_line(sorted(row, key=lambda each: each.x), number) for row in rows]


def _line(row: list[Piece], number: int) -> Line:
    cells: list[tuple[float, str]] = []
    end = 0.0
    for piece in row:
        text = piece.text
        if cells and piece.x - end < GAP * 0.5 * piece.size:
            start, said = cells[-1]
            joined = "" if piece.x - end < 0.12 * piece.size or said.endswith(" ") else " "
            cells[-1] = (start, f"{said}{joined}{text}")
        else:
            cells.append((piece.x, text))
        end = piece.x + piece.width
    parted = [(x, part.strip()) for x, text in cells for part in re.split(r"\s{3,}", text) if part.strip()]
    return Line(number, row[0].y, row[0].size, tuple(parted))


def _rows(lines: Sequence[Line]) -> tuple[tuple[str, ...], ...]:
    """The cells of lines by the columns that they share: numbers are counted from the right."""
    width = max(len(line.cells) for line in lines)
    rows = []
    for line in lines:
        texts = [text for _, text in line.cells]
        short = width - len(texts)
        if short and not any(c.isalpha() for c in texts[0]):
            texts = [""] * short + texts
        elif short:
            texts = texts[:1] + [""] * short + texts[1:]
        rows.append(tuple(texts))
    return tuple(rows)


def correct_pdf(name: str, data: bytes, corrections: Sequence[Correction]) -> bytes:
    """The PDF with a mark and a note on the line of every correction; its pages stay as they are."""
    _, where = _read(name, data)
    writer = PdfWriter(clone_from=_opened(name, data))
    for each in corrections:
        place = each.place
        line = where.get((place.paragraph, place.table, place.row, place.column))
        if line is None:
            continue
        left, right = _across(line, each)
        low, high = line.y - 0.2 * line.size, line.y + 0.9 * line.size
        corners = [left, high, right, high, left, low, right, low]
        note = Highlight(
            rect=(left, low, right, high),
            quad_points=ArrayObject([FloatObject(corner) for corner in corners]),
            highlight_color="ffd0c0",
        )
        note[NameObject("/Contents")] = TextStringObject(f"{each.old} should be {each.new}. {each.why}")
        writer.add_annotation(line.page - 1, note)
    made = io.BytesIO()
    writer.write(made)
    return made.getvalue()


def _across(line: Line, of: Correction) -> tuple[float, float]:
    """About where a text of a line begins and ends."""
    for x, text in line.cells:
        at = text.find(of.old)
        if at >= 0:
            letter = 0.5 * line.size
            return x + at * letter, x + (at + len(of.old)) * letter
    return line.cells[0][0], line.cells[-1][0] + 40
