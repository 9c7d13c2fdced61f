"""A PDF held against the one that is made here of the same page, where their bytes differ: what its pages
say, whether anything is in it or painted that ours does not have, and how its letters look.

Every kind of object, every key of it and every operator has to be one that ours has too: so there are no
scripts, notes, forms, layers or files in it, and nothing is painted over.
"""

from __future__ import annotations

import io
import logging
import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from fontTools.pens.areaPen import AreaPen
from fontTools.pens.boundsPen import BoundsPen
from fontTools.ttLib import TTFont, TTLibError
from pypdf import PdfReader
from pypdf.errors import PyPdfError
from pypdf.generic import ArrayObject, ContentStream, DictionaryObject, IndirectObject, StreamObject

from humble_sum.exchange.pdf_reading import UNSET

logging.getLogger("pypdf").setLevel(logging.CRITICAL)  # what is wrong is told as what is found
LINE = 3.0  # points: what is filled and no thicker is a rule
HEAD, FOOT = 75.0, 83.0  # pixels of a page that its head and foot take, by the style of paper
PIXEL = 0.75  # points
ROW = 5  # pixels within which texts stand in one row
COUNTED = re.compile(r"\d+/\d+")
UNREADABLE = (
    *(PyPdfError, TTLibError, ValueError, KeyError, TypeError, AttributeError, RecursionError, OSError),
)
ALIKE = 0.12  # share by which the shapes of a letter may differ between versions of a font
MOST = 12
FREE = {"/W", "/Widths", "/C", "/K", "/Nums", "/Kids"}  # keys whose values are lists as long as may be


@dataclass
class _Read:
    """What a PDF has in it: keys by type of object, operators, what its pages say, filled areas, colours and
    sizes of text, boxes, the shapes of its letters by font, and what it says of itself."""

    keys: set[tuple[str, str]] = field(default_factory=set)
    operators: set[str] = field(default_factory=set)
    says: list[str] = field(default_factory=list)
    stands: list[tuple[int, int, float, str]] = field(default_factory=list)  # page, row, from the left, text
    heads: set[str] = field(default_factory=set)  # of pages, and their feet
    areas: Counter[str] = field(default_factory=Counter)
    over_text: int = 0
    looks: set[str] = field(default_factory=set)
    boxes: set[tuple[int, ...]] = field(default_factory=set)
    fonts: dict[str, dict[str, tuple[float, ...]]] = field(default_factory=dict)
    told: dict[str, str] = field(default_factory=dict)


def paint_differences(issued: bytes, made: bytes, in_order: bool = True) -> tuple[list[str], list[str]]:
    """What the first has or says that the second does not, and what could not be compared; `in_order` also
    holds its texts to where they stand on the page."""
    try:
        theirs = _read(issued)
    except UNREADABLE as error:
        return [f"It cannot be read: {error}."], []
    ours = _read(made)
    faults = list(_more(theirs, ours))
    if issued.count(b"%%EOF") > 1 or issued.count(b"startxref") > 1:
        faults.append("It was written to after it was made.")
    one, other = "".join(theirs.says), "".join(ours.says)
    if one != other:
        at = next(
            (n for n, (a, b) in enumerate(zip(one, other, strict=False)) if a != b), min(len(one), len(other))
        )
        faults.append(
            f"Its pages say “{one[at : at + 24]}” where they are made to say “{other[at : at + 24]}”."
        )
    elif in_order and [text for *_, text in sorted(theirs.stands)] != [
        text for *_, text in sorted(ours.stands)
    ]:
        faults.append("What its pages say stands in another order, from above and from the left.")
    notes = ["where its lines and pages end was not compared."]
    odd, unknown = _letters(theirs, ours)
    faults += [f"The letter {letter} of {font} does not look as it does here." for font, letter in odd[:MOST]]
    if unknown:
        named = ", ".join(sorted(unknown))
        notes.append(f"the shapes of its letters were not compared, as {named} is not here.")
    return faults, notes


def _placed(read: _Read) -> list[str]:
    """What the pages say, from above and from the left."""
    return [text for *_, text in sorted(read.stands)]


