"""Which column is labels, which hold figures, and how each of these writes its numbers."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import pairwise, takewhile

from humble_sum.core.intake.adding_up import is_added
from humble_sum.core.intake.amount_reading import POINT, Convention, read
from humble_sum.core.intake.cell_reading import is_number, is_year, read_cell, says_to_come
from humble_sum.core.intake.column_headings import all_above, heading_of, spread
from humble_sum.core.intake.column_names import (
    CODE_HEADINGS,
    CODES,
    COUNTED,
    CURRENCIES,
    DOTTED_DATE,
    NO_MONEY,
    NOTES,
    PERCENT,
    PERIOD,
    SHARE,
    UNITS,
)
from humble_sum.core.intake.column_times import columns_of_times
from humble_sum.core.intake.conventions import Inferred, as_is_usual, as_written_there, infer
from humble_sum.core.intake.decisions import CONVENTIONS, UNDECIDED, ColumnDecided, Role, TableDecided
from humble_sum.core.intake.first_line import MOST_MARK_LETTERS, first_line
from humble_sum.core.intake.growth import MAY_BE, ratio_columns
from humble_sum.core.intake.kinds import IN_POINTS, MOST_POINTS, is_each
from humble_sum.core.intake.measures import is_measure
from humble_sum.core.intake.periods import period_of
from humble_sum.core.intake.same_unit import as_those_beside, like_the_first, told_apart
from humble_sum.core.intake.stated_units import unit_above, unit_of_table
from humble_sum.core.intake.table import SheetCell, Table, column_letters
from humble_sum.core.intake.units import NAMES, Unit, unit_of, unit_within
from humble_sum.core.locales import currencies
from humble_sum.core.once import once

LEAST_CODES = 3  # rising whole numbers before a column is taken for one of codes
MORE_HEADINGS = 2  # rows of headings below the first that say nothing against a column of figures
LARGE_UNITS = 6  # the power of ten of units in which amounts may have three decimals: 57.218 millions
LOOKED_AT, MOSTLY = 200, 0.6  # cells of a column, and the part of them that makes it one of currencies
HEADING_ROWS = 12  # rows in which a column's name is looked for


@dataclass(frozen=True)
class ColumnRead:
    """One column: its heading, its role, and for figures the convention and what it rests on, the unit
    that its heading states, whether its numbers are percentages, and whether they are amounts for one of
    something. Where it states no unit it `may_be` in that of the others, as far as can be told."""

    index: int
    heading: str
    role: Role
    inferred: Inferred | None = None
    unit: Unit | None = None
    percent: bool = False
    per_unit: bool = False
    may_be: Unit | None = None


@dataclass(frozen=True)
class Layout:
    """A table's columns, the row its lines start at, the unit that is stated over all of it, and the columns
    that state one for each line: what it is counted in, and its currency."""

    columns: tuple[ColumnRead, ...]
    first_row: int
    unit: Unit | None = None
    unit_column: int | None = None
    currency_column: int | None = None

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
    roles = {index: each.role for index, each in enumerate(told) if each.role is not None}
    numeric = [index for index in range(table.width) if _mostly_figures(table.column(index))]
    numeric = [index for index in numeric if not _is_named(table, index, NOTES) and index not in roles]
    known = {*numeric, *roles}
    periods = [n for n in range(table.width) if n not in known and _is_of_period(table, n)]
    numeric = sorted([*numeric, *periods, *(index for index, role in roles.items() if role == "figures")])
    in_currencies = [n for n in range(table.width) if n not in known and _is_of_currencies(table, n)]
    units = [n for n in range(table.width) if n in in_currencies or _is_named(table, n, UNITS)]
    label = next((index for index, role in roles.items() if role == "label"), None)
    if label is None:
        codes = [n for n in range(table.width) if _is_named(table, n, CODES) and _has_digits(table, n)]
        label = _label_column(table, [*numeric, *units, *roles, *codes])
        for others in ([*numeric, *units, *roles], [*numeric, *roles]):
            label = _label_column(table, others) if label is None else label
    coded = [n for n in numeric if label is not None and n < label and n not in roles and _counts(table, n)]
    times = [] if label is None else [n for n in columns_of_times(table, numeric) if n not in roles]
    apart = {*coded, *times} if len(times) < len(numeric) else set(coded)
    numeric = [index for index in numeric if index not in apart] if apart else numeric
    if label is None and (years := _years_as_labels(table, numeric)) is not None:
        label, numeric = years, [index for index in numeric if index != years]
    first_row = first_line(table, numeric, label)
    if decided.first_row is not None:
        first_row = min(decided.first_row - 1, len(table.rows))
    table = replace(table, merged=(*table.merged, *spread(table, numeric, first_row)))
    columns = []
    is_numeric = set(numeric)
    unit_column = currency_column = None
    for index in range(table.width):
        unit, heading = unit_within(heading_of(table, index, first_row))
        if index == label:
            role: Role = "label"
        elif NOTES.fullmatch(heading):
            role = "other"
        elif UNITS.fullmatch(heading) and index not in is_numeric:
            role, unit_column = "other", index
        elif index in in_currencies:
            role, currency_column = "other", index
        elif index in coded or CODES.fullmatch(heading) or _is_of_codes(table, index, heading):
            role = "code"
        else:
            role = "figures" if index in is_numeric else "other"
        role = roles.get(index, role)
        heading = told[index].heading or heading
        inferred = None
        if role == "figures":
            texts = [_written(cell) for cell in table.column(index)[first_row:]]
            inferred = infer(texts)
            if (chosen := told[index].convention) is not None:
                inferred = _overruled(texts, CONVENTIONS[chosen])
        above = unit_above(table, index, first_row) if role == "figures" else None
        own = unit.over(above) if unit else above
        percent = told[index].percent
        if percent is None:
            percent = role == "figures" and (
                bool(PERCENT.search(heading)) or _all_percent(table.column(index)[first_row:])
            )
        amounts = role == "figures" and not percent
        each = amounts and told[index].percent is None
        if each and NO_MONEY.fullmatch(heading):
            each = not is_added(table, index, numeric, first_row, label)
        else:
            each = each and is_each(heading)
        counts = amounts and (COUNTED.search(heading) is not None or is_measure(heading))
        if (each or counts) and (own is None or own.power is None):
            # Prices of one and numbers of things are in no thousands of money, whatever the table is in.
            own = Unit(own.currency if own else None, 0, own.said if own else heading)
        columns.append(ColumnRead(index, heading, role, inferred, own, percent, each))
    longer = [
        {n: told[n].heading or words(table, n, first_row) for n in range(table.width)}
        for words in (heading_of, all_above)
    ]
    longer.append({c.index: told[c.index].heading or _with_its_unit(c) for c in columns})
    columns = told_apart(columns, longer)
    figures = [column.index for column in columns if column.role == "figures"]
    columns = _worked_out(table, columns, first_row, told)
    columns = like_the_first(_as_beside(table, columns, first_row))
    of_periods = all(PERIOD.search(c.heading) for c in columns if c.role == "figures" and not c.percent)
    unit = unit_of_table(table, figures, first_row, of_periods)
    if unit is None or unit.power is None:
        shown = _amounts(table, (c for c in columns if c.role == "figures"), first_row)
        columns = as_those_beside(columns, shown, told)
    columns = _as_written_there(table, columns, first_row, unit)
    stated = unit is not None or any(column.unit for column in columns)
    return Layout(tuple(columns), first_row, unit if stated else table.linked, unit_column, currency_column)


def _worked_out(
    table: Table, columns: list[ColumnRead], first_row: int, told: Sequence[ColumnDecided]
) -> list[ColumnRead]:
    """The columns, those that turn out to be growth or shares in no unit of the table."""
    figures = [column for column in columns if column.role == "figures"]
    named = {
        c.index: c.heading
        for c in figures
        if not (c.percent or c.per_unit or c.unit)
        and told[c.index].percent is None
        and (MAY_BE.search(c.heading) or IN_POINTS.search(c.heading))
    }
    if not named:
        return columns
    amounts = _amounts(table, figures, first_row)
    found = ratio_columns(named, amounts)
    for index in named.keys() - found.keys():
        present = [abs(amount) for amount in amounts[index] if amount is not None]
        if present and IN_POINTS.search(named[index]) and max(present) < MOST_POINTS:
            found[index] = "points" if max(present) > 1 else "fraction"
    as_read = {
        "points": lambda column: replace(column, percent=True),
        "fraction": lambda column: replace(column, unit=Unit(None, 0, ""), per_unit=True),
    }
    return [as_read[found[c.index]](c) if c.index in found else c for c in columns]


def _amounts(table: Table, columns: Iterable[ColumnRead], first_row: int) -> dict[int, list[Decimal | None]]:
    """What every line of columns of figures says, as it is written there."""
    return {
        c.index: [
            read_cell(cell, c.inferred.convention if c.inferred else POINT).amount
            for cell in table.column(c.index)[first_row:]
        ]
        for c in columns
    }


def _has_digits(table: Table, index: int) -> bool:
    """Whether a third of a column's cells have digits, as codes of accounts do and their names do not."""
    said = [cell.text for cell in table.column(index) if cell.says]
    return 3 * sum(any(c.isdigit() for c in text) for text in said) >= len(said) - 1


