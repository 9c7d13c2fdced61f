"""Several tables in one sheet, told apart: two sides beside each other, or one below another.

Each region keeps the rows and columns of its sheet, with what belongs to another left empty, so that every
place is still called as in the source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from humble_sum.core.intake.amount_reading import read
from humble_sum.core.intake.cell_reading import YEARS, is_number, is_year
from humble_sum.core.intake.periods import period_of
from humble_sum.core.intake.shown_heading import heading_text
from humble_sum.core.intake.table import EMPTY, SheetCell, Table

MOST_GAPS = 40  # empty columns that two sides are looked for on either side of
LIFETIME = 30  # years that tables on one sheet may lie apart
HEADING_WITHIN = 4  # rows after an empty one in which a new table's heading is looked for


def regions(table: Table) -> list[Table]:
    """The tables of a sheet, in the order in which they are read; the sheet itself where it is one."""
    return [side for part in _one_below_another(table) for side in _sides(part)]


def has_figures(table: Table) -> bool:
    """Whether there is a figure in a table at all, or a formula for one."""
    return any(
        cell.formula is not None or (is_number(cell) and not is_year(cell))
        for row in table.rows
        for cell in row
    )


def _sides(table: Table) -> list[Table]:
    """Two sides, each with labels and figures of its own: with an empty column between, or headed alike."""
    said = {column for row in table.rows for column, cell in enumerate(row) if _said(cell)}
    gaps = [gap for gap in range(1, table.width - 2) if gap not in said and gap + 1 in said]
    ways = [(range(gap), range(gap + 1, table.width)) for gap in gaps[:MOST_GAPS]]
    if (begins := _headed_again(table)) is not None:
        ways.append((range(begins), range(begins, table.width)))
    for left, right in ways:
        if all(_has_labels_and_figures(table, side) for side in (left, right)):
            first = _first_figures(table)
            parts = (_only(table, set(left), first), _only(table, set(right), first))
            return [_named(part, side) for part, side in zip(parts, (left, right), strict=True)]
    return [table]


def _headed_again(table: Table) -> int | None:
    """Where the second half of a table begins whose figures are headed as those of the first are:
    liabilities, rupees, assets, rupees."""
    first = _first_figures(table)
    heads = next((row for row in reversed(table.rows[:first]) if sum(map(_said, row)) > 1), ())
    texts = [cell.text.strip().casefold() for cell in heads]
    while texts and not texts[-1]:
        texts.pop()
    half, odd = divmod(len(texts), 2)
    if odd or half < 2 or not all(texts[1:half]) or texts[1:half] != texts[half + 1 :]:
        return None
    words = [row[half].text.strip() for row in table.rows[first:] if _is_words(row[half])]
    return half if len(set(words)) == len(words) > 1 else None


def _has_labels_and_figures(table: Table, side: range) -> bool:
    """Whether a side has rows that begin with words and go on with figures."""
    rows = 0
    for row in table.rows:
        cells = [row[column] for column in side if _said(row[column])]
        if len(cells) > 1 and _is_words(cells[0]) and any(is_number(cell) for cell in cells[1:]):
            rows += 1
    return rows > 1


def _first_figures(table: Table) -> int:
    """The first row with a figure that is no year."""
    for place, row in enumerate(table.rows):
        if any(is_number(cell) and not is_year(cell) for cell in row):
            return place
    return len(table.rows)


def _only(table: Table, columns: set[int], first: int) -> Table:
    """One side of a table. Titles above the lines are everybody's, but for the headings right above them."""
    rows = []
    for place, row in enumerate(table.rows):
        said = sum(_said(cell) for cell in row)
        title = place < first and said == 1
        rows.append(tuple(cell if title or n in columns else EMPTY for n, cell in enumerate(row)))
    return replace(table, rows=tuple(rows))


def _named(table: Table, side: range) -> Table:
    """A side called by what heads its labels, beside the sheet's own name."""
    first = _first_figures(table)
    for row in reversed(table.rows[:first]):
        cells = [row[column] for column in side if _said(row[column])]
        if len(cells) > 1 and _is_words(cells[0]):
            heading = cells[0].text.strip()
            return replace(table, name=f"{table.name}: {heading}" if table.name else heading)
    return table


