"""A draft: the statement a table could be, with the evidence for each sum and what needs a look."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.amounts import EXACT, signed
from humble_sum.core.amounts import total as total_of
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.intake.arithmetic import across as relations_across
from humble_sum.core.intake.by_sums import by_sums
from humble_sum.core.intake.code_clauses import Look
from humble_sum.core.intake.columns import ColumnRead, Layout, lay_out
from humble_sum.core.intake.currency_cells import with_signs
from humble_sum.core.intake.decisions import (
    CONVENTIONS,
    UNDECIDED,
    ColumnDecided,
    TableDecided,
    unmet,
    with_cells,
)
from humble_sum.core.intake.draft_lines import MOST_LABEL, DraftLine, read_lines
from humble_sum.core.intake.draft_sums import with_counted, with_sums
from humble_sum.core.intake.entries import Entries, entries_of, set_out_entries
from humble_sum.core.intake.formula_sums import formula_columns, formula_shares
from humble_sum.core.intake.found_shares import found_shares
from humble_sum.core.intake.found_sums import SURE_BITS, FoundSum, Parts, found_columns
from humble_sum.core.intake.kinds import usual_sign_of
from humble_sum.core.intake.label_rows import with_whole_labels
from humble_sum.core.intake.label_steps import with_one_label
from humble_sum.core.intake.ledger_sides import with_sides
from humble_sum.core.intake.long_form import LongForm, form_of, set_out
from humble_sum.core.intake.looks import Looks, looks_of
from humble_sum.core.intake.periods import YEAR_ALONE, period_of
from humble_sum.core.intake.row_reading import Doubt
from humble_sum.core.intake.scale_words import POWERS_BY_NAME
from humble_sum.core.intake.signals import NAMED
from humble_sum.core.intake.table import Table, column_index, column_letters
from humble_sum.core.intake.units import Unit, unit_of
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.rules.rulebook import LineKind
from humble_sum.core.statements.pack import OWN_ACROSS, RATIOS, Column, Line, Statement, UsualSign

NOT_HERE = "was decided, and is not in this table"


@dataclass(frozen=True)
class Draft:
    """What a table was read as: columns, lines with their sums, offers not taken, and doubts.

    Sums, taken or offered, go by line numbers of the draft. `looks` is what a workbook's number
    codes say about printing. `across` is how one row an amount was set out.
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
    form, table = _set_out(source, decided)
    made = by_sums(_read(table, decided), lambda otherwise: _read(table, otherwise))
    if form is None and decided.across not in (None, "rows"):
        what = f"a column for each of {decided.across}"
        made = replace(made, doubts=(*made.doubts, Doubt(table.source, what, NOT_HERE)))
    return replace(made, across=form)


def _set_out(source: Table, decided: TableDecided) -> tuple[LongForm | Entries | None, Table]:
    """How a table of one row an amount, or one row an entry, is set out as a statement; and the table so."""
    if decided.across == "rows":
        return None, source
    by = None if decided.across is None else column_index(decided.across)
    entries = entries_of(source, by)
    if entries is not None:
        told = {n: CONVENTIONS[c.convention] for n, c in _columns_told(decided).items() if c.convention}
        return entries, set_out_entries(source, entries, told)
    form = form_of(source, decided.across)
    return form, source if form is None else set_out(source, form)


def _columns_told(decided: TableDecided) -> dict[int, ColumnDecided]:
    """What was decided of columns, by their places."""
    found = {column_index(letters): told for letters, told in decided.columns.items()}
    return {place: told for place, told in found.items() if place is not None}


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
    shares = formula_shares(table, layout, rows) or _found_shares(table, layout, lines)
    apart = set(shares) | {n for n, c in enumerate(layout.figures) if c.percent or c.per_unit}
    lines, offers, circular = with_sums(table, layout, lines, rows, totals, apart)
    place = layout.figures[0].index if layout.figures else 0
    beside = layout.label.index if layout.label else 0
    why = "goes on in the row below, so both are one label"
    doubts += [Doubt(table.place(line.row, beside), line.label, why) for line in begun]
    doubts += [
        Doubt(
            table.place(lines[n].row, place),
            lines[n].label,
            "its formula goes round in a circle, so not taken",
        )
        for n in circular
    ]
    lines = [
        line
        if line.parts or (line.counted and line.told is None) or line.by_itself == line.kind
        else replace(line, kind=line.by_itself)
        for line in with_counted(lines)
    ]
    doubts += _not_worked_out(table, layout, lines, shares)
    adding = [
        [amount for n, amount in enumerate(line.amounts) if n not in apart]
        for line in lines
        if not line.heading and line.kind not in RATIOS
    ]
    given = [n for n in range(len(layout.figures)) if n not in apart]
    across = found_columns(adding, _called_totals(layout, given))
    found = {
        given[total]: tuple((given[part], sign) for part, sign in parts)
        for total, parts in (_differences(layout, given, adding, across) | across).items()
        if not _years_apart(layout, [given[total], *(given[part] for part, _ in parts)], parts)
    }
    by_formula = formula_columns(table, layout)
    derived = by_formula or found
    for n, line in _off_across(lines, by_formula):
        derived = {total: parts for total, parts in derived.items() if total != n}
        sheet_place = (line.row, layout.figures[n].index)
        why = (
            f"not what the columns that {layout.figures[n].heading} adds come to, so it is read as it stands"
        )
        doubts.append(Doubt(table.place(*sheet_place), table.rows[sheet_place[0]][sheet_place[1]].text, why))
    columns = _columns(layout.figures, derived, shares, lines)
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
            (line for line in lines if line.kind not in OWN_ACROSS and _is_off(line, total, parts)), None
        )
        if line is not None:
            found.append((total, line))
    return found


