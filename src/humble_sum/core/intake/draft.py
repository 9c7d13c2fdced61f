"""A draft: the statement a table could be, with the evidence for each sum and what needs a look."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from humble_sum.core.amounts import scaled
from humble_sum.core.ids import new_id
from humble_sum.core.intake.amounts import POINT, Convention, Reading
from humble_sum.core.intake.columns import ColumnRead, Layout, lay_out, read_cell, with_sides
from humble_sum.core.intake.conventions import decided_by
from humble_sum.core.intake.formula_sums import formula_columns, formula_shares, formula_sums
from humble_sum.core.intake.found_shares import found_shares
from humble_sum.core.intake.found_sums import FoundSum, Parts, found_columns, found_sums
from humble_sum.core.intake.kinds import kind_apart, usual_sign_of
from humble_sum.core.intake.number_codes import Look, common_look
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.units import Unit, unit_of, unit_within
from humble_sum.core.rules.rulebook import LineKind
from humble_sum.core.statements.pack import RATIOS, Column, Line, Statement

How = Literal["", "formula", "found"]
TOTAL = re.compile(r"^(sub-?\s?)?total\b|^net\b|^gross\b|\btotal$", re.IGNORECASE)
RESULT = re.compile(
    r"\b(total|net|gross|profit|loss|surplus|deficit|result|income|earnings|margin|balance|equity|change|"
    r"ebitd?a?|cash|left|remaining)\b",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Doubt:
    """A cell that needs a look: its place, what it says, and why."""

    place: str
    text: str
    why: str


@dataclass(frozen=True)
class DraftLine:
    """A line of the draft. Parts are line numbers of the draft, with signs.

    `kind` is set where the line stands apart from every total; `forms` are those its cells are
    written in; `counted` says that a total counts it, `hidden` that the source hides its row; `currency`
    is the one that its cells state.
    """

    row: int
    id: str
    label: str
    amounts: tuple[Decimal | None, ...]
    parts: tuple[tuple[int, int], ...] = ()
    how: How = ""
    evidence: str = ""
    heading: bool = False
    kind: LineKind | None = None
    indent: int | None = None
    forms: frozenset[str] = frozenset()
    counted: bool = False
    hidden: bool = False
    currency: str | None = None


MOST_LABEL = 2_000
CUT = f"longer than {MOST_LABEL} characters, and cut there"


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
    power: int | None = None,
) -> Draft:
    """Read a table into a draft statement. Nothing is kept, and nothing in doubt is settled silently.

    `conventions` overrules those of some columns; `decided` says of a line, by its number in the
    draft, that it is a total or is not. Amounts are in ones: by the unit that the source states, or in
    place of it by a `power` of ten.
    """
    decided = decided or {}
    table = with_sides(table)
    layout = _with_unit(lay_out(table, conventions), power)
    lines, doubts, currencies = _lines(table, layout)
    rows = {line.row: n for n, line in enumerate(lines)}
    shares = formula_shares(table, layout, rows) or _found_shares(table, layout, lines)
    percent = {n for n, column in enumerate(layout.figures) if column.percent}
    apart = set(shares) | percent
    lines, offers, circular = _with_sums(table, layout, lines, rows, decided, apart)
    place = layout.figures[0].index if layout.figures else 0
    doubts += [
        Doubt(
            table.place(lines[n].row, place),
            lines[n].label,
            "its formula goes round in a circle, so not taken",
        )
        for n in circular
    ]
    lines = [
        line if line.parts or line.counted else replace(line, kind=_kind(line)) for line in _counted(lines)
    ]
    doubts += _not_worked_out(table, layout, lines, shares)
    adding = [
        [amount for n, amount in enumerate(line.amounts) if n not in apart]
        for line in lines
        if not line.heading and line.kind not in RATIOS
    ]
    given = [n for n in range(len(layout.figures)) if n not in apart]
    found = {
        given[total]: tuple((given[part], sign) for part, sign in parts)
        for total, parts in found_columns(adding).items()
    }
    columns = _columns(layout.figures, formula_columns(table, layout) or found, shares, lines)
    look = common_look(_codes(table, layout, lines, apart))
    currency = _main_currency(currencies)
    doubts += _mixed(table, layout, lines, currency, currencies)
    currency = currency or look.clauses.get("currency") or _stated_currency(table, layout)
    return Draft(table, layout, columns, tuple(lines), offers, tuple(doubts), currency, look)


def _not_worked_out(
    table: Table, layout: Layout, lines: Sequence[DraftLine], shares: Collection[int]
) -> Iterator[Doubt]:
    """Formulas without a saved value in lines that add nothing: their figures are missing, and named."""
    made = set(shares) | set(formula_columns(table, layout))
    for line in lines:
        bare = all(amount is None for amount in line.amounts)
        for n, column in enumerate(layout.figures):
            cell = table.rows[line.row][column.index]
            if (
                cell.formula is not None
                and cell.value in (None, "")
                and not line.parts
                and (n not in made or bare)
            ):
                why = f"{cell.formula} has no saved value, so the figure is missing"
                yield Doubt(table.place(line.row, column.index), line.label, why)


def _with_unit(layout: Layout, power: int | None) -> Layout:
    """The layout with the unit of every column settled: its own, then the table's; or a power that was
    chosen in place of them all."""
    columns = []
    for column in layout.columns:
        unit = column.unit.over(layout.unit) if column.unit else layout.unit
        if power is not None:
            unit = Unit(unit.currency if unit else None, power, "")
        columns.append(replace(column, unit=unit) if column.role == "figures" else column)
    return replace(layout, columns=tuple(columns))


def _main_currency(currencies: Counter[str]) -> str | None:
    """The currency that most cells which state one are in."""
    first = currencies.most_common(1)
    return first[0][0] if first and first[0][1] * 2 > currencies.total() else None


def _mixed(
    table: Table, layout: Layout, lines: Sequence[DraftLine], main: str | None, all_of: Counter[str]
) -> Iterator[Doubt]:
    """Lines in another currency than most, which are kept in their own."""
    if len(all_of) < 2:
        return
    place = layout.figures[0].index
    for line in lines:
        if line.currency and line.currency != main:
            why = f"in another currency, {line.currency}, than {main or 'others'}; kept in its own"
            yield Doubt(table.place(line.row, place), line.label, why)


def _stated_currency(table: Table, layout: Layout) -> str | None:
    """The one currency that the units of columns and lines state."""
    stated = {column.unit.currency for column in layout.figures if column.unit and column.unit.currency}
    if layout.unit_column is not None:
        beside = (unit_of(row[layout.unit_column].text) for row in table.rows[layout.first_row :])
        stated |= {unit.currency for unit in beside if unit and unit.currency}
    return stated.pop() if len(stated) == 1 else None


def stated_units(made: Draft) -> list[Unit]:
    """The units by which a draft's amounts were read, each once."""
    units = {(u.currency, u.power): u for column in made.layout.figures if (u := column.unit)}
    return list(units.values())


