"""The lines that the rows of a table are read as, and the cells in them that need a look."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from humble_sum.core.ids import new_id
from humble_sum.core.intake.columns import ColumnRead, Layout
from humble_sum.core.intake.decisions import OwnKind, RowDecided, row_keys
from humble_sum.core.intake.line_measures import LineSeen, line_measures
from humble_sum.core.intake.line_units import LineScale, in_ones, scale_of_line
from humble_sum.core.intake.named_measures import KIND_OF, MEASURE_OF
from humble_sum.core.intake.row_reading import Doubt, RowRead, read_row
from humble_sum.core.intake.scale_words import SCALE_NAMES
from humble_sum.core.intake.section_units import RowSeen, over_all, sections
from humble_sum.core.intake.shown_heading import heading_text
from humble_sum.core.intake.signals import Verdict
from humble_sum.core.intake.stated_units import last_figures
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.units import LETTERS_OF_SCALES, unit_of
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.once import once
from humble_sum.core.rules.rulebook import LineKind

How = Literal["", "formula", "found"]
UNTOLD = RowDecided()
MOST_LABEL = 2_000
CUT = f"longer than {MOST_LABEL} characters, and cut there"
NOTE = "below the last figure, so a note and no line"
AGAIN = "the heading again, so not a line"


@dataclass(frozen=True)
class DraftLine:
    """A line of the draft. Parts are line numbers of the draft, with signs.

    `kind` is set where the line stands apart from every total; `forms` are those its cells are
    written in; `counted` says that a total counts it, `hidden` that the source hides its row; `currency`
    is the one that its cells state, and `under` the kind that its heading says. `key` is the name it is
    decided by, and `told` the kind of line that it was decided to be. `unit` names what its figures are in,
    or those under a heading, None where its table and column alone say it. `verdict` is how its measure was
    settled.
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
    verdict: Verdict | None = None

    @property
    def nameless(self) -> bool:
        """Whether its source calls it nothing, as it often does a total."""
        return self.key.startswith("row ") and self.label == f"Row{self.key[3:]}"

    @once
    def by_itself(self) -> LineKind | None:
        """The kind of a line that stands apart: as it was decided, or as its measure was settled."""
        if self.told is not None:
            return None if self.told == "line" else self.told
        if self.heading:
            return None
        if says(self.label, "memo") and self.forms != {"percent"}:
            return "memo"
        measured = KIND_OF[self.verdict.reading] if self.verdict is not None else None
        return measured or self.under


@dataclass(frozen=True)
class _Row:
    """A row with its key and label, what was decided of it, and its figures as they are written."""

    row: int
    key: str
    said: str
    told: RowDecided
    read: RowRead
    figured: bool  # whether any cell says something where figures stand


def read_lines(
    table: Table, layout: Layout, decided: Mapping[str, RowDecided]
) -> tuple[list[DraftLine], list[Doubt], Counter[str]]:
    """The lines of a table, the cells in them that need a look, and how many cells state each currency."""
    seen = list(_rows(table, layout, decided))
    rows, doubts, units = _lines_among(table, layout, seen)
    under, named = _by_headings(table, layout, rows)
    verdicts = _measures(table, layout, rows, under)
    lines: list[DraftLine] = []
    currencies: Counter[str] = Counter()
    taken: set[str] = set()
    doubts = [*named, *doubts]
    for row in rows:
        doubts += row.read.doubts
        above = under.get(row.row) or units.get(row.row)
        line, stated, more = _line(table, layout, row, verdicts.get(row.row), above, taken)
        currencies.update(stated)
        doubts += more
        if line is not None:
            lines.append(line)
    steps = {wide: min(n, 8) for n, wide in enumerate(sorted({line.indent or 0 for line in lines}))}
    stepped = [
        line if line.indent == steps[line.indent or 0] else replace(line, indent=steps[line.indent or 0])
        for line in lines
    ]
    return stepped, doubts, currencies


def _rows(table: Table, layout: Layout, decided: Mapping[str, RowDecided]) -> Iterator[_Row]:
    """Every row from the first line on that was not left out."""
    label, code, figures = layout.label, layout.code, layout.figures
    keys = row_keys([_said(row, label, code) for row in table.rows[layout.first_row :]])
    for row in range(layout.first_row, len(table.rows)):
        cells = table.rows[row]
        said = _said(cells, label, code)
        key = keys[row - layout.first_row] if said else f"row {table.sheet_row(row) + 1}"
        told = decided.get(key, UNTOLD)
        if told.role != "left_out":
            figured = any(cells[column.index].says or cells[column.index].formula for column in figures)
            yield _Row(row, key, said, told, read_row(table, row, layout), figured)


