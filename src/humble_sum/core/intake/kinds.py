"""The kinds of lines, in words, and the sign that a line's amounts usually have."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from humble_sum.core.rules.rulebook import LineKind
from humble_sum.core.statements.pack import UsualSign

KINDS: dict[LineKind, str] = {
    "line": "a line",
    "memo": "a memo line",
    "count": "a count",
    "per_unit": "an amount per unit",
    "percent": "a percentage",
    "subtotal": "a subtotal",
    "total": "a total",
    "heading": "a heading",
}


def usual_sign_of(amounts: Sequence[Decimal | None]) -> UsualSign:
    """The sign all the amounts have, zeros aside."""
    signs = {amount < 0 for amount in amounts if amount}
    if len(signs) != 1:
        return "either"
    return "negative" if signs.pop() else "positive"
