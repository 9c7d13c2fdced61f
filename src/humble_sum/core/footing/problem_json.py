"""Bare footing problems: figures, relations and holds in a file, and the answer to one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from humble_sum.core.amount_field import Amount
from humble_sum.core.amounts import EXACT, PLAIN, amount_text, signed, total
from humble_sum.core.collecting import uncollected
from humble_sum.core.errors import Fault, InputError, faults_of
from humble_sum.core.footing.array_foot import ArrayFooted, foot_arrays
from humble_sum.core.footing.arrays import UNGUARDED, ArrayProblem, of_names
from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.problem import Entry, Equation, Problem, added_drift_text, window_of
from humble_sum.core.footing.solve import Footed, foot
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.printing.rounding import Position, position, round_units

IN_ARRAYS = 2_000  # figures from which a problem is taken in arrays


class BareRelation(BaseModel):
    """A total and its signed parts."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    total: str
    parts: Annotated[tuple[tuple[str, Literal[1, -1]], ...], Field(min_length=1)]


class BareProblem(BaseModel):
    """A footing problem: exact amounts in units, relations, and holds in whole units."""

    model_config = ConfigDict(
        extra="forbid",
        frozen=True,
        title="Footing problem",
        json_schema_extra={
            "examples": [
                {
                    "figures": {"a": "10.4", "b": "10.4", "t": "20.8"},
                    "relations": [{"total": "t", "parts": [["a", 1], ["b", 1]]}],
                    "holds": {"t": 21},
                }
            ]
        },
    )
    figures: Annotated[dict[str, Amount], Field(min_length=1)]
    relations: tuple[BareRelation, ...] = ()
    holds: dict[str, Annotated[int, Field(strict=True)]] = Field(default_factory=dict)


class Solution(BaseModel):
    """The least plan, or why there is none.

    `moved` lists the figures that left their own rounding. `proved` says that no plan is less, as whole
    numbers show; `solver_proved` that the solver found none less. `release` is a smallest set of holds to
    release, in the same two words, null when no release is enough; `conflict` the relations that cannot all
    hold, `smallest` where each of them is needed for that.
    """

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "feasible": True,
                    "printed": {"a": 10, "b": 11, "t": 21},
                    "moved": ["b"],
                    "added_drift": "0.2",
                    "proved": True,
                    "solver_proved": True,
                    "settled": True,
                }
            ]
        }
    )
    feasible: bool
    printed: dict[str, int] | None = None
    moved: list[str] | None = None
    added_drift: str | None = None
    proved: bool
    solver_proved: bool = Field(description="True as well where whole numbers prove it.")
    settled: bool | None = Field(
        default=None,
        description="Whether plans as good were told apart to the end, so that any machine finds it.",
    )
    bound: str | None = Field(default=None, description="When not proved: no plan adds less than this.")
    solver_bound: str | None = Field(
        default=None, description="When the solver found no end either: none adds less, it says."
    )
    release: list[str] | None = None
    conflict: list[BareRelation] | None = None
    smallest: bool | None = Field(
        default=None, description="Whether none of the relations in conflict can be left out."
    )


def read_problem(data: object) -> Problem:
    """A problem from parsed JSON. Raises InputError, naming each place that is wrong.

    Figures are taken in order of their ids, so the answer does not hang on the file's order.
    """
    with uncollected():
        plain = _read_plain(data)
    if plain is not None:
        return plain
    try:
        bare = BareProblem.model_validate(data)
    except ValidationError as error:
        raise InputError("bad-problem", faults_of(error)) from None
    faults = []
    for number, relation in enumerate(bare.relations):
        for id in (relation.total, *(part for part, _ in relation.parts)):
            if id not in bare.figures:
                faults.append(Fault(f"relations[{number}]", f'There is no figure "{id}".'))
    faults += [
        Fault(f"holds.{id}", f'There is no figure "{id}".') for id in bare.holds if id not in bare.figures
    ]
    if faults:
        raise InputError("bad-problem", faults)
    entries = []
    for id in sorted(bare.figures):
        where = position(bare.figures[id], 0)
        own_rounding = round_units(where, "half_up")
        window = window_of(where, own_rounding, UNGUARDED)
        entries.append(Entry(id, where, own_rounding, held=bare.holds.get(id), window=window))
    return Problem(tuple(entries), tuple(Equation(r.total, r.parts) for r in bare.relations))


