"""ISO 4217 currencies: which codes there are, their decimals and their signs."""

from __future__ import annotations

from typing import Literal

from humble_sum.core.locales import Locale, locale

MoneySign = Literal["symbol", "short", "code", "name", "none"]

# ISO 4217 minor units where they are not 2. Locale data has current cash usage instead, which
# would print forints and rupiahs without decimals in a statement.
NO_DECIMALS = "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF"
THREE_DECIMALS = "BHD IQD JOD KWD LYD OMR TND"
FOUR_DECIMALS = "CLF UYW"
MINOR_UNITS = {
    code: places
    for codes, places in ((NO_DECIMALS, 0), (THREE_DECIMALS, 3), (FOUR_DECIMALS, 4))
    for code in codes.split()
}


def known(code: str) -> bool:
    """Whether the code names a currency."""
    return code in locale("en-US").names


def minor_units(code: str) -> int:
    """How many decimals the currency's own amounts have."""
    return MINOR_UNITS.get(code, 2)


def sign(code: str, form: MoneySign, of: Locale, singular: bool = False) -> str:
    """The text that stands for the currency in a figure; empty for "none"."""
    if form == "none":
        return ""
    if form == "code":
        return code
    if form == "name":
        return of.names.get(code, (code, code))[0 if singular else 1]
    symbol = of.symbols.get(code, code)
    return of.short_symbols.get(code, symbol) if form == "short" else symbol
