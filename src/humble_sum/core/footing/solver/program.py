"""A 0-1 program whose costs come in stages, solved to a proof and to one answer.

    minimise  stage by stage  costs · d   subject to   A d = right,   d in {0, 1}

Each stage is least among the choices that are least in the stages before it. Prices prove each:
once a choice costs no more than they allow, every variable with a reduced cost is settled, and
the next stage has only the others left. Where prices leave room, the stage is weighed into the
next one. Last, of equally good choices the one is taken where the first variable has the value it
prefers, if any has, then the second, and so on, so that the answer is the same for every solver.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from time import monotonic

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array, csr_array, vstack

from humble_sum.core.footing.solver.bounds import Priced
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, unheard, within
from humble_sum.core.footing.solver.highs import Choice, Search
from humble_sum.core.footing.solver.integers import (
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
from humble_sum.core.footing.solver.search import TINY, Halves, SearchResult, minimise

BLOCK = 20  # variables pleased together when equals are told apart
FEW = 12  # variables up to which every choice is tried
SINGLY = 120  # variables up to which the first in order is settled exactly
SHORT = 1 << 40  # costs up to which a stage and the weights that tell equals apart are one
EQUALS = 0.1  # of what a search by HiGHS took: what telling its equals apart is given, and SOON at least
SOON = 0.05  # seconds


@dataclass(frozen=True)
class Program:
    """`matrix` (rows × variables) and `right` (by row) in whole numbers, the costs of each stage by
    variable, and the value that each variable would rather have.

    The first `ranked` stages say what is least (left out, all of them); the others tell equals apart. Of
    equally good choices any is as good where they differ in none of the variables that are `told` apart.
    """

    matrix: Matrix
    right: Ints
    stages: tuple[Ints, ...]
    preference: Choice
    told: NDArray[np.bool_] | None = None
    ranked: int | None = None


@dataclass(frozen=True)
class Step:
    """One step of a proof, for all choices that the steps before it leave.

    Of the stages' costs, each taken as many times as `weights` say, prices prove a bound for all of them
    (`proof`), or for each part of them (`halves`); with neither of the two, every choice was tried.
    """

    weights: tuple[tuple[int, int], ...]
    proof: Priced | None = None
    halves: Halves | None = None


@dataclass(frozen=True)
class Chosen:
    """The best choice found, None where there is none, and what is known of others.

    `proved`: in whole numbers, that none is less by the ranked stages, or that there is none at all.
    `solver_proved`: that HiGHS found none. Otherwise the cost in the first stage may be more than the
    least by `short`, and by HiGHS's own bound by `solver_short`. `settled` says that equals were told
    apart to the end, and `ended` that the clock ran out first. `steps` are the proof, where it was kept.
    """

    choice: Choice | None
    proved: bool = False
    solver_proved: bool = False
    short: int = 0
    solver_short: int = 0
    settled: bool = False
    ended: bool = False
    steps: tuple[Step, ...] = ()


def least(
    program: Program, clock: Clock = ENDLESS, certify: bool = False, start: Choice | None = None
) -> Chosen:
    """The least choice by every stage in turn, and the first in order among equals; never a worse one than
    `start`, which an earlier search may have found.

    To `certify` is to keep the steps of the proof, for which stages are taken one by one.
    """
    if len(program.preference) <= FEW:
        return _of_all(program)
    began = monotonic()
    face = _Face(program, start, certify)
    stages = list(program.stages) or [ints([0] * len(program.preference))]
    ranked = len(stages) if program.ranked is None else program.ranked
    span = 0
    for place, costs in enumerate(stages):
        last = place == len(stages) - 1
        span = _span(face, costs) if last and not certify else 0
        if place >= ranked and face.searched:
            # Equals of what took a search are told apart by searches too: they get a share of its time.
            clock = _for_equals(program, clock, began)
        result = face.settle(place, costs, _heard(clock, place, span), span)
        if span and not (result.proved or result.ended or result.closed):
            # Prices alone do not settle it: costs that are long with their weights are no search's business.
            span = 0
            result = face.settle(place, costs, _heard(clock, place, 0))
        if face.choice is None:
            word = result.closed or result.proved
            return Chosen(None, result.proved, word, ended=result.ended)
        if not result.proved:
            found = Chosen(face.choice, place >= ranked, place >= ranked, steps=tuple(face.steps))
            if result.closed:
                found = replace(found, short=0 if place else _short(result, span))
                return _by_solver(face, program, found, place, clock, monotonic() - began)
            short, solver_short = _short(result, span), 0
            if result.solver_bound is not None:
                solver_short = _short(replace(result, bound=result.solver_bound), span)
            if place:
                short = solver_short = 0
            return replace(found, short=short, solver_short=solver_short, ended=result.ended)
    muted = _for_equals(program, replace(clock, found=unheard), began)
    settled = (bool(span) or _weigh(face, muted)) and _please(face, muted)
    return Chosen(face.choice, True, True, settled=settled, steps=tuple(face.steps))


def _for_equals(program: Program, clock: Clock, began: float) -> Clock:
    """A clock that gives what tells equals apart its share; all it wants where there is little to tell."""
    if len(program.preference) <= TINY:
        return clock
    return within(clock, max(SOON, EQUALS * (monotonic() - began)))


def _heard(clock: Clock, place: int, span: int) -> Clock:
    """A clock that hears of the first stage's own costs."""
    if place:
        return replace(clock, found=unheard)
    if not span:
        return clock

    def own(sum: int) -> int:
        return (2 * sum + span) // (2 * span)

    def found(cost: int | None, bound: int) -> None:
        clock.found(None if cost is None else own(cost), own(bound))

    return replace(clock, found=found)


