"""Presentations (ECMA-376, PresentationML): slides, their tables and notes; corrected in place."""

from __future__ import annotations

import re
import zipfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from lxml import etree

from humble_sum.core.documents.document import Block, Document, Following, Paragraph, Table
from humble_sum.exchange.documents.chart_data import ChartData, charts_of, correct_charts
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.links import REFERS, figure_link, links_of
from humble_sum.exchange.documents.packages import open_package, parsed, part, with_parts, written

A = "{http://schemas.openxmlformats.org/drawingml/2006/main}"
P = "{http://schemas.openxmlformats.org/presentationml/2006/main}"
SLIDE = re.compile(r"ppt/(slides|notesSlides)/(?:slide|notesSlide)(\d+)\.xml")


@dataclass
class Text:
    """A paragraph: its text, and the element that each piece of it stands in."""

    text: str = ""
    pieces: list[tuple[int, etree._Element]] = field(default_factory=list)
    following: list[Following] = field(default_factory=list)


@dataclass
class Read:
    parts: dict[str, etree._Element] = field(default_factory=dict)
    paragraphs: list[tuple[str, Text]] = field(default_factory=list)
    cells: dict[tuple[int, int, int], tuple[str, list[Text]]] = field(default_factory=dict)
    blocks: list[Block] = field(default_factory=list)
    charts: dict[int, ChartData] = field(default_factory=dict)
    tables: int = 0
    links: dict[str, str] = field(default_factory=dict)


def read_pptx(name: str, data: bytes) -> Document:
    """A presentation. Raises InputError where it cannot be read."""
    return Document(name, "pptx", tuple(_read(name, data).blocks))


def _read(name: str, data: bytes) -> Read:
    package = open_package(name, data)
    read = Read()
    for path, kind, slide in _slides(package):
        root = parsed(name, path, part(package, name, path))
        read.parts[path] = root
        read.links = links_of(name, package, path)
        for shape in root.iter(f"{P}sp", f"{A}tbl"):
            if shape.tag == f"{A}tbl":
                _table(shape, path, kind, slide, read)
            else:
                _shape(shape, path, kind, slide, read)
        for chart in charts_of(name, package, path):
            read.blocks.append(Table(read.tables, chart.rows, kind, slide, chart.title))
            read.charts[read.tables] = chart
            read.tables += 1
    return read


def _slides(package: zipfile.ZipFile) -> Iterator[tuple[str, str, int]]:
    found = [match for path in package.namelist() if (match := SLIDE.fullmatch(path))]
    for match in sorted(found, key=lambda each: (int(each[2]), each[1] != "slides")):
        yield match[0], "body" if match[1] == "slides" else "notes", int(match[2])


def _shape(shape: etree._Element, path: str, kind: str, slide: int, read: Read) -> None:
    holder = shape.find(f"{P}nvSpPr/{P}nvPr/{P}ph")
    heads = holder is not None and (holder.get("type") or "").lower() in ("title", "ctrtitle")
    for body in shape.iter(f"{P}txBody"):
        for element in body.iter(f"{A}p"):
            text = _text_of(element, read.links)
            number = len(read.paragraphs)
            read.paragraphs.append((path, text))
            read.blocks.append(Paragraph(number, text.text, kind, slide, heads, tuple(text.following)))


def _table(table: etree._Element, path: str, kind: str, slide: int, read: Read) -> None:
    number = read.tables
    read.tables += 1
    rows = []
    following: list[Following] = []
    for n, row in enumerate(table.iter(f"{A}tr")):
        cells = []
        for place, cell in enumerate(row.iter(f"{A}tc")):
            texts = [_text_of(element, read.links) for element in cell.iter(f"{A}p")]
            read.cells[number, n, place] = (path, texts)
            start = 0
            for text in texts:
                following += [
                    replace(each, start=each.start + start, end=each.end + start, row=n, column=place)
                    for each in text.following
                ]
                start += len(text.text) + 1
            cells.append("\n".join(text.text for text in texts))
        rows.append(tuple(cells))
    read.blocks.append(Table(number, tuple(rows), kind, slide, following=tuple(following)))


def _text_of(element: etree._Element, links: Mapping[str, str]) -> Text:
    found = Text()
    for child in element.iter(f"{A}t", f"{A}br"):
        if child.tag == f"{A}br":
            found.text += "\n"
            continue
        start = len(found.text)
        found.pieces.append((start, child))
        found.text += child.text or ""
        run = child.getparent()
        click = None if run is None else run.find(f"{A}rPr/{A}hlinkClick")
        link = None if click is None else figure_link(links.get(click.get(REFERS) or "", ""))
        if link is not None:
            found.following.append(Following(start, len(found.text), link.figure, entity=link.entity))
    return found


def correct_pptx(name: str, data: bytes, corrections: Sequence[Correction]) -> bytes:
    """The presentation with every correction made in place, and nothing else changed."""
    read = _read(name, data)
    touched: set[str] = set()
    changes: dict[int, list[tuple[int, Correction, Text]]] = {}
    in_charts = [(read.charts[c.place.table], c) for c in corrections if c.place.table in read.charts]
    for each in corrections:
        place = each.place
        if place.table in read.charts:
            continue
        if place.paragraph is not None:
            path, text = read.paragraphs[place.paragraph]
            changes.setdefault(id(text), []).append((place.start, each, text))
        else:
            path, texts = read.cells[place.table or 0, place.row or 0, place.column or 0]
            start = place.start
            for text in texts:
                if start <= len(text.text):
                    changes.setdefault(id(text), []).append((start, each, text))
                    break
                start -= len(text.text) + 1
        touched.add(path)
    for found in changes.values():
        for start, each, text in sorted(found, key=lambda change: -change[0]):
            replace_in(text.pieces, start, start + len(each.old), each.new)
    changed = {path: written(read.parts[path]) for path in touched}
    return with_parts(data, changed | correct_charts(name, open_package(name, data), in_charts))


def replace_in(pieces: Sequence[tuple[int, etree._Element]], start: int, end: int, new: str) -> None:
    """Put new text in the place of old, in the element where the old begins; others lose their share of
    it."""
    put = False
    for place, element in pieces:
        text = element.text or ""
        first, last = max(0, start - place), min(len(text), end - place)
        if first >= last:
            continue
        element.text = text[:first] + ("" if put else new) + text[last:]
        put = True
