"""Word documents (ECMA-376, WordprocessingML): read as they would be with tracked changes accepted, and
corrected by tracked changes that their authors can accept."""

from __future__ import annotations

import zipfile
from collections.abc import Iterable, Iterator, Mapping, Sequence
from copy import deepcopy
from dataclasses import dataclass, field, replace

from lxml import etree

from humble_sum.core.documents.document import Block, Document, Following, Paragraph, Table
from humble_sum.core.statements.names import FigureRef
from humble_sum.exchange.documents.chart_data import ChartData, charts_of, correct_charts
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.links import REFERS, FigureLink, figure_link, links_of
from humble_sum.exchange.documents.packages import open_package, parsed, part, with_parts, written

W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
XML_SPACE = "{http://www.w3.org/XML/1998/namespace}space"
FALLBACK = "{http://schemas.openxmlformats.org/markup-compatibility/2006}Fallback"
BODY = "word/document.xml"
# What is read besides the body, in this order.
OTHERS = (
    ("word/header", "head"),
    ("word/footer", "foot"),
    ("word/footnotes.xml", "notes"),
    ("word/endnotes.xml", "notes"),
)
SKIPPED = {f"{W}del", f"{W}moveFrom", f"{W}delText", f"{W}instrText", f"{W}rPr", f"{W}pPr", FALLBACK}
TEXTS = {f"{W}t"}
PAGE = "lastRenderedPageBreak"
FOLLOWS = "humble-sum:"  # how the tags of our content controls begin
MOST_TAG = 64  # characters that a tag may have


@dataclass
class Text:
    """A paragraph as it is read: its text, and the element that each piece of it stands in."""

    element: etree._Element
    text: str = ""
    pieces: list[tuple[int, etree._Element]] = field(default_factory=list)
    following: list[Following] = field(default_factory=list)


@dataclass
class Read:
    """The parts of a document that were read, and the texts of its paragraphs and cells by their numbers."""

    parts: dict[str, etree._Element]
    paragraphs: list[Text]
    cells: dict[tuple[int, int, int], list[Text]]
    blocks: list[Block]
    charts: dict[int, ChartData]


def read_docx(name: str, data: bytes) -> Document:
    """A Word document. Raises InputError where it cannot be read."""
    return Document(name, "docx", tuple(read_parts(name, data).blocks))


def read_parts(name: str, data: bytes) -> Read:
    package = open_package(name, data)
    read = Read({}, [], {}, [], {})
    state = _State()
    for path, kind in _parts(package):
        root = parsed(name, path, part(package, name, path))
        read.parts[path] = root
        state.links = links_of(name, package, path)
        _blocks(root, kind, read, state)
        for chart in charts_of(name, package, path):
            read.blocks.append(Table(state.tables, chart.rows, kind, None, chart.title))
            read.charts[state.tables] = chart
            state.tables += 1
    return read


def _parts(package: zipfile.ZipFile) -> Iterator[tuple[str, str]]:
    names = package.namelist()
    if BODY in names:
        yield BODY, "body"
    for start, kind in OTHERS:
        for path in sorted(names):
            if path.startswith(start) and path.endswith(".xml"):
                yield path, kind


@dataclass
class _State:
    tables: int = 0
    page: int = 1
    links: dict[str, str] = field(default_factory=dict)


def _blocks(root: etree._Element, kind: str, read: Read, state: _State) -> None:
    """The paragraphs and tables of a part, in reading order; those in text boxes come where their boxes
    do."""
    for element in _outermost(root):
        if element.tag == f"{W}tbl":
            _table(element, kind, read, state)
        else:
            _paragraph(element, kind, read, state)
            for box in element.iter(f"{W}txbxContent"):
                if not any(each.tag == FALLBACK for each in box.iterancestors()):
                    _blocks(box, kind, read, state)


def _outermost(root: etree._Element) -> Iterator[etree._Element]:
    """Paragraphs and tables that stand in no other."""
    for child in root:
        if child.tag in (f"{W}p", f"{W}tbl"):
            yield child
        elif child.tag not in SKIPPED:
            yield from _outermost(child)


