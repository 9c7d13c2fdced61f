"""That no plan is less, written down so that others can check it with whole numbers alone.

For any price y on each equation, the equations say Σ q x = 0 with q the prices of those a figure is in.
So whatever the plan, K times its cost is Σ (K cost(x) − q x), and no less than the sum of the least that
each figure by itself could make of it (weak duality). A certificate is prices that bring this bound to
the plan's own cost; where one bound is not enough, plans are halved by a figure, and each half has its own.
The check knows nothing of solvers, matrices or how the prices were found.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import prod
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Entry, Equation, Problem
from humble_sum.core.footing.solve import Footed, ProvedPart
from humble_sum.core.footing.solver.bounds import Priced
from humble_sum.core.footing.solver.program import Step
from humble_sum.core.footing.solver.search import Halves

FORMAT, VERSION = "humble-sum certificate", 1
MOST_TRIED = 20_000  # plans that a check tries one by one

Boxes = dict[str, tuple[int, int]]
Cost = Callable[[Entry, int], int]


class Rejected(Exception):
    """Why a certificate does not show what it says."""


def digest(problem: Problem) -> str:
    """A SHA-256 of all that decides which plan is least: figures, holds, windows, policy and equations."""
    entries = [
        (
            e.id,
            tuple(e.where),
            e.own_rounding,
            e.mode,
            e.held,
            e.window,
            e.rank,
            e.kept,
            e.choosing,
            e.following,
        )
        for e in problem.entries
    ]
    stated = [entries, [[each.total, each.parts] for each in problem.equations]]
    text = json.dumps(stated, separators=(",", ":"), ensure_ascii=True, default=str)
    return hashlib.sha256(text.encode()).hexdigest()


def certify(problem: Problem, footed: Footed) -> dict[str, Any]:
    """The certificate of a plan found with its steps kept. Raises InputError where nothing proves it."""
    if not footed.proved:
        said = "HiGHS found no plan less" if footed.solver_proved else "The search ended early"
        shown = "" if footed.bound is None else f" They show that none adds less than {footed.bound:f}."
        what = f"{said}, and whole numbers do not show it of {footed.added_drift:f}.{shown}"
        fault = Fault("plan", what, "Give it more seconds, or none.")
        raise InputError("no-certificate", fault)
    number = {equation: place for place, equation in enumerate(problem.equations)}
    entries = {entry.id: entry for entry in problem.entries}
    return {
        "format": FORMAT,
        "version": VERSION,
        "problem": digest(problem),
        "printed": footed.printed,
        "parts": [_part(part, number, entries) for part in footed.parts if part.equations],
    }


def _part(part: ProvedPart, number: Mapping[Equation, int], entries: Mapping[str, Entry]) -> dict[str, Any]:
    relations = [number[equation] for equation in part.equations]
    first: dict[str, int] = {}
    for place, id in enumerate(part.variables):
        first.setdefault(id, place)

    def priced(proof: Priced) -> dict[str, Any]:
        prices = zip(relations, proof.prices.tolist(), strict=True)
        return {"fineness": str(proof.fineness), "prices": {str(r): str(p) for r, p in prices if p}}

    def halved(halves: Halves) -> dict[str, Any]:
        if isinstance(halves, Priced):
            return priced(halves)
        variable, zero, one = halves
        id = part.variables[variable]
        at_most = entries[id].base + variable - first[id]
        return {"figure": id, "at_most": at_most, "below": halved(zero), "above": halved(one)}

    def told(step: Step) -> dict[str, Any]:
        weights = {str(tier): str(weight) for tier, weight in step.weights}
        if step.halves is not None:
            return {"weights": weights, "halves": halved(step.halves)}
        return {"weights": weights} | (priced(step.proof) if step.proof is not None else {"every": True})

    return {"relations": relations, "steps": [told(step) for step in part.steps]}


@dataclass(frozen=True)
class Verified:
    """What a certificate was found to show: how many relations add, and in how many steps no plan is less."""

    relations: int
    figures: int
    steps: int


def verify(problem: Problem, certificate: object) -> Verified:
    """Check a certificate in whole numbers. Raises InputError where it is none or of another problem, and
    Rejected where it does not show that no plan is less."""
    told = _opened(problem, certificate)
    try:
        return _verified(problem, told)
    except (KeyError, ValueError, TypeError, AttributeError, IndexError) as error:
        raise Rejected(f"Something is missing or is no number: {error}.") from None


def _verified(problem: Problem, told: Mapping[str, Any]) -> Verified:
    entries = {entry.id: entry for entry in problem.entries}
    printed = {entry.id: told["printed"].get(entry.id) for entry in problem.entries}
    _add(problem, printed)
    least_of = Objective(problem)
    tiers, ranked = least_of.tiers, least_of.ranked
    alone = set(entries)
    relations, steps = 0, 0
    for part in told["parts"]:
        equations = {place: problem.equations[place] for place in part["relations"]}
        figures = {id for each in equations.values() for id in _figures(each)}
        if not figures <= alone:
            raise Rejected("Two parts have a figure in common.")
        alone -= figures
        check = _Check([entries[id] for id in entries if id in figures], equations, printed, tiers)
        for step in part["steps"]:
            check.take(step)
            steps += 1
        if not all(check.proved[:ranked]):
            raise Rejected(
                f"Nothing shows that {sorted(figures)[0]} and what hangs together with it is least."
            )
        relations += len(equations)
    if relations != len(problem.equations):
        raise Rejected(f"{len(problem.equations) - relations} relations are in no part.")
    for id in alone:
        entry = entries[id]
        costs = {x: [tier(entry, x) for tier in tiers[:ranked]] for x in entry.window}
        if entry.held is None and costs[printed[id]] > min(costs.values()):
            raise Rejected(f"{id} could print something less.")
    return Verified(relations, len(entries), steps)


def _opened(problem: Problem, certificate: object) -> dict[str, Any]:
    """A certificate's own fields. Raises InputError."""
    if not isinstance(certificate, dict) or certificate.get("format") != FORMAT:
        raise InputError("bad-certificate", Fault("certificate", "This is no certificate of a plan.", ""))
    if certificate.get("version") != VERSION:
        what = f"Its version is {certificate.get('version')}, and this program reads version {VERSION}."
        raise InputError("bad-certificate", Fault("version", what, "Use the program that wrote it."))
    if certificate.get("problem") != digest(problem):
        raise InputError(
            "bad-certificate",
            Fault(
                "problem", "It is the certificate of another problem.", "Foot this one with --certificate."
            ),
        )
    return certificate