def _lines_among(
    table: Table, layout: Layout, rows: Sequence[_Row]
) -> tuple[list[_Row], list[Doubt], dict[int, LineScale]]:
    """The rows that are lines or headings; what was left out, named; and the unit that a row of units states
    for the lines below it."""
    label, figures = layout.label, layout.figures
    heads = [texts for row in table.rows[: layout.first_row] if (texts := _texts(row, label, figures))]
    first_texts = {texts[0] for texts in heads}
    last = last_figures(table, [column.index for column in figures])
    kept, doubts = [], []
    units: dict[int, LineScale] = {}
    unit: LineScale | None = None
    beside = label.index if label else 0
    for row in rows:
        cells = table.rows[row.row]
        if _first_text(cells, label) in first_texts and _texts(cells, label, figures) in heads:
            doubts.append(Doubt(table.place(row.row, figures[0].index), row.said, AGAIN))
        elif row.told.role != "line" and (stated := _row_of_units(cells, row, figures)) is not None:
            unit = stated
            why = "a row of units, in force for the lines below it"
            said = next(cells[c.index].text.strip() for c in figures if cells[c.index].says)
            doubts.append(Doubt(table.place(row.row, figures[0].index), said, why))
        elif not row.said and not row.figured and row.told.role != "line":
            continue
        elif not row.figured and row.row > last and row.told.role is None:
            doubts.append(Doubt(table.place(row.row, beside), row.said[:MOST_LABEL], NOTE))
        else:
            kept.append(row)
            if unit is not None:
                units[row.row] = unit
    return kept, doubts, units


def _row_of_units(cells: Sequence[SheetCell], row: _Row, figures: Sequence[ColumnRead]) -> LineScale | None:
    """The unit that a row without a label states over each of its columns, and nothing else."""
    if row.said or not row.figured:
        return None
    texts = [text for column in figures if (text := cells[column.index].text.strip())]
    if texts and all(says(text, "percent_alone") for text in texts):
        return LineScale(percent=True)
    units = [unit_of(text) for text in texts]
    stated = {(unit.currency, unit.power): unit for unit in units if unit is not None}
    whole = None not in units and len(stated) == 1
    return LineScale(next(iter(stated.values()))) if whole else None


def _measures(
    table: Table, layout: Layout, rows: Sequence[_Row], under: Mapping[int, LineScale]
) -> dict[int, Verdict]:
    """How the measure of each row with figures was settled."""
    figured = [row for row in rows if row.figured and row.told.role != "heading"]
    units = [column.unit for column in layout.figures if column.unit]
    excepted = tuple(word for unit in units[:1] for word in unit.excepted)
    seen = []
    for row in figured:
        above = under.get(row.row)
        kind = MEASURE_OF.get(above.kind) if above is not None and above.kind is not None else None
        own = _of_money(row, layout)
        place = table.sheet_place(row.row, layout.label.index) if layout.label else ""
        seen.append(LineSeen(row.said, own, row.read.forms, row.told.kind, kind, place, excepted))
    return {row.row: verdict for row, verdict in zip(figured, line_measures(seen), strict=True)}


def _of_money(row: _Row, layout: Layout) -> list[Decimal | None]:
    """A row's figures in columns that are no percentages or prices of one, if there are any others."""
    apart = [column.percent or column.per_unit for column in layout.figures]
    kept = [a for a, left_out in zip(row.read.amounts, apart, strict=True) if not left_out]
    return kept or [a for a, c in zip(row.read.amounts, layout.figures, strict=True) if not c.percent]


