"""Columns that say when each row is of, as tables of one row an amount have them: years, months."""

from __future__ import annotations

import re
from collections.abc import Sequence

from humble_sum.core.amounts import total
from humble_sum.core.intake.cell_reading import is_number, read_cell
from humble_sum.core.intake.table import Table

YEAR = re.compile(
    r"(year )?(built|established|founded|commissioned|opened|launched)|since|vintage|cohort|baujahr|"
    r"((final|contractual) )?maturity( (year|date))?|matur(es|ing)( in)?|(due|repayable|expires|ends) in|"
    r"expir(y|es)|(expiry|due|end) year|(year )?(of )?(end|expiry|maturity|manufacture|construction)|"
    r"year end|"
    r"fälligkeit|échéance|vencimiento|scadenza|vervaldatum|"
    r"((financial|fiscal|calendar|accounting|reporting) )?(year|yr\.?|FY)|(geschäfts)?jahr|année|exercice|"
    r"año|ejercicio|anno|esercizio|ano|exerc[íi]cio|(boek)?jaar|(regnskaps|räkenskaps)?år|vuosi|rok|год|рік|"
    r"έτος|yıl|年度?|연도|년|वर्ष|ปี|السنة|سنة",
    re.IGNORECASE,
)
PART = re.compile(
    r"(month|mth|quarter|qtr|period|week)( ?(no\.?|number|#))?|monat|quartal|periode|mois|trimestre|mes|mese|"
    r"mês|per[íi]odo|maand|kwartaal|månad|måned|kvartal|měsíc|miesiąc|kwartał|месяц|квартал|月份?|季度?|"
    r"期間?|월|분기",
    re.IGNORECASE,
)
# Headings of dates, which programs write as numbers too: 202603, 20260331.
DATE = re.compile(
    r"((posting|document|booking|value|entry|report(ing)?) )?date|day|as (of|at)|datum|fecha|data",
    re.IGNORECASE,
)
WRITTEN = re.compile(r"(19|20|21)\d\d((0[1-9]|1[0-2])(0[1-9]|[12]\d|3[01])?)?")
YEARS, PARTS = range(1900, 2201), range(54)  # weeks have the highest numbers
HEADING_ROWS = 6


def columns_of_times(table: Table, numeric: Sequence[int]) -> list[int]:
    """Of the columns of numbers, those of years, and beside these of months, quarters, periods or weeks.

    Where there are no years a column *Month* may be of amounts, this month's, unless all of them can be read
    as years, months or days."""
    years = [
        index
        for index in numeric
        if (_is(table, index, YEAR, YEARS) or _is_written_out(table, index))
        and not _adds(table, index, numeric)
    ]
    parts = [index for index in numeric if index not in years and _is(table, index, PART, PARTS)]
    return years + parts if years else []


def _is_written_out(table: Table, index: int) -> bool:
    """Whether a column that is headed by a time says nothing but years, months or days: 2026, 202603."""
    cells = table.column(index)
    heads = [cell.text.strip() for cell in cells[:HEADING_ROWS]]
    said = [cell.text.strip() for cell in cells if is_number(cell)]
    named = any(name.fullmatch(head) for name in (YEAR, PART, DATE) for head in heads)
    return named and len(said) > 1 and all(WRITTEN.fullmatch(text) for text in said)


def _is(table: Table, index: int, name: re.Pattern[str], numbers: range) -> bool:
    """Whether a column has such a heading, and below it several numbers, all whole and of these."""
    cells = table.column(index)
    heads = [cell.text.strip() for cell in cells[:HEADING_ROWS]]
    if not any(name.fullmatch(head) for head in heads):
        return False
    read = [read_cell(cell).amount for cell in cells if is_number(cell)]
    integers = [amount for amount in read if amount is not None and amount == amount.to_integral_value()]
    return len(integers) == len(read) > 1 and all(int(amount) in numbers for amount in integers)


def _adds(table: Table, index: int, numeric: Sequence[int]) -> bool:
    """Whether a column is the sum of the others in every row: the whole year's amounts, not its number."""
    others = [other for other in numeric if other != index]
    rows = [row for row in table.rows if is_number(row[index])]
    sums = [total(amount for other in others if (amount := read_cell(row[other]).amount)) for row in rows]
    return bool(others) and sums == [read_cell(row[index]).amount for row in rows]
