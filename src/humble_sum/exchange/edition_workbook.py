"""A workbook of all statements of an edition, with live sums: exact, in the unit of the page, or as printed.

Totals, cross-sums and ties are formulas with their values beside them wherever the formula comes to the very
value; elsewhere (a missing part, a source break, a gap left with a note) the value stands alone.
"""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from decimal import Decimal
from typing import Any, Literal

from xlsxwriter import Workbook
from xlsxwriter.utility import xl_rowcol_to_cell
from xlsxwriter.worksheet import Worksheet

from humble_sum.core.amounts import EXACT, amount_text, of_units, scaled, signed, total
from humble_sum.core.printing.clauses import POWERS
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Figure, Proof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.relations import Relation
from humble_sum.exchange.layout import Row, caption, rows
from humble_sum.exchange.number_codes import Known, number_code
from humble_sum.exchange.travelling import closed, one_line

Mode = Literal["exact", "unit", "printed"]
MODES: dict[Mode, str] = {
    "exact": "exact amounts, in ones",
    "unit": "exact amounts, in the unit of the page",
    "printed": "the figures as printed",
}
SURE_DIGITS = 15  # a cell is a double: more significant digits than this need not survive
SHEET_NAME = 31
UNSAFE_IN_NAME = dict.fromkeys(map(ord, "[]:*?/\\'"), " ")
EPOCH = datetime(1980, 1, 1)  # so that the same figures make the same file
HEAD = 4  # the row of the columns' heads, from 0
WIDE = 6  # columns from which a page is printed across

Cells = Mapping[FigureRef, str]  # where each figure stands: 'Income'!B7
Value = Callable[[Figure], Decimal | None]


@dataclass(frozen=True)
class Sum:
    """A live sum: a figure, and the signed figures that it is."""

    figure: FigureRef
    parts: tuple[tuple[FigureRef, int], ...]


def write_workbook(whole: PackProof, mode: Mode = "exact") -> bytes:
    """The workbook, byte by byte the same for the same figures."""
    out = io.BytesIO()
    book = Workbook(out, {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False})
    book.set_properties({"title": f"{whole.pack.entity}, {whole.pack.period}", "created": EPOCH})
    names = _names([proof.statement.name for proof in whole.proofs.values()])
    cells = _places(whole)
    live = live_sums(whole, mode)
    styles: dict[tuple[Any, ...], Any] = {}
    for id, name in zip(whole.proofs, names, strict=True):
        sheet = book.add_worksheet(name)
        _Sheet(book, sheet, id, whole, mode, cells, live, styles).write()
    _rules(book, whole)
    _moved(book, whole)
    _checks(book, whole)
    book.close()
    return out.getvalue()


def value_in(mode: Mode) -> Value:
    """What a cell holds of a figure in a mode."""

    def exact(figure: Figure) -> Decimal | None:
        return figure.exact

    def unit(figure: Figure) -> Decimal | None:
        return None if figure.exact is None else scaled(figure.exact, -_power(figure))

    def printed(figure: Figure) -> Decimal | None:
        if figure.exact is None or figure.units is None:
            return None
        return scaled(of_units(figure.units, figure.printed.exponent), -_power(figure))

    ways: dict[Mode, Value] = {"exact": exact, "unit": unit, "printed": printed}
    return ways[mode]


def live_sums(whole: PackProof, mode: Mode) -> dict[FigureRef, Sum]:
    """The sums that are live: each figure at most once, and only where its parts come to its value. A figure
    that is a part of what it would be made of stands as a value."""
    value = value_in(mode)
    found: dict[FigureRef, Sum] = {}
    for spot, parts in _candidates(whole):
        if spot in found or _reaches(found, [part for part, _ in parts], spot):
            continue
        own = _value(whole, spot, value)
        adding = [(sign, _value(whole, part, value)) for part, sign in parts]
        if own is None or any(amount is None for _, amount in adding):
            continue
        if own == total([signed(sign, amount) for sign, amount in adding if amount is not None]):
            found[spot] = Sum(spot, parts)
    return found