def _line(
    table: Table,
    layout: Layout,
    row: _Row,
    verdict: Verdict | None,
    under: LineScale | None,
    taken: set[str],
) -> tuple[DraftLine | None, Sequence[str], list[Doubt]]:
    """A row as a line, the currencies that it states, and what needs a look."""
    label, code, figures, cells = layout.label, layout.code, layout.figures, table.rows[row.row]
    doubts: list[Doubt] = []
    seen = LineSeen(row.said, _of_money(row, layout), row.read.forms, row.told.kind)
    scale = scale_of_line(table, layout, row.row, seen, row.told, verdict, under)
    forms = frozenset({"percent"}) if scale.percent else row.read.forms
    amounts = [
        amount if amount is None or itself else in_ones(amount, column, scale, cells[column.index])
        for amount, itself, column in zip(row.read.amounts, row.read.itself, figures, strict=True)
    ]
    if row.told.role == "heading":
        amounts = [None] * len(figures)
    doubts += _of_unit(table, layout, row.row, scale)
    said = row.said
    if len(said) > MOST_LABEL:
        doubts.append(Doubt(table.place(row.row, label.index if label else 0), said[:40] + "…", CUT))
        said = said[: MOST_LABEL - 1] + "…"
    written = cells[code.index].text.strip() if code else ""
    id = new_id(written or said or row.key, taken)
    if code and written and id != new_id(written, set()):
        why = f"this code is there before, so the line is kept as {id}"
        doubts.append(Doubt(table.place(row.row, code.index), written, why))
    stated = row.read.currencies or _beside(scale, amounts)
    heading = (row.told.role == "heading" or not row.figured) and row.told.role != "line"
    line = DraftLine(
        row.row,
        id,
        (row.told.label or "").strip() or said or written or f"Row{row.key[3:]}",
        tuple(amounts),
        heading=heading,
        percent=frozenset(place for place, column in enumerate(figures) if column.percent),
        indent=_indent(cells[label.index]) if label else 0,
        forms=forms,
        key=row.key,
        told=row.told.kind,
        hidden=row.row in table.hidden,
        currency=_one(set(stated)),
        under=scale.kind,
        unit=None if scale == LineScale() else scale.name or "ones",
        verdict=verdict,
    )
    return line, stated, doubts


def _of_unit(table: Table, layout: Layout, row: int, scale: LineScale) -> Iterator[Doubt]:
    """What is to be told of the unit or the currency that stands beside a line."""
    if scale.unit is not None and scale.unit.said.strip(" ()[].") in LETTERS_OF_SCALES:
        label = layout.label.index if layout.label else 0
        column = layout.unit_column if layout.unit_column is not None else label
        why = f"read as {SCALE_NAMES[scale.unit.power or 0]}"
        yield Doubt(table.place(row, column), scale.unit.said, why)
    if layout.currency_column is not None:
        said = table.rows[row][layout.currency_column].text.strip()
        unit = unit_of(said)
        if said and (unit is None or unit.currency is None):
            why = "no currency we know, so the line is taken as the others are"
            yield Doubt(table.place(row, layout.currency_column), said, why)


def _by_headings(
    table: Table, layout: Layout, rows: Sequence[_Row]
) -> tuple[dict[int, LineScale], list[Doubt]]:
    """How the rows under headings that state a unit are to be scaled, and each such heading, named."""
    label, figures, first = layout.label, layout.figures, layout.first_row
    if label is None or not figures:
        return {}, []
    read = {row.row: row.read.amounts for row in rows}
    seen = _with_blanks(table, layout, rows)
    bounded = any(column.unit is not None and column.unit.power for column in figures)
    under: dict[int, LineScale] = {}
    doubts = []
    figured_rows = [row.row for row in seen if row.figured]
    if not bounded and (scale := over_all(label.heading, figured_rows, read.__getitem__)) is not None:
        under = dict.fromkeys(figured_rows, scale)
        place = table.place(max(first - 1, 0), label.index)
        doubts.append(Doubt(place, label.heading, f"its lines are read {scale.said}"))
    labels = {row.row: row.said for row in seen}
    for section in sections(seen, bounded, read.__getitem__):
        own = () if section.heading.figured else (section.heading.row,)
        under |= dict.fromkeys((*own, *section.rows), section.scale)
        if section.heading.told.unit is None:
            sheet_place = (section.heading.row, label.index)
            why = f"what stands under it, to {labels[section.rows[-1]]}, is read {section.scale.said}"
            asks: Literal["", "unit"] = "" if section.sure or not section.scale.name else "unit"
            place = table.place(*sheet_place)
            doubts.append(Doubt(place, section.heading.said, why, asks, sheet_place, section.scale.name))
    return under, doubts


def _with_blanks(table: Table, layout: Layout, rows: Sequence[_Row]) -> list[RowSeen]:
    """The rows that are lines, and the blank ones between them, where sections may end."""
    assert layout.label is not None
    known = {row.row: row for row in rows}
    found = []
    for place in range(layout.first_row, len(table.rows)):
        row = known.get(place)
        if row is None:
            if not any(cell.says for cell in table.rows[place]):
                found.append(RowSeen(place, "", False, 0, UNTOLD))
            continue
        shown = row.figured and row.told.role != "heading"
        indent = _indent(table.rows[place][layout.label.index])
        found.append(RowSeen(place, row.said, shown, indent, row.told))
    return found


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
