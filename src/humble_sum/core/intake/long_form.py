"""Tables of one row an amount, with a column that says which period each is of: set out with a column for
each period, as a statement has them."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from itertools import combinations, islice

from humble_sum.core.errors import Fault
from humble_sum.core.intake.cell_reading import is_number, is_year, says_to_come
from humble_sum.core.intake.column_times import WRITTEN
from humble_sum.core.intake.period_words import english_months, part_of_year
from humble_sum.core.intake.periods import period_of
from humble_sum.core.intake.table import EMPTY, SheetCell, Table, column_index
from humble_sum.core.intake.units import unit_within
from humble_sum.core.intake.vocabulary import says

LEAST_HEADS = 3  # columns at least: what, when, how much
LEAST_ROWS, MOST_ACROSS = 4, 60
OFTEN = 1.5  # rows for each line, on average, from which lines are said to come again
FULL = 0.4  # of all lines in all periods, the least part that has a row
LONGEST_TIME = 24  # characters of a period
MOSTLY_EMPTY = 0.2  # part of a column's cells up to which it holds remarks
MONTH_NUMBERED = re.compile(r"(\d{1,2})[./-](\d{4})")


@dataclass(frozen=True)
class LongForm:
    """How a table of one row an amount is made: the row of headings and that after the last amount; the
    columns that name a line together, that say its period together, that hold amounts, and that say the same
    for a line in every period; and those that are left out. `name` is what heads its periods."""

    head: int
    end: int
    labels: tuple[int, ...]
    by: tuple[int, ...]
    values: tuple[int, ...]
    kept: tuple[int, ...]
    left_out: tuple[int, ...]
    name: str


def form_of(table: Table, across: str | None) -> LongForm | None:
    """How a table has one row an amount, by what was decided: nothing, to read it row by row, or a column."""
    if across == "rows":
        return None
    return long_form(table, None if across is None else column_index(across))


def long_form(table: Table, by: int | None = None) -> LongForm | None:
    """How a table has one row an amount, each of a line in a period, or in whatever the column `by` says;
    None where it has not, or where two rows are of the same."""
    head = next((n for n, row in enumerate(table.rows) if sum(c.says for c in row) >= LEAST_HEADS), None)
    if (
        head is None
        or (by is not None and by >= table.width)
        or any(is_number(cell) for cell in table.rows[head])
    ):
        return None
    alone = [(by,)] if by is not None else [(column,) for column in _times(table, head)]
    together = [] if by is not None else [(*a, *b) for a, b in combinations(alone, 2)]
    # A month is of its year, even where there is one year only.
    dated = [each for each in together if _is_dated(table.rows[head], each)]
    for across, named in ((dated, 1), (alone, 1), (together, 1), (dated, 2), (alone, 2)):
        for columns in across:
            if (found := _by(table, head, columns, named)) is not None:
                return found
    return None


def other_forms(table: Table) -> Iterator[LongForm]:
    """The ways to set out a table whose lines come again by a column of words that are no periods."""
    for column in range(table.width):
        if any(is_number(row[column]) for row in table.rows) or _is_of_sides(table.rows, column):
            continue
        if (found := long_form(table, column)) is not None:
            yield found


def _times(table: Table, head: int) -> Iterator[int]:
    """Columns that may say the period, or a part of it."""
    for column, cell in enumerate(table.rows[head]):
        below = (row[column] for row in islice(table.rows, head + 1, None))
        if all(_is_time(each, cell.text.strip()) for each in below if each.says):
            yield column


def _is_dated(heads: Sequence[SheetCell], by: Sequence[int]) -> bool:
    texts = [heads[n].text.strip() for n in by]
    return any(says(text, "year_column") for text in texts) and any(
        says(text, "part_column") for text in texts
    )


def _is_time(cell: SheetCell, heading: str) -> bool:
    """Whether a cell names a period, or a version of it: Actual, Budget."""
    text = cell.text.strip()
    if isinstance(cell.value, date):
        return True
    if says(heading, "year_column", "part_column", "date_column"):
        return len(text) <= LONGEST_TIME and (not is_number(cell) or "," not in text)
    if is_number(cell) or len(text) > LONGEST_TIME:
        return False
    return period_of(text) is not None or says(text, "version")


def _by(table: Table, head: int, by: tuple[int, ...], named: int) -> LongForm | None:
    """The form of a table whose periods stand in these columns, and its lines' names in so many."""
    heads = [cell.text.strip() for cell in table.rows[head]]
    below = range(head + 1, len(table.rows))
    end = next((n for n in below if not table.rows[n][by[0]].says), len(table.rows))
    rows = table.rows[head + 1 : end]
    after = table.rows[end:]
    if len(rows) < LEAST_ROWS or any(row[n].says for row in after for n in by):
        return None
    periods = [tuple(_said(row[n], heads[n]) for n in by) for row in rows]
    if not 2 <= len(set(periods)) <= MOST_ACROSS or any("" in period for period in periods):
        return None
    rest = [n for n in range(table.width) if n not in by and (heads[n] or any(row[n].says for row in rows))]
    numeric = [n for n in rest if _is_numeric(rows, n) and not _is_code(heads[n])]
    words = [n for n in rest if n not in numeric and all(row[n].says for row in rows)]
    words = [n for n in words if not _is_of_sides(rows, n)]
    words.sort(key=lambda n: (_is_code(heads[n]), says(heads[n], "units")))
    for labels in combinations(words, named):
        labels = tuple(sorted(labels))
        lines = [tuple(row[n].text.strip() for n in labels) for row in rows]
        if len(set(zip(lines, periods, strict=True))) < len(rows):
            continue
        several = len(set(lines))
        if several < 2 or len(rows) < OFTEN * several or len(rows) < FULL * several * len(set(periods)):
            continue
        remarks = [n for n in rest if n not in labels and _is_remark(rows, n)]
        others = [n for n in rest if n not in labels and n not in remarks]
        same = [n for n in others if _is_same(rows, n, lines)]
        amounts = [n for n in numeric if n in others]
        values = [n for n in amounts if n not in same] or amounts[-1:]
        kept = [n for n in same if n not in values]
        if values and set(others) == {*values, *kept} and not _has_bare_formula(rows, values):
            name = " and ".join(heads[n] or "column" for n in by)
            return LongForm(head, end, labels, by, tuple(values), tuple(kept), tuple(remarks), name)
    return None


