"""Workbooks (ECMA-376, SpreadsheetML) as documents: each sheet a table as it is shown; corrected in place."""

from __future__ import annotations

import io
import re
from collections.abc import Sequence

from lxml import etree
from openpyxl import load_workbook
from openpyxl.utils import get_column_letter

from humble_sum.core.documents.document import Document, Paragraph, Table
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.packages import bad, open_package, parsed, part, with_parts, written

S = "{http://schemas.openxmlformats.org/spreadsheetml/2006/main}"
R = "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}"
MOST_ROWS, MOST_COLUMNS = 20_000, 200


def read_xlsx(name: str, data: bytes) -> Document:
    """A workbook: a paragraph with the name of each sheet, and its cells as a table. Raises InputError."""
    open_package(name, data)
    try:
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True, keep_links=False)
        blocks: list[Paragraph | Table] = []
        for number, sheet in enumerate(book.worksheets):
            blocks.append(Paragraph(number, sheet.title, heading=True))
            rows = [
                tuple(_shown(value) for value in row[:MOST_COLUMNS])
                for row in sheet.iter_rows(max_row=MOST_ROWS, values_only=True)
            ]
            blocks.append(Table(number, tuple(rows)))
    except Exception as error:  # what openpyxl raises for broken parts is of many kinds
        raise bad(name, f"This workbook cannot be read: {error}.") from None
    return Document(name, "xlsx", tuple(blocks))


def _shown(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return repr(round(value, 10)).removesuffix(".0")
    return str(value)


def correct_xlsx(name: str, data: bytes, corrections: Sequence[Correction]) -> bytes:
    """The workbook with every correction made in its cell. A cell with a formula is left, since its value
    follows from others."""
    package = open_package(name, data)
    sheets = _sheets(name, data)
    roots: dict[str, etree._Element] = {}
    for each in corrections:
        path = sheets[each.place.table or 0]
        if path not in roots:
            roots[path] = parsed(name, path, part(package, name, path))
        at = f"{get_column_letter((each.place.column or 0) + 1)}{(each.place.row or 0) + 1}"
        cell = next((c for c in roots[path].iter(f"{S}c") if c.get("r") == at), None)
        if cell is None or cell.find(f"{S}f") is not None:
            continue
        plain = each.new.replace(",", "").strip()
        for child in list(cell):
            cell.remove(child)
        if re.fullmatch(r"-?\d+(\.\d+)?", plain) and cell.get("t") not in ("s", "str", "inlineStr"):
            etree.SubElement(cell, f"{S}v").text = plain
        else:
            cell.set("t", "inlineStr")
            etree.SubElement(etree.SubElement(cell, f"{S}is"), f"{S}t").text = each.new
    return with_parts(data, {path: written(root) for path, root in roots.items()})


def sheet_names(name: str, data: bytes) -> list[str]:
    """The names of the sheets, in the order of the workbook."""
    package = open_package(name, data)
    book = parsed(name, "xl/workbook.xml", part(package, name, "xl/workbook.xml"))
    return [sheet.get("name") or "" for sheet in book.iter(f"{S}sheet")]


def _sheets(name: str, data: bytes) -> list[str]:
    """The parts of the sheets, in the order of the workbook."""
    package = open_package(name, data)
    book = parsed(name, "xl/workbook.xml", part(package, name, "xl/workbook.xml"))
    related = "xl/_rels/workbook.xml.rels"
    rels = parsed(name, related, part(package, name, related))
    targets = {rel.get("Id"): rel.get("Target") or "" for rel in rels}
    paths = (targets.get(sheet.get(f"{R}id"), "") for sheet in book.iter(f"{S}sheet"))
    return [path.lstrip("/") if path.startswith("/") else f"xl/{path}" for path in paths]