def _codes(
    table: Table, layout: Layout, lines: Sequence[DraftLine], shares: Collection[int]
) -> Iterator[str]:
    """The number codes of the amounts; those of shares and of lines that stand apart say nothing of them."""
    places = [column.index for n, column in enumerate(layout.figures) if n not in shares]
    for line in lines:
        if line.kind is None or line.kind == "memo":
            yield from (table.rows[line.row][place].code for place in places)


def _with_sums(
    table: Table,
    layout: Layout,
    lines: list[DraftLine],
    rows: Mapping[int, int],
    decided: Mapping[int, bool],
    apart: Collection[int],
) -> tuple[list[DraftLine], tuple[FoundSum, ...], list[int]]:
    """The lines with what they add, by formula or found; the sums that were not taken; and the
    lines whose formulas go round in a circle, which add nothing."""
    headings = {n for n, line in enumerate(lines) if line.heading}
    by_formula = formula_sums(table, layout, rows, headings)
    made = list(lines)
    if by_formula:
        circular = _in_circles(by_formula)
        by_formula = {n: parts for n, parts in by_formula.items() if n not in circular}
        for n, parts in by_formula.items():
            if decided.get(n, True):
                made[n] = replace(lines[n], parts=parts, how="formula", evidence="the workbook's own formula")
        return made, (), circular
    figured = [n for n, line in enumerate(lines) if not line.heading and _kind(line) not in RATIOS]
    sums = found_sums(
        [[amount for at, amount in enumerate(lines[n].amounts) if at not in apart] for n in figured],
        {place: decided[n] for place, n in enumerate(figured) if n in decided},
    )
    below = [found for found in sums if found.sure]
    headed = _headed(lines, figured, apart, decided)
    if len(headed) > max(1, len(below)):
        for total, parts in headed.items():
            evidence = f"{len(parts)} lines below it add to it exactly"
            made[total] = replace(lines[total], parts=parts, how="found", evidence=evidence)
        return made, (), []
    offers = []
    for found in sums:
        total, parts = figured[found.total], tuple((figured[part], sign) for part, sign in found.parts)
        total, parts = _above(lines, total, parts)
        named = _is_named_total(lines, total, parts)
        if found.sure or (named and found.columns and decided.get(total, True)):
            evidence = found.evidence if found.sure else f"{found.evidence}, and its name says so"
            made[total] = replace(lines[total], parts=parts, how="found", evidence=evidence)
        else:
            offers.append(FoundSum(total, parts, found.columns, found.sure))
    return made, tuple(offers), []