def _short(result: SearchResult, span: int) -> int:
    """By how much a stage's cost may be more than the least, where its costs were `span` times as much
    and weights that come to less than half a span were added."""
    gap = max(0, result.cost - result.bound)
    return gap // span + 1 if span and gap else gap


def _by_solver(
    face: _Face, program: Program, found: Chosen, place: int, clock: Clock, spent: float
) -> Chosen:
    """The stages after one that HiGHS alone has closed, by HiGHS too: each with the costs of those before
    it as rows, and equals told apart as far as a share of the time `spent` lets it."""
    stages = program.stages
    ranked = len(stages) if program.ranked is None else program.ranked
    for stage in range(place + 1, ranked):
        if not face.settle_by_solver(stages[: stage + 1], clock, None):
            return replace(found, choice=face.choice, ended=True)
    if not np.any(face.wish):
        return replace(found, choice=face.choice, solver_proved=True, settled=True)
    seconds = max(SOON, EQUALS * spent)
    equals = [stages[-1], _weights(face)] if ranked < len(stages) else [_weights(face)]
    together = equals[0] if len(equals) == 1 else _joined(*equals)
    settled = face.settle_by_solver((*stages[:ranked], together), clock, seconds)
    return replace(found, choice=face.choice, solver_proved=True, settled=settled)


def _joined(costs: Ints, weights: Ints) -> Ints:
    return added(scaled(costs, 2 * total(abs(weights)) + 1), weights)


