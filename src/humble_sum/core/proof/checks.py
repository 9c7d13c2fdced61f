"""Whether relations add as printed, and where not, whether rounding or the source is to blame."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal
from typing import Literal, NamedTuple

from humble_sum.core.amounts import EXACT, of_units
from humble_sum.core.statements.grid import GridRelation
from humble_sum.core.statements.relations import Relation

Status = Literal["foots", "gap", "noted", "break", "incomplete", "mixed"]


class Check(NamedTuple):
    """A relation as printed.

    `gap` is printed total less printed parts, in units (status "gap", "foots", or "noted" where it
    is left with a note); `miss` the same of the exact amounts, not zero in a source break.
    "incomplete" has a missing part that the total counts; "mixed" has figures printed in different
    units, which are `consistent` where they miss by no more than their roundings can.
    """

    relation: Relation
    status: Status
    gap: int = 0
    miss: Decimal = Decimal(0)
    consistent: bool = True


def check(each: GridRelation, units: Sequence[int | None], exponents: Sequence[int | None]) -> Check:
    """A relation checked; `units` and `exponents` are what every figure of the statement prints."""
    relation = each.relation
    if each.miss is None:
        return Check(relation, "incomplete")
    if each.miss:
        return Check(relation, "incomplete" if each.short else "break", miss=each.miss)
    unit, printed = exponents[each.total], units[each.total]
    if printed is None:
        return Check(relation, "mixed")
    gap = printed
    for part, sign in each.parts:
        if exponents[part] != unit:
            return _across_units(each, units, exponents)
        gap -= sign * (units[part] or 0)
    left: Status = "noted" if each.answer == "note" else "gap"
    return Check(relation, left if gap else "foots", gap)


def _across_units(each: GridRelation, units: Sequence[int | None], exponents: Sequence[int | None]) -> Check:
    """A relation of figures in different units: nothing is forced, but each of them is rounded by less
    than one of its units, so they can miss by so much and no more."""
    miss, room = Decimal(0), Decimal(0)
    for number, sign in ((each.total, 1), *((part, -sign) for part, sign in each.parts)):
        printed, exponent = units[number], exponents[number]
        if printed is None or exponent is None:
            return Check(each.relation, "mixed")
        miss = EXACT.add(miss, of_units(sign * printed, exponent))
        room = EXACT.add(room, of_units(1, exponent))
    half = EXACT.multiply(room, Decimal("0.5"))
    return Check(each.relation, "mixed", consistent=miss.copy_abs() <= half)
