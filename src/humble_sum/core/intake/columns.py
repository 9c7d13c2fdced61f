"""Which column is labels, which hold figures, and how each of these writes its numbers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, time
from decimal import Decimal
from typing import Literal

from humble_sum.core.intake.amounts import POINT, Convention, Reading, read
from humble_sum.core.intake.conventions import Inferred, infer
from humble_sum.core.intake.table import SheetCell, Table

Role = Literal["label", "code", "figures", "other"]
CODE_HEADINGS = {"code", "line", "line code", "account", "id", "no", "no.", "ref"}
YEARS = range(1900, 2101)


@dataclass(frozen=True)
class ColumnRead:
    """One column: its heading, its role, and for figures the convention and what it rests on."""

    index: int
    heading: str
    role: Role
    inferred: Inferred | None = None


@dataclass(frozen=True)
class Layout:
    """A table's columns, and the row its lines start at."""

    columns: tuple[ColumnRead, ...]
    first_row: int

    @property
    def label(self) -> ColumnRead | None:
        return next((column for column in self.columns if column.role == "label"), None)

    @property
    def code(self) -> ColumnRead | None:
        return next((column for column in self.columns if column.role == "code"), None)

    @property
    def figures(self) -> list[ColumnRead]:
        return [column for column in self.columns if column.role == "figures"]


def lay_out(table: Table, conventions: Mapping[int, Convention] | None = None) -> Layout:
    """Find the columns' roles and conventions. `conventions` overrules those of some columns."""
    numeric = [index for index in range(table.width) if _mostly_figures(table.column(index))]
    label = _label_column(table, numeric)
    first_row = _first_row(table, numeric, label)
    columns = []
    for index in range(table.width):
        heading = _heading(table, index, first_row)
        if index == label:
            role: Role = "label"
        elif heading.lower() in CODE_HEADINGS:
            role = "code"
        else:
            role = "figures" if index in numeric else "other"
        inferred = None
        if role == "figures":
            texts = [_written(cell) for cell in table.column(index)[first_row:]]
            inferred = infer(texts)
            if conventions and index in conventions:
                inferred = _overruled(texts, conventions[index])
        columns.append(ColumnRead(index, heading, role, inferred))
    return Layout(tuple(columns), first_row)


def _overruled(texts: list[str], convention: Convention) -> Inferred:
    """The column read again under a convention that its reader chose."""
    numbers = [place for place, text in enumerate(texts) if any(character.isdigit() for character in text)]
    doubtful = tuple(place for place in numbers if read(texts[place], convention).kind == "text")
    sample = texts[numbers[0]] if numbers else ""
    agree = len(numbers) - len(doubtful)
    return Inferred(convention, (f"you chose a {convention}",), agree, len(numbers), sample, (), doubtful)


def read_cell(cell: SheetCell, convention: Convention = POINT) -> Reading:
    """A cell as an amount: a number is itself, text is read, dates and truths stay what they are."""
    value = cell.value
    if isinstance(value, Decimal):
        return Reading("amount" if value else "zero", value)
    if isinstance(value, bool):
        return Reading("text", why=("true or false, not an amount",))
    if isinstance(value, date | time):
        return Reading("text", why=("a date or time, not an amount",))
    return read(cell.text, convention)


def _written(cell: SheetCell) -> str:
    """A text cell as written. A number needs no convention, so it says nothing of one."""
    return cell.value if isinstance(cell.value, str) else ""


LONGEST_ZERO = 4  # letters of "zero", the longest word that is one


def _is_number(cell: SheetCell) -> bool:
    if not isinstance(cell.value, str):
        return isinstance(cell.value, Decimal)
    text = cell.value.strip()
    if not any(character.isdigit() for character in text):
        return len(text) <= LONGEST_ZERO and read(text).kind == "zero"
    return infer([text]).agree == 1


def _mostly_figures(cells: list[SheetCell]) -> bool:
    """Whether more of the cells that say anything, the first aside, are numbers than not."""
    said = [cell for cell in cells if cell.text.strip() or cell.formula]
    body = said[1:] if len(said) > 1 else said
    numbers = sum(_is_number(cell) or cell.formula is not None for cell in body)
    return numbers * 2 > len(body)


def _label_column(table: Table, numeric: list[int]) -> int | None:
    """The text column whose cells say most, the leftmost of equals."""
    best, most = None, 0
    for index in range(table.width):
        if index in numeric:
            continue
        letters = sum(sum(c.isalpha() for c in cell.text) for cell in table.column(index))
        if letters > most:
            best, most = index, letters
    return best


def _first_row(table: Table, numeric: list[int], label: int | None) -> int:
    """The first row that is a line: one with a figure, unless all its figures are years above
    an empty label; or a labelled row below the headings."""
    for row, cells in enumerate(table.rows):
        figures = [cells[index] for index in numeric if _is_number(cells[index])]
        if not figures or all(_is_year(cell) for cell in figures):
            continue
        # Headings among the lines, such as "Income", stand right above their first line.
        while row and label is not None and _only_label(table.rows[row - 1], label, numeric):
            row -= 1
        return row
    return len(table.rows)


def _is_year(cell: SheetCell) -> bool:
    amount = read_cell(cell).amount
    return amount is not None and amount == amount.to_integral_value() and int(amount) in YEARS


def _only_label(cells: tuple[SheetCell, ...], label: int, numeric: list[int]) -> bool:
    return bool(cells[label].text.strip()) and not any(cells[index].text.strip() for index in numeric)


def _heading(table: Table, index: int, first_row: int) -> str:
    """The lowest text above the lines in this column, after any that spans several columns."""
    said: list[str] = []
    for row in range(first_row):
        text, spans = _above(table, row, index)
        if not text or text in said:
            continue
        if spans:
            said.append(text)
        else:
            said = [each for each in said if _spans(table, each, row, index)] + [text]
    return ", ".join(said)


def _above(table: Table, row: int, column: int) -> tuple[str, bool]:
    """What stands over a column in a row, and whether it spans others too."""
    for top, left, bottom, right in table.merged:
        if top <= row <= bottom and left <= column <= right and right > left:
            return heading_text(table.rows[top][left]), right - left + 1 < table.width - 1
    return heading_text(table.rows[row][column]), False


def _spans(table: Table, text: str, row: int, column: int) -> bool:
    return any(_above(table, above, column) == (text, True) for above in range(row))


MONTHS = [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
]


def heading_text(cell: SheetCell) -> str:
    """A cell as a heading: a date reads as people write it, 31 March 2026."""
    if isinstance(cell.value, date):
        return f"{cell.value.day} {MONTHS[cell.value.month - 1]} {cell.value.year}"
    return cell.text.strip()
