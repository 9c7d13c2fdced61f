"""How each locale writes numbers: Unicode CLDR data (see data/LICENSE) read under UTS #35."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache, cached_property
from typing import Any, Literal

from humble_sum.core.locales.data import locale_data, shared
from humble_sum.core.locales.tags import Resolved, name_of, readers_tag, resolve

Digits = Literal["locale", "latin", "native"]
Plurals = Mapping[str, str]

# The locales offered first; every other can be written.
OFFERED = (
    *("en-IN", "en-US", "en-GB", "hi-IN", "mr-IN", "bn-IN", "ta-IN", "gu-IN", "ur-PK", "ne-NP"),
    *("de-DE", "de-AT", "de-CH", "fr-FR", "fr-CH", "es-ES", "es-MX", "pt-BR", "pt-PT", "it-IT"),
    *("nl-NL", "sv-SE", "nb-NO", "da-DK", "fi-FI", "pl-PL", "cs-CZ", "ru-RU", "tr-TR", "ar-EG"),
    *("ar-AE", "fa-IR", "he-IL", "ja-JP", "zh-CN", "zh-TW", "ko-KR", "id-ID", "sw-KE", "af-ZA"),
)


@dataclass(frozen=True)
class Pattern:
    """A UTS #35 pattern taken apart: what stands before and after the digits, when positive and
    when negative ("-" stands for the minus), and its group sizes from the right."""

    before: str
    after: str
    minus_before: str
    minus_after: str
    grouping: tuple[int, ...]


@dataclass(frozen=True)
class Locale:
    """The conventions of one locale, with one of its sets of digits.

    Signs keep the locale's bidi marks; a hyphen-minus is a minus (U+2212). `digits` turns 0 to 9
    into the locale's own, None where they are those. `short` and `long` are compact patterns by
    power of ten and plural form. `resolved` says whose data this is.
    """

    tag: str
    resolved: Resolved
    digits: dict[int, str] | None
    decimal: str
    group: str
    money_decimal: str
    money_group: str
    minus: str
    plus: str
    number: Pattern
    percent: Pattern
    money: Pattern
    money_letters: Pattern
    minimum_grouping: int
    named: Plurals
    short: Mapping[str, Plurals] = field(repr=False)
    long: Mapping[str, Plurals] = field(repr=False)

    @property
    def language(self) -> str:
        return self.resolved.data.partition("-")[0]

    @property
    def grouping(self) -> tuple[int, ...]:
        return self.number.grouping

    @cached_property
    def currencies(self) -> Mapping[str, list[Any]]:
        """[symbol, short symbol, name, names by plural form] by ISO 4217 code."""
        return locale_data("currencies", self.resolved.data)


@cache
def locale(tag: str, digits: Digits = "locale") -> Locale:
    """The locale of a BCP 47 tag. Raises InputError for what is none."""
    resolved = resolve(tag)
    data = locale_data("numbers", resolved.data)
    system = {"locale": data["system"], "native": data["native"], "latin": "latn"}[digits]
    if f"{system}.decimal" not in data:
        system = "latn"

    def of(name: str) -> Any:
        return data[f"{system}.{name}"]

    percent = of("percent")
    decimal, group = of("decimal"), of("group")
    figures = shared()["digits"][system]
    return Locale(
        tag=tag,
        resolved=resolved,
        digits=None if system == "latn" else {ord(str(n)): digit for n, digit in enumerate(figures)},
        decimal=decimal,
        group=group,
        money_decimal=data.get(f"{system}.money_decimal", decimal),
        money_group=data.get(f"{system}.money_group", group),
        minus=of("minus").replace("-", "\u2212"),
        plus=of("plus"),
        number=_pattern(of("number_pattern"), percent),
        percent=_pattern(of("percent_pattern"), percent),
        money=_pattern(of("money_pattern"), percent),
        money_letters=_pattern(of("money_letters"), percent),
        minimum_grouping=data["least"],
        named=of("named"),
        short=of("short"),
        long=of("long"),
    )


def _pattern(text: str, percent: str) -> Pattern:
    positive, _, negative = text.replace("'", "").partition(";")
    before, digits, after = _around(positive.replace("%", percent))
    minus_before, _, minus_after = _around((negative or f"-{positive}").replace("%", percent))
    groups = [len(group) for group in digits.partition(".")[0].split(",")]
    sizes = () if len(groups) == 1 else (groups[-1],) if len(groups) == 2 else (groups[-1], groups[-2])
    return Pattern(before, after, minus_before, minus_after, sizes)


def _around(pattern: str) -> tuple[str, str, str]:
    start = min(pattern.index(mark) for mark in "#0" if mark in pattern)
    end = max(pattern.rindex(mark) for mark in "#0" if mark in pattern) + 1
    return pattern[:start], pattern[start:end], pattern[end:]


__all__ = ["OFFERED", "Digits", "Locale", "Pattern", "locale", "name_of", "readers_tag", "resolve"]
