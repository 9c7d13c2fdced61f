"""A draft: the statement a table could be, with the evidence for each sum and what needs a look."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace

from humble_sum.core.collecting import uncollected
from humble_sum.core.intake.by_sums import by_sums
from humble_sum.core.intake.code_clauses import Look
from humble_sum.core.intake.columns import Layout, lay_out
from humble_sum.core.intake.currency_cells import with_signs
from humble_sum.core.intake.decisions import (
    CONVENTIONS,
    UNDECIDED,
    ColumnDecided,
    TableDecided,
    unmet,
    with_cells,
)
from humble_sum.core.intake.draft_columns import columns_of, derived_columns, shares_among
from humble_sum.core.intake.draft_lines import DraftLine, read_lines
from humble_sum.core.intake.draft_sums import with_counted, with_sums
from humble_sum.core.intake.entries import Entries, entries_of
from humble_sum.core.intake.entries_added import added_up
from humble_sum.core.intake.formula_sums import formula_columns
from humble_sum.core.intake.found_sums import FoundSum
from humble_sum.core.intake.label_rows import with_whole_labels
from humble_sum.core.intake.label_steps import with_one_label
from humble_sum.core.intake.ledger_sides import with_sides
from humble_sum.core.intake.long_form import LongForm, form_of, set_out
from humble_sum.core.intake.looks import Looks, looks_of
from humble_sum.core.intake.row_reading import Doubt
from humble_sum.core.intake.scale_words import POWERS_BY_NAME
from humble_sum.core.intake.stated_totals import SourceBreak
from humble_sum.core.intake.table import Table, column_index, column_letters
from humble_sum.core.intake.units import Unit, unit_of
from humble_sum.core.statements.pack import Column

NOT_HERE = "was decided, and is not in this table"


@dataclass(frozen=True)
class Draft:
    """What a table was read as: columns, lines with their sums, offers not taken, and doubts.

    Sums, taken or offered, go by line numbers of the draft. `looks` is what a workbook's number
    codes say about printing. `across` is how one row an amount was set out. `entry_breaks` are totals among
    entries that these do not come to.
    """

    table: Table
    layout: Layout
    columns: tuple[Column, ...]
    lines: tuple[DraftLine, ...]
    offers: tuple[FoundSum, ...]
    doubts: tuple[Doubt, ...]
    currency: str | None
    looks: Looks
    decided: TableDecided = UNDECIDED
    across: LongForm | Entries | None = None
    entry_breaks: tuple[SourceBreak, ...] = ()

    @property
    def look(self) -> Look:
        """What the number codes say of most of its figures."""
        return self.looks.common

    @property
    def has_figures(self) -> bool:
        """Whether there is a statement in it at all."""
        return bool(self.columns and self.lines)


def draft(source: Table, decided: TableDecided = UNDECIDED) -> Draft:
    """Read a table into a draft statement, as was decided by hand. Nothing is kept, and nothing in doubt is
    settled silently. Amounts are in ones: by the unit that the source states, or by the one decided."""
    form, table, breaks = _set_out(source, decided)
    made = by_sums(_read(table, decided), lambda otherwise: _read(table, otherwise))
    if form is None and decided.across not in (None, "rows"):
        what = f"a column for each of {decided.across}"
        made = replace(made, doubts=(*made.doubts, Doubt(table.source, what, NOT_HERE)))
    return replace(made, across=form, entry_breaks=breaks)


def _set_out(
    source: Table, decided: TableDecided
) -> tuple[LongForm | Entries | None, Table, tuple[SourceBreak, ...]]:
    """How a table of one row an amount, or one row an entry, is set out as a statement; the table so; and the
    totals among entries that these do not come to."""
    if decided.across == "rows":
        return None, source, ()
    by = None if decided.across is None else column_index(decided.across)
    sided = with_sides(source)
    entries = entries_of(sided, by)
    if entries is not None:
        told = {n: CONVENTIONS[c.convention] for n, c in _columns_told(decided).items() if c.convention}
        return entries, *added_up(sided, entries, told)
    form = form_of(source, decided.across)
    return form, source if form is None else set_out(source, form), ()


def _columns_told(decided: TableDecided) -> dict[int, ColumnDecided]:
    """What was decided of columns, by their places."""
    found = {column_index(letters): told for letters, told in decided.columns.items()}
    return {place: told for place, told in found.items() if place is not None}


@uncollected()
def _read(source: Table, decided: TableDecided) -> Draft:
    table = with_sides(with_signs(with_cells(source, decided.cells)))
    noted = table.notes[len(source.notes) :]
    layout = lay_out(table, decided)
    if (one := with_one_label(table, layout, decided.columns)) is not table:
        source, table, layout = one, one, lay_out(one, decided)
    layout = _with_unit(layout, decided)
    lines, doubts, currencies = read_lines(table, layout, decided.rows)
    doubts += [Doubt(note.where, "Cr", note.what) for note in noted]
    lines, begun = with_whole_labels(lines, decided.rows)
    totals = {
        n: told.total
        for n, line in enumerate(lines)
        if (told := decided.rows.get(line.key)) is not None and told.total is not None
    }
    rows = {line.row: n for n, line in enumerate(lines)}
    shares = shares_among(table, layout, lines)
    apart = set(shares) | {n for n, c in enumerate(layout.figures) if c.percent or c.per_unit}
    lines, offers, circular = with_sums(table, layout, lines, rows, totals, apart)
    doubts += _of_labels_and_circles(table, layout, lines, begun, circular)
    lines = [
        line
        if line.parts or (line.counted and line.told is None) or line.by_itself == line.kind
        else replace(line, kind=line.by_itself)
        for line in with_counted(lines)
    ]
    doubts += _not_worked_out(table, layout, lines, shares)
    derived, off = derived_columns(table, layout, lines, apart)
    columns = columns_of(layout.figures, derived, shares, lines)
    doubts += off
    # A column of percentages prints as its codes say, where they say so.
    coded = {n for n in apart - set(shares) if _has_percent_codes(table, layout, n)}
    looks = looks_of(table, layout, lines, apart - coded)
    look = looks.common
    currency = _main_currency(currencies)
    doubts += _mixed(table, layout, lines, currency, currencies)
    currency = currency or look.clauses.get("currency") or _stated_currency(table, layout)
    currency = decided.currency or currency
    doubts += [Doubt(table.source, each, NOT_HERE) for each in _unmet_in(source, lines, decided)]
    return Draft(source, layout, columns, tuple(lines), offers, tuple(doubts), currency, looks, decided)


def _of_labels_and_circles(
    table: Table,
    layout: Layout,
    lines: Sequence[DraftLine],
    begun: Sequence[DraftLine],
    circular: Sequence[int],
) -> Iterator[Doubt]:
    """What is to be told of labels that go on in the next row, and of formulas that go round in a circle."""
    place = layout.figures[0].index if layout.figures else 0
    beside = layout.label.index if layout.label else 0
    for line in begun:
        why = "goes on in the row below, so both are one label"
        yield Doubt(table.place(line.row, beside), line.label, why)
    for n in circular:
        why = "its formula goes round in a circle, so not taken"
        yield Doubt(table.place(lines[n].row, place), lines[n].label, why)


def _has_percent_codes(table: Table, layout: Layout, place: int) -> bool:
    return any("%" in row[layout.figures[place].index].code for row in table.rows[layout.first_row :])


def _unmet_in(source: Table, lines: Sequence[DraftLine], decided: TableDecided) -> list[str]:
    """What was decided of lines and cells that are not in the table."""
    left_out = [key for key, each in decided.rows.items() if each.role == "left_out"]
    return unmet(decided, source, [*left_out, *(line.key for line in lines)])


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


def _with_unit(layout: Layout, decided: TableDecided) -> Layout:
    """The layout with the unit of every column settled: its own, then the table's; or one that was decided
    in place of its own, or of them all."""
    columns = []
    for column in layout.columns:
        unit = column.unit.over(layout.unit) if column.unit else layout.unit
        own = decided.columns.get(column_letters(column.index))
        name = (own.unit if own else None) or decided.unit
        power = POWERS_BY_NAME[name] if name is not None else None
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
    """Lines in another currency than most, which are kept in their own; where most are in none, all at
    once."""
    if len(all_of) < 2:
        return
    place = layout.figures[0].index
    if main is None:
        named = ", ".join(sorted(all_of))
        yield Doubt(
            table.place(layout.first_row, place),
            named,
            "its lines are in several currencies, each kept in its own",
        )
        return
    for line in lines:
        if line.currency and line.currency != main:
            why = f"in another currency, {line.currency}, than {main}; kept in its own"
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
