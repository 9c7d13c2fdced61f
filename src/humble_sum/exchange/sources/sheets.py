"""Workbooks (XLSX, ECMA-376): values, formulas and number codes, sheet by sheet."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterable
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

from openpyxl import load_workbook
from openpyxl.worksheet.formula import ArrayFormula

from humble_sum.core.faults import Fault, Refused
from humble_sum.core.intake.table import EMPTY, Cell, Table, squared
from humble_sum.core.reading import of_double

MOST_EXPANDED = 256 * 1024 * 1024
MOST_RATIO = 200
MOST_CELLS = 1_000_000
OLE = b"\xd0\xcf\x11\xe0"


def read_sheets(name: str, data: bytes) -> list[Table]:
    """Every sheet that holds something. Raises Refused for what is not a sound workbook.

    Formulas are read and never run, links never followed, macros never run. Values are those
    the workbook was saved with.
    """
    notes = _inspect(name, data)
    try:
        book = load_workbook(io.BytesIO(data), keep_links=False)
        formulas = any(
            cell.data_type == "f" for sheet in book.worksheets for row in sheet.iter_rows() for cell in row
        )
        values = load_workbook(io.BytesIO(data), data_only=True, keep_links=False) if formulas else book
    except Refused:
        raise
    except Exception as error:  # openpyxl raises whatever a broken part happens to cause
        what = f"The workbook is broken ({type(error).__name__})."
        raise Refused(
            "broken-workbook", Fault(name, what, "Open it where it came from and save it again.")
        ) from None
    tables = []
    for sheet, shown in zip(book.worksheets, values.worksheets, strict=True):
        if sheet.max_row * sheet.max_column > MOST_CELLS:
            notes.append(
                Fault(
                    f"{name}, {sheet.title}", f"The sheet has more than {MOST_CELLS} cells and was left out."
                )
            )
            continue
        rows = [
            [_cell(cell, value) for cell, value in zip(row, shown_row, strict=True)]
            for row, shown_row in zip(sheet.iter_rows(), shown.iter_rows(values_only=True), strict=True)
        ]
        square, _ = squared(rows)
        if not square:
            continue
        hidden = frozenset(n - 1 for n, row in sheet.row_dimensions.items() if row.hidden)
        tables.append(
            Table(name, sheet.title, square, (*notes, *_unsaved(name, sheet.title, square)), hidden)
        )
    if not tables:
        raise Refused("no-table", Fault(name, "No sheet of the workbook holds anything."))
    return tables


def _inspect(name: str, data: bytes) -> list[Fault]:
    """Look at the archive before anything in it is opened."""
    if data.startswith(OLE):
        what = "The workbook is encrypted, or of the format before XLSX."
        raise Refused("closed-workbook", Fault(name, what, "Save it as XLSX without a password."))
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            parts = archive.infolist()
    except zipfile.BadZipFile:
        raise Refused("broken-workbook", Fault(name, "This is not a workbook, or it is cut short.")) from None
    expanded = sum(part.file_size for part in parts)
    if expanded > MOST_EXPANDED or expanded > MOST_RATIO * max(len(data), 1):
        what = f"The workbook would expand to {expanded // 1024 // 1024} MiB and was not opened."
        raise Refused("too-large", Fault(name, what))
    names = [part.filename for part in parts]
    notes = []
    if any(part.startswith("xl/externalLinks/") for part in names):
        notes.append(Fault(name, "Links to other workbooks were not followed; their last values were read."))
    if any(part.endswith("vbaProject.bin") for part in names):
        notes.append(Fault(name, "Its macros were not run."))
    return notes


def _cell(cell: Any, value: Any) -> Cell:
    formula = cell.value if cell.data_type == "f" else None
    if isinstance(formula, ArrayFormula):
        formula = formula.text
    if value is None and formula is None:
        return EMPTY
    kept: str | Decimal | date | time | bool | None
    snapped = False
    if isinstance(value, bool) or value is None:
        kept = value
    elif isinstance(value, int):
        kept = Decimal(value)
    elif isinstance(value, float):
        kept, snapped = of_double(value)
    elif isinstance(value, datetime):
        kept = value.date() if value.time() == time() else value
    elif isinstance(value, date | time):
        kept = value
    elif isinstance(value, timedelta):
        kept = str(value)
    else:
        kept = str(value)
    return Cell(kept, str(formula) if formula else None, cell.number_format or "", snapped)


def _unsaved(name: str, sheet: str, rows: Iterable[Iterable[Cell]]) -> list[Fault]:
    """A workbook saved by a program that does not calculate has formulas without values."""
    bare = sum(cell.formula is not None and cell.value is None for row in rows for cell in row)
    if not bare:
        return []
    what = f"{bare} formulas have no saved value, so what they come to is worked out from the lines."
    return [Fault(f"{name}, {sheet}", what)]
