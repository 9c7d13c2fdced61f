"""A footing problem: figures near their exact amounts, relations, and what is held."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT, amount_text, cut_endless, scaled, total
from humble_sum.core.footing.program import Answer, Program, least
from humble_sum.core.rounding import Mode, Position

DIRECTED: tuple[Mode, ...] = ("away", "toward_zero", "up", "down")


@dataclass(frozen=True)
class Entry:
    """One figure of a problem, measured in units.

    `held` is the whole number of units it must print. `keep_amount` forbids printing zero where
    its own rounding is not zero. `fixed` leaves it no choice, as where it is rounded in steps.
    """

    id: str
    where: Position
    natural: int
    mode: Mode = "half_up"
    held: int | None = None
    keep_amount: bool = False
    fixed: bool = False

    @property
    def window(self) -> tuple[int, ...]:
        """The whole numbers of units it may print when not held: floor and ceiling."""
        if self.fixed:
            return (self.natural,)
        if self.where.whole:
            return (self.where.floor,)
        both = (self.where.floor, self.where.floor + 1)
        if self.keep_amount and self.natural:
            return tuple(units for units in both if units)
        return both


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
    search ended early, and no plan adds less than `bound`.
    """

    printed: dict[str, int]
    moved: tuple[str, ...]
    added_drift: Decimal
    proved: bool
    bound: Decimal


def foot(problem: Problem) -> Footed | None:
    """The plan of least added drift, then of fewest figures moved, then first in order.

    Every figure prints the floor or ceiling of its exact amount in units, exact whole amounts
    and holds as they are. None when no such plan exists. See `program` for the proof.
    """
    parts = max((entry.where.parts for entry in problem.entries), default=1)
    weight = len(problem.entries) + 1
    costs, preference, fixed = [], [], {}
    for number, entry in enumerate(problem.entries):
        cost, moving = _cost(entry, parts)
        costs.append(cost * weight + moving)
        preference.append(int(entry.natural > entry.where.floor))
        if entry.held is not None or len(entry.window) == 1:
            fixed[number] = 0
    rows, right = equations_as_rows(problem)
    answer = least(Program(tuple(costs), rows, right), preference, fixed)
    if answer.choice is None:
        return None
    return _footed(problem, answer, parts, weight)


def equations_as_rows(problem: Problem) -> tuple[tuple[tuple[tuple[int, int], ...], ...], tuple[int, ...]]:
    """The equations over d, where a free figure prints floor + d and others their base."""
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    bases = [base_units(entry) for entry in problem.entries]
    rows, right = [], []
    for equation in problem.equations:
        coefficients: dict[int, int] = {place[equation.total]: 1}
        for id, sign in equation.parts:
            coefficients[place[id]] = coefficients.get(place[id], 0) - sign
        rows.append(tuple((v, a) for v, a in sorted(coefficients.items()) if a))
        right.append(-sum(a * bases[v] for v, a in coefficients.items()))
    return tuple(rows), tuple(right)


def base_units(entry: Entry) -> int:
    """What the figure prints when its d is 0."""
    if entry.held is not None:
        return entry.held
    return entry.window[0]


def _cost(entry: Entry, parts: int) -> tuple[int, int]:
    """Cost of d = 1 over d = 0 in sub-units, and +1 or −1 where that is a move or its undoing.

    Under a rounding to nearest this is the added drift, twice the distance to the tipping
    point. Under a directed rounding the tipping point is the next whole unit, and the cost is
    twice the distance to that, so that a plan never "corrects" the rounding asked for.
    """
    over = entry.where.over * (parts // entry.where.parts)
    goes_up = entry.natural == entry.where.floor
    if entry.mode in DIRECTED:
        return (2 * (parts - over), 1) if goes_up else (-2 * over, -1)
    return parts - 2 * over, 1 if goes_up else -1


def _footed(problem: Problem, answer: Answer, parts: int, weight: int) -> Footed:
    assert answer.choice is not None
    printed, moved, added = {}, [], []
    for entry, d in zip(problem.entries, answer.choice, strict=True):
        units = base_units(entry) + d
        printed[entry.id] = units
        if units != entry.natural:
            moved.append(entry.id)
            added += [abs_drift(entry, units), abs_drift(entry, entry.natural).copy_negate()]
    drift = total(added)
    short = -((answer.bound - answer.cost) * 10**6 // (weight * parts))  # millionths, rounded up
    bound = EXACT.subtract(drift, scaled(Decimal(short), -6))
    return Footed(printed, tuple(moved), drift, answer.proved, bound)


def abs_drift(entry: Entry, units: int) -> Decimal:
    """|printed − exact| in units."""
    return entry.where.drift(units).copy_abs()


def holds_of(problem: Problem) -> list[Entry]:
    """The held entries, in order."""
    return [entry for entry in problem.entries if entry.held is not None]


def drop_equations(problem: Problem, kept: Iterable[int]) -> Problem:
    """The problem with only these equations."""
    return Problem(problem.entries, tuple(problem.equations[number] for number in kept))


def added_drift_said(drift: Decimal) -> str:
    """Added drift for people: where shares make it endless, cut."""
    return cut_endless(added_drift_text(drift))


def added_drift_text(drift: Decimal) -> str:
    """Added drift as plain text without trailing zeros: 0.2."""
    text = amount_text(drift)
    return (text.rstrip("0").rstrip(".") if "." in text else text) or "0"
