"""ISO 4217 currencies: which codes there are, their decimals and their signs."""

from __future__ import annotations

import unicodedata
from typing import Literal

from humble_sum.core.locales import Locale, locale
from humble_sum.core.locales.plurals import plural

MoneySign = Literal["symbol", "short", "code", "name", "none"]

# ISO 4217 minor units where they are not 2. Locale data has current cash usage instead, which
# would print forints and rupiahs without decimals in a statement.
NO_DECIMALS = "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF"
THREE_DECIMALS = "BHD IQD JOD KWD LYD OMR TND"
FOUR_DECIMALS = "CLF UYW"
MINOR_UNITS = {
    code: decimal_places
    for codes, decimal_places in ((NO_DECIMALS, 0), (THREE_DECIMALS, 3), (FOUR_DECIMALS, 4))
    for code in codes.split()
}


def known(code: str) -> bool:
    """Whether the code names a currency."""
    return code in locale("en").currencies


def minor_units(code: str) -> int:
    """How many decimals the currency's own amounts have."""
    return MINOR_UNITS.get(code, 2)


def sign(code: str, form: MoneySign, of: Locale, digits: str = "2") -> str:
    """The text that stands for the currency in a figure; empty for "none".

    `digits` are the plain ones of the figure, for the plural form of a name.
    """
    if form == "none":
        return ""
    if form == "code":
        return code
    symbol, short, name, forms = of.currencies.get(code, [code, "", code, {}])
    if form == "name":
        return str(forms.get(plural_form(digits, of), forms.get("other", name)))
    return str(short or symbol) if form == "short" else str(symbol)


def plural_form(digits: str, of: Locale) -> str:
    """The plural form of a number shown as these plain digits."""
    return plural(of.tag, digits)


def stands_close(character: str) -> bool:
    """Whether a sign that ends so stands close to the digits: it is no letter (UTS #35)."""
    return unicodedata.category(character)[0] in "SZ"
