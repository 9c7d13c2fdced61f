"""A footing problem in whole units as arrays: each figure prints the floor or the ceiling of its amount.

What `problem` holds figure by figure stands here in a few arrays, so that a hundred thousand figures take as
long as their numbers do.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import chain
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array

from humble_sum.core.amounts import EXACT, read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.problem import Entry, Equation, Problem, window_of
from humble_sum.core.footing.solver.integers import Ints, Matrix, ints
from humble_sum.core.once import once
from humble_sum.core.printing.rounding import Position
from humble_sum.core.statements.policy import Policy

UNGUARDED = Policy(keep_amounts=False, keep_signs=False)
MOST_DIGITS = 17  # of an amount as a whole number of parts, which fits a machine integer with room
WRITTEN = re.compile(r"(?:[+-]?\d{1,17}(?:\.\d{0,17})?\n)+", re.ASCII)
Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class ArrayProblem:
    """Figures by number, and relations among them.

    A figure's exact amount is `floor` + `over` / `parts` units, with 0 ≤ over < parts. It prints `held` where
    `is_held` says so. `matrix` is relations × figures: what its row comes to must be nothing, so a total has
    1 there and its parts less their signs. `totals` has the figure that each relation makes. `ids` are what
    figures are called, in order, where they are called anything.
    """

    floor: Ints
    over: Ints
    parts: int
    held: Ints
    is_held: Mask
    matrix: Matrix
    totals: NDArray[np.int64]
    ids: Sequence[str] | None = None

    @property
    def short(self) -> bool:
        """Whether all amounts and holds are machine integers."""
        return all(each.dtype != object for each in (self.floor, self.over, self.held))

    @once
    def up(self) -> Mask:
        """Which figures round up by themselves: ties go away from zero."""
        tie = (2 * self.over == self.parts) & (self.floor >= 0)
        up: Mask = ((2 * self.over > self.parts) | tie).astype(bool)
        return up

    @once
    def free(self) -> Mask:
        """Which figures may print one of two numbers."""
        free: Mask = (self.over > 0).astype(bool) & ~self.is_held
        return free

    @once
    def base(self) -> Ints:
        """What each figure prints at least."""
        base: Ints = np.where(self.is_held, self.held, self.floor)
        return base

    @once
    def own_rounding(self) -> Ints:
        own: Ints = self.floor + self.up
        return own

    def name(self, figure: int) -> str:
        """What a figure is called: its id, or its number, with noughts before it so that order is kept."""
        if self.ids is not None:
            return self.ids[figure]
        return str(figure).zfill(len(str(len(self.floor))))

    def problem_of(self, figures: Sequence[int], relations: Sequence[int]) -> Problem:
        """Some of the figures, in order, and relations that name no others, one by one."""
        entries = []
        for n in figures:
            where = Position(int(self.floor[n]), int(self.over[n]), self.parts)
            own, held = int(self.own_rounding[n]), int(self.held[n]) if self.is_held[n] else None
            window = window_of(where, own, UNGUARDED)
            entries.append(Entry(self.name(n), where, own, held=held, window=window))
        return Problem(tuple(entries), tuple(map(self._equation, relations)))

    def whole(self) -> Problem:
        """All of it, one by one."""
        return self.problem_of(range(len(self.floor)), range(len(self.totals)))

    def _equation(self, relation: int) -> Equation:
        first, end = self.matrix.indptr[relation : relation + 2]
        total, found = int(self.totals[relation]), dict[int, int]()
        for figure, times in zip(
            self.matrix.indices[first:end].tolist(), self.matrix.data[first:end].tolist(), strict=True
        ):
            found[figure] = -times
        found[total] = found.get(total, 0) + 1
        parts = [
            (self.name(n), 1 if times > 0 else -1) for n, times in found.items() for _ in range(abs(times))
        ]
        # Nothing but the total is left where it comes to nothing.
        parts = parts or [(self.name(total), 1), (self.name(total), -1)]
        return Equation(self.name(total), tuple(parts))


def of_names(
    figures: Mapping[str, Any], relations: Sequence[Any], holds: Mapping[str, Any]
) -> ArrayProblem | None:
    """The problem whose amounts are all written plainly, as text of up to 17 digits, with relations as pairs
    of a total and its parts; None where anything is unusual, for a slower reader to take or to name."""
    ids = sorted(figures)
    place = {id: n for n, id in enumerate(ids)}
    amounts = _read([figures[id] for id in ids])
    if amounts is None:
        return None
    try:
        totals = [place[total] for total, _ in relations]
        each = [parts for _, parts in relations]
        counts = [len(parts) for parts in each]
        of_parts = [place[id] for id, _ in chain.from_iterable(each)]
        signs = [sign for _, sign in chain.from_iterable(each)]
        held = [place[id] for id in holds]
        units = list(holds.values())
    except (KeyError, TypeError, ValueError):
        return None
    if not {*map(type, signs), *map(type, units)} <= {int} or not {*signs} <= {1, -1} or 0 in counts:
        return None
    rows = np.repeat(np.arange(len(totals)), counts)
    matrix = csr_array(
        (
            np.concatenate([np.ones(len(totals), np.int64), -np.array(signs, np.int64)]),
            (np.concatenate([np.arange(len(totals)), rows]), np.array([*totals, *of_parts], np.int64)),
        ),
        shape=(len(totals), len(ids)),
    )
    return of_arrays(*amounts, matrix, np.array(totals, np.int64), dict(zip(held, units, strict=True)), ids)


def of_arrays(
    amounts: Ints,
    digits: int,
    matrix: Matrix,
    totals: NDArray[np.int64],
    holds: Mapping[int, int],
    ids: Sequence[str] | None = None,
) -> ArrayProblem:
    """The problem of amounts in parts of a unit, 10**`digits` of them; figures held by their numbers."""
    parts = 10**digits
    if digits > MOST_DIGITS:
        amounts = amounts.astype(object)
    floor = amounts // parts
    over = amounts - floor * parts
    is_held = np.zeros(len(amounts), dtype=bool)
    held = ints([0] * len(amounts)) if not holds else ints(_spread(holds, len(amounts)))
    is_held[list(holds)] = True
    matrix = csr_array(matrix, dtype=np.int64)
    matrix.sum_duplicates()
    matrix.eliminate_zeros()
    return ArrayProblem(floor, over, parts, held, is_held, matrix, totals, ids)


def _spread(holds: Mapping[int, int], count: int) -> list[int]:
    held = [0] * count
    for figure, units in holds.items():
        held[figure] = units
    return held


def read_amounts(where: str, values: Sequence[Any]) -> tuple[Ints, int]:
    """Amounts of any length as whole numbers of one power of ten, and how many digits that has. Raises
    InputError with the number of one that is none."""
    plain = _read(values)
    if plain is not None:
        return plain
    decimals = []
    for number, each in enumerate(values):
        try:
            decimals.append(read_amount(each))
        except ValueError as error:
            raise InputError("bad-problem", Fault(f"{where}[{number}]", f"{error}.")) from None
    digits = max(0, *(-int(each.as_tuple().exponent) for each in decimals))
    return ints([int(EXACT.scaleb(each, digits)) for each in decimals]), digits


def _read(values: Sequence[Any]) -> tuple[Ints, int] | None:
    """Amounts as whole numbers of one power of ten, and how many digits that has."""
    kinds = {*map(type, values)}
    if not kinds <= {str, int, Decimal}:
        return None
    if kinds != {str}:
        values = [each if type(each) is str else format(each, "f") for each in values]
    text = "\n".join(values) + "\n"
    if not WRITTEN.fullmatch(text) or text.count("\n") != len(values):
        return None
    behind = [len(each) - at - 1 if (at := each.find(".")) >= 0 else 0 for each in values]
    digits = max(behind)
    numbers = np.array(text.replace(".", "").split("\n")[:-1]).astype(np.int64)
    shifts = digits - np.array(behind)
    longest = max(len(each) - after for each, after in zip(values, behind, strict=True))
    if longest + digits > MOST_DIGITS:
        return None
    return numbers * 10**shifts, digits
