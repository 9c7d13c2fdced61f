"""The numbers of a text: where each stands, what it comes to, and which are plainly no figures of a pack.

Digits are read with the lexing of intake. What stands around them tells amounts from days, years, pages,
notes, telephone numbers and codes.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Literal

from humble_sum.core.amounts import EXACT
from humble_sum.core.documents.word_forms import forms, spelled_numbers, words_as_pattern
from humble_sum.core.intake.amount_reading import COMMA, POINT, Convention, read
from humble_sum.core.intake.conventions import decided_by
from humble_sum.core.intake.lexicon import currency_signs
from humble_sum.core.intake.period_words import folded, month_numbers
from humble_sum.core.intake.scale_words import power_of

Form = Literal["amount", "percent", "points", "basis_points", "multiple"]
SPACES = "\u00a0\u2009\u202f"
DIGITS = rf"\d(?:[\d.,'’\u066b\u066c{SPACES}]*\d)?"
# A group of three after a common space is one with what stands before it.
SPACED = re.compile(r"(?<![\d.,])\d{1,3}(?: \d{3})+(?![\d])")
DECIMALS = re.compile(r"[.,]\d+")
NUMBER = re.compile(
    rf"(?<![\w@#/]){DIGITS}|(?:(?<=\bRs)|(?<=\bINR)|(?<=\bUSD)|(?<=\bEUR)|(?<=\bGBP)){DIGITS}"
)
SPELLED = "|".join(sorted(map(re.escape, spelled_numbers()), key=len, reverse=True))
RUN = re.compile(rf"{NUMBER.pattern}|(?P<word>(?<![\w-])(?:{SPELLED})(?![\w-]))", re.IGNORECASE)
WORD = re.compile(r"[^\W\d_]+(?:[.'’](?=\w))?", re.UNICODE)
GAP = rf"[\s{SPACES}-]?"
PERCENT = re.compile(rf"{GAP}(?:[%٪]|(?:{words_as_pattern('percent')})(?!\w))", re.IGNORECASE)
POINTS = re.compile(rf"{GAP}(?:{words_as_pattern('points')})(?!\w)", re.IGNORECASE)
BASIS = re.compile(rf"{GAP}(?:{words_as_pattern('basis_points')})(?!\w)", re.IGNORECASE)
OF = re.compile(rf"[ {SPACES}]?(d['’]|de |di |of )?[ {SPACES}]?", re.IGNORECASE)  # before a currency
TIMES = re.compile(rf"{GAP}(?:×|(?:{words_as_pattern('times')})(?!\w))", re.IGNORECASE)
ORDINAL = re.compile(r"(?:st|nd|rd|th|er|re|e|ème|º|ª|°)(?!\w)")
MINUS = "-−–"
YEARS = range(1900, 2100)
# Every sign and name of a currency, the longest first.
SIGNS = sorted(
    (
        (sign, code)
        for found in currency_signs()[0].values()
        for sign, code in found
        if len(sign) > 1 or not sign.isalpha()
    ),
    key=lambda each: -len(each[0]),
)
BY_LAST = {last: [each for each in SIGNS if each[0][-1] == last] for last in {sign[-1] for sign, _ in SIGNS}}
BY_FIRST = {
    first: [each for each in SIGNS if each[0][0] == first] for first in {sign[0] for sign, _ in SIGNS}
}
LONG_CODE = 9  # digits in one run, from which a bare number is a code
BESIDE = 100  # characters on each side of a number that are looked at
SHORT_SCALES = frozenset(("m", "k", "b", "t", "l", "cr", "bn", "mn", "tn", "mm"))


@dataclass(frozen=True)
class Number:
    """A number in a text: from `start` to before `end`, with sign, currency, scale word and percent sign. The
    digits alone are `digits`. `amount` is exact and unscaled; one unit of its last digit is 10**`exponent`.
    `other` says why it is plainly no figure of a pack; `scaled` that it has a scale word."""

    start: int
    end: int
    text: str
    digits: tuple[int, int]
    amount: Decimal
    exponent: int
    form: Form = "amount"
    currency: str | None = None
    scaled: bool = False
    signed: bool = False
    other: str = ""

    @property
    def significant(self) -> int:
        """How many digits it has that say something."""
        units = int(EXACT.scaleb(self.amount.copy_abs(), -self.exponent))
        return len(str(units)) if units else 1


def convention_of(texts: Iterable[str]) -> Convention:
    """How a document writes numbers, by those that can be read in one way only; else with a point."""
    point = comma = 0
    for text in texts:
        for found in NUMBER.finditer(text):
            decided = decided_by(found.group())
            if decided is None:
                continue
            point += decided.decimal == "."
            comma += decided.decimal == ","
    return COMMA if comma > point else POINT


def numbers_in(text: str, convention: Convention = POINT, in_cell: bool = False) -> Iterator[Number]:
    """Every number of a text, in order. In a cell a bare year or a small whole number may be an amount."""
    at = 0
    for start, end in _digits(text, convention):
        if start < at:
            continue
        number = _number(text, start, end, convention, in_cell)
        if number is not None:
            yield number
            at = number.end


def _digits(text: str, convention: Convention) -> Iterator[tuple[int, int]]:
    """Where runs of digits stand, with their marks. A common space groups where commas are decimal marks."""
    spaced = {m.start(): m.end() for m in SPACED.finditer(text)} if convention.decimal == "," else {}
    at = 0
    for found in RUN.finditer(text):
        if found.start() < at:
            continue
        if found["word"]:
            yield found.span()
            continue
        end = spaced.get(found.start(), found.end())
        if end > found.end() and (more := DECIMALS.match(text, end)):
            end = more.end()
        yield found.start(), end
        at = end


def _number(text: str, start: int, end: int, convention: Convention, in_cell: bool) -> Number | None:
    digits = text[start:end]
    spelled = spelled_numbers().get(digits.lower())
    reading = read(digits if spelled is None else str(spelled), convention)
    if reading.amount is None:
        reading = read(digits, POINT if convention.decimal == "," else COMMA)
    low, high, signed, currency = _around(text, start, end)
    if reading.amount is None:
        return Number(start, end, digits, (start, end), Decimal(0), 0, other="a code")
    amount, exponent, form, scaled = reading.amount, -reading.decimals, "amount", False
    rest = text[high : high + BESIDE]
    if found := POINTS.match(rest):
        form, high, amount, exponent = "points", high + found.end(), EXACT.scaleb(amount, -2), exponent - 2
    elif found := PERCENT.match(rest):
        form, high, amount, exponent = "percent", high + found.end(), EXACT.scaleb(amount, -2), exponent - 2
    elif found := BASIS.match(rest):
        form, high, amount, exponent = (
            "basis_points",
            high + found.end(),
            EXACT.scaleb(amount, -4),
            exponent - 4,
        )
    elif (found := TIMES.match(rest)) and reading.decimals:
        form, high = "multiple", high + found.end()
    else:
        power, length = _scale(rest, currency)
        if power:
            amount, exponent, scaled, high = (
                EXACT.scaleb(amount, power),
                exponent + power,
                True,
                high + length,
            )
            if currency is None:
                currency, length = _currency_after(text[high : high + BESIDE])
                high += length
    bare = form == "amount" and not scaled and currency is None and not reading.decimals
    other = _other(text, start, end, high, digits, bare, in_cell)
    negative = signed and (text[low] in MINUS or text[low] == "(")
    return Number(
        low,
        high + (1 if negative and text[low] == "(" else 0),
        text[low : high + (1 if negative and text[low] == "(" else 0)].replace("\n", " "),
        (start, end),
        EXACT.minus(amount) if negative else amount,
        exponent,
        form,  # type: ignore[arg-type]
        currency,
        scaled,
        signed,
        other,
    )


def _beside(text: str, start: int, end: int) -> tuple[str, str]:
    """The text right before and right after a number; a long text is not looked through for each of them."""
    return text[max(0, start - BESIDE) : start], text[end : end + BESIDE]


def _around(text: str, start: int, end: int) -> tuple[int, int, bool, str | None]:
    """What belongs to the digits: where it begins and ends, whether there is a sign, and the currency."""
    before, after = _beside(text, start, end)
    low, high, currency = start, end, None
    bare = before.rstrip(f" {SPACES}")
    if len(before) - len(bare) <= 1:
        for sign, code in BY_LAST.get(bare[-1:], ()):
            if bare.endswith(sign) and not (sign[-1].isalpha() and bare[: -len(sign)][-1:].isalpha()):
                currency, low = code, start - len(before) + len(bare) - len(sign)
                break
    if currency is None:
        currency, length = _currency_after(after)
        high += length
    head = before[: len(before) - (start - low)]
    signed = False
    if (head[-1:] in ("(",) and _closes(after)) or (
        head[-1:] and head[-1] in MINUS and not head[-2:-1].isalnum()
    ):
        signed, low = True, low - 1
    return low, high, signed, currency


def _closes(after: str) -> bool:
    """Whether a bracket closes right after a number and what belongs to it, so that it is its sign."""
    return bool(re.match(r"[\s\u00a0]?[%A-Za-z€₹$£.]{0,12}\)", after))


def _currency_after(after: str) -> tuple[str | None, int]:
    lead = OF.match(after)
    assert lead is not None
    gap, bare = lead.end(), after[lead.end() :]
    if gap > 1 and not lead[1]:
        return None, 0
    for sign, code in BY_FIRST.get(bare[:1], ()):
        if bare.startswith(sign) and not bare[len(sign) : len(sign) + 1].isalnum():
            return code, gap + len(sign)
    return None, 0


@lru_cache(maxsize=20_000)
def _power(word: str, currency: str | None = None, beside_money: bool = False) -> int | None:
    """The power of ten that a word says; texts say the same words over and over."""
    return power_of(word, currency, beside_money)


def _scale(rest: str, currency: str | None) -> tuple[int, int]:
    """The power of ten of the words right after a number, and how long they are."""
    # A full stop belongs to a short word that goes on: Mio. €. At the end of a sentence it ends the sentence.
    found = re.match(rf"([\s{SPACES}-]?)([^\W\d_]+)\b((?:\.(?=\s*[^\s\w]|\s+[a-z\d]))?)", rest)
    if not found:
        return 0, 0
    gap, word = found[1], found[2].lower()
    two = re.match(rf"[\s{SPACES}]?([^\W\d_]+[\s{SPACES}][^\W\d_]+)\b", rest)
    if two and (power := _power(two[1].lower().replace("\u00a0", " "))):
        return power, two.end()
    if word in SHORT_SCALES:
        sure = currency is not None or not gap or word in ("cr", "bn", "mn")
        return (_power(word, currency, True) or 0, found.end()) if sure else (0, 0)
    power = _power(word, currency, beside_money=len(word) > 3 or currency is not None)
    return (power, found.end()) if power and power > 2 else (0, 0)


def _other(text: str, start: int, end: int, high: int, digits: str, bare: bool, in_cell: bool) -> str:
    """Why a number is plainly none of a pack's figures, or nothing."""
    before, after = _beside(text, start, end)
    if re.search(r"[A-Za-z]\w*[-/]$", before) and bare and not in_cell:
        return "a code"
    last = re.search(r"([^\s()\[\]]+)[\s\u00a0]*$", before)
    if bare and last and last[1].lower().strip(",;:") in forms("names_number"):
        return "the number of a note, a page or the like"
    if bare and re.match(r"[-–/]\d", after) and re.fullmatch(r"\d{4}", digits):
        return "a year"
    if bare and re.search(r"\d[-–/]$", before) and len(digits) in (2, 4):
        return "a year"
    if _is_day(before, after, digits):
        return "a day"
    if ORDINAL.match(after):
        return "an ordinal"
    if bare and not in_cell:
        if re.fullmatch(r"\d{4}", digits) and int(digits) in YEARS:
            return "a year"
        if start <= len(before) and not before.strip() and re.match(r"[.)]\s", after):
            return "the number of a paragraph"
    if bare and re.fullmatch(rf"\d{{{LONG_CODE},}}", digits):
        return "a code"
    if bare and re.search(r"\+\d*[\s-]?$", before):
        return "a telephone number"
    return ""


def _is_day(before: str, after: str, digits: str) -> bool:
    if not re.fullmatch(r"\d{1,2}|\d{4}", digits):
        return bool(re.fullmatch(r"\d{1,2}[./]\d{1,2}[./]\d{2,4}", digits))
    next_word = re.match(r"[\s\u00a0.]*(?:de\s|of\s)?([^\W\d_]{3,})", after)
    last_word = re.search(r"([^\W\d_]{3,})\.?[\s\u00a0]+(?:\d{1,2},[\s\u00a0]+)?$", before)
    months = month_numbers()
    named = (next_word and len(digits) < 4 and folded(next_word[1]) in months) or (
        last_word and folded(last_word[1]) in months
    )
    return bool(named) or bool(re.match(r"[:h]\d\d\b", after)) or bool(re.search(r"\d[:h]$", before))
