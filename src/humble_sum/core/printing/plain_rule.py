"""Rules that are plainly right, told without the models that check every rule.

Those models take longer to build than a command takes to print a figure.
"""

from __future__ import annotations

from collections.abc import Mapping
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from humble_sum.core.printing.clause_values import (
    MOST_DECIMALS,
    Decimals,
    FixedDecimals,
    SignificantDigits,
    UpToDecimals,
)
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses, contradiction

# Bands are models, so what they say is always looked at more closely.
TYPES = get_type_hints(ResolvedClauses, localns={"Band": object}, include_extras=True)
CLAUSES = frozenset(NAMES)


def plainly_named(rule: Mapping[str, Any]) -> dict[str, Any] | None:
    """The clauses of a rule, as `Clauses.named` has them; None where anything needs a closer look: what is
    wrong, which the models say in full, and what is said in words, bands or steps."""
    named: dict[str, Any] = {}
    for name, value in rule.items():
        if name == "decimals":
            named[name] = _decimals(value)
            if named[name] is None:
                return None
        elif name in CLAUSES and _is_right(TYPES[name], value):
            named[name] = value
        else:
            return None
    return None if contradiction(named) else named


def _is_right(of: Any, value: Any) -> bool:
    """Whether a value is of a clause's type and passes its checks; never for one of several parts."""
    if of is bool or of is str or of is NoneType:
        return type(value) is of
    parts = get_args(of)
    if get_origin(of) is Literal:
        return type(value) is str and value in parts
    if get_origin(of) is Annotated:
        return _is_right(parts[0], value) and all(check.accepts(value) for check in parts[1:])
    return get_origin(of) in (Union, UnionType) and any(_is_right(each, value) for each in parts)


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
