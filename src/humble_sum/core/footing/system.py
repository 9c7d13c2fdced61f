"""The equations of a problem as a matrix over 0-1 steps: a figure prints its base and one more for
each step taken."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from scipy.sparse import csc_array, csr_array

from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Problem
from humble_sum.core.footing.solver.integers import Ints, Matrix, ints, less
from humble_sum.core.footing.solver.program import Program


def program_for(problem: Problem, least_of: Objective) -> Program:
    """The problem as a 0-1 program: a variable for each step a figure may take, in order."""
    preference: list[int] = []
    stages: list[list[int]] = [[] for _ in least_of.tiers]
    for entry in problem.entries:
        if entry.held is not None:
            continue
        for before, after in pairwise(entry.window):
            preference.append(int(entry.near > before))
            for tier, costs in zip(least_of.tiers, stages, strict=True):
                costs.append(tier(entry, after) - tier(entry, before))
    matrix, right = system_of(problem)
    wishes = np.array(preference, dtype=np.int8)
    return Program(matrix, right, tuple(ints(costs) for costs in stages), wishes, ranked=least_of.ranked)


def system_of(problem: Problem) -> tuple[Matrix, Ints]:
    """A matrix of equations × steps, and what the steps of each equation have to come to."""
    matrix = over_figures(problem)
    steps = over_steps([entry.steps for entry in problem.entries])
    return csr_array(matrix @ steps), asked(matrix, ints([entry.base for entry in problem.entries]))


def over_figures(problem: Problem) -> Matrix:
    """The equations' coefficients, equations × figures: total less parts."""
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    figures, signs, ends = [], [], [0]
    for equation in problem.equations:
        figures.append(place[equation.total])
        figures += [place[id] for id, _ in equation.parts]
        signs.append(1)
        signs += [-sign for _, sign in equation.parts]
        ends.append(len(figures))
    matrix = csr_array(
        (np.array(signs, dtype=np.int64), np.array(figures, dtype=np.int64), ends),
        shape=(len(problem.equations), len(place)),
    )
    matrix.sum_duplicates()
    matrix.eliminate_zeros()
    return matrix


def over_steps(counts: Sequence[int]) -> Matrix:
    """Which figure each step is of, figures × steps: each figure has `counts` of them, in order."""
    ends = np.cumsum([0, *counts])
    width = int(ends[-1])
    return csr_array((np.ones(width, dtype=np.int64), np.arange(width), ends), shape=(len(counts), width))


def asked(matrix: Matrix, bases: Ints) -> Ints:
    """What the steps of each equation have to come to, where figures print their `bases` without."""
    return less(np.zeros(matrix.shape[0], dtype=np.int64), csc_array(matrix.T), bases)