def _headed(
    lines: Sequence[DraftLine], figured: Sequence[int], apart: Collection[int], decided: Mapping[int, bool]
) -> dict[int, Parts]:
    """Sums of a table whose totals stand above their parts: those found from its end upwards, lines that only
    say what is in another left out."""
    upwards = [n for n in reversed(figured) if _kind(lines[n]) != "memo"]
    found = found_sums(
        [[amount for at, amount in enumerate(lines[n].amounts) if at not in apart] for n in upwards],
        {place: decided[n] for place, n in enumerate(upwards) if n in decided},
    )
    sums = {}
    for each in found:
        if each.sure and all(sign > 0 for _, sign in each.parts):
            sums[upwards[each.total]] = tuple(sorted((upwards[part], 1) for part, _ in each.parts))
    return sums


def _above(lines: Sequence[DraftLine], total: int, parts: Parts) -> tuple[int, Parts]:
    """A sum that reads as a line being what another leaves of the lines between is that other's sum, standing
    above its parts; unless the line is called a result."""
    (first, sign), *others = sorted(parts)
    if RESULT.search(lines[total].label) or sign < 0 or not others or any(each > 0 for _, each in others):
        return total, parts
    if [part for part, _ in others] != list(range(first + 1, total)):
        return total, parts
    return first, tuple((part, 1) for part in range(first + 1, total + 1))


def _is_named_total(lines: Sequence[DraftLine], total: int, parts: Parts) -> bool:
    """Whether a line is called a total and adds lines right above it."""
    last = max(part for part, _ in parts)
    return bool(TOTAL.search(lines[total].label)) and last == total - 1


def _in_circles(sums: Mapping[int, Parts]) -> list[int]:
    """The totals that are, at some depth, a part of themselves."""

    def reaches(start: int) -> bool:
        seen: set[int] = set()
        waiting = [part for part, _ in sums[start]]
        while waiting:
            line = waiting.pop()
            if line == start:
                return True
            if line in sums and line not in seen:
                seen.add(line)
                waiting += [part for part, _ in sums[line]]
        return False

    return [total for total in sums if reaches(total)]


def _counted(lines: Sequence[DraftLine]) -> list[DraftLine]:
    """The lines, with those marked that a total counts: whatever they are called, they add."""
    counted = {part for line in lines for part, _ in line.parts}
    return [replace(line, counted=n in counted) for n, line in enumerate(lines)]


def _kind(line: DraftLine) -> LineKind | None:
    return None if line.heading else kind_apart(line.label, line.amounts, line.forms)