def _is_of_codes(table: Table, index: int, heading: str) -> bool:
    """Whether a column is headed as codes may be, and lines too, and has some."""
    return heading.lower() in CODE_HEADINGS and _has_digits(table, index)


def _counts(table: Table, index: int) -> bool:
    """Whether a column before the labels holds whole numbers that only ever rise, under no period: codes of
    accounts, or the numbers of rows."""
    said = [cell for cell in table.column(index) if cell.says]
    heads = [cell.text for cell in takewhile(lambda cell: not is_number(cell), said)]
    amounts = [a for cell in said if (a := read_cell(cell).amount) is not None]
    rising = all(low < high for low, high in pairwise(amounts))
    integers = all(amount >= 0 and amount == amount.to_integral_value() for amount in amounts)
    named = any(PERIOD.search(head) or NAMES.search(head) or unit_of(head) for head in heads)
    return len(amounts) >= LEAST_CODES and rising and integers and not named


def _is_of_period(table: Table, index: int) -> bool:
    """Whether a column of which not most cells are plain numbers is headed by a period and has figures with
    marks: [25], 75 (a)."""
    said = [cell.text.strip() for cell in table.column(index) if cell.text.strip()]
    if not said or not (PERIOD.search(said[0]) or period_of(said[0])) or _is_named(table, index, NOTES):
        return False
    digits = [text for text in said[1:] if any(c.isdigit() for c in text)]
    plain = [text for text in said[1:] if sum(c.isalpha() for c in text) <= MOST_MARK_LETTERS]
    return bool(digits) and len(plain) == len(said) - 1


