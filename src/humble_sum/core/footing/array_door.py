"""Footing of arrays: amounts as whole numbers or decimals, relations as a sparse matrix."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, cast

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array, sparray, spmatrix

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.array_foot import ArrayFooted
from humble_sum.core.footing.arrays import ArrayProblem, of_arrays, read_amounts
from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.problem_json import foot_arrays_in_time
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock
from humble_sum.core.footing.solver.integers import Ints, Matrix, ints

LARGE = 1_000  # entries of a relation from which no sum of figures is meant
MOST_POWER = 60  # digits of an amount behind its point


@dataclass(frozen=True)
class ArraySolution:
    """The least plan of arrays, or why there is none; figures and relations are called by their numbers.

    `printed` has the whole units of each figure, int64 or Python's own integers where these are longer, and
    `moved` the figures that left their own rounding. The other words are those of `Solution`.
    """

    feasible: bool
    proved: bool
    solver_proved: bool
    printed: Ints | None = None
    moved: NDArray[np.int64] | None = None
    added_drift: Decimal | None = None
    settled: bool | None = None
    bound: Decimal | None = None
    solver_bound: Decimal | None = None
    release: NDArray[np.int64] | None = None
    conflict: NDArray[np.int64] | None = None
    smallest: bool | None = None


def foot_matrix(
    figures: Sequence[Any] | NDArray[Any],
    relations: Matrix,
    holds: Mapping[int, int],
    power: int,
    clock: Clock = ENDLESS,
) -> ArraySolution:
    """The least plan of amounts of 10**−`power` units each, or of decimals in units, by relations × figures.
    Raises InputError where the arrays cannot be read, and where the clock runs out with no plan."""
    amounts, digits = _amounts(figures, power)
    matrix, rows = _relations(relations, len(amounts))
    for figure, units in holds.items():
        if not (isinstance(figure, int | np.integer) and 0 <= figure < len(amounts)):
            raise _bad(f"holds.{figure}", f"There is no figure {figure}.")
        if isinstance(units, bool) or not isinstance(units, int | np.integer):
            raise _bad(f"holds.{figure}", f"{units!r} is no whole number of units.")
    named = {int(figure): int(units) for figure, units in holds.items()}
    return foot_problem(of_arrays(amounts, digits, matrix, _totals(matrix), named), rows, clock)


def foot_problem(problem: ArrayProblem, rows: NDArray[np.int64], clock: Clock) -> ArraySolution:
    """The least plan of a problem, or why there is none; its relations are called by `rows`."""
    found = foot_arrays_in_time(problem, clock)
    return _why_not(problem, rows, clock) if found is None else _told(found)


def _told(found: ArrayFooted) -> ArraySolution:
    return ArraySolution(
        True,
        found.proved,
        found.solver_proved,
        found.printed,
        found.moved,
        found.added_drift,
        found.settled,
        None if found.proved else found.bound,
        None if found.solver_proved else found.solver_bound,
    )


def _why_not(problem: ArrayProblem, rows: NDArray[np.int64], clock: Clock) -> ArraySolution:
    """Why there is no plan, by the numbers of figures and of the rows that were given."""
    whole = problem.whole()
    reason = explain(whole, clock)
    number = dict(zip(whole.equations, rows.tolist(), strict=True))
    release = None if reason.release is None else np.array([int(id) for id in reason.release], dtype=np.int64)
    conflict = np.array([number[equation] for equation in reason.conflict], dtype=np.int64)
    return ArraySolution(
        False,
        reason.proved,
        reason.solver_proved,
        release=release,
        conflict=conflict,
        smallest=reason.smallest,
    )


def _amounts(figures: Sequence[Any] | NDArray[Any], power: int) -> tuple[Ints, int]:
    """Amounts as whole numbers of a power of ten, and how many digits that has behind the unit."""
    if isinstance(power, bool) or not isinstance(power, int) or not 0 <= power <= MOST_POWER:
        raise _bad("power", f"{power!r} is no number of digits from 0 to {MOST_POWER}.")
    given = np.asarray(figures)
    if given.ndim != 1 or not len(given):
        raise _bad("figures", f"Their shape is {given.shape}.", "Give one row of amounts.")
    if given.dtype.kind in "iu" and int(given.max()) < 1 << 62:
        return ints(given.astype(np.int64).tolist()) if _is_long(given) else given.astype(np.int64), power
    if given.dtype.kind not in "iuOU":
        what = f"They are of the kind {given.dtype}, and those are no exact amounts."
        raise _bad("figures", what, "Give whole numbers with a power, or decimals.")
    values = given.tolist()
    if all(type(each) is int for each in values):
        return ints(values), power
    if power:
        raise _bad("power", "Decimals are in units already.", "Leave the power out.")
    return read_amounts("figures", values)


def _is_long(amounts: NDArray[Any]) -> bool:
    return bool(max(abs(int(amounts.max())), abs(int(amounts.min()))) >= 1 << 60)


def _relations(given: Matrix, figures: int) -> tuple[Matrix, NDArray[np.int64]]:
    """Relations that name figures, in rows where totals have 1, and the numbers of their rows."""
    if not isinstance(given, sparray | spmatrix):
        raise _bad("relations", f"They are {type(given).__name__}.", "Give a matrix of scipy.sparse.")
    given = csr_array(cast(Matrix, given), copy=True)  # it is put in order below, and is the caller's
    if given.ndim != 2 or given.shape[1] != figures:
        what = f"Their shape is {given.shape}, for {figures} figures."
        raise _bad("relations", what, "Give a row for each relation and a column for each figure.")
    entries = given.data
    whole = entries.dtype.kind in "iubf" and bool((entries == np.floor(entries)).all())
    if not whole or bool((np.abs(entries.astype(float)) >= LARGE).any()):
        what = f"Some of their entries are no whole numbers below {LARGE}."
        raise _bad("relations", what, "A total has 1, and a part −1, or 1 where it is taken off.")
    matrix = given.astype(np.int64)
    matrix.sum_duplicates()
    matrix.eliminate_zeros()
    rows = np.flatnonzero(np.diff(matrix.indptr))
    return csr_array(matrix[rows]), rows


def _totals(matrix: Matrix) -> NDArray[np.int64]:
    """The figure that each row makes of the others: the only one of its sign, or the first with a plus. Rows
    are turned over, in place, where that figure has a minus."""
    rows = np.repeat(np.arange(matrix.shape[0]), np.diff(matrix.indptr))
    above, below = (np.bincount(rows[matrix.data * sign > 0], minlength=matrix.shape[0]) for sign in (1, -1))
    sign = np.where((below == 1) & (above != 1), -1, 1)
    chosen = matrix.indptr[:-1].copy()  # the first of all, where none has the sign
    of_sign = np.flatnonzero(np.sign(matrix.data) == sign[rows])
    found, first = np.unique(rows[of_sign], return_index=True)
    chosen[found] = of_sign[first]
    matrix.data *= np.where(matrix.data[chosen] < 0, -1, 1)[rows]
    totals: NDArray[np.int64] = matrix.indices[chosen].astype(np.int64)
    return totals


def _bad(where: str, what: str, remedy: str = "") -> InputError:
    return InputError("bad-problem", Fault(where, what, remedy))
