"""What a cell shows as a heading, by its number code (ECMA-376 part 1, 18.8.30 and 18.8.31): January 2026
of a day, FY26 of 26, 2026E of 2026."""

from __future__ import annotations

from datetime import date
from decimal import Decimal

from humble_sum.core.intake.code_clauses import bare_letters, words_around
from humble_sum.core.intake.period_words import english_months
from humble_sum.core.intake.table import SheetCell


def heading_text(cell: SheetCell) -> str:
    """A cell as a heading or a label, on one line: a date reads as people write it, as far as it is shown; a
    whole number has the words that its code puts around it."""
    if isinstance(cell.value, date):
        return _date(cell.value, cell.code)
    if isinstance(cell.value, Decimal) and ('"' in cell.code or "\\" in cell.code):
        before, after = words_around(cell.code)
        if (before or after) and cell.value == cell.value.to_integral_value():
            return " ".join(f"{before}{cell.text}{after}".split())
    return " ".join(cell.text.split())


def _date(day: date, code: str) -> str:
    letters = bare_letters(code)
    if "d" in letters or "y" not in letters:
        return f"{day.day} {english_months()[day.month - 1]} {day.year}"
    if "m" in letters:
        return f"{english_months()[day.month - 1]} {day.year}"
    before, after = words_around(code)
    return f"{before}{day.year}{after}".strip()
