"""The words and signs that stand around numbers, and one shape for every character."""

from __future__ import annotations

import re
import unicodedata
from functools import cache

from humble_sum.core.locales import OFFERED, locale

# Marks of direction and width that locales put around signs; they say nothing about the amount.
UNSEEN = dict.fromkeys(
    map(
        ord,
        "\u200b\u200e\u200f\u061c\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069\ufeff",
    )
)

READ = OFFERED  # locales whose currency signs are read; of the first few the names too
NAMED = ("en-IN", "en-US", "de-DE")

POWERS = {
    "hundred": 2,
    "hundreds": 2,
    "k": 3,
    "thousand": 3,
    "thousands": 3,
    "tausend": 3,
    "tsd": 3,
    "l": 5,
    "lakh": 5,
    "lakhs": 5,
    "lac": 5,
    "lacs": 5,
    "m": 6,
    "mn": 6,
    "mm": 6,
    "mio": 6,
    "million": 6,
    "millions": 6,
    "millionen": 6,
    "cr": 7,
    "crore": 7,
    "crores": 7,
    "b": 9,
    "bn": 9,
    "billion": 9,
    "billions": 9,
    "mrd": 9,
    "milliarden": 9,
    "t": 12,
    "tn": 12,
    "trillion": 12,
    "trillions": 12,
    "bio": 12,
    "billionen": 12,
    "lcr": 12,
    "lakh crore": 12,
    "lakh crores": 12,
    "\u4e07": 4,
    "\u842c": 4,
    "\u5104": 8,
    "\u4ebf": 8,
    "\u5146": 12,
}


# Marks that do what others do: the Arabic comma groups like the Arabic thousands mark, and the
# reversed comma of Adlam like a comma.
SAME_MARKS = {ord("\u060c"): "\u066c", ord("\u2e41"): ",", ord("\u2009"): " "}
# Digits of CLDR's numbering systems that the Unicode data of older Pythons does not have as such:
# garay, gurung khema, kawi, kirat rai, myanmar eastern pwo and pa-o, nag mundari, ol onal,
# outlined, sunuwar and tolong siki, each from its zero.
NEWER_ZEROS = (
    *(0x10D40, 0x16130, 0x11F50, 0x16D70, 0x116DA, 0x116D0),
    *(0x1E4F0, 0x1E5F1, 0x1CCF0, 0x11BF0, 0x11DE0),
)
NEWER_DIGITS = {zero + digit: str(digit) for zero in NEWER_ZEROS for digit in range(10)}
LETTERS = re.compile(r"[A-Za-z]*")
HAN_DIGITS = {ord(character): str(digit) for digit, character in enumerate("\u3007一二三四五六七八九")}
HAN_NUMBER = re.compile("[\u3007一二三四五六七八九][\u3007一二三四五六七八九,.\u066c]+")


def normal(text: str) -> str:
    """The cell's text with one shape for each character: widths, spaces, digits, directions."""
    if text.isascii() and text.isprintable():
        return text.strip()  # most cells are, and have these shapes already
    plain = unicodedata.normalize("NFKC", text.translate(UNSEEN)).translate(UNSEEN).translate(SAME_MARKS)
    # One Han digit is a word; several together are a number where no other ideograph stands by.
    if HAN_NUMBER.search(plain) and not any(
        "\u3400" <= rest <= "\u9fff" for rest in HAN_NUMBER.sub("", plain)
    ):
        plain = plain.translate(HAN_DIGITS)
    return "".join(_digit(character) for character in plain).strip()


def _digit(character: str) -> str:
    if character.isascii():
        return character
    if unicodedata.category(character) == "Nd":
        return str(unicodedata.decimal(character))
    return NEWER_DIGITS.get(ord(character), character)


Signs = dict[str, tuple[tuple[str, str], ...]]


@cache
def currency_signs() -> tuple[Signs, Signs]:
    """Every sign a currency is written with and its ISO 4217 code, by first and by last letter.

    A sign that several currencies share goes to the one that has it as its own symbol. Longer
    signs come first.
    """
    signs: dict[str, str] = {"Rs.": "INR", "Rs": "INR", "US$": "USD", "$": "USD", "¥": "JPY", "£": "GBP"}
    for currencies in (locale(tag).currencies for tag in READ):
        for code, (symbol, short, _, _) in sorted(currencies.items()):
            for sign in (symbol, short):
                if (plain := normal(sign)) and sign != code:
                    signs.setdefault(plain, code)
    for currencies in (locale(tag).currencies for tag in NAMED):
        for code, (_, _, name, forms) in sorted(currencies.items()):
            for sign in (code, name, *forms.values()):
                signs.setdefault(sign, code)
    longest_first = sorted(signs.items(), key=lambda item: (-len(item[0]), item[0]))
    by_first: dict[str, list[tuple[str, str]]] = {}
    by_last: dict[str, list[tuple[str, str]]] = {}
    for sign, code in longest_first:
        by_first.setdefault(sign[0], []).append((sign, code))
        by_last.setdefault(sign[-1], []).append((sign, code))
    return (
        {letter: tuple(found) for letter, found in by_first.items()},
        {letter: tuple(found) for letter, found in by_last.items()},
    )


@cache
def currency_ends() -> tuple[dict[str, tuple[str, ...]], dict[str, tuple[str, ...]]]:
    """The same signs alone, to see at once whether a text begins or ends with any of them."""
    first, last = currency_signs()
    return (
        {letter: tuple(sign for sign, _ in found) for letter, found in first.items()},
        {letter: tuple(sign for sign, _ in found) for letter, found in last.items()},
    )


Lengths = dict[str, tuple[int, ...]]


@cache
def currency_lengths() -> tuple[dict[str, str], Lengths, Lengths]:
    """The code of each sign, and how long signs are by their first and by their last letter, longest first:
    so that a text is cut and looked up, and not held against every sign."""
    first, last = currency_signs()
    codes = {sign: code for found in first.values() for sign, code in found}
    return codes, _lengths(first), _lengths(last)


def _lengths(signs: Signs) -> Lengths:
    return {
        letter: tuple(sorted({len(s) for s, _ in found}, reverse=True)) for letter, found in signs.items()
    }


@cache
def leading_words() -> frozenset[str]:
    """The letters that signs of currencies begin with: a text that begins with others is no amount."""
    first, _ = currency_signs()
    return frozenset(LETTERS.match(sign)[0] for found in first.values() for sign, _ in found)  # type: ignore[index]
