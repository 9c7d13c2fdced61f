"""A figure said in words, to be sure of its size and to be read aloud: English, two scales."""

from __future__ import annotations

from decimal import Decimal
from typing import Literal

System = Literal["international", "indian"]

SMALL = (
    *("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"),
    *("eleven", "twelve", "thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen"),
)
TENS = ("", "", "twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety")
INTERNATIONAL = (
    *((10**12, "trillion"), (10**9, "billion"), (10**6, "million"), (10**3, "thousand")),
    (100, "hundred"),
)
INDIAN = ((10**12, "lakh crore"), (10**7, "crore"), (10**5, "lakh"), (10**3, "thousand"), (100, "hundred"))


def in_words(amount: Decimal, system: System = "international") -> str:
    """The amount in English words: "minus two thousand seven hundred and seventy point five"."""
    plain = format(amount.copy_abs(), "f")
    integer, _, decimals = plain.partition(".")
    decimals = decimals.rstrip("0")
    said = _integer_in_words(int(integer), INDIAN if system == "indian" else INTERNATIONAL)
    if decimals:
        said += " point " + " ".join(SMALL[int(digit)] for digit in decimals)
    return f"minus {said}" if amount < 0 else said


def _integer_in_words(number: int, scales: tuple[tuple[int, str], ...]) -> str:
    if number < 20:
        return SMALL[number]
    if number < 100:
        ten, one = divmod(number, 10)
        return TENS[ten] + (f"-{SMALL[one]}" if one else "")
    size, name = next((size, name) for size, name in scales if number >= size)
    many, rest = divmod(number, size)
    said = f"{_integer_in_words(many, scales)} {name}"
    if not rest:
        return said
    return f"{said} {'and ' if rest < 100 else ''}{_integer_in_words(rest, scales)}"