def _more(theirs: _Read, ours: _Read) -> Iterator[str]:
    for kind, key in sorted(theirs.keys - ours.keys)[:MOST]:
        yield f"It has {key} in a {kind or 'part'}, which no page of ours has."
    for operator in sorted(theirs.operators - ours.operators):
        yield f"It paints with {operator}, and no page of ours does."
    for look in sorted(theirs.looks - ours.looks)[:MOST]:
        yield f"It has text in a colour or size that no page of ours has: {look}."
    for look, count in (theirs.areas - ours.areas).items():
        if not look.startswith("rule"):
            yield f"It paints {count} more areas than ours: {look}."
    if theirs.over_text > ours.over_text:
        yield "It paints over text."
    if theirs.boxes - ours.boxes:
        yield "Its pages have other boxes."
    if theirs.heads != ours.heads:
        yield f"Its pages have other heads or feet: {', '.join(sorted(theirs.heads ^ ours.heads)[:2])}."
    for key in sorted({*theirs.told, *ours.told} - {"/Producer", "/Creator"}):
        if theirs.told.get(key) != ours.told.get(key):
            yield f"It says of itself {key[1:]}: {theirs.told.get(key, 'nothing')}."


def _read(data: bytes) -> _Read:
    reader = PdfReader(io.BytesIO(data), strict=True)
    read = _Read()
    seen: set[int] = set()
    for number in range(1, len(reader.xref.get(0, {})) + len(reader.xref_objStm) + 2):
        try:
            _keys(reader.get_object(IndirectObject(number, 0, reader)), read, seen)
        except PyPdfError:
            continue
    _keys(reader.trailer, read, seen)
    read.told = {key: str(value) for key, value in (reader.metadata or {}).items()}
    for number, page in enumerate(reader.pages):
        read.boxes.add(tuple(round(float(each)) for each in page.mediabox))
        for name in ("/CropBox", "/TrimBox", "/BleedBox", "/ArtBox"):
            if name in page:
                box: Any = page[name]
                read.boxes.add(tuple(round(float(each)) for each in box))
        _paint(number, page, reader, read)
        _fonts(page, read)
    return read


def _keys(found: Any, read: _Read, seen: set[int], kind: str = "") -> None:
    if isinstance(found, IndirectObject) or found is None or id(found) in seen:
        return
    seen.add(id(found))
    if isinstance(found, StreamObject | DictionaryObject):
        own = str(found.get("/Type", kind))
        for key in list(found.keys()):
            # What is called by numbers or by names of its own tells nothing of its kind.
            said = key if not (own.startswith("named by ")) else "a name"
            read.keys.add((own, said))
            value = found.raw_get(key)
            if key not in FREE:
                _keys(
                    value,
                    read,
                    seen,
                    f"named by {key}" if key in ("/Font", "/ExtGState", "/XObject") else f"{own}{key}",
                )
    elif isinstance(found, ArrayObject):
        for each in found:
            _keys(each, read, seen, kind)


def _paint(number: int, page: Any, reader: PdfReader, read: _Read) -> None:
    contents = page.get_contents()
    if contents is None:
        return
    letters = {
        name: _to_unicode(font.get_object()["/ToUnicode"].get_object().get_data())
        for name, font in page["/Resources"]["/Font"].items()
        if "/ToUnicode" in font.get_object()
    }
    colour, size, font = "", "", ""
    pending: list[float] = []
    lowest = float(page.mediabox.height) / PIXEL - FOOT
    at = left = told = 0.0
    for operands, operator in ContentStream(contents, reader).operations:
        name = operator.decode("latin-1")
        read.operators.add(name)
        if name in ("rg", "g", "k", "sc", "scn"):
            colour = " ".join(f"{float(each):.2f}" for each in operands if not isinstance(each, str))
        elif name == "Tf":
            font, size = str(operands[0]), f"{float(operands[1]):.1f}"
        elif name == "Tm":
            left, at = float(operands[4]), float(operands[5])
            size = f"{abs(float(operands[3])):.1f}" if size == "1.0" else size
        elif name in ("Tj", "TJ"):
            read.looks.add(f"colour {colour or 'black'}, {size} points")
            told += 1
            said = "".join(_texts(operands[0], letters.get(font, {}))).translate(UNSET)
            if HEAD <= at <= lowest:
                read.says.append(said)
                read.stands.append((number, round(at / ROW), left, said))
            else:
                read.heads.add(COUNTED.sub("n/n", said))
        elif name == "re":
            pending.append(min(abs(float(operands[2])), abs(float(operands[3]))))
        elif name in ("f", "F", "f*", "b", "B", "b*", "B*"):
            for thickness in pending or [99.0]:
                rule = thickness <= LINE
                read.areas[f"{'rule' if rule else 'area'} in {colour or 'black'}"] += 1
                read.over_text += bool(told) and not rule
            pending = []
        elif name in ("n", "S", "s"):
            pending = []


