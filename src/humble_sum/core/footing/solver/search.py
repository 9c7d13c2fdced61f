"""A 0-1 program with one cost for each variable, solved as far as the clock lets it.

A choice is checked against every row in whole numbers, and bounded by prices: one whose cost
equals the bound is least. Where the relaxation is fractional, HiGHS searches the whole program by
branch and cut in a thread of its own, while better choices are looked for in neighbourhoods and
offered to it. Only variables whose reduced cost is within what is left between bound and cost can be
otherwise in a better choice (Dantzig, Fulkerson and Johnson 1954): once those are few they are searched
by themselves. What HiGHS finds least is then proved in whole numbers where few halves are enough
(Land and Doig 1960), each bounded by prices or shown empty by them.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from time import monotonic

import numpy as np
from scipy.sparse import csc_array

from humble_sum.core.footing.solver.any_choice import MOST, AnyChoice
from humble_sum.core.footing.solver.bounds import Empty, Priced, Relaxed, relax
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.footing.solver.highs import Choice, Floats, Search
from humble_sum.core.footing.solver.incumbent import Incumbent
from humble_sum.core.footing.solver.integers import Ints, Matrix, largest, total
from humble_sum.core.footing.solver.linear import Unsolved
from humble_sum.core.footing.solver.neighbourhoods import Guide, Mask, Neighbourhoods

ALONE = 0.25  # seconds that HiGHS is given for such a program before neighbourhoods are looked at
SOON = 0.1  # the same for larger ones
FEW = 0.7  # share of the variables up to which those that may be otherwise are searched by themselves
FEWER = 0.8  # of those that were searched last, and they are searched again
SMALL = 2_500  # variables up to which a proof is within reach, and worth both processors
STALE = 2.5  # seconds without a better choice, after which it is left to HiGHS alone
LONG = 40  # bits of a cost that HiGHS is given
HALVES: float = 400  # a proof in whole numbers is tried with at most
HOPEFUL = 0.15  # of the seconds the search took, where prices leave in doubt
LEFT = 0.3  # of the variables at most: with more, few halves prove nothing
ANYWAY = 0.2  # seconds in any case, where there are few variables: nobody minds, and the word is a better one
FEW_LEFT, TINY = 600, 40  # variables
SOLVER = 1e-6  # share of a bound by which HiGHS may be wrong


# Choices halved by a variable, its number and what is proved of those with 0 and those with 1; or not.
Halves = Priced | tuple[int, "Halves", "Halves"]


@dataclass(frozen=True)
class SearchResult:
    """The best choice found, and what is known of any other.

    No choice costs less than `bound`, as whole prices show: those of all choices (`root`), or where they
    are not enough those of `halves` of what they leave. Where none costs less than this one it is
    `proved`. HiGHS takes `solver_bound` for a bound; `closed` says that it found none less. Where there is no
    choice the search `ended` first, or there is none at all: proved if prices show it.
    """

    choice: Choice | None
    cost: int = 0
    bound: int = 0
    root: Priced | None = None
    halves: Halves | None = None
    solver_bound: int | None = None
    closed: bool = False
    ended: bool = False

    @property
    def proved(self) -> bool:
        if self.choice is None:
            return self.halves is not None or (self.root is not None and self.root.empty)
        return self.cost <= self.bound

    @property
    def reduced(self) -> Ints | None:
        """What the prices of all choices leave of every cost, where they alone are the proof."""
        by_prices = self.choice is not None and self.proved and self.halves is None
        return self.root.reduced if by_prices and self.root is not None else None

    @property
    def slack(self) -> int:
        """How much is between their bound and the cost: a variable whose reduced cost is more has the
        same value in every least choice."""
        assert self.root is not None
        return self.cost * self.root.fineness - self.root.below


def minimise(
    matrix: Matrix,
    right: Ints,
    costs: Ints,
    clock: Clock = ENDLESS,
    start: Choice | None = None,
    relaxed_only: bool = False,
    to_proof: bool = False,
) -> SearchResult:
    """The least choice of d in {0, 1} with `matrix` d = `right`; matrix is rows × variables.

    Never worse than `start`, a choice to begin with. When the clock ends it first, the answer is the best
    choice known with its bound; and so it is where `relaxed_only` asks for no more than the relaxation.
    What HiGHS closed goes on `to_proof` in whole numbers, however long, where that is asked.
    """
    columns = csc_array(matrix)
    best = Incumbent(columns, right, costs)
    best.take(start)
    # Where the relaxation is a good part of the whole, HiGHS does not wait for it.
    ahead = None if relaxed_only or not FEW_LEFT < len(costs) <= SMALL else _Ahead(best, clock)
    wanted = start is None and not relaxed_only and SMALL < len(costs) <= MOST
    any_choice = AnyChoice(best, clock) if wanted else None
    try:
        found = _minimised(best, ahead, clock, relaxed_only, to_proof)
        if found.choice is None and found.ended and any_choice is not None:
            any_choice.give()
            found = replace(found, choice=best.choice, cost=best.cost)
        return found
    finally:
        if ahead is not None:
            ahead.search.stop()
        if any_choice is not None:
            any_choice.stop()


def _minimised(
    best: Incumbent, ahead: _Ahead | None, clock: Clock, relaxed_only: bool, to_proof: bool
) -> SearchResult:
    columns, right, costs = best.columns, best.right, best.costs
    least = total(np.minimum(costs, 0))
    try:
        root = relax(columns, right, costs, clock)
    except OutOfTime:
        return SearchResult(best.choice, best.cost, least, ended=True)
    except Unsolved:
        root = None
    if isinstance(root, Empty):
        if best.choice is None:
            return SearchResult(None, root=root.proof, closed=True)
        root = None  # HiGHS is wrong: there is a choice
    if root is None:
        return _searched(best, None, least, clock, ahead)
    best.take_values(root.values)
    if best.choice is not None and best.cost <= root.proof.bound:
        return SearchResult(best.choice, best.cost, root.proof.bound, root.proof, closed=True)
    if relaxed_only:
        return SearchResult(best.choice, best.cost, root.proof.bound, root.proof)
    began = monotonic()
    found = _searched(best, root, root.proof.bound, clock, ahead)
    now = monotonic()
    hurried = ahead is not None and now - began < ALONE
    if not found.ended and not found.proved and (to_proof or not hurried):
        share = 1.0 if best.choice is None else float(_near(best, root.proof).mean())
        given = HOPEFUL * (now - began) if share <= LEFT else 0.0
        if len(costs) <= FEW_LEFT:
            given = max(ANYWAY, given)
        if len(costs) <= TINY:
            given = math.inf  # so few that their number is limit enough, whatever the machine
        given, most = (math.inf, math.inf) if to_proof else (given, None)
        halves = _proved_by_halves(best, root.proof, clock, now + given, most=most)
        found = replace(found, choice=best.choice, cost=best.cost)
        if halves is not None:
            found = replace(found, bound=best.cost, halves=halves)
    return replace(found, root=root.proof)


class _Ahead:
    """The whole program as HiGHS searches it: limits of the rows, and costs in a `unit` that it holds."""

    def __init__(self, best: Incumbent, clock: Clock):
        self.unit = 1 << max(0, largest(best.costs).bit_length() - LONG)
        self.costs = np.array([float(cost) / self.unit for cost in best.costs.tolist()])
        self.limits = best.right.astype(float)
        self.search = Search(best.columns, self.limits, self.limits, self.costs, best.choice, clock.left())


def _searched(
    best: Incumbent, root: Relaxed | None, bound: int, clock: Clock, ahead: _Ahead | None
) -> SearchResult:
    """The search by HiGHS, which may be `ahead`, with what neighbourhoods find meanwhile."""
    began = monotonic()
    # HiGHS goes its own way from the start, with one processor to itself: no later than it would be alone.
    begun = _Ahead(best, clock) if ahead is None else ahead
    unit, costs, limits, search = begun.unit, begun.costs, begun.limits, begun.search
    small = len(costs) <= SMALL
    searches = [search]

    def left() -> float | None:
        clock.found(best.cost if best.choice is not None else None, bound)
        ended = all(search.done for search in searches) or any(search.settled for search in searches)
        return 0.0 if ended else clock.left()

    meanwhile = Clock(left, clock.tell, clock.found)
    try:
        if small and root is not None:
            # Both at once: where few halves are a proof it is often here before HiGHS has looked around.
            halves = _proved_by_halves(best, root.proof, meanwhile, began + ALONE, search)
            if halves is not None:
                return SearchResult(best.choice, best.cost, best.cost, halves=halves, closed=True)
        if not search.wait(clock, max(0.0, began + ALONE - monotonic()) if small else SOON):
            guide = _guide(best, root, costs, unit)
            most = FEW
            for _ in _bettered(best, search, guide, meanwhile):
                near = None if root is None else _near(best, root.proof)
                if near is None or near.mean() > most:
                    continue
                most = FEWER * float(near.mean())
                restricted = _among(best, near, costs, meanwhile)
                restricted.wait(meanwhile, max(1.0, monotonic() - began))
                restricted.stop()
                _take_among(best, restricted, near)
                rest = total(best.costs[~near & (_in_hand(best) == 1)])
                if _closes(restricted, best.cost - rest, unit):
                    return SearchResult(best.choice, best.cost, bound, solver_bound=best.cost, closed=True)
            if not meanwhile.over:
                # Nothing better is near: the other processor looks for the proof too, in another way.
                searches.append(
                    Search(best.columns, limits, limits, costs, best.choice, clock.left(), helped=True)
                )
                searches[1].wait(meanwhile)
        for search in searches:
            best.take(search.found)
    finally:
        for search in searches:
            search.stop()
    if best.choice is None:
        closed = any(search.empty for search in searches)
    else:
        closed = any(_closes(search, best.cost, unit) for search in searches)
    solver_bound = best.cost if closed else max(bound, *(_wholly(search.bound, unit) for search in searches))
    return SearchResult(
        best.choice,
        best.cost,
        bound,
        solver_bound=min(solver_bound, best.cost) if best.choice is not None else solver_bound,
        closed=closed,
        ended=clock.over and not closed,
    )


def _closes(search: Search, cost: int, unit: int) -> bool:
    """Whether HiGHS came to its end with nothing less than this cost: not even a choice that was less to it
    and no choice in whole numbers."""
    if not search.closed or not np.isfinite(search.bound):
        return False
    return cost <= unit * (int(np.ceil(search.bound + SOLVER * max(1.0, abs(search.bound)))) + 1)


def _wholly(bound: float, unit: int) -> int:
    """HiGHS's bound in whole costs, less by what it may be wrong."""
    if not np.isfinite(bound):
        return -(1 << 200)
    return int(np.floor(bound - SOLVER * max(1.0, abs(bound)))) * unit


