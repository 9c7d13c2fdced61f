"""Reading amounts: from the text of a cell, and a convention, to an exact amount.

The reader takes every mark and digit that Unicode's number data uses, tells the look-alikes
apart (zero, missing, text), and never guesses: what the convention does not make a number
stays text, with the reason.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from functools import cache
from typing import Literal

from humble_sum.core.amounts import EXACT, read_amount, scaled
from humble_sum.core.intake.lexicon import POWERS, currency_ends, currency_signs, normal
from humble_sum.core.intake.marks import without_marks, without_raised
from humble_sum.core.locales import Locale

Kind = Literal["amount", "zero", "missing", "text"]
Form = Literal["amount", "percent", "per_mille", "basis_points", "multiple", "minor"]
Sign = Literal["", "plus", "minus", "trailing_minus", "brackets", "cr", "dr", "triangle"]

SPACES = " \u2009"  # NFKC has already made the other spaces of number data plain
APOSTROPHES = "'\u2019"
MINUSES = "-\u2212\u2010\u2011\u2012\u2013\u2014\ufe63"
DASHES = {"-", "\u2212", "\u2010", "\u2012", "\u2013", "\u2014", "\u2015", "--"}
ZERO_WORDS = {"nil", "zero"}
MISSING_WORDS = {"n/a", "na", "n.a.", "n.m.", "nm", "not available", "not applicable", "..", "...", "\u2026"}
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


@dataclass
class _Parts:
    """A cell being taken apart from the outside in."""

    text: str
    sign: Sign = ""
    form: Form = "amount"
    currency: str | None = None
    power: int = 0
    why: list[str] = field(default_factory=list)


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
    if plain in DASHES or lower in ZERO_WORDS or _dash_alone(plain):
        return Reading("zero", Decimal(0))
    if lower in MISSING_WORDS:
        return Reading("missing")
    if ERRORS.fullmatch(plain):
        return Reading("text", why=(f"{plain} is an error of the workbook",))
    if (power := POWER_OF_TEN.fullmatch(plain)) is not None:
        return _with_power(plain, power)
    parts = _Parts(plain)
    if not _outside(parts):
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


def _outside(parts: _Parts) -> bool:
    """Take off signs, brackets, currency, percent and scale words, outermost first, until only
    the number is left. False when a letter is left that is none of them."""
    taking = (_no_cents, _brackets, _credit, _triangle, _minus, _form, _scale, _currency)
    while any(take(parts) for take in taking):
        parts.text = parts.text.strip()
    return bool(parts.text) and not any(character.isalpha() for character in parts.text)


def _signed(parts: _Parts, sign: Sign, text: str) -> bool:
    """Set the sign, once: a second one means this is no number."""
    if parts.sign:
        return False
    parts.sign, parts.text = sign, text
    return True


def _brackets(parts: _Parts) -> bool:
    text = parts.text
    return text.startswith("(") and text.endswith(")") and _signed(parts, "brackets", text[1:-1])


def _credit(parts: _Parts) -> bool:
    # Capitals are a ledger's credit and debit; "Cr" and "cr" are crores.
    if parts.text.endswith("CR"):
        return _signed(parts, "cr", parts.text[:-2])
    return parts.text.endswith("DR") and _signed(parts, "dr", parts.text[:-2])


# What stands where cents would, and is no minus: 12.–, 1 200,-- and the Indian 1,200/-.
NO_CENTS = re.compile(rf"(?<=\d)([.,][{MINUSES}]{{1,2}}|/[-=])$")


def _no_cents(parts: _Parts) -> bool:
    found = NO_CENTS.search(parts.text)
    if found:
        parts.text = parts.text[: found.start()]
    return bool(found)


def _triangle(parts: _Parts) -> bool:
    return parts.text[0:1] in ("\u25b3", "\u25b2") and _signed(parts, "triangle", parts.text[1:])


def _minus(parts: _Parts) -> bool:
    text = parts.text
    if text[:1] and text[0] in MINUSES:
        return _signed(parts, "minus", text[1:])
    if text[:1] == "+":
        return _signed(parts, "plus", text[1:])
    if text[-1:] and text[-1] in MINUSES:
        return _signed(parts, "trailing_minus", text[:-1])
    return False


def _currency(parts: _Parts) -> bool:
    if parts.currency is not None:
        return False
    text = parts.text
    before, after = currency_signs()
    first, last = currency_ends()
    for sign, code in before[text[0]] if text.startswith(first.get(text[:1], ())) else ():
        rest = text[len(sign) :]
        if text.startswith(sign) and _stands(sign, rest, rest[:1]):
            parts.currency, parts.text = code, rest
            return True
    for sign, code in after[text[-1]] if text.endswith(last.get(text[-1:], ())) else ():
        rest = text[: -len(sign)]
        if text.endswith(sign) and _stands(sign, rest, rest[-1:]):
            parts.currency, parts.text = code, rest
            return True
    return False


def _stands(sign: str, rest: str, beside: str) -> bool:
    """Whether the sign is one, and not part of a word: a number is left, and no letter beside it.

    A single letter, such as the rand's R, has to stand off or have a marked number beside it,
    since "Q1" and "R2" are names.
    """
    if not _has_digit(rest):
        return False
    if len(sign) == 1 and sign.isascii() and sign.isalpha():
        return beside == " " or any(mark in rest for mark in ".,")
    return not (sign[-1].isalpha() and sign[0].isalpha() and beside.isalpha())


def _has_digit(text: str) -> bool:
    return any(character.isdigit() for character in text)


FORMS: dict[str, Form] = {
    "%": "percent",
    "\u066a": "percent",
    "\u2030": "per_mille",
    "\u0609": "per_mille",
    "bps": "basis_points",
    "bp": "basis_points",
}


def _form(parts: _Parts) -> bool:
    if parts.form != "amount":
        return False
    lower = parts.text.lower()
    for mark, form in FORMS.items():
        if lower.endswith(mark):
            parts.form, parts.text = form, parts.text[: -len(mark)]
            return True
    if lower.startswith(("%", "\u066a")):
        parts.form, parts.text = "percent", parts.text[1:]
        return True
    if lower[-1:] in ("p", "c", "\u00a2") and lower[-2:-1].isdigit() and "%" not in lower:
        # Pence or cents, in which a line per share is stated.
        parts.form, parts.text = "minor", parts.text[:-1]
        return True
    if lower[-1:] in ("x", "\u00d7") and lower[-2:-1].isdigit():
        parts.form, parts.text = "multiple", parts.text[:-1]
        return True
    return False


# The word of a scale after its number; behind a bracket too, where Cr may be a credit: (400)m.
WORD_AT_END = re.compile(
    r"^(?P<rest>.*(\d|\)(?!\s*cr)))\s*(?P<word>[^\W\d_][^\d]*?)\.?$", re.DOTALL | re.IGNORECASE
)


def _scale(parts: _Parts) -> bool:
    if parts.power:
        return False
    found = WORD_AT_END.match(parts.text)
    if found is None:
        return False
    power = POWERS.get(found["word"].lower().strip())
    if power is None:
        return False
    parts.power, parts.text = power, found["rest"]
    return True


def _number(parts: _Parts, convention: Convention) -> tuple[Decimal, int, bool] | None:
    """The digits as a decimal, how many decimals, and whether they are grouped."""
    text = parts.text
    if identifier := _identifier(text, parts.sign):
        parts.why.append(identifier)
        return None
    whole, mark, decimals = text.rpartition(convention.decimal)
    if not mark:
        whole, decimals = text, ""
    grouped = False
    if convention.decimal in whole:
        parts.why.append(f'more than one "{convention.decimal}"')
        return None
    if not whole.isdigit() or not whole.isascii():
        groups = _groups(whole, convention)
        if groups is None and whole:
            parts.why.append(f'"{text}" is not grouped as a number with a {convention}')
            return None
        grouped = bool(groups)
    if decimals and not (decimals.isascii() and decimals.isdigit()):
        parts.why.append(f'"{decimals}" after the decimal mark is not a number')
        return None
    digits = "".join(character for character in whole if character.isdigit()) + decimals
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


def _groups(whole: str, convention: Convention) -> list[str] | None:
    """The groups of a grouped whole number, or None where they are not a number's.

    One mark throughout, and sizes of three, of three then twos, or of four.
    """
    marks = {character for character in whole if not character.isdigit()}
    if len(marks) != 1 or not marks <= set(convention.groups):
        return None
    first, *rest = whole.split(marks.pop())
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


def convention_of(of: Locale) -> Convention:
    """The convention a locale writes by."""
    return next(convention for convention in CONVENTIONS if convention.decimal == of.decimal)


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
    whole = rf"(?:0|[1-9]\d{{0,29}}|[1-9]\d{{0,2}}(?:{group}\d{{3}})+|[1-9]\d?(?:{group}\d\d)*{group}\d{{3}})"
    # Zero is left to `read`, which says that it is one.
    amount = rf"(?=[^1-9]*[1-9]){whole}(?:{decimal}\d{{1,30}})?"
    return re.compile(rf"-?{amount}|\({amount}\)", re.ASCII)
