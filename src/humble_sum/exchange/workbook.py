"""XLSX (ECMA-376): exact amounts in the cells, the printed look in their number codes."""

from __future__ import annotations

import io
from collections.abc import Collection, Mapping
from copy import copy
from decimal import Decimal
from typing import Any

from openpyxl import Workbook
from openpyxl.cell import Cell
from openpyxl.comments import Comment
from openpyxl.styles import Alignment, Border, Font, Side
from openpyxl.worksheet.worksheet import Worksheet

from humble_sum.core.amounts import amount_text
from humble_sum.core.printing.figure import exact_text, print_amount
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.layout import Row, caption, rows
from humble_sum.exchange.number_codes import codes_of, is_live
from humble_sum.exchange.sheet_names import sheet_names

SURE_DIGITS = 15  # a cell is a double: more significant digits than this need not survive
SINGLE, DOUBLE = Side(style="thin"), Side(style="double")
FIXED_NOTE = (
    "Cells hold exact amounts. Where a number code cannot print the rule (lakhs and crores, nudged "
    "figures, amounts that round away), it shows the printed text, which does not follow if the cell "
    "is changed."
)


def write_xlsx(pack: Pack, proof: Proof) -> bytes:
    """A workbook of one sheet that looks like the page.

    Every figure's cell holds its exact amount; a nudged one carries a note of what is printed
    and why, and so does one with more digits than a cell can hold.
    """
    book = Workbook()
    sheet = book.active
    assert isinstance(sheet, Worksheet)
    sheet.title = sheet_names([proof.statement.name])[0]
    for text, bold in (
        (pack.entity, False),
        (proof.statement.title, True),
        (pack.period, False),
        (caption(proof), False),
    ):
        sheet.append([""])
        _text(_at(sheet, sheet.max_row, 1), text, bold)
    sheet.append([""])
    head = sheet.max_row
    for number, over in enumerate(proof.heads, 2):
        cell = _at(sheet, head, number)
        _text(cell, over)
        cell.alignment = Alignment(horizontal="right")
    figures = proof.figures
    amounts = {cell: figures[cell].exact for cell in figures}
    marks: list[Nudge | Hold] = [*pack.nudges, *pack.holds]
    marked = {(each.line, each.column) for each in marks if each.statement == proof.statement.id}
    moved = {cell for cell in marked if cell in figures and figures[cell].moved}
    codes = codes_of(proof, amounts, False, moved)
    styles: Styles = {}
    number = head
    for number, row in enumerate(rows(proof), head + 1):
        _row(sheet, number, row, styles, codes, moved)
    if not all(map(is_live, codes.values())):
        note = _at(sheet, number + 2, 1)
        _text(note, FIXED_NOTE)
        note.font = Font(italic=True, size=9)
    sheet.column_dimensions["A"].width = 4 + max(len(line.label) for line in proof.statement.lines)
    for number in range(2, len(proof.statement.columns) + 2):
        sheet.column_dimensions[_at(sheet, head, number).column_letter].width = 16
    sheet.freeze_panes = _at(sheet, head + 1, 2)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _at(sheet: Worksheet, row: int, column: int) -> Cell:
    cell = sheet.cell(row, column)
    assert isinstance(cell, Cell)
    return cell


def _text(cell: Cell, text: str, bold: bool = False) -> None:
    """Text as text: a label such as =1+1 is not a formula."""
    cell.value = text
    cell.data_type = "s"
    cell.font = Font(bold=bold)


Look = tuple[bool, bool, bool, str]  # bold, a rule above, a double one below, and the number code
Styles = dict[Look, Any]  # what openpyxl makes of each, once


def _row(
    sheet: Worksheet,
    number: int,
    row: Row,
    styles: Styles,
    codes: Mapping[tuple[str, str], str],
    moved: Collection[tuple[str, str]],
) -> None:
    bold = row.line.kind in ("heading", "total")
    label = _at(sheet, number, 1)
    _text(label, row.line.label, bold)
    label.alignment = Alignment(indent=row.line.steps)
    for place, figure in enumerate(row.figures, 2):
        cell = _at(sheet, number, place)
        _figure(cell, figure, figure.cell in moved)
        code = codes.get(figure.cell, "General")
        _styled(cell, (bold, row.line.adds, row.last, code), styles)


def _styled(cell: Cell, look: Look, styles: Styles) -> None:
    """Giving each cell its own fonts and borders takes longer than all else; alike ones share them."""
    if look not in styles:
        bold, above, below, shown_by = look
        cell.font = Font(bold=bold)
        cell.alignment = Alignment(horizontal="right")
        cell.border = Border(top=SINGLE if above else Side(), bottom=DOUBLE if below else Side())
        cell.number_format = shown_by
        styles[look] = cell._style  # type: ignore[attr-defined]
    cell._style = copy(styles[look])  # type: ignore[attr-defined]


def _figure(cell: Cell, figure: Figure, moved: bool) -> None:
    """Write a figure's amount, and what there is to note of it."""
    if figure.exact is None:
        cell.value = figure.printed.full_text
        cell.data_type = "s"
        return
    # Given a number, openpyxl writes 17 digits of a double: 91847350.10 as 91847350.09999999.
    cell.value = amount_text(figure.exact)
    cell.data_type = "n"
    said = []
    if moved:
        own = print_amount(figure.exact, figure.clauses, money=figure.money).text
        reason = figure.nudge.reason if figure.nudge else (figure.held.reason if figure.held else "")
        said.append(
            f"Printed {figure.printed.full_text}, nudged from {own}. "
            f"Exact {exact_text(figure.exact, figure.clauses)}. {reason}".strip()
        )
    if not _fits(figure.exact):
        said.append(f"Exact amount {amount_text(figure.exact)}, which is longer than a cell can hold.")
    if said:
        cell.comment = Comment("\n".join(said), "Humble Sum", height=120, width=320)


def _fits(amount: Decimal) -> bool:
    digits = "".join(map(str, amount.as_tuple().digits)).rstrip("0")
    return len(digits) <= SURE_DIGITS
