"""Plural forms by the cardinal rules of Unicode CLDR (UTS #35 part 3, language plural rules)."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import cache

from humble_sum.core.locales.data import shared

CONDITION = re.compile(r"([nivwftec])(?:\s*%\s*(\d+))?\s*(!?=)\s*([\d.,\s]+)")
Operands = dict[str, int | float]


def plural(tag: str, digits: str, power: int = 0) -> str:
    """The plural form of a number shown as plain digits such as "1.50", in a locale or a language.

    `power` is that of a compact number: 1.2 million has the digits "1.2" and the power 6.
    """
    rules = _rules(tag) or _rules(tag.split("-")[0])
    if not rules:
        return "other"
    operands = _operands(digits, power)
    return next((form for form, holds in rules if holds(operands)), "other")


def _operands(digits: str, power: int) -> Operands:
    integer, _, decimals = digits.partition(".")
    if power:
        shifted = decimals.ljust(power, "0")
        integer, decimals = integer + shifted[:power], shifted[power:]
    bare = decimals.rstrip("0")
    # Rules compare n with whole numbers only. Of one with decimals no such comparison holds: it is -1.
    number = int(integer or "0")
    return {
        "n": number if not bare else -1,
        "i": number,
        "v": len(decimals),
        "w": len(bare),
        "f": int(decimals or "0"),
        "t": int(bare or "0"),
        "e": power,
        "c": power,
    }


@cache
def _rules(tag: str) -> list[tuple[str, Callable[[Operands], bool]]]:
    found = shared()["plurals"].get(tag, {})
    order = [form for form in ("zero", "one", "two", "few", "many") if form in found]
    return [(form, _rule(found[form])) for form in order]


def _rule(text: str) -> Callable[[Operands], bool]:
    either = [[_condition(each) for each in part.split(" and ")] for part in text.split(" or ")]
    return lambda operands: any(all(holds(operands) for holds in every) for every in either)


def _condition(text: str) -> Callable[[Operands], bool]:
    match = CONDITION.fullmatch(text.strip())
    assert match is not None, text
    name, modulo, equals, listed = match.groups()
    ranges = []
    for each in listed.split(","):
        first, _, last = each.strip().partition("..")
        ranges.append((int(first), int(last or first)))

    def holds(operands: Operands) -> bool:
        value = operands[name]
        if name == "n" and value < 0:
            return equals == "!="
        if modulo:
            value %= int(modulo)
        return any(low <= value <= high for low, high in ranges) == (equals == "=")

    return holds
