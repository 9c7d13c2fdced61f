"""Exact amounts: decimals of any sign and up to 120 digits, never a binary float."""

from __future__ import annotations

import re
from collections.abc import Iterable
from decimal import Context, Decimal, DecimalException, Inexact, InvalidOperation, Overflow, Underflow

ENDLESS, SHOWN = 24, 8  # decimals: from how many a quotient is cut, and to how many
MOST_DIGITS = 60  # on either side of the decimal point
# Most amounts: so short that nothing about them is left to look at.
PLAIN = re.compile(r"[+-]?\d{1,40}(\.\d{0,40})?", re.ASCII)
WRITTEN = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d{1,4})?", re.ASCII)

# Any operation that would lose a digit raises, so no sum is ever quietly rounded.
EXACT = Context(
    prec=1_000,
    Emin=-100_000,
    Emax=100_000,
    traps=[Inexact, InvalidOperation, Overflow, Underflow],
)


def read_amount(value: object) -> Decimal:
    """The exact amount written in plain or exponent notation with a full stop.

    Takes text, Decimal or int. A float is refused because its decimal digits are not its
    owner's. Raises ValueError with the reason.
    """
    if type(value) is str and PLAIN.fullmatch(value):
        return Decimal(value) or Decimal(0)
    if type(value) is Decimal and value.is_finite():
        return _bounded(EXACT.create_decimal(value))
    if isinstance(value, float):
        raise ValueError(f"{value!r} is a binary number; write the amount as text, in quotes")
    if isinstance(value, bool) or not isinstance(value, str | Decimal | int):
        raise ValueError(f'{value!r} is not an amount; write a decimal as text, such as "12.50"')
    text = str(value).strip()
    if not WRITTEN.fullmatch(text):
        shown = text if len(text) <= 40 else text[:40] + "…"
        raise ValueError(f'"{shown}" is not a decimal; write digits with a full stop, such as "12.50"')
    try:
        return _bounded(EXACT.create_decimal(text))
    except DecimalException:
        raise ValueError(
            f"{text[:40]}… has more than {MOST_DIGITS} digits on one side of its point"
        ) from None


def _bounded(amount: Decimal) -> Decimal:
    """An amount of no more digits than are kept, zero without a sign or places of its own."""
    if not amount:
        return Decimal(0)
    first = amount.adjusted()
    # Its text is as long as its digits, or longer: it tells sooner than they do that there are few.
    few = first - len(str(amount)) > -MOST_DIGITS
    if first >= MOST_DIGITS or (not few and _places(amount) > MOST_DIGITS):
        raise ValueError(f"{amount} has more than {MOST_DIGITS} digits on one side of its point")
    return amount


def _places(amount: Decimal) -> int:
    exponent = amount.as_tuple().exponent
    assert isinstance(exponent, int)
    return -exponent


def amount_text(amount: Decimal) -> str:
    """The amount in plain notation, its own trailing zeros kept: 2.50, never 25E-1."""
    return format(amount, "f")


def cut_endless(text: str, mark: str = ".") -> str:
    """Text of a decimal, cut where it has so many decimals that it is a quotient without an end."""
    integer, found, decimals = text.partition(mark)
    return f"{integer}{found}{decimals[:SHOWN]}…" if len(decimals) > ENDLESS else text


def total(amounts: Iterable[Decimal]) -> Decimal:
    """The exact sum."""
    result = Decimal(0)
    for amount in amounts:
        result = EXACT.add(result, amount)
    return result


def signed(sign: int, amount: Decimal) -> Decimal:
    """sign × amount for a sign of 1 or −1, exactly (Decimal's own operators round to 28 digits)."""
    return amount if sign > 0 else amount.copy_negate()


def scaled(amount: Decimal, power: int) -> Decimal:
    """amount × 10**power, exactly."""
    return EXACT.scaleb(amount, power)


def of_units(units: int, exponent: int) -> Decimal:
    """The amount of a whole number of units, each 10**exponent."""
    return scaled(EXACT.create_decimal(units), exponent)