def _candidates(whole: PackProof) -> Iterator[tuple[FigureRef, tuple[tuple[FigureRef, int], ...]]]:
    for id, proof in whole.proofs.items():
        for check in proof.checks:
            relation: Relation = check.relation
            yield (id, *relation.total), tuple(((id, *cell), sign) for cell, sign in relation.parts)
    for tie in whole.pack.ties:
        first, *others = tie.figures
        for other in others:
            yield other, ((first, 1),)


def _reaches(found: Mapping[FigureRef, Sum], starts: Sequence[FigureRef], spot: FigureRef) -> bool:
    """Whether any of some figures is made, at any depth, of a figure."""
    waiting, seen = [*starts], set[FigureRef]()
    while waiting:
        each = waiting.pop()
        if each == spot:
            return True
        if each in found and each not in seen:
            seen.add(each)
            waiting += [part for part, _ in found[each].parts]
    return False


def _value(whole: PackProof, spot: FigureRef, value: Value) -> Decimal | None:
    return value(whole.proofs[spot[0]].figures[spot[1:]])


def _power(figure: Figure) -> int:
    return POWERS[figure.clauses.scale] if figure.clauses.form == "amount" else 0


def _names(wanted: Sequence[str]) -> list[str]:
    """Names of sheets: safe, short, and none twice, whatever their case."""
    taken = {"rules", "nudges and holds", "checks"}
    names = []
    for name in wanted:
        base = one_line(name).translate(UNSAFE_IN_NAME).strip()[:SHEET_NAME] or "Statement"
        found, number = base, 1
        while found.lower() in taken:
            number += 1
            found = f"{base[: SHEET_NAME - len(str(number)) - 1]} {number}"
        taken.add(found.lower())
        names.append(found)
    return names


def figure_places(whole: PackProof) -> dict[FigureRef, tuple[str, str]]:
    """The sheet and the cell that each figure stands in, in page order."""
    found = {}
    names = _names([proof.statement.name for proof in whole.proofs.values()])
    for (id, proof), name in zip(whole.proofs.items(), names, strict=True):
        for number, row in enumerate(rows(proof), HEAD + 1):
            for place, column in enumerate(proof.statement.columns if row.figures else (), 1):
                found[id, row.line.id, column.id] = (name, xl_rowcol_to_cell(number, place))
    return found


def _places(whole: PackProof) -> dict[FigureRef, str]:
    quoted = {spot: (sheet.replace("'", "''"), cell) for spot, (sheet, cell) in figure_places(whole).items()}
    return {spot: f"'{sheet}'!{cell}" for spot, (sheet, cell) in quoted.items()}


