"""Column headings: a label as it is, or a date that follows the locale of the figures under it."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from datetime import date
from typing import Annotated

from pydantic import AfterValidator, Field

from humble_sum.core.locales.dates import date_text, month_text, month_year_text
from humble_sum.core.rules.rulebook import Decided

PERIOD = re.compile(r"(\d{4})-(\d{2})(?:-(\d{2}))?", re.ASCII)


def _real(text: str) -> str:
    found = PERIOD.fullmatch(text)
    if not found:
        raise ValueError(
            f'"{text}" is neither a day nor a month; write 2026-03-31 or 2026-03, as ISO 8601 does'
        )
    try:
        date(int(found[1]), int(found[2]), int(found[3] or 1))
    except ValueError:
        raise ValueError(f'"{text}" is not in the calendar') from None
    return text


PeriodDate = Annotated[
    str,
    AfterValidator(_real),
    Field(description="A day or a month in ISO 8601, such as 2026-03-31 or 2026-03."),
]


def headings(
    columns: Sequence[tuple[str, str | None]], decided: Sequence[Sequence[Decided]]
) -> tuple[str, ...]:
    """What stands over the columns of a statement, each with its label and date, over figures decided so.

    A day is written out, in the locale and digits of most of the figures. A month is named alone where all
    months of the statement lie within a year, and with its year where they do not. A column without a date
    has its label.
    """
    months = [_month_number(period) for _, period in columns if period and len(period) == len("2026-03")]
    years = bool(months) and max(months) - min(months) >= 12
    return tuple(
        _heading(label, period, figures, years)
        for (label, period), figures in zip(columns, decided, strict=True)
    )


def _month_number(period: str) -> int:
    return int(period[:4]) * 12 + int(period[5:7])


def _heading(label: str, period: str | None, decided: Sequence[Decided], years: bool) -> str:
    if period is None or not decided:
        return label
    marks = Counter((each.clauses.locale, each.clauses.digits) for each in decided)
    (tag, digits), _ = marks.most_common(1)[0]
    year, month, *day = (int(part) for part in period.split("-"))
    if day:
        return date_text(date(year, month, day[0]), tag, digits)
    return month_year_text(year, month, tag, digits) if years else month_text(month, tag)
