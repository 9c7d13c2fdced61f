"""Footing a statement: from its proof to a plan of nudges, each with its reason."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.findings import relation_said
from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.problem import (
    Entry,
    Equation,
    Footed,
    Problem,
    abs_drift,
    added_drift_text,
    foot,
)
from humble_sum.core.printing import scaled_text, units_text
from humble_sum.core.proofs import Figure, Proof
from humble_sum.core.relations import Cell, Relation
from humble_sum.core.statements import Nudge

DEFAULT_PLAN = (
    "Move lines and totals alike, choosing the closest calls, at most one unit each. "
    "Keep held figures. Never turn an amount into zero."
)


@dataclass(frozen=True)
class Plan:
    """The nudges that make a statement foot with the least added drift, in units.

    `proved` says no plan adds less; otherwise none adds less than `bound`.
    """

    nudges: tuple[Nudge, ...]
    added_drift: Decimal
    proved: bool
    bound: Decimal


@dataclass(frozen=True)
class NoPlan:
    """Why no plan exists: a smallest set of holds to release, and the relations in conflict."""

    release: tuple[Cell, ...] | None
    conflict: tuple[Relation, ...]
    proved: bool


def plan(proof: Proof, made: str = "") -> Plan | NoPlan:
    """The least plan for the whole statement, down and across together.

    Relations whose exact amounts do not add (source breaks), that miss a figure or mix units
    are left out: no nudge may hide the first, and the others cannot be compared. `made` is the
    time stamped on each nudge.
    """
    problem, of = problem_of(proof)
    footed = foot(problem)
    if footed is None:
        reason = explain(problem)
        cells = {_id(cell): cell for cell in proof.figures}
        release = None if reason.release is None else tuple(cells[id] for id in reason.release)
        return NoPlan(release, tuple(of[equation] for equation in reason.conflict), reason.proved)
    return Plan(_nudges(proof, problem, of, footed, made), footed.added_drift, footed.proved, footed.bound)


def problem_of(proof: Proof) -> tuple[Problem, dict[Equation, Relation]]:
    """The statement as a footing problem, in page order, with the relation of each equation."""
    entries = tuple(entry_of(figure) for figure in proof.figures.values() if figure.exact is not None)
    of = {}
    for check in proof.checks:
        if check.status in ("foots", "gap"):
            relation = check.relation
            present = [(cell, s) for cell, s in relation.parts if proof.figures[cell].exact is not None]
            parts = tuple((_id(cell), sign) for cell, sign in present)
            of[Equation(_id(relation.total), parts)] = relation
    return Problem(entries, tuple(of)), of


def entry_of(figure: Figure) -> Entry:
    """One figure as the footing problem sees it."""
    where, natural = figure.position, figure.printed.natural
    assert where is not None and natural is not None
    held = figure.printed.units if figure.held is not None else None
    return Entry(_id(figure.cell), where, natural, figure.clauses.rounding, held, keep_amount=True)


def _nudges(
    proof: Proof, problem: Problem, of: dict[Equation, Relation], footed: Footed, made: str
) -> tuple[Nudge, ...]:
    entries = {entry.id: entry for entry in problem.entries}
    touching: dict[str, list[Equation]] = {}
    missed = set()
    for equation in problem.equations:
        parts = sum(sign * entries[id].natural for id, sign in equation.parts)
        if entries[equation.total].natural != parts:
            missed.add(equation)
        for id in (equation.total, *(id for id, _ in equation.parts)):
            touching.setdefault(id, []).append(equation)
    found = []
    for figure in proof.figures.values():
        id = _id(figure.cell)
        if id not in footed.printed or entries[id].held is not None:
            # A held figure keeps the nudge that explains what it is held at.
            if figure.nudge is not None:
                found.append(figure.nudge)
        elif footed.printed[id] != figure.printed.natural:
            causes = sorted(touching[id], key=lambda equation: equation not in missed)
            reason = nudge_reason(proof, figure, footed.printed[id], of[causes[0]])
            found.append(nudge(proof, figure, footed.printed[id], reason, DEFAULT_PLAN, made))
    return tuple(found)


def nudge(proof: Proof, figure: Figure, units: int, reason: str, plan: str, made: str) -> Nudge:
    """A nudge of one figure to `units`, at the unit it is printed in."""
    assert figure.printed.natural is not None
    line, column = figure.cell
    return Nudge(
        statement=proof.statement.id,
        line=line,
        column=column,
        units=units,
        exponent=figure.printed.exponent,
        natural=figure.printed.natural,
        reason=reason,
        plan=plan,
        made=made,
    )


def nudge_reason(proof: Proof, figure: Figure, units: int, cause: Relation) -> str:
    """Why this figure moved, in words."""
    assert figure.exact is not None and figure.printed.natural is not None
    rounded = units_text(figure.printed.natural, figure.clauses)
    return (
        f"Exact {scaled_text(figure.exact, figure.clauses)} rounds to {rounded}. Among the closest calls "
        f"that let {relation_said(proof, cause)} add. "
        f"Adds {added_drift_text(added_drift(figure, units))} units of drift."
    )


def added_drift(figure: Figure, units: int) -> Decimal:
    """How much farther from exact `units` is than the figure's own rounding, in units."""
    entry = entry_of(figure)
    return EXACT.subtract(abs_drift(entry, units), abs_drift(entry, entry.natural))


def _id(cell: Cell) -> str:
    return f"{cell[0]}/{cell[1]}"