def _all_percent(cells: list[SheetCell]) -> bool:
    """Whether every figure of a column is written as a percentage."""
    figures = [cell for cell in cells if is_number(cell) or cell.formula is not None]
    return bool(figures) and all(SHARE.search(cell.code) or SHARE.search(cell.text) for cell in figures)


def _as_beside(table: Table, columns: list[ColumnRead], first_row: int) -> list[ColumnRead]:
    """The columns, those whose cells could all be either read as the others of the table are written, where
    these leave no doubt."""
    told = {
        column.inferred.convention
        for column in columns
        if column.inferred and column.inferred.decided and not column.inferred.ambiguous
    }
    if len(told) != 1:
        return columns
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
    table: Table, columns: list[ColumnRead], first_row: int, unit: Unit | None
) -> list[ColumnRead]:
    """The columns, those whose cells could all be either settled by where they come from, if that tells; else
    read as is usual, and asked about."""
    dotted = any(DOTTED_DATE.search(column.heading) for column in columns)
    made = []
    for column in columns:
        if column.inferred is not None and column.inferred.ambiguous:
            own = column.unit.over(unit) if column.unit else unit
            currency, power = (own.currency, own.power) if own else (None, None)
            texts = [_written(cell) for cell in table.column(column.index)[first_row:]]
            inferred = as_written_there(column.inferred, texts, currency, dotted)
            if inferred.ambiguous and (power or 0) < LARGE_UNITS:
                inferred = as_is_usual(inferred, texts, currency)
            column = replace(column, inferred=inferred)
        made.append(column)
    return made


