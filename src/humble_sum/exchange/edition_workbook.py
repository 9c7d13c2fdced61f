"""A workbook of all statements of an edition, with live sums: exact, in the unit of the page, or as printed.

Totals, cross-sums and ties are formulas with their values beside them wherever the formula comes to the very
value; elsewhere (a missing part, a source break, a gap left with a note) the value stands alone.
"""

from __future__ import annotations

import io
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Context, Decimal
from typing import Any, Literal

from xlsxwriter import Workbook
from xlsxwriter.utility import xl_rowcol_to_cell
from xlsxwriter.worksheet import Worksheet

from humble_sum.core.amounts import amount_text, of_units, scaled, signed, total
from humble_sum.core.printing.clause_values import POWERS
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import describe_check
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.names import FigureRef, shortened
from humble_sum.core.statements.relations import Relation
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.layout import Row, caption, rows
from humble_sum.exchange.number_codes import codes_of
from humble_sum.exchange.review_rows import points_on
from humble_sum.exchange.safe_text import closed, one_line
from humble_sum.exchange.sheet_names import sheet_names

Mode = Literal["exact", "unit", "printed"]
MODES: dict[Mode, str] = {
    "exact": "exact amounts, in ones",
    "unit": "exact amounts, in the unit of the page",
    "printed": "the figures as printed",
}
SURE = Context(prec=15)
SURE_DIGITS = 15  # a cell is a double: more significant digits than this need not survive
OTHER_SHEETS = ("Rules", "Nudges and holds", "Checks")
FOOT = 255  # characters of a page's foot
EPOCH = datetime(1980, 1, 1)  # so that the same figures make the same file
HEAD = 4  # the row of the columns' heads, from 0
LONG = "Text, as it is longer than a cell can hold as a number."
CUT = "The first 15 digits, as many as a cell holds. Exact: "
WIDE, WIDEST = 6, 20  # columns from which a page is printed across, and from which on several pages
ON_A_PAGE = 12  # columns of each of several pages

Amounts = Mapping[FigureRef, Decimal | None]
Cells = Mapping[FigureRef, str]  # where each figure stands: 'Income'!B7
Value = Callable[[Figure], Decimal | None]


@dataclass(frozen=True)
class Sum:
    """A live sum: a figure, and the signed figures that it is."""

    figure: FigureRef
    parts: tuple[tuple[FigureRef, int], ...]


def write_workbook(pack_proof: PackProof, mode: Mode = "exact", imprint: Imprint | None = None) -> bytes:
    """The workbook, byte by byte the same for the same figures; at the foot of its pages, when printed, the
    issue that it is of."""
    out = io.BytesIO()
    book = Workbook(out, {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False})
    book.set_properties({"title": f"{pack_proof.pack.entity}, {pack_proof.pack.period}", "created": EPOCH})
    amounts = amounts_in(pack_proof, mode)
    contents = _Contents(
        pack_proof,
        mode,
        amounts,
        live_sums(pack_proof, amounts),
        _places(pack_proof),
        _long(pack_proof, mode, amounts),
        {(mark.statement, mark.line, mark.column) for mark in _marks(pack_proof)},
    )
    styles: dict[tuple[Any, ...], Any] = {}
    names = _names(pack_proof)
    for id, name in zip(pack_proof.proofs, names, strict=True):
        _Sheet(book, book.add_worksheet(name), id, contents, styles).write()
    _rules(book, pack_proof)
    _moved(book, pack_proof)
    _checks(book, pack_proof)
    if imprint:
        for sheet in book.worksheets():
            sheet.set_footer(_foot(imprint.text))
    book.close()
    return out.getvalue()


def _foot(text: str) -> str:
    """Text at the foot of a printed page (ECMA-376, 18.3.1.46): an ampersand stands twice, and there is room
    for 255 characters."""
    said, digest = text.rsplit(" ", 1)
    room = FOOT - len(digest) - len("&L&8 ")
    return f"&L&8 {shortened(said, room // 2).replace('&', '&&')} {digest}"


def amounts_in(pack_proof: PackProof, mode: Mode) -> Amounts:
    """What the cell of each figure holds in a mode, in page order; None where it is text."""
    if mode == "exact":  # as they are stored: no figure need be printed for them
        return {
            (id, *cell): amount
            for id, proof in pack_proof.proofs.items()
            for cell, amount in zip(proof.grid.cells, proof.grid.amounts, strict=True)
        }
    value = value_in(mode)
    return {
        (id, *cell): value(figure)
        for id, proof in pack_proof.proofs.items()
        for cell, figure in proof.figures.items()
    }