def _texts(shown: Any, letters: dict[int, str]) -> Iterator[str]:
    """What a text on a page is read as, glyph by glyph."""
    for part in shown if isinstance(shown, list) else [shown]:
        data = getattr(part, "original_bytes", part)
        if isinstance(data, bytes):
            for at in range(0, len(data) - 1, 2):
                yield letters.get(int.from_bytes(data[at : at + 2], "big"), "\ufffd")


def _fonts(page: Any, read: _Read) -> None:
    fonts: Any = page["/Resources"]["/Font"]
    for font in fonts.values():
        font = font.get_object()
        base = str(font["/BaseFont"]).rpartition("+")[2].lstrip("/")
        if base in read.fonts:
            continue
        inner = font["/DescendantFonts"][0].get_object()
        told = inner["/FontDescriptor"].get_object()
        file = told.get("/FontFile2") or told.get("/FontFile3")
        shapes = read.fonts.setdefault(base, {})
        if file is None or "/ToUnicode" not in font:
            shapes["?"] = ()
            continue
        glyphs = TTFont(io.BytesIO(file.get_object().get_data()), lazy=True)
        names, drawn = glyphs.getGlyphOrder(), glyphs.getGlyphSet()
        scale = glyphs["head"].unitsPerEm
        for glyph, text in _to_unicode(font["/ToUnicode"].get_object().get_data()).items():
            if glyph < len(names):
                shapes[text] = _shape(drawn, names[glyph], scale)


def _to_unicode(data: bytes) -> dict[int, str]:
    """Glyphs and what they are read as (ISO 32000-2, 9.10.3)."""
    found: dict[int, str] = {}
    for line in data.decode("latin-1").splitlines():
        parts = [
            each for each in line.replace("><", "> <").split() if each.startswith("<") and each.endswith(">")
        ]
        if len(parts) == 2:
            try:
                found[int(parts[0][1:-1], 16)] = bytes.fromhex(parts[1][1:-1]).decode("utf-16-be", "replace")
            except ValueError:
                continue
    return found


def _shape(drawn: Any, name: str, scale: int) -> tuple[float, ...]:
    """The box and the inked area of a glyph, in heights of its letters."""
    bounds, area = BoundsPen(drawn), AreaPen(drawn)
    drawn[name].draw(bounds)
    drawn[name].draw(area)
    box = bounds.bounds or (0, 0, 0, 0)
    return (*(each / scale for each in box), abs(area.value) / scale**2, drawn[name].width / scale)


def _letters(theirs: _Read, ours: _Read) -> tuple[list[tuple[str, str]], set[str]]:
    """Letters drawn in another shape than ours, and fonts that are not installed here."""
    odd, unknown = [], set()
    for font, shapes in theirs.fonts.items():
        own = ours.fonts.get(font)
        if own is None:
            unknown.add(font)
            continue
        for letter, shape in shapes.items():
            there = own.get(letter)
            if there is not None and any(
                abs(a - b) > ALIKE * max(0.2, abs(b)) for a, b in zip(shape, there, strict=False)
            ):
                odd.append((font, letter))
    return odd, unknown
