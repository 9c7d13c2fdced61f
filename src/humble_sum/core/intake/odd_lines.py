"""Lines and columns that are read in the unit of their table, and are written as if they had another: Vessels
in service of 21 and 20, below millions with a decimal each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from decimal import Decimal
from statistics import median

from humble_sum.core.amounts import EXACT, signed
from humble_sum.core.amounts import total as sum_of
from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.vocabulary import says

LEAST_COLUMNS = 3
LEAST_ADDING = 3  # lines that add, for the others to be unlike them
MOSTLY = Decimal("0.8")
NEARLY = 20  # of a total, the part that it may be off by
MUCH = 50  # times as large


def table_power(made: Draft) -> int | None:
    """The one power of ten that all figures of a table are scaled by, if there is one."""
    columns = [column for column in made.layout.figures if not column.percent]
    powers = {column.unit.power or 0 if column.unit else 0 for column in columns}
    return powers.pop() if len(powers) == 1 else None


def odd_lines(made: Draft) -> Iterator[DraftLine]:
    """Lines that no sum speaks for and that have other decimals than those that add, none where these have
    some or some where these have none; whole numbers of what is counted one by one; and lines that are far
    smaller than most of these."""
    power = table_power(made)
    if not power:
        return
    figured = [line for line in made.lines if not line.heading and line.unit is None and line.kind is None]
    adding = [line for line in figured if line.parts or line.counted]
    if len(adding) < LEAST_ADDING:
        return
    fractions = sum(any(_fractions(line, power)) for line in adding)
    usual = median(_largest(line) for line in adding)
    for line in figured:
        own = _fractions(line, power)
        if line.parts or line.counted or len(own) < 2:
            continue
        unlike = (fractions >= MOSTLY * len(adding) and not any(own)) or (not fractions and all(own))
        small = _largest(line) * MUCH < usual
        if unlike or small or (not any(own) and _is_countable(line.label)):
            yield line


def odd_columns(made: Draft) -> Iterator[tuple[ColumnRead, str]]:
    """Columns in the unit of their table that do not look like it, each with why: of whole numbers where all
    others have decimals, or whose lines come to none of the totals that those of others do."""
    unit = made.layout.unit
    power = unit.power if unit else None
    shared = [n for n, column in enumerate(made.layout.figures) if column.unit is unit and not column.percent]
    if not power:
        return
    alone = _adding_to_nothing(made, shared)
    without_fractions = _without_fractions(made, shared, power) if len(shared) >= LEAST_COLUMNS else []
    for n in shared:
        if n in alone:
            yield made.layout.figures[n], "Its lines come to no total, and those of the columns beside it do."
        elif n in without_fractions:
            yield made.layout.figures[n], "It has whole numbers, and the columns beside it have decimals."


def _without_fractions(made: Draft, shared: Sequence[int], power: int) -> list[int]:
    """The columns of whole numbers, where most have decimals."""
    figured = [line for line in made.lines if not line.heading and line.unit is None]
    written = {
        n: [_has_fraction(amount, power) for line in figured if (amount := line.amounts[n])] for n in shared
    }
    odd = [n for n in shared if len(written[n]) > 1 and not any(written[n])]
    return odd if len(odd) < LEAST_COLUMNS - 1 <= len(shared) - len(odd) else []


def _adding_to_nothing(made: Draft, shared: Sequence[int]) -> set[int]:
    """The columns none of whose totals are what their lines come to, where some column's all are; those that
    others are worked out from, or that are themselves, are of the same kind as these."""
    numbers = {column.id: n for n, column in enumerate(made.columns)}
    across = {n for n, column in enumerate(made.columns) if column.derived}
    across |= {numbers[id] for column in made.columns for id, _ in column.terms if id in numbers}
    foots = {n: [_foots(made, line, n) for line in made.lines if line.parts] for n in shared}
    if not any(said and all(said) for said in foots.values()):
        return set()
    some = {n for n in shared if any(line.amounts[n] for line in made.lines)}
    return {n for n in some - across if not any(foots[n])}


def _foots(made: Draft, total: DraftLine, column: int) -> bool:
    """Whether a total states in a column what its parts come to, and there are any."""
    parts = [(sign, made.lines[n].amounts[column]) for n, sign in total.parts]
    there = [signed(sign, amount) for sign, amount in parts if amount is not None]
    stated = total.amounts[column]
    elsewhere = (any(made.lines[n].amounts) for n, _ in total.parts)
    if any(amount is None and known for (_, amount), known in zip(parts, elsewhere, strict=True)):
        return True  # a figure is missing, so nothing can be told
    if not there or stated is None:
        return False
    # A source that breaks by a little is in one unit all the same.
    return NEARLY * EXACT.subtract(stated, sum_of(there)).copy_abs() <= stated.copy_abs()


def _largest(line: DraftLine) -> Decimal:
    return max((amount.copy_abs() for amount in line.amounts if amount is not None), default=Decimal(0))


def _fractions(line: DraftLine, power: int) -> list[bool]:
    """Of the amounts of a line that are there and not zero, whether each was written with decimals."""
    return [_has_fraction(amount, power) for amount in line.amounts if amount]


def _has_fraction(amount: Decimal, power: int) -> bool:
    exponent = amount.as_tuple().exponent
    return isinstance(exponent, int) and exponent < power


def _is_countable(label: str) -> bool:
    """Whether a label ends with things that are counted one by one, or with what is said of such things."""
    return says(label, "countable", "countable_state")
