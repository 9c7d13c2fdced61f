"""Values of clauses in words, and values read from text that was typed; the registry's entries use them."""

from __future__ import annotations

from typing import Any

from humble_sum.core.locales import currencies, locale, name_of, resolve
from humble_sum.core.printing.bands import Band
from humble_sum.core.printing.clause_values import (
    RECORD,
    CountWords,
    Decimals,
    FixedDecimals,
    SignificantDigits,
    UpToDecimals,
    YesNoWords,
)
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.scaling import caption_word

RISES = [
    {"when": {"above": "0"}, "mark": "▲", "tone": "plain"},
    {"when": {"below": "0"}, "mark": "▼", "tone": "plain"},
]


def describe_currency(clauses: ResolvedClauses) -> str:
    """The currency as it is printed, or that there is none."""
    if clauses.currency is None:
        return "no currency"
    if clauses.currency == RECORD:
        return "each line’s currency"
    form = "symbol" if clauses.money_sign == "none" else clauses.money_sign
    return currencies.sign(clauses.currency, form, locale(clauses.locale))


def describe_scale(scale: str, clauses: ResolvedClauses) -> str:
    """A scale by its name in a caption."""
    if scale == "fit":
        return "whatever scale fits"
    return "ones" if scale == "ones" else caption_word(clauses.locale, scale)


def describe_decimals(decimals: Decimals) -> str:
    """A number of decimals in words."""
    match decimals:
        case FixedDecimals(fixed=n):
            return {0: "no decimals", 1: "one decimal"}.get(n, f"{n} decimals")
        case UpToDecimals(up_to=n):
            return "up to one decimal" if n == 1 else f"up to {n} decimals"
        case SignificantDigits(significant=n):
            return f"{n} significant digits"
        case _:
            return "the currency’s own decimals"


def describe_locale(tag: str) -> str:
    """What a locale is called; one that is not known says whose data it is printed by."""
    resolved = resolve(tag)
    return name_of(tag) if resolved.exact else f"{name_of(tag)} (as {name_of(resolved.data)})"


def describe_bands(bands: tuple[Band, ...]) -> str:
    """Marks by condition in words: "▲ above 0, ▼ below 0"."""
    said = []
    for band in bands:
        when = band.when.model_dump(mode="json", by_alias=True, exclude_none=True)
        bounds = " and ".join(f"{word} {amount}" for word, amount in when.items())
        tone = " in rust" if band.tone == "rust" else ""
        said.append(f"{band.mark or 'no mark'} {bounds}{tone}")
    return ", ".join(said) or "nothing"


def describe_words(clauses: ResolvedClauses) -> str:
    """The words that stand for or beside a figure."""
    match clauses.words:
        case YesNoWords(yes=yes, no=no):
            return f"{yes} or {no}"
        case CountWords(one=one, many=many):
            return f"{one}, {many}"
        case _:
            return "no words"


def read_threshold(text: str) -> Any:
    """Marks of rises and falls, with rust below the amount typed."""
    below = {"when": {"below": text}, "mark": "▼", "tone": "rust"}
    return [RISES[0], below, RISES[1]]


def read_two_words(text: str) -> Any:
    """The words for one and for many. Raises ValueError saying what would do."""
    one, _, many = (part.strip() for part in text.partition(","))
    if not (one and many):
        raise ValueError("write two words with a comma between them, as in litre, litres")
    return {"one": one, "many": many}


def read_width(text: str) -> Any:
    """The most characters a figure may take. Raises ValueError saying what would do."""
    if not (text.isascii() and text.isdigit()):
        raise ValueError("a width is a whole number of characters, such as 8")
    return {"most": int(text), "gives_way": "decimals"}
