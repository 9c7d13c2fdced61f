"""The changes a pack can undergo: each from one pack to the next, with what it did in words."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from typing import Annotated, Any, Literal, NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amounts import of_units
from humble_sum.core.changes.clause_commands import DropClause, Saying, SetClause, SetSpecimens, say
from humble_sum.core.changes.contents_commands import Holding, hold_otherwise
from humble_sum.core.changes.edition_commands import Editing, edit
from humble_sum.core.changes.place_commands import Placing, place
from humble_sum.core.changes.relation_commands import (
    RELATING,
    LeaveGaps,
    RoundingLines,
    TieFigure,
    UntieFigure,
    relate,
)
from humble_sum.core.changes.rule_commands import RULING, Ruling, rule
from humble_sum.core.changes.structure_commands import (
    RESTRUCTURING,
    AddRounding,
    AnswerRelation,
    DeriveColumn,
    DissolveTotal,
    FlipSign,
    GroupLines,
    MakePart,
    MoveLine,
    SetColumn,
    SetLine,
    SetMembers,
    restructure,
)
from humble_sum.core.changes.tagging_commands import Tagging, tag
from humble_sum.core.errors import CannotFoot, Fault, InputError
from humble_sum.core.footing.gap_fixes import ways
from humble_sum.core.footing.plan import NoPlan, Plan, describe_proof, plan
from humble_sum.core.footing.problem_json import out_of_time
from humble_sum.core.footing.solver.deadline import OutOfTime
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof, figure_at, figure_of, proof_of, prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import EditionPack, in_edition, put_back
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.policy import Policy


class _Change(BaseModel):
    model_config = ConfigDict(extra="forbid")
    statement: Id


class HoldFigure(_Change):
    """Hold a figure at what it now prints."""

    kind: Literal["hold"]
    line: Id
    column: Id
    reason: Annotated[str, Field(max_length=500)] = ""


class ReleaseFigures(_Change):
    """Release held figures, each a statement, a line and a column."""

    kind: Literal["release"]
    figures: Annotated[list[FigureRef], Field(min_length=1)]


class Foot(_Change):
    """Foot the whole pack, every statement and tie together, by its plans or by these, which are then
    the pack's: one for all, and `apart` those of single statements, null for none of its own."""

    kind: Literal["foot"]
    policy: Policy | None = None
    apart: dict[Id, Policy | None] = Field(default_factory=dict)


class CloseGap(_Change):
    """Close the gap of one relation in one of the ways offered for it."""

    kind: Literal["close_gap"]
    check: str
    way: Literal["closest", "largest", "total"]


class ClearNudges(_Change):
    """Let every figure of the statement print its own rounding again, or only those named."""

    kind: Literal["clear_nudges"]
    figures: list[FigureRef] | None = None


RuleChange = Annotated[SetClause | DropClause | Foot | Ruling, Field(discriminator="kind")]


class Together(_Change):
    """Several changes of rules or footing, made as one: kept together and undone together."""

    kind: Literal["together"]
    changes: Annotated[list[RuleChange], Field(min_length=1, max_length=60)]


Change = Annotated[
    Together
    | SetClause
    | DropClause
    | HoldFigure
    | ReleaseFigures
    | Foot
    | CloseGap
    | TieFigure
    | UntieFigure
    | LeaveGaps
    | RoundingLines
    | ClearNudges
    | SetSpecimens
    | MakePart
    | FlipSign
    | GroupLines
    | DissolveTotal
    | MoveLine
    | SetLine
    | SetColumn
    | DeriveColumn
    | AnswerRelation
    | AddRounding
    | SetMembers
    | Editing
    | Holding
    | Placing
    | Tagging
    | Ruling,
    Field(discriminator="kind"),
]


# What is done in an edition for it alone.
OF_EDITIONS = (
    "set_clause",
    "drop_clause",
    "hold",
    "release",
    "foot",
    "close_gap",
    "clear_nudges",
    "together",
)

Planner = Callable[[PackProof], Plan | NoPlan]


def page_of(pack: Pack, change: BaseModel) -> str:
    """The statement a change is made on; the first one for a change that is on none."""
    return str(getattr(change, "statement", None) or pack.statements[0].id)


class Applied(NamedTuple):
    """A pack after a change, and what the change did in words."""

    pack: Pack
    says: str


