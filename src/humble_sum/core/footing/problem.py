"""A footing problem: figures near their exact amounts, relations, and what is held."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import pairwise

import numpy as np

from humble_sum.core.amounts import EXACT, amount_text, cut_endless, scaled, total
from humble_sum.core.footing.clock import ENDLESS, Clock, OutOfTime
from humble_sum.core.footing.components import components
from humble_sum.core.footing.forest import NEVER, Forest, least_in_forest
from humble_sum.core.footing.policy import Choosing, Policy
from humble_sum.core.footing.program import Program, least, program_of
from humble_sum.core.footing.trees import ORDERED, Node, Sum, bottom_up, least_in_tree
from humble_sum.core.footing.whole import ints
from humble_sum.core.rounding import Mode, Position

DIRECTED: tuple[Mode, ...] = ("away", "toward_zero", "up", "down")


@dataclass(frozen=True)
class Entry:
    """One figure of a problem, measured in units.

    `held` is the whole number of units it must print. `window` has the whole numbers it may print
    when it is not held, one after another: floor and ceiling, unless a policy says otherwise.
    `kept` is what an earlier plan printed, to stay near among equals; its own rounding otherwise.
    Of a higher `rank` it moves only where no other figures settle it. One that is `following` prints
    whatever its relation comes to, at no cost.
    """

    id: str
    where: Position
    natural: int
    mode: Mode = "half_up"
    held: int | None = None
    window: tuple[int, ...] = ()
    rank: int = 0
    kept: int | None = None
    choosing: Choosing = "closest"
    following: bool = False

    @property
    def steps(self) -> int:
        """How many single units it may go up from the least it may print."""
        return 0 if self.held is not None else len(self.window) - 1

    @property
    def near(self) -> int:
        """What it prints rather, among equals."""
        return self.natural if self.kept is None else self.kept


def window_of(where: Position, natural: int, policy: Policy) -> tuple[int, ...]:
    """What a figure may print: exact whole amounts only themselves, others floor to ceiling and as
    much farther as the policy allows, but not past its guards."""
    if where.whole:
        return (where.floor,)
    low, high = where.floor - policy.at_most + 1, where.floor + policy.at_most
    if policy.keep_signs:
        low, high = (low, min(high, 0)) if where.negative else (max(low, 0), high)
    if policy.keep_amounts and natural:
        low, high = (max(low, 1), high) if natural > 0 else (low, min(high, -1))
    if policy.most_change is not None:
        room = int(EXACT.multiply(policy.most_change, EXACT.create_decimal(abs(natural))))
        low, high = max(low, natural - room), min(high, natural + room)
    return tuple(range(low, high + 1))


@dataclass(frozen=True)
class Equation:
    """A total and its signed parts, by figure id."""

    total: str
    parts: tuple[tuple[str, int], ...]


@dataclass(frozen=True)
class Problem:
    """Entries in the order that settles equals, and the equations their units must satisfy."""

    entries: tuple[Entry, ...]
    equations: tuple[Equation, ...]


@dataclass(frozen=True)
class Footed:
    """The least plan: units by figure, those that left their own rounding, and the proof.

    `added_drift` is Σ(|printed − exact| − |natural − exact|) in units. Not `proved` means the
    search ended early; where drift is what was to be least, no plan adds less than `bound`.
    """

    printed: dict[str, int]
    moved: tuple[str, ...]
    added_drift: Decimal
    proved: bool
    bound: Decimal | None


def foot(problem: Problem, clock: Clock = ENDLESS) -> Footed | None:
    """The least plan by the policy, then the nearest to the kept plan, then first in order.

    Every figure prints a whole number of its window, and holds as they are. None when no such plan
    exists. Figures that no relation joins are settled apart; trees of sums without a solver, and
    others by a 0-1 program: see `trees` and `program` for the proofs. Where the clock ends the
    search the best plan found is given with its bound; raises OutOfTime where there is none yet.
    """
    least_of = Objective(problem)
    printed: dict[str, int] = {}
    short, proved = 0, True
    for part in parts_of(problem):
        found = _in_tree(part, least_of) or _in_program(part, least_of, clock)
        if found is None:
            return None
        printed |= found.printed
        short += found.short
        proved &= found.proved
    return _footed(problem, printed, short, proved, least_of)


@dataclass(frozen=True)
class _Part:
    """A component's plan, and by how much its cost may be more than the least."""

    printed: dict[str, int]
    short: int = 0
    proved: bool = True


