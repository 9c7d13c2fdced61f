"""What a made-up table says, before anybody writes it down: heads, rows, amounts and what adds to what."""

from __future__ import annotations

import random
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from pathlib import Path
from typing import Literal

Measure = Literal["money", "percent", "count", "per_one", "ratio"]
Parts = tuple[tuple[int, int], ...]
WORDS: dict[str, dict[str, str]] = tomllib.loads(
    (Path(__file__).parent / "words.toml").read_text(encoding="utf-8")
)


@dataclass(frozen=True)
class Head:
    """One column of figures: its texts from the top down, its measure, and the columns that it adds. A column
    that says its own unit has its power of ten."""

    texts: tuple[str, ...]
    measure: Measure = "money"
    parts: Parts = ()
    power: int | None = None


@dataclass(frozen=True)
class Row:
    """One row: its label, measure and amounts as they are written (None: nothing there), and what it adds.

    `kind` is heading, line, total or note. `unit` is written beside the label where a row states its own; its
    power of ten is then `power`. `open` says that the table itself does not tell its measure. `before` and
    `after` are texts in columns of their own, before the label and after the figures.
    """

    label: str
    amounts: tuple[Decimal | None, ...] = ()
    kind: Literal["heading", "line", "total", "note"] = "line"
    measure: Measure = "money"
    parts: Parts = ()
    level: int = 0
    unit: str = ""
    power: int | None = None
    open: bool = False
    before: str = ""
    after: str = ""


@dataclass
class Content:
    """A table: what it is called, its heads and rows. `debit_credit` is whether its balances have sides, and
    `own_units` whether its heads say their measures, so that no unit stands in the heads or in a column. With
    `no_scale` it is in ones: an amount that is a count times a price."""

    name: str
    heads: list[Head]
    rows: list[Row] = field(default_factory=list)
    debit_credit: bool = False
    periods: bool = False
    own_units: bool = False
    no_scale: bool = False


class Draw:
    """Draws of one table: amounts of so many digits and decimals, words of a language, periods."""

    def __init__(self, seed: str, language: str, style_heads: str):
        self.random = random.Random(seed)
        self.language = language
        self.words: Mapping[str, str] = WORDS[language]
        self.decimals = self.random.choice((0, 0, 0, 1, 1, 2))
        self.digits = self.random.choice((3, 4, 4, 5, 5, 6))
        self.way = style_heads

    def amount(self, share: float = 1.0) -> Decimal:
        """An amount as it is written: most of the usual length, some much smaller."""
        most = 10**self.digits * share
        size = self.random.random() ** 2 if self.random.random() < 0.3 else self.random.uniform(0.1, 1)
        return self.rounded(Decimal(str(round(most * size, 2))) or Decimal(1))

    def rounded(self, amount: Decimal) -> Decimal:
        return round(amount, self.decimals) if self.decimals else Decimal(round(amount))

    def row(self, heads: int, share: float = 1.0, sign: int = 1) -> tuple[Decimal | None, ...]:
        return tuple(sign * self.amount(share) for _ in range(heads))

    def periods(self, count: int) -> list[str]:
        """Heads of so many periods, the latest first or last."""
        year = self.random.choice((2024, 2025, 2026, 2027))
        years = [year - n for n in range(count)]
        if self.random.random() < 0.2:
            years.reverse()
        ways = {
            "year": "{y}",
            "fy": "FY{s:02d}",
            "day": "31.12.{y}" if self.language in DOTTED else "31 Dec {y}",
            "iso": "{y}-12-31",
            "month": "Mar-{s:02d}",
            "long": "31/12/{y}",
        }
        form = ways[self.way]
        return [form.format(y=each, s=each % 100) for each in years]


DOTTED = {"de", "cs", "pl", "fi", "ru", "da", "tr"}


def added(rows: list[Row], parts: Parts, width: int) -> tuple[Decimal | None, ...]:
    """What rows come to in every column that any of them says something in."""
    found: list[Decimal | None] = []
    for column in range(width):
        there = [(sign, rows[n].amounts[column]) for n, sign in parts]
        present = [sign * amount for sign, amount in there if amount is not None]
        found.append(sum(present, Decimal(0)) if present else None)
    return tuple(found)


def total(rows: list[Row], label: str, parts: Parts, width: int, level: int = 0) -> int:
    """Put a total of rows below them; its place."""
    rows.append(Row(label, added(rows, parts, width), "total", parts=parts, level=level))
    return len(rows) - 1


def across(rows: list[Row], heads: list[Head]) -> list[Row]:
    """The rows with what their columns add put in."""
    made = []
    for row in rows:
        amounts = list(row.amounts)
        for place, head in enumerate(heads):
            if head.parts and row.kind in ("line", "total") and row.measure == "money":
                there = [(sign, amounts[n]) for n, sign in head.parts]
                present = [sign * amount for sign, amount in there if amount is not None]
                amounts[place] = sum(present, Decimal(0)) if present else None
        made.append(Row(**{**row.__dict__, "amounts": tuple(amounts)}))
    return made
