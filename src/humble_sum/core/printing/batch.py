"""Printing many amounts under one rule at once, as text: the same texts, several times as fast.

Scaling and rounding are the decimal module's own, exact and in C. What it cannot print by the
rule (steps, significant digits, a scale that fits, small amounts said otherwise) goes through
`print_amount` one by one.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from decimal import (
    ROUND_CEILING,
    ROUND_DOWN,
    ROUND_FLOOR,
    ROUND_HALF_DOWN,
    ROUND_HALF_EVEN,
    ROUND_HALF_UP,
    ROUND_UP,
    Context,
    Decimal,
    localcontext,
)

from humble_sum.core.amounts import EXACT
from humble_sum.core.locales import locale
from humble_sum.core.printing.clauses import FixedDecimals, InForce
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.rounding import Mode

MODES: dict[Mode, str] = {
    "half_up": ROUND_HALF_UP,
    "half_even": ROUND_HALF_EVEN,
    "half_down": ROUND_HALF_DOWN,
    "away": ROUND_UP,
    "toward_zero": ROUND_DOWN,
    "up": ROUND_CEILING,
    "down": ROUND_FLOOR,
}
NOT_IN_TENS = 6  # decimals
Texts = Callable[[Iterable[Decimal | None]], list[str]]


def print_texts(amounts: Iterable[Decimal | None], clauses: InForce) -> list[str]:
    """What `print_amount` prints for each amount, its mark and what stands beside it included."""
    quick = _quick(clauses)
    if quick is None:
        return [print_amount(amount, clauses).whole for amount in amounts]
    rounding = Context(prec=EXACT.prec, Emax=EXACT.Emax, Emin=EXACT.Emin, rounding=MODES[clauses.rounding])
    with localcontext(rounding):
        return quick(amounts)


def _quick(clauses: InForce) -> Texts | None:
    """A printer for rules whose figures are digits between two fixed texts; None for others."""
    fixed = isinstance(clauses.decimals, FixedDecimals) or clauses.decimals == "currency"
    apart = clauses.bands or clauses.words or clauses.width or clauses.step or clauses.plus == "always"
    worded = clauses.scale_word in ("short", "full") or clauses.money_sign == "name"
    of = locale(clauses.locale, clauses.digits)
    sizes = {"threes": (3,), "lakhs": (3, 2), "fours": (4,), "none": ()}.get(clauses.grouping, of.grouping)
    if clauses.form not in ("amount", "number", "percent") or clauses.scale == "fit":
        return None
    if not fixed or apart or worded or of.digits is not None or sizes not in ((3,), (3, 2), ()):
        return None
    # What stands around the digits is told from a figure printed the long way.
    digits = f"11{of.decimal}{'0' * clauses.places}" if clauses.places else "11"
    if clauses.form == "amount" and clauses.currency and clauses.money_shown == "every":
        digits = digits.replace(of.decimal, of.money_decimal)
    around = []
    for amount in (Decimal(11), Decimal(-11)):
        text = print_amount(EXACT.scaleb(amount, clauses.power), clauses).whole
        if text.count(digits) != 1:
            return None
        around.append(text.split(digits))
    return _printer(clauses, sizes, around[0], around[1])


def _printer(clauses: InForce, sizes: tuple[int, ...], plain: list[str], minus: list[str]) -> Texts:
    of, places = locale(clauses.locale, clauses.digits), clauses.places
    mark, point = of.group, of.decimal
    if clauses.form == "amount" and clauses.currency and clauses.money_shown == "every":
        mark, point = of.money_group, of.money_decimal
    least = of.minimum_grouping if clauses.grouping == "locale" else 1
    longest = 2 + least if sizes else 10**9  # digits of the longest whole number that is not grouped
    step = sizes[-1] if sizes else 3
    (before, after), (minus_before, minus_after) = plain, minus
    zero, missing = print_amount(Decimal(0), clauses).whole, print_amount(None, clauses).whole
    factor, unit, form = Decimal(1).scaleb(-clauses.power), Decimal(1).scaleb(-places), f".{places}f"
    nothing = f"{0:{form}}"
    spell = str if places <= NOT_IN_TENS else None  # str says 0.0000001 in powers of ten

    def texts(amounts: Iterable[Decimal | None]) -> list[str]:
        found: list[str] = []
        put = found.append
        for amount in amounts:
            if not amount:
                put(missing if amount is None else zero)
                continue
            rounded = (amount * factor).quantize(unit)
            digits = spell(rounded) if spell else format(rounded, form)
            negative = digits[0] == "-"
            if negative:
                digits = digits[1:]
            if digits == nothing:
                put(print_amount(amount, clauses).whole)
                continue
            whole, tail = (digits[: -places - 1], point + digits[-places:]) if places else (digits, "")
            if len(whole) > longest:
                head, rest = whole[:-3], whole[-3:]
                while len(head) > step:
                    rest = head[-step:] + mark + rest
                    head = head[:-step]
                whole = head + mark + rest
            put(f"{minus_before}{whole}{tail}{minus_after}" if negative else f"{before}{whole}{tail}{after}")
        return found

    return texts
