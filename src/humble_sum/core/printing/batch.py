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
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.frame import frame_of, in_lakhs
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import Mode
from humble_sum.core.printing.scaling import NO_BREAK

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
    return print_amount(exact, clauses).full_text


def _quick(clauses: ResolvedClauses, exponent: int) -> Text | None:
    """The text of one amount by rules whose figures are digits between two fixed texts; None for other
    rules. It rounds as the decimal context says that it is called in."""
    frame = frame_of(clauses)
    if frame is None or clauses.step or clauses.plus == "always":
        return None
    (before, after), (minus_before, minus_after) = (
        _with_what_stands_beside(clauses, each.before, each.after) for each in (frame.plain, frame.minus)
    )
    zero, missing = print_amount(Decimal(0), clauses).full_text, print_amount(None, clauses).full_text
    factor = Decimal(1).scaleb(exponent - clauses.power)
    # The decimal module writes thousands as 1,234,567.89; other ways are told from how long that is.
    decimal_places, mark, point = clauses.decimal_places, frame.group, frame.point
    spelling = f"{',' if frame.sizes else ''}.{decimal_places}f"
    nothing = {f"{sign}{0:.{decimal_places}f}" for sign in ("", "-")}
    tail = decimal_places + 1 if decimal_places else 0
    # The shortest that has a mark at all, and the longest that threes group as lakhs do.
    shortest = tail + len(str(frame.grouped_from)) + 1 if frame.sizes else 0
    as_written = tail + 6 if frame.sizes == (3, 2) else 10**9
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
            digits = in_lakhs(digits[: length - tail].replace(",", "")) + digits[length - tail :]
        elif length < shortest:
            digits = digits.replace(",", "")
        if told:
            digits = digits.translate(told)
        return f"{minus_before}{digits}{minus_after}" if minus else f"{before}{digits}{after}"

    return text


def _with_what_stands_beside(clauses: ResolvedClauses, before: str, after: str) -> tuple[str, str]:
    return (
        f"{clauses.before}{NO_BREAK}{before}" if clauses.before else before,
        f"{after}{NO_BREAK}{clauses.after}" if clauses.after else after,
    )
