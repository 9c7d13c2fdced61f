"""What a plan is to be least in, tier by tier."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from humble_sum.core.footing.problem import Entry, Problem
from humble_sum.core.printing.rounding import Mode

DIRECTED: tuple[Mode, ...] = ("away", "toward_zero", "up", "down")


class Objective:
    """What is to be least, in tiers: whole numbers for each number of units of a figure.

    First comes the moving of the highest rank, then of those below, then what figures are chosen by,
    then drift, and last how far a plan is from the one kept. Every tier is convex in the units, so
    steps are taken in order. `cost` has all tiers in one number, each of them weighing more than all
    below it together.
    """

    def __init__(self, problem: Problem):
        entries = problem.entries
        self.parts = max((entry.where.parts for entry in entries), default=1)
        most = 2 * sum(max(len(entry.window), 1) for entry in entries)  # units all may move together
        ranks = sorted({entry.rank for entry in entries}, reverse=True)  # the lowest moves like any other
        named: list[tuple[Tier, int]] = [(_ranked(rank), most) for rank in ranks[:-1]]
        manners = {entry.choosing for entry in entries}
        if manners != {"closest"}:
            fewest = RELATIVE if "largest" in manners else 1
            named.append((_chosen(fewest), most * (RELATIVE if "largest" in manners else 1)))
        self.plain = not named
        named += [(self.drift, 2 * most * self.parts), (_from_kept, most)]
        self.tiers = tuple(tier for tier, _ in named)
        self.ranked = len(named) - 1  # the tiers that say what is least; the last tells equals apart
        weight = 1
        self._weighed: list[tuple[int, Tier]] = []
        for tier, largest in reversed(named):
            self._weighed.append((weight, tier))
            weight *= largest + 1

    @property
    def weights(self) -> tuple[tuple[int, int], ...]:
        """How often each tier is in `cost`, by its number."""
        return tuple((tier, weight) for tier, (weight, _) in enumerate(reversed(self._weighed)))

    def cost(self, entry: Entry, units: int) -> int:
        cost = 0
        for weight, tier in self._weighed:
            cost += weight * tier(entry, units)
        return cost

    def costs(self, entries: Sequence[Entry]) -> list[tuple[int, ...]]:
        """What each number of each figure's window costs, in order."""
        usual = self.plain and not any(
            entry.following or entry.kept is not None or entry.mode in DIRECTED or len(entry.window) > 2
            for entry in entries
        )
        if not usual:
            return [tuple([self.cost(entry, units) for units in entry.window]) for entry in entries]
        # Most are so, and there are many: a figure moves to the other side of its amount, or stays.
        weight = self._weighed[-1][0]
        found: list[tuple[int, ...]] = []
        for entry in entries:
            where, window = entry.where, entry.window
            if len(window) < 2:
                found.append((0,) if window[0] == entry.own_rounding else (self.cost(entry, window[0]),))
                continue
            up = weight * (self.parts - 2 * where.over * (self.parts // where.parts))
            at_low = entry.own_rounding == window[0]
            found.append((0, up + 1) if at_low else (1 - up, 0))
        return found

    def drift(self, entry: Entry, units: int) -> int:
        """Added drift in twice the sub-units.

        Under a directed rounding a figure's tipping point is the next whole unit, and the cost is
        twice the distance to that, so that a plan never "corrects" the rounding asked for.
        """
        where = entry.where
        if entry.following:
            return 0
        exact = (where.floor * where.parts + where.over) * (self.parts // where.parts)
        if entry.mode in DIRECTED:
            steps = abs(units - entry.own_rounding)
            if not steps:
                return 0
            first = entry.own_rounding + (1 if units > entry.own_rounding else -1)
            low, high = (edge * self.parts for edge in _printing(first, entry.mode))
            return 2 * (max(low - exact, exact - high) + (steps - 1) * self.parts)
        return abs(units * self.parts - exact) - abs(entry.own_rounding * self.parts - exact)


def _printing(units: int, mode: Mode) -> tuple[int, int]:
    """Between which whole numbers amounts lie that a directed rounding prints as `units`."""
    if not units:
        return {"toward_zero": (-1, 1), "away": (0, 0), "up": (-1, 0), "down": (0, 1)}[mode]
    upward = mode == "up" or mode == ("away" if units > 0 else "toward_zero")
    return (units - 1, units) if upward else (units, units + 1)


Tier = Callable[[Entry, int], int]


def _ranked(rank: int) -> Tier:
    """Units moved of this rank and those above it."""
    return lambda entry, units: _moved(entry, units) if entry.rank >= rank else 0


def _chosen(fewest: int) -> Tier:
    """Units moved, as each figure's statement chooses: each alike, or by its share of the figure."""

    def tier(entry: Entry, units: int) -> int:
        if entry.choosing == "closest":
            return 0
        return _moved(entry, units) * (fewest if entry.choosing == "fewest" else _relative(entry))

    return tier


def _moved(entry: Entry, units: int) -> int:
    return 0 if entry.following else abs(units - entry.own_rounding)


def _from_kept(entry: Entry, units: int) -> int:
    return 0 if entry.following else abs(units - entry.near)


RELATIVE = 10**9  # the cost of moving a figure of one unit by one


def _relative(entry: Entry) -> int:
    """One unit's share of the figure, in parts of RELATIVE; never nothing."""
    where = entry.where
    size = abs(where.floor * where.parts + where.over)
    return min(RELATIVE, max(1, RELATIVE * where.parts // max(size, 1)))
