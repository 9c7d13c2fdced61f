"""A table as it came from a source, before anything is made of it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date, time
from decimal import Decimal
from functools import lru_cache
from typing import NamedTuple

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.units import Unit
from humble_sum.core.once import once

Value = str | Decimal | date | time | bool | None


class SheetCell(NamedTuple):
    """One cell: its value, and what a workbook says besides.

    Text is as written. A number is the exact decimal of what was stored; `snapped` says it was
    a binary number that needed more than 15 digits. `formula` starts with "=". `code` is its
    number code, `indent` how far its text stands in.
    """

    value: Value = None
    formula: str | None = None
    code: str = ""
    snapped: bool = False
    indent: int = 0

    @property
    def text(self) -> str:
        """The value as text, for labels and for reading."""
        if self.value is None:
            return ""
        if isinstance(self.value, Decimal):
            return format(self.value, "f")
        return str(self.value)

    @property
    def says(self) -> bool:
        """Whether there is anything in it but blanks."""
        return bool(self.value.strip()) if isinstance(self.value, str) else self.value is not None


EMPTY = SheetCell()
MOST_CELLS = 6_000_000  # of a table, empty ones too
LETTERS = re.compile(r"[A-Z]{1,3}")
PLACE = re.compile(r"([A-Z]{1,3})([1-9]\d{0,6})")
CONTROLS = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")


@dataclass(frozen=True)
class Table:
    """Rows of cells, all of one length, with where they came from and what to know about them.

    `hidden` rows were hidden in the source and are read all the same. A merged range is its first row and
    column and its last ones; its text stands in its first cell. `linked` is the unit of the sheet whose
    figures it repeats, where it states none itself. `left_out` are the rows of its sheet that belong to other
    tables: the first one, and how many. `origins` say where cells were in the source, by row and column,
    where they have been set out otherwise.
    """

    source: str
    name: str
    rows: tuple[tuple[SheetCell, ...], ...]
    notes: tuple[Fault, ...] = ()
    hidden: frozenset[int] = frozenset()
    merged: tuple[tuple[int, int, int, int], ...] = ()
    linked: Unit | None = None
    left_out: tuple[int, int] = (0, 0)
    origins: Mapping[tuple[int, int], tuple[int, int]] | None = field(default=None, compare=False)

    @property
    def width(self) -> int:
        return len(self.rows[0]) if self.rows else 0

    def place(self, row: int, column: int) -> str:
        """A cell's place as people write it: "ledger.xlsx, Sheet1, C7"."""
        sheet = f", {self.name}" if self.name else ""
        return f"{self.source}{sheet}, {self.sheet_place(row, column)}"

    def sheet_place(self, row: int, column: int) -> str:
        """The same within the table: "C7"."""
        row, column = self.origin(row, column)
        return f"{column_letters(column)}{row + 1}"

    def origin(self, row: int, column: int) -> tuple[int, int]:
        """The row and column in the source of a cell of this table."""
        if self.origins is not None:
            return self.origins.get((row, column), (row, column))
        return self.sheet_row(row), column

    def sheet_row(self, row: int) -> int:
        """The row of the sheet that a row of this table is; the same one where it was set out otherwise."""
        first, count = (0, 0) if self.origins is not None else self.left_out
        return row if row < first else row + count

    def row_of(self, sheet_row: int) -> int | None:
        """The row of this table that a row of the sheet is; None where it was left out."""
        first, count = (0, 0) if self.origins is not None else self.left_out
        if sheet_row < first:
            return sheet_row
        return sheet_row - count if sheet_row >= first + count else None

    def find(self, sheet_place: str) -> tuple[int, int] | None:
        """The row and column, from 0, of such a cell; None where there is none."""
        found = cell_place(sheet_place)
        if found is not None and self.origins is not None:
            return self._here.get(found)
        row = None if found is None else self.row_of(found[0])
        if found is None or row is None or row >= len(self.rows) or found[1] >= self.width:
            return None
        return row, found[1]

    @once
    def _here(self) -> dict[tuple[int, int], tuple[int, int]]:
        return {origin: here for here, origin in (self.origins or {}).items()}

    def with_rows(self, rows: tuple[tuple[SheetCell, ...], ...]) -> Table:
        """The table with other cells in its places."""
        return replace(self, rows=rows)

    def column(self, column: int) -> list[SheetCell]:
        return [row[column] for row in self.rows]


def cell_place(text: str) -> tuple[int, int] | None:
    """The row and column, from 0, of a place such as C7; None of a text that is none."""
    found = PLACE.fullmatch(text)
    if found is None:
        return None
    column = column_index(found[1])
    return None if column is None else (int(found[2]) - 1, column)


def column_index(letters: str) -> int | None:
    """The column, from 0, of its letters: A is 0, AA is 26; None of a text that is none."""
    if not LETTERS.fullmatch(letters):
        return None
    column = 0
    for letter in letters:
        column = column * 26 + ord(letter) - ord("A") + 1
    return column - 1


def without_controls(table: Table) -> Table:
    """The table without characters that nothing prints (control characters, halves of others), each cell that
    had any named."""
    rows, cleaned = list(table.rows), []
    for r, row in enumerate(table.rows):
        found = [
            c for c, cell in enumerate(row) if isinstance(cell.value, str) and CONTROLS.search(cell.value)
        ]
        if not found:
            continue
        cells = list(row)
        for c in found:
            cells[c] = cells[c]._replace(value=CONTROLS.sub("", str(cells[c].value)))
            cleaned.append(f"{column_letters(c)}{r + 1}")
        rows[r] = tuple(cells)
    if not cleaned:
        return table
    shown = ", ".join(cleaned[:6]) + ("…" if len(cleaned) > 6 else "")
    where = f"{table.source}, {table.name}" if table.name else table.source
    note = Fault(where, f"Control characters, which nothing prints, were taken out of {shown}.")
    return replace(table, rows=tuple(rows), notes=(*table.notes, note))


@lru_cache(maxsize=16_384)  # as many as a sheet has columns
def column_letters(column: int) -> str:
    """0 is A, 25 is Z, 26 is AA."""
    letters = ""
    column += 1
    while column:
        column, rest = divmod(column - 1, 26)
        letters = chr(ord("A") + rest) + letters
    return letters


def squared(rows: list[list[SheetCell]]) -> tuple[tuple[tuple[SheetCell, ...], ...], list[int]]:
    """Rows filled to one length and without empty ones at the end; and the rows that were short.

    A row is short when it has fewer cells than the first and is not simply empty. Raises InputError where
    the rows would have more cells than are taken in.
    """
    while rows and all(cell.value in (None, "") for cell in rows[-1]):
        rows.pop()
    width = max((len(row) for row in rows), default=0)
    if len(rows) * width > MOST_CELLS:
        what = f"Its {len(rows)} rows and {width} columns are more than {MOST_CELLS} cells."
        raise InputError("too-long", Fault("", what, "Take in the part that the statements need."))
    ragged = [
        n for n, row in enumerate(rows) if len(row) != len(rows[0]) and any(c.text.strip() for c in row)
    ]
    return tuple(tuple(row) + (EMPTY,) * (width - len(row)) for row in rows), ragged
