"""Files that are not, byte for byte, what this program makes of the pack: where they differ, and what they
say where others made them.

What was made by another version is held to what it says: its texts and amounts in order, its formulas, codes
and notes, and that nothing in it is hidden, runs, or leads elsewhere.
"""

from __future__ import annotations

import csv
import hashlib
import io
import json
import re
import zipfile
import zlib
from collections import Counter
from collections.abc import Callable, Iterator
from html.parser import HTMLParser
from itertools import zip_longest
from typing import Any, NamedTuple
from xml.etree import ElementTree

from openpyxl import load_workbook

from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange.containers.archive import is_bare
from humble_sum.exchange.inline.stated_facts import differences as tagged_differences

UNREADABLE = (zipfile.BadZipFile, zlib.error, OSError, ValueError, RuntimeError, NotImplementedError)
AROUND = 24  # characters that are shown around a difference
MOST = 12  # differences that are named of one file
NARROW_DRAWING = re.compile(rb'<div class="drawn narrow">.*?</div>', re.DOTALL)
NOTE = "its look and the order of its parts were not compared."
# The style sheets of pages that earlier versions made, by their SHA-256: nothing in them hides text.
EARLIER_STYLES: frozenset[str] = frozenset(
    {
        "3b4165278dbdcade75d4156ad401c111fe18c866a598b3fbabde2df24260caf6",  # 0.1.0: pages
        "adba3cbdc5fde97c40cae0fffbe3b8c944740778bc4ae8cd90cb30b080951984",  # 0.1.0: records
        "bb9c7b2abdc7a7087499f541d6b5ddab52edeb0709552719a856cafe28792ab7",  # 0.1.0: tagged pages
        "4cefc433b190e378dbc482513f8bf5a85ec99446aa035c7b485dea738a6ef0ed",  # 0.2.0: dashboards
    }
)
TAGS = frozenset(
    [
        "html",
        "head",
        "meta",
        "title",
        "style",
        "body",
        "main",
        "p",
        "h1",
        "h2",
        "div",
        "table",
        "caption",
        "thead",
        "tbody",
        "tr",
        "th",
        "td",
        "data",
        "span",
        "bdi",
        "footer",
    ]
)
ATTRIBUTES = frozenset(
    [
        "lang",
        "dir",
        "charset",
        "name",
        "content",
        "class",
        "scope",
        "colspan",
        "value",
        "style",
        "xml:lang",
        "http-equiv",
        "type",
        "id",
    ]
)
XBRL = ("ix:", "xbrli:", "link:")
EMPTY = ("meta", "link")  # elements that have no end
HIDES = re.compile(r"display|visibility|opacity|clip|mask|filter|transform")
INDENT = re.compile(r"padding-(?:inline-start|left):[\d.]+rem")
LIVELY_PARTS = re.compile(r"vba|activeX|externalLink|embeddings|ctrlProps|customXml|connections|queryTable")


def difference(name: str, issued: bytes, made: bytes) -> str:
    """Where a file first differs from what is made of the pack, in a sentence."""
    if name.endswith(".xlsx"):
        return _part_difference(issued, made)
    ours, theirs = made.decode("utf-8", "replace"), issued.decode("utf-8", "replace")
    at = next(
        (n for n, (a, b) in enumerate(zip(ours, theirs, strict=False)) if a != b), min(len(ours), len(theirs))
    )
    line = theirs.count("\n", 0, at) + 1
    return f"Line {line} reads {_around(theirs, at)}, and is made of the pack as {_around(ours, at)}."


def _around(text: str, at: int) -> str:
    said = text[max(0, at - AROUND) : at + AROUND]
    return f"“{' '.join(said.split())}”" if said.strip() else "nothing"


def _part_difference(issued: bytes, made: bytes) -> str:
    try:
        theirs, ours = _parts(issued), _parts(made)
    except UNREADABLE as error:
        return f"It cannot be unpacked: {error}."
    for part in sorted({*theirs, *ours}):
        if part not in ours:
            return f"It has a part {part}, which no workbook of ours has."
        if part not in theirs:
            return f"Its part {part} is missing."
        if theirs[part] != ours[part]:
            return f"{part}: {difference(part, theirs[part], ours[part])}"
    return "Its parts are as they are made of the pack, and the archive around them was changed."


