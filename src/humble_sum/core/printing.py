"""Printing: from an exact amount to the text a reader sees, rounded once."""

from __future__ import annotations

import unicodedata
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Literal

from humble_sum.core import currencies
from humble_sum.core.amounts import EXACT, cut_endless, scaled
from humble_sum.core.clauses import FixedDecimals, InForce, Word
from humble_sum.core.locales import Locale, locale
from humble_sum.core.rounding import Position, position, round_units

NO_BREAK = "\u00a0"
DASH = "\u2013"
TRIANGLE = "\u25b3"

Kind = Literal["amount", "zero", "rounds_away", "missing"]


@dataclass(frozen=True)
class Printed:
    """A printed figure.

    `units` is the whole number of units printed (None when missing), each 10**exponent.
    `hang` is the end of `text` that stands past the digits, a closing bracket, so that digits
    can be lined up.
    """

    text: str
    kind: Kind
    units: int | None
    natural: int | None
    exponent: int
    hang: str = ""


def kind_of(where: Position | None, units: int | None) -> Kind:
    """Which of the four look-alikes this is, told from the exact amount."""
    if where is None:
        return "missing"
    if where.zero:
        return "zero"
    return "rounds_away" if units == 0 else "amount"


def print_amount(
    amount: Decimal | None, clauses: InForce, nudged: int | None = None, money: bool = True
) -> Printed:
    """Print one amount under decided clauses.

    `nudged` prints that whole number of units instead of the natural rounding; `money` False
    leaves the currency sign out (where the clause asks for it only on the first line and
    totals). The amount itself is never changed.
    """
    exponent = clauses.exponent
    if amount is None:
        return Printed(_stand_in(clauses.missing), "missing", None, None, exponent)
    where = position(amount, exponent)
    natural = round_units(where, clauses.rounding)
    units = natural if nudged is None else nudged
    kind = kind_of(where, units)
    if kind == "zero" and clauses.zero != "figure":
        return Printed(_stand_in(clauses.zero), kind, units, natural, exponent)
    if kind == "rounds_away" and clauses.rounds_away == "dash":
        return Printed(DASH, kind, units, natural, exponent)
    of = locale(clauses.locale)
    shown, places, mark, minus = abs(units), clauses.places, "", units < 0
    if kind == "rounds_away":
        minus = where.negative and clauses.rounds_away != "figure"
        if clauses.rounds_away == "less_than":
            shown, mark = 1, "<"
        elif clauses.rounds_away == "reveal":
            places = _revealing(amount, clauses)
            shown = _size(amount, clauses, places)
    text = _dress(mark + plain(shown, places, clauses, of), shown == 1 and not places, clauses, of, money)
    text, hang = _signed(text, clauses, of) if minus else (text, "")
    return Printed(text, kind, units, natural, exponent, hang)


def exact_text(amount: Decimal | None, clauses: InForce) -> str:
    """The whole exact amount, unscaled and unrounded, with sign, grouping and currency."""
    if amount is None:
        return ""
    _, _, own = amount.as_tuple()
    assert isinstance(own, int)
    minor = currencies.minor_units(clauses.currency) if clauses.currency and clauses.form == "amount" else 0
    plain = _every_digit(clauses, max(minor, -own, 0), money=True)
    return cut_endless(print_amount(amount, plain).text, locale(clauses.locale).decimal)


def scaled_text(amount: Decimal, clauses: InForce) -> str:
    """The amount as the scale has it, before rounding: every digit, grouped, with a minus."""
    value = EXACT.normalize(scaled(amount, -clauses.power))
    _, _, own = value.as_tuple()
    assert isinstance(own, int)
    plain = _every_digit(clauses, max(-own, 0), money=False)
    return cut_endless(print_amount(value, plain).text, locale(clauses.locale).decimal)


@lru_cache(maxsize=1_024)
def _every_digit(clauses: InForce, places: int, money: bool) -> InForce:
    """The clauses changed to print an amount unscaled, with a minus, to so many decimals."""
    return clauses.model_copy(
        update={
            "form": clauses.form if money and clauses.form == "amount" else "number",
            "money_shown": "every",
            "scale": "ones",
            "scale_word": "none",
            "decimals": FixedDecimals.model_construct(fixed=places),
            "negative": "minus",
            "zero": "figure",
        }
    )


