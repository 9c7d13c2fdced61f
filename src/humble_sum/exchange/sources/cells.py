"""The cells of one sheet, read in one pass: values as they are stored, formulas and styles."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import IO, Any
from xml.etree.ElementTree import Element, iterparse

from openpyxl.formula.translate import Translator
from openpyxl.utils.datetime import from_ISO8601

from humble_sum.core.intake.amount_reading import of_double
from humble_sum.core.intake.table import EMPTY, SheetCell, Value, column_letters
from humble_sum.exchange.sources.book_parts import Book, SheetPart, Style, rich_text
from humble_sum.exchange.sources.progress import Progress

# Up to 15 digits survive a double, so these are the digits somebody meant.
SURE = re.compile(r"(?=.{1,15}\Z)-?(?:0|[1-9]\d*)(?:\.\d+)?", re.ASCII)
NUMBERS = (None, "n")  # the types of a cell that holds one (ECMA-376 part 1, 18.18.11)
REFERENCE = re.compile(r"([A-Z]+)(\d+)")
ROWS_A_TIME = 200
PLAIN = Style()
MOST_ROWS, MOST_COLUMNS = 1_048_576, 16_384
FAR_ROWS, FAR_COLUMNS = 5_000, 256  # empty ones in between, from which a cell belongs to no table before it


class TooMany(ValueError):
    """The sheet has more cells than are taken in."""


@dataclass
class SheetCells:
    """Rows of cells as long as they come, the hidden ones by number, and merged ranges.

    A merged range is first row, first column, last row, last column, from 0. `far` are cells left out, as
    they stand far from all others.
    """

    rows: list[list[SheetCell]] = field(default_factory=list)
    hidden_rows: set[int] = field(default_factory=set)
    hidden_columns: set[int] = field(default_factory=set)
    merged: list[tuple[int, int, int, int]] = field(default_factory=list)
    far: list[str] = field(default_factory=list)


def read_cells(book: Book, sheet: SheetPart, most: int, progress: Progress) -> SheetCells:
    """Every cell of a sheet. Raises ParseError or ValueError where it is broken, TooMany past `most`."""
    found = SheetCells()
    size = book.archive.getinfo(sheet.part).file_size
    shared: dict[str, tuple[str, str]] = {}
    count = 0
    with book.archive.open(sheet.part) as file:
        for _, element in iterparse(file):
            tag = element.tag.rpartition("}")[2]
            if tag == "row":
                row = int(element.get("r") or len(found.rows) + 1) - 1
                if row < len(found.rows) or row >= MOST_ROWS:
                    raise ValueError(f"row {row + 1} is out of order")
                if row - len(found.rows) > FAR_ROWS:
                    found.far.append(str(element[0].get("r") or f"row {row + 1}") if len(element) else "")
                    element.clear()
                    continue
                found.rows += [[] for _ in range(row - len(found.rows))]
                found.rows.append(_row(element, row, book, shared))
                count += len(found.rows[-1])
                if element.get("hidden") in ("1", "true"):
                    found.hidden_rows.add(row)
                if count > most:
                    raise TooMany(sheet.name)
                element.clear()
                if row % ROWS_A_TIME == 0:
                    progress(_told(file), size, sheet.name)
            elif tag == "col" and element.get("hidden") in ("1", "true"):
                first_column = max(int(element.attrib["min"]), 1)
                last = min(int(element.attrib["max"]), MOST_COLUMNS)
                found.hidden_columns.update(range(first_column - 1, last))
            elif tag == "mergeCell":
                first, _, end = element.attrib["ref"].partition(":")
                found.merged.append((*place(first), *place(end or first)))
    _without_far_columns(found)
    return found


def _without_far_columns(found: SheetCells) -> None:
    """Leave out cells that stand far to the right of all others: a stray one would make every row as long."""
    used = {column for row in found.rows for column, cell in enumerate(row) if cell is not EMPTY}
    ordered = sorted(used)
    pairs = zip([-1, *ordered], ordered, strict=False)
    cut = next((before + 1 for before, after in pairs if after - before > FAR_COLUMNS), None)
    if cut is None:
        return
    for number, row in enumerate(found.rows):
        there = [column for column in range(cut, len(row)) if row[column] is not EMPTY]
        found.far += [f"{column_letters(column)}{number + 1}" for column in there]
        del row[cut:]


def place(reference: str) -> tuple[int, int]:
    """Row and column of a reference such as "C7", from 0."""
    match = REFERENCE.fullmatch(reference.replace("$", ""))
    if match is None:
        raise ValueError(f"{reference} is not a cell")
    column = 0
    for letter in match[1]:
        column = column * 26 + ord(letter) - 64
    return int(match[2]) - 1, column - 1


def _told(file: IO[bytes]) -> int:
    return file.tell()


def _row(element: Element, row: int, book: Book, shared: dict[str, tuple[str, str]]) -> list[SheetCell]:
    cells: list[SheetCell] = []
    styles, strings = book.styles, book.strings
    number = str(row + 1)
    for c in element:
        at = c.get("r")
        if at is not None and at != f"{column_letters(len(cells))}{number}":
            column = place(at)[1]
            if column >= MOST_COLUMNS or column < len(cells):
                raise ValueError(f"cell {at} is out of order")
            while column > len(cells):
                cells.append(EMPTY)
        style_number = c.get("s")
        style = styles[int(style_number)] if style_number and styles else PLAIN
        stored = formula = None
        for child in c:
            tag = child.tag
            if tag[-2:] == "}v":
                stored = child.text
            elif tag[-2:] == "}f":
                formula = _formula(child, at or "", shared)
            elif tag[-3:] == "}is":
                stored = rich_text(child)
        if stored is None and formula is None:
            cells.append(EMPTY)
            continue
        kind = c.get("t")
        if kind in NUMBERS and stored is not None and not style.date and SURE.fullmatch(stored):
            cells.append(SheetCell(Decimal(stored), formula, style.code, False, style.indent))
            continue
        value, snapped = _value(stored, kind, style, strings, book.since_1904)
        cells.append(SheetCell(value, formula, style.code, snapped, style.indent))
    return cells


def _value(
    stored: str | None, kind: str | None, style: Style, strings: tuple[str, ...], since_1904: bool
) -> tuple[Value, bool]:
    """A stored value, and whether it was snapped to 15 digits."""
    if stored is None:
        return None, False
    if kind == "s":
        return strings[int(stored)], False
    if kind in NUMBERS:
        return (day_of(stored, since_1904), False) if style.date else of_double(float(stored))
    if kind == "b":
        return stored in ("1", "true"), False
    if kind == "d":
        return _day(from_ISO8601(stored)), False  # type: ignore[no-untyped-call]
    return stored, False  # a formula's text, an error, or an inline string


def day_of(stored: str, since_1904: bool) -> Value:
    """A day counted from the workbook's first one (ECMA-376 part 1, 18.17.4.1); a time of day by itself
    is a part of one."""
    days, part = divmod(Decimal(stored), 1)
    clock = timedelta(seconds=int((part * 86_400).to_integral_value()))
    if days == 0:
        return (datetime.min + clock).time()
    # Before March 1900 workbooks count a leap day that there never was.
    first = datetime(1904, 1, 1) if since_1904 else datetime(1899, 12, 31 if days < 60 else 30)
    try:
        return _day(first + timedelta(days=int(days)) + clock)
    except OverflowError:
        return stored  # no calendar goes so far: shown as it is stored


def _day(found: Any) -> Value:
    """A date, where the time of day is midnight."""
    if isinstance(found, datetime):
        return found.date() if found.time() == time() else found
    return found if isinstance(found, date | time) else str(found)


def _formula(element: Element, at: str, shared: dict[str, tuple[str, str]]) -> str | None:
    """The formula of a cell; one shared with others is written for this cell."""
    text = element.text
    if element.get("t") == "shared":
        index = element.get("si", "")
        if text:
            shared[index] = (text, at)
        elif index in shared and at:
            origin_text, origin = shared[index]
            translated = Translator(f"={origin_text}", origin=origin).translate_formula(at)
            return str(translated)
    return f"={text}" if text else None
