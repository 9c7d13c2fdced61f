"""A draft: the statement a table could be, with the evidence for each sum and what needs a look."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from humble_sum.core.amounts import signed, total
from humble_sum.core.ids import new_id
from humble_sum.core.intake.codes import Look, common_look
from humble_sum.core.intake.columns import ColumnRead, Layout, lay_out, read_cell
from humble_sum.core.intake.formulas import signed_cells
from humble_sum.core.intake.found_sums import FoundSum, Parts, found_columns, found_sums
from humble_sum.core.intake.table import Table
from humble_sum.core.reading import POINT, Convention
from humble_sum.core.statements import Column, Line, LineKind, Statement

How = Literal["", "formula", "found"]


@dataclass(frozen=True)
class Doubt:
    """A cell that needs a look: its place, what it says, and why."""

    place: str
    text: str
    why: str


@dataclass(frozen=True)
class DraftLine:
    """A line of the draft. Parts are line numbers of the draft, with signs."""

    row: int
    id: str
    label: str
    amounts: tuple[Decimal | None, ...]
    parts: tuple[tuple[int, int], ...] = ()
    how: How = ""
    evidence: str = ""
    heading: bool = False


@dataclass(frozen=True)
class Draft:
    """What a table was read as: columns, lines with their sums, offers not taken, and doubts.

    Sums, taken or offered, go by line numbers of the draft. `look` is what a workbook's number
    codes say about printing.
    """

    table: Table
    layout: Layout
    columns: tuple[Column, ...]
    lines: tuple[DraftLine, ...]
    offers: tuple[FoundSum, ...]
    doubts: tuple[Doubt, ...]
    currency: str | None
    look: Look


def draft(
    table: Table,
    conventions: Mapping[int, Convention] | None = None,
    decided: Mapping[int, bool] | None = None,
) -> Draft:
    """Read a table into a draft statement. Nothing is kept, and nothing in doubt is settled silently.

    `conventions` overrules those of some columns; `decided` says of a line, by its number in the
    draft, that it is a total or is not.
    """
    decided = decided or {}
    layout = lay_out(table, conventions)
    lines, doubts, currencies = _lines(table, layout)
    figures = layout.figures
    by_formula = _formula_sums(table, layout, lines)
    refused = {n for n, take in decided.items() if not take}
    offers: tuple[FoundSum, ...] = ()
    if by_formula:
        for number, parts in by_formula.items():
            if number in refused:
                continue
            evidence = "the workbook's own formula"
            lines[number] = replace(lines[number], parts=parts, how="formula", evidence=evidence)
    else:
        figured = [n for n, line in enumerate(lines) if not line.heading]
        sums = found_sums(
            [lines[n].amounts for n in figured],
            {place: decided[n] for place, n in enumerate(figured) if n in decided},
        )
        for found in sums:
            if found.sure:
                parts = tuple((figured[part], sign) for part, sign in found.parts)
                lines[figured[found.total]] = replace(
                    lines[figured[found.total]], parts=parts, how="found", evidence=found.evidence
                )
        offers = tuple(
            FoundSum(
                figured[f.total], tuple((figured[part], sign) for part, sign in f.parts), f.columns, f.sure
            )
            for f in sums
            if not f.sure
        )
    derived = _formula_columns(table, layout) or found_columns(
        [line.amounts for line in lines if not line.heading]
    )
    currency = next(iter(currencies)) if len(currencies) == 1 else None
    columns = _columns(figures, derived)
    codes = (row[column.index].code for row in table.rows[layout.first_row :] for column in figures)
    look = common_look(codes)
    currency = currency or look.clauses.get("currency")
    return Draft(table, layout, columns, tuple(lines), offers, tuple(doubts), currency, look)


def statement_of(made: Draft, id: str, name: str) -> Statement:
    """The draft as a statement. A total whose amount is not its parts' sum states it: a source break."""
    parts_of_others = {part for line in made.lines for part, _ in line.parts}
    derived = {n for n, column in enumerate(made.columns) if column.terms}
    lines = []
    for number, line in enumerate(made.lines):
        kind: LineKind = "heading" if line.heading else "line"
        if line.parts:
            kind = "subtotal" if number in parts_of_others else "total"
        amounts = {
            column.id: line.amounts[n]
            for n, column in enumerate(made.columns)
            if n not in derived and not line.heading and not (line.parts and _is_sum(made.lines, line, n))
        }
        parts = tuple((made.lines[part].id, sign) for part, sign in line.parts)
        data = {"id": line.id, "label": line.label, "kind": kind, "parts": parts, "amounts": amounts}
        lines.append(Line.model_validate(data))
    return Statement(id=id, name=name, title=name, columns=made.columns, lines=tuple(lines))


