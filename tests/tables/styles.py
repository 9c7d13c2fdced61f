"""How a made-up table is written down: marks, units, columns beside the figures, and faults, each drawn apart.

Styles for setting weights and for measuring are not the same: of most lists one half is of each.
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, TypeVar

Side = Literal["setting", "measuring"]
UnitAt = Literal["above", "right", "heads", "row", "corner", "sheet", "column", "nowhere"]
Drawn = TypeVar("Drawn")


@dataclass(frozen=True)
class Unit:
    """A unit as a table states it: what is written, its currency and its power of ten."""

    text: str
    currency: str | None
    power: int


@dataclass(frozen=True)
class Style:
    """How one table is written; `fault` is what is wrong in it."""

    language: str
    heads: str
    decimal: str
    group: str
    negative: Literal["minus", "sign", "brackets", "trailing"]
    nil: str
    unit: Unit | None
    unit_at: UnitAt
    notes: Literal["none", "named", "unnamed"]
    codes: Literal["none", "named", "unnamed"]
    sides: tuple[str, str] | None
    sides_at: Literal["column", "behind"]
    layout: Literal["plain", "blank", "repeated", "currency cells"]
    titles: int
    label_head: bool
    numbers: bool
    below: bool
    wrapped: bool
    marked: bool
    fault: Literal["", "off", "missing", "text"]


UNITS: dict[str, tuple[Unit, ...]] = {
    "en": (
        Unit("£'000", "GBP", 3),
        Unit("£ million", "GBP", 6),
        Unit("US$ millions", "USD", 6),
        Unit("€m", "EUR", 6),
        Unit("in thousands of US dollars", "USD", 3),
        Unit("(₹ in lakhs)", "INR", 5),
        Unit("Rs. in crore", "INR", 7),
        Unit("Amounts in millions of euros", "EUR", 6),
        Unit("(in thousands, except share and per share data)", None, 3),
        Unit("£000", "GBP", 3),
        Unit("USD thousands", "USD", 3),
        Unit("All amounts in £m unless otherwise stated", "GBP", 6),
    ),
    "de": (
        Unit("in TEUR", "EUR", 3),
        Unit("Mio. EUR", "EUR", 6),
        Unit("Angaben in Tsd. €", "EUR", 3),
        Unit("in Mio. €", "EUR", 6),
    ),
    "fr": (
        Unit("en milliers d'euros", "EUR", 3),
        Unit("(en M€)", "EUR", 6),
        Unit("En millions d'euros", "EUR", 6),
        Unit("k€", "EUR", 3),
    ),
    "es": (
        Unit("en miles de euros", "EUR", 3),
        Unit("Millones de euros", "EUR", 6),
        Unit("(miles de €)", "EUR", 3),
        Unit("en millones de euros", "EUR", 6),
    ),
    "it": (
        Unit("in migliaia di euro", "EUR", 3),
        Unit("(in milioni di euro)", "EUR", 6),
        Unit("valori in migliaia di €", "EUR", 3),
        Unit("€ milioni", "EUR", 6),
    ),
    "pt": (
        Unit("em milhares de reais", "BRL", 3),
        Unit("R$ mil", "BRL", 3),
        Unit("Em milhões de reais", "BRL", 6),
        Unit("em milhares de euros", "EUR", 3),
    ),
    "nl": (
        Unit("in duizenden euro's", "EUR", 3),
        Unit("x € 1.000", "EUR", 3),
        Unit("in miljoenen euro's", "EUR", 6),
        Unit("bedragen x € 1.000", "EUR", 3),
    ),
    "sv": (
        Unit("TSEK", "SEK", 3),
        Unit("MSEK", "SEK", 6),
        Unit("Belopp i tkr", None, 3),
        Unit("kSEK", "SEK", 3),
    ),
    "da": (
        Unit("DKK '000", "DKK", 3),
        Unit("mio. DKK", "DKK", 6),
        Unit("DKK mio.", "DKK", 6),
        Unit("t.DKK", "DKK", 3),
    ),
    "fi": (
        Unit("1 000 euroa", "EUR", 3),
        Unit("milj. euroa", "EUR", 6),
        Unit("tuhatta euroa", "EUR", 3),
        Unit("miljoonaa euroa", "EUR", 6),
    ),
    "pl": (
        Unit("w tys. zł", "PLN", 3),
        Unit("mln PLN", "PLN", 6),
        Unit("(w tysiącach złotych)", "PLN", 3),
        Unit("w mln zł", "PLN", 6),
    ),
    "cs": (
        Unit("v tis. Kč", "CZK", 3),
        Unit("mil. Kč", "CZK", 6),
        Unit("(v tisících Kč)", "CZK", 3),
        Unit("v milionech Kč", "CZK", 6),
    ),
    "tr": (
        Unit("Bin TL", "TRY", 3),
        Unit("Milyon TL", "TRY", 6),
        Unit("(Tutarlar bin TL olarak ifade edilmiştir)", "TRY", 3),
        Unit("milyon ₺", "TRY", 6),
    ),
    "ru": (
        Unit("тыс. руб.", "RUB", 3),
        Unit("млн руб.", "RUB", 6),
        Unit("в тысячах рублей", "RUB", 3),
        Unit("в миллионах рублей", "RUB", 6),
    ),
    "ja": (
        Unit("（単位：千円）", "JPY", 3),
        Unit("単位：百万円", "JPY", 6),
        Unit("（単位：億円）", "JPY", 8),
        Unit("(単位:百万円)", "JPY", 6),
    ),
    "zh": (
        Unit("单位：万元", "CNY", 4),
        Unit("单位：千元", "CNY", 3),
        Unit("人民币百万元", "CNY", 6),
        Unit("单位：人民币千元", "CNY", 3),
    ),
}
COMMA = {
    "de": ".",
    "fr": "\u202f",
    "es": ".",
    "it": ".",
    "pt": ".",
    "nl": ".",
    "sv": " ",
    "da": ".",
    "fi": "\u00a0",
}
COMMA |= {"pl": "\u00a0", "cs": "\u00a0", "tr": ".", "ru": " "}
SIDES = (("D", "C"), ("S", "H"), ("Dr", "Cr"), ("+", "-"), ("DR", "CR"), ("Soll", "Haben"))
HEADS = ("year", "fy", "day", "month", "iso", "long")


def of(side: Side, options: Sequence[Drawn]) -> Sequence[Drawn]:
    """The options that are of one side: of short lists all."""
    return options[side == "measuring" :: 2] if len(options) >= 4 else options


def style(seed: str, side: Side, other_language: bool) -> Style:
    """One style. `other_language` is whether the table is one that is known in other languages."""
    draw = random.Random(seed)
    languages = sorted(UNITS) if other_language else ["en"]
    language = draw.choice(languages)
    unit = draw.choice(of(side, UNITS[language])) if draw.random() < 0.75 else None
    decimal, group = (",", COMMA[language]) if language in COMMA else (".", ",")
    indian = unit is not None and unit.currency == "INR"
    return Style(
        language=language,
        heads=draw.choice(of(side, HEADS)),
        decimal=decimal,
        group="lakhs" if indian else draw.choice((group, group, "")),
        negative=draw.choice(
            ("minus", "sign", "brackets", "trailing") if side == "measuring" else ("minus", "brackets")
        ),
        nil=draw.choice(of(side, ("-", "–", "0", "nil" if language == "en" else "—"))),
        unit=unit,
        unit_at="nowhere"
        if unit is None
        else draw.choice(("above", "above", "right", "heads", "row", "corner", "sheet", "column")),
        notes=draw.choice(("none", "none", "none", "named", "unnamed")),
        codes=draw.choice(("none", "none", "none", "named", "unnamed")),
        sides=draw.choice(of(side, SIDES)),
        sides_at=draw.choice(("column", "column", "behind")),
        layout=draw.choice(("plain", "plain", "plain", "blank", "repeated", "currency cells")),
        titles=draw.choice((0, 1, 2, 3)),
        label_head=draw.random() < 0.6,
        numbers=draw.random() < 0.5,
        below=draw.random() < 0.1,
        wrapped=draw.random() < 0.07,
        marked=draw.random() < 0.1,
        fault=draw.choice(("", "", "", "", "", "", "off", "missing", "text")),
    )
