"""Rules that are plainly right, told without the models that check every rule.

Those models take longer to build than a command takes to print a figure.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, get_args

from humble_sum.core.errors import InputError
from humble_sum.core.locales import Digits, currencies, resolve
from humble_sum.core.locales.currencies import MoneySign
from humble_sum.core.printing.clause_values import (
    MOST_DECIMALS,
    RECORD,
    Decimals,
    FixedDecimals,
    Form,
    Grouping,
    Ladder,
    MoneyShown,
    Negative,
    RoundsAway,
    Scale,
    ScaleWord,
    SignificantDigits,
    Tone,
    UpToDecimals,
)
from humble_sum.core.printing.resolved_clauses import contradiction
from humble_sum.core.printing.rounding import Mode

CHOICES: dict[str, tuple[Any, ...]] = {
    "form": get_args(Form),
    "money_sign": get_args(MoneySign),
    "money_shown": get_args(MoneyShown),
    "scale": get_args(Scale),
    "ladder": get_args(Ladder),
    "scale_word": get_args(ScaleWord),
    "rounding": get_args(Mode),
    "digits": get_args(Digits),
    "grouping": get_args(Grouping),
    "negative": get_args(Negative),
    "negative_tone": get_args(Tone),
    "zero": ("figure", "dash", "blank"),
    "rounds_away": get_args(RoundsAway),
    "missing": ("blank", "dash"),
    "plus": ("never", "always"),
}


def plainly_named(rule: Mapping[str, Any]) -> dict[str, Any] | None:
    """The clauses of a rule, as `Clauses.named` has them; None where anything needs a closer look: what is
    wrong, which the models say in full, and what is said in words, bands or steps."""
    named: dict[str, Any] = {}
    for name, value in rule.items():
        if name == "decimals":
            named[name] = _decimals(value)
            if named[name] is None:
                return None
        elif _is_right(name, value):
            named[name] = value
        else:
            return None
    return None if contradiction(named) else named


def _is_right(name: str, value: Any) -> bool:
    if name in ("line_up", "shown"):
        return type(value) is bool
    if name == "currency" and value is None:
        return True
    if type(value) is not str:
        return False
    if name == "currency":
        return value == RECORD or currencies.known(value)
    if name == "locale":
        try:
            resolve(value)
        except InputError:
            return False
        return True
    return value in CHOICES.get(name, ())


def _decimals(value: Any) -> Decimals | None:
    if value == "currency":
        return "currency"
    if type(value) is not dict or len(value) != 1:
        return None
    ((way, number),) = value.items()
    if type(number) is not int or not 0 <= number <= MOST_DECIMALS:
        return None
    if way == "significant":
        return SignificantDigits(number) if number else None
    return FixedDecimals(number) if way == "fixed" else UpToDecimals(number) if way == "up_to" else None
