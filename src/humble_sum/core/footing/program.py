"""A 0-1 program solved to a proof, in whole numbers.

    minimise  costs · d   subject to   A d = right,   d in {0, 1}

HiGHS (Huangfu and Hall 2018, through SciPy) solves the linear relaxation in floating point.
Nothing it says is taken on trust: a choice is checked against every row in whole numbers, and
the bound comes from its dual prices by weak duality. For any prices y whatever,

    y · right + Σ min(0, costs − Aᵀ y)

is no more than the cost of any feasible d, so prices rounded to fractions of 1/K give a lower
bound that is computed exactly. A choice whose cost equals the bound, rounded up to the next
whole number, is proved least. Where the relaxation is fractional the program is split on a
figure (Land and Doig 1960) and each half is bounded the same way. Costs too long for a double
are met by solving again for the residual costs, magnified (iterative refinement: Gleixner,
Steffy and Wolter 2016), so the proof holds for amounts of any length.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from scipy.optimize import linprog
from scipy.sparse import csr_array

Row = tuple[tuple[int, int], ...]  # (variable, coefficient)

BITS_A_PASS = 20  # digits of the prices that one floating-point solve is trusted for
CLIP = 1 << 10  # a residual cost beyond this many of a pass's units is as good as infinite
MOST_NODES = 20_000
BLOCK = 24  # variables settled together when equals are told apart


@dataclass(frozen=True)
class Program:
    """Costs by variable, rows of coefficients and their right-hand sides, all whole numbers."""

    costs: tuple[int, ...]
    rows: tuple[Row, ...]
    right: tuple[int, ...]


@dataclass(frozen=True)
class Answer:
    """The best choice found (None: there is none) and a proved lower bound on any cost.

    `settled` holds variables that have the same value in every least choice.
    """

    choice: tuple[int, ...] | None
    cost: int = 0
    bound: int = 0
    settled: dict[int, int] = field(default_factory=dict)
    tight: bool = False

    @property
    def proved(self) -> bool:
        return self.choice is not None and self.cost == self.bound


def minimise(
    program: Program, fixed: Mapping[int, int] | None = None, most_nodes: int = MOST_NODES
) -> Answer:
    """The least choice, by branch and bound with exact bounds.

    `fixed` sets variables beforehand. When `most_nodes` relaxations do not settle it the answer
    is the best choice known with its bound, and `proved` is False.
    """
    root = dict(fixed or {})
    best: Answer | None = None
    open_nodes: list[tuple[dict[int, int], int | None]] = [(root, None)]
    nodes = 0
    while open_nodes and nodes < most_nodes:
        nodes += 1
        node, _ = open_nodes.pop()
        relaxed = _relax(program, node)
        if relaxed.values is None or (best is not None and relaxed.bound >= best.cost):
            continue
        whole = _whole(program, relaxed.values)
        if whole is not None:
            cost = sum(c for c, d in zip(program.costs, whole, strict=True) if d)
            if best is None or cost < best.cost:
                settled, tight = _settled(relaxed, cost) if nodes == 1 else ({}, False)
                best = Answer(whole, cost, relaxed.bound, settled, tight)
            if relaxed.bound >= cost:
                continue
        branch = _branch_on(program, relaxed.values, node)
        if branch is None:
            continue
        near = int(relaxed.values[branch] >= 0.5)
        open_nodes += [(node | {branch: d}, relaxed.bound) for d in (1 - near, near)]
    if best is None:
        return Answer(None)
    bound = min([best.cost, *(bound for _, bound in open_nodes if bound is not None)])
    return Answer(best.choice, best.cost, bound, {**root, **best.settled}, best.tight)


def least(program: Program, preference: Sequence[int], fixed: Mapping[int, int] | None = None) -> Answer:
    """The least choice that is first among equals, the same for every solver.

    `preference` gives each variable the value it would rather have; among least choices the one
    is taken that pleases the first variable, then the second, and so on.
    """
    answer = minimise(program, fixed)
    if answer.choice is None or not answer.proved:
        return answer
    settled = dict(answer.settled)
    undecided = [v for v in range(len(program.costs)) if v not in settled]
    choice = answer.choice
    for start in range(0, len(undecided), BLOCK):
        block = undecided[start : start + BLOCK]
        if all(choice[v] == preference[v] for v in block):
            settled |= {v: choice[v] for v in block}
            continue
        wishes = [0] * len(program.costs)
        for place, v in enumerate(block):
            weight = 1 << (len(block) - 1 - place)
            wishes[v] = -weight if preference[v] else weight
        # With a tight bound every choice left is as cheap, so only the wishes count.
        costs = (
            wishes if answer.tight else [(c << BLOCK) + w for c, w in zip(program.costs, wishes, strict=True)]
        )
        told = minimise(Program(tuple(costs), program.rows, program.right), settled)
        if told.choice is None or not told.proved:
            break
        choice = told.choice
        settled |= {v: choice[v] for v in block}
    return Answer(choice, answer.cost, answer.bound, settled, answer.tight)


@dataclass(frozen=True)
class _Relaxed:
    """A relaxation: values of every variable, exact bound, reduced costs in 1/K of a cost."""

    values: np.ndarray[tuple[int], np.dtype[np.float64]] | None
    bound: int = 0
    scaled_bound: int = 0
    reduced: tuple[tuple[int, int], ...] = ()
    fineness: int = 1


def _relax(program: Program, node: Mapping[int, int]) -> _Relaxed:
    count = len(program.costs)
    free = [v for v in range(count) if v not in node]
    column = {v: place for place, v in enumerate(free)}
    rows, right = [], []
    for row, b in zip(program.rows, program.right, strict=True):
        left = b - sum(a * node[v] for v, a in row if v in node)
        kept = [(column[v], a) for v, a in row if v in column]
        if kept:
            rows.append(kept)
            right.append(left)
        elif left:
            return _Relaxed(None)
    base = sum(program.costs[v] * d for v, d in node.items())
    values = np.zeros(count)
    for v, d in node.items():
        values[v] = d
    costs = [program.costs[v] for v in free]
    if not rows:
        for place, v in enumerate(free):
            values[v] = 1.0 if costs[place] < 0 else 0.0
        bound = base + sum(min(0, c) for c in costs)
        return _Relaxed(values, bound, bound, tuple(zip(free, costs, strict=True)))
    nonzeros = sum(len(row) for row in rows)
    fineness = 1 << (4 * nonzeros).bit_length()
    solved = _prices(costs, rows, right, fineness)
    if solved is None:
        return _Relaxed(None)
    inner, prices, residual = solved
    values[free] = inner
    scaled = fineness * base
    scaled += sum(p * b for p, b in zip(prices, right, strict=True)) + sum(min(0, r) for r in residual)
    reduced = tuple(zip(free, residual, strict=True))
    return _Relaxed(values, -(-scaled // fineness), scaled, reduced, fineness)


def _prices(
    costs: Sequence[int], rows: Sequence[Sequence[tuple[int, int]]], right: Sequence[int], fineness: int
) -> tuple[np.ndarray[tuple[int], np.dtype[np.float64]], list[int], list[int]] | None:
    """Values, whole prices in 1/fineness of a cost, and what the prices leave of each cost."""
    matrix: Any = csr_array(
        (
            np.array([a for row in rows for _, a in row], dtype=float),
            np.array([v for row in rows for v, _ in row], dtype=np.int64),
            np.cumsum([0] + [len(row) for row in rows]),
        ),
        shape=(len(rows), len(costs)),
    )
    limits = np.array(right, dtype=float)
    residual = [c * fineness for c in costs]
    prices = [0] * len(rows)
    unit = max(1, *(abs(r) for r in residual))
    values: Any = None
    while True:
        objective = [_clipped(r, unit) for r in residual]
        result = linprog(
            objective, A_eq=matrix, b_eq=limits, bounds=(0, 1), method="highs-ds", options={"presolve": False}
        )
        if result.status != 0:
            return None if values is None else (values, prices, residual)
        values = result.x
        for place, price in enumerate(result.eqlin.marginals):
            step = _times(float(price), unit)
            if step:
                prices[place] += step
                for v, a in rows[place]:
                    residual[v] -= a * step
        if unit == 1:
            return values, prices, residual
        unit = max(1, unit >> BITS_A_PASS)


def _clipped(residual: int, unit: int) -> float:
    if abs(residual) > CLIP * unit:
        return float(CLIP if residual > 0 else -CLIP)
    return residual / unit


def _times(price: float, unit: int) -> int:
    """price × unit to the nearest whole number, without passing the unit through a double."""
    numerator, denominator = price.as_integer_ratio()
    return (2 * numerator * unit + denominator) // (2 * denominator)


def _whole(program: Program, values: np.ndarray[tuple[int], np.dtype[np.float64]]) -> tuple[int, ...] | None:
    """The values as whole numbers if they are and every row holds exactly."""
    nearest = np.rint(values)
    if np.abs(values - nearest).max(initial=0.0) > 1e-6:
        return None
    choice = tuple(int(d) for d in nearest)
    for row, b in zip(program.rows, program.right, strict=True):
        if sum(a * choice[v] for v, a in row) != b:
            return None
    return choice


def _branch_on(
    program: Program, values: np.ndarray[tuple[int], np.dtype[np.float64]], node: Mapping[int, int]
) -> int | None:
    """The free variable farthest from whole, the first of equals."""
    free = [v for v in range(len(program.costs)) if v not in node]
    return max(free, key=lambda v: (min(values[v], 1 - values[v]), -v), default=None)


def _settled(relaxed: _Relaxed, cost: int) -> tuple[dict[int, int], bool]:
    """Variables whose reduced cost exceeds what is left between the bound and the cost."""
    slack = cost * relaxed.fineness - relaxed.scaled_bound
    settled = {v: int(r < 0) for v, r in relaxed.reduced if abs(r) > max(slack, 0)}
    return settled, slack == 0
