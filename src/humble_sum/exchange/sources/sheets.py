"""Workbooks (XLSX, ECMA-376): values, formulas and number codes, sheet by sheet."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterable, Iterator

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import SheetCell, Table, column_letters, squared
from humble_sum.exchange.sources.book_parts import SheetPart, open_book
from humble_sum.exchange.sources.cells import SheetCells, TooMany, read_cells
from humble_sum.exchange.sources.progress import Progress, Stopped, unheard

MOST_EXPANDED = 256 * 1024 * 1024
MOST_RATIO = 200
MOST_CELLS = 1_000_000
OLE = b"\xd0\xcf\x11\xe0"


def read_sheets(name: str, data: bytes, progress: Progress = unheard) -> list[Table]:
    """Every sheet that holds something. Raises InputError for what is not a sound workbook.

    Formulas are read and never run, links never followed, macros never run. Values are those
    the workbook was saved with. `progress` is told of every few hundred rows.
    """
    notes = _inspect(name, data)
    tables: list[Table] = []
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            book = open_book(archive)
            for sheet in book.sheets:
                try:
                    cells = read_cells(book, sheet, MOST_CELLS, progress)
                except TooMany:
                    what = f"The sheet has more than {MOST_CELLS} cells and was left out."
                    notes.append(Fault(f"{name}, {sheet.name}", what))
                    continue
                tables += _table(name, sheet, cells, notes)
    except (InputError, Stopped):
        raise
    except Exception as error:  # a broken part can cause whatever it happens to cause
        what = f"The workbook is broken ({type(error).__name__})."
        raise InputError(
            "broken-workbook", Fault(name, what, "Open it where it came from and save it again.")
        ) from None
    if not tables:
        raise InputError("no-table", Fault(name, "No sheet of the workbook holds anything."))
    return tables


def _table(name: str, sheet: SheetPart, cells: SheetCells, notes: list[Fault]) -> Iterator[Table]:
    square, _ = squared(cells.rows)
    if not square:
        return
    where = f"{name}, {sheet.name}"
    own = [*notes, *_unsaved(where, square)]
    if sheet.hidden:
        own.append(Fault(where, "The workbook hides this sheet; it was read all the same."))
    hidden = frozenset(row for row in cells.hidden_rows if row < len(square))
    if hidden:
        shown = ", ".join(str(row + 1) for row in sorted(hidden)[:8]) + ("…" if len(hidden) > 8 else "")
        own.append(Fault(where, f"Hidden rows were read all the same: {shown}."))
    columns = sorted(column for column in cells.hidden_columns if column < len(square[0]))
    if columns:
        shown = ", ".join(map(column_letters, columns[:8]))
        own.append(Fault(where, f"Hidden columns were read all the same: {shown}."))
    yield Table(name, sheet.name, square, tuple(own), hidden, tuple(cells.merged))


def _inspect(name: str, data: bytes) -> list[Fault]:
    """Look at the archive before anything in it is opened."""
    if data.startswith(OLE):
        what = "The workbook is encrypted, or of the format before XLSX."
        raise InputError("closed-workbook", Fault(name, what, "Save it as XLSX without a password."))
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            parts = archive.infolist()
    except zipfile.BadZipFile:
        raise InputError(
            "broken-workbook", Fault(name, "This is not a workbook, or it is cut short.")
        ) from None
    expanded = sum(part.file_size for part in parts)
    if expanded > MOST_EXPANDED or expanded > MOST_RATIO * max(len(data), 1):
        what = f"The workbook would expand to {expanded // 1024 // 1024} MiB and was not opened."
        raise InputError("too-large", Fault(name, what))
    names = [part.filename for part in parts]
    notes = []
    if any(part.startswith("xl/externalLinks/") for part in names):
        notes.append(Fault(name, "Links to other workbooks were not followed; their last values were read."))
    if any(part.endswith("vbaProject.bin") for part in names):
        notes.append(Fault(name, "Its macros were not run."))
    return notes


def _unsaved(where: str, rows: Iterable[Iterable[SheetCell]]) -> list[Fault]:
    """A workbook saved by a program that does not calculate has formulas without values."""
    bare = sum(cell.formula is not None and cell.value is None for row in rows for cell in row)
    if not bare:
        return []
    what = f"{bare} formulas have no saved value, so what they come to is worked out from the lines."
    return [Fault(where, what)]
