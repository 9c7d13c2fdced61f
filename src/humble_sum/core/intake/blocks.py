"""Tables one below another on a sheet, told apart by what speaks for another one beginning at a row.

Headings over its figures, a title, figures in other columns than above and an empty row speak for it.
Headings that are those above speak against it: they come again on every page.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from itertools import pairwise
from typing import Any

from humble_sum.core.intake.amount_reading import read
from humble_sum.core.intake.cell_reading import YEARS, is_number, is_to_come, is_year, read_cell
from humble_sum.core.intake.found_sums import found_sums
from humble_sum.core.intake.ledger_sides import side_mark
from humble_sum.core.intake.periods import names_period, period_of
from humble_sum.core.intake.shown_heading import heading_text
from humble_sum.core.intake.signals import HINTED, LIKE, MOST, NAMED, SETTLED, USUAL, Signal, settle
from humble_sum.core.intake.table import EMPTY, SheetCell, Table
from humble_sum.core.intake.units import unit_of
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.once import once

LIFETIME = 30  # years that tables on one sheet may lie apart
TOP = 12  # rows, before the first figures of a table, in which its titles and headings stand
MOST_ABOVE = 60  # rows above that a page below may add up
LONG, EACH = 2_000, 16  # rows of a table that are all looked at, and of how many beyond them one is
SEEN = 6  # rows of figures that tell the columns of a table that begins
Row = Sequence[SheetCell]


@dataclass(frozen=True)
class _Top:
    """What stands over the figures of a table that may begin at a row: its rows down to the first figures,
    and those of the first figures."""

    rows: tuple[Row, ...]
    figures: tuple[Row, ...]

    @once
    def columns(self) -> set[int]:
        """The columns of its figures, but for codes before the labels."""
        return _columns(self.figures)

    @once
    def heads(self) -> dict[int, str]:
        """The texts over its columns of figures: of the last row that has some and is neither of units nor of
        figures that are missing."""
        for row in reversed(self.rows):
            texts = {n: heading_text(row[n]) for n in self.columns if says_something(row[n])}
            if texts and not all(map(_is_no_head, texts.values())):
                return texts
        return {}

    @once
    def head_row(self) -> Row:
        """The row of those texts."""
        heads = self.heads
        return next(row for row in self.rows if all(heading_text(row[n]) == heads[n] for n in heads))

    @property
    def titled(self) -> bool:
        """Whether a row stands over the headings that says one thing, and no unit."""
        head = self.head_row
        for row in self.rows:
            if row is head:
                return False
            said = [cell for cell in row if says_something(cell)]
            if len(said) == 1 and is_words(said[0]) and unit_of(said[0].text) is None:
                return True
        return False


class _Above:
    """The rows of figures of the table so far: the last ones, and the columns of all."""

    def __init__(self) -> None:
        self.last: deque[Row] = deque(maxlen=MOST_ABOVE)
        self._figures: set[int] = set()
        self._label: int | None = None
        self._count = 0

    def has_figures(self, row: Row) -> bool:
        """Whether a row has figures: most have them where those above do."""
        return any(_is_figure(row[n]) for n in self._figures) or _has_figures(row)

    def add(self, row: Row) -> None:
        """One row more, looked at once; of a long table some rows tell which columns are of figures."""
        self.last.append(row)
        self._count += 1
        if self._count > LONG and self._count % EACH:
            return
        self._figures |= {n for n, cell in enumerate(row) if n not in self._figures and _is_figure(cell)}
        if self._label != 0:
            label = _label(row)
            self._label = label if self._label is None else min(label, self._label)

    @property
    def columns(self) -> set[int]:
        """The columns of figures, but for codes before the labels."""
        return _behind(self._label or 0, self._figures)


def blocks(table: Table) -> list[Table]:
    """The tables of a sheet from the top down, each with the titles over the first; the sheet itself where it
    is one. A table keeps its own rows and those titles, and calls every place as in the source."""
    starts = [0, *_starts(table.rows)]
    if len(starts) == 1:
        return [table]
    titles = first_headings(table)
    return [
        _titled(_rows(table, titles, start, end), start)
        for start, end in pairwise([*starts, len(table.rows)])
    ]


def _rows(table: Table, titles: int, start: int, end: int) -> Table:
    """The rows of one table of a sheet, below the titles of all. A title that says a unit stays away where
    the table states one of its own."""
    if not start:
        return replace(table, rows=table.rows[:end], **_kept(table, 0, 0, end))
    top = _top(table.rows, start, end)
    own = top is not None and any(_is_unit(cell) for row in top.rows for cell in row)
    empty = (EMPTY,) * table.width
    over = (empty if own and any(map(_is_unit, row)) else row for row in table.rows[:titles])
    rows = (*over, *table.rows[start:end])
    return replace(table, rows=rows, left_out=(titles, start - titles), **_kept(table, titles, start, end))


def _kept(table: Table, titles: int, start: int, end: int) -> dict[str, Any]:
    """The hidden rows and merged ranges of a sheet that one of its tables keeps, by its own rows."""
    by = start - titles
    merged = (
        (first - by, left, min(last, end - 1) - by, right)
        for first, left, last, right in table.merged
        if start <= first < end
    )
    over = (each for each in table.merged if each[2] < titles) if start else ()
    above = (row for row in table.hidden if row < titles)
    own = (row - by for row in table.hidden if start <= row < end)
    return {"merged": (*over, *merged), "hidden": frozenset((*above, *own))}


def _is_unit(cell: SheetCell) -> bool:
    return isinstance(cell.value, str) and unit_of(cell.text) is not None


def _starts(rows: Sequence[Row]) -> Iterator[int]:
    """The rows at which another table begins, by the evidence for it."""
    begun = _top(rows, 0, len(rows), within=len(rows))
    above = _Above()
    for place, row in enumerate(rows):
        figured = above.has_figures(row)
        if above.last and not figured and any(map(says_something, row)):
            empty = not any(map(says_something, rows[place - 1]))
            top = _top(rows, place, len(rows)) if empty or sum(map(says_something, row)) != 1 else None
            if top is None and not _has_figures(rows[place - 1]):
                continue
            top = top or _top(rows, place, len(rows))
            if top is not None and begun is not None and _begins(top, begun, above, empty):
                yield place
                begun, above = top, _Above()
        if figured:
            above.add(row)


def _top(rows: Sequence[Row], start: int, end: int, within: int = TOP) -> _Top | None:
    """What stands over the figures that follow a row, where these follow soon and have headings."""
    first = next((n for n in range(start, min(start + within, end)) if _has_figures(rows[n])), None)
    if first is None:
        return None
    figures = [row for row in rows[first : first + 2 * SEEN] if _has_figures(row)][:SEEN]
    top = _Top(tuple(rows[start:first]), tuple(figures))
    return top if top.heads else None


def _begins(top: _Top, begun: _Top, above: _Above, empty: bool) -> bool:
    verdict = settle("block", list(_signals(top, begun, above, empty)), ("another", "same"), "same")
    return verdict.reading == "another" and verdict.margin >= SETTLED


def _signals(top: _Top, begun: _Top, above: _Above, empty: bool) -> Iterator[Signal]:
    """What speaks for another table where these headings stand, and against it."""
    yield Signal("same", USUAL, "most rows go on with what is above")
    heads, head = top.heads, top.head_row
    columns, before = top.columns, above.columns
    again = {n: heading_text(begun.head_row[n]) for n in heads if n < len(begun.head_row)} == heads
    periods = any(
        _is_period(head[n]) or names_period(text) or period_of(text) is not None for n, text in heads.items()
    )
    over_all = {*heads} >= columns
    years = {year for row in begun.rows for cell in row for year in years_in(cell)}
    if _is_line(head, years):
        yield Signal("same", NAMED, "its first row is a line with amounts that could be years")
    named = [cell for n, cell in enumerate(head) if n not in columns and n < min(columns) and cell.says]
    lined = any(not _may_head(cell, begun) for cell in named)
    if over_all or periods:
        yield Signal("another", LIKE if lined and not periods else NAMED, "something heads its figures")
    if again:
        yield Signal("same", LIKE if empty or lined else NAMED, "its headings are those above")
        if _goes_on(above.last, top.figures, columns):
            yield Signal("same", MOST, "its lines add up what is above")
    if top.titled:
        yield Signal("another", HINTED, "a title stands over it")
    if columns - before:
        yield Signal("another", HINTED, "its figures stand in other columns")
    if empty:
        yield Signal("another", LIKE, "an empty row stands above it")
    elif not again:
        yield Signal("same", HINTED, "no empty row stands above it")


def _goes_on(above: Collection[Row], figures: Sequence[Row], columns: Collection[int]) -> bool:
    """Whether one of the first lines is, beyond chance, the sum of some above the headings: another page."""
    rows = [
        [read_cell(row[n]).amount if _is_figure(row[n]) else None for n in sorted(columns)]
        for row in (*above, *figures)
    ]
    sums = found_sums(rows)
    return any(
        each.sure and each.total >= len(above) > each.parts[0][0] and all(sign > 0 for _, sign in each.parts)
        for each in sums
    )


def _may_head(cell: SheetCell, begun: _Top) -> bool:
    """Whether a text beside headings is one too: what the column of labels is called, a unit, or as above."""
    text = cell.text.strip()
    if unit_of(text) or says(text, "line_or_account", "codes", "notes", "units", "currencies", "sides"):
        return True
    return any(heading_text(other) == heading_text(cell) for other in begun.head_row)


def _is_no_head(text: str) -> bool:
    """Whether a text over figures heads nothing: a unit, or what stands in place of a figure."""
    return unit_of(text) is not None or is_to_come(text) or says(text, "instead")


def _columns(rows: Sequence[Row]) -> set[int]:
    """The columns in which rows have figures, but for codes before the labels."""
    found = {n for row in rows for n, cell in enumerate(row) if _is_figure(cell)}
    return _behind(min(map(_label, rows), default=0), found)


def _label(row: Row) -> int:
    """The first column of a row with words."""
    return next((n for n, cell in enumerate(row) if is_words(cell)), 0)


def _behind(label: int, figures: set[int]) -> set[int]:
    return {n for n in figures if n > label} or figures


def _has_figures(row: Row) -> bool:
    return any(map(_is_figure, row))


def _is_figure(cell: SheetCell) -> bool:
    if cell.formula is not None:
        return True
    if type(cell.value) is Decimal:
        return not is_year(cell)
    if side_mark(cell) is not None:
        return True
    return is_number(cell) and not _is_bare_year(cell)


def _is_bare_year(cell: SheetCell) -> bool:
    """Whether a cell is a year, which nobody writes with a mark in it: 2,015 is an amount."""
    return is_year(cell) and (not isinstance(cell.value, str) or cell.value.strip().isdigit())


def first_figures(table: Table) -> int:
    """The first row with a figure that is no year."""
    return next((n for n, row in enumerate(table.rows) if _has_figures(row)), len(table.rows))


def first_headings(table: Table) -> int:
    """The first row of periods, or else of several texts: what stands above it is said of every table."""
    top = table.rows[: first_figures(table)]
    periods = (place for place, row in enumerate(top) if any(_is_period(cell) for cell in row[1:]))
    several = (place for place, row in enumerate(top) if sum(map(says_something, row)) > 1)
    return next(periods, next(several, 0))


def _is_line(row: Row, known: set[int]) -> bool:
    """Whether a row with a name has amounts that could be years: total assets of 2015 and 1987, under 2026
    and 2025. Years over a table follow each other, or are those of the one above."""
    years = [year for cell in row[1:] for year in years_in(cell)]
    bare = all(is_number(cell) for cell in row[1:] if says_something(cell))
    if not known or not years or not bare or not says_something(row[0]):
        return False
    near = any(abs(year - other) < LIFETIME for year in years for other in known)
    follow = {high - low for low, high in pairwise(years)} in ({1}, {-1})
    return not known & {*years} and not (near and follow)


def years_in(cell: SheetCell) -> list[int]:
    """The years that a cell names."""
    text = heading_text(cell)
    named = [int(word) for word in text.split() if len(word) == 4 and word.isdecimal() and int(word) in YEARS]
    period = period_of(text) if cell.says else None
    return named or ([period.year] if period else [])


def _titled(table: Table, start: int) -> Table:
    """A table called by the title that stands over it alone, where there is one."""
    for row in table.rows[table.left_out[0] :]:
        cells = [cell for cell in row if says_something(cell)]
        if len(cells) == 1 and is_words(cells[0]) and start:
            title = cells[0].text.strip()
            return replace(table, name=f"{table.name}: {title}" if table.name else title)
        if cells:
            break
    return table


def _is_period(cell: SheetCell) -> bool:
    """A year, a date, or words with a year in them."""
    if cell.value is None or cell.value == "":
        return False
    if isinstance(cell.value, date):
        return True
    if not isinstance(cell.value, str):
        return is_number(cell) and is_year(cell)
    return _is_bare_year(cell) or (
        not is_number(cell) and any(len(w) == 4 and w.isdigit() for w in cell.text.split())
    )


def says_something(cell: SheetCell) -> bool:
    """Whether a cell says or works out anything."""
    return cell.says or cell.formula is not None


def is_words(cell: SheetCell) -> bool:
    """Whether a cell is a text with letters that is no amount."""
    return (
        isinstance(cell.value, str)
        and any(c.isalpha() for c in cell.value)
        and read(cell.value).kind == "text"
    )