def _paragraph(element: etree._Element, kind: str, read: Read, state: _State) -> None:
    text = _text_of(element, state.links)
    number = len(read.paragraphs)
    read.paragraphs.append(text)
    page = state.page if kind == "body" else None
    read.blocks.append(Paragraph(number, text.text, kind, page, _heads(element), tuple(text.following)))
    state.page += sum(1 for _ in element.iter(f"{W}{PAGE}")) if kind == "body" else 0


def _heads(element: etree._Element) -> bool:
    style = element.find(f"{W}pPr/{W}pStyle")
    said = (style.get(f"{W}val") or "").lower() if style is not None else ""
    return said.startswith(("heading", "title", "berschrift", "titre", "titulo", "kop"))


def _table(element: etree._Element, kind: str, read: Read, state: _State) -> None:
    number = state.tables
    state.tables += 1
    rows = []
    following: list[Following] = []
    for n, row in enumerate(_children(element, "tr")):
        cells: list[str] = []
        for cell in _children(row, "tc"):
            texts = [_text_of(p, state.links) for p in cell.iter(f"{W}p")]
            read.cells[number, n, len(cells)] = texts
            start = 0
            for text in texts:
                for each in text.following:
                    first, last = each.start + start, each.end + start
                    following.append(replace(each, start=first, end=last, row=n, column=len(cells)))
                start += len(text.text) + 1
            cells.append("\n".join(text.text for text in texts))
            span = cell.find(f"{W}tcPr/{W}gridSpan")
            wide = int(span.get(f"{W}val") or 1) if span is not None else 1
            cells.extend([""] * (min(wide, 64) - 1))
        rows.append(tuple(cells))
    page = state.page if kind == "body" else None
    read.blocks.append(Table(number, tuple(rows), kind, page, following=tuple(following)))
    state.page += sum(1 for _ in element.iter(f"{W}{PAGE}")) if kind == "body" else 0


def _children(element: etree._Element, tag: str) -> Iterator[etree._Element]:
    """The rows of a table or the cells of a row, also where they stand in a control."""
    for child in element:
        if child.tag == f"{W}{tag}":
            yield child
        elif child.tag in (f"{W}sdt", f"{W}sdtContent", f"{W}ins", f"{W}customXml"):
            yield from _children(child, tag)


def _text_of(element: etree._Element, links: Mapping[str, str]) -> Text:
    """The text of a paragraph with tracked changes as they would be accepted; results of fields count, their
    instructions do not."""
    found = Text(element)

    def walk(node: etree._Element) -> None:
        for child in node:
            if child.tag in SKIPPED or child.tag == f"{W}txbxContent":
                continue
            if child.tag in TEXTS:
                found.pieces.append((len(found.text), child))
                found.text += child.text or ""
            elif child.tag == f"{W}tab":
                found.text += "\t"
            elif child.tag in (f"{W}br", f"{W}cr"):
                found.text += "\n"
            elif child.tag == f"{W}noBreakHyphen":
                found.text += "-"
            else:
                start = len(found.text)
                walk(child)
                if (figure := _figure_of(child)) is not None:
                    found.following.append(Following(start, len(found.text), figure))
                if (link := _link_of(child, links)) is not None:
                    follows = Following(start, len(found.text), link.figure, entity=link.entity)
                    found.following.append(follows)

    walk(element)
    return found


def _figure_of(control: etree._Element) -> FigureRef | None:
    """The figure that a content control follows, by its tag; None for every other element."""
    tag = control.find(f"{W}sdtPr/{W}tag") if control.tag == f"{W}sdt" else None
    said = "" if tag is None else tag.get(f"{W}val") or ""
    parts = said.removeprefix(FOLLOWS).split("/")
    return (parts[0], parts[1], parts[2]) if said.startswith(FOLLOWS) and len(parts) == 3 else None


def _link_of(element: etree._Element, links: Mapping[str, str]) -> FigureLink | None:
    """The figure that a link names, whose address stands beside the part and its end in it."""
    if element.tag != f"{W}hyperlink":
        return None
    address = links.get(element.get(REFERS) or "", "")
    anchor = element.get(f"{W}anchor")
    return figure_link(f"{address}#{anchor}" if anchor and "#" not in address else address)


