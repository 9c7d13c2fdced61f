"""How a number of a document stands to the figure it is: in the words of places.

At the page's unit it has to be what the page prints, nudges included. At a coarser unit it is the rounding
of the exact amount. At a finer one too; where the page was nudged so that it no longer rounds to what is
printed, it shows the nudge.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, ROUND_HALF_UP, Context, Decimal
from typing import Literal

from humble_sum.core.amounts import EXACT
from humble_sum.core.documents.numbers import Number
from humble_sum.core.intake.amount_reading import Convention
from humble_sum.core.proof.figures import Figure

WIDE = Context(prec=120, traps=[])  # for rounding, which is meant to leave digits off
Judgement = Literal["agrees", "rounds", "nudged", "disagrees", "gone", "doubt", "other"]


@dataclass(frozen=True)
class Judged:
    """How a number stands, the amount it should have, and why, in sentences."""

    judgement: Judgement
    should: Decimal | None
    because: tuple[str, ...] = ()


def at_unit(amount: Decimal, exponent: int, rounding: str = ROUND_HALF_UP) -> Decimal:
    """An amount rounded to units of 10**exponent, halves away from zero."""
    units = WIDE.scaleb(amount, -exponent).quantize(Decimal(1), rounding, WIDE)
    return WIDE.scaleb(units, exponent)


def judge(number: Number, figure: Figure) -> Judged:
    """How a number stands to a figure itself. Signs are not compared: a text says them in words, and a table
    of a document may show costs without theirs."""
    exact, units = figure.exact, figure.units
    said = number.amount.copy_abs()
    if exact is None:
        return Judged("gone", None, ("The figure is missing in the pack.",))
    size = exact.copy_abs()
    if units is None:
        return _against(said, (at_unit(size, number.exponent),), "agrees")
    printed = Decimal(abs(units)).scaleb(figure.exponent)
    own = at_unit(size, number.exponent)
    if number.exponent == figure.exponent:
        return _against(said, (printed,), "agrees", f"The page prints {figure.printed.full_text}.")
    if number.exponent > figure.exponent:
        return _coarser(said, size, printed, number.exponent)
    if said == own:
        if not figure.moved:
            return Judged("rounds", own)
        because = f"The page was nudged to {figure.printed.full_text}, which this does not round to."
        return Judged("nudged", own, (because,))
    if said == printed:  # the page's own number, written with more noughts
        return Judged("agrees", printed)
    return Judged("disagrees", own, (f"The page prints {figure.printed.full_text}.",))


def _coarser(said: Decimal, size: Decimal, printed: Decimal, exponent: int) -> Judged:
    own, of_page = at_unit(size, exponent), at_unit(printed, exponent)
    if said == own or said == at_unit(size, exponent, ROUND_HALF_EVEN):
        also = (f"A reader who rounds the page gets another number, {of_page:f}.",) if of_page != own else ()
        return Judged("rounds", own, also)
    return Judged("disagrees", own, ("It is not the rounding of the exact amount.",))


def judge_amounts(number: Number, amounts: Iterable[Decimal], what: str) -> Judged:
    """How a number stands to what may be worked out in several ways: from exact amounts, or printed ones."""
    said = number.amount.copy_abs()
    right = [at_unit(amount.copy_abs(), number.exponent) for amount in amounts]
    return _against(said, right, "rounds", what)


def _against(said: Decimal, right: Iterable[Decimal], word: Judgement, because: str = "") -> Judged:
    every = list(right)
    if said in every:
        return Judged(word, said)
    return Judged("disagrees", every[0], (because,) if because else ())


def written_like(number: Number, amount: Decimal, convention: Convention) -> str:
    """An amount written as a number of a document is: its currency, scale, decimals, grouping and sign."""
    first, last = number.digits[0] - number.start, number.digits[1] - number.start
    digits = number.text[first:last]
    in_unit = EXACT.scaleb(amount.copy_abs(), -(number.exponent + _decimals(digits, convention)))
    decimals = _decimals(digits, convention)
    plain = f"{at_unit(in_unit, -decimals):.{decimals}f}"
    whole, _, rest = plain.partition(".")
    groups = [c for c in digits if not c.isdigit() and c != convention.decimal]
    mark = groups[0] if groups else ("," if convention.decimal == "." else ".") if len(whole) > 4 else ""
    lakhs = bool(re.search(r"\d\d,\d\d,\d{3}|^\d,\d\d,\d{3}", digits))
    written = _grouped(whole, mark, lakhs) + (f"{convention.decimal}{rest}" if rest else "")
    return number.text[:first] + written + number.text[last:]


def _decimals(digits: str, convention: Convention) -> int:
    _, mark, rest = digits.rpartition(convention.decimal)
    return len(rest) if mark else 0


def _grouped(whole: str, mark: str, lakhs: bool) -> str:
    if not mark or len(whole) < 4:
        return whole
    head, tail = whole[:-3], whole[-3:]
    size = 2 if lakhs else 3
    parts: list[str] = []
    while head:
        parts.insert(0, head[-size:])
        head = head[:-size]
    return mark.join([*parts, tail])