def _found_shares(table: Table, layout: Layout, lines: Sequence[DraftLine]) -> dict[int, tuple[int, int]]:
    """Shares among columns that are written as percentages."""
    figured = [n for n, line in enumerate(lines) if not line.heading]
    percent = [
        place
        for place in range(len(layout.figures))
        if figured and all(_is_percent(table, layout, lines[n].row, place) for n in figured)
    ]
    found = found_shares([lines[n].amounts for n in figured], percent)
    return {column: (of, figured[whole]) for column, (of, whole) in found.items()}


def _is_percent(table: Table, layout: Layout, row: int, place: int) -> bool:
    cell = table.rows[row][layout.figures[place].index]
    return not cell.text.strip() or "%" in cell.code or "%" in cell.text


def statement_of(made: Draft, id: str, name: str) -> Statement:
    """The draft as a statement. Totals keep the amounts the source states for them, so that where
    these are not their parts' sum there is a source break, and not a quiet correction."""
    counted = {part for line in made.lines for part, _ in line.parts}
    indents = any(line.indent for line in made.lines)
    lines = []
    for number, line in enumerate(made.lines):
        kind: LineKind = "heading" if line.heading else line.kind or "line"
        if line.parts:
            kind = "subtotal" if number in counted else "total"
        amounts = {
            column.id: amount
            for column, amount in zip(made.columns, line.amounts, strict=True)
            if not line.heading
            and (not column.derived or (column.sum and kind in RATIOS))
            and not (line.parts and amount is None)
        }
        lines.append(
            Line.model_validate(
                {
                    "id": line.id,
                    "label": line.label,
                    "kind": kind,
                    "parts": tuple((made.lines[part].id, sign) for part, sign in line.parts),
                    "amounts": amounts,
                    "natural": "either" if line.heading else usual_sign_of(line.amounts),
                    "indent": line.indent if indents else None,
                    "currency": line.currency if line.currency != made.currency else None,
                }
            )
        )
    return Statement(id=id, name=name, title=name, columns=made.columns, lines=tuple(lines))


def _lines(table: Table, layout: Layout) -> tuple[list[DraftLine], list[Doubt], Counter[str]]:
    label, code, figures = layout.label, layout.code, layout.figures
    lines: list[DraftLine] = []
    doubts: list[Doubt] = []
    currencies: Counter[str] = Counter()
    taken: set[str] = set()
    heads = _texts(table.rows[layout.first_row - 1], label, figures) if layout.first_row and figures else []
    for row in range(layout.first_row, len(table.rows)):
        cells = table.rows[row]
        said = cells[label.index].text.strip() if label else ""
        readings = [
            read_cell(cells[column.index], column.inferred.convention if column.inferred else POINT)
            for column in figures
        ]
        readings, alone = _by_own_marks(table, row, figures, readings)
        doubts += alone
        forms = set()
        for column, reading in zip(figures, readings, strict=True):
            cell = cells[column.index]
            if reading.kind == "amount" and not column.percent:
                forms.add("percent" if reading.form == "percent" or "%" in cell.code else reading.form)
            if reading.currency:
                currencies[reading.currency] += 1
            why = _why(cell.snapped, reading, cell.text, column, row - layout.first_row)
            if why:
                doubts.append(Doubt(table.place(row, column.index), cell.text, why))
        raw = [reading.amount if reading.kind in ("amount", "zero") else None for reading in readings]
        scale = _scale_of_line(table, layout, row, said, raw, forms)
        if scale.percent:
            forms.add("percent")
        amounts = [
            _in_ones(amount, reading, cells[column.index], column, scale)
            for amount, reading, column in zip(raw, readings, figures, strict=True)
        ]
        empty = not any(cells[column.index].text.strip() or cells[column.index].formula for column in figures)
        if not said and empty:
            continue
        if heads and heads == _texts(cells, label, figures):
            doubts.append(Doubt(table.place(row, figures[0].index), said, "the heading again, so not a line"))
            continue
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
                said or f"Row {row + 1}",
                tuple(amounts),
                heading=empty,
                indent=_indent(cells[label.index]) if label else 0,
                forms=frozenset(forms),
                hidden=row in table.hidden,
                currency=_one({reading.currency for reading in readings if reading.currency}),
            )
        )
    steps = sorted({line.indent or 0 for line in lines})
    return [replace(line, indent=min(steps.index(line.indent or 0), 8)) for line in lines], doubts, currencies


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
            doubts.append(Doubt(table.place(row, column.index), cell.text, why))
    return made, doubts


