"""The least plan of a problem in arrays.

It is the plan that `solve` finds. Large trees of sums are settled level by level. Small ones are solved one
by one, so that equals are told apart as there. What is no tree is searched as a program of 0-1 steps.
"""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from functools import partial

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.sparse.csgraph import connected_components

from humble_sum.core.amounts import EXACT
from humble_sum.core.collecting import uncollected
from humble_sum.core.footing.arrays import ArrayProblem
from humble_sum.core.footing.shares import Drift, Searched, Unsolved
from humble_sum.core.footing.solve import foot
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock
from humble_sum.core.footing.solver.forest import NEVER, Forest, least_in_forest
from humble_sum.core.footing.solver.integers import Ints, Matrix, ints, largest
from humble_sum.core.footing.solver.integers import total as total_of
from humble_sum.core.footing.solver.program import Program
from humble_sum.core.footing.solver.tree_prices import proved_by_prices
from humble_sum.core.footing.solver.trees import ORDERED
from humble_sum.core.footing.system import asked

MOST_LEVELS = 200  # of totals above totals, which are taken one after another
Numbers = NDArray[np.int64]


@dataclass(frozen=True)
class ArrayFooted:
    """The least plan: what each figure prints, which left their own rounding, and what is known of others.
    The words are those of `solve.Footed`."""

    printed: Ints
    moved: Numbers
    added_drift: Decimal
    proved: bool
    solver_proved: bool
    settled: bool
    bound: Decimal | None = None
    solver_bound: Decimal | None = None


class _Graph:
    """Figures and relations that hang together, by the number of their part."""

    def __init__(self, problem: ArrayProblem):
        relations, figures = problem.matrix.shape
        count, labels = connected_components(_joined(problem.matrix), directed=False)
        self.of_figure, self.of_relation = labels[:figures], labels[figures:]
        self.count = count
        lengths = np.diff(problem.matrix.indptr)
        joints = np.bincount(self.of_relation, weights=lengths, minlength=count).astype(np.int64)
        members = np.bincount(labels, minlength=count)
        steps = np.bincount(self.of_figure, weights=problem.free, minlength=count)
        # A part is a tree where it has one joint less than figures and relations together, each of them one,
        # and no figure is part of two sums, or made by two.
        plain = np.ones(count, dtype=bool)
        rows = np.repeat(np.arange(relations), lengths)
        plain[self.of_relation[rows[np.abs(problem.matrix.data) != 1]]] = False
        is_total = problem.matrix.indices == problem.totals[rows]
        for of_kind in (is_total, ~is_total):
            often = np.bincount(problem.matrix.indices[of_kind], minlength=figures)
            plain[self.of_figure[often > 1]] = False
        # Of a total that its own parts cancel, or of one figure alone, no sum is left.
        made = np.bincount(rows[is_total], minlength=relations)
        plain[self.of_relation[(made == 0) | (lengths < 2)]] = False
        # A relation that names nothing, as all of it cancels, holds whatever is printed.
        self.has_figures = np.bincount(self.of_figure, minlength=count) > 0
        self.is_tree = (plain & (joints == members - 1)) | ~self.has_figures
        self.is_large = (steps > ORDERED) & self.has_figures


def _joined(matrix: Matrix) -> csr_array:
    """Figures and then relations as one graph: a joint for each figure of a relation."""
    relations, figures = matrix.shape
    rows = np.repeat(np.arange(relations), np.diff(matrix.indptr)) + figures
    ones = np.ones(len(rows), dtype=np.int8)
    size = figures + relations
    return csr_array((ones, (rows, matrix.indices)), shape=(size, size))


@uncollected()
def foot_arrays(problem: ArrayProblem, clock: Clock = ENDLESS) -> ArrayFooted | None:
    """The least plan, None where there is none. Raises OutOfTime where the clock ends before one is found."""
    if not problem.short:
        return _one_by_one(problem, clock)
    graph = _Graph(problem)
    printed: Ints = np.where(problem.is_held, problem.held, problem.own_rounding)
    large, small = graph.is_tree & graph.is_large, graph.is_tree & ~graph.is_large
    if large.any():
        found = _in_trees(problem, *_members(graph, large))
        if found is None:
            small |= large  # one by one, which also knows where there is none
        else:
            printed[large[graph.of_figure]] = found
    # A figure that no relation names prints its own rounding, or its hold.
    small &= (np.bincount(graph.of_relation, minlength=graph.count) > 0) & graph.has_figures
    settled = True
    if small.any():
        figures, relations = _members(graph, small)
        each = foot(problem.problem_of(figures.tolist(), relations.tolist()), clock)
        if each is None:
            return None
        printed[figures] = ints([each.printed[problem.name(n)] for n in figures.tolist()])
        settled = each.settled
    parts = _rest(problem, graph)
    unsolved = [Unsolved(partial(_program, problem, *part), _base(problem, part[0])) for part in parts]
    elsewhere = _added(problem, printed, graph.is_tree[graph.of_figure])
    searched = Searched(unsolved, Drift(problem.parts, elsewhere), clock)
    if not searched.in_shares():
        return None
    for number, choice in searched.found.items():
        figures = parts[number][0]
        printed[figures] = problem.base[figures]
        printed[figures[problem.free[figures]]] += choice.choice
    return _told(problem, printed, searched, settled)


def _one_by_one(problem: ArrayProblem, clock: Clock) -> ArrayFooted | None:
    """The same of amounts that no machine integer holds."""
    found = foot(problem.whole(), clock)
    if found is None:
        return None
    printed = ints([found.printed[problem.name(n)] for n in range(len(problem.floor))])
    moved = np.flatnonzero(printed != problem.own_rounding)
    known = (found.proved, found.solver_proved, found.settled, found.bound, found.solver_bound)
    return ArrayFooted(printed, moved, found.added_drift, *known)


