"""The parts of a workbook around its sheets (ECMA-376 part 1, 18.2, 18.4 and 18.8)."""

from __future__ import annotations

import posixpath
import zipfile
from dataclasses import dataclass
from typing import IO
from xml.etree.ElementTree import Element, iterparse, parse

from openpyxl.styles.numbers import BUILTIN_FORMATS, is_date_format

MAIN = "{http://schemas.openxmlformats.org/spreadsheetml/2006/main}"
STRICT = "{http://purl.oclc.org/ooxml/spreadsheetml/main}"


@dataclass(frozen=True)
class SheetPart:
    """A sheet: its name, the part that holds it, and whether the workbook hides it."""

    name: str
    part: str
    hidden: bool


@dataclass(frozen=True)
class Style:
    """What a cell's style says that matters here: number code, whether it dates, label indent."""

    code: str = ""
    date: bool = False
    indent: int = 0


@dataclass(frozen=True)
class Book:
    """What every sheet of a workbook is read with. `since_1904` says which day dates count from."""

    archive: zipfile.ZipFile
    sheets: tuple[SheetPart, ...]
    strings: tuple[str, ...]
    styles: tuple[Style, ...]
    since_1904: bool


def open_book(archive: zipfile.ZipFile) -> Book:
    """The workbook in an archive. Raises KeyError, ParseError or ValueError where it is broken."""
    main = _main_part(archive)
    root = _root(archive, main)
    targets = _targets(archive, main)
    properties = _child(root, "workbookPr")
    sheets = []
    for sheet in _children(_child(root, "sheets"), "sheet"):
        relation = next(value for key, value in sheet.attrib.items() if key.endswith("}id"))
        kind, part = targets[relation]
        if kind == "worksheet":
            sheets.append(SheetPart(sheet.attrib["name"], part, sheet.get("state", "visible") != "visible"))
    by_kind = dict(targets.values())
    return Book(
        archive,
        tuple(sheets),
        _strings(archive, by_kind.get("sharedStrings")),
        _styles(archive, by_kind.get("styles")),
        properties is not None and properties.get("date1904") in ("1", "true"),
    )


def _main_part(archive: zipfile.ZipFile) -> str:
    for relation in _root(archive, "_rels/.rels"):
        if relation.attrib["Type"].endswith("/officeDocument"):
            return relation.attrib["Target"].lstrip("/")
    raise ValueError("no workbook part")


def _targets(archive: zipfile.ZipFile, part: str) -> dict[str, tuple[str, str]]:
    """The parts that a part is related to: kind and name by relation id."""
    folder, name = posixpath.split(part)
    found = {}
    for relation in _root(archive, f"{folder}/_rels/{name}.rels"):
        target = relation.attrib["Target"]
        path = target.lstrip("/") if target.startswith("/") else posixpath.normpath(f"{folder}/{target}")
        found[relation.attrib["Id"]] = (relation.attrib["Type"].rpartition("/")[2], path)
    return found


def _strings(archive: zipfile.ZipFile, part: str | None) -> tuple[str, ...]:
    if part is None or part not in archive.namelist():
        return ()
    found = []
    with archive.open(part) as file:
        for _, element in iterparse(file):
            if element.tag in (MAIN + "si", STRICT + "si"):
                found.append(rich_text(element))
                element.clear()
    return tuple(found)


def rich_text(element: Element) -> str:
    """The text of a string item: its runs, without readings beside them (phonetic runs)."""
    texts = []
    for child in element:
        if child.tag.endswith("}t"):
            texts.append(child.text or "")
        elif child.tag.endswith("}r"):
            texts += [each.text or "" for each in child if each.tag.endswith("}t")]
    return "".join(texts)


def _styles(archive: zipfile.ZipFile, part: str | None) -> tuple[Style, ...]:
    if part is None or part not in archive.namelist():
        return ()
    root = _root(archive, part)
    codes = dict(BUILTIN_FORMATS)
    for own in _children(_child(root, "numFmts"), "numFmt"):
        codes[int(own.attrib["numFmtId"])] = own.attrib["formatCode"]
    found = []
    for cell in _children(_child(root, "cellXfs"), "xf"):
        code = codes.get(int(cell.get("numFmtId", "0")), "")
        alignment = _child(cell, "alignment")
        indent = int(alignment.get("indent", "0")) if alignment is not None else 0
        found.append(Style(code, is_date_format(code), min(max(indent, 0), 8)))
    return tuple(found)


def _root(archive: zipfile.ZipFile, part: str) -> Element:
    file: IO[bytes]
    with archive.open(part) as file:
        root = parse(file).getroot()
    assert root is not None
    return root


def _child(element: Element | None, name: str) -> Element | None:
    return next(iter(_children(element, name)), None)


def _children(element: Element | None, name: str) -> list[Element]:
    if element is None:
        return []
    return [child for child in element if child.tag in (MAIN + name, STRICT + name)]
