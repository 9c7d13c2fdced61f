"""Where the lines of a table begin, below its titles and the headings of its columns."""

from __future__ import annotations

import re
from collections.abc import Collection
from itertools import pairwise

from humble_sum.core.intake.cell_reading import is_number, is_to_come, is_year, read_cell
from humble_sum.core.intake.periods import NUMBERED, names_period, period_of
from humble_sum.core.intake.shown_heading import heading_text
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.units import unit_of, unit_within
from humble_sum.core.intake.vocabulary import says

# Years of the Solar Hijri, Islamic and Buddhist calendars, where nothing else about them is like an amount.
OTHER_YEARS = (*range(1300, 1500), *range(2400, 2620))
MARKED = re.compile(r"[(\[\-\u2212+~\u2248<>]?\W?\d[\d.,' \u00a0]*")
HALVES = re.compile(r"\d{1,2} ?[HQM](?![a-z])", re.IGNORECASE)
# A year and a letter for what its figures are, actual, budget or estimated: 2026 B is no billions.
LETTERED = re.compile(r"(FY ?)?(19|20)\d\d ?[A-Z]|(FY ?|')\d\d ?[A-Z]?")
MOST_MARK_LETTERS = 3  # letters of the marks around a figure: 75 (a), 12 r


def first_line(table: Table, numeric: list[int], label: int | None) -> int:
    """The first row that is a line: one with a figure, unless all its figures are years above
    an empty label; or a labelled row below the headings."""
    for row, cells in enumerate(table.rows):
        figures = [cells[index] for index in numeric if is_number(cells[index])]
        years = _are_years(table, row, figures) and not _is_line_below_years(table, row, label, numeric)
        if (
            not figures
            or years
            or _heads_a_total(table, row, numeric)
            or _are_numbered(cells, label, figures)
        ):
            continue
        # Headings among the lines, such as "Income", stand right above their first line.
        while (
            row
            and label is not None
            and (
                _only_label(table.rows[row - 1], label, numeric)
                or _is_missing_line(table.rows[row - 1], label, numeric)
                or _is_marked_line(table, row - 1, label, numeric)
                or _is_text_line(table, row - 1, label, numeric)
            )
        ):
            row -= 1
        return _below_title(table, _past_gaps(table, row, label, numeric), label, numeric)
    return len(table.rows)


def _heads_a_total(table: Table, row: int, numeric: list[int]) -> bool:
    """Whether a row, with nothing above it over the figures, has numbers that head columns beside a total's:
    30, 60, 90, Total."""
    texts = [table.rows[row][index].text.strip() for index in numeric]
    headed = any(above[index].says for above in table.rows[:row] for index in numeric)
    return not headed and any(says(text, "total") for text in texts)


def _are_numbered(cells: tuple[SheetCell, ...], label: int | None, figures: list[SheetCell]) -> bool:
    """Whether numbers are shown as those of weeks or the like, by codes that put a word before each; any word
    where the row has no label."""
    shown = [text for cell in figures if (text := heading_text(cell)) != cell.text.strip()]
    bare = label is None or not cells[label].says
    return len(shown) == len(figures) and all(
        NUMBERED.fullmatch(text) or (bare and text[0].isalpha()) for text in shown
    )


def _past_gaps(table: Table, row: int, label: int | None, numeric: list[int]) -> int:
    """The first label above the lines that is a heading too though empty rows part it from them: it stands
    below what heads the figures, as no title does."""
    top = row
    while top and not any(table.rows[top - 1][index].says for index in numeric):
        top -= 1
    if not top or label is None:
        return row
    return next((above for above in range(top, row) if table.rows[above][label].says), row)


def _is_missing_line(cells: tuple[SheetCell, ...], label: int, numeric: list[int]) -> bool:
    """A line whose figures are all said to be missing, or to come."""
    said = [cells[index].text.strip() for index in numeric if cells[index].says]
    missing = [text for text in said if is_to_come(text)]
    return bool(said) and len(missing) == len(said) and bool(cells[label].text.strip())


def _is_marked_line(table: Table, row: int, label: int, numeric: list[int]) -> bool:
    """A line, below a heading, none of whose figures can be read as it stands: 1,234r, [25], 1e400."""
    cells = table.rows[row]
    said = [text for index in numeric if (text := cells[index].text.strip())]
    headed = any(table.rows[above][index].text.strip() for above in range(row) for index in numeric)
    return headed and bool(said) and bool(cells[label].text.strip()) and all(map(_is_marked, said))