@dataclass
class _Sheet:
    """One statement being written."""

    book: Workbook
    sheet: Worksheet
    id: str
    whole: PackProof
    mode: Mode
    cells: Cells
    live: Mapping[FigureRef, Sum]
    styles: dict[tuple[Any, ...], Any]

    def write(self) -> None:
        proof = self.whole.proofs[self.id]
        pack = self.whole.pack
        said = (pack.entity, proof.statement.title, pack.period, self._unit(proof))
        for number, text in enumerate(said):
            self.sheet.write_string(number, 0, closed(one_line(text)), self._style(bold=number == 1))
        for place, head in enumerate(proof.heads, 1):
            self.sheet.write_string(HEAD, place, closed(one_line(head)), self._style(right=True))
        known: Known = {}
        last = HEAD
        for last, row in enumerate(rows(proof), HEAD + 1):
            self._row(last, row, known)
        columns = len(proof.statement.columns)
        self.sheet.set_column(0, 0, 4 + max(len(line.label) for line in proof.statement.lines[:500]))
        self.sheet.set_column(1, columns, 16)
        self.sheet.freeze_panes(HEAD + 1, 1)
        self.sheet.print_area(0, 0, last, columns)
        self.sheet.repeat_rows(0, HEAD)
        self.sheet.fit_to_pages(1, 0)
        if columns > WIDE:
            self.sheet.set_landscape()

    def _unit(self, proof: Proof) -> str:
        return caption(proof) if self.mode != "exact" else f"{caption(proof)}; cells hold {MODES['exact']}"

    def _row(self, number: int, row: Row, known: Known) -> None:
        bold = row.line.kind in ("heading", "total")
        label = closed(one_line(row.line.label))
        self.sheet.write_string(number, 0, label, self._style(bold=bold, indent=row.line.steps))
        for place, (column, figure) in enumerate(
            zip(self.whole.proofs[self.id].statement.columns, row.figures, strict=False), 1
        ):
            look = {"bold": bold, "above": row.line.adds, "below": row.last, "right": True}
            self._figure(number, place, (self.id, row.line.id, column.id), figure, look, known)

    def _figure(
        self, row: int, place: int, spot: FigureRef, figure: Figure, look: dict[str, Any], known: Known
    ) -> None:
        amount = value_in(self.mode)(figure)
        if amount is None:
            self.sheet.write_string(row, place, closed(figure.printed.whole), self._style(**look))
            return
        style = self._style(**look, code=self._code(figure, amount, known))
        notes = _notes(figure)
        if not _fits(amount):
            self.sheet.write_string(row, place, amount_text(amount), self._style(**look))
            notes.append("Text, as it is longer than a cell can hold as a number.")
        elif (found := self.live.get(spot)) is not None and all(
            _fits(_value(self.whole, part, value_in(self.mode)) or Decimal(0)) for part, _ in found.parts
        ):
            self.sheet.write_formula(row, place, self._formula(spot, found), style, _Written(amount))
        else:
            self.sheet.write_number(row, place, _Written(amount), style)
        if notes:
            self.sheet.write_comment(row, place, "\n".join(notes), {"x_scale": 2, "author": "Humble Sum"})

    def _code(self, figure: Figure, amount: Decimal, known: Known) -> str:
        if self.mode == "exact":
            return number_code(figure, known)[0]
        clauses = figure.clauses.at(scale="ones") if _power(figure) else figure.clauses
        shown = replace(figure, exact=amount, decided=replace(figure.decided, clauses=clauses))
        if self.mode == "printed":
            shown = replace(shown, nudge=None, held=None)
        return number_code(shown)[0]

    def _formula(self, spot: FigureRef, found: Sum) -> str:
        here = self.cells[spot].rpartition("!")[0]
        said = ""
        for part, sign in found.parts:
            at = self.cells[part]
            at = at.rpartition("!")[2] if at.rpartition("!")[0] == here else at
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

    def __format__(self, spec: str) -> str:
        return self.text


def _notes(figure: Figure) -> list[str]:
    if not figure.moved:
        return []
    reason = figure.nudge.reason if figure.nudge else (figure.held.reason if figure.held else "")
    exact = exact_text(figure.exact, figure.clauses) if figure.exact is not None else ""
    way = "nudged" if figure.nudge else "held"
    return [f"Printed {figure.printed.whole}, {way}. Exact {exact}. {reason}".strip()]


def _fits(amount: Decimal) -> bool:
    digits = "".join(map(str, amount.as_tuple().digits)).rstrip("0")
    return len(digits) <= SURE_DIGITS and abs(EXACT.logb(amount) if amount else Decimal(0)) < 300


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


def _rules(book: Workbook, whole: PackProof) -> None:
    lines = [
        (rule.name, ", ".join(f"{name}: {value}" for name, value in rule.clauses.spelled().items()))
        for rule in whole.pack.rulebook.rules
    ]
    _list(book, "Rules", ("Rule", "Says"), lines)


def _moved(book: Workbook, whole: PackProof) -> None:
    lines = []
    for proof in whole.proofs.values():
        for (line, column), figure in proof.figures.items():
            for way, kept in (("nudged", figure.nudge), ("held", figure.held)):
                if kept is not None and figure.exact is not None:
                    said = (proof.statement.name, proof.grid.labels[line], proof.grid.heads[column], way)
                    exact = amount_text(figure.exact)
                    lines.append((*said, exact, figure.printed.whole, kept.reason, kept.author))
    head = ("Statement", "Line", "Column", "Way", "Exact", "Printed", "Reason", "By")
    _list(book, "Nudges and holds", head, lines)


def _checks(book: Workbook, whole: PackProof) -> None:
    lines = []
    for proof in whole.proofs.values():
        for check in proof.checks:
            line, column = check.relation.total
            name = f"{proof.grid.labels[line]}, {proof.grid.heads[column]}"
            lines.append((proof.statement.name, name, check.relation.way, check.status))
    _list(book, "Checks", ("Statement", "Sum", "Way", "Stands"), lines)