def _figures(equation: Equation) -> Iterator[str]:
    yield equation.total
    for id, _ in equation.parts:
        yield id


def _add(problem: Problem, printed: Mapping[str, Any]) -> None:
    for entry in problem.entries:
        units = printed[entry.id]
        allowed = (entry.held,) if entry.held is not None else entry.window
        if units not in allowed or isinstance(units, bool):
            raise Rejected(f"{entry.id} may not print {units}.")
    for equation in problem.equations:
        if printed[equation.total] != sum(sign * printed[id] for id, sign in equation.parts):
            raise Rejected(f"{equation.total} does not print the sum of its parts.")


class _Check:
    """The steps of one part's proof, taken one after the other.

    `boxes` has what each figure may print in a plan that is no more than the printed one by the tiers
    `proved` so far.
    """

    def __init__(
        self,
        entries: Sequence[Entry],
        equations: Mapping[int, Equation],
        printed: Mapping[str, int],
        tiers: Sequence[Cost],
    ):
        self.entries, self.equations, self.printed, self.tiers = entries, equations, printed, tiers
        self.proved = [False] * len(tiers)
        self.boxes: Boxes = {}
        for entry in entries:
            allowed = (entry.held,) if entry.held is not None else entry.window
            self.boxes[entry.id] = (allowed[0], allowed[-1])

    def take(self, step: Mapping[str, Any]) -> None:
        """What one step shows. Raises Rejected where it shows less than it has to."""
        if step.get("every"):
            self._try_every()
            return
        weights = {int(tier): int(weight) for tier, weight in step["weights"].items()}
        self._weigh(weights)
        value = sum(self._cost(weights, entry, self.printed[entry.id]) for entry in self.entries)
        if "halves" in step:
            self._halves(step["halves"], weights, value, dict(self.boxes))
        else:
            below = self._bound(step, weights, self.boxes, value)
            if not self._shows(int(step["fineness"]), below, value):
                return
        for tier in weights:
            self.proved[tier] = True

    def _cost(self, weights: Mapping[int, int], entry: Entry, units: int) -> int:
        if entry.held is not None:
            return 0
        return sum(weight * self.tiers[tier](entry, units) for tier, weight in weights.items())

    def _weigh(self, weights: Mapping[int, int]) -> None:
        """That a plan which is less by the tiers in order is also less by their weighted sum."""
        if not weights or min(weights) < 0 or max(weights) >= len(self.tiers) or min(weights.values()) <= 0:
            raise Rejected("A step weighs what there is not.")
        for tier in range(max(weights)):
            if tier not in weights and not self.proved[tier]:
                raise Rejected("A step passes over what comes first.")
        for tier, weight in weights.items():
            if self.proved[tier]:
                continue
            below = 0
            for other, times in weights.items():
                if other > tier:
                    worst = (max(self.tiers[other](e, x) for x in self._box(e)) for e in self._free())
                    now = (self.tiers[other](e, self.printed[e.id]) for e in self._free())
                    below += times * (sum(worst) - sum(now))
            if weight <= below:
                raise Rejected("What comes first does not weigh more than all that comes after it.")

    def _free(self) -> Iterable[Entry]:
        return (entry for entry in self.entries if entry.held is None)

    def _box(self, entry: Entry, boxes: Boxes | None = None) -> range:
        low, high = (self.boxes if boxes is None else boxes)[entry.id]
        return range(low, high + 1)

    def _bound(self, proof: Mapping[str, Any], weights: Mapping[int, int], boxes: Boxes, value: int) -> int:
        """The least that any plan in the boxes comes to, by prices in 1/fineness. What they leave to be less
        than the printed plan, or as much, is left in the boxes."""
        fineness = int(proof["fineness"])
        if fineness < 0:
            raise Rejected("A fineness is no less than nothing.")
        asked = dict.fromkeys(self.boxes, 0)
        for place, price in proof["prices"].items():
            equation, amount = self.equations[int(place)], int(price)
            asked[equation.total] += amount
            for id, sign in equation.parts:
                asked[id] -= sign * amount
        made = {}
        for entry in self.entries:
            made[entry.id] = [
                fineness * self._cost(weights, entry, x) - asked[entry.id] * x
                for x in self._box(entry, boxes)
            ]
        below = sum(min(sums) for sums in made.values())
        if boxes is self.boxes and fineness:
            room = fineness * value - below
            for id, sums in made.items():
                low, least = boxes[id][0], min(sums)
                left = [low + step for step, each in enumerate(sums) if each - least <= room]
                boxes[id] = (left[0], left[-1])
            self._settle()
        return below

    def _settle(self) -> None:
        """Figures that an equation settles by itself, since all others in it are."""
        waiting = list(self.equations.values())
        of: dict[str, list[Equation]] = {}
        for each in waiting:
            for id in _figures(each):
                of.setdefault(id, []).append(each)
        while waiting:
            equation = waiting.pop()
            loose = [id for id in _figures(equation) if self.boxes[id][0] < self.boxes[id][1]]
            if len(loose) == 1:
                id = loose[0]
                self.boxes[id] = (self.printed[id], self.printed[id])
                waiting += of[id]

    @staticmethod
    def _shows(fineness: int, below: int, value: int) -> bool:
        """Costs are whole, so more than one less than the value is the value."""
        return fineness > 0 and below > fineness * (value - 1)

    def _halves(
        self, halves: Mapping[str, Any], weights: Mapping[int, int], value: int, boxes: Boxes
    ) -> None:
        if "figure" not in halves:
            below, fineness = self._bound(halves, weights, boxes, value), int(halves["fineness"])
            if not (self._shows(fineness, below, value) or (fineness == 0 and below > 0)):
                raise Rejected("A half of the plans is not shown to be no less.")
            return
        id, at_most = halves["figure"], int(halves["at_most"])
        low, high = boxes[id]
        for side, box in (("below", (low, min(high, at_most))), ("above", (max(low, at_most + 1), high))):
            if box[0] <= box[1]:
                self._halves(halves[side], weights, value, boxes | {id: box})

    def _try_every(self) -> None:
        """Each plan there is, one by one."""
        if prod(high - low + 1 for low, high in self.boxes.values()) > MOST_TRIED:
            raise Rejected("There are too many plans to try every one.")
        own = self._sums(self.printed)
        plans: list[dict[str, int]] = [{}]
        for entry in self.entries:
            plans = [plan | {entry.id: x} for plan in plans for x in self._box(entry)]
        for plan in plans:
            adds = all(
                plan[each.total] == sum(sign * plan[id] for id, sign in each.parts)
                for each in self.equations.values()
            )
            if adds and self._sums(plan) < own:
                raise Rejected("Another plan is less.")
        self.proved = [True] * len(self.tiers)

    def _sums(self, plan: Mapping[str, int]) -> list[int]:
        return [sum(tier(entry, plan[entry.id]) for entry in self._free()) for tier in self.tiers]