def _is_text_line(table: Table, row: int, label: int, numeric: list[int]) -> bool:
    """A line, below headings, that says the same in each of several columns, as headings of columns do not:
    who audited each year."""
    cells = table.rows[row]
    name, texts = cells[label].text.strip(), [cells[index].text.strip() for index in numeric]
    if len(texts) < 2 or not texts[0] or len({*texts}) > 1 or not name or unit_of(name) is not None:
        return False
    if unit_of(texts[0]) is not None or names_period(texts[0]) or says(name, "line_or_account"):
        return False
    above = [[table.rows[n][index].text.strip() for index in numeric] for n in range(row)]
    return any(all(heads) and len({*heads}) == len(heads) for heads in above)


def _is_marked(text: str) -> bool:
    """Whether a text is a figure with marks that nothing reads, and neither a period nor a unit."""
    letters = sum(letter.isalpha() for letter in text)
    named = period_of(text) or names_period(text) or HALVES.match(text) or unit_of(text)
    if says(text, "instead"):
        return True
    return bool(MARKED.match(text)) and letters <= MOST_MARK_LETTERS and not named


def _below_title(table: Table, row: int, label: int | None, numeric: list[int]) -> int:
    """A title at the very top is no heading of the lines: what states a unit, or is followed by nothing but
    such texts, stays above. The lines begin below the last of these."""
    start = row
    while label is not None and row < len(table.rows):
        cells = table.rows[row]
        if not _only_label(cells, label, numeric) or unit_of(cells[label].text) is None:
            break
        row += 1
    return row if row < len(table.rows) else start


def _is_line_below_years(table: Table, row: int, label: int | None, numeric: list[int]) -> bool:
    """Whether a row of amounts that could be years has a name, and a year or period over each: fares of 1900
    and 1901, under 2026 and 2025. Total assets of 2015 and 1987 are one under any heading of each, since
    years over columns follow each other."""
    name = table.rows[row][label].text.strip() if label is not None else ""
    if not name or unit_of(name) is not None:
        return False
    above = table.rows[:row]
    if any(
        all(is_year(cells[index]) or period_of(cells[index].text) for index in numeric) for cells in above
    ):
        return True
    if _goes_on_below(table, row, {label, *numeric}):
        return True
    years = [read_cell(table.rows[row][index]).amount or 0 for index in numeric]
    apart = {high - low for low, high in pairwise(years)}
    headed = any(all(cells[index].says for index in numeric) for cells in above)
    return (headed or says(name, "total")) and not apart <= {0, 1, -1}


def _goes_on_below(table: Table, row: int, left_out: Collection[int | None]) -> bool:
    """Whether what stands beside the label and figures of a row goes on in the next one, as codes and units
    of lines do and headings do not: the same text, or numbers in both."""
    if row + 1 >= len(table.rows):
        return False
    pairs = [
        (here, below)
        for n, (here, below) in enumerate(zip(*table.rows[row : row + 2], strict=True))
        if n not in left_out and here.says and below.says
    ]
    return any(
        here.text == below.text or (is_number(here) and is_number(below) and not is_year(here))
        for here, below in pairs
    )


def _are_years(table: Table, row: int, figures: list[SheetCell]) -> bool:
    """Whether the first figures of a table are years above its columns; those of other calendars only if they
    follow each other, are written without marks and have no heading above them."""
    if all(
        is_year(cell) or LETTERED.fullmatch(heading_text(cell)) or _is_year_in_unit(table, row, cell)
        for cell in figures
    ):
        return True
    if len(figures) < 2 or not all(
        len(cell.text.strip()) == 4 and is_year(cell, OTHER_YEARS) for cell in figures
    ):
        return False
    years = [amount for cell in figures if (amount := read_cell(cell).amount) is not None]
    apart = {high - low for low, high in pairwise(years)}
    headed = any(is_number(cell) or period_of(cell.text) for above in table.rows[:row] for cell in above)
    return apart in ({1}, {-1}) and not headed


def _is_year_in_unit(table: Table, row: int, cell: SheetCell) -> bool:
    """Whether a cell is a year and the unit of what stands below it, where that says none: 2026 Mio. EUR."""
    unit, year = unit_within(cell.text)
    if unit is None or not year.isdecimal() or not is_year(SheetCell(year)):
        return False
    below = table.rows[row + 1 : row + 2] or ((),)
    return not any(unit_within(other.text)[0] for other in below[0] if is_number(other))


def _only_label(cells: tuple[SheetCell, ...], label: int, numeric: list[int]) -> bool:
    return cells[label].says and not any(cells[index].says for index in numeric)