def _members(graph: _Graph, parts: NDArray[np.bool_]) -> tuple[Numbers, Numbers]:
    """The figures and the relations of some parts, in order."""
    return np.flatnonzero(parts[graph.of_figure]), np.flatnonzero(parts[graph.of_relation])


def _rest(problem: ArrayProblem, graph: _Graph) -> list[tuple[Numbers, Numbers]]:
    """The figures and relations of each part that is no tree, in the order of their first figures."""
    if graph.is_tree.all():
        return []
    grouped = []
    for labels in (graph.of_figure, graph.of_relation):
        order = np.argsort(labels, kind="stable")
        grouped.append((order, np.searchsorted(labels[order], np.arange(graph.count + 1))))
    (figures, ends), (relations, relation_ends) = grouped
    return [
        (figures[ends[part] : ends[part + 1]], relations[relation_ends[part] : relation_ends[part + 1]])
        for part in np.flatnonzero(~graph.is_tree)
    ]


def _program(problem: ArrayProblem, figures: Numbers, relations: Numbers) -> Program:
    """A part as a 0-1 program: a variable for each figure that may print one of two numbers."""
    matrix = csr_array(problem.matrix[relations][:, figures])
    free = problem.free[figures]
    up = problem.up[figures][free]
    cost = problem.parts - 2 * problem.over[figures][free]
    nearer = np.where(up, -1, 1)
    right = asked(matrix, problem.base[figures])
    return Program(
        csr_array(matrix[:, np.flatnonzero(free)]), right, (cost, nearer), up.astype(np.int8), ranked=1
    )


def _base(problem: ArrayProblem, figures: Numbers) -> int:
    """What figures add to drift where none goes up."""
    some = figures[problem.free[figures] & problem.up[figures]]
    return total_of(2 * problem.over[some] - problem.parts)


def _in_trees(problem: ArrayProblem, figures: Numbers, relations: Numbers) -> Ints | None:
    """What the figures of large trees print; None where costs or trees are too large for this, where there
    is no plan, or prices do not prove it."""
    free, over, up = problem.free[figures], problem.over[figures], problem.up[figures]
    # Of equals those are taken that move fewer figures; drift weighs more than all of them together.
    weight = 4 * len(figures) + 1
    if problem.base.dtype == object or weight * problem.parts * len(figures) >= NEVER:
        return None
    cost = np.where(free, weight * (problem.parts - 2 * over) + np.where(up, -1, 1), 0)
    matrix = csr_array(problem.matrix[relations][:, figures])
    totals = np.searchsorted(figures, problem.totals[relations])
    shape = _shape(matrix, totals)
    if shape is None:
        return None
    low = problem.base[figures].astype(np.int64)
    found = least_in_forest(Forest(low, cost, free, *shape))
    if found is None:
        return None
    goes_up = found > low
    never = 4 * (largest(cost) + 1) * (len(figures) + 1)
    steps_up = np.where(free & ~goes_up, cost, never)
    steps_down = np.where(free & goes_up, -cost, never)
    return found if proved_by_prices(steps_up, steps_down, *shape, never) else None


def _shape(matrix: Matrix, totals: Numbers) -> tuple[Numbers, Numbers, Numbers] | None:
    """The total that each figure of a tree is a part of (−1: of none), its sign there, and its level; None
    where there are too many levels."""
    relations, figures = matrix.shape
    rows = np.repeat(np.arange(relations), np.diff(matrix.indptr))
    is_total = matrix.indices == totals[rows]
    of_total = np.ones(relations, dtype=np.int64)
    of_total[rows[is_total]] = matrix.data[is_total]
    parts, owners = matrix.indices[~is_total], rows[~is_total]
    total, sign = np.full(figures, -1), np.ones(figures, dtype=np.int64)
    total[parts] = totals[owners]
    # What a part counts for in its total, whichever way round the relation is written.
    sign[parts] = -matrix.data[~is_total] * of_total[owners]
    # How many totals are above each figure: twice as far up at every step.
    depth = np.append(total >= 0, 0).astype(np.int64)
    above = np.append(np.where(total >= 0, total, figures), figures)
    while (above != figures).any():
        depth, above = depth + depth[above], above[above]
    deepest = int(depth.max())
    level = np.zeros(figures, dtype=np.int64)
    level[totals] = deepest - depth[totals]
    return None if deepest > MOST_LEVELS else (total, sign, level)


def _added(problem: ArrayProblem, printed: Ints, among: NDArray[np.bool_]) -> int:
    """The drift that some figures add by not printing their own rounding, in parts of a unit."""
    moved = np.flatnonzero((printed != problem.own_rounding) & among)
    units = (printed[moved] - problem.floor[moved]).astype(object)
    over, up = problem.over[moved].astype(object), problem.up[moved].astype(object)
    return int(sum(abs(units * problem.parts - over) - abs(up * problem.parts - over)))


def _told(problem: ArrayProblem, printed: Ints, searched: Searched, settled: bool) -> ArrayFooted:
    found = list(searched.found.values())
    added = _added(problem, printed, np.ones(len(printed), dtype=bool))
    bounds = []
    for short in (sum(each.short for each in found), sum(each.solver_short for each in found)):
        bounds.append(_units(added - short, problem.parts))
    return ArrayFooted(
        printed,
        np.flatnonzero(printed != problem.own_rounding),
        _units(added, problem.parts),
        all(each.proved for each in found),
        all(each.solver_proved for each in found),
        settled and all(each.settled for each in found),
        *bounds,
    )


def _units(parts: int, of: int) -> Decimal:
    """So many parts of a unit, a power of ten of which are one."""
    return EXACT.scaleb(Decimal(parts), 1 - len(str(of)))
