"""What stands over the columns of a table: headings in several rows, merged or spread over others."""

from __future__ import annotations

from humble_sum.core.intake.shown_heading import heading_text
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.units import is_unit_alone
from humble_sum.core.intake.vocabulary import says


def heading_of(table: Table, index: int, first_row: int) -> str:
    """The lowest text above the lines in this column, after any that spans several columns, or stands in a
    row where others do."""
    wide = {
        row
        for top, left, bottom, right in table.merged
        if 0 < right - left < table.width - 2
        for row in range(top, bottom + 1)
    }
    over: list[str] = []
    lowest: list[str] = []
    measure = ""
    for row in range(first_row):
        text, spans = stands_above(table, row, index)
        if not text or text in (*over, *lowest) or is_unit_alone(text):
            continue
        if (over or lowest) and _is_measure_alone(text):
            measure = text
        elif spans or row in wide:
            over, lowest = [*over, text], []
        else:
            lowest = [text]
    heading = ", ".join([*over, *lowest])
    return f"{heading} ({measure})" if measure else heading


def _is_measure_alone(text: str) -> bool:
    """Whether a text below a heading says what its figures are measured in, and no more: %, pence."""
    return says(text, "percent_alone") or says(f"x ({text})", "measure", "small_money", "count", "ratio")


def all_above(table: Table, index: int, first_row: int) -> str:
    """Every text above the lines in this column, the highest first, but for titles and units."""
    said: list[str] = []
    for row in range(first_row):
        text, _ = stands_above(table, row, index)
        alone = sum(bool(cell.text.strip()) for cell in table.rows[row]) == 1
        if text and text not in said and not alone and not is_unit_alone(text):
            said.append(text)
    return ", ".join(said)


def stands_above(table: Table, row: int, column: int) -> tuple[str, bool]:
    """What stands over a column in a row, and whether it spans others too."""
    for top, left, bottom, right in table.merged:
        if top <= row <= bottom and left <= column <= right and right > left:
            return heading_text(table.rows[top][left]), right - left + 1 < table.width - 1
    return heading_text(table.rows[row][column]), False


def spread(table: Table, numeric: list[int], first_row: int) -> list[tuple[int, int, int, int]]:
    """Headings that stand over the columns to their right too without being merged with them: "2027" over
    Ferries and Kiosks, "2026" over Ferries and Kiosks."""
    figures = set(numeric)
    merged = {row for top, _, bottom, _ in table.merged for row in range(top, bottom + 1)}
    found = []
    for row in range(first_row - 1):
        said = [n for n in numeric if table.rows[row][n].text.strip()]
        if len(said) < 2 or row in merged:
            continue
        for left, until in _runs(table, row, said):
            right = left
            for n in range(left + 1, until):
                if n not in figures or not _said_below(table, row, n, first_row):
                    break
                right = n
            if right > left and _said_below(table, row, left, first_row):
                found.append((row, left, row, right))
    return found


def _runs(table: Table, row: int, said: list[int]) -> list[tuple[int, int]]:
    """From each text of a row to the next other one: one that is written over each of its columns is one."""
    texts = [heading_text(table.rows[row][n]) for n in said]
    first = [n for place, n in enumerate(said) if place == 0 or texts[place] != texts[place - 1]]
    return list(zip(first, [*first[1:], table.width], strict=True))


def _said_below(table: Table, row: int, column: int, first_row: int) -> bool:
    return any(table.rows[below][column].text.strip() for below in range(row + 1, first_row))
