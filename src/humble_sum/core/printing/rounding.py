"""Rounding once, from the exact amount to a whole number of units."""

from __future__ import annotations

from collections.abc import Iterable
from decimal import Decimal
from typing import Literal, NamedTuple

from humble_sum.core.amounts import EXACT, scaled

Mode = Literal["half_up", "half_even", "half_down", "away", "toward_zero", "up", "down"]

ROUNDINGS: dict[Mode, str] = {
    "half_up": "Half up",
    "half_even": "Half to even",
    "half_down": "Half down",
    "away": "Away from zero",
    "toward_zero": "Toward zero",
    "up": "Up",
    "down": "Down",
}


class Position(NamedTuple):
    """Where an exact amount lies among units: floor + over/parts, with 0 ≤ over < parts.

    `parts` is the number of equal parts of a unit that the amount's own digits need, a power
    of ten, so everything here is a whole number.
    """

    floor: int
    over: int
    parts: int

    @property
    def exact(self) -> bool:
        return self.over == 0

    @property
    def zero(self) -> bool:
        return self.over == 0 and self.floor == 0

    @property
    def negative(self) -> bool:
        return self.floor < 0

    def drift(self, units: int) -> Decimal:
        """Printed minus exact, in units, exactly."""
        distance = (units - self.floor) * self.parts - self.over
        return scaled(EXACT.create_decimal(distance), 1 - len(str(self.parts)))


def position(amount: Decimal, exponent: int) -> Position:
    """Locate `amount` on the ladder whose step is 10**exponent."""
    own = amount.as_tuple().exponent
    assert isinstance(own, int), "amounts are finite"
    number = int(EXACT.scaleb(amount, -own))
    shift = own - exponent
    if shift >= 0:
        return Position(number * 10**shift, 0, 1)
    parts = 10**-shift
    floor, over = divmod(number, parts)
    return Position(floor, over, parts)


class Rounded(NamedTuple):
    """Where an amount lies, and the whole units that its own rounding prints."""

    position: Position
    units: int


def rounding_of(amount: Decimal, exponent: int, mode: Mode, multiple: int) -> Rounded:
    """How an amount rounds to units of 10**exponent, to a multiple of a step where that is more than one."""
    where = position(amount, exponent)
    return Rounded(where, rounded(where, mode, multiple))


def rounded(where: Position, mode: Mode, multiple: int) -> int:
    """The whole number of units printed; a multiple of a step where the step is more than one."""
    if multiple == 1:
        return round_units(where, mode)
    floor, rest = divmod(where.floor, multiple)
    steps = Position(floor, rest * where.parts + where.over, where.parts * multiple)
    return round_units(steps, mode) * multiple


def round_many(numbers: Iterable[int | None], shift: int, mode: Mode, multiple: int) -> Iterable[int | None]:
    """What `rounded` gives for each amount, many at once. An amount is its number of parts, 10**`shift`
    of which are a unit; None stays None."""
    if multiple == 1 and shift <= 0:
        finer: int = 10**-shift
        return (None if number is None else number * finer for number in numbers)
    if multiple == 1 and mode == "half_up":
        # The rounding of nearly every page: half a unit more, and the rest cut off.
        half: int = 10**shift
        step = 2 * half
        return (
            None
            if number is None
            else (2 * number + half) // step
            if number >= 0
            else -((half - 2 * number) // step)
            for number in numbers
        )
    parts: int = 10 ** max(shift, 0)
    finer = 10 ** max(-shift, 0)
    return (
        None if number is None else rounded(Position(*divmod(number * finer, parts), parts), mode, multiple)
        for number in numbers
    )


def round_units(where: Position, mode: Mode) -> int:
    """The whole number of units that `mode` prints.

    half_up sends ties away from zero (the accounting default); half_down toward zero;
    half_even to the even neighbour; up and down are toward +∞ and −∞.
    """
    floor, over, parts = where.floor, where.over, where.parts
    if not over:
        return floor
    if mode == "up":
        return floor + 1
    if mode == "down":
        return floor
    if mode in ("away", "toward_zero"):
        return floor + (where.negative == (mode == "toward_zero"))
    if 2 * over != parts:
        return floor + (2 * over > parts)
    if mode == "half_even":
        return floor + floor % 2
    return floor + (where.negative == (mode == "half_down"))