def _is_off(line: DraftLine, column: int, parts: Parts) -> bool:
    """Whether a line states another amount in a column than its parts, all there, come to."""
    stated = line.amounts[column]
    adding = [(sign, line.amounts[part]) for part, sign in parts]
    if line.heading or stated is None or any(amount is None for _, amount in adding):
        return False
    return stated != total_of([signed(sign, amount) for sign, amount in adding if amount is not None])


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


def statement_of(made: Draft, id: str, name: str) -> Statement:
    """The draft as a statement. Totals keep the amounts the source states for them, so that where
    these are not their parts' sum there is a source break, and not a quiet correction.

    Raises InputError where no column or no line is left of it.
    """
    if not made.has_figures:
        what = "No line with a figure is left of this table."
        raise InputError(
            "no-table", Fault(made.table.source, what, "Say which columns are figures, or leave it out.")
        )
    counted = {part for line in made.lines for part, _ in line.parts}
    taken_off = _taken_off(made)

    def turned(line: int) -> int:
        return -1 if line in taken_off else 1

    indents = any(line.indent for line in made.lines)
    lines = []
    for number, line in enumerate(made.lines):
        kind: LineKind = "heading" if line.heading else line.kind or "line"
        if line.parts:
            kind = "subtotal" if number in counted else "total"
        amounts = {
            column.id: _negated(amount) if number in taken_off else amount
            for column, amount in zip(made.columns, line.amounts, strict=True)
            if not line.heading
            and (not column.derived or (column.sum and _states_own(made, line, kind, column)))
            and not (line.parts and amount is None)
        }
        lines.append(
            Line.model_validate(
                {
                    "id": line.id,
                    "label": line.label,
                    "kind": kind,
                    "parts": tuple(
                        (made.lines[part].id, sign * turned(number) * turned(part))
                        for part, sign in line.parts
                    ),
                    "amounts": amounts,
                    "natural": _usual_sign(line, number in taken_off),
                    "indent": line.indent if indents else None,
                    "currency": line.currency if line.currency != made.currency else None,
                }
            )
        )
    return Statement(id=id, name=name, title=name, columns=made.columns, lines=tuple(lines))


def _states_own(made: Draft, line: DraftLine, kind: LineKind, column: Column) -> bool:
    """Whether a line has an amount of its own in a column that adds others: a ratio, or a count that is not
    what they come to."""
    if kind not in OWN_ACROSS:
        return False
    numbers = {each.id: n for n, each in enumerate(made.columns)}
    parts = tuple((numbers[id], sign) for id, sign in column.terms)
    return kind in RATIOS or _is_off(line, numbers[column.id], parts)


def _taken_off(made: Draft) -> set[int]:
    """The lines that their totals take off, and the parts of those, where costs shown positive are kept as
    negative amounts."""
    if made.decided.costs != "negative":
        return set()
    uses: dict[int, list[tuple[int, int]]] = {}
    for total, line in enumerate(made.lines):
        for part, sign in line.parts:
            uses.setdefault(part, []).append((total, sign))
    signs: dict[int, int] = {}

    def sign_of(line: int) -> int:
        if line not in signs:
            signs[line] = 1
            found = {sign_of(total) * sign for total, sign in uses.get(line, ())}
            signs[line] = -1 if found == {-1} else 1
        return signs[line]

    return {line for line in range(len(made.lines)) if sign_of(line) < 0}


def _negated(amount: Decimal | None) -> Decimal | None:
    return None if amount is None else EXACT.minus(amount) if amount else amount


def _usual_sign(line: DraftLine, taken_off: bool) -> UsualSign:
    if line.heading:
        return "either"
    return usual_sign_of([_negated(amount) for amount in line.amounts] if taken_off else line.amounts)


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
