"""Spreadsheets of OpenDocument (ISO/IEC 26300-3): values as they are stored, formulas, merged and hidden
cells."""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from dataclasses import dataclass, field
from datetime import date, datetime
from decimal import Decimal
from xml.etree.ElementTree import Element, ParseError, iterparse

from humble_sum.core.amounts import read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.amount_reading import of_double
from humble_sum.core.intake.table import EMPTY, SheetCell, Table, Value, squared
from humble_sum.exchange.sources.cells import SURE
from humble_sum.exchange.sources.sheets import MOST_CELLS, MOST_EXPANDED, MOST_RATIO, worked_out

KIND = b"mimetypeapplication/vnd.oasis.opendocument.spreadsheet"
TABLE = "{urn:oasis:names:tc:opendocument:xmlns:table:1.0}"
OFFICE = "{urn:oasis:names:tc:opendocument:xmlns:office:1.0}"
TEXT = "{urn:oasis:names:tc:opendocument:xmlns:text:1.0}"
CELL, COVERED, ROW = f"{TABLE}table-cell", f"{TABLE}covered-table-cell", f"{TABLE}table-row"
# Whatever a broken archive comes to.
UNREADABLE = (KeyError, ValueError, EOFError, RuntimeError, NotImplementedError, OSError)
NUMBERS = ("float", "percentage", "currency")
# A reference stands in brackets, a point before the cell and a name before the point where it is another
# sheet's (part 4, 5.8): [.B2:.B5], [$Costs.C4].
REFERENCE = re.compile(r"\[([^\]]*)\]")
SPOT = re.compile(r"^(?:\$?('(?:[^']|'')*'|[^.'\s]*))?\.(\$?[A-Z]{1,3}\$?\d+)$")
DECIMALS = re.compile(r"[.,](\d+)\D*$")


@dataclass
class _Sheet:
    rows: list[list[SheetCell]] = field(default_factory=list)
    hidden: set[int] = field(default_factory=set)
    merged: list[tuple[int, int, int, int]] = field(default_factory=list)
    cells: int = 0
    blank: int = 0  # rows that say nothing, since the last that does


def is_open_document(data: bytes) -> bool:
    """Whether the bytes begin as such a package does: its kind comes first, and is not packed."""
    return data.startswith(b"PK") and KIND in data[30:120]