def _guide(best: Incumbent, root: Relaxed | None, costs: Floats, unit: int) -> Guide:
    if root is None:
        return Guide((costs < 0).astype(float), costs, costs)
    by = root.proof.fineness * unit
    reduced = np.array([float(each) / by for each in root.proof.reduced.tolist()])
    return Guide(root.values, reduced, costs)


def _bettered(best: Incumbent, search: Search, guide: Guide, clock: Clock) -> Iterator[bool]:
    """Each time that a better choice is in hand, found here or by HiGHS, until either is at its end."""
    near = Neighbourhoods(best, guide, clock)
    small = len(guide.costs) <= SMALL
    if best.choice is None and not near.repaired(search) and not best.take(search.found):
        return
    search.offer(_in_hand(best))
    yield True
    steps = near.better()
    last = monotonic()
    while not clock.over:
        now = monotonic()
        if small and now - last > STALE:
            return
        theirs = best.take(search.found)
        ours = next(steps)
        last = monotonic() if ours or theirs else last
        if ours:
            search.offer(_in_hand(best))
        if ours or theirs:
            yield True


def _in_hand(best: Incumbent) -> Choice:
    assert best.choice is not None
    return best.choice


def _near(best: Incumbent, proof: Priced) -> Mask:
    """The variables that may be otherwise in a better choice than the best."""
    return np.asarray(abs(proof.reduced) <= best.cost * proof.fineness - proof.below, dtype=bool)


