"""Parts of a problem that need a search, which share a clock: each gets a first plan before any is made
better, and then those with most to gain go first."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from humble_sum.core.footing.solver.deadline import Clock, OutOfTime, unheard, within
from humble_sum.core.footing.solver.highs import Choice
from humble_sum.core.footing.solver.integers import total as total_of
from humble_sum.core.footing.solver.program import Program, Step, least

FOR_FIRST = 0.5  # of its share of the time, what the first search of each of several parts is given


@dataclass(frozen=True)
class Unsolved:
    """A part: what makes its program, and what its figures add before any step is taken, so that costs of
    steps are told as drift."""

    program: Callable[[], Program]
    base: int = 0


@dataclass(frozen=True)
class Found:
    """The best choice of a part, by how much it may cost more than the least, and the steps that prove it."""

    choice: Choice
    cost: int
    proved: bool
    solver_proved: bool
    settled: bool
    short: int
    solver_short: int
    steps: tuple[Step, ...]


@dataclass(frozen=True)
class Drift:
    """What costs are told in: so many to a unit, and what is added elsewhere. Not `told` where something else
    than drift is to be least."""

    units: int
    elsewhere: int = 0
    told: bool = True


class Searched:
    """The parts of a problem, and what was found of each, by its number."""

    def __init__(self, parts: Sequence[Unsolved], drift: Drift, clock: Clock, certify: bool = False):
        self.parts, self.drift, self.clock, self.certify = parts, drift, clock, certify
        self.found: dict[int, Found] = {}

    def in_shares(self) -> bool:
        """Whether every part has a plan; not, where one of them has none. Raises OutOfTime where nobody
        knows."""
        left = self.clock.left()
        several = left is not None and len(self.parts) > 1
        for number in range(len(self.parts)):
            share = FOR_FIRST if several else 1.0
            if not self._search(number, len(self.parts) - number, share):
                return False
        open_ = [number for number in range(len(self.parts)) if not self._is_done(number)]
        while several and open_ and not self.clock.over:
            open_.sort(key=self._to_gain, reverse=True)
            if not self._search(open_[0], len(open_), 1.0):
                return False
            open_.pop(0)
        if len(self.found) < len(self.parts):
            raise OutOfTime
        return True

    def _search(self, number: int, of: int, share: float) -> bool:
        """Search a part for its share of the time that is left to so many; whether it may have a plan."""
        left = self.clock.left()
        clock = self._heard(number)
        if left is not None:
            clock = within(clock, share * left / of)
        before = self.found.get(number)
        try:
            found = self._least(self.parts[number], clock, before)
        except OutOfTime:
            return True
        if found is not None:
            self.found[number] = found if before is None else _with_bounds_of(before, found)
        return found is not None

    def _least(self, part: Unsolved, clock: Clock, before: Found | None) -> Found | None:
        """The least choice of a part in time; None where it has none. Raises OutOfTime."""

        def heard(cost: int | None, bound: int) -> None:
            clock.found(None if cost is None else part.base + cost, part.base + bound)

        program = part.program()
        found = least(
            program, replace(clock, found=heard), self.certify, None if before is None else before.choice
        )
        if found.choice is None:
            # Where nobody knows that there is none, none was found in time.
            if not found.solver_proved:
                raise OutOfTime
            return None
        cost = part.base + total_of(program.stages[0][found.choice == 1]) if self.drift.told else 0
        known = (found.proved, found.solver_proved, found.settled, found.short, found.solver_short)
        return Found(found.choice, cost, *known, found.steps)

    def _is_done(self, number: int) -> bool:
        found = self.found.get(number)
        return found is not None and (found.proved or found.solver_proved)

    def _to_gain(self, number: int) -> float:
        """By how much a part's cost may be above its least; most of all where there is no plan yet."""
        found = self.found.get(number)
        return math.inf if found is None else float(found.short)

    def _heard(self, number: int) -> Clock:
        """A clock that hears of a part's search in millionths of a unit of drift, of all parts so far."""
        if not self.drift.told:
            return replace(self.clock, found=unheard)
        others = [part for other, part in self.found.items() if other != number]
        costs = self.drift.elsewhere + sum(part.cost for part in others)
        bounds = costs - sum(part.short for part in others)
        units = self.drift.units

        def found(cost: int | None, bound: int) -> None:
            best = None if cost is None else (costs + cost) * 10**6 // units
            self.clock.found(best, (bounds + bound) * 10**6 // units)

        return replace(self.clock, found=found)


def _with_bounds_of(before: Found, found: Found) -> Found:
    """A choice with the better of the bounds that both searches of its part came to."""
    gained = before.cost - found.cost
    return replace(
        found,
        short=min(found.short, before.short - gained),
        solver_short=min(found.solver_short, before.solver_short - gained),
    )