def _one_below_another(table: Table) -> list[Table]:
    """Tables with an empty row between them and a heading of periods over each."""
    starts = [0]
    figures = False
    over: set[int] = set()  # the years above the first figures
    heads = [heading_text(cell) for cell in table.rows[_first_heading(table)]] if table.rows else []
    for place in range(1, len(table.rows)):
        above, row = table.rows[place - 1], table.rows[place]
        figures = figures or any(is_number(cell) and not is_year(cell) for cell in above)
        if not figures:
            over.update(year for cell in above for year in _years_in(cell))
        begins = figures and any(map(_said, row)) and (not any(map(_said, above)) or _headed_as(row, heads))
        if begins and _heading_follows(table, place, over):
            starts.append(place)
            figures, over = False, set()
    if len(starts) == 1:
        return [table]
    titles = _first_heading(table)
    ends = [*starts[1:], len(table.rows)]
    found = []
    for start, end in zip(starts, ends, strict=True):
        rows = tuple(
            row if start <= place < end or place < titles else (EMPTY,) * table.width
            for place, row in enumerate(table.rows)
        )
        found.append(_titled(replace(table, rows=rows), start, end))
    return found


def _headed_as(row: Sequence[SheetCell], heads: Sequence[str]) -> bool:
    """Whether a row says the same over the figures as the first headings do, under a name of its own: another
    table begins with it."""
    if sum(map(bool, heads[1:])) < 2 or not row[0].says:
        return False
    again = all(heading_text(cell) == head for cell, head in zip(row[1:], heads[1:], strict=True))
    return again and heading_text(row[0]) != heads[0]


def _heading_follows(table: Table, start: int, known: set[int]) -> bool:
    """Whether a row of periods stands over figures soon below this row, before any line; `known` are the
    years over the table above."""
    for place in range(start, min(start + HEADING_WITHIN, len(table.rows) - 1)):
        row = table.rows[place]
        if any(is_number(cell) and not is_year(cell) for cell in row) or _is_line(row, known):
            return False
        if sum(_is_period(cell) for cell in row[1:]) > 0:
            below = table.rows[place + 1 : place + 4]
            return any(is_number(cell) and not is_year(cell) for under in below for cell in under)
    return False


def _is_line(row: Sequence[SheetCell], known: set[int]) -> bool:
    """Whether a row with a name has amounts that could be years: total assets of 2015 and 1987, under 2026
    and 2025. Years over a table follow each other, or are those of the one above."""
    years = [year for cell in row[1:] for year in _years_in(cell)]
    bare = all(is_number(cell) for cell in row[1:] if _said(cell))
    if not known or not years or not bare or not _said(row[0]):
        return False
    near = any(abs(year - other) < LIFETIME for year in years for other in known)
    follow = {high - low for low, high in pairwise(years)} in ({1}, {-1})
    return not known & {*years} and not (near and follow)


def _years_in(cell: SheetCell) -> list[int]:
    text = heading_text(cell)
    named = [int(word) for word in text.split() if len(word) == 4 and word.isdecimal() and int(word) in YEARS]
    period = period_of(text) if cell.says else None
    return named or ([period.year] if period else [])


def _first_heading(table: Table) -> int:
    """The first row of periods: what stands above it is said of every table below."""
    for place, row in enumerate(table.rows):
        if any(_is_period(cell) for cell in row[1:]):
            return place
    return 0


def _titled(table: Table, start: int, end: int) -> Table:
    """A table called by the title that stands over it alone, where there is one."""
    for row in table.rows[start:end]:
        cells = [cell for cell in row if _said(cell)]
        if len(cells) == 1 and _is_words(cells[0]) and start:
            title = cells[0].text.strip()
            return replace(table, name=f"{table.name}: {title}" if table.name else title)
        if cells:
            break
    return table


def _is_period(cell: SheetCell) -> bool:
    """A year, a date, or words with a year in them."""
    if cell.value is None or cell.value == "":
        return False
    if not isinstance(cell.value, str):
        return is_year(cell) if is_number(cell) else not isinstance(cell.value, bool)
    return is_year(cell) or (
        not is_number(cell) and any(len(w) == 4 and w.isdigit() for w in cell.text.split())
    )


def _said(cell: SheetCell) -> bool:
    return cell.says or cell.formula is not None


def _is_words(cell: SheetCell) -> bool:
    return (
        isinstance(cell.value, str)
        and any(c.isalpha() for c in cell.value)
        and read(cell.value).kind == "text"
    )