def read_open_document(name: str, data: bytes) -> list[Table]:
    """Every sheet that holds something. Raises InputError for what is not a sound spreadsheet."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            part = archive.getinfo("content.xml")
            if part.file_size > MOST_EXPANDED or part.file_size > MOST_RATIO * max(len(data), 1):
                what = f"It would expand to {part.file_size // 1024 // 1024} MiB and was not opened."
                raise InputError("too-large", Fault(name, what))
            if "META-INF/manifest.xml" in archive.namelist():
                manifest = archive.read("META-INF/manifest.xml")
                if b"encryption-data" in manifest:
                    what = "The spreadsheet is encrypted."
                    raise InputError("closed-workbook", Fault(name, what, "Save it without a password."))
            with archive.open(part) as content:
                tables = _sheets(name, content)
    except (zlib.error, zipfile.BadZipFile, ParseError, *UNREADABLE) as error:
        if isinstance(error, InputError):
            raise
        what = f"The spreadsheet is broken ({type(error).__name__})."
        raise InputError(
            "broken-workbook", Fault(name, what, "Open it where it came from and save it again.")
        ) from None
    if not tables:
        raise InputError("no-table", Fault(name, "No sheet of the spreadsheet holds anything."))
    return worked_out(tables)


def _sheets(name: str, content: io.BufferedIOBase | object) -> list[Table]:
    tables: list[Table] = []
    sheet = _Sheet()
    for _, element in iterparse(content):  # type: ignore[arg-type]
        if element.tag == ROW:
            _row(element, sheet)
            if sheet.cells > MOST_CELLS:
                raise InputError("too-long", Fault(name, f"A sheet has more than {MOST_CELLS} cells."))
            element.clear()
        elif element.tag == f"{TABLE}table":
            square, _ = squared(sheet.rows)
            if square:
                hidden = frozenset(row for row in sheet.hidden if row < len(square))
                where = f"{name}, {element.get(f'{TABLE}name')}"
                notes = (Fault(where, "Hidden rows were read all the same."),) if hidden else ()
                title = element.get(f"{TABLE}name") or ""
                tables.append(Table(name, title, square, notes, hidden, tuple(sheet.merged)))
            sheet = _Sheet()
            element.clear()
    return tables


def _row(element: Element, sheet: _Sheet) -> None:
    """Add a row, as often as it says it is repeated; blank ones only once something follows them."""
    times = _count(element, "number-rows-repeated")
    cells: list[SheetCell] = []
    blank = 0
    merged = []
    for child in element:
        if child.tag not in (CELL, COVERED):
            continue
        again = _count(child, "number-columns-repeated")
        cell = EMPTY if child.tag == COVERED else _cell(child)
        if cell is EMPTY:
            blank += again
            continue
        cells += [EMPTY] * blank
        blank = 0
        across, down = _count(child, "number-columns-spanned"), _count(child, "number-rows-spanned")
        if across > 1 or down > 1:
            merged.append((len(cells), across, down))
        cells += [cell] * again
        if len(cells) > MOST_CELLS:
            raise ValueError("too many cells")
    if not cells:
        sheet.blank += times
        return
    sheet.cells += (len(cells) * times) + sheet.blank
    if sheet.cells > MOST_CELLS:
        return
    sheet.rows += [[] for _ in range(sheet.blank)]
    sheet.blank = 0
    first = len(sheet.rows)
    sheet.merged += [(first, left, first + down - 1, left + across - 1) for left, across, down in merged]
    if element.get(f"{TABLE}visibility") in ("collapse", "filter"):
        sheet.hidden.update(range(first, first + times))
    sheet.rows += [list(cells) for _ in range(times)]


def _count(element: Element, name: str) -> int:
    return max(int(element.get(f"{TABLE}{name}") or 1), 1)


def _cell(element: Element) -> SheetCell:
    kind = element.get(f"{OFFICE}value-type")
    formula = _formula(element.get(f"{TABLE}formula"))
    shown = "\n".join("".join(part.itertext()) for part in element.findall(f"{TEXT}p"))
    value, snapped = _value(element, kind, shown)
    if value is None and formula is None:
        return EMPTY
    return SheetCell(value, formula, _code(element, kind, shown), snapped)


def _value(element: Element, kind: str | None, shown: str) -> tuple[Value, bool]:
    """The stored value, and whether it was snapped to 15 digits."""
    stored = element.get(f"{OFFICE}value")
    if kind in NUMBERS and stored is not None:
        if SURE.fullmatch(stored):
            return Decimal(stored), False
        try:
            return of_double(float(stored)) if "e" in stored.lower() else _exactly(stored)
        except ValueError:
            return stored, False
    if kind == "date":
        said = element.get(f"{OFFICE}date-value") or ""
        try:
            return (datetime.fromisoformat(said) if "T" in said else date.fromisoformat(said)), False
        except ValueError:
            return shown or said, False
    if kind == "boolean":
        return element.get(f"{OFFICE}boolean-value") == "true", False
    if kind == "string":
        return element.get(f"{OFFICE}string-value") or shown, False
    return shown or None, False


def _exactly(stored: str) -> tuple[Decimal, bool]:
    """A number of more digits than a double keeps was one, and is snapped as one."""
    amount = read_amount(stored)
    return (amount, False) if len(amount.as_tuple().digits) <= 15 else of_double(float(stored))


def _code(element: Element, kind: str | None, shown: str) -> str:
    """A number code (ECMA-376 part 1, 18.8.31) for what the type of a cell says of its look."""
    decimals = DECIMALS.search(shown)
    digits = "0" + (f".{'0' * len(decimals[1])}" if decimals else "")
    if kind == "percentage":
        return f"{digits}%"
    currency = element.get(f"{OFFICE}currency") or ""
    if kind == "currency" and re.fullmatch("[A-Z]{3}", currency):
        return f"[${currency}] #,##{digits}"
    return ""


def _formula(said: str | None) -> str | None:
    """A formula in the words that the evaluator reads; one it does not is named as it is written."""
    if not said:
        return None
    _, _, body = said.partition("=")
    return "=" + REFERENCE.sub(_reference, body).replace(";", ",")


def _reference(found: re.Match[str]) -> str:
    ends = [SPOT.match(end) for end in found[1].split(":")]
    if not all(ends):
        return found[0]
    sheet = next((end[1] for end in ends if end and end[1]), "")
    refs = ":".join(end[2] for end in ends if end)
    return f"{sheet}!{refs}" if sheet else refs
