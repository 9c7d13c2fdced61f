"""The changes a pack can undergo: each from one pack to the next, with what it did in words."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amounts import of_units
from humble_sum.core.clauses import InForce, read_clauses
from humble_sum.core.faults import Fault, Refused
from humble_sum.core.findings import relation_said
from humble_sum.core.footing.plan import NoPlan, plan
from humble_sum.core.footing.ways import ways
from humble_sum.core.proofs import Proof
from humble_sum.core.rules import Id, Reach, with_clauses, without_clause
from humble_sum.core.sentences import label
from humble_sum.core.statements import Hold, Pack
from humble_sum.records.packs import now
from humble_sum.server.desk import figure_of
from humble_sum.server.problems import CannotFoot


class _Change(BaseModel):
    model_config = ConfigDict(extra="forbid")
    statement: Id


class SetClause(_Change):
    """Decide one clause of the figure's rule: where it was decided, or at another reach."""

    kind: Literal["set_clause"]
    line: Id
    column: Id
    clause: str
    value: Any = Field(description="The clause's value, as rulebook files spell it.")
    apply: Literal["origin", "everywhere", "statement", "column", "line"] = "origin"


class DropClause(_Change):
    """Take one clause out of one rule, so that the broader rule decides."""

    kind: Literal["drop_clause"]
    rule: Id
    clause: str


class HoldFigure(_Change):
    """Hold a figure at what it now prints."""

    kind: Literal["hold"]
    line: Id
    column: Id
    reason: Annotated[str, Field(max_length=500)] = ""


class ReleaseFigures(_Change):
    """Release held figures, each a line and a column."""

    kind: Literal["release"]
    figures: Annotated[list[tuple[Id, Id]], Field(min_length=1)]


class Foot(_Change):
    """Foot the whole statement with the least added drift."""

    kind: Literal["foot"]


class CloseGap(_Change):
    """Close the gap of one relation in one of the ways offered for it."""

    kind: Literal["close_gap"]
    check: str
    way: Literal["closest", "largest", "total"]


class ClearNudges(_Change):
    """Let every figure of the statement print its own rounding again."""

    kind: Literal["clear_nudges"]


Change = Annotated[
    SetClause | DropClause | HoldFigure | ReleaseFigures | Foot | CloseGap | ClearNudges,
    Field(discriminator="kind"),
]


def apply(pack: Pack, proof: Proof, change: Change) -> tuple[Pack, str]:
    """The pack after a change to a proved statement, and what it did. Raises Refused."""
    make: dict[str, Callable[[Pack, Any, Proof], tuple[Pack, str]]] = {
        "set_clause": _set_clause,
        "drop_clause": _drop_clause,
        "hold": _hold,
        "release": _release,
        "foot": _foot,
        "close_gap": _close_gap,
        "clear_nudges": _clear_nudges,
    }
    return make[change.kind](pack, change, proof)


def _set_clause(pack: Pack, change: SetClause, proof: Proof) -> tuple[Pack, str]:
    figure = figure_of(proof, change.line, change.column)
    clauses = read_clauses({change.clause: change.value})
    origin = figure.decided.origins[change.clause]
    reach = {
        "origin": origin.reach if origin else Reach(),
        "everywhere": Reach(),
        "statement": Reach(statement=change.statement),
        "column": Reach(statement=change.statement, column=change.column),
        "line": Reach(statement=change.statement, line=change.line),
    }[change.apply]
    line, column = proof.statement.line(change.line), proof.statement.column(change.column)
    assert line is not None and column is not None
    name = {
        "everywhere": "House rule",
        "statement": proof.statement.name,
        "column": f"Column {column.label}",
        "line": f"Line {line.label}",
    }[reach.level]
    rulebook = with_clauses(pack.rulebook, reach, name, clauses)
    said = label(change.clause, InForce(**(figure.clauses.named() | clauses.named())))
    return (
        pack.model_copy(update={"rulebook": rulebook}),
        f"{name}: {change.clause.replace('_', ' ')} {said}",
    )


def _drop_clause(pack: Pack, change: DropClause, proof: Proof) -> tuple[Pack, str]:
    rule = next((rule for rule in pack.rulebook.rules if rule.id == change.rule), None)
    if rule is None or change.clause not in rule.clauses.named():
        raise Refused(
            "no-such-rule", Fault("rule", f'There is no rule "{change.rule}" deciding {change.clause}.')
        )
    rulebook = without_clause(pack.rulebook, change.rule, change.clause)
    return (
        pack.model_copy(update={"rulebook": rulebook}),
        f"{rule.name}: {change.clause.replace('_', ' ')} left to the broader rule",
    )