def _read_plain(data: object) -> Problem | None:
    """The same of a problem whose amounts are all written plainly, several times as fast; None where
    anything is unusual, for the other reader to take or to name."""
    try:
        figures, relations, holds = data["figures"], data["relations"], data.get("holds", {})  # type: ignore[index, attr-defined]
        if len(data) > 3 or not figures or (len(data) == 3) != ("holds" in data):  # type: ignore[arg-type, operator]
            return None
        entries = [_plain_entry(id, figures[id], holds.get(id)) for id in sorted(figures)]
        equations = tuple(
            Equation(each["total"], tuple([(id, sign) for id, sign in each["parts"]])) for each in relations
        )
        sound = (
            all(len(each) == 2 and each["parts"] for each in relations)
            and all(each.total in figures for each in equations)
            and all(
                id in figures and sign in SIGNS and type(sign) is int
                for e in equations
                for id, sign in e.parts
            )
            and all(type(units) is int and id in figures for id, units in holds.items())
        )
    except (KeyError, TypeError, ValueError, AttributeError):
        return None
    return Problem(tuple(entries), equations) if sound else None


SIGNS = (1, -1)


def _plain_entry(id: str, text: str, held: int | None) -> Entry:
    """A figure whose amount is digits with a full stop among them at most. Raises ValueError, TypeError."""
    if not PLAIN.fullmatch(text):
        raise ValueError(text)
    integer, _, over = text.partition(".")
    parts = 10 ** len(over)
    floor, over_parts = divmod(int(integer + over), parts)
    if not over_parts:
        return Entry(id, Position(floor, 0, parts), floor, held=held, window=(floor,))
    where = Position(floor, over_parts, parts)
    own_rounding = round_units(where, "half_up")
    return Entry(id, where, own_rounding, held=held, window=(floor, floor + 1))


def out_of_time() -> InputError:
    """What is said where a search has to end with nothing found."""
    what = "The time ran out before any plan was found."
    return InputError("out-of-time", Fault("seconds", what, "Give it more seconds, or hold fewer figures."))


def foot_in_time(problem: Problem, clock: Clock, certify: bool = False) -> Footed | None:
    """The least plan, None where there is none. Raises InputError where time is up before one is found."""
    try:
        return foot(problem, clock, certify)
    except OutOfTime:
        raise out_of_time() from None


def foot_arrays_in_time(problem: ArrayProblem, clock: Clock) -> ArrayFooted | None:
    """The same of a problem in arrays."""
    try:
        return foot_arrays(problem, clock)
    except OutOfTime:
        raise out_of_time() from None


def answer_to(data: object, clock: Clock = ENDLESS) -> Solution:
    """Foot a problem of parsed JSON, or explain why it cannot foot. Raises InputError where it is none, and
    where the clock runs out before there is a plan."""
    with uncollected():
        arrays = read_arrays(data)
    return answer(read_problem(data), clock) if arrays is None else answer_arrays(arrays, clock)


def answer_named(
    figures: Mapping[str, Any], relations: Iterable[Any], holds: Mapping[str, Any], clock: Clock
) -> Solution:
    """The same of figures by their ids, and relations as pairs of a total and its parts."""
    pairs = list(relations)
    if len(figures) >= IN_ARRAYS:
        with uncollected():
            arrays = of_names(figures, pairs, holds)
        if arrays is not None:
            return answer_arrays(arrays, clock)
    stated = [{"total": total, "parts": [list(part) for part in parts]} for total, parts in pairs]
    return answer(read_problem({"figures": dict(figures), "relations": stated, "holds": dict(holds)}), clock)


