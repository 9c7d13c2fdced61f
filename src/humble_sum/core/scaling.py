"""Scale words of locales, and the scale that fits an amount's size."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal

from humble_sum.core.clauses import LADDERS, POWERS, Ladder
from humble_sum.core.locales import Locale, locale
from humble_sum.core.locales.plurals import plural

Length = Literal["short", "full"]
NO_BREAK = "\u00a0"
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
        plain = patterns["other"].replace("'", "")
        zeros = plain.count("0")
        if not zeros or plain.strip("0") == "":
            continue
        power = int(key) - zeros + 1
        if power not in found:
            texts = {form: _filled(text) for form, text in patterns.items() if "0" in text}
            found[power] = Size(power, int(key), texts)
    return tuple(found[power] for power in sorted(found))


def _filled(pattern: str) -> str:
    text = pattern.replace("'", "").replace(" ", NO_BREAK)
    start, end = text.index("0"), text.rindex("0") + 1
    return f"{text[:start]}{{}}{text[end:]}"


def ladder_of(tag: str, length: Length, ladder: Ladder | None) -> tuple[Size, ...]:
    """The sizes a scale that fits may take: the locale's own, or those of a ladder it has words for."""
    own = sizes(tag, length)
    return tuple(size for size in own if ladder is None or size.power in LADDERS[ladder])


def with_word(number: str, digits: str, scale: str, power: int, length: Length, of: Locale) -> str:
    """A number with the word for its scale; `digits` are its plain ones, for the plural form."""
    for size in sizes(of.tag, length):
        if size.power == power and not _other_twelve(scale, size):
            form = plural(of.language, digits)
            return size.patterns.get(form, size.patterns["other"]).format(number)
    return LEFT_OUT[length].get(scale, "{}").format(number)


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


def scale_of_power(power: int) -> str:
    """The name of a scale for a power, for words a locale does not have; empty for other powers."""
    return next((name for name, own in POWERS.items() if own == power and name != "ones"), "")
