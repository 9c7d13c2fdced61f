"""Rounding once, from the exact amount to a whole number of units."""

from __future__ import annotations

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
