"""Formulas that come to a ratio of amounts, which is in no unit of them: =B6/B4, =B4/C4-1."""

from __future__ import annotations

from decimal import Decimal
from functools import lru_cache

from humble_sum.core.intake.formula_parser import Cells, Node, Unworkable, taken_apart

AS_THEIR_OWN = {"SUM", "SUBTOTAL", "MIN", "MAX", "ABS"}  # in the unit of what they are given
AS_THE_FIRST = {"ROUND", "ROUNDUP", "ROUNDDOWN", "IFERROR"}


@lru_cache(maxsize=20_000)
def is_ratio(formula: str) -> bool:
    """Whether a formula divides amounts by amounts as often as it multiplies by them."""
    if "/" not in formula:
        return False
    try:
        node = taken_apart(formula)
    except Unworkable:
        return False
    return any(map(_has_cells, _divisors(node))) and _degree(node) == 0


def _degree(node: Node) -> int | None:
    """The power of the unit of amounts that a formula comes to; None where it is not known."""
    if isinstance(node, Cells):
        return 1
    if not isinstance(node, tuple):
        return 0 if isinstance(node, Decimal) else None
    name, terms = node
    if name in AS_THE_FIRST:
        return _degree(terms[0]) if terms else None
    given = terms[1:] if name == "IF" else terms
    degrees = [_degree(term) for term in given]
    known = [degree for degree in degrees if degree is not None]
    if len(known) < len(degrees) or not known:
        return None
    if name == "*":
        return sum(known)
    if name == "/":
        return known[0] - known[1]
    if name in ("+", "-", "IF") or name in AS_THEIR_OWN:
        # A number beside amounts is one of them; beside a ratio it is a ratio.
        return max(known)
    return None


def _divisors(node: Node) -> list[Node]:
    if not isinstance(node, tuple):
        return []
    name, terms = node
    return [*([terms[1]] if name == "/" else []), *(each for term in terms for each in _divisors(term))]


def _has_cells(node: Node) -> bool:
    return isinstance(node, Cells) or (isinstance(node, tuple) and any(map(_has_cells, node[1])))
