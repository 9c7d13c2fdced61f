"""Workbooks (XLSX, ECMA-376): values, formulas and number codes, sheet by sheet."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.evaluation import Worked, work_out
from humble_sum.core.intake.table import SheetCell, Table, column_letters, squared
from humble_sum.exchange.sources.book_parts import SheetPart, open_book
from humble_sum.exchange.sources.cells import SheetCells, TooMany, read_cells
from humble_sum.exchange.sources.progress import Progress, Stopped, unheard

MOST_EXPANDED = 256 * 1024 * 1024
MOST_RATIO = 200
MOST_CELLS = 1_000_000
MOST_FORMULAS = 300_000  # that are worked out
MOST_LOOKED_AT = 4_000  # whose saved values are compared with what they come to
DOUBLES = Decimal("1e-9")
OLE = b"\xd0\xcf\x11\xe0"


def read_sheets(name: str, data: bytes, progress: Progress = unheard) -> list[Table]:
    """Every sheet that holds something. Raises InputError for what is not a sound workbook.

    Links are never followed and macros never run. Values are those the workbook was saved with; a formula
    without one is worked out where it can be. `progress` is told of every few hundred rows.
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
                try:
                    tables += _table(name, sheet, cells, notes)
                except InputError as refusal:
                    notes += [Fault(f"{name}, {sheet.name}", fault.what) for fault in refusal.faults]
    except (InputError, Stopped):
        raise
    except Exception as error:  # a broken part can cause whatever it happens to cause
        what = f"The workbook is broken ({type(error).__name__})."
        raise InputError(
            "broken-workbook", Fault(name, what, "Open it where it came from and save it again.")
        ) from None
    if not tables:
        raise InputError("no-table", Fault(name, "No sheet of the workbook holds anything."))
    return worked_out(tables)


def _table(name: str, sheet: SheetPart, cells: SheetCells, notes: list[Fault]) -> Iterator[Table]:
    square, _ = squared(cells.rows)
    if not square:
        return
    where = f"{name}, {sheet.name}"
    own = [*notes]
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
    if cells.far:
        shown = ", ".join(cells.far[:6]) + ("…" if len(cells.far) > 6 else "")
        own.append(Fault(where, f"Cells far from all others were left out: {shown}."))
    yield Table(name, sheet.name, square, tuple(own), hidden, tuple(_merged(cells, square)))


def _merged(
    cells: SheetCells, square: tuple[tuple[SheetCell, ...], ...]
) -> Iterator[tuple[int, int, int, int]]:
    """The merged ranges, within the table; one that lies over cells that say something is none."""
    for top, left, bottom, right in cells.merged:
        bottom, right = min(bottom, len(square) - 1), min(right, len(square[0]) - 1)
        inside = ((r, c) for r in range(top, bottom + 1) for c in range(left, right + 1))
        if (
            top <= bottom
            and left <= right
            and all(at == (top, left) or not square[at[0]][at[1]].text.strip() for at in inside)
        ):
            yield top, left, bottom, right


def _inspect(name: str, data: bytes) -> list[Fault]:
    """Look at the archive before anything in it is opened."""
    if data.startswith(OLE):
        what = "The workbook is encrypted, or of the format before XLSX."
        raise InputError("closed-workbook", Fault(name, what, "Save it as XLSX without a password."))
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            parts = archive.infolist()
    except (zipfile.BadZipFile, NotImplementedError, OSError, ValueError):
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


def worked_out(tables: list[Table]) -> list[Table]:
    """The tables with what formulas without a saved value come to, as programs that do not calculate write
    them; those that cannot be worked out are named, and so are saved values that their formulas do not
    come to."""
    bare: list[tuple[str, int, int]] = []
    saved: list[tuple[str, int, int]] = []
    for table in tables:
        for r, row in enumerate(table.rows):
            for c, cell in enumerate(row):
                if cell.formula is not None:
                    (bare if cell.value in (None, "") else saved).append((table.name, r, c))
    if not (bare or saved) or len(bare) > MOST_FORMULAS:
        return tables
    worked = work_out(tables, [*bare, *saved[:MOST_LOOKED_AT]])
    return [_with_values(table, worked) for table in tables]


def _with_values(table: Table, worked: Worked) -> Table:
    where = f"{table.source}, {table.name}" if table.name else table.source
    rows, filled, named, apart = [], 0, [], []
    for r, row in enumerate(table.rows):
        cells = list(row)
        for c, cell in enumerate(row):
            at = (table.name, r, c)
            if cell.formula is None:
                continue
            value = worked.values.get(at)
            if cell.value in (None, ""):
                if isinstance(value, Decimal):
                    cells[c] = cell._replace(value=value)
                    filled += 1
                elif at in worked.why_not:
                    named.append(f"{column_letters(c)}{r + 1} ({worked.why_not[at]})")
            elif isinstance(value, Decimal) and _apart(cell.value, value):
                apart.append(f"{column_letters(c)}{r + 1} says {cell.text}, its formula comes to {value:f}")
        rows.append(tuple(cells))
    notes = [*table.notes]
    if filled:
        said = (
            "1 formula had no saved value and was"
            if filled == 1
            else f"{filled} formulas had no saved value and were"
        )
        notes.append(Fault(where, f"{said} worked out."))
    if named:
        notes.append(Fault(where, f"Formulas that are not worked out: {_few(named)}."))
    if apart:
        what = f"Saved values and their formulas disagree: {_few(apart)}."
        notes.append(Fault(where, what, "The saved values were read."))
    return replace(table, rows=tuple(rows), notes=tuple(notes))


def _apart(saved: object, worked: Decimal) -> bool:
    """Whether a saved value is no rounding of what its formula comes to, as far as doubles tell."""
    if not isinstance(saved, Decimal):
        return False
    return abs(saved - worked) > max(abs(saved), abs(worked)) * DOUBLES


def _few(named: list[str]) -> str:
    return "; ".join(named[:6]) + (f"; and {len(named) - 6} more" if len(named) > 6 else "")
