"""Relations that cannot hold together, and none of which can be left out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.sparse import csc_array, csr_array, eye_array, hstack

from humble_sum.core.footing.problem import Equation, Problem, parts_of
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime, unheard
from humble_sum.core.footing.solver.highs import Search
from humble_sum.core.footing.solver.integers import Ints, Matrix
from humble_sum.core.footing.solver.linear import Unsolved, solve
from humble_sum.core.footing.system import system_of


@dataclass(frozen=True)
class Conflict:
    """Relations that cannot hold together; `smallest` says that each of them is needed for that."""

    equations: tuple[Equation, ...]
    smallest: bool


def conflict(problem: Problem, clock: Clock = ENDLESS) -> Conflict:
    """The relations of the first part that cannot foot of which none can be left out: quick explanation by
    halves (Junker 2004), which looks at few sets where few relations conflict. When the clock ends it, the
    fewest that were seen to conflict."""
    for part in parts_of(problem):
        rows = _Rows(part, clock)
        everything = range(len(part.equations))
        if rows.may_hold(everything):
            continue
        try:
            found = rows.needed((), rows.priced(), False)
            return Conflict(rows.named(found), True)
        except OutOfTime:
            return Conflict(rows.named(rows.fewest), False)
    return Conflict(problem.equations, False)


class _Rows:
    """The relations of a part by number, and the fewest that were seen to conflict."""

    def __init__(self, part: Problem, clock: Clock):
        self.part, self.clock = part, clock
        matrix, self.right = system_of(part)
        self.matrix: Matrix = csr_array(matrix)
        self.fewest: Sequence[int] = range(len(part.equations))

    def named(self, numbers: Sequence[int]) -> tuple[Equation, ...]:
        return tuple(self.part.equations[number] for number in sorted(numbers))

    def may_hold(self, numbers: Sequence[int]) -> bool:
        """Whether some whole choice lets these hold. Raises OutOfTime where that is not known in time."""
        empty = is_empty(self.matrix[list(numbers)], self.right[list(numbers)], self.clock)
        if empty and len(numbers) < len(self.fewest):
            self.fewest = tuple(numbers)
        return not empty

    def needed(self, given: Sequence[int], among: Sequence[int], grown: bool) -> tuple[int, ...]:
        """Those `among` some relations that are needed for a conflict with those `given`, which `grown` says
        have become more since they were last looked at."""
        if grown and not self.may_hold(given):
            return ()
        if len(among) == 1:
            return tuple(among)
        first, second = among[: len(among) // 2], among[len(among) // 2 :]
        late = self.needed((*given, *first), second, True)
        early = self.needed((*given, *late), first, bool(late))
        return (*early, *late)

    def priced(self) -> Sequence[int]:
        """Relations that conflict, few of them: those that have a price where each may miss, and as little as
        possible does (phase one of the simplex method); all of them where no fraction conflicts either."""
        count, steps = self.matrix.shape
        apart = eye_array(count)
        most = np.concatenate([np.ones(steps), np.full(2 * count, np.inf)])
        costs = np.concatenate([np.zeros(steps), np.ones(2 * count)])
        try:
            solved = solve(hstack([self.matrix, apart, -apart]), self.right, costs, self.clock, most)
        except Unsolved:
            return self.fewest
        if solved is None:
            return self.fewest
        told = tuple(number for number in range(count) if abs(solved[1][number]) > 1e-7)
        return self.fewest if not told or self.may_hold(told) else told


def is_empty(matrix: Matrix, right: Ints, clock: Clock = ENDLESS) -> bool:
    """Whether HiGHS finds that no d in {0, 1} has `matrix` d = `right`. Raises OutOfTime where the clock ends
    it first."""
    if not matrix.shape[0]:
        return False
    if not matrix.shape[1]:
        return bool(np.any(right))
    if clock.over:
        raise OutOfTime
    limits = right.astype(float)
    search = Search(csc_array(matrix), limits, limits, np.zeros(matrix.shape[1]), seconds=clock.left())
    try:
        search.wait(Clock(clock.left, clock.tell, unheard))
    finally:
        search.stop()
    if not search.settled and search.found is None:
        raise OutOfTime
    return search.empty
