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
SHORT = 1 << 40  # costs up to which a stage and the weights that tell equals apart are one


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
    span = 0
    for place, costs in enumerate(stages):
        span = _span(face, costs) if place == len(stages) - 1 else 0
        answer = face.settle(span * costs + _weights(face) if span else costs, clock, most_nodes)
        short = _short(answer, span)
        if span and answer.choice is not None and not answer.proved and not answer.ended:
            # Too hard together with the weights: one after the other.
            span, answer = 0, face.settle(costs, clock, most_nodes)
            short = short if answer.choice is None else _short(answer, span)
        if face.choice is None:
            return Chosen(None, proved=not answer.ended, ended=answer.ended)
        if not answer.proved:
            return Chosen(face.choice, short if place == 0 else 0, False, answer.ended)
    if span or _weigh(face, clock, most_nodes):
        _please(face, clock, most_nodes)
    return Chosen(face.choice)


def _short(answer: Answer, span: int) -> int:
    """By how much a stage's cost may be more than the least, where its costs were `span` times as much."""
    gap = answer.cost - answer.bound if answer.choice is not None else 0
    # Weights that were added come to less than one more.
    return gap // span + 1 if span and gap > 0 else gap


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
        self.wish = np.where(program.preference == 1, -1, 1).astype(np.int64)
        if program.told is not None:
            self.wish[~program.told] = 0

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
        answer = self._minimise(own, clock, most_nodes)
        if answer.choice is None:
            return answer
        choice = self._in_hand()
        choice[self.free] ^= answer.choice
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

    def only(self, variables: Ints, clock: Clock, most_nodes: int) -> bool:
        """Whether every choice that is left has the same values of some variables."""
        away = np.zeros(len(self.wish), dtype=np.int64)
        away[variables] = np.where(self._in_hand()[variables] == 1, 1, -1)
        answer = self._minimise(away[self.free], clock, most_nodes)
        return answer.proved and answer.cost == 0

    def _in_hand(self) -> Choice:
        return np.zeros(len(self.wish), dtype=np.int8) if self.choice is None else self.choice.copy()

    def _minimise(self, own: Ints, clock: Clock, most_nodes: int) -> Answer:
        """The least change of the free variables from the choice in hand, with what it adds to the cost:
        a solver has little to do where most of them stay."""
        fixed = self._in_hand().astype(np.int64)
        turned = (1 - 2 * fixed)[self.free]
        columns = csc_array(self.columns[:, self.free] * turned)
        return minimise(columns, self.right - self.columns @ fixed, own * turned, clock, most_nodes)

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


def _weights(face: _Face) -> Ints:
    """Costs of displeasing variables that are in no relation to the page, so that few choices cost the
    same (SplitMix64: Steele, Lea and Flood 2014)."""
    bits = np.arange(1, len(face.wish) + 1, dtype=np.uint64) * np.uint64(0x9E3779B97F4A7C15)
    for shift, times in ((30, 0xBF58476D1CE4E5B9), (27, 0x94D049BB133111EB)):
        bits = (bits ^ (bits >> np.uint64(shift))) * np.uint64(times)
    weights: Ints = face.wish * (1 + (bits >> np.uint64(44)).astype(np.int64))
    return weights


def _span(face: _Face, costs: Ints) -> int:
    """How many times over the costs are to be taken so that weights can be added to them; 0 where
    there are few to please, or the numbers would be long."""
    if np.count_nonzero(face.wish[face.free]) <= SINGLY or costs.dtype == object or face.carried is not None:
        return 0
    span = 2 * total(abs(_weights(face)[face.free])) + 1
    return span if largest(costs[face.free]) * span < SHORT else 0


def _weigh(face: _Face, clock: Clock, most_nodes: int) -> bool:
    """Where there are too many to please one by one, let their weights leave few in doubt."""
    if np.count_nonzero(face.wish[face.free]) <= SINGLY:
        return True
    return face.settle(_weights(face), clock, most_nodes).proved


def _please(face: _Face, clock: Clock, most_nodes: int) -> None:
    """Please the first variable, then the second, and so on, as far as the clock lets it."""
    wish = face.wish
    waiting = face.free[wish[face.free] != 0]
    if len(waiting) > BLOCK and face.only(waiting, clock, most_nodes):
        return
    for start in range(0, len(waiting), BLOCK):
        assert face.choice is not None
        block = np.intersect1d(waiting[start : start + BLOCK], face.free)
        if not np.array_equal(face.choice[block], face.preference[block]):
            costs = np.zeros(len(wish), dtype=np.int64)
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
