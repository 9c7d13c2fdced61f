"""Plain text, Markdown and HTML as documents; corrected by replacing characters, and nothing else."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from html import escape, unescape

from humble_sum.core.documents.document import Block, Document, Following, Paragraph, Table
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.links import figure_link
from humble_sum.exchange.documents.packages import bad

HEADING = re.compile(r"#{1,6}\s+")
RULE = re.compile(r"\s*\|?[\s:|-]+\|?\s*")
ITEM = re.compile(r"\s*(?:[-*+]|\d+[.)])\s+")
# What only says how Markdown looks: emphasis, code, the ends of a link, and strokes before a sign.
LOOKS = re.compile(
    r"\*{1,3}(?=\S)|(?<=\S)\*{1,3}|(?<!\w)_{1,3}(?=\S)|(?<=\S)_{1,3}(?!\w)|`+|!?\[(?=[^\]\n]*\]\()|"
    r"\]\([^)\n]*\)|\\(?=[!-/:-@\[-`{-~])"
)
TAG = re.compile(
    r"<!--.*?-->|<(script|style)\b.*?</\1\s*>|<(/?)([a-zA-Z][\w:-]*)[^>]*>", re.DOTALL | re.IGNORECASE
)
HREF = re.compile(r"""\bhref\s*=\s*(?:"([^"]*)"|'([^']*)')""", re.IGNORECASE)
LINE_END = re.compile(r"[\r\n\t]")
ENDING = {"p", "div", "h1", "h2", "h3", "h4", "h5", "h6", "li", "tr", "td", "th", "table", "section", "br"}
ENDING |= {"article", "header", "footer", "ul", "ol", "dl", "dt", "dd", "figcaption", "caption", "blockquote"}
# For each paragraph or cell its pieces: where each begins in its text, and in the file, and how long it
# is there.
Spans = dict[tuple[int | None, ...], list[tuple[int, int, int]]]


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
        spans[number, None, None, None] = [(0, found.start(), len(found.group()))]
    return blocks, spans


class _Markdown:
    """A Markdown text being read: its blocks, and for each text where its characters stand in the file."""

    def __init__(self) -> None:
        self.blocks: list[Block] = []
        self.spans: Spans = {}
        self.paragraphs = self.tables = 0
        self.rows: list[tuple[str, ...]] = []
        self.lines: list[tuple[str, int]] = []
        self.following: list[Following] = []  # of the table that is being read

    def end(self, heading: bool = False) -> None:
        """End the table or the paragraph that is being read."""
        if self.rows:
            self.blocks.append(Table(self.tables, tuple(self.rows), following=tuple(self.following)))
            self.tables += 1
            self.rows, self.following = [], []
        if self.lines:
            text, places, following = _without_looks(self.lines)
            self.spans[self.paragraphs, None, None, None] = places
            self.blocks.append(Paragraph(self.paragraphs, text, heading=heading, following=following))
            self.paragraphs += 1
            self.lines = []

    def row(self, line: str, at: int) -> None:
        """A row of a table, without the bars at its ends."""
        if self.lines:
            self.end()
        if RULE.fullmatch(line):
            return
        inside = line.strip().strip("|")
        lead = line.index(inside) if inside else 0
        cells: list[str] = []
        for found in re.finditer(r"(?:^|\|)([^|]*)", inside):
            text, places, following = _without_looks([(found[1], at + lead + found.start(1))])
            row, column = len(self.rows), len(cells)
            self.spans[None, self.tables, row, column] = places
            self.following += [replace(each, row=row, column=column) for each in following]
            cells.append(text)
        self.rows.append(tuple(cells))


def _markdown_blocks(text: str) -> tuple[list[Block], Spans]:
    page, at = _Markdown(), 0
    for line in text.splitlines(keepends=True):
        bare = line.rstrip("\r\n")
        if bare.strip().startswith("|") or (page.rows and "|" in bare):
            page.row(bare, at)
        elif heads := HEADING.match(bare):
            page.end()
            page.lines = [(bare[heads.end() :], at + heads.end())]
            page.end(heading=True)
        else:
            if page.rows or not bare.strip() or ITEM.match(bare):
                page.end()
            if bare.strip():
                page.lines.append((bare, at))
            if bare.endswith(("  ", "\\")):
                page.end()  # a line that is broken on purpose
        at += len(line)
    page.end()
    return page.blocks, page.spans


def _without_looks(
    lines: Sequence[tuple[str, int]],
) -> tuple[str, list[tuple[int, int, int]], tuple[Following, ...]]:
    """The text of lines as a reader gets it; its pieces, where each begins in it and in the file; and what in
    it links to figures."""
    text, places, opened = "", [], 0
    following: list[Following] = []
    for n, (line, at) in enumerate(lines):
        if n:
            places.append((len(text), -1, 1))
            text += " "
        start = 0
        for marks in (*LOOKS.finditer(line), None):
            end = marks.start() if marks else len(line)
            if end > start:
                places.append((len(text), at + start, end - start))
                text += line[start:end]
            start = marks.end() if marks else end
            said = marks[0] if marks else ""
            if said.endswith("["):
                opened = len(text)
            elif said.startswith("]("):
                following += _linked(said[2:-1], opened, len(text))
    return text, places, tuple(following)


