"""How a table is laid out: where its lines begin, what each column holds, and how each writes its numbers."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.intake.amount_reading import POINT, Convention, read
from humble_sum.core.intake.cell_reading import read_cell
from humble_sum.core.intake.column_headings import all_above, heading_of, spread
from humble_sum.core.intake.column_measures import EVIDENCE_ROWS, measured
from humble_sum.core.intake.column_roles import column_roles
from humble_sum.core.intake.conventions import Inferred, as_is_usual, as_written_there, infer
from humble_sum.core.intake.decisions import CONVENTIONS, UNDECIDED, ColumnDecided, Role, TableDecided
from humble_sum.core.intake.first_line import first_line
from humble_sum.core.intake.periods import DOTTED_DATE, names_period
from humble_sum.core.intake.same_unit import as_those_beside, like_the_first, told_apart
from humble_sum.core.intake.signals import Verdict
from humble_sum.core.intake.stated_units import unit_above, unit_of_table
from humble_sum.core.intake.table import SheetCell, Table, column_letters
from humble_sum.core.intake.units import Unit, unit_within
from humble_sum.core.once import once

LARGE_UNITS = 6  # the power of ten of units in which amounts may have three decimals: 57.218 millions


@dataclass(frozen=True)
class ColumnRead:
    """One column: its heading, its role, and for figures the convention and what it rests on, the unit
    that its heading states, whether its numbers are percentages, and whether they are amounts for one of
    something. Where it states no unit it `may_be` in that of the others, as far as can be told. `verdict` is
    how its measure was settled."""

    index: int
    heading: str
    role: Role
    inferred: Inferred | None = None
    unit: Unit | None = None
    percent: bool = False
    per_unit: bool = False
    may_be: Unit | None = None
    verdict: Verdict | None = None


@dataclass(frozen=True)
class Layout:
    """A table's columns, the row its lines start at, the unit that is stated over all of it, and the columns
    that say for each line what it is counted in, its currency, and its side. `verdicts` are how columns that
    could have been something else were settled."""

    columns: tuple[ColumnRead, ...]
    first_row: int
    unit: Unit | None = None
    unit_column: int | None = None
    currency_column: int | None = None
    side_column: int | None = None
    verdicts: tuple[Verdict, ...] = ()

    @once
    def label(self) -> ColumnRead | None:
        return next((column for column in self.columns if column.role == "label"), None)

    @once
    def code(self) -> ColumnRead | None:
        return next((column for column in self.columns if column.role == "code"), None)

    @once
    def figures(self) -> list[ColumnRead]:
        return [column for column in self.columns if column.role == "figures"]


def lay_out(table: Table, decided: TableDecided = UNDECIDED) -> Layout:
    """Find where the lines begin, and the columns' roles and conventions, but for what was decided."""
    told = [decided.columns.get(column_letters(index), ColumnDecided()) for index in range(table.width)]
    roles = column_roles(table, {n: each.role for n, each in enumerate(told) if each.role is not None})
    numeric = sorted(roles.of("figures"))
    first_row = first_line(table, numeric, next(iter(roles.of("label")), None))
    if decided.first_row is not None:
        first_row = min(table.row_of(decided.first_row - 1) or 0, len(table.rows))
    table = replace(table, merged=(*table.merged, *spread(table, numeric, first_row)))
    columns = [_column(table, n, roles.roles[n], first_row, told[n]) for n in range(table.width)]
    columns = told_apart(columns, _longer_headings(table, columns, first_row, told))
    columns = measured(table, columns, first_row, told)
    columns = like_the_first(_as_beside(table, columns, first_row))
    unit = _unit_of_table(table, columns, first_row)
    if unit is None or unit.power is None:
        columns = as_those_beside(columns, lambda: _written_amounts(table, columns, first_row), told)
    columns = _as_written_there(table, columns, first_row, unit)
    stated = unit is not None or any(column.unit for column in columns)
    return Layout(
        tuple(columns),
        first_row,
        unit if stated else table.linked,
        roles.unit,
        roles.currency,
        roles.side,
        roles.verdicts,
    )