def _indent(cell: SheetCell) -> int:
    """How far a label stands in: by its style, or by spaces before it."""
    text = cell.text
    return cell.indent * 2 + len(text) - len(text.lstrip(" \u00a0"))


def _texts(cells: Sequence[SheetCell], label: ColumnRead | None, figures: Sequence[ColumnRead]) -> list[str]:
    """What a row says under the label and over the figures; nothing where no figure column says anything."""
    said = [cells[column.index].text.strip() for column in figures]
    return [cells[label.index].text.strip() if label else "", *said] if any(said) else []


@dataclass(frozen=True)
class _LineScale:
    """How a line's figures are to be scaled: by a unit of its own, by that of table and column, or not."""

    unit: Unit | None = None
    alone: bool = False  # it has a unit that no scale of the table bears on
    percent: bool = False


def _scale_of_line(
    table: Table,
    layout: Layout,
    row: int,
    label: str,
    amounts: Sequence[Decimal | None],
    forms: Collection[str],
) -> _LineScale:
    if layout.unit_column is not None:
        text = table.rows[row][layout.unit_column].text.strip()
        unit = unit_of(text)
        return _LineScale(unit, alone=bool(text) and unit is None, percent=text in ("%", "per cent"))
    stated, _ = unit_within(label)
    if stated and stated.power and "(" in label:
        return _LineScale(stated)
    apart = kind_apart(label, amounts, forms)
    return _LineScale(alone=apart in RATIOS or apart == "count" or "multiple" in forms)


def _in_ones(
    amount: Decimal | None, reading: Reading, cell: SheetCell, column: ColumnRead, scale: _LineScale
) -> Decimal | None:
    """A figure of the source in ones: by the unit that is stated for it, where it states none itself."""
    if amount is None or reading.form != "amount" or "%" in cell.code:
        return amount
    if column.percent or scale.percent:
        return scaled(amount, -2)
    if scale.alone or reading.power:
        return amount
    unit = scale.unit or column.unit
    return scaled(amount, unit.power) if unit and unit.power else amount


def _why(snapped: bool, reading: Reading, text: str, column: ColumnRead, place: int) -> str:
    """Why a cell needs a look, or nothing."""
    if snapped:
        return f"a binary number with a long tail, read as {text}"
    if column.inferred and place in column.inferred.ambiguous:
        return f"could be read two ways; read with a {column.inferred.convention}"
    if reading.kind == "text":
        return "; ".join(reading.why) or "text where a figure is expected"
    return "; ".join(reading.why) if reading.kind in ("amount", "zero") else ""


def _columns(
    figures: Sequence[ColumnRead],
    derived: Mapping[int, Parts],
    shares: Mapping[int, tuple[int, int]],
    lines: Sequence[DraftLine],
) -> tuple[Column, ...]:
    taken: set[str] = set()
    ids = [new_id(column.heading or f"column {column.index + 1}", taken) for column in figures]
    made = []
    for n, column in enumerate(figures):
        data: dict[str, object] = {
            "id": ids[n],
            "label": column.heading[:MOST_LABEL] or f"Column {column.index + 1}",
        }
        if n in shares:
            of, whole = shares[n]
            data["share"] = (ids[of], lines[whole].id)
        elif n in derived:
            parts = sorted(derived[n], key=lambda part: -part[1])
            way = "difference" if any(sign < 0 for _, sign in parts) else "sum"
            data[way] = tuple(ids[part] for part, _ in parts)
        made.append(Column.model_validate(data))
    return tuple(made)
