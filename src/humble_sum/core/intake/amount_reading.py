"""Reading amounts: from the text of a cell, and a convention, to an exact amount.

The reader takes every mark and digit that Unicode's number data uses, tells the look-alikes
apart (zero, missing, text), and never guesses: what the convention does not make a number
stays text, with the reason.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cache
from typing import Literal

from humble_sum.core.amounts import EXACT, read_amount, scaled
from humble_sum.core.intake.around_digits import Form, Parts, Sign, outside
from humble_sum.core.intake.footnote_marks import without_marks, without_raised
from humble_sum.core.intake.lexicon import normal
from humble_sum.core.intake.vocabulary import phrases

Kind = Literal["amount", "zero", "missing", "text"]

SPACES = " \u2009"  # NFKC has already made the other spaces of number data plain
APOSTROPHES = "'\u2019"
DASHES = {"-", "\u2212", "\u2010", "\u2012", "\u2013", "\u2014", "\u2015", "--"}
ERRORS = re.compile(r"#(REF|DIV/0|VALUE|NAME\?|NUM|N/A|NULL|SPILL|CALC)[!?]?|#N/A", re.IGNORECASE)
IDENTIFIER_DIGITS = 9  # a plus sign before this many digits in one run is a telephone number


@dataclass(frozen=True)
class Convention:
    """How a column writes numbers: its decimal mark, and the marks that may group digits."""

    decimal: str = "."
    groups: str = "," + SPACES + APOSTROPHES + "\u066c"

    def __str__(self) -> str:
        return f"decimal {NAMES_OF_MARKS.get(self.decimal, self.decimal)}"


NAMES_OF_MARKS = {".": "point", ",": "comma", "\u066b": "Arabic mark"}
POINT = Convention()
COMMA = Convention(",", "." + SPACES + APOSTROPHES)
ARABIC = Convention("\u066b", "\u066c" + SPACES)
CONVENTIONS = (POINT, COMMA, ARABIC)


@dataclass(frozen=True)
class Reading:
    """What a cell was read as.

    `amount` is exact and unscaled: 3.4 cr is 34000000, 5 % is 0.05; it is 0 for a zero and None
    for missing and text. `why` says what needs a look. `power` is the scale word's power of ten.
    """

    kind: Kind
    amount: Decimal | None = None
    form: Form = "amount"
    currency: str | None = None
    sign: Sign = ""
    power: int = 0
    decimals: int = 0
    grouped: bool = False
    why: tuple[str, ...] = ()


PLAIN = re.compile(r"(?:0|[1-9][0-9]{0,14})(?:\.([0-9]{1,15}))?")  # what can be read in one way only
POWER_OF_TEN = re.compile(r"([+\-]?\d(?:[.,]\d{1,17}|(?=[eE][+\-])))[eE]([+\-]?\d{1,4})")
MOST_POWER = 30


def read(text: str, convention: Convention = POINT) -> Reading:
    """Read one cell. Never raises: what is not a number under the convention is text, with why.

    Footnote marks are taken off, and named in why.
    """
    if (plain := PLAIN.fullmatch(text)) and (not plain[1] or convention.decimal == "."):
        amount = Decimal(text) or Decimal(0)
        return Reading("amount" if amount else "zero", amount, decimals=len(plain[1] or ""))
    bare, mark = without_raised(text)
    reading = _read(bare, convention)
    while reading.kind == "text":
        again, other = without_marks(bare)
        if not other:
            break
        bare, mark = again, other + mark
        reading = _read(bare, convention)
    if mark and reading.kind in ("amount", "zero"):
        return replace(reading, why=(*reading.why, f"the mark {mark} is taken off"))
    if mark and reading.kind == "missing":
        return replace(reading, why=(f"the mark {mark} alone, so the figure is missing",))
    return reading


def _read(text: str, convention: Convention) -> Reading:
    plain = normal(text)
    lower = plain.lower()
    if not plain:
        return Reading("missing", why=("blank",))
    if plain in DASHES or lower in phrases("nil") or _dash_alone(plain):
        return Reading("zero", Decimal(0))
    if lower in phrases("missing"):
        return Reading("missing")
    if ERRORS.fullmatch(plain):
        return Reading("text", why=(f"{plain} is an error of the workbook",))
    if (power := POWER_OF_TEN.fullmatch(plain)) is not None:
        return _with_power(plain, power)
    parts = Parts(plain)
    if not outside(parts):
        return Reading("text")
    number = _number(parts, convention)
    if number is None:
        return Reading("text", why=tuple(parts.why))
    digits, decimals, grouped = number
    amount = scaled(digits, parts.power)
    if parts.form == "percent":
        amount = scaled(amount, -2)
    elif parts.form == "basis_points":
        amount = scaled(amount, -4)
    elif parts.form == "per_mille":
        amount = scaled(amount, -3)
    if parts.sign in ("minus", "trailing_minus", "brackets", "cr", "triangle"):
        amount = amount.copy_negate() if amount else amount
    return Reading(
        "amount" if amount else "zero",
        read_amount(amount),
        parts.form,
        parts.currency,
        parts.sign,
        parts.power,
        decimals,
        grouped,
        tuple(parts.why),
    )


def _with_power(plain: str, found: re.Match[str]) -> Reading:
    """A number that a program wrote with a power of ten, which may have lost digits: 1.2E+07."""
    if abs(int(found[2])) > MOST_POWER:
        return Reading("text", why=(f"its power of ten is beyond {MOST_POWER}",))
    amount = read_amount(EXACT.scaleb(Decimal(found[1].replace(",", ".")), int(found[2])))
    why = f"written with a power of ten, so digits may be lost; read as {amount:f}"
    return Reading("amount" if amount else "zero", amount, why=(why,))


def _dash_alone(plain: str) -> bool:
    """A dash with a currency sign or in brackets, as a zero is dressed: "$-", "(–)"."""
    left = "".join(c for c in plain if unicodedata.category(c) != "Sc" and c not in "() ")
    return left != plain and (left.removeprefix("Rs").removeprefix(".") or left) in DASHES


def _number(parts: Parts, convention: Convention) -> tuple[Decimal, int, bool] | None:
    """The digits as a decimal, how many decimals, and whether they are grouped."""
    text = parts.text
    if identifier := _identifier(text, parts.sign):
        parts.why.append(identifier)
        return None
    integer, mark, decimals = text.rpartition(convention.decimal)
    if not mark:
        integer, decimals = text, ""
    grouped = False
    if convention.decimal in integer:
        parts.why.append(f'more than one "{convention.decimal}"')
        return None
    if not integer.isdigit() or not integer.isascii():
        groups = _groups(integer, convention)
        if groups is None and integer:
            parts.why.append(f'"{text}" is not grouped as a number with a {convention}')
            return None
        grouped = bool(groups)
    if decimals and not (decimals.isascii() and decimals.isdigit()):
        parts.why.append(f'"{decimals}" after the decimal mark is not a number')
        return None
    digits = "".join(character for character in integer if character.isdigit()) + decimals
    if not digits:
        return None
    if len(digits) > 60:
        parts.why.append("more than 60 digits")
        return None
    return EXACT.scaleb(Decimal(digits), -len(decimals)), len(decimals), grouped


def _identifier(text: str, sign: Sign) -> str:
    """Why a run of digits is a code or a telephone number, or nothing."""
    if len(text) > 1 and text[0] == "0" and text[1].isdigit():
        return "a leading zero, so kept as text"
    if sign == "plus" and re.search(rf"\d{{{IDENTIFIER_DIGITS},}}", text):
        return "a plus sign and a long run of digits, so kept as text"
    return ""


def _groups(integer: str, convention: Convention) -> list[str] | None:
    """The groups of a grouped whole number, or None where they are not a number's.

    One mark throughout, and sizes of three, of three then twos, or of four.
    """
    marks = {character for character in integer if not character.isdigit()}
    if len(marks) != 1 or not marks <= set(convention.groups):
        return None
    first, *rest = integer.split(marks.pop())
    if not first or not rest:
        return None
    sizes = [len(group) for group in rest]
    threes = all(size == 3 for size in sizes) and len(first) <= 3
    lakhs = sizes[-1] == 3 and all(size == 2 for size in sizes[:-1]) and len(first) <= 2
    fours = all(size == 4 for size in sizes) and len(first) <= 4
    return [first, *rest] if threes or lakhs or fours else None


SURE_DIGITS = 15


def of_double(value: float) -> tuple[Decimal, bool]:
    """A binary number as its shortest decimal, and whether it was snapped to 15 digits.

    0.1 + 0.2 needs 17 digits to be told from its neighbours; it is read as 0.3 and flagged.
    Raises ValueError for what is not finite.
    """
    shortest = Decimal(repr(value))
    if not shortest.is_finite():
        raise ValueError(f"{value!r} is not a number")
    if len(shortest.as_tuple().digits) <= SURE_DIGITS:
        return read_amount(shortest), False
    snapped = Decimal(f"{value:.{SURE_DIGITS - 1}e}")
    return read_amount(EXACT.normalize(snapped)), True


def read_amounts(
    texts: Sequence[str], convention: Convention = POINT
) -> tuple[list[Decimal | None], dict[int, Reading]]:
    """Read a whole column: an amount for each text, and a Reading for each that is not plain.

    Plain is a number with nothing around it but a minus or brackets, grouped in threes or
    lakhs by the convention's first mark. Most cells of most columns are, and are read some
    hundred times faster than one by one; the result is the same.
    """
    plain = _plain_pattern(convention).fullmatch
    group, decimal = convention.groups[0], convention.decimal
    amounts: list[Decimal | None] = []
    others: dict[int, Reading] = {}
    for place, text in enumerate(texts):
        if plain(text):
            digits = text.replace(group, "")
            if decimal != ".":
                digits = digits.replace(decimal, ".")
            amounts.append(Decimal("-" + digits[1:-1] if digits[0] == "(" else digits))
        else:
            others[place] = reading = read(text, convention)
            amounts.append(reading.amount)
    return amounts, others


@cache
def _plain_pattern(convention: Convention) -> re.Pattern[str]:
    group, decimal = re.escape(convention.groups[0]), re.escape(convention.decimal)
    integer = (
        rf"(?:0|[1-9]\d{{0,29}}|[1-9]\d{{0,2}}(?:{group}\d{{3}})+|[1-9]\d?(?:{group}\d\d)*{group}\d{{3}})"
    )
    # Zero is left to `read`, which says that it is one.
    amount = rf"(?=[^1-9]*[1-9]){integer}(?:{decimal}\d{{1,30}})?"
    return re.compile(rf"-?{amount}|\({amount}\)", re.ASCII)
