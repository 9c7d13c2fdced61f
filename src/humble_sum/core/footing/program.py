"""A 0-1 program whose costs come in stages, solved to a proof and to one answer.

    minimise  stage by stage  costs · d   subject to   A d = right,   d in {0, 1}

Each stage is least among the choices that are least in the stages before it. Prices prove each:
once a choice costs no more than they allow, every variable with a reduced cost is settled, and
the next stage has only the others left. Where prices leave room, the stage is weighed into the
next one. Last, of equally good choices the one is taken that pleases the first variable, then the
second, and so on, so that the answer is the same for every solver.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array, csr_array

from humble_sum.core.footing.clock import ENDLESS, Clock
from humble_sum.core.footing.search import MOST_NODES, Answer, Choice, minimise
from humble_sum.core.footing.whole import (
    ROOM,
    Ints,
    Matrix,
    added,
    inner,
    ints,
    largest,
    scaled,
    total,
)

BLOCK = 20  # variables pleased together when equals are told apart
FEW = 12  # variables up to which every choice is tried
SINGLY = 120  # variables up to which the first in order is settled exactly


@dataclass(frozen=True)
class Program:
    """`matrix` (rows × variables) and `right` (by row) in whole numbers, the costs of each stage by
    variable, and the value that each variable would rather have. Of equally good choices any is as
    good where they differ in none of the variables that are `told` apart."""

    matrix: Matrix
    right: Ints
    stages: tuple[Ints, ...]
    preference: Choice
    told: NDArray[np.bool_] | None = None


@dataclass(frozen=True)
class Chosen:
    """The best choice found, None where there is none, and by how much its cost in the first stage
    may be more than the least. `ended` says that the clock ran out first."""

    choice: Choice | None
    short: int = 0
    proved: bool = True
    ended: bool = False


def least(program: Program, clock: Clock = ENDLESS, most_nodes: int = MOST_NODES) -> Chosen:
    """The least choice by every stage in turn, and the first in order among equals."""
    if len(program.preference) <= FEW:
        return _of_all(program)
    face = _Face(program)
    stages = list(program.stages) or [ints([0] * len(program.preference))]
    for place, costs in enumerate(stages):
        answer = face.settle(costs, clock, most_nodes)
        if answer.choice is None:
            return Chosen(face.choice, 0, face.choice is None and not answer.ended, answer.ended)
        if not answer.proved:
            short = answer.cost - answer.bound if place == 0 else 0
            return Chosen(face.choice, short, False, answer.ended)
    _please(face, clock, most_nodes)
    return Chosen(face.choice)


class _Face:
    """What is left to choose: the variables that the stages so far have not settled.

    `carried` has the costs of stages that prices could not close, for those to come to be added to.
    """

    def __init__(self, program: Program):
        self.columns = csc_array(program.matrix)
        self.right = program.right
        self.choice: Choice | None = None
        self.free = np.arange(len(program.preference))
        self.carried: Ints | None = None
        self.preference = program.preference
        self.told = program.told

    def settle(self, costs: Ints, clock: Clock, most_nodes: int, passing: bool = False) -> Answer:
        """Take one more stage into account. One that is `passing` is never carried: its variables
        are fixed afterwards."""
        own = costs[self.free]
        if self.choice is not None and self.carried is None and not self._gains(own):
            self._keep(own == 0)
            return Answer(self.choice, 0, 0)
        if self.carried is not None:
            span = 2 * total(abs(own)) + 1
            own = added(scaled(self.carried[self.free], span), own)
        fixed = np.zeros(self.columns.shape[1], dtype=np.int64) if self.choice is None else self.choice.copy()
        fixed[self.free] = 0
        left = self.right - self.columns @ fixed.astype(np.int64)
        answer = minimise(self.columns[:, self.free], left, own, clock, most_nodes)
        if answer.choice is None:
            return answer
        choice = fixed.astype(np.int8)
        choice[self.free] = answer.choice
        self.choice = choice
        if answer.proved:
            open_still = np.ones(len(self.free), dtype=bool)
            if answer.reduced is not None:
                open_still = (abs(answer.reduced) <= answer.slack).astype(bool)
            tight = answer.reduced is not None and answer.slack == 0
            whole = np.zeros(len(costs), dtype=object if own.dtype == object else np.int64)
            whole[self.free] = own
            if tight:
                self.carried = None
            elif not passing:
                self.carried = whole
            self._keep(open_still)
        return answer

    def _gains(self, own: Ints) -> bool:
        """Whether some choice might cost less than the one in hand; if not, no search is needed."""
        assert self.choice is not None
        return inner(self.choice[self.free].astype(np.int64), own) > total(np.minimum(own, 0))

    def _keep(self, open_still: Choice) -> None:
        """Go on with some of the variables, without those that their relations settle one by one."""
        free = self.free[open_still]
        rows = csr_array(self.columns[:, free])
        owner = np.repeat(np.arange(rows.shape[0]), np.diff(rows.indptr))
        places, left = rows.indices, np.ones(len(free), dtype=bool)
        while len(owner):
            alone = np.bincount(owner, minlength=rows.shape[0]) == 1
            if not alone.any():
                break
            left[places[alone[owner]]] = False
            staying = left[places]
            owner, places = owner[staying], places[staying]
        self.free = free[left]


def _please(face: _Face, clock: Clock, most_nodes: int) -> None:
    """Choose among equals, as far as the clock lets it."""
    count = len(face.preference)
    wish = np.where(face.preference == 1, -1, 1).astype(np.int64)
    if face.told is not None:
        wish[~face.told] = 0
    if np.count_nonzero(wish[face.free]) > SINGLY:
        # Too many to please one by one: weights that are no order of the page leave few in doubt.
        weights = (np.arange(1, count + 1, dtype=np.uint64) * np.uint64(0x9E3779B97F4A7C15)) >> np.uint64(44)
        answer = face.settle(wish * (1 + weights.astype(np.int64)), clock, most_nodes)
        if not answer.proved:
            return
    waiting = face.free[wish[face.free] != 0]
    for start in range(0, len(waiting), BLOCK):
        assert face.choice is not None
        block = np.intersect1d(waiting[start : start + BLOCK], face.free)
        if not np.array_equal(face.choice[block], face.preference[block]):
            costs = np.zeros(count, dtype=np.int64)
            costs[block] = wish[block] << np.arange(len(block))[::-1]
            if not face.settle(costs, clock, most_nodes, passing=True).proved:
                return
        face.free = np.setdiff1d(face.free, block)


def _of_all(program: Program) -> Chosen:
    """The same by trying every choice."""
    count = len(program.preference)
    every = (np.arange(1 << count)[:, None] >> np.arange(count)[::-1]) & 1
    # In the order that pleases the first variable first.
    every = np.where(program.preference == 1, 1 - every, every)
    kept = every[(every @ program.matrix.toarray().T == program.right).all(axis=1)]
    for costs in program.stages:
        if len(kept):
            sums = kept.astype(object) @ costs if largest(costs) >= ROOM // FEW else kept @ costs
            kept = kept[np.asarray(sums == sums.min(), dtype=bool)]
    return Chosen(kept[0].astype(np.int8) if len(kept) else None)
