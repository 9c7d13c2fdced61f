"""Printing: from an exact amount to the text a reader sees, rounded once."""

from __future__ import annotations

from decimal import Decimal
from functools import lru_cache
from typing import TYPE_CHECKING, Literal, NamedTuple

from humble_sum.core.amounts import EXACT, cut_endless, scaled
from humble_sum.core.locales import currencies, locale
from humble_sum.core.locales.dates import date_number, date_text, time_number, time_text
from humble_sum.core.printing.clause_values import (
    FixedDecimals,
    SignificantDigits,
    Tone,
    UpToDecimals,
    Word,
    YesNoWords,
)
from humble_sum.core.printing.dressing import UsualSign, dressed, number_text
from humble_sum.core.printing.frame import frame_of
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import Position, Rounded, position, round_units, rounding_of
from humble_sum.core.printing.scaling import NO_BREAK, ladder_of

if TYPE_CHECKING:
    from humble_sum.core.printing.bands import Band

DASH = "\u2013"

Kind = Literal["amount", "zero", "rounds_away", "missing", "text"]


class Printed(NamedTuple):
    """A printed figure.

    `units` is the whole number of units printed (None when missing), each 10**exponent.
    `hang` is the end of `text` that stands past the digits, a closing bracket, so that digits
    can be lined up. `mark`, `before` and `after` stand apart from the figure; `full_text` has them
    all. `too_wide` says that it takes more characters than its rule allows: it is never cut.
    """

    text: str
    kind: Kind
    units: int | None
    own_rounding: int | None
    exponent: int
    hang: str = ""
    mark: str = ""
    tone: Tone = "plain"
    before: str = ""
    after: str = ""
    too_wide: bool = False

    @property
    def full_text(self) -> str:
        """The figure with its mark and what stands before and after it."""
        return f"{self.mark}{NO_BREAK}{self.unmarked}" if self.mark else self.unmarked

    @property
    def unmarked(self) -> str:
        """The figure with what stands before and after it, without its mark."""
        if not (self.before or self.after):
            return self.text
        return NO_BREAK.join(part for part in (self.before, self.text, self.after) if part)


def kind_of(where: Position | None, units: int | None) -> Kind:
    """Which of the look-alikes this is, told from the exact amount."""
    if where is None:
        return "missing"
    if where.zero and not units:
        return "zero"
    return "rounds_away" if units == 0 else "amount"


def print_amount(
    amount: Decimal | None,
    clauses: ResolvedClauses,
    nudged: int | None = None,
    money: bool = True,
    usual_sign: UsualSign = "either",
    known: Rounded | None = None,
) -> Printed:
    """Print one amount under decided clauses.

    `nudged` prints that whole number of units instead of its own rounding; `money` False
    leaves the currency sign out (where the clause asks for it only on the first line and
    totals). `usual_sign` is the sign the line usually has: where negatives are unsigned, an amount
    of the other sign stands in brackets. `known` is how it rounds under these clauses, if that was worked
    out already. The amount itself is never changed.
    """
    frame = None if amount is None else frame_of(clauses)
    if amount is not None and frame is not None:
        known = known or rounding_of(amount, clauses.exponent, clauses.rounding, clauses.multiple)
        if units := known.units if nudged is None else nudged:
            around = frame.minus if units < 0 else frame.plain
            text = f"{around.before}{frame.write(abs(units))}{around.after}"
            printed = Printed(text, "amount", units, known.units, clauses.exponent, around.hang)
            return _beside(printed, clauses, None, units < 0)
    if not clauses.shown:
        return _hidden(print_amount(amount, clauses.at(shown=True), nudged, money, usual_sign))
    if amount is None:
        return Printed(_stand_in(clauses.missing), "missing", None, None, clauses.exponent)
    if clauses.form in ("text", "yes_no", "date", "time"):
        return _said(amount, clauses)
    if clauses.scale == "fit" and clauses.fitted is None:
        clauses, known = fitted(amount, clauses), None
    printed = _print(amount, clauses, nudged, money, usual_sign, known)
    if clauses.width is not None and nudged is None and len(printed.full_text) > clauses.width.most:
        return _narrower(amount, clauses, printed, money, usual_sign)
    return printed


def _hidden(printed: Printed) -> Printed:
    """A figure that is not shown: it has its units, which count, and no text."""
    return printed._replace(text="", hang="", mark="", tone="plain", before="", after="", too_wide=False)