def says_something_twice(data: bytes) -> bool:
    """Whether a JSON file has an object with one name twice: who reads it sees the last of them."""
    found = []

    def told(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        found.append(len({name for name, _ in pairs}) < len(pairs))
        return dict(pairs)

    json.loads(data, object_pairs_hook=told)
    return any(found)


def same_parts(issued: bytes, made: bytes) -> bool:
    """Whether two workbooks have the same parts in the same order, and nothing else in the archive around
    them: the same parts may be packed otherwise by another version of zlib."""
    try:
        theirs, ours = _parts(issued), _parts(made)
    except UNREADABLE:
        return False
    return [*theirs.items()] == [*ours.items()] and is_bare(issued)


def _parts(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as book:
        names = book.namelist()
        if len(names) > len({*names}):
            raise ValueError("a part is in it twice")
        return {name: book.read(name) for name in names}


class ReadBack(NamedTuple):
    """How a file that another version made differs from ours: the faults, what was not compared, and whether
    its text was."""

    faults: list[str]
    note: str = NOTE
    compared: bool = True


def read_back(name: str, issued: bytes, made: bytes, pack_proof: PackProof, same_program: bool) -> ReadBack:
    """Read a file that others made, and hold it against the one that is made here."""
    reads: dict[str, Callable[[bytes, bytes], Iterator[str]]] = {
        ".html": _pages,
        ".csv": _tables,
        ".svg": _drawings,
    }
    ending = name[name.rfind(".") :]
    try:
        if ending == ".xlsx":
            return ReadBack(list(_workbooks(issued, made, same_program)))
        if ending == ".xhtml":
            stated = tagged_differences(pack_proof, issued, not same_program)
            return ReadBack([*(f"{ref}: {what}." for ref, what in stated), *_pages(issued, made)])
        if ending == ".xsd":
            what = "another version made the taxonomy, and what it defines was not compared."
            return ReadBack(list(_plain_xml(issued)), what, compared=False)
        if ending in reads:
            return ReadBack(list(reads[ending](issued, made)))
    except (InputError, KeyError, RecursionError, ElementTree.ParseError, *UNREADABLE) as error:
        return ReadBack([f"It cannot be read: {error}."])
    return ReadBack([difference(name, issued, made)])


class _Read(HTMLParser):
    """A page as it is read: its texts in order, the exact amounts in it, and what it is made of."""

    def __init__(self) -> None:
        super().__init__()
        self.texts: list[str] = []
        self.amounts: list[str] = []
        self.styles: list[str] = []
        self.elements: set[str] = set()
        self.attributes: set[tuple[str, str]] = set()
        # What has to be there as often as in ours, or less: styles of single elements, what a page is told to
        # do, comments, and the elements of XBRL with all that they say.
        self.counted: Counter[tuple[str, str]] = Counter()
        self._in: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag.startswith(XBRL):
            if tag != "ix:nonfraction":
                self.counted[tag, " ".join(f'{name}="{value}"' for name, value in attrs)] += 1
        else:
            self.elements.add(tag)
            for name, value in attrs:
                self.attributes.add((tag, name))
                if (name == "style" and not INDENT.fullmatch(value or "")) or name == "http-equiv":
                    self.counted[tag, f'{name}="{value}"'] += 1
        if tag == "data":
            self.amounts.append(dict(attrs).get("value") or "")
        if tag not in EMPTY:
            self._in.append(tag)

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.handle_starttag(tag, attrs)
        if tag not in EMPTY:
            self._in.pop()

    def handle_endtag(self, tag: str) -> None:
        if tag in self._in:
            while self._in.pop() != tag:
                pass

    def handle_data(self, data: str) -> None:
        if self._in[-1:] == ["style"]:
            self.styles.append(data)
        elif data.strip() and self._in[-1:] != ["ix:footnote"]:
            self.texts.append(data)

    def handle_comment(self, data: str) -> None:
        self.counted["comment", data] += 1


def _page(data: bytes) -> _Read:
    read = _Read()
    read.feed(data.decode("utf-8"))
    read.close()
    return read


def _pages(issued: bytes, made: bytes) -> Iterator[str]:
    theirs, ours = _page(issued), _page(made)
    for tag in sorted(theirs.elements - ours.elements - TAGS):
        yield f"It has an element <{tag}>, which no page of ours has."
    for tag, name in sorted(theirs.attributes - ours.attributes):
        if name not in ATTRIBUTES and not name.startswith("xmlns"):
            yield f"<{tag}> has an attribute {name}, which none of ours has."
    for tag, said in [*theirs.counted - ours.counted][:MOST]:
        yield f"It has <{tag} {said}>, which the page that is made of the pack has not."
    known = {*ours.styles}
    for style in theirs.styles:
        if style not in known and hashlib.sha256(style.encode()).hexdigest() not in EARLIER_STYLES:
            yield "Its style sheet is none that this program knows, so it may hide or paint anything."
    if theirs.amounts != ours.amounts:
        yield from _apart(theirs.amounts, ours.amounts, "the exact amount")
    one, other = _joined(theirs.texts), _joined(ours.texts)
    # Up to 0.2.0 charts were drawn once, and not narrower too.
    if one not in (other, _joined(_page(NARROW_DRAWING.sub(b"", made)).texts)):
        yield difference("", one.encode(), other.encode())


def _joined(texts: list[str]) -> str:
    return "\n".join(" ".join(text.split()) for text in texts)


def _apart(theirs: list[str], ours: list[str], what: str) -> Iterator[str]:
    pairs = [(a, b) for a, b in zip_longest(theirs, ours, fillvalue="") if a != b]
    for one, other in pairs[:MOST]:
        yield f"It says {what} {one or 'nothing'}, and it is {other or 'nothing'}."


def _tables(issued: bytes, made: bytes) -> Iterator[str]:
    theirs, ours = (
        list(csv.reader(io.StringIO(data.decode("utf-8-sig"), newline=""))) for data in (issued, made)
    )
    none: list[str] = []
    pairs = [(a, b) for a, b in zip_longest(theirs, ours, fillvalue=none) if a != b]
    for one, other in pairs[:MOST]:
        yield f"It has the row {', '.join(one) or 'nothing'}, and it is {', '.join(other) or 'nothing'}."


def _plain_xml(issued: bytes) -> Iterator[str]:
    if b"<!DOCTYPE" in issued or b"<!ENTITY" in issued:
        yield "It has entities of its own."
        return
    ElementTree.fromstring(issued)


def _drawings(issued: bytes, made: bytes) -> Iterator[str]:
    yield from _plain_xml(issued)
    theirs, ours = ElementTree.fromstring(issued), ElementTree.fromstring(made)
    known = {(element.tag, name) for element in ours.iter() for name in ("", *element.attrib)}
    hiding = {value for element in ours.iter() for value in element.attrib.values() if HIDES.search(value)}
    for element in theirs.iter():
        tag = element.tag.rpartition("}")[2]
        if (element.tag, "") not in known:
            yield f"It has an element {tag}, which no drawing of ours has."
        for name, value in element.attrib.items():
            if (element.tag, name) not in known or (name.endswith("href") and not value.startswith("#")):
                yield f"<{tag}> has an attribute {name.rpartition('}')[2]}, which none of ours has."
            elif name.endswith("style") and HIDES.search(value) and value not in hiding:
                yield f"<{tag}> is styled as none of ours is: {value}."
    texts = [[t for each in root.itertext() if (t := each.strip())] for root in (theirs, ours)]
    if texts[0] != texts[1]:
        yield from _apart(texts[0], texts[1], "")


def _workbooks(issued: bytes, made: bytes, same_program: bool) -> Iterator[str]:
    """Sheet by sheet and cell by cell. The notes of another version of the program may be others."""
    for part in _parts(issued):
        if LIVELY_PARTS.search(part):
            yield f"It has a part {part}, which no workbook of ours has."
    # Pictures, conditions, merged cells, links: whatever a sheet may have besides cells.
    known = _elements(made)
    for part, elements in _elements(issued).items():
        for element in sorted(elements - known.get(part, elements)):
            yield f"{part} has <{element}>, which no workbook of ours has there."
    theirs, ours = load_workbook(io.BytesIO(issued)), load_workbook(io.BytesIO(made))
    saved, own = (load_workbook(io.BytesIO(data), data_only=True) for data in (issued, made))
    if theirs.sheetnames != ours.sheetnames:
        yield f"It has the sheets {', '.join(theirs.sheetnames)}, and not {', '.join(ours.sheetnames)}."
        return
    if {*theirs.defined_names} - {*ours.defined_names}:
        yield "It defines names that no workbook of ours has."
    for sheet, other in zip(theirs.worksheets, ours.worksheets, strict=True):
        if sheet.sheet_state != "visible":
            yield f"{sheet.title} is hidden."
        for kind in ("row", "column"):
            for key, looks in getattr(sheet, f"{kind}_dimensions").items():
                if looks.hidden:
                    yield f"{sheet.title}: {kind} {key} is hidden."
        found = []
        for row in range(1, max(sheet.max_row, other.max_row) + 1):
            for column in range(1, max(sheet.max_column, other.max_column) + 1):
                at = (row, column)
                one = _cell(sheet.cell(*at), saved[sheet.title].cell(*at), same_program)
                two = _cell(other.cell(*at), own[other.title].cell(*at), same_program)
                if one != two:
                    where = f"{sheet.title}!{sheet.cell(*at).coordinate}"
                    found.append(f"{where} holds {_first_apart(one, two)}.")
        yield from found[:MOST]


def _elements(data: bytes) -> dict[str, set[str]]:
    """The elements of every sheet of a workbook, by the name of its part."""
    sheets = {name: part for name, part in _parts(data).items() if name.startswith("xl/worksheets/sheet")}
    return {
        name: {element.tag.rpartition("}")[2] for element in ElementTree.fromstring(part).iter()}
        for name, part in sheets.items()
    }


def _cell(cell: Any, saved: Any, notes: bool) -> tuple[Any, ...]:
    look = (
        cell.font.color and cell.font.color.rgb,
        cell.fill.fill_type,
        cell.font.sz,
        cell.protection.hidden,
    )
    note = cell.comment.text if notes and cell.comment else None
    return (cell.value, saved.value, cell.number_format, note, cell.hyperlink, look)


def _first_apart(one: tuple[Any, ...], two: tuple[Any, ...]) -> str:
    names = ("", "the saved value ", "the code ", "the note ", "the link ", "the look ")
    name, a, b = next((n, a, b) for n, a, b in zip(names, one, two, strict=True) if a != b)
    return f"{name}{a}, and is made with {b}"