def _hold(pack: Pack, change: HoldFigure, proof: Proof) -> tuple[Pack, str]:
    figure = figure_of(proof, change.line, change.column)
    if figure.printed.units is None:
        raise Refused(
            "nothing-to-hold",
            Fault("figure", "This figure is missing, so there is nothing to hold."),
        )
    printed = of_units(figure.printed.units, figure.printed.exponent)
    hold = Hold(
        statement=change.statement,
        line=change.line,
        column=change.column,
        printed=printed,
        reason=change.reason.strip(),
    )
    others = _without(pack, change.statement, [(change.line, change.column)])
    return (
        pack.model_copy(update={"holds": (*others, hold)}),
        f"Held {_label(proof, change.line, change.column)} at {figure.printed.text or 'a blank'}",
    )


def _release(pack: Pack, change: ReleaseFigures, proof: Proof) -> tuple[Pack, str]:
    for line, column in change.figures:
        figure_of(proof, line, column)
    left = _without(pack, change.statement, change.figures)
    names = ", ".join(_label(proof, line, column) for line, column in change.figures)
    return pack.model_copy(update={"holds": left}), f"Released {names}"


def _foot(pack: Pack, change: Foot, proof: Proof) -> tuple[Pack, str]:
    found = plan(proof, made=now())
    if isinstance(found, NoPlan):
        raise _cannot_foot(proof, found)
    others = tuple(nudge for nudge in pack.nudges if nudge.statement != change.statement)
    old = {(n.line, n.column): n for n in pack.nudges if n.statement == change.statement}
    nudges = []
    for nudge in found.nudges:
        # A nudge that comes out the same keeps the time it was first made.
        before = old.get((nudge.line, nudge.column))
        same = before is not None and before.model_copy(update={"made": nudge.made}) == nudge
        nudges.append(before if same and before is not None else nudge)
    moved = len(found.nudges)
    proved = "no plan adds less drift" if found.proved else f"no plan adds less than {found.bound}"
    figures = "1 figure" if moved == 1 else f"{moved} figures"
    return (
        pack.model_copy(update={"nudges": (*others, *nudges)}),
        f"Footed {proof.statement.name}: {figures} nudged, {proved}",
    )


def _cannot_foot(proof: Proof, found: NoPlan) -> CannotFoot:
    sums = ", ".join(relation_said(proof, relation) for relation in found.conflict)
    release = None if found.release is None else [list(cell) for cell in found.release]
    if release:
        remedy = f"Releasing {' and '.join(_label(proof, *cell) for cell in found.release or ())} settles it."
    else:
        remedy = "No hold is to blame; print with more decimals."
    fault = Fault("", f"No figure may move by more than one unit, so these cannot all add: {sums}.", remedy)
    return CannotFoot(fault, release, [relation_said(proof, relation) for relation in found.conflict])


def _close_gap(pack: Pack, change: CloseGap, proof: Proof) -> tuple[Pack, str]:
    check = next((check for check in proof.checks if check.relation.id == change.check), None)
    if check is None:
        raise Refused("no-such-relation", Fault("check", f'There is no relation "{change.check}".'))
    way = next((way for way in ways(pack, proof, check, now()) if way.id == change.way), None)
    if way is None:
        raise Refused("no-such-way", Fault("way", "This gap can no longer be closed that way."))
    return pack.model_copy(update={"nudges": way.nudges}), way.says


def _clear_nudges(pack: Pack, change: ClearNudges, proof: Proof) -> tuple[Pack, str]:
    others = tuple(nudge for nudge in pack.nudges if nudge.statement != change.statement)
    return (
        pack.model_copy(update={"nudges": others}),
        f"Let every figure of {proof.statement.name} print its own rounding",
    )


def _without(pack: Pack, statement: str, cells: list[tuple[str, str]]) -> tuple[Hold, ...]:
    return tuple(
        hold for hold in pack.holds if hold.statement != statement or (hold.line, hold.column) not in cells
    )


def _label(proof: Proof, line: str, column: str) -> str:
    row, head = proof.statement.line(line), proof.statement.column(column)
    return f"{row.label if row else line}, {head.label if head else column}"