def parts_of(problem: Problem) -> Iterator[Problem]:
    """The problem taken apart into those that do not bear on each other."""
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    named = [[place[e.total], *(place[id] for id, _ in e.parts)] for e in problem.equations]
    for part in components(len(problem.entries), named):
        entries = tuple(problem.entries[number] for number in part.figures)
        yield replace(
            problem, entries=entries, equations=tuple(problem.equations[number] for number in part.equations)
        )


def _in_tree(problem: Problem, least_of: Objective) -> _Part | None:
    """The least plan of a tree of sums; None where it is no tree, or has no plan."""
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    sums = [
        Sum(place[each.total], tuple((place[id], sign) for id, sign in each.parts))
        for each in problem.equations
    ]
    ordered = bottom_up(sums)
    if ordered is None:
        return None
    steps = sum(entry.steps for entry in problem.entries)
    nodes, after = [], steps
    for entry in problem.entries:
        if entry.held is not None:
            nodes.append(Node(entry.held, (0,)))
            continue
        costs = [least_of.cost(entry, units) for units in entry.window]
        if steps <= ORDERED:
            # The same order among equals as a program's: who is first pleases first.
            near = entry.near
            costs = [
                (cost << steps)
                + sum(
                    1 << (after - 1 - step)
                    for step in range(entry.steps)
                    if (near > entry.window[step]) != (units > entry.window[step])
                )
                for units, cost in zip(entry.window, costs, strict=True)
            ]
        after -= entry.steps
        nodes.append(Node(entry.window[0], tuple(costs)))
    found = _in_forest(nodes, ordered) if steps > ORDERED else least_in_tree(nodes, ordered)
    if found is None:
        return None
    return _Part({entry.id: units for entry, units in zip(problem.entries, found, strict=True)})


def _in_forest(nodes: Sequence[Node], ordered: Sequence[Sum]) -> Sequence[int] | None:
    """The same in arrays, where no figure has more than two choices and the costs are not too long."""
    costs = [node.costs[-1] - node.costs[0] for node in nodes]
    if max(len(node.costs) for node in nodes) > 2 or sum(map(abs, costs)) >= NEVER:
        return least_in_tree(nodes, ordered)
    total, sign, level = [-1] * len(nodes), [1] * len(nodes), [0] * len(nodes)
    for each in ordered:
        for part, of in each.parts:
            total[part], sign[part] = each.total, of
        level[each.total] = 1 + max(level[part] for part, _ in each.parts)
    free = np.array([len(node.costs) == 2 for node in nodes])
    arrays = [np.array(a, dtype=np.int64) for a in (costs, total, sign, level)]
    low = ints([node.low for node in nodes])
    if low.dtype == object:
        return least_in_tree(nodes, ordered)
    found = least_in_forest(Forest(low, arrays[0], free, *arrays[1:]))
    return None if found is None else found.tolist()


def _in_program(problem: Problem, least_of: Objective, clock: Clock) -> _Part | None:
    found = least(program_for(problem, least_of), clock)
    if found.choice is None:
        if found.ended:
            raise OutOfTime
        return None
    printed, start = {}, 0
    for entry in problem.entries:
        printed[entry.id] = base_units(entry) + int(found.choice[start : start + entry.steps].sum())
        start += entry.steps
    return _Part(printed, found.short, found.proved)


