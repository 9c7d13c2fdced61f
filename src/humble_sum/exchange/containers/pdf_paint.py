"""A PDF held against the one that is made here of the same page, where their bytes differ: what its pages
say, whether anything is in it or painted that ours does not have, and how its letters look.

Every kind of object, every key of it and every operator has to be one that ours has too: so there are no
scripts, notes, forms, layers or files in it, and nothing is painted over.
"""

from __future__ import annotations

import io
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

LINE = 3.0  # points: what is filled and no thicker is a rule
ALIKE = 0.12  # share by which the shapes of a letter may differ between versions of a font
MOST = 12
FREE = {"/W", "/Widths", "/C", "/K", "/Nums", "/Kids"}  # keys whose values are lists as long as may be


@dataclass
class _Read:
    """What a PDF has in it: keys by type of object, operators, text by page, filled areas, and fonts."""

    keys: set[tuple[str, str]] = field(default_factory=set)
    operators: set[str] = field(default_factory=set)
    states: set[str] = field(default_factory=set)
    pages: list[str] = field(default_factory=list)
    areas: Counter[str] = field(default_factory=Counter)
    over_text: int = 0
    looks: set[str] = field(default_factory=set)
    boxes: set[tuple[int, ...]] = field(default_factory=set)
    fonts: dict[str, dict[str, tuple[float, ...]]] = field(default_factory=dict)


def paint_differences(issued: bytes, made: bytes) -> tuple[list[str], list[str]]:
    """What the first has or says that the second does not, and what could not be compared."""
    try:
        theirs = _read(issued)
    except (
        PyPdfError,
        TTLibError,
        ValueError,
        KeyError,
        TypeError,
        AttributeError,
        RecursionError,
        OSError,
    ) as error:
        return [f"It cannot be read: {error}."], []
    ours = _read(made)
    faults = list(_more(theirs, ours))
    if issued.count(b"%%EOF") > 1 or issued.count(b"startxref") > 1:
        faults.append("It was written to after it was made.")
    notes = []
    if theirs.pages != ours.pages:
        if Counter("".join(theirs.pages)) - Counter("".join(ours.pages)) or len(theirs.pages) == len(
            ours.pages
        ):
            page = next(
                (n for n, (a, b) in enumerate(zip(theirs.pages, ours.pages, strict=False)) if a != b), 0
            )
            faults.append(f"Page {page + 1} does not say what it says when it is made here.")
        else:
            notes.append("its pages break elsewhere with the fonts that are here.")
    odd, unknown = _letters(theirs, ours)
    faults += [f"The letter {letter} of {font} does not look as it does here." for font, letter in odd[:MOST]]
    if unknown:
        notes.append(
            f"the shapes of its letters were not compared, as {', '.join(sorted(unknown))} is not here."
        )
    return faults, notes or ["where its lines stand was not compared."]


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
    for page in reader.pages:
        read.pages.append(page.extract_text().translate(UNSET))
        read.boxes.add(tuple(round(float(each)) for each in page.mediabox))
        for name in ("/CropBox", "/TrimBox", "/BleedBox", "/ArtBox"):
            if name in page:
                read.boxes.add(tuple(round(float(each)) for each in page[name]))
        _paint(page, reader, read)
        _fonts(page, read)
    return read


def _keys(found: Any, read: _Read, seen: set[int], kind: str = "") -> None:
    if isinstance(found, IndirectObject) or found is None or id(found) in seen:
        return
    seen.add(id(found))
    if isinstance(found, StreamObject | DictionaryObject):
        own = str(found.get("/Type", kind))
        for key in found:
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


def _paint(page: Any, reader: PdfReader, read: _Read) -> None:
    contents = page.get_contents()
    if contents is None:
        return
    colour, size, pending, told = "", "", [], 0
    for operands, operator in ContentStream(contents, reader).operations:
        name = operator.decode("latin-1")
        read.operators.add(name)
        if name in ("rg", "g", "k", "sc", "scn"):
            colour = " ".join(f"{float(each):.2f}" for each in operands if not isinstance(each, str))
        elif name == "Tf":
            size = f"{float(operands[1]):.1f}"
        elif name == "Tm":
            size = f"{abs(float(operands[3])):.1f}" if size == "1.0" else size
        elif name in ("Tj", "TJ"):
            read.looks.add(f"colour {colour or 'black'}, {size} points")
            told += 1
        elif name == "re":
            pending.append(min(abs(float(operands[2])), abs(float(operands[3]))))
        elif name in ("f", "F", "f*", "b", "B", "b*", "B*"):
            for thickness in pending or [99.0]:
                rule = thickness <= LINE
                read.areas[f"{'rule' if rule else 'area'} in {colour or 'black'}"] += 1
                read.over_text += bool(told) and not rule
            pending = []
        elif name in ("n", "S", "s", "W", "W*"):
            pending = [] if name in ("n", "S", "s") else pending


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
    """Letters that look otherwise than here, and fonts that are not here."""
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