def apply(
    pack_proof: PackProof, change: Change, author: str = "", planner: Planner = plan, made: str = ""
) -> Applied:
    """The pack after a change, and what it did; the holds and nudges it makes carry the author's
    name and the time it is `made`. Plans come from the `planner`. Raises InputError.

    A pack in one of its editions stays in it: what is held, nudged, planned and said there is the
    edition's own, and everything else is changed in the pack.
    """
    pack = pack_proof.pack
    if isinstance(pack, EditionPack) and change.kind not in OF_EDITIONS:
        made_in_pack = apply(prove_pack(pack.base), change, author, planner, made)
        there = made_in_pack.pack.edition(pack.shown)
        return Applied(in_edition(made_in_pack.pack, pack.shown if there else OWN), made_in_pack.says)
    new, says = _applied(pack_proof, change, planner)
    signed = _signed(pack, new, author, made)
    if isinstance(signed, EditionPack):
        signed = in_edition(put_back(signed), signed.shown)
    return Applied(signed, says)


def _signed(old: Pack, new: Pack, author: str, at: str) -> Pack:
    """The pack with its new holds and nudges signed."""
    holds, nudges = set(old.holds), set(old.nudges)
    if all(hold in holds for hold in new.holds) and all(nudge in nudges for nudge in new.nudges):
        return new
    made = {"author": author, "made": at}
    return new.model_copy(
        update={
            "holds": tuple(h if h in holds else h.model_copy(update=made) for h in new.holds),
            "nudges": tuple(n if n in nudges else n.model_copy(update=made) for n in new.nudges),
        }
    )


def _applied(pack_proof: PackProof, change: Change, planner: Planner) -> tuple[Pack, str]:
    make: dict[str, Callable[[PackProof, Any, Proof], tuple[Pack, str]]] = {
        "hold": _hold,
        "release": _release,
        "close_gap": _close_gap,
        "clear_nudges": _clear_nudges,
    }
    if isinstance(change, Together):
        return _together(pack_proof, change, planner)
    if isinstance(change, Foot):
        return _foot(pack_proof, change, proof_of(pack_proof, change.statement), planner)
    if isinstance(change, Saying):
        return say(pack_proof, change, proof_of(pack_proof, change.statement))
    if change.kind in RULING:
        return rule(pack_proof.pack, change)
    if isinstance(change, Placing):
        return place(pack_proof, change)
    if isinstance(change, Editing):
        return edit(pack_proof.pack, change)
    if isinstance(change, Tagging):
        return tag(pack_proof.pack, change)
    if isinstance(change, Holding):
        return hold_otherwise(pack_proof.pack, change)
    if change.kind in RELATING:
        return relate(pack_proof, change)
    if change.kind in RESTRUCTURING:
        return restructure(pack_proof.pack, proof_of(pack_proof, change.statement).statement, change)
    return make[change.kind](pack_proof, change, proof_of(pack_proof, change.statement))


def _together(pack_proof: PackProof, change: Together, planner: Planner) -> tuple[Pack, str]:
    said = []
    for each in change.changes:
        new, says = apply(pack_proof, each, planner=planner)
        said.append(says)
        pack_proof = prove_pack(new, pack_proof)
    return pack_proof.pack, "; ".join(said)


