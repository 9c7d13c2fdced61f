"""The measure of each column of figures: money, percentages, amounts for one of something, or counts.

What heads a column, how its cells are written and what its figures come to are weighed together; columns that
add up with each other are of one measure, whatever each is called.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal
from typing import TYPE_CHECKING

from humble_sum.core.intake.amount_reading import POINT
from humble_sum.core.intake.arithmetic import Relation, across, bits_of, down, groups, products
from humble_sum.core.intake.cell_reading import is_number, read_cell
from humble_sum.core.intake.growth import Ratio, ratio_columns
from humble_sum.core.intake.named_measures import (
    MEASURES,
    measure_signals,
)
from humble_sum.core.intake.signals import (
    DECIDED,
    HINTED,
    LIKE,
    MOST,
    NAMED,
    USUAL,
    WRITTEN,
    Signal,
    Verdict,
    settle,
    weighed,
)
from humble_sum.core.intake.table import SheetCell, Table, column_letters
from humble_sum.core.intake.units import Unit
from humble_sum.core.intake.vocabulary import says

if TYPE_CHECKING:
    from humble_sum.core.intake.columns import ColumnRead
    from humble_sum.core.intake.decisions import ColumnDecided

LINK = 6.0  # bits from which columns that add up are of one measure
EVIDENCE_ROWS = 400  # of a long table, from which relations are drawn
SHARE_SIGNS = ("%", "‰", "bps", "bp", "pp", "pts")


def measured(
    table: Table, columns: Sequence[ColumnRead], first_row: int, told: Sequence[ColumnDecided]
) -> list[ColumnRead]:
    """The columns, each of figures with its measure settled."""
    label = next((column.index for column in columns if column.role == "label"), None)
    names = [row[label].text if label is not None else "" for row in table.rows[first_row:][:EVIDENCE_ROWS]]
    figures = [column for column in columns if column.role == "figures"]
    if not figures:
        return [*columns]
    contested = [column for column in figures if _may_be_other(column, told[column.index])]
    # Without a word against it, a column is of money, unless it is multiplied with the one beside it.
    asked = figures if contested or len(figures) > 2 else []
    amounts: dict[int, Sequence[Decimal | None]] = {column.index: () for column in figures}
    amounts |= {column.index: _amounts(table, column, first_row) for column in asked}
    worked = _worked_out(contested, amounts)
    signals = {c.index: list(_signals(table, c, first_row, told[c.index], amounts, worked)) for c in figures}
    for index, signal in _of_products(figures, amounts) if asked else ():
        signals[index].append(signal)
    relations = _relations(figures, amounts, names) if contested else ([], [])
    verdicts = _settled(figures, signals, *relations, amounts)
    return [
        _with_measure(column, verdicts[column.index], amounts[column.index], told[column.index])
        if column.index in verdicts
        else column
        for column in columns
    ]


def _may_be_other(column: ColumnRead, told: ColumnDecided) -> bool:
    """Whether a heading says anything of a measure, so that arithmetic is asked."""
    said = measure_signals(column.heading, ()) or _of_heading(column.heading)
    return told.percent is None and (bool(said) or says(column.heading, "moves"))


def _amounts(table: Table, column: ColumnRead, first_row: int) -> list[Decimal | None]:
    convention = column.inferred.convention if column.inferred else POINT
    rows = table.rows[first_row : first_row + EVIDENCE_ROWS]
    return [read_cell(row[column.index], convention).amount for row in rows]


def _signals(
    table: Table,
    column: ColumnRead,
    first_row: int,
    told: ColumnDecided,
    amounts: Mapping[int, Sequence[Decimal | None]],
    worked: Mapping[int, Ratio],
) -> Iterator[Signal]:
    yield Signal("money", USUAL, "most columns are amounts of money")
    if told.percent is not None:
        yield Signal("percent" if told.percent else "money", DECIDED, "it was decided so")
    as_percent = _all_percent(table.column(column.index)[first_row:])
    if as_percent:
        yield Signal("percent", WRITTEN, "each of its cells is written as a percentage")
    if (way := worked.get(column.index)) is not None:
        reading = "percent" if way == "points" or as_percent else "per_one"
        yield Signal(reading, WRITTEN, "each of its figures is one column over another")
    yield from measure_signals(column.heading, amounts[column.index])
    yield from _of_heading(column.heading)


def _of_heading(heading: str) -> list[Signal]:
    """What a heading says that only columns are called by."""
    found = []
    if says(heading, "no_money", "one_of"):
        found.append(Signal("per_one", NAMED, f"“{heading}” heads it"))
    if says(heading, "counted"):
        found.append(Signal("count", NAMED, f"“{heading}” heads it"))
    if says(heading, "countable"):
        found.append(Signal("count", HINTED, f"“{heading}” is counted one by one"))
    if says(heading, "percent_head") and any(s.reading == "points" for s in measure_signals(heading, ())):
        # Changes by a thousand percent and more are percentages too, where a column says so.
        found.append(Signal("percent", NAMED, f"“{heading}” heads it"))
    return found


def _of_products(
    figures: Sequence[ColumnRead], amounts: Mapping[int, Sequence[Decimal | None]]
) -> Iterator[tuple[int, Signal]]:
    """What speaks for columns being counts and prices: that they come to another one, in thousands or more,
    when multiplied. Of the two, whole numbers are the counts."""
    rows = list(zip(*(amounts[column.index] for column in figures), strict=True))
    for product in products(rows):
        whole = [all(row[n] is None or row[n] == int(row[n] or 0) for row in rows) for n in product.factors]
        counts = product.factors[0] if whole[0] or not whole[1] else product.factors[1]
        made = column_letters(figures[product.of].index)
        bits = min(product.bits, MOST)
        for n in product.factors:
            other = column_letters(figures[sum(product.factors) - n].index)
            why = f"multiplied with {other} it comes to {made}"
            yield figures[n].index, Signal("count" if n == counts else "per_one", bits, why)


def _relations(
    figures: Sequence[ColumnRead], amounts: Mapping[int, Sequence[Decimal | None]], names: Sequence[str]
) -> tuple[list[Relation], list[Relation]]:
    rows = list(zip(*(amounts[column.index] for column in figures), strict=True))
    called = {n for n, column in enumerate(figures) if says(column.heading, "total")}
    totals = {n for n, name in enumerate(names) if says(name, "total")}
    return across(rows, called), down(rows, called=totals)


def _settled(
    figures: Sequence[ColumnRead],
    signals: Mapping[int, list[Signal]],
    wide: Sequence[Relation],
    deep: Sequence[Relation],
    amounts: Mapping[int, Sequence[Decimal | None]],
) -> dict[int, Verdict]:
    """Each column's verdict: those that add up with each other are settled together."""
    of, strongest = groups(wide, LINK), bits_of(wide)
    found = {}
    for place, column in enumerate(figures):
        own = list(signals[column.index])
        together = [n for n in of if of.get(n) == of.get(place)] if place in of else [place]
        pooled = [signal for n in together for signal in signals[figures[n].index]]
        if (bits := _adds_down(amounts[column.index], deep)) > 0:
            # Prices do not add up; shares of a whole do.
            against = [
                Signal("per_one", -bits, "its lines add up to its totals"),
                Signal("percent", -min(bits, LIKE), "its lines add up to its totals"),
            ]
            pooled += against
            own += against
        bits_by = weighed(pooled, MEASURES)
        best = max(MEASURES, key=lambda reading: bits_by[reading])
        if place in of and len(together) > 1:
            relation = strongest[place]
            others = [relation.total, *(part for part, _ in relation.parts)]
            named = ", ".join(column_letters(figures[n].index) for n in others if n != place)
            why = f"it adds up with {named} in {relation.holds} of {relation.holds + relation.fails} lines"
            own.append(Signal(best, min(relation.bits, MOST), why))
        name = f"column {column_letters(column.index)}"
        verdict = settle(name, own, MEASURES, "money")
        found[column.index] = replace(verdict, reading=best) if len(together) > 1 else verdict
    return found


