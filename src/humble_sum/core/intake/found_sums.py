"""Sums found from the figures themselves, where a source has only values.

Lines are gone through from the top with a stack of those not yet in a sum. A line that is the
sum of the last two or more of the stack, exactly and in every column, is offered as their
total; they leave the stack and it takes their place, so that subtotals nest.
"""

from __future__ import annotations

import random
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from humble_sum.core.amounts import scaled

Pattern = Literal["plus", "first_less_rest"]
Amounts = Sequence[Decimal | None]
Parts = tuple[tuple[int, int], ...]  # line number and sign
Vectors = list[tuple[int, ...]]
LEAST_LINES = 3  # lines that have to agree before a column is taken for one made of others


@dataclass(frozen=True)
class FoundSum:
    """A total and its signed parts, by line number, with what speaks for it.

    `columns` is in how many columns it holds with something to add. A sum is `sure` when that
    many coincidences would be far-fetched; otherwise it is offered and not taken.
    """

    total: int
    parts: tuple[tuple[int, int], ...]
    columns: int
    sure: bool

    @property
    def evidence(self) -> str:
        columns = "1 column" if self.columns == 1 else f"{self.columns} columns"
        return f"{len(self.parts)} lines add to it exactly in {columns}"


def found_sums(lines: Sequence[Amounts], decided: Mapping[int, bool] | None = None) -> list[FoundSum]:
    """The sums among lines of amounts, each a value a column (None: missing, adds nothing).

    `decided` says of a total's line that it is one, or is not, whatever the evidence.
    """
    if not lines:
        return []
    vectors = _whole(lines)
    # One number for each line: a fixed random mix of its columns. Equal mixes are then checked
    # column by column, so a coincidence of mixes can cost time and never truth.
    mixer = random.Random(2_026)
    weights = [mixer.getrandbits(61) | 1 for _ in range(len(lines[0]))]
    mixed = [sum(w * x for w, x in zip(weights, vector, strict=True)) for vector in vectors]
    stack: list[int] = []
    found = []
    for line, vector in enumerate(vectors):
        parts = _parts(line, stack, vectors, mixed) if any(vector) else None
        if parts is not None:
            columns = sum(_adds_up(column, parts, vectors) for column in range(len(vector)))
            sure = columns >= 2 or (columns == 1 and len(parts) >= 3 and _digits(vector) >= 4)
            sure = (decided or {}).get(line, sure)
            found.append(FoundSum(line, parts, columns, sure))
            if sure:
                del stack[len(stack) - len(parts) :]
        stack.append(line)
    return found


def _whole(lines: Sequence[Amounts]) -> list[tuple[int, ...]]:
    """Amounts as whole numbers of the smallest step any of them has."""
    exponents = [a.as_tuple().exponent for line in lines for a in line if a]
    places = max((-exponent for exponent in exponents if isinstance(exponent, int)), default=0)
    return [tuple(int(scaled(a, max(places, 0))) if a else 0 for a in line) for line in lines]


def _parts(line: int, stack: list[int], vectors: Vectors, mixed: list[int]) -> Parts | None:
    """The shortest run at the end of the stack that adds to the line, zeros above it included."""
    run = 0
    for length in range(1, len(stack) + 1):
        first = stack[-length]
        for pattern, amount in (("plus", run + mixed[first]), ("first_less_rest", mixed[first] - run)):
            if length < 2 or amount != mixed[line]:
                continue
            signs = [1] + [1 if pattern == "plus" else -1] * (length - 1)
            parts = tuple(zip(stack[-length:], signs, strict=True))
            # A run of one figure and zeros says nothing.
            if sum(any(vectors[part]) for part, _ in parts) < 2:
                continue
            if all(_equal(column, line, parts, vectors) for column in range(len(vectors[line]))):
                return _with_zeros(parts, stack, length, vectors)
        run += mixed[first]
    return None


def _with_zeros(parts: Parts, stack: list[int], length: int, vectors: Vectors) -> Parts:
    """The run with the zero lines that stand right above it, which are as much a part of it."""
    while length < len(stack):
        above = stack[-length - 1]
        if any(vectors[above]) or above != parts[0][0] - 1:
            break
        length += 1
        parts = ((above, 1), *parts)
    return parts


def _equal(column: int, line: int, parts: Parts, vectors: Vectors) -> bool:
    return vectors[line][column] == sum(sign * vectors[part][column] for part, sign in parts)


def _adds_up(column: int, parts: Parts, vectors: Vectors) -> bool:
    return sum(vectors[part][column] != 0 for part, _ in parts) >= 2


def _digits(vector: tuple[int, ...]) -> int:
    return max(len(str(abs(x))) for x in vector)


def found_columns(lines: Sequence[Amounts]) -> dict[int, Parts]:
    """Columns made of others before them, told from the lines that have an amount in every column.

    Sums such as quarters to a year, nested like sums of lines, and differences of two.
    """
    whole = [line for line in lines if None not in line]
    found = found_sums(list(zip(*whole, strict=True))) if len(whole) >= LEAST_LINES else []
    return {
        each.total: each.parts
        for each in found
        if each.columns >= LEAST_LINES and (len(each.parts) == 2 or all(sign > 0 for _, sign in each.parts))
    }