def _is_numeric(rows: Sequence[Sequence[SheetCell]], column: int) -> bool:
    cells = [row[column] for row in rows if row[column].says and not says_to_come(row[column])]
    return bool(cells) and all(is_number(cell) or cell.formula is not None for cell in cells)


def _is_code(heading: str) -> bool:
    return says(heading, "codes", "line_or_account")


def _is_of_sides(rows: Sequence[Sequence[SheetCell]], column: int) -> bool:
    """Whether a column names no lines but the side of each: all it says, but for a heading, is debit and
    credit."""
    texts = [row[column].text.strip() for row in rows if row[column].says]
    sides = sum(says(text, "debit", "credit") for text in texts)
    return sides > 1 and sides >= len(texts) - 1


def _is_remark(rows: Sequence[Sequence[SheetCell]], column: int) -> bool:
    said = [row[column] for row in rows if row[column].says]
    return len(said) <= MOSTLY_EMPTY * len(rows) and not any(is_number(cell) for cell in said)


def _is_same(rows: Sequence[Sequence[SheetCell]], column: int, lines: Sequence[tuple[str, ...]]) -> bool:
    """Whether a column says the same for a line in every period."""
    known: dict[tuple[str, ...], str] = {}
    return all(
        known.setdefault(line, row[column].text) == row[column].text
        for line, row in zip(lines, rows, strict=True)
    )


def _has_bare_formula(rows: Sequence[Sequence[SheetCell]], columns: Sequence[int]) -> bool:
    """Whether a formula has no saved value, which would be lost where it is moved."""
    cells = (row[n] for row in rows for n in columns)
    return any(cell.formula is not None and cell.value in (None, "") for cell in cells)


class _Sheet:
    """A table being set out: cells by their new row and column, each with where it was. The first to come to
    a place stays there."""

    def __init__(self, table: Table) -> None:
        self.table = table
        self.cells: dict[tuple[int, int], SheetCell] = {}
        self.origins: dict[tuple[int, int], tuple[int, int]] = {}
        self.notes: list[Fault] = []
        self.hidden: set[int] = set()

    def put(self, row: int, column: int, cell: SheetCell, source: tuple[int, int]) -> None:
        """One cell, with its row and column in the table."""
        if (row, column) not in self.cells:
            self.cells[row, column] = cell
            self.origins[row, column] = self.table.origin(*source)

    def done(self, height: int, width: int) -> Table:
        """The table set out."""
        rows = tuple(tuple(self.cells.get((r, c), EMPTY) for c in range(width)) for r in range(height))
        notes, hidden = (*self.table.notes, *self.notes), frozenset(self.hidden)
        return replace(self.table, rows=rows, notes=notes, hidden=hidden, merged=(), origins=self.origins)


