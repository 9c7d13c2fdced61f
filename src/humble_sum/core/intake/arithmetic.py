"""What adds to what, as evidence: how far a relation among written amounts is beyond chance, in bits.

A total that is what its parts come to is worth the logarithm of how many amounts it could have been, over how
many rounding allows, less that of how many relations were tried. So a chance sum of small figures says
nothing, and several rows of four digits settle a scale.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Mapping, Sequence
from decimal import Decimal
from itertools import combinations
from typing import NamedTuple

from humble_sum.core.amounts import EXACT
from humble_sum.core.intake.found_sums import Parts, found_sums, shared_step
from humble_sum.core.intake.signals import BROKEN

Amounts = Sequence[Decimal | None]
MOST_COLUMNS, MOST_ROWS = 40, 80  # that are looked at for evidence; more would say no more
LONGEST_RUN = 16  # columns that one adds
PRODUCT_POWERS = (3, 5, 6, 7, 9)  # thousands, lakhs, millions, crores, thousand millions
LEAST_BITS = 6.0  # of a relation that is evidence at all


class Relation(NamedTuple):
    """A total and its signed parts, by place, with the bits that speak for it, and in how many places it
    holds and fails."""

    total: int
    parts: Parts
    bits: float
    holds: int
    fails: int


def integers(rows: Sequence[Amounts]) -> list[list[int | None]]:
    """Amounts as whole numbers of the smallest step that any of them has."""
    steps = [-int(a.as_tuple().exponent) for row in rows for a in row if a]
    power = max([0, *steps])
    return [[None if a is None else int(EXACT.scaleb(a, power)) for a in row] for row in rows]


def across(rows: Sequence[Amounts], called: Collection[int] = ()) -> list[Relation]:
    """The relations among columns: one that adds those beside it, or takes one from another. Those that are
    `called` totals are expected to add every column since the last such one."""
    some = integers([row for row in rows if sum(a is not None for a in row) > 1][:MOST_ROWS])
    width = min(len(rows[0]), MOST_COLUMNS) if rows else 0
    tried = list(_candidates(width))
    cost = math.log2(len(tried) + 1)
    expected = {total: max((n + 1 for n in called if n < total), default=0) for total in called}
    found = []
    for total, parts in tried:
        named = expected.get(total) == parts[0][0] and parts[-1] == (total - 1, 1)
        relation = _weighed(total, parts, some, 1.0 if named else cost)
        if relation is not None and relation.bits >= LEAST_BITS:
            found.append(relation)
    return sorted(found, key=lambda each: -each.bits)


def _candidates(width: int) -> Iterator[tuple[int, Parts]]:
    """Every run of columns beside a column, and every difference of two."""
    for total in range(width):
        for first in range(max(0, total - LONGEST_RUN), total - 1):
            yield total, tuple((n, 1) for n in range(first, total))
        for last in range(total + 2, min(width, total + LONGEST_RUN) + 1):
            if last - total > 2:
                yield total, tuple((n, 1) for n in range(total + 1, last))
    for total in range(width):
        for one, other in combinations([n for n in range(width) if n != total and abs(n - total) <= 3], 2):
            yield total, ((one, 1), (other, -1))
            yield total, ((other, 1), (one, -1))


class Product(NamedTuple):
    """A column that is the product of two others, by place, divided by a power of ten, with its bits."""

    of: int
    factors: tuple[int, int]
    power: int
    bits: float


def products(rows: Sequence[Amounts]) -> list[Product]:
    """The columns that are what two beside them come to when multiplied, in thousands or more: so many
    tickets at such a price are revenue in thousands. Such factors are in no thousands themselves."""
    width = min(len(rows[0]), MOST_COLUMNS) if rows else 0
    tried = [
        (of, pair)
        for of in range(width)
        for pair in combinations([n for n in range(width) if n != of and abs(n - of) <= 3], 2)
    ]
    cost = math.log2(len(tried) * len(PRODUCT_POWERS) + 1)
    found = []
    for of, (one, other) in tried:
        some = [(row[of], row[one], row[other]) for row in rows[:MOST_ROWS]]
        whole = [(c, a, b) for c, a, b in some if c and a and b]
        for power in _powers_of(whole[:1]):
            weighed = [_product_bits(power, *row) for row in whole]
            bits = sum(weighed) - cost
            if len(weighed) > 1 and bits >= LEAST_BITS:
                found.append(Product(of, (one, other), power, bits))
    return found


def _powers_of(rows: Sequence[tuple[Decimal, Decimal, Decimal]]) -> list[int]:
    """The powers of ten by which a product may be divided, as the first row has it."""
    return [power for power in PRODUCT_POWERS for row in rows if _product_bits(power, *row) > 0]


def _product_bits(power: int, of: Decimal, one: Decimal, other: Decimal) -> float:
    """What one row says of a product: how many amounts it could have been, over how many rounding allows."""
    halves = [EXACT.scaleb(Decimal(5), int(a.as_tuple().exponent) - 1) for a in (of, one, other)]
    stated = EXACT.scaleb(of, power)
    allowed = EXACT.scaleb(halves[0], power)
    for half, beside, exact in ((halves[1], other, one), (halves[2], one, other)):
        if exact != exact.to_integral_value():
            allowed = EXACT.add(allowed, EXACT.multiply(half, beside.copy_abs()))
    off = EXACT.subtract(EXACT.multiply(one, other), stated).copy_abs()
    if off > allowed:
        return BROKEN
    size = stated.copy_abs() // allowed
    return math.log2(int(size) + 1)


def _weighed(total: int, parts: Parts, rows: Sequence[Sequence[int | None]], cost: float) -> Relation | None:
    """A relation with the evidence of every row that has its total and two of its parts."""
    bits, holds, fails = -cost, 0, 0
    for row in rows:
        stated = row[total]
        added = [sign * amount for part, sign in parts if (amount := row[part]) is not None]
        if stated is None or len(added) < 2 or sum(amount != 0 for amount in added) < 2:
            continue
        # Each figure may have been rounded by half of its last digit.
        off, allowed = abs(sum(added) - stated), (len(added) + 1) // 2 if len(added) > 2 else 1
        if off > allowed:
            fails += 1
            bits += BROKEN
        else:
            holds += 1
            size = max(abs(stated), *(abs(amount) for amount in added)) // shared_step((stated, *added))
            bits += max(0.0, math.log2(size + 1) - math.log2(2 * allowed + 1 if off else 1))
        if fails > 2 and fails > holds:
            return None
    return Relation(total, parts, bits, holds, fails) if holds > fails else None


def down(
    rows: Sequence[Amounts], left_out: Collection[int] = (), called: Collection[int] = ()
) -> list[Relation]:
    """The relations among rows: those that add up in some column, weighed in all of them. Rows that are
    `called` totals are expected to add those right above them."""
    kept = [n for n in range(len(rows)) if n not in left_out and any(rows[n])]
    width = min(len(rows[0]), MOST_COLUMNS) if rows else 0
    tried: dict[tuple[int, Parts], None] = {}
    for column in range(width):
        some = [n for n in kept if rows[n][column] is not None]
        for each in found_sums([[rows[n][column]] for n in some]):
            parts = tuple((some[part], sign) for part, sign in each.parts)
            tried.setdefault((some[each.total], parts))
    columns = [[rows[n][column] for n in range(len(rows))] for column in range(width)]
    whole = integers(columns)
    # A run of rows that add to one could begin anywhere above it.
    cost = math.log2(len(kept) + 1) + 2
    found = []
    for total, parts in tried:
        named = total in called and parts[-1][0] == total - 1 and all(sign > 0 for _, sign in parts)
        relation = _weighed(total, parts, whole, 1.0 if named else cost)
        if relation is not None and relation.bits >= LEAST_BITS:
            found.append(relation)
    return sorted(_without_others(found), key=lambda each: -each.bits)


def _without_others(relations: Sequence[Relation]) -> list[Relation]:
    """The relations that hold no other one whole: a total less its own parts is nothing, and adds up with any
    two amounts that are the same."""
    kept: list[Relation] = []
    within: list[set[int]] = []
    for relation in sorted(relations, key=lambda each: len(each.parts)):
        places = {relation.total, *(part for part, _ in relation.parts)}
        if not any(other < places for other in within):
            kept.append(relation)
            within.append(places)
    return kept


def groups(relations: Sequence[Relation], least: float) -> dict[int, int]:
    """The places that strong relations bind together, each by the lowest place of its group."""
    of: dict[int, int] = {}

    def root(place: int) -> int:
        while of.setdefault(place, place) != place:
            place = of[place]
        return place

    for relation in relations:
        if relation.bits >= least:
            first = root(relation.total)
            for part, _ in relation.parts:
                of[max(first, root(part))] = first = min(first, root(part))
    return {place: root(place) for place in of}


def bits_of(relations: Sequence[Relation]) -> Mapping[int, Relation]:
    """The strongest relation that each place is in."""
    found: dict[int, Relation] = {}
    for relation in relations:
        for place in (relation.total, *(part for part, _ in relation.parts)):
            if place not in found:
                found[place] = relation
    return found
