"""PDF as documents: lines by where their texts stand, tables by gaps that columns share; corrected by
notes."""

from __future__ import annotations

import io
import re
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from pdfminer.converter import PDFPageAggregator
from pdfminer.layout import LTChar, LTFigure
from pdfminer.pdfinterp import PDFPageInterpreter, PDFResourceManager
from pdfminer.pdfpage import PDFPage
from pypdf import PdfReader, PdfWriter
from pypdf.annotations import Highlight
from pypdf.errors import PyPdfError
from pypdf.generic import ArrayObject, FloatObject, NameObject, TextStringObject

from humble_sum.core.documents.document import Block, Document, Paragraph, Table
from humble_sum.core.errors import InputError
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.packages import bad

HYPHEN = re.compile(r"[^\W\d_][-\u00ad\u2010]$")
MOST_PAGES = 2_000
GAP, SPACE, SAME_LINE = 1.0, 0.15, 0.35  # sizes of a letter: between cells, between words, off a line
LEADING = 1.9  # sizes of a letter from a line to the next of its paragraph
LARGER = 1.15  # times the usual size, from which a line is a heading
PROSE, LEAST_PROSE = 25, 4  # characters of a line of running text, and lines that make a column
LEAST_ROWS = 2  # rows with several cells, one below another, that make a table


@dataclass
class Piece:
    """A text between wide gaps where it stands on a page, in points from its left and its foot."""

    x: float
    right: float
    y: float
    size: float
    text: str


@dataclass(frozen=True)
class Line:
    """A line of a page: cells from the left, each with where it begins and ends; and the column it is in."""

    page: int
    y: float
    size: float
    cells: tuple[tuple[float, float, str], ...]
    column: int = 0

    @property
    def text(self) -> str:
        return " ".join(text for _, _, text in self.cells)


def read_pdf(name: str, data: bytes) -> Document:
    """A PDF. Raises InputError where it is encrypted, broken, scanned, or too long."""
    return _read(name, data)[0]


# For each paragraph or cell its lines, each with where it begins in the text.
Where = dict[tuple[int | None, ...], list[tuple[int, Line]]]


def _read(name: str, data: bytes) -> tuple[Document, Where]:
    _opened(name, data)
    lines = [line for page in _pages(name, data) for line in page]
    if not any(line.cells for line in lines):
        what = "There is no text in this PDF: it seems to be scanned."
        raise bad(name, what, "Ask for the file that it was printed from.")
    usual = Counter(round(line.size, 1) for line in lines).most_common(1)[0][0]
    blocks: list[Block] = []
    where: Where = {}
    paragraphs = tables = at = 0
    while at < len(lines):
        end = at
        while end < len(lines) and len(lines[end].cells) > 1 and lines[end].page == lines[at].page:
            end += 1
        if end - at >= LEAST_ROWS:
            rows = _rows(lines[at:end])
            for n, line in enumerate(lines[at:end]):
                for column in range(len(rows[n])):
                    where[None, tables, n, column] = [(0, line)]
            blocks.append(Table(tables, rows, page=lines[at].page))
            tables += 1
            at = end
            continue
        end = at + 1
        while end < len(lines) and _goes_on(lines[end - 1], lines[end]):
            end += 1
        text, placed = "", []
        for line in lines[at:end]:
            if HYPHEN.search(text) and line.text[:1].islower():
                text = text[:-1]  # a word that is broken over two lines
            else:
                text += "\n" if text else ""
            placed.append((len(text), line))
            text += line.text
        where[paragraphs, None, None, None] = placed
        heading = lines[at].size > usual * LARGER and end - at <= 2
        blocks.append(Paragraph(paragraphs, text, page=lines[at].page, heading=heading))
        paragraphs += 1
        at = end
    return Document(name, "pdf", tuple(blocks), ("Read line by line, as they stand on the pages.",)), where


def _goes_on(line: Line, following: Line) -> bool:
    """Whether a line goes on in the next one: of the same size, right below it in the same column; or at the
    head of the next column or page, where its sentence has not ended."""
    if len(following.cells) > 1 or abs(line.size - following.size) > 0.1 * line.size:
        return False
    if (following.page, following.column) == (line.page, line.column):
        return 0 < line.y - following.y <= LEADING * line.size
    text = line.text.rstrip()
    return len(text) >= PROSE and text[-1] not in ".!?:;।" and not following.text[:1].isupper()


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


