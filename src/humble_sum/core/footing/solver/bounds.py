"""What prices on the relations prove, and where prices come from.

    minimise  costs · d   subject to   A d = right,   d in {0, 1}

For any prices y whatever, y · right + Σ min(0, costs − Aᵀ y) is no more than the cost of any
feasible d (weak duality). Prices rounded to fractions of 1/K give a lower bound that is computed
exactly, in whole numbers. HiGHS (Huangfu and Hall 2018) finds them in floating
point; nothing it says is taken on trust. Costs too long for a double are met by solving again for
the residual costs, magnified (iterative refinement: Gleixner, Steffy and Wolter 2016). Large
programs get most of their prices from `ascent` and the rest from a core of near-undecided
variables, made small by `pairs`, which is checked against all the others afterwards.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array

from humble_sum.core.footing.solver.ascent import ascend
from humble_sum.core.footing.solver.deadline import Clock, OutOfTime
from humble_sum.core.footing.solver.highs import Floats
from humble_sum.core.footing.solver.integers import (
    ROOM,
    Ints,
    Matrix,
    added,
    inner,
    largest,
    less,
    scaled,
    total,
)
from humble_sum.core.footing.solver.linear import Unsolved, no_solution, solve
from humble_sum.core.footing.solver.presolve import merged

BITS_A_PASS = 40  # of the costs and prices that one floating-point solve is trusted for
SLIGHT = 1e-9  # of a unit: what a solver's reduced costs may be out by
CLIP = 1 << 42  # a residual cost beyond this many of a pass's units is as good as infinite
LARGE = 10_000  # variables from which prices are raised before a solver is called
CORE = 0.3  # of the variables of a large program that go to the solver first
FINE = (1, 60, 1 << 20, 1 << 40)  # parts of its largest that a ray is rounded to, one after the other
MORE = 1.2  # times as many go next where some were wrong, or where those alone have no solution


@dataclass(frozen=True)
class Priced:
    """What whole prices prove: by row, in 1/`fineness`.

    No choice costs less than `below`/`fineness`, so none less than `bound`, that rounded up. `reduced`
    has what the prices leave of each cost, in 1/`fineness`: by so much a choice costs more that has the
    variable the other way than the sign says. A `fineness` of 0 leaves the costs out: then `below` > 0
    says that nothing satisfies the rows.
    """

    prices: Ints
    fineness: int
    below: int
    reduced: Ints

    @property
    def bound(self) -> int:
        return -(-self.below // self.fineness)

    @property
    def empty(self) -> bool:
        return self.fineness == 0 and self.below > 0


@dataclass(frozen=True)
class Relaxed:
    """A relaxation solved: values of the variables, and what its prices prove."""

    values: Floats
    proof: Priced


@dataclass(frozen=True)
class Empty:
    """A relaxation that HiGHS finds without a solution, and prices that prove it, if they do."""

    proof: Priced | None


def priced(prices: Ints, fineness: int, columns: Matrix, right: Ints, costs: Ints) -> Priced:
    """What prices in 1/`fineness` prove of costs · d with `columns` d = `right`, d in {0, 1}."""
    residual = less(scaled(costs, fineness), columns, prices)
    below = inner(prices, right) + total(np.minimum(residual, 0))
    return Priced(prices, fineness, below, residual)


def relax(matrix: Matrix, right: Ints, costs: Ints, clock: Clock) -> Relaxed | Empty:
    """The relaxation 0 ≤ d ≤ 1.

    `matrix` is rows × variables, `costs` a whole number for each variable. Raises OutOfTime and Unsolved.
    """
    columns = csc_array(matrix)
    joined = np.bincount(columns.indices, minlength=columns.shape[0]) > 0
    if not joined.all():
        if np.any(right[~joined]):
            alone = np.where(joined, 0, np.sign(right)).astype(np.int64)
            return Empty(priced(alone, 0, columns, right, costs))
        within = relax(columns[joined], right[joined], costs, clock)
        return _in_all_rows(within, joined)
    fineness = 1 << (4 * int(columns.nnz)).bit_length() if columns.shape[0] else 1
    reduced = merged(columns, right, costs) if len(costs) >= LARGE else None
    if reduced is None:
        solved = _refined(columns, right, costs, fineness, clock)
        if solved is None:
            return _shown_empty(columns, right, costs, clock)
        values, prices = solved
        return Relaxed(values, priced(prices, fineness, columns, right, costs))
    solved = _refined(reduced.matrix, reduced.right, reduced.costs, fineness, clock)
    if solved is None:
        return _shown_empty(columns, right, costs, clock)
    values, prices = solved
    prices = reduced.prices(prices, values, columns, scaled(costs, fineness))
    return Relaxed(reduced.values(values), priced(prices, fineness, columns, right, costs))


def _in_all_rows(found: Relaxed | Empty, rows: NDArray[np.bool_]) -> Relaxed | Empty:
    """The same with prices for the rows too that no variable is in."""
    if found.proof is None:
        return found
    prices = np.zeros(len(rows), dtype=found.proof.prices.dtype)
    prices[rows] = found.proof.prices
    return replace(found, proof=replace(found.proof, prices=prices))


def _shown_empty(columns: Matrix, right: Ints, costs: Ints, clock: Clock) -> Empty:
    """That there is no solution, in whole numbers where a ray can be rounded to them."""
    try:
        ray = no_solution(columns, right, clock)
    except OutOfTime:
        ray = None
    size = 0.0 if ray is None else float(np.abs(ray).max(initial=0.0))
    if ray is None or not 0 < size < np.inf:
        return Empty(None)
    for fine in FINE:
        for sign in (1, -1):
            proof = priced(np.rint(sign * fine * ray / size).astype(np.int64), 0, columns, right, costs)
            if proof.empty:
                return Empty(proof)
    return Empty(None)


def _refined(
    columns: Matrix, right: Ints, costs: Ints, fineness: int, clock: Clock
) -> tuple[Floats, Ints] | None:
    """Values, and prices in 1/`fineness`, refined until values and prices agree or no more can be said."""
    prices: Ints = np.zeros(columns.shape[0], dtype=np.int64)
    if len(costs) >= LARGE and costs.dtype != object:
        prices = scaled(ascend(columns, right, costs), fineness)
    # Costs that a double holds with bits to spare go in as they are: their prices mostly come out whole.
    unit = max(fineness, largest(costs) * fineness >> BITS_A_PASS)
    values: Floats | None = None
    residual = less(scaled(costs, fineness), columns, prices)
    while True:
        try:
            solved = _solve(columns, right, residual, unit, clock)
        except Unsolved:
            if values is None:
                raise
            return values, prices
        if solved is None:
            return None if values is None else (values, prices)
        values, raised = solved
        prices = added(prices, raised)
        residual = less(residual, columns, raised)
        if unit == 1 or _closed(values, priced(prices, fineness, columns, right, costs), costs):
            return values, prices
        unit = max(1, unit >> BITS_A_PASS)


def _closed(values: Floats, proof: Priced, costs: Ints) -> bool:
    """Whether the values are whole and cost no more than the bound, so that no price can say more."""
    nearest = np.rint(values)
    if np.abs(values - nearest).max(initial=0.0) > 1e-6:
        return False
    return total(costs[nearest > 0]) * proof.fineness == proof.below


def _solve(
    columns: Matrix, right: Ints, residual: Ints, unit: int, clock: Clock
) -> tuple[Floats, Ints] | None:
    """Values and raised prices for costs of residual/unit, through a core where there are many."""
    objective = _floats(residual, unit)
    if len(objective) < LARGE:
        solved = solve(columns, right, objective, clock)
        return solved and (solved[0], _wholes(solved[1], unit))
    prices = np.zeros(columns.shape[0])
    wrong = np.zeros(len(objective), dtype=bool)
    share = CORE
    while True:
        sizes = np.abs(objective)
        core = wrong | (sizes <= np.quantile(sizes, share))
        clock.tell("solving", int(core.sum()), len(objective))
        values = (objective < 0).astype(float)
        found = _in_core(columns, right, objective, values, core, clock)
        if found is None and core.all():
            return None
        if found is not None:
            values[core], raised = found
            prices += raised
            objective = objective - columns.T @ raised
            wrong = ~core & np.where(values > 0.5, objective > SLIGHT, objective < -SLIGHT)
            if not wrong.any():
                return values, _wholes(prices, unit)
        share = min(1.0, MORE * share)


def _in_core(
    columns: Matrix,
    right: Ints,
    objective: Floats,
    values: Floats,
    core: NDArray[np.bool_],
    clock: Clock,
) -> tuple[Floats, Floats] | None:
    """Values of the core's variables and prices of all rows, with the other variables as they are."""
    chosen = columns[:, core]
    left = right - columns @ np.where(core, 0, values).astype(np.int64)
    reduced = merged(chosen, left, objective[core])
    if reduced is None:
        return solve(chosen, left, objective[core], clock)
    solved = solve(reduced.matrix, reduced.right, reduced.costs, clock)
    if solved is None:
        return None
    values_of, prices = solved
    return reduced.values(values_of), reduced.prices(prices, values_of, chosen, objective[core])


def _floats(residual: Ints, unit: int) -> Floats:
    if residual.dtype != object:
        return np.clip(residual / unit, -CLIP, CLIP)
    return np.array([_clipped(r, unit) for r in residual], dtype=float)


def _clipped(residual: int, unit: int) -> float:
    if abs(residual) > CLIP * unit:
        return float(CLIP if residual > 0 else -CLIP)
    return residual / unit


def _wholes(prices: Floats, unit: int) -> Ints:
    """prices × unit to the nearest whole number."""
    if unit * float(np.abs(prices).max(initial=0.0)) < ROOM:
        return np.rint(prices * unit).astype(np.int64)
    exact = [float(price).as_integer_ratio() for price in prices]
    return np.array([(2 * n * unit + d) // (2 * d) for n, d in exact], dtype=object)