class _Face:
    """What is left to choose: the variables that the stages so far have not settled.

    `carried` has the costs of stages that prices closed only as whole numbers, for those to come to be
    added to, and `weights` how often each stage is in them.
    """

    def __init__(self, program: Program, start: Choice | None = None, to_proof: bool = False):
        self.to_proof = to_proof
        self.columns = csc_array(program.matrix)
        self.right = program.right
        self.choice = start
        self.free = np.arange(len(program.preference))
        self.carried: Ints | None = None
        self.weights: tuple[tuple[int, int], ...] = ()
        self.steps: list[Step] = []
        self.searched = False  # whether prices alone were not enough so far
        self.preference = program.preference
        self.wish = np.where(program.preference == 1, -1, 1).astype(np.int64)
        if program.told is not None:
            self.wish[~program.told] = 0

    def settle(self, stage: int, costs: Ints, clock: Clock, span: int = 0) -> SearchResult:
        """Take a stage into account, `span` times with weights that tell equals apart if there is a span."""
        own = (span * costs + _weights(self) if span else costs)[self.free]
        weights: tuple[tuple[int, int], ...] = ((stage, span or 1),)
        if self.choice is not None and self.carried is None and not self._gains(own):
            if not span:
                self.steps.append(Step(weights, _nothing(self.columns)))
            self._keep(own == 0)
            return SearchResult(self.choice, 0, 0)
        if self.carried is not None:
            times = 2 * total(abs(own)) + 1
            own = added(scaled(self.carried[self.free], times), own)
            weights = (*((each, often * times) for each, often in self.weights), *weights)
        result = self._choose(own, clock, relaxed_only=span > 0)
        if not result.proved or result.choice is None:
            return result
        if not span:
            self._record(weights, result)
        open_still = np.ones(len(self.free), dtype=bool)
        if result.reduced is not None:
            open_still = (abs(result.reduced) <= result.slack).astype(bool)
        tight = result.reduced is not None and result.slack == 0
        spread = np.zeros(len(costs), dtype=object if own.dtype == object else np.int64)
        spread[self.free] = own
        self.carried, self.weights = (None, ()) if tight else (spread, weights)
        self._keep(open_still)
        return result

    def please(self, costs: Ints, clock: Clock) -> bool:
        """Whether the least of these costs, of variables that are then fixed, was found to a proof."""
        own = costs[self.free]
        if self.carried is not None:
            own = added(scaled(self.carried[self.free], 2 * total(abs(own)) + 1), own)
        elif not self._gains(own):
            self._keep(own == 0)
            return True
        result = self._choose(own, clock)
        if result.proved and result.reduced is not None:
            if result.slack == 0:
                self.carried = None
            self._keep((abs(result.reduced) <= result.slack).astype(bool))
        return result.proved

    def settle_by_solver(self, stages: tuple[Ints, ...], clock: Clock, seconds: float | None) -> bool:
        """Whether HiGHS found the least of the last of these stages, the others costing no more than now,
        in so many seconds. What it finds is taken only if that is so in whole numbers."""
        fixed = self._in_hand().astype(np.int64)
        turned = (1 - 2 * fixed)[self.free]
        changes = [(costs[self.free] * turned).astype(float) for costs in stages]
        sizes = [max(1.0, float(np.abs(change).max(initial=0.0)) / 1e6) for change in changes]
        matrix = self.columns[:, self.free] * turned
        kept = list(zip(changes, sizes, strict=True))[:-1]
        rows = [csr_array(change[None, :] / size) for change, size in kept]
        none = np.zeros(matrix.shape[0])
        low = np.concatenate([none, np.full(len(rows), -np.inf)])
        high = np.concatenate([none, np.zeros(len(rows))])
        start = np.zeros(len(self.free))
        left = clock.left()
        given = left if seconds is None else seconds if left is None else min(seconds, left)
        search = Search(vstack([matrix, *rows]), low, high, changes[-1] / sizes[-1], start, given)
        search.wait(replace(clock, found=unheard), seconds)
        closed = search.closed
        search.stop()
        if search.found is None:
            return closed
        choice = self._in_hand()
        choice[self.free] ^= search.found.astype(np.int8)
        before, after = ([total(costs[d == 1]) for costs in stages] for d in (self._in_hand(), choice))
        if after < before and np.array_equal(self.columns @ choice.astype(np.int64), self.right):
            self.choice = choice
            return closed and after[:-1] == before[:-1]
        return closed and not search.found.any()

    def _record(self, weights: tuple[tuple[int, int], ...], result: SearchResult) -> None:
        """Keep what proves an answer, in terms of all variables."""
        if result.root is not None:
            self.steps.append(Step(weights, result.root))
        if result.halves is not None:
            self.steps.append(Step(weights, halves=self._in_all(result.halves)))

    def _in_all(self, halves: Halves) -> Halves:
        if isinstance(halves, Priced):
            return halves
        variable, zero, one = halves
        number = int(self.free[variable])
        # Variables were searched as changes of the choice in hand.
        if self._turned_at[number]:
            zero, one = one, zero
        return number, self._in_all(zero), self._in_all(one)

    def only(self, variables: Ints, clock: Clock) -> bool:
        """Whether every choice that is left has the same values of some variables."""
        away = np.zeros(len(self.wish), dtype=np.int64)
        away[variables] = np.where(self._in_hand()[variables] == 1, 1, -1)
        result = self._minimise(away[self.free], clock)
        return result.proved and result.cost == 0

    def _choose(self, own: Ints, clock: Clock, relaxed_only: bool = False) -> SearchResult:
        """The least change, and the choice in hand changed so."""
        self._turned_at = self._in_hand()
        result = self._minimise(own, clock, relaxed_only)
        self.searched |= result.halves is not None or not result.proved
        if result.choice is not None:
            choice = self._in_hand()
            choice[self.free] ^= result.choice
            self.choice = choice
        return result

    def _in_hand(self) -> Choice:
        return np.zeros(len(self.wish), dtype=np.int8) if self.choice is None else self.choice.copy()

    def _minimise(self, own: Ints, clock: Clock, relaxed_only: bool = False) -> SearchResult:
        """The least change of the free variables from the choice in hand, with what it adds to the cost:
        a solver has little to do where most of them stay. Never a change for the worse."""
        fixed = self._in_hand().astype(np.int64)
        turned = (1 - 2 * fixed)[self.free]
        columns = csc_array(self.columns[:, self.free] * turned)
        start = None if self.choice is None else np.zeros(len(self.free), dtype=np.int8)
        right = self.right - self.columns @ fixed
        return minimise(columns, right, own * turned, clock, start, relaxed_only, self.to_proof)

    def _gains(self, own: Ints) -> bool:
        """Whether some choice might cost less than the one in hand; if not, no search is needed."""
        assert self.choice is not None
        return inner(self.choice[self.free].astype(np.int64), own) > total(np.minimum(own, 0))

    def _keep(self, open_still: Choice) -> None:
        """Go on with some of the variables, without those that their relations settle one by one."""
        free = self.free[open_still]
        rows = csr_array(self.columns[:, free])
        owner = np.repeat(np.arange(rows.shape[0]), np.diff(rows.indptr))
        positions, left = rows.indices, np.ones(len(free), dtype=bool)
        while len(owner):
            alone = np.bincount(owner, minlength=rows.shape[0]) == 1
            if not alone.any():
                break
            left[positions[alone[owner]]] = False
            staying = left[positions]
            owner, positions = owner[staying], positions[staying]
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


