"""The unit that a line's figures are in: its own, that of the heading it stands under, or the table's."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import scaled
from humble_sum.core.intake.code_clauses import divides_by
from humble_sum.core.intake.columns import ColumnRead, Layout
from humble_sum.core.intake.decisions import RowDecided
from humble_sum.core.intake.line_measures import LineSeen, in_points
from humble_sum.core.intake.named_measures import KIND_OF, is_for_one, is_measure
from humble_sum.core.intake.scale_words import POWERS_BY_NAME, SCALE_NAMES
from humble_sum.core.intake.signals import Verdict
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.units import Unit, counted_in, unit_of, unit_within
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.rules.rulebook import LineKind
from humble_sum.core.statements.pack import RATIOS

MOST_LOOKED_AT = 200  # rows, to tell what a column of units states


@dataclass(frozen=True)
class LineScale:
    """How a line's figures are to be scaled: by a unit of its own, by that of table and column, or not;
    `kind` is what a heading says its lines are."""

    unit: Unit | None = None
    alone: bool = False  # it has a unit that no scale of the table bears on
    percent: bool = False
    kind: LineKind | None = None

    @property
    def of_money(self) -> bool:
        return self.unit is not None and self.unit.currency is not None

    @property
    def name(self) -> str:
        """The name of its scale, if it has one."""
        return SCALE_NAMES.get(self.unit.power or 0, "ones") if self.unit else ""

    @property
    def said(self) -> str:
        """How figures are read by it, in words."""
        if self.percent or self.kind:
            return "as percentages" if self.percent else "as amounts per unit"
        return f"in {self.name}"


def scale_of_line(
    table: Table,
    layout: Layout,
    row: int,
    line: LineSeen,
    told: RowDecided,
    verdict: Verdict | None,
    under: LineScale | None,
) -> LineScale:
    """How a line is to be scaled, by its measure; `under` is how the heading it stands under says."""
    label = line.label
    if told.unit is not None:
        return decided_scale(told)
    currency = None
    if layout.currency_column is not None:
        currency = unit_of(table.rows[row][layout.currency_column].text.strip())
    if layout.unit_column is not None and (under is None or table.rows[row][layout.unit_column].says):
        text = table.rows[row][layout.unit_column].text.strip()
        unit = unit_of(text) or counted_in(text, label)
        alone = bool(text) and unit is None
        unit = unit.over(currency) if unit else currency
        one = is_for_one(f"({text})") or says(text, "per_one", "per_each", "for_shares")
        kind: LineKind | None = "per_unit" if one else None
        percent = says(text, "percent_alone", "percent_head")
        if is_measure(f"({text})") or (alone and not (one or percent) and _states_money(table, layout)):
            kind = "count"
        return LineScale(unit, alone=alone, percent=percent and kind is None, kind=kind)
    if currency is not None:
        return LineScale(currency.over(under.unit) if under else currency)
    stated = (
        unit_within(label)[0] or _counted_in(table, layout, label, line.amounts) if "(" in label else None
    )
    if stated and stated.power:
        return LineScale(stated)
    measured = KIND_OF[verdict.reading] if verdict is not None else None
    apart = told.kind or ("memo" if says(label, "memo") and line.forms != {"percent"} else measured)
    if (measured == "percent" or told.kind == "percent") and in_points(line):
        return LineScale(percent=True)
    alone = apart in RATIOS or "multiple" in line.forms
    counts = apart == "count"
    if under is None or alone or (under.kind and told.kind) or (counts and under.of_money):
        return LineScale(alone=alone or counts)
    return under


def _states_money(table: Table, layout: Layout) -> bool:
    """Whether the column of units states money of some lines: what it states of others is something else."""
    rows = table.rows[layout.first_row : layout.first_row + MOST_LOOKED_AT]
    units = (unit_of(row[layout.unit_column].text) for row in rows if layout.unit_column is not None)
    return any(unit is not None and unit.currency for unit in units)


def decided_scale(told: RowDecided) -> LineScale:
    """The scale that was decided of a row."""
    return LineScale(Unit(None, POWERS_BY_NAME[told.unit or "ones"], ""))


NOTE = re.compile(r"[a-h]|[iv]+")  # letters that notes are marked with
LETTERED = re.compile(r"\(([a-z]{1,3})\)\s*$")


def _counted_in(table: Table, layout: Layout, label: str, amounts: Sequence[Decimal | None]) -> Unit | None:
    """The scale whose letter ends the label of fractions: Passengers (m) of 1.2, if notes have none."""
    found = LETTERED.search(label)
    if found is None or layout.label is None:
        return None
    ends = (LETTERED.search(cell.text) for cell in table.column(layout.label.index))
    noted = any(end is not None and NOTE.fullmatch(end[1]) for end in ends)
    parts = any(amount is not None and amount != amount.to_integral_value() for amount in amounts)
    return counted_in(found[1], label[: found.start()]) if parts and not noted else None


def in_ones(amount: Decimal, column: ColumnRead, scale: LineScale, cell: SheetCell) -> Decimal:
    """A figure of the source in ones: by the unit that is stated for it, where it states none itself."""
    if column.percent or scale.percent:
        return scaled(amount, -2)
    own = scale.unit.over(column.unit) if scale.unit else column.unit
    unit = None if scale.alone else own
    if unit is None or not unit.power or shows(cell, unit):
        return amount
    return scaled(amount, unit.power)


def shows(cell: SheetCell, unit: Unit) -> bool:
    """Whether a cell's number code makes the unit of its number, which then is in ones: 1,844,400,000 that
    shows as 1,844.4 under "in millions". A unit that was decided is that of the number."""
    by_code = bool(unit.said and unit.power and cell.code) and isinstance(cell.value, Decimal)
    return by_code and divides_by(cell.code) == unit.power