def _adds_down(amounts: Sequence[Decimal | None], deep: Sequence[Relation]) -> float:
    """The bits of a column's own totals: rates and prices of lines do not add up to that of their total."""
    bits = 0.0
    for relation in deep:
        stated = amounts[relation.total]
        parts = [(sign, amounts[part]) for part, sign in relation.parts]
        if stated is None or len([a for _, a in parts if a]) < 2:
            continue
        adds = sum(sign * amount for sign, amount in parts if amount is not None) == stated
        bits += math.log2(int("".join(map(str, stated.as_tuple().digits))) + 1) + LIKE if adds else -NAMED
    return min(bits, MOST)


def _worked_out(
    contested: Sequence[ColumnRead], amounts: Mapping[int, Sequence[Decimal | None]]
) -> dict[int, Ratio]:
    """The columns that may be rates by their headings, and whose figures are one column over another."""
    named = []
    for column in contested:
        said = {signal.reading for signal in measure_signals(column.heading, ())}
        if "percent" in said or (column.unit is None and (said or says(column.heading, "moves"))):
            named.append(column.index)
    return ratio_columns(named, amounts) if named else {}


def _with_measure(
    column: ColumnRead, verdict: Verdict, amounts: Sequence[Decimal | None], told: ColumnDecided
) -> ColumnRead:
    """The column as its measure says: prices of one and numbers of things are in no thousands of money."""
    measure = verdict.reading
    if measure == "money":
        return replace(column, verdict=verdict)
    sign = says(column.heading, "percent_head") or any(s.bits >= WRITTEN for s in verdict.signals)
    fractions = not sign and told.percent is None and all(abs(a) <= 1 for a in amounts if a is not None)
    if measure == "percent" and not fractions:
        return replace(column, percent=True, verdict=verdict)
    unit = column.unit
    if unit is None or unit.power is None:
        unit = Unit(unit.currency if unit else None, 0, unit.said if unit else "")
    return replace(column, unit=unit, per_unit=measure in ("per_one", "percent"), verdict=verdict)


def _all_percent(cells: Sequence[SheetCell]) -> bool:
    """Whether every figure of a column is written as a percentage."""
    figures = [cell for cell in cells if is_number(cell) or cell.formula is not None]
    return bool(figures) and all(_has_share(cell.code) or _has_share(cell.text) for cell in figures)


def _has_share(text: str) -> bool:
    return any(text.rstrip().casefold().endswith(sign) for sign in SHARE_SIGNS) or "%" in text
