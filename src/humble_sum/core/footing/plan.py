"""Footing statements: from their proofs to a plan of nudges, each with its reason."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.problem import (
    Entry,
    Equation,
    Problem,
    abs_drift,
    describe_added_drift,
    three_figures,
    window_of,
)
from humble_sum.core.footing.solve import Footed, foot
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock
from humble_sum.core.printing.figure import scaled_text, units_text
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import describe_relation
from humble_sum.core.proof.pack_proof import PackProof, figure_at
from humble_sum.core.proof.statement_proof import Proof, following
from humble_sum.core.statements.marks import Nudge
from humble_sum.core.statements.names import MOST_REASON, FigureRef, shortened
from humble_sum.core.statements.pack import Pack, Tie
from humble_sum.core.statements.policy import DEFAULT, Policy, describe_policy
from humble_sum.core.statements.relations import LineColumn


@dataclass(frozen=True)
class Plan:
    """The nudges that make the statements foot, the least by the pack's policy.

    `added_drift` is in units. `proved` says that no plan is less, `solver_proved` that the solver found none
    less; otherwise, where drift is what was to be least, none adds less than `bound`, and the solver takes
    `solver_bound` for one.
    """

    nudges: tuple[Nudge, ...]
    added_drift: Decimal
    proved: bool
    solver_proved: bool
    bound: Decimal | None
    solver_bound: Decimal | None


@dataclass(frozen=True)
class NoPlan:
    """Why no plan exists: the fewest holds to release, and by name what is in conflict.

    `proved` and `solver_proved` say by which word no fewer holds would do; `smallest` that each relation in
    conflict is needed for it.
    """

    release: tuple[FigureRef, ...] | None
    conflict: tuple[str, ...]
    proved: bool
    solver_proved: bool
    smallest: bool


@dataclass(frozen=True)
class Stated:
    """A footing problem with what each equation says, by name."""

    problem: Problem
    names: dict[Equation, str]


def plan(
    pack_proof: PackProof, made: str = "", only: Collection[str] | None = None, clock: Clock = ENDLESS
) -> Plan | NoPlan:
    """The least plan for all the statements, down, across and between them together.

    Relations whose exact amounts do not add (source breaks), that miss a figure or mix units
    are left out: no nudge may hide the first, and the others cannot be compared. `made` is the
    time stamped on each nudge. Where `only` names some statements, the others keep what they
    print, and figures tied to them follow. Where the clock ends the search, the best plan so far is
    given with its bound; raises OutOfTime where there is none.
    """
    moving = [proof for id, proof in pack_proof.proofs.items() if only is None or id in only]
    stated = problem_of(pack_proof, moving)
    footed = foot(stated.problem, clock)
    if footed is None:
        reason = explain(stated.problem, clock)
        refs = {ref_id(ref): ref for proof in moving for ref in _spots(proof)}
        release = reason.release
        if release is not None and not all(id in refs for id in release):
            release = None
        named = None if release is None else tuple(refs[id] for id in release)
        conflict = tuple(stated.names[equation] for equation in reason.conflict)
        return NoPlan(named, conflict, reason.proved, reason.solver_proved, reason.smallest)
    nudges = _nudges(pack_proof.pack, moving, stated, footed, made)
    return Plan(
        nudges,
        footed.added_drift,
        footed.proved,
        footed.solver_proved,
        footed.bound,
        footed.solver_bound,
    )


NO_LESS = "no plan is less"
NONE_FOUND = "the solver found none less"


def describe_proof(found: Plan) -> str:
    """What is known of other plans, in one of the two words or with the bound."""
    if found.proved:
        return NO_LESS
    if found.solver_proved:
        return NONE_FOUND
    if found.bound is None:
        return "the search ended early"
    return f"the search ended early; no plan adds less than {three_figures(found.bound)}"


def doubts(found: NoPlan) -> list[str]:
    """What the time did not suffice to show of why no plan exists, as sentences."""
    said = []
    if not found.smallest:
        said.append("Fewer of them may be enough: the search ended early.")
    if found.release and not found.solver_proved:
        said.append("Fewer holds may be enough: the search ended early.")
    return said


def problem_of(pack_proof: PackProof, moving: Sequence[Proof]) -> Stated:
    """Statements as one footing problem, in page order, with what each equation says."""
    entries: dict[str, Entry] = {}
    names = {}
    for proof in moving:
        ids = [ref_id((proof.statement.id, *cell)) for cell in proof.grid.cells]
        entries |= {entry.id: entry for entry in _entries(pack_proof.pack, proof, ids)}
        left = _published_gaps(pack_proof.pack, proof)
        for check, related in zip(proof.checks, proof.grid.relations, strict=True):
            relation = check.relation
            noted = related.answer == "note" or (relation.way == "down" and relation.total in left)
            if check.status in ("foots", "gap") and not noted:
                parts = tuple((ids[number], sign) for number, sign in related.parts)
                names[Equation(ids[related.total], parts)] = describe_relation(proof, relation)
    for tie in pack_proof.ties:
        ids = [ref_id(ref) for ref in tie.tie.figures]
        if tie.status not in ("foots", "gap") or not any(id in entries for id in ids):
            continue
        for id, ref in zip(ids, tie.tie.figures, strict=True):
            if id not in entries:
                figure = figure_at(pack_proof.proofs, ref)
                entries[id] = replace(entry_of(figure, id), held=figure.units)
        for ref in tie.tie.figures[1:]:
            names[Equation(ids[0], ((ref_id(ref), 1),))] = _tied(pack_proof.proofs, tie.tie)
    return Stated(Problem(tuple(entries.values()), tuple(names)), names)


def _entries(pack: Pack, proof: Proof, ids: Sequence[str]) -> Iterator[Entry]:
    """The figures of a statement, each with what its line, its column and the plan let it do; `ids`
    are theirs in page order."""
    statement = proof.statement
    policy = pack.policy_of(statement)
    lines = {line.id: line for line in statement.lines}
    published = published_in(pack, proof)
    first = any(line.readiness == "first" for line in statement.lines)
    follows = following(statement)
    order = {"alike": (0, 0), "lines_first": (0, 2), "totals_first": (2, 0)}[policy.gives_way]
    ranks = {id: order[line.adds] + (first and line.readiness != "first") for id, line in lines.items()}
    never = {id for id, line in lines.items() if line.readiness == "never"}
    room = len(statement.lines) + len(statement.columns)
    for id, figure in zip(ids, proof.figures.values(), strict=True):
        if figure.position is None:
            continue
        line, column = figure.cell
        if follows(figure.cell) and figure.held is None:
            entry = entry_of(figure, id, policy)
            yield replace(entry, window=tuple(_around(entry.own_rounding, room)), following=True)
        elif line in never or column in published:
            entry = entry_of(figure, id, policy)
            yield replace(entry, window=(entry.own_rounding,))
        else:
            yield entry_of(figure, id, policy, ranks[line])


def _published_gaps(pack: Pack, proof: Proof) -> set[LineColumn]:
    """Totals whose sums were published with a gap, which is no longer anyone's to close, and those of
    columns derived from them, which cannot add either."""
    published = published_in(pack, proof)
    left = {
        check.relation.total
        for check in proof.checks
        if check.gap and check.relation.way == "down" and check.relation.total[1] in published
    }
    for column in proof.statement.columns:
        of = {term for term, _ in column.terms}
        left |= {(line, column.id) for line, term in left if term in of}
    return left


def published_in(pack: Pack, proof: Proof) -> set[str]:
    """The columns whose figures a plan leaves as they were published."""
    if not pack.policy_of(proof.statement).keep_published:
        return set()
    return {column.id for column in proof.statement.columns if column.published}


def _around(units: int, room: int) -> range:
    return range(units - room, units + room + 1)


def _tied(proofs: Mapping[str, Proof], tie: Tie) -> str:
    statement, line, column = tie.figures[0]
    row, head = proofs[statement].statement.line(line), proofs[statement].statement.column(column)
    assert row is not None and head is not None
    owners = dict.fromkeys(proofs[ref[0]].statement.name for ref in tie.figures)
    return f"{row.label}, {head.label} in {' and '.join(owners)}"


def entry_of(figure: Figure, id: str = "", policy: Policy = DEFAULT, rank: int = 0) -> Entry:
    """One figure as the footing problem sees it. Figures rounded in steps have no other choice."""
    where, own_rounding = figure.position, figure.own_rounding
    assert where is not None and own_rounding is not None
    held = figure.units if figure.held is not None else None
    window = (own_rounding,) if figure.clauses.multiple > 1 else window_of(where, own_rounding, policy)
    kept = figure.nudge.units if figure.nudge else None
    return Entry(id, where, own_rounding, figure.clauses.rounding, held, window, rank, kept, policy.choosing)


def _nudges(
    pack: Pack, moving: Sequence[Proof], stated: Stated, footed: Footed, made: str
) -> tuple[Nudge, ...]:
    entries = {entry.id: entry for entry in stated.problem.entries}
    causes = _causes(stated.problem, footed.moved)
    found = []
    for proof in moving:
        policy = pack.policy_of(proof.statement)
        said = describe_policy(policy)
        for figure in proof.figures.values():
            id = ref_id((proof.statement.id, *figure.cell))
            if id not in footed.printed or entries[id].held is not None:
                # A held figure keeps the nudge that explains what it is held at.
                if figure.nudge is not None:
                    found.append(figure.nudge)
            elif footed.printed[id] != figure.own_rounding:
                cause = shortened(stated.names[causes[id]], MOST_REASON // 2)
                if entries[id].following:
                    reason = f"Printed so that {cause} adds from printed figures."
                else:
                    reason = nudge_reason(figure, footed.printed[id], cause, policy)
                found.append(nudge(proof, figure, footed.printed[id], reason, said, made))
    return tuple(found)


def _causes(problem: Problem, moved: Collection[str]) -> dict[str, Equation]:
    """For each figure moved the first equation it is in that its neighbours' own roundings miss, or
    the first of all where they miss none."""
    waiting = set(moved)
    own_rounding = {entry.id: entry.own_rounding for entry in problem.entries}
    missed: dict[str, Equation] = {}
    any_first: dict[str, Equation] = {}
    for equation in problem.equations:
        own = [id for id in (equation.total, *(id for id, _ in equation.parts)) if id in waiting]
        if own:
            parts = sum(sign * own_rounding[id] for id, sign in equation.parts)
            found = missed if own_rounding[equation.total] != parts else any_first
            for id in own:
                found.setdefault(id, equation)
    return any_first | missed


def _spots(proof: Proof) -> list[FigureRef]:
    return [(proof.statement.id, *cell) for cell in proof.figures]


def nudge(proof: Proof, figure: Figure, units: int, reason: str, plan: str, made: str) -> Nudge:
    """A nudge of one figure to `units`, at the unit it is printed in."""
    assert figure.own_rounding is not None
    line, column = figure.cell
    return Nudge(
        statement=proof.statement.id,
        line=line,
        column=column,
        units=units,
        exponent=figure.exponent,
        own_rounding=figure.own_rounding,
        reason=shortened(reason, MOST_REASON),
        plan=shortened(plan, MOST_REASON),
        made=made,
    )


AMONG = {
    "closest": "Among the closest calls",
    "largest": "Among the largest figures, by least relative change,",
    "fewest": "Among the fewest figures",
}


def nudge_reason(figure: Figure, units: int, cause: str, policy: Policy) -> str:
    """Why this figure moved, in words; `cause` is a relation by name."""
    assert figure.exact is not None and figure.own_rounding is not None
    rounded = units_text(figure.own_rounding, figure.exponent, figure.clauses)
    return (
        f"Exact {scaled_text(figure.exact, figure.clauses)} rounds to {rounded}. "
        f"{AMONG[policy.choosing]} that let {cause} add. "
        f"Adds {describe_added_drift(added_drift(figure, units))} units of drift."
    )


def added_drift(figure: Figure, units: int) -> Decimal:
    """How much farther from exact `units` is than the figure's own rounding, in units."""
    entry = entry_of(figure)
    return EXACT.subtract(abs_drift(entry, units), abs_drift(entry, entry.own_rounding))


def ref_id(ref: FigureRef) -> str:
    """A figure's id in a footing problem: "income/fuel/y26"."""
    return "/".join(ref)
