"""The lines that the rows of a table are read as, and the cells in them that need a look."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from humble_sum.core.ids import new_id
from humble_sum.core.intake.adding_up import added_rows
from humble_sum.core.intake.amount_reading import POINT, Reading
from humble_sum.core.intake.cell_reading import read_cell, shows_other_sign
from humble_sum.core.intake.columns import ColumnRead, Layout
from humble_sum.core.intake.conventions import decided_by
from humble_sum.core.intake.decisions import OwnKind, RowDecided, row_keys
from humble_sum.core.intake.kinds import kind_apart, names_no_amount
from humble_sum.core.intake.line_units import LineScale, in_ones, scale_of_line
from humble_sum.core.intake.ratios import is_ratio
from humble_sum.core.intake.scale_words import SCALE_NAMES
from humble_sum.core.intake.section_units import RowSeen, over_all, sections
from humble_sum.core.intake.shown_heading import heading_text
from humble_sum.core.intake.stated_units import last_figures
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.units import LETTERS_OF_SCALES, unit_of
from humble_sum.core.once import once
from humble_sum.core.rules.rulebook import LineKind

How = Literal["", "formula", "found"]
UNTOLD = RowDecided()
MOST_LABEL = 2_000
CUT = f"longer than {MOST_LABEL} characters, and cut there"


@dataclass(frozen=True)
class Doubt:
    """A cell that needs a look: its place, what it says, and why. Where a reader may well have meant
    another thing, `asks` says what of, and `spot` is its row and column; `unit` is the one that was read,
    where that is asked."""

    place: str
    text: str
    why: str
    asks: Literal["", "marks", "either", "text", "unit"] = ""
    sheet_place: tuple[int, int] = (-1, -1)
    unit: str = ""


@dataclass(frozen=True)
class DraftLine:
    """A line of the draft. Parts are line numbers of the draft, with signs.

    `kind` is set where the line stands apart from every total; `forms` are those its cells are
    written in; `counted` says that a total counts it, `hidden` that the source hides its row; `currency`
    is the one that its cells state, and `under` the kind that its heading says. `key` is the name it is
    decided by, and `told` the kind of line that it was decided to be. `unit` names what its figures are in,
    or those under a heading, None where its table and column alone say it.
    """

    row: int
    id: str
    label: str
    amounts: tuple[Decimal | None, ...]
    parts: tuple[tuple[int, int], ...] = ()
    how: How = ""
    evidence: str = ""
    heading: bool = False
    percent: frozenset[int] = frozenset()
    kind: LineKind | None = None
    indent: int | None = None
    forms: frozenset[str] = frozenset()
    key: str = ""
    told: OwnKind | None = None
    counted: bool = False
    hidden: bool = False
    currency: str | None = None
    under: LineKind | None = None
    unit: str | None = None

    @once
    def by_itself(self) -> LineKind | None:
        """The kind of a line that stands apart: as it was decided, or as it is called and written."""
        if self.told is not None:
            return None if self.told == "line" else self.told
        own = [amount for place, amount in enumerate(self.amounts) if place not in self.percent]
        return None if self.heading else kind_apart(self.label, own, self.forms) or self.under


def read_lines(
    table: Table, layout: Layout, decided: Mapping[str, RowDecided]
) -> tuple[list[DraftLine], list[Doubt], Counter[str]]:
    """The lines of a table, the cells in them that need a look, and how many cells state each currency."""
    label, code, figures = layout.label, layout.code, layout.figures
    lines: list[DraftLine] = []
    doubts: list[Doubt] = []
    currencies: Counter[str] = Counter()
    taken: set[str] = set()
    percent = frozenset(place for place, column in enumerate(figures) if column.percent)
    keys = row_keys([_said(row, label, code) for row in table.rows[layout.first_row :]])
    heads = _texts(table.rows[layout.first_row - 1], label, figures) if layout.first_row and figures else []
    last = last_figures(table, [column.index for column in figures])
    under, named = _by_headings(table, layout, keys, decided)
    doubts += named
    added = _added(table, layout)
    for row in range(layout.first_row, len(table.rows)):
        cells = table.rows[row]
        said = _said(cells, label, code)
        key = keys[row - layout.first_row] if said else f"row {row + 1}"
        told = decided.get(key, UNTOLD)
        if told.role == "left_out":
            continue
        if row in added and told.kind is None:
            told = told.model_copy(update={"kind": "line"})
        if heads and heads[0] == _first_text(cells, label) and heads == _texts(cells, label, figures):
            doubts.append(Doubt(table.place(row, figures[0].index), said, "the heading again, so not a line"))
            continue
        read = _read_row(table, row, figures, row - layout.first_row)
        doubts += read.doubts
        forms = read.forms
        scale = scale_of_line(table, layout, row, said, read.amounts, forms, told, under.get(row))
        if scale.percent:
            forms = frozenset({"percent"})
        amounts = [
            amount if amount is None or itself else in_ones(amount, column, scale, cells[column.index])
            for amount, itself, column in zip(read.amounts, read.itself, figures, strict=True)
        ]
        stated = read.currencies or _beside(scale, amounts)
        if scale.unit is not None and scale.unit.said.strip(" ()[].") in LETTERS_OF_SCALES:
            column = layout.unit_column if layout.unit_column is not None else label.index if label else 0
            why = f"read as {SCALE_NAMES[scale.unit.power or 0]}"
            doubts.append(Doubt(table.place(row, column), scale.unit.said, why))
        if (unknown := _unknown_currency(cells, layout)) is not None:
            place = table.place(row, layout.currency_column or 0)
            doubts.append(
                Doubt(place, unknown, "no currency we know, so the line is taken as the others are")
            )
        currencies.update(stated)
        empty = not any(cells[column.index].says or cells[column.index].formula for column in figures)
        if not said and empty and told.role != "line":
            continue
        if empty and row > last and told.role is None:
            doubts.append(Doubt(table.place(row, label.index if label else 0), said[:MOST_LABEL], NOTE))
            continue
        if told.role == "heading":
            amounts, empty = [None] * len(figures), True
        if len(said) > MOST_LABEL:
            doubts.append(Doubt(table.place(row, label.index if label else 0), said[:40] + "…", CUT))
            said = said[: MOST_LABEL - 1] + "…"
        written = cells[code.index].text.strip() if code else ""
        id = new_id(written or said or f"row {row + 1}", taken)
        if code and written and id != new_id(written, set()):
            why = f"this code is there before, so the line is kept as {id}"
            doubts.append(Doubt(table.place(row, code.index), written, why))
        lines.append(
            DraftLine(
                row,
                id,
                (told.label or "").strip() or said or f"Row {row + 1}",
                tuple(amounts),
                heading=empty and told.role != "line",
                percent=percent,
                indent=_indent(cells[label.index]) if label else 0,
                forms=forms,
                key=key,
                told=told.kind,
                hidden=row in table.hidden,
                currency=_one(set(stated)),
                under=scale.kind,
                unit=None if scale == LineScale() else scale.name or "ones",
            )
        )
    steps = {wide: min(n, 8) for n, wide in enumerate(sorted({line.indent or 0 for line in lines}))}
    stepped = [
        line if line.indent == steps[line.indent or 0] else replace(line, indent=steps[line.indent or 0])
        for line in lines
    ]
    return stepped, doubts, currencies


def _added(table: Table, layout: Layout) -> set[int]:
    """The rows that come to a total as amounts do, though they are called rates, ratios or measures."""
    label, figures, first = layout.label, layout.figures, layout.first_row
    if label is None or not figures:
        return set()
    names = [heading_text(row[label.index]) for row in table.rows[first:]]

    def amounts(place: int) -> list[Decimal | None]:
        return _read_row(table, first + place, figures, place).amounts

    return {first + place for place in added_rows(names, amounts, names_no_amount)}


def _by_headings(
    table: Table, layout: Layout, keys: Sequence[str], decided: Mapping[str, RowDecided]
) -> tuple[dict[int, LineScale], list[Doubt]]:
    """How the rows under headings that state a unit are to be scaled, and each such heading, named."""
    label, figures, first = layout.label, layout.figures, layout.first_row
    if label is None or not figures:
        return {}, []

    def amounts(row: int) -> list[Decimal | None]:
        return _read_row(table, row, figures, row - first).amounts

    seen = []
    for row, key in enumerate(keys, first):
        cells, told = table.rows[row], decided.get(key, UNTOLD)
        if told.role != "left_out":
            figured = any(cells[column.index].says or cells[column.index].formula for column in figures)
            shown = figured and told.role != "heading"
            said = _said(cells, label, layout.code)
            seen.append(RowSeen(row, said, shown, _indent(cells[label.index]), told))
    bounded = any(column.unit is not None and column.unit.power for column in figures)
    under: dict[int, LineScale] = {}
    doubts = []
    figured_rows = [row.row for row in seen if row.figured]
    if not bounded and (scale := over_all(label.heading, figured_rows, amounts)) is not None:
        under = dict.fromkeys(figured_rows, scale)
        place = table.place(max(first - 1, 0), label.index)
        doubts.append(Doubt(place, label.heading, f"its lines are read {scale.said}"))
    labels = {row.row: row.said for row in seen}
    for section in sections(seen, bounded, amounts):
        own = () if section.heading.figured else (section.heading.row,)
        under |= dict.fromkeys((*own, *section.rows), section.scale)
        if section.heading.told.unit is None:
            sheet_place = (section.heading.row, label.index)
            why = f"what stands under it, to {labels[section.rows[-1]]}, is read {section.scale.said}"
            asks: Literal["", "unit"] = "" if section.sure or not section.scale.name else "unit"
            place = table.place(*sheet_place)
            doubts.append(Doubt(place, section.heading.said, why, asks, sheet_place, section.scale.name))
    return under, doubts


@dataclass(frozen=True)
class _RowRead:
    """A row's figures as they are written, which of them say themselves what they are in, the forms they are
    written in, the currencies they state, and what needs a look."""

    amounts: list[Decimal | None]
    itself: list[bool]
    forms: frozenset[str]
    currencies: tuple[str, ...] = ()
    doubts: tuple[Doubt, ...] = ()


NOTE = "below the last figure, so a note and no line"
AMOUNTS, ZEROS = frozenset({"amount"}), frozenset[str]()


def _read_row(table: Table, row: int, figures: Sequence[ColumnRead], place: int) -> _RowRead:
    cells = [table.rows[row][column.index] for column in figures]
    # Most rows of a workbook are numbers and nothing else, and need no reading.
    if all(
        type(cell.value) is Decimal
        and not cell.snapped
        and "%" not in cell.code
        and not shows_other_sign(cell)
        and "/" not in (cell.formula or "")
        for cell in cells
    ):
        numbers = [cell.value for cell in cells if isinstance(cell.value, Decimal)]
        told = any(number for number, column in zip(numbers, figures, strict=True) if not column.percent)
        return _RowRead([*numbers], [False] * len(numbers), AMOUNTS if told else ZEROS)
    readings = [
        read_cell(cell, column.inferred.convention if column.inferred else POINT)
        for cell, column in zip(cells, figures, strict=True)
    ]
    readings, alone = _by_own_marks(table, row, figures, readings)
    forms, doubts = set(), list(alone)
    for cell, column, reading in zip(cells, figures, readings, strict=True):
        if reading.kind == "amount" and not column.percent:
            forms.add("percent" if reading.form == "percent" or "%" in cell.code else reading.form)
        if doubt := _doubt(table, (row, column.index), reading, column, place):
            doubts.append(doubt)
    return _RowRead(
        [reading.amount if reading.kind in ("amount", "zero") else None for reading in readings],
        [
            reading.form != "amount"
            or "%" in cell.code
            or bool(reading.power and not column.percent)
            or (cell.formula is not None and is_ratio(cell.formula))
            for cell, column, reading in zip(cells, figures, readings, strict=True)
        ],
        frozenset(forms),
        tuple(reading.currency for reading in readings if reading.currency),
        tuple(doubts),
    )


def _unknown_currency(cells: Sequence[SheetCell], layout: Layout) -> str | None:
    """What the column of currencies says of a line, where that is none."""
    if layout.currency_column is None:
        return None
    said = cells[layout.currency_column].text.strip()
    unit = unit_of(said)
    return said if said and (unit is None or unit.currency is None) else None


def _beside(scale: LineScale, amounts: Sequence[Decimal | None]) -> tuple[str, ...]:
    """The currency that a column beside states for a line, once for each of its figures."""
    currency = scale.unit.currency if scale.unit and not (scale.alone or scale.percent) else None
    return (currency,) * sum(amount is not None for amount in amounts) if currency else ()


def _said(cells: Sequence[SheetCell], label: ColumnRead | None, code: ColumnRead | None) -> str:
    """What a row is called, on one line; words that stand among the codes, where it has no label."""
    said = heading_text(cells[label.index]) if label else ""
    among = " ".join(cells[code.index].text.split()) if code and not said else ""
    return among if any(letter.isalpha() for letter in among) else said


def _one(found: set[str]) -> str | None:
    return next(iter(found)) if len(found) == 1 else None


def _by_own_marks(
    table: Table, row: int, figures: Sequence[ColumnRead], readings: list[Reading]
) -> tuple[list[Reading], list[Doubt]]:
    """Cells that their column's convention makes no number, and whose own marks leave no doubt, read by
    these, and named: 250,25 € among dollars with a point."""
    made, doubts = list(readings), []
    for n, (column, reading) in enumerate(zip(figures, readings, strict=True)):
        cell = table.rows[row][column.index]
        own = decided_by(cell.text) if reading.kind == "text" else None
        if own is None:
            continue
        again = read_cell(cell, own)
        if again.kind == "amount":
            made[n] = again
            why = f"read with a {own}, unlike its column"
            sheet_place = (row, column.index)
            doubts.append(Doubt(table.place(*sheet_place), cell.text, why, "marks", sheet_place))
    return made, doubts


def _indent(cell: SheetCell) -> int:
    """How far a label stands in: by its style, or by spaces before it."""
    text = cell.text
    return cell.indent * 2 + len(text) - len(text.lstrip(" \u00a0"))


def _texts(cells: Sequence[SheetCell], label: ColumnRead | None, figures: Sequence[ColumnRead]) -> list[str]:
    """What a row says under the label and over the figures; nothing where no figure column says anything."""
    said = [cells[column.index].text.strip() for column in figures]
    return [_first_text(cells, label), *said] if any(said) else []


def _first_text(cells: Sequence[SheetCell], label: ColumnRead | None) -> str:
    return cells[label.index].text.strip() if label else ""


def _doubt(
    table: Table, sheet_place: tuple[int, int], reading: Reading, column: ColumnRead, place: int
) -> Doubt | None:
    """What makes a cell need a look, if anything does."""
    cell = table.rows[sheet_place[0]][sheet_place[1]]
    ambiguous = column.inferred and place in column.inferred.ambiguous
    if not (cell.snapped or ambiguous or reading.why or reading.kind == "text"):
        return None
    where = table.place(*sheet_place)
    if cell.snapped:
        return Doubt(where, cell.text, f"a binary number with a long tail, read as {cell.text}")
    if column.inferred and ambiguous:
        why = f"could be read two ways, and was read with a {column.inferred.convention}"
        return Doubt(where, cell.text, "; ".join((why, *reading.why)), "either", sheet_place)
    if reading.kind == "text":
        why = "; ".join(reading.why) or "text where a figure is expected"
        return Doubt(where, cell.text, why, "text", sheet_place)
    why = "; ".join(reading.why) if reading.why and cell.says else ""
    return Doubt(where, cell.text, why) if why else None