def _years_as_labels(table: Table, numeric: list[int]) -> int | None:
    """The first column, where nothing but years stands between its titles and a total or note at its end, and
    no column has words: periods as rows."""
    if not numeric or len(numeric) < 2:
        return None
    said = [cell for cell in table.column(numeric[0]) if cell.text.strip()]
    numbers = [n for n, cell in enumerate(said) if is_number(cell)]
    years = said[numbers[0] : numbers[-1] + 1] if numbers and numbers[0] < HEADING_ROWS else []
    distinct = len({cell.text.strip() for cell in years}) == len(years)
    return numeric[0] if len(years) > 1 and distinct and all(map(is_year, years)) else None


def _is_named(table: Table, index: int, name: re.Pattern[str]) -> bool:
    """Whether one of the first texts of a column is nothing but such a name."""
    said = [cell.text.strip() for cell in table.column(index)[:HEADING_ROWS] if cell.text.strip()]
    return any(name.fullmatch(text) for text in said)


def _with_its_unit(column: ColumnRead) -> str:
    return ", ".join(filter(None, (column.heading, column.unit.said if column.unit else "")))


def _is_of_currencies(table: Table, index: int) -> bool:
    """Whether a column is headed as one of currencies, or most of its first cells are codes of them."""
    said = [text for cell in table.column(index)[:LOOKED_AT] if (text := cell.text.strip())]
    codes = sum(len(text) == 3 and text.isupper() and currencies.known(text) for text in said)
    return _is_named(table, index, CURRENCIES) or (codes > 1 and codes >= MOSTLY * len(said))


def _overruled(texts: list[str], convention: Convention) -> Inferred:
    """The column read again under a convention that its reader chose."""
    numbers = [place for place, text in enumerate(texts) if any(character.isdigit() for character in text)]
    doubtful = tuple(place for place in numbers if read(texts[place], convention).kind == "text")
    sample = texts[numbers[0]] if numbers else ""
    agree = len(numbers) - len(doubtful)
    return Inferred(convention, (f"you chose a {convention}",), agree, len(numbers), sample, (), doubtful)


def _written(cell: SheetCell) -> str:
    """A text cell as written. A number needs no convention, so it says nothing of one."""
    return cell.value if isinstance(cell.value, str) else ""


def _mostly_figures(cells: list[SheetCell]) -> bool:
    """Whether more of the cells that say anything, the headings aside, are numbers than not; what is said to
    be missing or to come is neither."""
    said = [cell for cell in cells if cell.says or cell.formula]
    body = [cell for cell in said[1:] if not says_to_come(cell)] if len(said) > 1 else said
    headings = list(takewhile(lambda cell: not is_number(cell) and cell.formula is None, body))
    body = body[len(headings) :] if len(headings) <= MORE_HEADINGS else body
    numbers = sum(is_number(cell) or cell.formula is not None for cell in body)
    return numbers * 2 > len(body)


def _label_column(table: Table, numeric: list[int]) -> int | None:
    """The text column with words in most rows, of those the one that says most, the leftmost of equals."""
    best, most = None, (0, 0)
    for index in sorted({*range(table.width)} - {*numeric}):
        letters = [sum(c.isalpha() for c in cell.text) for cell in table.column(index)]
        said = (sum(map(bool, letters)), sum(letters))
        if said > most:
            best, most = index, said
    return best
