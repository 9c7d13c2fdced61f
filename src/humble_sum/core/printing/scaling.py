"""Scale words of locales, and the scale that fits an amount's size."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal

from humble_sum.core.locales import Locale, locale
from humble_sum.core.locales.plurals import plural
from humble_sum.core.printing.clause_values import LADDERS, POWERS, Ladder

Length = Literal["short", "full"]
NO_BREAK = "\u00a0"
SUPERSCRIPTS = {ord(digit): raised for digit, raised in zip("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹", strict=True)}
# Words for sizes a locale has none for, so that a scale asked for is always said.
LEFT_OUT: Mapping[Length, Mapping[str, str]] = {
    "short": {
        "hundreds": "{}\u00a0hundred",
        "thousands": "{}K",
        "lakhs": "{}L",
        "millions": "{}M",
        "crores": "{}Cr",
        "billions": "{}B",
        "lakh_crores": "{}LCr",
        "trillions": "{}T",
    },
    "full": {
        "hundreds": "{}\u00a0hundred",
        "thousands": "{}\u00a0thousand",
        "lakhs": "{}\u00a0lakh",
        "millions": "{}\u00a0million",
        "crores": "{}\u00a0crore",
        "billions": "{}\u00a0billion",
        "lakh_crores": "{}\u00a0lakh\u00a0crore",
        "trillions": "{}\u00a0trillion",
    },
}
CAPTIONS = {
    "hundreds": "hundreds",
    "thousands": "thousands",
    "lakhs": "lakhs",
    "millions": "millions",
    "crores": "crores",
    "billions": "billions",
    "lakh_crores": "lakh crores",
    "trillions": "trillions",
}
# English patterns at 10**12 say which of the two that power is.
INDIAN_TWELVE = ("L", "lakh")


@dataclass(frozen=True)
class Size:
    """A size a locale has a word for: the power of ten that is one, the power from which amounts
    are said so, and patterns by plural form. Spanish says 5600 M, and 10 mil M from there on."""

    power: int
    first: int
    patterns: Mapping[str, str]


@cache
def sizes(tag: str, length: Length) -> tuple[Size, ...]:
    """The sizes a locale has words for, the smallest first."""
    of = locale(tag)
    found: dict[int, Size] = {}
    for key, patterns in sorted(
        (of.short if length == "short" else of.long).items(), key=lambda i: int(i[0])
    ):
        plain = _positive(patterns["other"])
        zeros = plain.count("0")
        if not zeros or plain.strip("0") == "":
            continue
        power = int(key) - zeros + 1
        if power not in found:
            texts = {form: _filled(text) for form, text in patterns.items() if "0" in _positive(text)}
            found[power] = Size(power, int(key), texts)
    return tuple(found[power] for power in sorted(found))


def _positive(pattern: str) -> str:
    """The half of a pattern that is for positive numbers, unquoted (UTS #35: the other follows a ";")."""
    return pattern.partition(";")[0].replace("'", "")


def _filled(pattern: str) -> str:
    text = _positive(pattern).replace(" ", NO_BREAK)
    start, end = text.index("0"), text.rindex("0") + 1
    return f"{text[:start]}{{}}{text[end:]}"


@cache
def ladder_of(tag: str, length: Length, ladder: Ladder | None) -> tuple[Size, ...]:
    """The sizes a scale that fits may take: the locale's own, or those of a ladder, said in the
    locale's words where it has them."""
    own = {size.power: size for size in sizes(tag, length)}
    if ladder is None:
        return tuple(own.values())
    if ladder == "myriad" and 4 not in own:
        own = {}  # no mixing of powers with words of another ladder
    found = []
    for power, scale in LADDERS[ladder].items():
        size = own.get(power)
        if size is None or _other_twelve(scale, size):
            size = Size(power, power, {"other": _left_out(scale, power, length)})
        found.append(Size(power, power, size.patterns))
    return tuple(found)


def with_fitting_word(
    number: str, digits: str, power: int, length: Length, ladder: Ladder | None, of: Locale
) -> str:
    """A number with the word for the size of a ladder that was chosen to fit it."""
    size = next(size for size in ladder_of(of.tag, length, ladder) if size.power == power)
    return _said(size, number, digits, of)


def with_word(number: str, digits: str, scale: str, power: int, length: Length, of: Locale) -> str:
    """A number with the word for its scale; `digits` are its plain ones, for the plural form."""
    for size in sizes(of.tag, length):
        if size.power == power and not _other_twelve(scale, size):
            return _said(size, number, digits, of)
    return _left_out(scale, power, length).format(number)


def _said(size: Size, number: str, digits: str, of: Locale) -> str:
    form = plural(of.tag, digits)
    return size.patterns.get(form, size.patterns["other"]).format(number)


def _left_out(scale: str, power: int, length: Length) -> str:
    exponent = str(power).translate(SUPERSCRIPTS)
    return LEFT_OUT[length].get(scale, f"{{}}{NO_BREAK}×{NO_BREAK}10{exponent}")


def _other_twelve(scale: str, size: Size) -> bool:
    """Whether the word at 10**12 is the other of lakh crores and trillions."""
    if size.power != 12 or scale not in ("lakh_crores", "trillions"):
        return False
    indian = any(word in size.patterns["other"] for word in INDIAN_TWELVE)
    return indian != (scale == "lakh_crores")


@cache
def caption_word(tag: str, scale: str) -> str:
    """What a caption says of a scale: "lakhs", "Millionen"."""
    of = locale(tag)
    if of.language in ("en", "und"):
        return CAPTIONS[scale]
    for size in sizes(tag, "full"):
        if size.power == POWERS[scale] and not _other_twelve(scale, size):
            return size.patterns["other"].format("").replace(NO_BREAK, " ").strip()
    return CAPTIONS[scale]


def fitting_scale(power: int, tag: str, ladder: Ladder | None) -> str:
    """The name of the scale that was chosen to fit; empty for powers that none of ours has."""
    size = next((size for size in ladder_of(tag, "short", ladder) if size.power == power), None)
    names = [name for name, own in POWERS.items() if own == power and name != "ones"]
    return next((name for name in names if size is None or not _other_twelve(name, size)), "")