def _column(table: Table, index: int, role: Role, first_row: int, told: ColumnDecided) -> ColumnRead:
    """A column by its heading, the unit it states, and how its numbers are written."""
    unit, heading = unit_within(heading_of(table, index, first_row))
    heading = told.heading or heading
    if role != "figures":
        return ColumnRead(index, heading, role)
    texts = [_written(cell) for cell in table.column(index)[first_row:]]
    chosen = told.convention
    inferred = infer(texts) if chosen is None else _overruled(texts, CONVENTIONS[chosen])
    above = unit_above(table, index, first_row)
    return ColumnRead(index, heading, role, inferred, unit.over(above) if unit else above)


def _longer_headings(
    table: Table, columns: Sequence[ColumnRead], first_row: int, told: Sequence[ColumnDecided]
) -> list[Mapping[int, str]]:
    """Longer headings by which columns that are headed alike may be told apart."""
    ways: list[Mapping[int, str]] = [
        {n: told[n].heading or words(table, n, first_row) for n in range(table.width)}
        for words in (heading_of, all_above)
    ]
    with_units = {
        c.index: told[c.index].heading or ", ".join(filter(None, (c.heading, c.unit.said if c.unit else "")))
        for c in columns
    }
    return [*ways, with_units]


def _unit_of_table(table: Table, columns: Sequence[ColumnRead], first_row: int) -> Unit | None:
    figures = [column for column in columns if column.role == "figures"]
    of_periods = all(names_period(column.heading) for column in figures if not column.percent)
    return unit_of_table(table, [column.index for column in figures], first_row, of_periods)


def _written_amounts(
    table: Table, columns: Sequence[ColumnRead], first_row: int
) -> dict[int, list[Decimal | None]]:
    """What the first lines of the columns of figures say, as it is written there."""
    rows = table.rows[first_row : first_row + EVIDENCE_ROWS]
    return {
        c.index: [
            read_cell(row[c.index], c.inferred.convention if c.inferred else POINT).amount for row in rows
        ]
        for c in columns
        if c.role == "figures"
    }


def _as_beside(table: Table, columns: Sequence[ColumnRead], first_row: int) -> list[ColumnRead]:
    """The columns, those whose cells could all be either read as the others of the table are written, where
    these leave no doubt."""
    told = {
        column.inferred.convention
        for column in columns
        if column.inferred and column.inferred.decided and not column.inferred.ambiguous
    }
    if len(told) != 1:
        return [*columns]
    convention = told.pop()
    made = []
    for column in columns:
        if column.inferred is not None and column.inferred.ambiguous:
            texts = [_written(cell) for cell in table.column(column.index)[first_row:]]
            again = infer(texts, convention)
            why = f"as the columns beside it, with a {convention}"
            column = replace(column, inferred=replace(again, ambiguous=(), reasons=(why,)))
        made.append(column)
    return made


def _as_written_there(
    table: Table, columns: Sequence[ColumnRead], first_row: int, unit: Unit | None
) -> list[ColumnRead]:
    """The columns, those whose cells could all be either settled by where they come from, if that tells; else
    read as is usual, and asked about."""
    dotted = any(DOTTED_DATE.search(column.heading) for column in columns)
    open_cells = [
        _written(table.rows[first_row + n][column.index])
        for column in columns
        if column.inferred is not None
        for n in column.inferred.ambiguous
    ]
    made = []
    for column in columns:
        if column.inferred is not None and column.inferred.ambiguous:
            own = column.unit.over(unit) if column.unit else unit
            currency, power = (own.currency, own.power) if own else (None, None)
            texts = [_written(cell) for cell in table.column(column.index)[first_row:]]
            inferred = as_written_there(column.inferred, texts, currency, dotted)
            if inferred.ambiguous and (power or 0) < LARGE_UNITS:
                inferred = as_is_usual(inferred, texts, currency, open_cells)
            column = replace(column, inferred=inferred)
        made.append(column)
    return made


def _overruled(texts: Collection[str], convention: Convention) -> Inferred:
    """The column read again under a convention that its reader chose."""
    texts = list(texts)
    numbers = [place for place, text in enumerate(texts) if any(character.isdigit() for character in text)]
    doubtful = tuple(place for place in numbers if read(texts[place], convention).kind == "text")
    sample = texts[numbers[0]] if numbers else ""
    agree = len(numbers) - len(doubtful)
    return Inferred(convention, (f"you chose a {convention}",), agree, len(numbers), sample, (), doubtful)


def _written(cell: SheetCell) -> str:
    """A text cell as written. A number needs no convention, so it says nothing of one."""
    return cell.value if isinstance(cell.value, str) else ""