def value_in(mode: Mode) -> Value:
    """What a cell holds of a figure in a mode."""

    def exact(figure: Figure) -> Decimal | None:
        return figure.exact

    def unit(figure: Figure) -> Decimal | None:
        return None if figure.exact is None else scaled(figure.exact, -_power(figure))

    def printed(figure: Figure) -> Decimal | None:
        if figure.exact is None or figure.units is None:
            return None
        return scaled(of_units(figure.units, figure.exponent), -_power(figure))

    ways: dict[Mode, Value] = {"exact": exact, "unit": unit, "printed": printed}
    return ways[mode]


def live_sums(pack_proof: PackProof, amounts: Amounts) -> dict[FigureRef, Sum]:
    """The sums that are live: each figure at most once, and only where its parts come to its amount. A figure
    that is a part of what it would be made of stands as a value."""
    found: dict[FigureRef, Sum] = {}
    for ref, parts in _candidates(pack_proof):
        own = amounts[ref]
        adding = [(sign, amounts[part]) for part, sign in parts]
        if ref in found or own is None or any(amount is None for _, amount in adding):
            continue
        if own != total([signed(sign, amount) for sign, amount in adding if amount is not None]):
            continue
        if not _reaches(found, [part for part, _ in parts], ref):
            found[ref] = Sum(ref, parts)
    return found


def _candidates(pack_proof: PackProof) -> Iterator[tuple[FigureRef, tuple[tuple[FigureRef, int], ...]]]:
    for id, proof in pack_proof.proofs.items():
        for check in proof.checks:
            relation: Relation = check.relation
            yield (id, *relation.total), tuple(((id, *cell), sign) for cell, sign in relation.parts)
    for tie in pack_proof.pack.ties:
        first, *others = tie.figures
        for other in others:
            yield other, ((first, 1),)


def _reaches(found: Mapping[FigureRef, Sum], starts: Sequence[FigureRef], ref: FigureRef) -> bool:
    """Whether any of some figures is made, at any depth, of a figure."""
    waiting, seen = [*starts], set[FigureRef]()
    while waiting:
        each = waiting.pop()
        if each == ref:
            return True
        if each in found and each not in seen:
            seen.add(each)
            waiting += [part for part, _ in found[each].parts]
    return False


def _power(figure: Figure) -> int:
    return POWERS[figure.clauses.scale] if figure.clauses.form == "amount" else 0


def _names(pack_proof: PackProof) -> list[str]:
    return sheet_names([proof.statement.name for proof in pack_proof.proofs.values()], OTHER_SHEETS)


def figure_places(pack_proof: PackProof) -> dict[FigureRef, tuple[str, str]]:
    """The sheet and the cell that each figure stands in, in page order."""
    found = {}
    names = _names(pack_proof)
    for (id, proof), name in zip(pack_proof.proofs.items(), names, strict=True):
        for number, row in enumerate(rows(proof), HEAD + 1):
            for place, column in enumerate(proof.statement.columns if row.figures else (), 1):
                found[id, row.line.id, column.id] = (name, xl_rowcol_to_cell(number, place))
    return found


def _long(pack_proof: PackProof, mode: Mode, amounts: Amounts) -> set[FigureRef]:
    """The figures that are text, as they have more digits than a cell keeps: where cells hold exact amounts
    as they were taken in. What was divided or translated has many digits of no meaning, which are cut."""
    if mode != "exact" or pack_proof.pack.translates:
        return set()
    return {ref for ref, amount in amounts.items() if amount is not None and not _fits(amount)}


def _places(pack_proof: PackProof) -> dict[FigureRef, str]:
    quoted = {
        ref: (sheet.replace("'", "''"), cell) for ref, (sheet, cell) in figure_places(pack_proof).items()
    }
    return {ref: f"'{sheet}'!{cell}" for ref, (sheet, cell) in quoted.items()}


@dataclass(frozen=True)
class _Contents:
    """What all sheets are written from: amounts, live sums and where each figure stands; `long` figures have
    more digits than a cell keeps and are text, `marked` ones are nudged or held."""

    pack_proof: PackProof
    mode: Mode
    amounts: Amounts
    live: Mapping[FigureRef, Sum]
    cells: Cells
    long: Collection[FigureRef]
    marked: Collection[FigureRef]