def correct_docx(name: str, data: bytes, corrections: Sequence[Correction], author: str, at: str) -> bytes:
    """The document with every correction as a tracked change of an author, and nothing else changed."""
    read = read_parts(name, data)
    ids = _free_ids(read.parts.values())
    touched: set[str] = set()
    by_text: dict[int, list[tuple[int, int, str, Text]]] = {}
    for each in corrections:
        for text, start in where_in(read, each):
            by_text.setdefault(id(text), []).append((start, start + len(each.old), each.new, text))
    for changes in by_text.values():
        for start, end, new, text in sorted(changes, key=lambda change: -change[0]):
            if _replace(text, start, end, new, author, at, ids):
                touched.add(path_of(read, text))
    changed = {path: written(root) for path, root in read.parts.items() if path in touched}
    in_charts = [(read.charts[c.place.table], c) for c in corrections if c.place.table in read.charts]
    return with_parts(data, changed | correct_charts(name, open_package(name, data), in_charts))


def where_in(read: Read, of: Correction) -> Iterator[tuple[Text, int]]:
    place = of.place
    if place.paragraph is not None:
        yield read.paragraphs[place.paragraph], place.start
        return
    start = place.start
    for text in read.cells.get((place.table or 0, place.row or 0, place.column or 0), ()):
        if start <= len(text.text):
            yield text, start
            return
        start -= len(text.text) + 1


def path_of(read: Read, text: Text) -> str:
    root = text.element.getroottree().getroot()
    return next(path for path, each in read.parts.items() if each is root)


def _free_ids(roots: Iterable[etree._Element]) -> Iterator[int]:
    used = [
        int(value)
        for root in roots
        for element in root.iter(f"{W}ins", f"{W}del")
        if (value := element.get(f"{W}id") or "").isdigit()
    ]
    number = max(used, default=0)
    while True:
        number += 1
        yield number


def _replace(text: Text, start: int, end: int, new: str, author: str, at: str, ids: Iterator[int]) -> bool:
    """Put new text in the place of old: the old runs struck out, a new one after them with the look of the
    first. False where the old text is not wholly in runs."""
    within = [
        (place, element)
        for place, element in text.pieces
        if place < end and place + len(element.text or "") > start
    ]
    runs: list[etree._Element] = []
    for place, element in within:
        run = element.getparent()
        if run is None or run.tag != f"{W}r":
            return False
        length = len(element.text or "")
        runs.append(cut_out(run, element, max(0, start - place), min(length, end - place)))
    if not runs:
        return False
    stamp = {f"{W}author": author, f"{W}date": at}
    look = runs[0].find(f"{W}rPr")
    for run in runs:
        parent = run.getparent()
        assert parent is not None
        struck = etree.Element(f"{W}del", {f"{W}id": str(next(ids)), **stamp})
        parent.replace(run, struck)
        struck.append(run)
        for piece in run.findall(f"{W}t"):
            piece.tag = f"{W}delText"
    added = etree.Element(f"{W}ins", {f"{W}id": str(next(ids)), **stamp})
    run = etree.SubElement(added, f"{W}r")
    if look is not None:
        run.append(deepcopy(look))
    piece = etree.SubElement(run, f"{W}t", {XML_SPACE: "preserve"})
    piece.text = new
    last = runs[-1].getparent()
    assert last is not None
    last.addnext(added)
    return True


def cut_out(run: etree._Element, element: etree._Element, first: int, last: int) -> etree._Element:
    """A run that has just these characters of a text, taken out of the run it stood in. What stands before
    stays where it is; what stands behind goes into a run of its own with the same look."""
    text = element.text or ""
    look = run.find(f"{W}rPr")
    children = list(run)
    behind = children[children.index(element) + 1 :]

    def other(said: str, pieces: Sequence[etree._Element] = ()) -> etree._Element:
        made = etree.Element(f"{W}r", dict(run.attrib))
        if look is not None:
            made.append(deepcopy(look))
        if said:
            own = etree.SubElement(made, f"{W}t", {XML_SPACE: "preserve"})
            own.text = said
        made.extend(pieces)
        return made

    if text[last:] or behind:
        run.addnext(other(text[last:], behind))
    target = other(text[first:last])
    run.addnext(target)
    element.text = text[:first]
    element.set(XML_SPACE, "preserve")
    if not element.text and all(child is look or child is element for child in run):
        parent = run.getparent()
        assert parent is not None
        parent.remove(run)
    return target