def _nothing(columns: Matrix) -> Priced:
    """No prices: a choice that has every variable at its cheaper value needs none."""
    none = np.zeros(columns.shape[0], dtype=np.int64)
    return Priced(none, 1, 0, np.zeros(0, dtype=np.int64))


def _weigh(face: _Face, clock: Clock) -> bool:
    """Where there are too many to please one by one, let their weights leave few in doubt."""
    if np.count_nonzero(face.wish[face.free]) <= SINGLY:
        return True
    return face.please(_weights(face), clock)


def _please(face: _Face, clock: Clock) -> bool:
    """Whether the first variable could be pleased, then the second, and so on to the last, before the
    clock was over."""
    wish = face.wish
    waiting = face.free[wish[face.free] != 0]
    if len(waiting) > BLOCK and face.only(waiting, clock):
        return True
    for start in range(0, len(waiting), BLOCK):
        assert face.choice is not None
        block = np.intersect1d(waiting[start : start + BLOCK], face.free)
        if not np.array_equal(face.choice[block], face.preference[block]):
            costs = np.zeros(len(wish), dtype=np.int64)
            costs[block] = wish[block] << np.arange(len(block))[::-1]
            if not face.please(costs, clock):
                return False
        face.free = np.setdiff1d(face.free, block)
    return True


def _of_all(program: Program) -> Chosen:
    """The same by trying every choice."""
    count = len(program.preference)
    every = (np.arange(1 << count)[:, None] >> np.arange(count)[::-1]) & 1
    # Choices where the first variable has the value it prefers come first, then by the second.
    every = np.where(program.preference == 1, 1 - every, every)
    kept = every[(every @ program.matrix.toarray().T == program.right).all(axis=1)]
    for costs in program.stages:
        if len(kept):
            sums = kept.astype(object) @ costs if largest(costs) >= ROOM // max(1, count) else kept @ costs
            kept = kept[np.asarray(sums == sums.min(), dtype=bool)]
    steps = tuple(Step(((stage, 1),)) for stage in range(len(program.stages)))
    choice = kept[0].astype(np.int8) if len(kept) else None
    return Chosen(choice, True, True, settled=True, steps=steps)