def _hold(pack_proof: PackProof, change: HoldFigure, proof: Proof) -> tuple[Pack, str]:
    pack = pack_proof.pack
    figure = figure_of(proof, change.line, change.column)
    if figure.printed.units is None:
        raise InputError(
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
    others = _without(pack, [(change.statement, change.line, change.column)])
    return (
        pack.model_copy(update={"holds": (*others, hold)}),
        f"Held {_label(proof, change.line, change.column)} at {figure.printed.text or 'a blank'}",
    )


def _release(pack_proof: PackProof, change: ReleaseFigures, proof: Proof) -> tuple[Pack, str]:
    pack = pack_proof.pack
    for statement, line, column in change.figures:
        figure_of(proof_of(pack_proof, statement), line, column)
    left = _without(pack, change.figures)
    if len(left) == len(pack.holds):
        what = "None of these figures is held." if len(change.figures) > 1 else "This figure is not held."
        raise InputError("nothing-to-release", Fault("figures", what, "Reload to see what is."))
    names = ", ".join(describe_figure(pack, ref) for ref in change.figures)
    return pack.model_copy(update={"holds": left}), f"Released {names}"


def _foot(pack_proof: PackProof, change: Foot, proof: Proof, planner: Planner) -> tuple[Pack, str]:
    pack_proof = by_plan(pack_proof, change.policy, change.apart)
    pack = pack_proof.pack
    try:
        found = planner(pack_proof)
    except OutOfTime:
        raise out_of_time() from None
    if isinstance(found, NoPlan):
        raise _cannot_foot(pack, found)
    old = {(n.statement, n.line, n.column): n for n in pack.nudges}
    nudges = []
    for nudge in found.nudges:
        # A nudge that comes out the same keeps its author and the time it was first made.
        before = old.get((nudge.statement, nudge.line, nudge.column))
        same = before is not None and before.model_copy(update={"made": "", "author": ""}) == nudge
        nudges.append(before if same and before is not None else nudge)
    figures = "1 figure" if len(nudges) == 1 else f"{len(nudges)} figures"
    footed = proof.statement.name if len(pack.statements) == 1 else "the pack"
    return pack.model_copy(
        update={"nudges": tuple(nudges)}
    ), f"Footed {footed}: {figures} nudged, {describe_proof(found)}"


def by_plan(pack_proof: PackProof, policy: Policy | None, apart: Mapping[str, Policy | None]) -> PackProof:
    """The pack as it would be planned: by another policy, or by others for single statements.
    Raises InputError."""
    statements = []
    for statement in pack_proof.pack.statements:
        own = apart.get(statement.id, statement.policy)
        same = own == statement.policy
        statements.append(statement if same else statement.model_copy(update={"policy": own}))
    for id in apart:
        proof_of(pack_proof, id)
    pack = pack_proof.pack.model_copy(
        update={"policy": policy or pack_proof.pack.policy, "statements": tuple(statements)}
    )
    return pack_proof if pack == pack_proof.pack else prove_pack(pack, pack_proof)


def _cannot_foot(pack: Pack, found: NoPlan) -> CannotFoot:
    release = None if found.release is None else [list(ref) for ref in found.release]
    if release:
        names = " and ".join(describe_figure(pack, ref) for ref in found.release or ())
        remedy = f"Releasing {names} settles it."
    else:
        remedy = "No hold is to blame; print with more decimals."
    what = "No figure may move by more than one unit, so these cannot all add: "
    return CannotFoot(Fault("", f"{what}{', '.join(found.conflict)}.", remedy), release, list(found.conflict))


def _close_gap(pack_proof: PackProof, change: CloseGap, proof: Proof) -> tuple[Pack, str]:
    pack = pack_proof.pack
    check = next((check for check in proof.checks if check.relation.id == change.check), None)
    if check is None:
        raise InputError("no-such-relation", Fault("check", f'There is no relation "{change.check}".'))
    way = next((way for way in ways(pack_proof, proof, check) if way.id == change.way), None)
    if way is None:
        raise InputError("no-such-way", Fault("way", "This gap can no longer be closed that way."))
    return pack.model_copy(update={"nudges": way.nudges}), way.says


def _clear_nudges(pack_proof: PackProof, change: ClearNudges, proof: Proof) -> tuple[Pack, str]:
    pack = pack_proof.pack
    named = change.figures

    def stays(nudge: Nudge) -> bool:
        if named is None:
            return nudge.statement != change.statement
        return (nudge.statement, nudge.line, nudge.column) not in named

    others = tuple(nudge for nudge in pack.nudges if stays(nudge))
    what = f"every figure of {proof.statement.name}"
    if named is not None:
        what = ", ".join(describe_figure(pack, ref) for ref in named if figure_at(pack_proof.proofs, ref))
    return pack.model_copy(update={"nudges": others}), f"Let {what} print its own rounding"


def _without(pack: Pack, refs: Collection[FigureRef]) -> tuple[Hold, ...]:
    return tuple(hold for hold in pack.holds if (hold.statement, hold.line, hold.column) not in refs)


def _label(proof: Proof, line: str, column: str) -> str:
    row, head = proof.statement.line(line), proof.statement.column(column)
    return f"{row.label if row else line}, {head.label if head else column}"