def _linked(address: str, start: int, end: int) -> Iterator[Following]:
    """The characters of a link, where it names a figure."""
    if (link := figure_link(address.strip("<> "))) is not None:
        yield Following(start, end, link.figure, entity=link.entity)


class _Page:
    """A web page being read: its blocks, and for each text where its characters stand in the file."""

    def __init__(self) -> None:
        self.blocks: list[Block] = []
        self.spans: Spans = {}
        self.text, self.places = "", list[tuple[int, int, int]]()
        self.paragraphs = self.tables = 0
        self.rows: list[list[str]] | None = None
        self.heading = self.in_cell = False
        self.link: tuple[str, int] | None = None  # the address of the link that is open, and where it begins
        self.linked: list[Following] = []  # of the paragraph or cell that is being read
        self.following: list[Following] = []  # of the table that is being read

    def say(self, raw: str, at: int) -> None:
        for piece in re.finditer(r"&[#\w]+;|[^&]+|&", raw):
            self.places.append((len(self.text), at + piece.start(), len(piece.group())))
            self.text += LINE_END.sub(" ", unescape(piece.group()))

    def close(self) -> None:
        """End a paragraph or a cell."""
        if self.in_cell:
            self.say(" ", -1)
            return
        if self.text.strip():
            self.spans[self.paragraphs, None, None, None] = self.places
            linked = tuple(self.linked)
            self.blocks.append(Paragraph(self.paragraphs, self.text, heading=self.heading, following=linked))
            self.paragraphs += 1
        self.text, self.places, self.linked = "", [], []

    def end_cell(self) -> None:
        if self.in_cell and self.rows:
            row, column = len(self.rows) - 1, len(self.rows[-1])
            self.spans[None, self.tables, row, column] = self.places
            self.following += [replace(each, row=row, column=column) for each in self.linked]
            self.rows[-1].append(self.text)
        self.text, self.places, self.linked, self.in_cell = "", [], [], False

    def end_table(self) -> None:
        self.end_cell()
        if self.rows is not None:
            rows, following = tuple(map(tuple, self.rows)), tuple(self.following)
            self.blocks.append(Table(self.tables, rows, following=following))
            self.tables += 1
        self.rows, self.following = None, []

    def begin_link(self, tag: str) -> None:
        found = HREF.search(tag)
        self.link = (unescape(found[1] or found[2]), len(self.text)) if found else None

    def end_link(self) -> None:
        if self.link is not None and self.link[1] < len(self.text):
            self.linked += _linked(self.link[0], self.link[1], len(self.text))
        self.link = None


def _html_blocks(text: str) -> tuple[list[Block], Spans]:
    page, at = _Page(), 0
    for found in TAG.finditer(text):
        page.say(text[at : found.start()], at)
        at = found.end()
        if not found[3]:
            continue
        if found[3].lower() == "a":
            page.end_link() if found[2] else page.begin_link(found[0])
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
    """The file with every correction made in its characters, in the encoding that it has."""
    text = decoded(name, data)
    ways = {"text": _text_blocks, "markdown": _markdown_blocks, "html": _html_blocks}
    _, spans = ways[kind](text)
    changes: list[tuple[int, int, str]] = []
    for each in corrections:
        place = each.place
        pieces = spans[place.paragraph, place.table, place.row, place.column]
        start, stop, new = _differing(each.old, each.new)
        new = escape(new, quote=False) if kind == "html" else new
        changes += _changes(pieces, place.start + start, place.start + stop, new)
    for start, end, new in sorted(changes, reverse=True):
        text = text[:start] + new + text[end:]
    return _encoded(text, data)


def _differing(old: str, new: str) -> tuple[int, int, str]:
    """The characters of a number that differ, at least one, and what takes their place: marks between its
    digits and its words stay where they are."""
    most = min(len(old), len(new)) - 1
    start = next((n for n in range(most) if old[n] != new[n]), most)
    rest = most - start
    same = next((n for n in range(rest) if old[-1 - n] != new[-1 - n]), rest)
    return start, len(old) - same, new[start : len(new) - same]


def _changes(
    pieces: Sequence[tuple[int, int, int]], first: int, last: int, new: str
) -> Iterator[tuple[int, int, str]]:
    """What is to be replaced in the file for characters of a text: the new text goes where they begin. What
    stands between pieces, such as marks of a page, stays."""
    for n, (start, there, length) in enumerate(pieces):
        following = pieces[n + 1][0] if n + 1 < len(pieces) else start + length
        low, high = max(first, start), min(last, following)
        if low >= high or there < 0:
            continue
        if length == following - start:
            yield there + low - start, there + high - start, new
        else:  # a character that is written as an entity
            yield there, there + length, new
        new = ""


def _encoded(text: str, data: bytes) -> bytes:
    """Text in the encoding of the file that it came from, with its mark of byte order."""
    if data.startswith(b"\xff\xfe"):
        return b"\xff\xfe" + text.encode("utf-16-le")
    if data.startswith(b"\xfe\xff"):
        return b"\xfe\xff" + text.encode("utf-16-be")
    return (b"\xef\xbb\xbf" if data.startswith(b"\xef\xbb\xbf") else b"") + text.encode()