def answer(problem: Problem, clock: Clock = ENDLESS) -> Solution:
    """The same of a problem that is read."""
    footed = foot_in_time(problem, clock)
    return cannot_foot(problem, clock) if footed is None else told(footed)


@uncollected()
def answer_arrays(problem: ArrayProblem, clock: Clock = ENDLESS) -> Solution:
    """The same of a problem in arrays, whose figures have ids."""
    found = foot_arrays_in_time(problem, clock)
    return cannot_foot(problem.whole(), clock) if found is None else _told_of(problem, found)


def read_arrays(data: object) -> ArrayProblem | None:
    """A problem in arrays; None where it is small, or where anything is unusual, for `read_problem`."""
    if not isinstance(data, dict) or not {"figures"} <= {*data} <= {"figures", "relations", "holds"}:
        return None
    figures, relations, holds = data["figures"], data.get("relations", ()), data.get("holds", {})
    if not isinstance(figures, dict) or not isinstance(holds, dict) or len(figures) < IN_ARRAYS:
        return None
    try:
        sound = all(len(each) == 2 for each in relations)
        pairs = [(each["total"], each["parts"]) for each in relations]
    except (KeyError, TypeError):
        return None
    return of_names(figures, pairs, holds) if sound else None


def cannot_foot(problem: Problem, clock: Clock = ENDLESS) -> Solution:
    """Why a problem that has no plan has none."""
    reason = explain(problem, clock)
    conflict: list[Any] = [{"total": e.total, "parts": e.parts} for e in reason.conflict]
    return Solution(
        feasible=False,
        proved=reason.proved,
        solver_proved=reason.solver_proved,
        release=None if reason.release is None else list(reason.release),
        conflict=conflict,
        smallest=reason.smallest,
    )


def told(footed: Footed) -> Solution:
    """A plan as data."""
    bound, solver_bound = footed.bound, footed.solver_bound
    return Solution(
        feasible=True,
        printed=footed.printed,
        moved=list(footed.moved),
        added_drift=added_drift_text(footed.added_drift),
        proved=footed.proved,
        solver_proved=footed.solver_proved,
        settled=footed.settled,
        bound=None if footed.proved or bound is None else added_drift_text(bound),
        solver_bound=None if footed.solver_proved or solver_bound is None else added_drift_text(solver_bound),
    )


def _told_of(problem: ArrayProblem, found: ArrayFooted) -> Solution:
    ids = problem.ids or ()
    footed = Footed(
        dict(zip(ids, found.printed.tolist(), strict=True)),
        tuple([ids[n] for n in found.moved.tolist()]),
        found.added_drift,
        found.proved,
        found.solver_proved,
        found.bound,
        found.solver_bound,
        found.settled,
    )
    return told(footed)


@dataclass(frozen=True)
class BareGap:
    """A relation that does not add: as printed, by its own roundings and holds (`gap` in units), or in
    the exact amounts, which no footing mends (`miss`)."""

    total: str
    status: Literal["gap", "break"]
    gap: int
    miss: Decimal

    @property
    def says(self) -> str:
        if self.status == "break":
            return (
                f"{self.total} is a source break: its exact amount is {amount_text(self.miss)} off its parts."
            )
        return f"{self.total} prints {'+' if self.gap > 0 else '−'}{abs(self.gap)} against its printed parts."


def gaps_of(problem: Problem) -> list[BareGap]:
    """The relations that do not add as printed, in order."""
    exact, printed = {}, {}
    for entry in problem.entries:
        # What an entry's position leaves out is nothing: it is the exact amount.
        exact[entry.id] = entry.where.drift(0).copy_negate()
        printed[entry.id] = entry.own_rounding if entry.held is None else entry.held
    found = []
    for equation in problem.equations:
        parts = [signed(sign, exact[id]) for id, sign in equation.parts]
        miss = EXACT.subtract(exact[equation.total], total(parts))
        gap = printed[equation.total] - sum(sign * printed[id] for id, sign in equation.parts)
        if miss:
            found.append(BareGap(equation.total, "break", gap, miss))
        elif gap:
            found.append(BareGap(equation.total, "gap", gap, miss))
    return found
