"""What stands around the digits of an amount: signs, brackets, currencies, percent and words of scale."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Literal

from humble_sum.core.intake.lexicon import POWERS, currency_lengths

Form = Literal["amount", "percent", "per_mille", "basis_points", "multiple", "minor"]
Sign = Literal["", "plus", "minus", "trailing_minus", "brackets", "cr", "dr", "triangle"]

MINUSES = "-\u2212\u2010\u2011\u2012\u2013\u2014\ufe63"


@dataclass
class Parts:
    """A cell being taken apart from the outside in."""

    text: str
    sign: Sign = ""
    form: Form = "amount"
    currency: str | None = None
    power: int = 0
    why: list[str] = field(default_factory=list)


def outside(parts: Parts) -> bool:
    """Take off signs, brackets, currency, percent and scale words, outermost first, until only
    the number is left. False when a letter is left that is none of them."""
    taking = (_no_cents, _brackets, _credit, _triangle, _minus, _form, _scale, _currency)
    while any(take(parts) for take in taking):
        parts.text = parts.text.strip()
    return bool(parts.text) and not any(character.isalpha() for character in parts.text)


def _signed(parts: Parts, sign: Sign, text: str) -> bool:
    """Set the sign, once: a second one means this is no number."""
    if parts.sign:
        return False
    parts.sign, parts.text = sign, text
    return True


def _brackets(parts: Parts) -> bool:
    text = parts.text
    return text.startswith("(") and text.endswith(")") and _signed(parts, "brackets", text[1:-1])


def _credit(parts: Parts) -> bool:
    # Capitals are a ledger's credit and debit; "Cr" and "cr" are crores.
    if parts.text.endswith("CR"):
        return _signed(parts, "cr", parts.text[:-2])
    return parts.text.endswith("DR") and _signed(parts, "dr", parts.text[:-2])


# What stands where cents would, and is no minus: 12.–, 1 200,-- and the Indian 1,200/-.
NO_CENTS = re.compile(rf"(?<=\d)([.,][{MINUSES}]{{1,2}}|/[-=])$")


def _no_cents(parts: Parts) -> bool:
    found = NO_CENTS.search(parts.text)
    if found:
        parts.text = parts.text[: found.start()]
    return bool(found)


def _triangle(parts: Parts) -> bool:
    return parts.text[0:1] in ("\u25b3", "\u25b2") and _signed(parts, "triangle", parts.text[1:])


def _minus(parts: Parts) -> bool:
    text = parts.text
    if text[:1] and text[0] in MINUSES:
        return _signed(parts, "minus", text[1:])
    if text[:1] == "+":
        return _signed(parts, "plus", text[1:])
    if text[-1:] and text[-1] in MINUSES:
        return _signed(parts, "trailing_minus", text[:-1])
    return False


def _currency(parts: Parts) -> bool:
    if parts.currency is not None:
        return False
    text = parts.text
    if not text:
        return False
    codes, before, after = currency_lengths()
    for length in before.get(text[0], ()):
        sign, rest = text[:length], text[length:]
        if (code := codes.get(sign)) is not None and _stands(sign, rest, rest[:1]):
            parts.currency, parts.text = code, rest
            return True
    for length in after.get(text[-1], ()):
        sign, rest = text[-length:], text[:-length]
        if (code := codes.get(sign)) is not None and _stands(sign, rest, rest[-1:]):
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


def _form(parts: Parts) -> bool:
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


def _scale(parts: Parts) -> bool:
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
