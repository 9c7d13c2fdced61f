"""The columns of a draft: those that others come to, by formula or by their figures, and shares of a line."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from decimal import Decimal

from humble_sum.core.amounts import signed
from humble_sum.core.amounts import total as total_of
from humble_sum.core.ids import new_id
from humble_sum.core.intake.arithmetic import across as relations_across
from humble_sum.core.intake.columns import ColumnRead, Layout
from humble_sum.core.intake.draft_lines import MOST_LABEL, DraftLine
from humble_sum.core.intake.formula_sums import formula_columns, formula_shares
from humble_sum.core.intake.found_shares import found_shares
from humble_sum.core.intake.found_sums import SURE_BITS, Parts, found_columns
from humble_sum.core.intake.periods import YEAR_ALONE, period_of
from humble_sum.core.intake.row_reading import Doubt
from humble_sum.core.intake.signals import NAMED
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.statements.pack import OWN_ACROSS, RATIOS, Column

Shares = dict[int, tuple[int, int]]


def shares_among(table: Table, layout: Layout, lines: Sequence[DraftLine]) -> Shares:
    """The columns that are shares of a line: by formula, or among those that are written as percentages. Of
    which column, and of which line."""
    rows = {line.row: n for n, line in enumerate(lines)}
    return formula_shares(table, layout, rows) or _found_shares(table, layout, lines)


def derived_columns(
    table: Table, layout: Layout, lines: Sequence[DraftLine], apart: Collection[int]
) -> tuple[dict[int, Parts], list[Doubt]]:
    """The columns that others come to, by formula or by their figures; and those whose formulas say so while
    a line states something else, named."""
    by_formula = formula_columns(table, layout)
    derived = by_formula or _by_figures(layout, lines, apart)
    doubts = []
    for n, line in _off_across(lines, by_formula):
        derived = {total: parts for total, parts in derived.items() if total != n}
        row, column = line.row, layout.figures[n].index
        heading = layout.figures[n].heading
        why = f"not what the columns that {heading} adds come to, so it is read as it stands"
        doubts.append(Doubt(table.place(row, column), table.rows[row][column].text, why))
    return derived, doubts


def _by_figures(layout: Layout, lines: Sequence[DraftLine], apart: Collection[int]) -> dict[int, Parts]:
    """The columns that others come to in every line: sums first, then differences."""
    given = [n for n in range(len(layout.figures)) if n not in apart]
    adding = [
        [line.amounts[n] for n in given] for line in lines if not line.heading and line.kind not in RATIOS
    ]
    across = found_columns(adding, _called_totals(layout, given))
    return {
        given[total]: tuple((given[part], sign) for part, sign in parts)
        for total, parts in (_differences(layout, given, adding, across) | across).items()
        if not _years_apart(layout, [given[total], *(given[part] for part, _ in parts)], parts)
    }


def _differences(
    layout: Layout,
    given: Sequence[int],
    adding: Sequence[Sequence[Decimal | None]],
    known: Mapping[int, Parts],
) -> dict[int, Parts]:
    """The columns that are one column less another, told beyond doubt by their figures, or by these and what
    they are called: a variance is of the budget and what came of it."""
    taken = {part for parts in known.values() for part, _ in parts} | {*known}
    found: dict[int, Parts] = {}
    for relation in relations_across(adding):
        signs = sorted(sign for _, sign in relation.parts)
        named = says(layout.figures[given[relation.total]].heading, "moves")
        sure = relation.bits >= (NAMED if named else SURE_BITS) and not relation.fails
        places = {relation.total, *(part for part, _ in relation.parts)}
        last = relation.total == max(places)
        exact = all(_is_exactly(amounts, relation.total, relation.parts) for amounts in adding)
        if signs == [-1, 1] and sure and exact and (named or last) and not places & taken:
            found[relation.total] = relation.parts
            taken |= places
    return found


def _is_exactly(amounts: Sequence[Decimal | None], column: int, parts: Parts) -> bool:
    """Whether a line states in a column what others come to, where it has them all."""
    stated, there = amounts[column], [(sign, amounts[part]) for part, sign in parts]
    known = [signed(sign, amount) for sign, amount in there if amount is not None]
    return stated is None or len(known) < len(there) or stated == total_of(known)


def _called_totals(layout: Layout, given: Sequence[int]) -> set[int]:
    """The places of the columns that are called totals."""
    return {place for place, n in enumerate(given) if says(layout.figures[n].heading, "total")}


def _off_across(lines: Sequence[DraftLine], derived: Mapping[int, Parts]) -> list[tuple[int, DraftLine]]:
    """Derived columns with the first line that states another amount there than the others come to. Counts
    and ratios may."""
    found = []
    for total, parts in derived.items():
        line = next(
            (line for line in lines if line.kind not in OWN_ACROSS and is_off(line, total, parts)), None
        )
        if line is not None:
            found.append((total, line))
    return found


def is_off(line: DraftLine, column: int, parts: Parts) -> bool:
    """Whether a line states another amount in a column than its parts, all there, come to."""
    stated = line.amounts[column]
    adding = [(sign, line.amounts[part]) for part, sign in parts]
    if line.heading or stated is None or any(amount is None for _, amount in adding):
        return False
    return stated != total_of([signed(sign, amount) for sign, amount in adding if amount is not None])


def _years_apart(layout: Layout, columns: Sequence[int], parts: Parts) -> bool:
    """Whether a year would be what one year has more than another, or would add figures of another year:
    chance, whatever the lines say."""
    heads = [layout.figures[n].heading for n in columns]
    if not all(YEAR_ALONE.fullmatch(head) for head in heads):
        return False
    years = {period.year for head in heads if (period := period_of(head)) is not None}
    return len(years) > 1 or any(sign < 0 for _, sign in parts)


def _found_shares(table: Table, layout: Layout, lines: Sequence[DraftLine]) -> dict[int, tuple[int, int]]:
    """Shares among columns that are written as percentages."""
    figured = [n for n, line in enumerate(lines) if not line.heading]
    percent = [
        place
        for place in range(len(layout.figures))
        if layout.figures[place].percent
        or (figured and all(_is_percent(table, layout, lines[n].row, place) for n in figured))
    ]
    found = found_shares([lines[n].amounts for n in figured], percent)
    return {column: (of, figured[base]) for column, (of, base) in found.items()}


def _is_percent(table: Table, layout: Layout, row: int, place: int) -> bool:
    cell = table.rows[row][layout.figures[place].index]
    return not cell.says or "%" in cell.code or "%" in cell.text


def columns_of(
    figures: Sequence[ColumnRead],
    derived: Mapping[int, Parts],
    shares: Mapping[int, tuple[int, int]],
    lines: Sequence[DraftLine],
) -> tuple[Column, ...]:
    """The columns of a statement, by what each is made of."""
    taken: set[str] = set()
    ids = [new_id(column.heading or f"column {column.index + 1}", taken) for column in figures]
    made = []
    for n, column in enumerate(figures):
        data: dict[str, object] = {
            "id": ids[n],
            "label": column.heading[:MOST_LABEL] or f"Column {column.index + 1}",
        }
        if n in shares:
            of, base = shares[n]
            data["share"] = (ids[of], lines[base].id)
        elif n in derived:
            parts = sorted(derived[n], key=lambda part: -part[1])
            way = "difference" if any(sign < 0 for _, sign in parts) else "sum"
            data[way] = tuple(ids[part] for part, _ in parts)
        else:
            data["apart"] = column.percent or column.per_unit
        made.append(Column.model_validate(data))
    return tuple(made)