def _is_sum(lines: Sequence[DraftLine], line: DraftLine, column: int) -> bool:
    present = [(sign, lines[part].amounts[column]) for part, sign in line.parts]
    adding = [signed(sign, amount) for sign, amount in present if amount is not None]
    return line.amounts[column] == (total(adding) if adding else None)


def _lines(table: Table, layout: Layout) -> tuple[list[DraftLine], list[Doubt], Counter[str]]:
    label, code, figures = layout.label, layout.code, layout.figures
    lines: list[DraftLine] = []
    doubts: list[Doubt] = []
    currencies: Counter[str] = Counter()
    taken: set[str] = set()
    for row in range(layout.first_row, len(table.rows)):
        cells = table.rows[row]
        said = cells[label.index].text.strip() if label else ""
        amounts: list[Decimal | None] = []
        for column in figures:
            cell = cells[column.index]
            reading = read_cell(cell, column.inferred.convention if column.inferred else POINT)
            amounts.append(reading.amount if reading.kind in ("amount", "zero") else None)
            if reading.currency:
                currencies[reading.currency] += 1
            why = _why(cell.snapped, reading.kind, reading.why, cell.text, column, row - layout.first_row)
            if why:
                doubts.append(Doubt(table.place(row, column.index), cell.text, why))
        empty = not any(cells[column.index].text.strip() or cells[column.index].formula for column in figures)
        if not said and empty:
            continue
        written = cells[code.index].text.strip() if code else ""
        id = new_id(written or said or f"row {row + 1}", taken)
        lines.append(DraftLine(row, id, said or f"Row {row + 1}", tuple(amounts), heading=empty))
    return lines, doubts, currencies


def _why(snapped: bool, kind: str, why: tuple[str, ...], text: str, column: ColumnRead, place: int) -> str:
    """Why a cell needs a look, or nothing."""
    if snapped:
        return f"a binary number with a long tail, read as {text}"
    if column.inferred and place in column.inferred.ambiguous:
        return f"could be read two ways; read with a {column.inferred.convention}"
    if kind == "text":
        return "; ".join(why) or "text where a figure is expected"
    return ""


def _formula_sums(
    table: Table, layout: Layout, lines: Sequence[DraftLine]
) -> dict[int, tuple[tuple[int, int], ...]]:
    """Sums down that the workbook's formulas make, the same in every column that has one."""
    number = {line.row: n for n, line in enumerate(lines)}
    found: dict[int, tuple[tuple[int, int], ...]] = {}
    for n, line in enumerate(lines):
        ways = set()
        for column in layout.figures:
            formula = table.rows[line.row][column.index].formula
            cells = signed_cells(formula) if formula else None
            if cells is None or any(at != column.index for _, at in cells):
                continue
            parts = tuple((number[row], sign) for (row, _), sign in cells.items() if row in number)
            ways.add(tuple(part for part in parts if not lines[part[0]].heading and part[0] != n))
        if len(ways) == 1 and (parts := ways.pop()):
            found[n] = parts
    return found


def _formula_columns(table: Table, layout: Layout) -> dict[int, Parts]:
    """Derived columns: those whose every formula adds, or takes away, the same figures of its row."""
    place = {column.index: n for n, column in enumerate(layout.figures)}
    found = {}
    for column in layout.figures:
        ways = set()
        for row in range(layout.first_row, len(table.rows)):
            formula = table.rows[row][column.index].formula
            cells = signed_cells(formula) if formula else None
            if cells and len(cells) > 1 and all(at == row and to in place for at, to in cells):
                ways.add(tuple((place[to], sign) for (_, to), sign in cells.items()))
        if len(ways) == 1 and _derives(parts := ways.pop()):
            found[place[column.index]] = parts
    return found


def _derives(parts: Parts) -> bool:
    """Whether a column can be made so: others added, or one taken from another."""
    signs = sorted(sign for _, sign in parts)
    return signs == [-1, 1] or -1 not in signs


def _columns(figures: Sequence[ColumnRead], derived: Mapping[int, Parts]) -> tuple[Column, ...]:
    taken: set[str] = set()
    ids = [new_id(column.heading or f"column {column.index + 1}", taken) for column in figures]
    made = []
    for n, column in enumerate(figures):
        label = column.heading or f"Column {column.index + 1}"
        parts = sorted(derived.get(n, ()), key=lambda part: -part[1])
        terms = {"difference" if any(s < 0 for _, s in parts) else "sum": tuple(ids[p] for p, _ in parts)}
        made.append(Column.model_validate({"id": ids[n], "label": label} | (terms if parts else {})))
    return tuple(made)
