"""Plain text, Markdown and HTML as documents; corrected by replacing characters, and nothing else."""

from __future__ import annotations

import re
from collections.abc import Sequence
from html import escape, unescape

from humble_sum.core.documents.document import Block, Document, Paragraph, Place, Table
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.packages import bad

HEADING = re.compile(r"#{1,6}\s+")
RULE = re.compile(r"\s*\|?[\s:|-]+\|?\s*")
TAG = re.compile(
    r"<!--.*?-->|<(script|style)\b.*?</\1\s*>|<(/?)([a-zA-Z][\w:-]*)[^>]*>", re.DOTALL | re.IGNORECASE
)
ENDING = {"p", "div", "h1", "h2", "h3", "h4", "h5", "h6", "li", "tr", "td", "th", "table", "section", "br"}
ENDING |= {"article", "header", "footer", "ul", "ol", "dl", "dt", "dd", "figcaption", "caption", "blockquote"}
Spans = dict[tuple[int | None, ...], list[tuple[int, int]]]


def decoded(name: str, data: bytes) -> str:
    """The text of a file: UTF-8, or UTF-16 where it says so. Raises InputError."""
    for encoding in (
        ("utf-8-sig", "utf-16") if not data.startswith((b"\xff\xfe", b"\xfe\xff")) else ("utf-16",)
    ):
        try:
            return data.decode(encoding)
        except (UnicodeDecodeError, UnicodeError):
            continue
    raise bad(name, "This is no text in UTF-8.", "Save it as UTF-8.")


def read_text(name: str, data: bytes) -> Document:
    """Plain text: paragraphs between blank lines."""
    return Document(name, "text", tuple(_text_blocks(decoded(name, data))[0]))


def read_markdown(name: str, data: bytes) -> Document:
    """Markdown: headings, paragraphs and tables of cells between bars."""
    return Document(name, "markdown", tuple(_markdown_blocks(decoded(name, data))[0]))


def read_html(name: str, data: bytes) -> Document:
    """A web page: its texts by block, and its tables by row. Scripts are never run."""
    return Document(name, "html", tuple(_html_blocks(decoded(name, data))[0]))


def _text_blocks(text: str) -> tuple[list[Block], Spans]:
    blocks: list[Block] = []
    spans: Spans = {}
    for found in re.finditer(r"[^\n]+(?:\n(?!\s*\n)[^\n]+)*", text):
        number = len(blocks)
        blocks.append(Paragraph(number, found.group()))
        spans[number, None, None, None] = [(0, found.start())]
    return blocks, spans


def _markdown_blocks(text: str) -> tuple[list[Block], Spans]:
    blocks: list[Block] = []
    spans: Spans = {}
    paragraphs = tables = 0
    rows: list[tuple[str, ...]] = []

    def close() -> None:
        nonlocal tables
        if rows:
            blocks.append(Table(tables, tuple(rows)))
            tables += 1
            rows.clear()

    at = 0
    for line in text.splitlines(keepends=True):
        bare = line.rstrip("\r\n")
        if bare.strip().startswith("|") or (rows and "|" in bare):
            if not RULE.fullmatch(bare):
                cells: list[str] = []
                for found in re.finditer(r"(?:^|\|)([^|]*)", bare.strip().strip("|")):
                    lead = bare.index(bare.strip().strip("|")) if bare.strip().strip("|") else 0
                    start = at + lead + found.start(1)
                    spans[None, tables, len(rows), len(cells)] = [(0, start)]
                    cells.append(found[1])
                rows.append(tuple(cells))
        else:
            close()
            if bare.strip():
                heads = HEADING.match(bare)
                lead = heads.end() if heads else 0
                spans[paragraphs, None, None, None] = [(0, at + lead)]
                blocks.append(Paragraph(paragraphs, bare[lead:], heading=bool(heads)))
                paragraphs += 1
        at += len(line)
    close()
    return blocks, spans


class _Page:
    """A web page being read: its blocks, and for each text where its characters stand in the file."""

    def __init__(self) -> None:
        self.blocks: list[Block] = []
        self.spans: Spans = {}
        self.text, self.places = "", list[tuple[int, int]]()
        self.paragraphs = self.tables = 0
        self.rows: list[list[str]] | None = None
        self.heading = self.in_cell = False

    def say(self, raw: str, at: int) -> None:
        for piece in re.finditer(r"&[#\w]+;|[^&]+|&", raw):
            self.places.append((len(self.text), at + piece.start()))
            self.text += unescape(piece.group())

    def close(self) -> None:
        """End a paragraph or a cell."""
        if self.in_cell:
            self.say(" ", -1)
            return
        if self.text.strip():
            self.spans[self.paragraphs, None, None, None] = self.places
            self.blocks.append(Paragraph(self.paragraphs, self.text, heading=self.heading))
            self.paragraphs += 1
        self.text, self.places = "", []

    def end_cell(self) -> None:
        if self.in_cell and self.rows:
            self.spans[None, self.tables, len(self.rows) - 1, len(self.rows[-1])] = self.places
            self.rows[-1].append(self.text)
        self.text, self.places, self.in_cell = "", [], False

    def end_table(self) -> None:
        self.end_cell()
        if self.rows is not None:
            self.blocks.append(Table(self.tables, tuple(map(tuple, self.rows))))
            self.tables += 1
        self.rows = None


def _html_blocks(text: str) -> tuple[list[Block], Spans]:
    page, at = _Page(), 0
    for found in TAG.finditer(text):
        page.say(text[at : found.start()], at)
        at = found.end()
        if not found[3]:
            continue
        _tag(page, found[3].lower(), bool(found[2]))
    page.say(text[at:], at)
    page.close()
    return page.blocks, page.spans


def _tag(page: _Page, tag: str, ends: bool) -> None:
    if tag == "table":
        if ends:
            page.end_table()
        else:
            page.close()
            page.rows = []
    elif tag == "tr" and not ends and page.rows is not None:
        page.end_cell()
        page.rows.append([])
    elif tag in ("td", "th") and page.rows:
        page.end_cell()
        page.in_cell = not ends
    elif tag in ENDING:
        page.close()
    if re.fullmatch("h[1-6]|title|caption", tag):
        page.heading = not ends


def correct_text(name: str, data: bytes, kind: str, corrections: Sequence[Correction]) -> bytes:
    """The file with every correction made in its characters."""
    text = decoded(name, data)
    ways = {"text": _text_blocks, "markdown": _markdown_blocks, "html": _html_blocks}
    _, spans = ways[kind](text)
    changes = []
    for each in corrections:
        start = _place(spans, each.place, each.place.start)
        end = _place(spans, each.place, each.place.start + len(each.old) - 1) + 1
        changes.append((start, end, escape(each.new) if kind == "html" else each.new))
    for start, end, new in sorted(changes, reverse=True):
        text = text[:start] + new + text[end:]
    lead = b"\xef\xbb\xbf" if data.startswith(b"\xef\xbb\xbf") else b""
    return lead + text.encode()


def _place(spans: Spans, place: Place, at: int) -> int:
    """Where a character of a paragraph or cell stands in the file."""
    key = (place.paragraph, place.table, place.row, place.column)
    found = [(first, there) for first, there in spans[key] if first <= at]
    first, there = found[-1]
    return there + at - first