class _Sheet:
    """One statement being written."""

    def __init__(
        self, book: Workbook, sheet: Worksheet, id: str, of: _Contents, styles: dict[tuple[Any, ...], Any]
    ):
        self.book, self.sheet, self.id, self.of, self.styles = book, sheet, id, of, styles
        self.proof = proof = of.pack_proof.proofs[id]
        own = {cell: of.amounts[id, *cell] for cell in proof.figures}
        moved = {cell for cell in own if (id, *cell) in of.marked and proof.figures[cell].moved}
        fixed = moved if of.mode != "printed" else set[tuple[str, str]]()
        self.codes = codes_of(proof, own, of.mode != "exact", fixed)
        self.moved = moved
        self.shares = {column.id for column in proof.statement.columns if column.share}
        self.unchecked: dict[tuple[str, str], list[str]] = {}
        for check in proof.checks:
            if check.status in ("incomplete", "mixed", "break"):
                said = describe_check(proof, check)
                self.unchecked.setdefault(check.relation.total, []).append(said)
        self.points = points_on(of.pack_proof.pack, id) if of.mode == "exact" else {}

    def write(self) -> None:
        pack, proof = self.of.pack_proof.pack, self.proof
        unit = caption(proof)
        if self.of.mode == "exact":
            unit = f"{unit}; cells hold {MODES['exact']}"
        for number, text in enumerate((pack.entity, proof.statement.title, pack.period, unit)):
            self.sheet.write_string(number, 0, closed(one_line(text)), self._style(bold=number == 1))
        for place, head in enumerate(proof.heads, 1):
            self.sheet.write_string(HEAD, place, closed(one_line(head)), self._style(right=True))
        last = HEAD
        for last, row in enumerate(rows(proof), HEAD + 1):
            self._row(last, row)
        columns = len(proof.statement.columns)
        self.sheet.set_column(0, 0, 4 + max(len(line.label) for line in proof.statement.lines[:500]))
        self.sheet.set_column(1, columns, 16)
        self.sheet.freeze_panes(HEAD + 1, 1)
        self.sheet.print_area(0, 0, last, columns)
        self.sheet.repeat_rows(0, HEAD)
        self.sheet.fit_to_pages(1, 0)
        if columns > WIDE:
            self.sheet.set_landscape()
        if columns > WIDEST:
            self.sheet.repeat_columns(0)
            self.sheet.fit_to_pages(-(-columns // ON_A_PAGE), 0)
            self.sheet.set_v_pagebreaks(range(ON_A_PAGE + 1, columns + 1, ON_A_PAGE))

    def _row(self, number: int, row: Row) -> None:
        line = row.line
        bold = line.kind in ("heading", "total")
        self.sheet.write_string(
            number, 0, closed(one_line(line.label)), self._style(bold=bold, indent=line.steps)
        )
        if line.kind == "heading":
            return
        for place, column in enumerate(self.proof.statement.columns, 1):
            self._figure(number, place, (line.id, column.id), (bold, line.adds, row.last))

    def _figure(self, row: int, place: int, cell: tuple[str, str], look: tuple[bool, bool, bool]) -> None:
        ref = (self.id, *cell)
        amount = self.of.amounts[ref]
        bold, above, below = look
        notes = _notes(self.proof.figures[cell]) if cell in self.moved else []
        notes += self.unchecked.get(cell, [])
        notes += self.points.get(cell, [])
        if amount is None or ref in self.of.long:
            style = self._style(bold, above, below, right=True)
            said = self.proof.figures[cell].printed.full_text if amount is None else amount_text(amount)
            self.sheet.write_string(row, place, closed(said), style)
            notes += [LONG] if amount is not None else []
        else:
            style = self._style(bold, above, below, right=True, code=self.codes[cell])
            held = amount if _fits(amount) else SURE.create_decimal(amount)
            if held != amount and cell[1] not in self.shares:  # a share is a quotient, and never all there
                notes.append(f"{CUT}{amount_text(amount)}")
            found = self.of.live.get(ref)
            if found is not None and not any(part in self.of.long for part, _ in found.parts):
                self.sheet.write_formula(row, place, self._formula(ref, found), style, _Written(held))
            else:
                self.sheet.write_number(row, place, _Written(held), style)
        if notes:
            self.sheet.write_comment(row, place, "\n".join(notes), {"x_scale": 2, "author": "Humble Sum"})

    def _formula(self, ref: FigureRef, found: Sum) -> str:
        here = self.of.cells[ref].rpartition("!")[0]
        said = ""
        for part, sign in found.parts:
            sheet, _, cell = self.of.cells[part].rpartition("!")
            at = cell if sheet == here else f"{sheet}!{cell}"
            said += f"{'-' if sign < 0 else '+' if said else ''}{at}"
        return f"={said}"

    def _style(
        self,
        bold: bool = False,
        above: bool = False,
        below: bool = False,
        right: bool = False,
        indent: int = 0,
        code: str = "General",
    ) -> Any:
        key = (bold, above, below, right, indent, code)
        if key not in self.styles:
            self.styles[key] = self.book.add_format(
                {
                    "bold": bold,
                    "top": 1 if above else 0,
                    "bottom": 6 if below else 0,
                    "align": "right" if right else "left",
                    "indent": indent,
                    "num_format": code,
                }
            )
        return self.styles[key]


class _Written(float):
    """A number that is written with the digits of its decimal, and not with those of a double."""

    def __new__(cls, amount: Decimal) -> _Written:
        made = super().__new__(cls, float(amount))
        made.text = amount_text(amount)
        return made

    text: str

    def __format__(self, _: str) -> str:
        return self.text


def _notes(figure: Figure) -> list[str]:
    if not figure.moved:
        return []
    reason = figure.nudge.reason if figure.nudge else (figure.held.reason if figure.held else "")
    exact = exact_text(figure.exact, figure.clauses) if figure.exact is not None else ""
    way = "nudged" if figure.nudge else "held"
    return [f"Printed {figure.printed.full_text}, {way}. Exact {exact}. {reason}".strip()]


def _fits(amount: Decimal) -> bool:
    if len(str(amount)) <= SURE_DIGITS:
        return True  # most are told without taking them apart
    digits = amount.as_tuple().digits
    return len(digits) <= SURE_DIGITS or not any(digits[SURE_DIGITS:])


def _list(book: Workbook, name: str, head: Sequence[str], lines: Sequence[Sequence[str]]) -> None:
    sheet = book.add_worksheet(name)
    bold = book.add_format({"bold": True})
    wrapped = book.add_format({"text_wrap": True, "valign": "top"})
    for place, text in enumerate(head):
        sheet.write_string(0, place, text, bold)
    for number, line in enumerate(lines, 1):
        for place, text in enumerate(line):
            sheet.write_string(number, place, closed(text), wrapped)
    sheet.set_column(0, len(head) - 1, 28)
    sheet.freeze_panes(1, 0)


def _rules(book: Workbook, pack_proof: PackProof) -> None:
    lines = [
        (rule.name, ", ".join(f"{name}: {value}" for name, value in rule.clauses.spelled().items()))
        for rule in pack_proof.pack.rulebook.rules
    ]
    _list(book, OTHER_SHEETS[0], ("Rule", "Says"), lines)


def _marks(pack_proof: PackProof) -> list[Nudge | Hold]:
    return [*pack_proof.pack.nudges, *pack_proof.pack.holds]


def _moved(book: Workbook, pack_proof: PackProof) -> None:
    lines = []
    for mark in _marks(pack_proof):
        proof = pack_proof.proofs.get(mark.statement)
        figure = proof.figures.get((mark.line, mark.column)) if proof else None
        if proof is None or figure is None or figure.exact is None:
            continue
        way = "held" if mark is figure.held else "nudged" if mark is figure.nudge else "rests"
        said = (proof.statement.name, proof.grid.labels[mark.line], proof.grid.heads[mark.column], way)
        exact = amount_text(figure.exact)
        lines.append((*said, exact, figure.printed.full_text, mark.reason, mark.author))
    head = ("Statement", "Line", "Column", "Way", "Exact", "Printed", "Reason", "By")
    _list(book, OTHER_SHEETS[1], head, lines)


def _checks(book: Workbook, pack_proof: PackProof) -> None:
    lines = []
    for proof in pack_proof.proofs.values():
        for check in proof.checks:
            line, column = check.relation.total
            name = f"{proof.grid.labels[line]}, {proof.grid.heads[column]}"
            lines.append((proof.statement.name, name, check.relation.way, check.status))
    _list(book, OTHER_SHEETS[2], ("Statement", "Sum", "Way", "Stands"), lines)
