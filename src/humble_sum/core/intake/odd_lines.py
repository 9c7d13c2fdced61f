"""Lines that are read in the unit of their table, and are written as if they had another: Vessels in service
of 21 and 20, below millions with a decimal each."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal

from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.draft_lines import DraftLine

LEAST_ADDING = 3  # lines that add, for the others to be unlike them
MOSTLY = Decimal("0.8")


def table_power(made: Draft) -> int | None:
    """The one power of ten that all figures of a table are scaled by, if there is one."""
    columns = [column for column in made.layout.figures if not column.percent]
    powers = {column.unit.power or 0 if column.unit else 0 for column in columns}
    return powers.pop() if len(powers) == 1 else None


def odd_lines(made: Draft) -> Iterator[DraftLine]:
    """Lines that no sum speaks for and that have other decimals than those that add: none where these have
    some, or some where these have none."""
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
        if (fractions >= MOSTLY * len(adding) and not any(own)) or (not fractions and all(own)):
            yield line


def _fractions(line: DraftLine, power: int) -> list[bool]:
    """Of the amounts of a line that are there and not zero, whether each was written with decimals."""
    present = [amount.as_tuple().exponent for amount in line.amounts if amount]
    return [isinstance(exponent, int) and exponent < power for exponent in present]
