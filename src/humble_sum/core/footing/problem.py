"""A footing problem: figures near their exact amounts, relations, and what is held."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from decimal import Context, Decimal

from humble_sum.core.amounts import EXACT, amount_text, cut_endless
from humble_sum.core.footing.solver.components import components
from humble_sum.core.printing.rounding import Mode, Position
from humble_sum.core.statements.policy import Choosing, Policy

SHORTENED = Context(prec=1_000)  # the one place where drift loses digits: what is shown of it


@dataclass(frozen=True, slots=True)
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
    own_rounding: int
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
    def base(self) -> int:
        """What it prints when none of its steps is taken."""
        return self.window[0] if self.held is None else self.held

    @property
    def near(self) -> int:
        """What it prints rather, among equals."""
        return self.own_rounding if self.kept is None else self.kept


def window_of(where: Position, own_rounding: int, policy: Policy) -> tuple[int, ...]:
    """What a figure may print: exact whole amounts only themselves, others floor to ceiling and as
    much farther as the policy allows, but not past its guards."""
    if where.exact:
        return (where.floor,)
    low, high = where.floor - policy.at_most + 1, where.floor + policy.at_most
    if policy.keep_signs:
        low, high = (low, min(high, 0)) if where.negative else (max(low, 0), high)
    if policy.keep_amounts and own_rounding:
        low, high = (max(low, 1), high) if own_rounding > 0 else (low, min(high, -1))
    if policy.most_change is not None:
        room = int(EXACT.multiply(policy.most_change, EXACT.create_decimal(abs(own_rounding))))
        low, high = max(low, own_rounding - room), min(high, own_rounding + room)
    return tuple(range(low, high + 1))


@dataclass(frozen=True, slots=True)
class Equation:
    """A total and its signed parts, by figure id."""

    total: str
    parts: tuple[tuple[str, int], ...]


@dataclass(frozen=True)
class Problem:
    """Entries in the order that settles equals, and the equations their units must satisfy."""

    entries: tuple[Entry, ...]
    equations: tuple[Equation, ...]


def parts_of(problem: Problem) -> Iterator[Problem]:
    """The problem taken apart into those that do not bear on each other."""
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    named = [[place[e.total], *(place[id] for id, _ in e.parts)] for e in problem.equations]
    for part in components(len(problem.entries), named):
        entries = tuple(problem.entries[number] for number in part.figures)
        yield replace(
            problem, entries=entries, equations=tuple(problem.equations[number] for number in part.equations)
        )


def abs_drift(entry: Entry, units: int) -> Decimal:
    """|printed − exact| in units."""
    return entry.where.drift(units).copy_abs()


def describe_added_drift(drift: Decimal) -> str:
    """Added drift for people: where shares make it endless, cut."""
    return cut_endless(added_drift_text(drift))


def three_figures(drift: Decimal, figures: int = 3) -> str:
    """Drift on screen: three significant figures, without trailing zeros. Records and files have all."""
    if not drift:
        return "0"
    step = Decimal(1).scaleb(min(0, drift.adjusted() + 1 - figures))
    return added_drift_text(drift.quantize(step, context=SHORTENED))


def told_apart(drift: Decimal, other: Decimal) -> tuple[str, str]:
    """Two drifts on screen, with as many more figures as tell them apart."""
    for figures in range(3, 12):
        said = three_figures(drift, figures), three_figures(other, figures)
        if said[0] != said[1]:
            break
    return said


def added_drift_text(drift: Decimal) -> str:
    """Added drift as plain text without trailing zeros: 0.2."""
    text = amount_text(drift)
    return (text.rstrip("0").rstrip(".") if "." in text else text) or "0"
