"""Lines and columns that are read in the unit of their table, and are written as if they had another: Vessels
in service of 21 and 20, below millions with a decimal each."""

from __future__ import annotations

import re
from collections.abc import Iterator
from decimal import Decimal

from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.draft_lines import DraftLine

LEAST_COLUMNS = 3
LEAST_ADDING = 3  # lines that add, for the others to be unlike them
COUNTABLE = re.compile(
    r"\b(branches|stores|shops|outlets|sites|vessels|ships|ferries|boats|aircraft|routes|ports|hotels|rooms|beds|"
    r"berths|customers|subscribers|users|members|passengers|visitors|crossings|sailings|flights|trips|vehicles|"
    r"locations|offices|plants|countries|shareholders|patients|students|contracts|orders|staff|people|FTEs?)"
    r"( (in service|in issue|open|operated|served|employed|at (year|period) end|carried))?$",
    re.IGNORECASE,
)
MOSTLY = Decimal("0.8")


def table_power(made: Draft) -> int | None:
    """The one power of ten that all figures of a table are scaled by, if there is one."""
    columns = [column for column in made.layout.figures if not column.percent]
    powers = {column.unit.power or 0 if column.unit else 0 for column in columns}
    return powers.pop() if len(powers) == 1 else None


def odd_lines(made: Draft) -> Iterator[DraftLine]:
    """Lines that no sum speaks for and that have other decimals than those that add, none where these have
    some or some where these have none; and whole numbers of what is counted one by one."""
    power = table_power(made)
    if not power:
        return
    figured = [line for line in made.lines if not line.heading and line.unit is None and line.kind is None]
    adding = [line for line in figured if line.parts or line.counted]
    if len(adding) < LEAST_ADDING:
        return
    fractions = sum(any(_fractions(line, power)) for line in adding)
    for line in figured:
        own = _fractions(line, power)
        if line.parts or line.counted or len(own) < 2:
            continue
        unlike = (fractions >= MOSTLY * len(adding) and not any(own)) or (not fractions and all(own))
        if unlike or (not any(own) and COUNTABLE.search(line.label)):
            yield line


def odd_columns(made: Draft) -> Iterator[ColumnRead]:
    """Columns of whole numbers in the unit of their table, where all others in it have decimals."""
    unit = made.layout.unit
    power = unit.power if unit else None
    shared = [n for n, column in enumerate(made.layout.figures) if column.unit is unit and not column.percent]
    if not power or len(shared) < LEAST_COLUMNS:
        return
    figured = [line for line in made.lines if not line.heading and line.unit is None]
    written = {
        n: [_has_fraction(amount, power) for line in figured if (amount := line.amounts[n])] for n in shared
    }
    odd = [n for n in shared if len(written[n]) > 1 and not any(written[n])]
    if len(odd) < LEAST_COLUMNS - 1 <= len(shared) - len(odd):
        yield from (made.layout.figures[n] for n in odd)


def _fractions(line: DraftLine, power: int) -> list[bool]:
    """Of the amounts of a line that are there and not zero, whether each was written with decimals."""
    return [_has_fraction(amount, power) for amount in line.amounts if amount]


def _has_fraction(amount: Decimal, power: int) -> bool:
    exponent = amount.as_tuple().exponent
    return isinstance(exponent, int) and exponent < power