def set_out(table: Table, form: LongForm) -> Table:
    """The table with a row for each line and a column for each period, in the order in which they come. Where
    a cell was is kept with it; a formula is its saved value, as what it names is not there any more. What has
    no period, such as a total of them all, is left out and named."""
    made, heads = _Sheet(table), table.rows[form.head]
    first, several = form.labels[0], len(form.values)
    beside = [n for n in sorted({*form.labels, *form.kept}) if n == first or n not in form.labels]
    unit = heads[form.values[0]] if several == 1 and unit_within(heads[form.values[0]].text)[0] else None
    top = form.head + (unit is not None)
    for place in range(form.head):
        for column, cell in enumerate(table.rows[place]):
            made.put(place, column, cell, (place, column))
    for number, column in enumerate(beside):
        named = _joined([heads[n].text for n in form.labels], heads[column], column == first)
        made.put(top, number, named, (form.head, column))
    if unit is not None:
        made.put(form.head, 0, unit, (form.head, form.values[0]))
    lines, periods = _lines_set_out(made, form, beside, top)
    below = top + 1 + lines
    _rest_set_out(made, form, below)
    for column in form.left_out:
        what = f"“{heads[column].text.strip()}” is left out."
        made.notes.append(Fault(table.place(form.head, column), what))
    width = max([len(beside) + several * periods, *(_last_said(row) for row in table.rows[: form.head])])
    return made.done(below + len(table.rows) - form.end, width)


def _lines_set_out(made: _Sheet, form: LongForm, beside: Sequence[int], top: int) -> tuple[int, int]:
    """The lines below their headings; how many there are, and how many periods."""
    heads, several = made.table.rows[form.head], len(form.values)
    lines: dict[tuple[str, ...], int] = {}
    periods: dict[tuple[str, ...], int] = {}
    for place in range(form.head + 1, form.end):
        row = made.table.rows[place]
        label = tuple(row[n].text.strip() for n in form.labels)
        period = tuple(_said(row[n], heads[n].text.strip()) for n in form.by)
        line = top + 1 + lines.setdefault(label, len(lines))
        across = len(beside) + several * periods.setdefault(period, len(periods))
        for number, column in enumerate(beside):
            cell = _joined(label, row[column], column == form.labels[0])
            made.put(line, number, cell, (place, column))
        for number, column in enumerate(form.values):
            heading = heads[column].text.strip() if several > 1 else ""
            over = _heading(made.table, form, place, heading)
            made.put(top, across + number, over, (place, form.by[0]))
            made.put(line, across + number, row[column]._replace(formula=None), (place, column))
        if place in made.table.hidden:
            made.hidden.add(line)
    return len(lines), len(periods)


def _joined(labels: Sequence[str], alone: SheetCell, first: bool) -> SheetCell:
    """The cell of the first column beside the figures: several labels together. Any other as it is."""
    text = ", ".join(labels) if first and len(labels) > 1 else ""
    return SheetCell(text) if text else alone


def _rest_set_out(made: _Sheet, form: LongForm, below: int) -> None:
    """What stands below the last row: its words are kept, and figures that say no period are named."""
    table = made.table
    for number, place in enumerate(range(form.end, len(table.rows))):
        below_it = enumerate(table.rows[place])
        said = [(n, cell) for n, cell in below_it if cell.says or cell.formula is not None]
        lost = [n for n, cell in said if is_number(cell) or cell.formula is not None]
        if lost:
            named = " ".join(cell.formula or cell.text.strip() for _, cell in said)
            what = f"“{named}” says no {form.name}: left out."
            made.notes.append(Fault(table.place(place, lost[0]), what))
        elif said:
            made.put(below + number, 0, said[0][1], (place, said[0][0]))


def _last_said(row: Sequence[SheetCell]) -> int:
    return max((n + 1 for n, cell in enumerate(row) if cell.says), default=0)


def _heading(table: Table, form: LongForm, place: int, value: str) -> SheetCell:
    """What stands over the amounts of a row's period: its own cell, or words that are no number."""
    row, heads = table.rows[place], table.rows[form.head]
    said = [_said(row[n], heads[n].text.strip()) for n in form.by]
    if says(heads[form.by[0]].text.strip(), "year_column") and len(said) > 1:
        said.reverse()  # January 2026, and FY26 Actual
    text = " ".join([*said, *([value] if value else [])])
    alone = len(form.by) == 1 and not value
    return row[form.by[0]] if alone and text == row[form.by[0]].text.strip() else SheetCell(text)


def _said(cell: SheetCell, heading: str) -> str:
    """A period as words, by which two cells are of one: 202603 is 2026-03, months 3 and 03 are March."""
    text = cell.text.strip()
    if isinstance(cell.value, date) or is_year(cell) or not (is_number(cell) or text.isdigit()):
        return text
    if WRITTEN.fullmatch(text):
        return "-".join(filter(None, (text[:4], text[4:6], text[6:])))
    if found := MONTH_NUMBERED.fullmatch(text):
        return f"{found[2]}-{int(found[1]):02d}"
    number = int(text) if text.isdigit() else 0
    part = part_of_year(heading)
    if part == "month" and number in range(1, 13):
        return english_months()[number - 1]
    if part == "quarter" and number:
        return f"Q{number}"
    return f"{heading or 'Column'} {text}"