def _print(
    amount: Decimal,
    clauses: ResolvedClauses,
    nudged: int | None,
    money: bool,
    usual_sign: UsualSign,
    known: Rounded | None = None,
) -> Printed:
    exponent = unit_exponent(amount, clauses)
    where, own_rounding = known or rounding_of(amount, exponent, clauses.rounding, clauses.multiple)
    units = own_rounding if nudged is None else nudged
    kind = kind_of(where, units)
    band = next((band for band in clauses.bands if band.when.holds(amount)), None)
    if kind == "zero" and clauses.zero != "figure":
        return _beside(
            Printed(_stand_in(clauses.zero), kind, units, own_rounding, exponent), clauses, band, False
        )
    if kind == "rounds_away" and clauses.rounds_away == "dash":
        return _beside(Printed(DASH, kind, units, own_rounding, exponent), clauses, band, False)
    of = locale(clauses.locale, clauses.digits)
    shown, step, mark, minus, plus = abs(units), exponent, "", units < 0, units > 0
    if kind == "rounds_away":
        minus = where.negative and clauses.rounds_away != "figure"
        if clauses.rounds_away == "less_than":
            shown, mark = clauses.multiple, "<"
        elif clauses.rounds_away == "reveal":
            step = _revealing(amount, clauses)
            plus = not where.negative
            shown = abs(round_units(position(amount, step), clauses.rounding))
    digits = plain_digits(shown, step, clauses)
    signed = "minus" if minus else "plus" if clauses.plus == "always" and plus else ""
    text, hang = dressed(digits, mark, signed, clauses, of, money, usual_sign)
    return _beside(Printed(text, kind, units, own_rounding, exponent, hang), clauses, band, minus)


def _beside(printed: Printed, clauses: ResolvedClauses, band: Band | None, minus: bool) -> Printed:
    """The figure with what stands apart from it, and its tone."""
    tone = clauses.negative_tone if minus else "plain"
    if not (band or clauses.before or clauses.after or tone != "plain"):
        return printed
    return printed._replace(
        mark=band.mark if band else "",
        tone=band.tone if band and band.tone != "plain" else tone,
        before=clauses.before,
        after=clauses.after,
    )


def unit_exponent(amount: Decimal, clauses: ResolvedClauses) -> int:
    """The power of ten of one unit; under significant digits it hangs on the amount."""
    if not isinstance(clauses.decimals, SignificantDigits):
        return clauses.exponent
    if not amount:
        return clauses.power
    digits = clauses.decimals.significant
    exponent = amount.adjusted() - digits + 1
    units = round_units(position(amount, exponent), clauses.rounding)
    return exponent + 1 if abs(units) >= 10**digits else exponent


def fitted(amount: Decimal, clauses: ResolvedClauses) -> ResolvedClauses:
    """The clauses with a scale that fits the amount, rolled over after rounding: 999,960 is 1.0M."""
    if clauses.scale != "fit" or clauses.fitted is not None:
        return clauses
    length: Literal["short", "full"] = "full" if clauses.scale_word == "full" else "short"
    # From which power amounts are said in which.
    steps = [
        (0, 0),
        *((size.first, size.power) for size in ladder_of(clauses.locale, length, clauses.ladder)),
    ]
    size = max(amount.adjusted(), 0) if amount else 0
    place = max(n for n, (first, _) in enumerate(steps) if first <= size)
    chosen = _at_power(clauses, steps[place][1])
    if place + 1 < len(steps):
        first, power = steps[place + 1]
        exponent = unit_exponent(amount, chosen)
        units = abs(rounding_of(amount, exponent, chosen.rounding, chosen.multiple).units)
        if units * 10 ** max(exponent, 0) >= 10 ** (first - min(exponent, 0)):
            chosen = _at_power(clauses, power)
    return chosen


@lru_cache(maxsize=4_096)
def _at_power(clauses: ResolvedClauses, power: int) -> ResolvedClauses:
    return clauses.at(fitted=power)


def _narrower(
    amount: Decimal, clauses: ResolvedClauses, printed: Printed, money: bool, usual_sign: UsualSign
) -> Printed:
    """A figure that is too wide, with what its rule says gives way; never cut."""
    assert clauses.width is not None
    tries = []
    if clauses.width.gives_way == "decimals":
        tries = [clauses.at(decimals=FixedDecimals(fixed=n)) for n in reversed(range(clauses.decimal_places))]
    elif clauses.width.gives_way == "scale":
        word: Literal["short", "full"] = "full" if clauses.scale_word == "full" else "short"
        for size in ladder_of(clauses.locale, word, clauses.ladder):
            if size.power > clauses.power:
                tries.append(clauses.at(scale="fit", fitted=size.power, scale_word=word))
    for narrower in tries:
        made = _print(amount, narrower, None, money, usual_sign)
        if len(made.full_text) <= clauses.width.most and made.kind == printed.kind:
            return made
    return printed._replace(too_wide=True)