def units_text(units: int, clauses: InForce) -> str:
    """A whole number of units as a figure with its minus and nothing else."""
    of = locale(clauses.locale)
    return (of.minus if units < 0 else "") + plain(abs(units), clauses.places, clauses, of)


def plain(units: int, places: int, clauses: InForce, of: Locale) -> str:
    """The digits of a non-negative whole number of units, grouped, with its decimals."""
    digits = str(units).rjust(places + 1, "0")
    whole, decimals = (digits[:-places], digits[-places:]) if places else (digits, "")
    return grouped(whole, clauses, of) + (of.decimal + decimals if places else "")


def grouped(whole: str, clauses: InForce, of: Locale) -> str:
    """Group marks put into a run of digits, sizes from the right, the last repeating."""
    sizes = {"threes": (3,), "lakhs": (3, 2), "fours": (4,), "none": ()}.get(clauses.grouping, of.grouping)
    least = of.minimum_grouping if clauses.grouping == "locale" else 1
    if not sizes or len(whole) < sizes[0] + least:
        return whole
    groups, end = [], len(whole)
    for size in sizes:
        groups.append(whole[max(end - size, 0) : end])
        end -= size
        if end <= 0:
            break
    while end > 0:
        groups.append(whole[max(end - sizes[-1], 0) : end])
        end -= sizes[-1]
    return of.group.join(reversed(groups))


def _size(amount: Decimal, clauses: InForce, places: int) -> int:
    """The amount's size in units of `places` decimals, under the clauses' own rounding."""
    return abs(round_units(position(amount, clauses.power - places), clauses.rounding))


def _revealing(amount: Decimal, clauses: InForce) -> int:
    places = clauses.places
    while not _size(amount, clauses, places):
        places += 1
    return places


def _stand_in(choice: str | Word) -> str:
    if isinstance(choice, Word):
        return choice.word
    return DASH if choice == "dash" else ""


def _dress(number: str, one: bool, clauses: InForce, of: Locale, money: bool) -> str:
    """Scale word, then percent sign or currency, where the locale puts them."""
    if clauses.form == "percent":
        return _in_pattern(of.percent, number)
    if clauses.scale != "ones" and clauses.scale_word in ("short", "full"):
        number += (of.short if clauses.scale_word == "short" else of.full)[clauses.scale]
    if clauses.form != "amount" or clauses.currency is None or clauses.money_sign == "none":
        return number
    if clauses.money_shown == "caption" or (clauses.money_shown == "first_and_totals" and not money):
        return number
    singular = one and clauses.scale == "ones"
    sign = currencies.sign(clauses.currency, clauses.money_sign, of, singular)
    if clauses.money_sign == "name":
        return of.money_by_name.replace("{0}", number).replace("{1}", sign)
    return _in_pattern(_money_pattern(sign, of), number).replace("¤", sign)


def _money_pattern(sign: str, of: Locale) -> str:
    """UTS #35 currency spacing: a sign that ends in a letter beside the digits stands off."""
    beside = sign[-1] if of.money.startswith("¤") else sign[0]
    symbol = unicodedata.category(beside)[0] in "SZ"
    return of.money if symbol else of.money_beside_letters


def _in_pattern(pattern: str, number: str) -> str:
    """Put the figure where the pattern has its run of digits."""
    start = min(pattern.index(mark) for mark in "#0" if mark in pattern)
    end = max(pattern.rindex(mark) for mark in "#0" if mark in pattern) + 1
    return pattern[:start] + number + pattern[end:]


def _signed(text: str, clauses: InForce, of: Locale) -> tuple[str, str]:
    """The text of a negative figure, and the part of it that hangs past the digits."""
    match clauses.negative:
        case "minus":
            return of.minus + text, ""
        case "trailing_minus":
            return text + of.minus, of.minus
        case "brackets":
            return f"({text})", ")"
        case "cr":
            return f"{text}{NO_BREAK}CR", f"{NO_BREAK}CR"
        case "triangle":
            return TRIANGLE + text, ""
        case "unsigned":
            return text, ""