def _among(best: Incumbent, near: Mask, costs: Floats, clock: Clock) -> Search:
    choice = _in_hand(best)
    limits = (best.right - best.columns @ np.where(near, 0, choice).astype(np.int64)).astype(float)
    seconds = clock.left()
    return Search(best.columns[:, near], limits, limits, costs[near], choice[near], seconds, helped=True)


def _take_among(best: Incumbent, search: Search, near: Mask) -> None:
    if search.found is not None:
        found = _in_hand(best).copy()
        found[near] = search.found
        best.take(found)


def _proved_by_halves(
    best: Incumbent,
    root: Priced,
    clock: Clock,
    end: float,
    beside: Search | None = None,
    most: float | None = None,
) -> Halves | None:
    """Halves that together show that no choice costs less than the best, or that there is none; None where
    more than `most` (HALVES, if left out) or too much time would be needed.

    Whatever has another value outside of those near costs more: the prices of all choices say so. Should
    HiGHS have been wrong, a better choice is found here and taken; what a search `beside` this one finds is
    taken too.
    """
    columns, right, costs = best.columns, best.right, best.costs
    count = 0

    def proved(fixed: Choice) -> Halves | None:
        nonlocal count
        count += 1
        if beside is not None:
            best.take(beside.found)
        clock.tell("proving", count, 0)
        if count > (HALVES if most is None else most) or monotonic() > end or clock.over:
            return None
        free = fixed < 0
        taken = np.where(free, 0, fixed).astype(np.int64)
        try:
            found = relax(columns[:, free], right - columns @ taken, costs[free], clock)
        except (OutOfTime, Unsolved):
            return None
        if found.proof is None:
            return None
        if isinstance(found, Empty):
            return found.proof
        best.take_values(_filled(fixed, found.values))
        bound = found.proof.bound + total(costs[fixed == 1])
        if best.choice is not None and bound >= best.cost:
            return found.proof
        if not free.any():
            return None
        away = np.minimum(found.values, 1 - found.values)
        place = int(np.argmax(away))
        branch, likely = int(np.flatnonzero(free)[place]), round(float(found.values[place]))
        halves: dict[int, Halves] = {}
        for value in (likely, 1 - likely):
            half = fixed.copy()
            half[branch] = value
            below = proved(half)
            if below is None:
                return None
            halves[value] = below
        return branch, halves[0], halves[1]

    near = np.ones(len(costs), dtype=bool) if best.choice is None else _near(best, root)
    return proved(np.where(near, -1, root.reduced < 0).astype(np.int8))


def _filled(fixed: Choice, values: Floats) -> Floats:
    found = fixed.astype(float)
    found[fixed < 0] = values
    return found
