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
    getcontext,
    localcontext,
    setcontext,
)
from functools import partial

from humble_sum.core.amounts import EXACT
from humble_sum.core.locales import locale
from humble_sum.core.printing.clause_values import FixedDecimals
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
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
Text = Callable[[Decimal | None], str]


def print_texts(amounts: Iterable[Decimal | None], clauses: ResolvedClauses) -> list[str]:
    """What `print_amount` prints for each amount, its mark and what stands beside it included."""
    return Texts(clauses).many(amounts)


class Texts:
    """Clauses made ready once, to print the texts of amounts by; amounts are counts of 10^`exponent`."""

    def __init__(self, clauses: ResolvedClauses, exponent: int = 0):
        self._slow = partial(_slow, clauses, exponent)
        self._quick = _quick(clauses, exponent)
        rounding = MODES[clauses.rounding]
        self._context = Context(prec=EXACT.prec, Emax=EXACT.Emax, Emin=EXACT.Emin, rounding=rounding)

    def one(self, amount: Decimal | None) -> str:
        if self._quick is None:
            return self._slow(amount)
        before = getcontext()
        setcontext(self._context)
        try:
            return self._quick(amount)
        finally:
            setcontext(before)

    def many(self, amounts: Iterable[Decimal | None]) -> list[str]:
        if self._quick is None:
            return list(map(self._slow, amounts))
        with localcontext(self._context):
            return list(map(self._quick, amounts))


def _slow(clauses: ResolvedClauses, exponent: int, amount: Decimal | None) -> str:
    exact = amount if amount is None or not exponent else EXACT.scaleb(amount, exponent)
    return print_amount(exact, clauses).whole


def _quick(clauses: ResolvedClauses, exponent: int) -> Text | None:
    """The text of one amount by rules whose figures are digits between two fixed texts; None for other
    rules. It rounds as the decimal context says that it is called in."""
    fixed = isinstance(clauses.decimals, FixedDecimals) or clauses.decimals == "currency"
    apart = clauses.bands or clauses.words or clauses.width or clauses.step or clauses.plus == "always"
    worded = clauses.scale_word in ("short", "full") or clauses.money_sign == "name"
    of = locale(clauses.locale, clauses.digits)
    sizes = {"threes": (3,), "lakhs": (3, 2), "fours": (4,), "none": ()}.get(clauses.grouping, of.grouping)
    if clauses.form not in ("amount", "number", "percent") or clauses.scale == "fit" or not clauses.shown:
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
    return _text(clauses, exponent, sizes, around[0], around[1])


def _text(
    clauses: ResolvedClauses, exponent: int, sizes: tuple[int, ...], plain: list[str], loss: list[str]
) -> Text:
    of, places = locale(clauses.locale, clauses.digits), clauses.places
    mark, point = of.group, of.decimal
    if clauses.form == "amount" and clauses.currency and clauses.money_shown == "every":
        mark, point = of.money_group, of.money_decimal
    least = of.minimum_grouping if clauses.grouping == "locale" else 1
    (before, after), (minus_before, minus_after) = plain, loss
    zero, missing = print_amount(Decimal(0), clauses).whole, print_amount(None, clauses).whole
    factor = Decimal(1).scaleb(exponent - clauses.power)
    # The decimal module writes thousands as 1,234,567.89; other ways are told from how long that is.
    spelling = f"{',' if sizes else ''}.{places}f"
    nothing = {f"{sign}{0:.{places}f}" for sign in ("", "-")}
    tail = places + 1 if places else 0
    shortest = tail + 4 + least if sizes else 0  # of a number that has a mark at all
    as_written = tail + 6 if sizes == (3, 2) else 10**9  # the longest that threes group alike
    told = str.maketrans({",": mark, ".": point}) if (mark, point) != (",", ".") else None

    def text(amount: Decimal | None) -> str:
        if not amount:
            return missing if amount is None else zero
        digits = format(amount * factor, spelling)
        if digits in nothing:
            return _slow(clauses, exponent, amount)
        minus = digits[0] == "-"
        if minus:
            digits = digits[1:]
        length = len(digits)
        if length > as_written:
            digits = _in_lakhs(digits[: length - tail].replace(",", "")) + digits[length - tail :]
        elif length < shortest:
            digits = digits.replace(",", "")
        if told:
            digits = digits.translate(told)
        return f"{minus_before}{digits}{minus_after}" if minus else f"{before}{digits}{after}"

    return text


def _in_lakhs(whole: str) -> str:
    """A whole number with a comma after every two digits from the thousands up."""
    head, grouped = whole[:-3], whole[-3:]
    while len(head) > 2:
        head, grouped = head[:-2], f"{head[-2:]},{grouped}"
    return f"{head},{grouped}"