def _pages(name: str, data: bytes) -> Iterator[list[Line]]:
    """The lines of each page from its head."""
    try:
        resources = PDFResourceManager()
        device = PDFPageAggregator(resources, laparams=None)  # lines are our own work
        interpreter = PDFPageInterpreter(resources, device)
        for number, page in enumerate(PDFPage.get_pages(io.BytesIO(data)), 1):
            interpreter.process_page(page)
            every = list(_letters(device.get_result()))
            if page.rotate and sum(each.upright for each in every) < len(every) / 2:
                page.rotate = 0  # a page that was turned as a whole is read as it was made
                interpreter.process_page(page)
                every = list(_letters(device.get_result()))
            letters = [each for each in every if each.upright and each.size > 0]
            letters.sort(key=lambda each: (-each.y0, each.x0))
            rows: list[list[LTChar]] = []
            for each in letters:
                if rows and abs(rows[-1][0].y0 - each.y0) <= SAME_LINE * each.size:
                    rows[-1].append(each)
                else:
                    rows.append([each])
            pieces = [found for row in rows if (found := _pieces(sorted(row, key=lambda each: each.x0)))]
            yield [_line(row, number, column) for column, row in _in_columns(pieces)]
    except InputError:
        raise
    except Exception as error:  # what the reader raises for broken parts is of many kinds
        raise bad(name, f"This PDF cannot be read: {error}.") from None


def _letters(of: Iterable[Any]) -> Iterator[LTChar]:
    for each in of:
        if isinstance(each, LTChar):
            yield each
        elif isinstance(each, LTFigure):
            yield from _letters(each)


def _pieces(row: Sequence[LTChar]) -> list[Piece]:
    """The texts of a row between its wide gaps."""
    found: list[Piece] = []
    for each in row:
        text = each.get_text()
        if not text.strip():
            continue
        last = found[-1] if found else None
        if last is None or each.x0 - last.right > GAP * each.size:
            found.append(Piece(each.x0, each.x1, each.y0, each.size, text))
            continue
        last.text += (" " if each.x0 - last.right > SPACE * each.size else "") + text
        last.right = max(last.right, each.x1)
    return found


def _in_columns(rows: Sequence[list[Piece]]) -> Iterator[tuple[int, list[Piece]]]:
    """The rows of a page in reading order, each with its column: where running text stands on both sides of
    a gap, the left side comes first. Everything else goes over the whole width."""
    gap = _gap(rows)
    sides = [([p for p in row if p.x < gap - 2], [p for p in row if p.x >= gap - 2]) for row in rows]
    at = 0
    while at < len(rows):
        end = at
        while end < len(rows) and _parts(sides[end], gap):
            end += 1
        first, last = _both_run(sides, at, end)
        if last < first:
            for row in rows[at : end + 1]:
                yield 0, row
            at = end + 1
            continue
        for row in rows[at:first]:
            yield 0, row
        for side in (0, 1):
            for left_right in sides[first : last + 1]:
                if left_right[side]:
                    yield side + 1, left_right[side]
        at = last + 1


def _gap(rows: Sequence[list[Piece]]) -> float:
    """Where the right one of two columns may begin: where most lines of running text do that do not begin at
    the left edge."""
    starts = Counter(round(each.x) for row in rows for each in row if len(each.text) >= PROSE)
    edge = min(starts, default=0)
    inner = {start: count for start, count in starts.items() if start > edge + PROSE}
    return max(inner, key=lambda start: inner[start], default=0)


def _parts(sides: tuple[list[Piece], list[Piece]], gap: float) -> bool:
    """Whether a gap parts a row into at most one text on each side."""
    left, right = sides
    return gap > 0 and len(left) <= 1 and len(right) <= 1 and not (left and left[-1].right > gap)


def _both_run(sides: Sequence[tuple[list[Piece], list[Piece]]], at: int, end: int) -> tuple[int, int]:
    """The first and last row of those from `at` to before `end` that make two columns of running text; the
    last before the first where they make none."""
    right = [n for n in range(at, end) if sides[n][1]]
    if not right:
        return at, at - 1
    first, last = right[0], right[-1]
    for side in (0, 1):
        texts = [each.text for row in sides[first : last + 1] for each in row[side]]
        if sum(len(text) >= PROSE and any(map(str.islower, text)) for text in texts) < LEAST_PROSE:
            return at, at - 1
    # The left one may go on for some lines after the right one has ended.
    left = [row[0][0] for row in sides[first : last + 1] if row[0]]
    while last + 1 < end and left[-1].y - sides[last + 1][0][0].y <= LEADING * left[-1].size:
        last += 1
        left.append(sides[last][0][0])
    return first, last


def _line(row: Sequence[Piece], number: int, column: int) -> Line:
    cells = tuple((each.x, each.right, each.text) for each in row)
    return Line(number, row[0].y, row[0].size, cells, column)


def _rows(lines: Sequence[Line]) -> tuple[tuple[str, ...], ...]:
    """The cells of lines by the columns that they share: numbers are counted from the right."""
    width = max(len(line.cells) for line in lines)
    rows = []
    for line in lines:
        texts = [text for _, _, text in line.cells]
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
        lines = where.get((place.paragraph, place.table, place.row, place.column))
        if not lines:
            continue
        line = next(one for start, one in reversed(lines) if start <= place.start or one is lines[0][1])
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
    said = of.old.splitlines()[0] if of.old else ""
    for x, right, text in line.cells:
        at = text.find(said)
        if at >= 0:
            letter = (right - x) / max(1, len(text))
            return x + at * letter, x + (at + len(said)) * letter
    return line.cells[0][0], line.cells[-1][1]