def program_for(problem: Problem, least_of: Objective) -> Program:
    """The problem as a 0-1 program: a variable for each step a figure may take, in order."""
    preference: list[int] = []
    stages: list[list[int]] = [[] for _ in least_of.tiers]
    for entry in problem.entries:
        if not entry.steps:
            continue
        preference += [int(entry.near > entry.window[step]) for step in range(entry.steps)]
        for tier, costs in zip(least_of.tiers, stages, strict=True):
            at = [tier(entry, units) for units in entry.window]
            costs += [after - before for before, after in pairwise(at)]
    return program_of(*equations_as_rows(problem), stages, preference)


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
        weight = 1
        self.weights: list[int] = []
        for _, largest in reversed(named):
            self.weights.insert(0, weight)
            weight *= largest + 1

    def cost(self, entry: Entry, units: int) -> int:
        return sum(w * tier(entry, units) for tier, w in zip(self.tiers, self.weights, strict=True))

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
            steps = abs(units - entry.natural)
            if not steps:
                return 0
            first = entry.natural + (1 if units > entry.natural else -1)
            low, high = (edge * self.parts for edge in _printing(first, entry.mode))
            return 2 * (max(low - exact, exact - high) + (steps - 1) * self.parts)
        return abs(units * self.parts - exact) - abs(entry.natural * self.parts - exact)


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
    return 0 if entry.following else abs(units - entry.natural)


def _from_kept(entry: Entry, units: int) -> int:
    return 0 if entry.following else abs(units - entry.near)


RELATIVE = 10**9  # the cost of moving a figure of one unit by one


def _relative(entry: Entry) -> int:
    """One unit's share of the figure, in parts of RELATIVE; never nothing."""
    where = entry.where
    size = abs(where.floor * where.parts + where.over)
    return min(RELATIVE, max(1, RELATIVE * where.parts // max(size, 1)))


def equations_as_rows(problem: Problem) -> tuple[tuple[tuple[tuple[int, int], ...], ...], tuple[int, ...]]:
    """The equations over 0-1 steps: a figure prints its base and one more for each step taken."""
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    bases = [base_units(entry) for entry in problem.entries]
    steps = steps_of(problem)
    rows, right = [], []
    for equation in problem.equations:
        coefficients: dict[int, int] = {place[equation.total]: 1}
        for id, sign in equation.parts:
            coefficients[place[id]] = coefficients.get(place[id], 0) - sign
        rows.append(tuple((v, a) for n, a in sorted(coefficients.items()) if a for v in steps[n]))
        right.append(-sum(a * bases[n] for n, a in coefficients.items()))
    return tuple(rows), tuple(right)


def steps_of(problem: Problem) -> list[range]:
    """The 0-1 variables of every entry, by its number."""
    found, start = [], 0
    for entry in problem.entries:
        found.append(range(start, start + entry.steps))
        start += entry.steps
    return found


def base_units(entry: Entry) -> int:
    """What the figure prints when none of its steps is taken."""
    if entry.held is not None:
        return entry.held
    return entry.window[0]


def _footed(
    problem: Problem, printed: dict[str, int], short: int, proved: bool, least_of: Objective
) -> Footed:
    moved, added = [], []
    for entry in problem.entries:
        units = printed[entry.id]
        if units != entry.natural:
            moved.append(entry.id)
            if not entry.following:
                added += [abs_drift(entry, units), abs_drift(entry, entry.natural).copy_negate()]
    drift = total(added)
    if not least_of.plain:
        return Footed(printed, tuple(moved), drift, proved, None)
    millionths = -(-short * 10**6 // least_of.parts)  # rounded up
    bound = EXACT.subtract(drift, scaled(Decimal(millionths), -6))
    return Footed(printed, tuple(moved), drift, proved, bound)


def abs_drift(entry: Entry, units: int) -> Decimal:
    """|printed − exact| in units."""
    return entry.where.drift(units).copy_abs()


def drop_equations(problem: Problem, kept: Iterable[int]) -> Problem:
    """The problem with only these equations."""
    return replace(problem, equations=tuple(problem.equations[number] for number in kept))


def added_drift_said(drift: Decimal) -> str:
    """Added drift for people: where shares make it endless, cut."""
    return cut_endless(added_drift_text(drift))


def added_drift_text(drift: Decimal) -> str:
    """Added drift as plain text without trailing zeros: 0.2."""
    text = amount_text(drift)
    return (text.rstrip("0").rstrip(".") if "." in text else text) or "0"