def _said(amount: Decimal, clauses: ResolvedClauses) -> Printed:
    """Amounts that print as something else than a number: yes or no, a date, a time, an identifier."""
    kind: Kind = "text"
    if clauses.form == "yes_no":
        words = clauses.words if isinstance(clauses.words, YesNoWords) else YesNoWords(yes="yes", no="no")
        return Printed(words.yes if amount else words.no, kind, None, None, 0)
    if clauses.form == "date" and (day := date_number(amount)) is not None:
        return Printed(date_text(day, clauses.locale, clauses.digits), kind, None, None, 0)
    if clauses.form == "time" and (time := time_number(amount)) is not None:
        return Printed(time_text(time, clauses.locale, clauses.digits), kind, None, None, 0)
    return Printed(format(amount, "f"), kind, None, None, 0)


def exact_text(amount: Decimal | None, clauses: ResolvedClauses) -> str:
    """The whole exact amount, unscaled and unrounded, with sign, grouping and currency."""
    if amount is None:
        return ""
    if clauses.form in ("text", "yes_no", "date", "time"):
        return format(amount, "f")
    money = clauses.form == "amount"
    minor = currencies.minor_units(clauses.currency) if clauses.currency and money else 0
    return _every_digit(amount, _own_places(amount, minor), "amount" if money else "number", *_marks(clauses))


def scaled_text(amount: Decimal, clauses: ResolvedClauses) -> str:
    """The amount as the scale has it, before rounding: every digit, grouped, with a minus."""
    value = EXACT.normalize(scaled(amount, -fitted(amount, clauses).power))
    return _every_digit(value, _own_places(value, 0), "number", *_marks(clauses))


def _own_places(amount: Decimal, least: int) -> int:
    _, _, exponent = amount.as_tuple()
    assert isinstance(exponent, int)
    return max(least, -exponent)


def _marks(clauses: ResolvedClauses) -> tuple[str | None, ...]:
    """The clauses that a figure with all its digits still hangs on."""
    return (clauses.currency, clauses.money_sign, clauses.locale, clauses.digits, clauses.grouping)


# Exact amounts look the same under most changes of a rule, so they are remembered.
@lru_cache(maxsize=65_536)
def _every_digit(amount: Decimal, decimal_places: int, form: str, *marks: str | None) -> str:
    clauses = _plain(decimal_places, form, *marks)
    return cut_endless(print_amount(amount, clauses).text, locale(clauses.locale).decimal)


@lru_cache(maxsize=1_024)
def _plain(decimal_places: int, form: str, *marks: str | None) -> ResolvedClauses:
    """Clauses that print an amount unscaled, with a minus, to so many decimals."""
    named = dict(zip(("currency", "money_sign", "locale", "digits", "grouping"), marks, strict=True))
    decimals = FixedDecimals(decimal_places)
    return ResolvedClauses().at(form=form, money_shown="every", decimals=decimals, negative="minus", **named)


def units_text(units: int, exponent: int, clauses: ResolvedClauses) -> str:
    """A whole number of units as a figure with its minus and nothing else."""
    of = locale(clauses.locale, clauses.digits)
    return (of.minus if units < 0 else "") + number_text(
        plain_digits(abs(units), exponent, clauses), clauses, of
    )


def plain_digits(units: int, exponent: int, clauses: ResolvedClauses) -> str:
    """The plain digits of a number of units as the scale shows it: "1234.50"."""
    decimal_places = clauses.power - exponent
    if decimal_places <= 0:
        return str(units * 10**-decimal_places)
    digits = str(units).rjust(decimal_places + 1, "0")
    integer, decimals = digits[:-decimal_places], digits[-decimal_places:]
    if isinstance(clauses.decimals, UpToDecimals):
        decimals = decimals.rstrip("0")
    return f"{integer}.{decimals}" if decimals else integer


def _revealing(amount: Decimal, clauses: ResolvedClauses) -> int:
    """The unit fine enough to show something of the amount."""
    exponent = clauses.exponent
    while not round_units(position(amount, exponent), clauses.rounding):
        exponent -= 1
    return exponent


def _stand_in(choice: str | Word) -> str:
    if isinstance(choice, Word):
        return choice.word
    return DASH if choice == "dash" else ""
