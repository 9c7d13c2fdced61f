"""The changes to what is held, footed and nudged."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import Annotated, Literal

from pydantic import Field

from humble_sum.core.amounts import of_units
from humble_sum.core.changes.command import OnStatement, Planner
from humble_sum.core.errors import CannotFoot, Fault, InputError
from humble_sum.core.footing.gap_fixes import ways
from humble_sum.core.footing.plan import NoPlan, describe_proof, doubts
from humble_sum.core.footing.problem_json import out_of_time
from humble_sum.core.footing.solver.deadline import OutOfTime
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof, figure_at, figure_of, proof_of, prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.policy import Policy


class HoldFigure(OnStatement):
    """Hold a figure at what it now prints."""

    in_one_edition = True
    kind: Literal["hold"]
    line: Id
    column: Id
    reason: Annotated[str, Field(max_length=500)] = ""

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack, proof = pack_proof.pack, self.proof(pack_proof)
        figure = figure_of(proof, self.line, self.column)
        if figure.printed.units is None:
            raise InputError(
                "nothing-to-hold",
                Fault("figure", "This figure is missing, so there is nothing to hold."),
            )
        printed = of_units(figure.printed.units, figure.printed.exponent)
        hold = Hold(
            statement=self.statement,
            line=self.line,
            column=self.column,
            printed=printed,
            reason=self.reason.strip(),
        )
        others = _without(pack, [(self.statement, self.line, self.column)])
        return (
            pack.model_copy(update={"holds": (*others, hold)}),
            f"Held {_label(proof, self.line, self.column)} at {figure.printed.text or 'a blank'}",
        )


class ReleaseFigures(OnStatement):
    """Release held figures, each a statement, a line and a column."""

    in_one_edition = True
    kind: Literal["release"]
    figures: Annotated[list[FigureRef], Field(min_length=1)]

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack = pack_proof.pack
        for statement, line, column in self.figures:
            figure_of(proof_of(pack_proof, statement), line, column)
        left = _without(pack, self.figures)
        if len(left) == len(pack.holds):
            what = "None of these figures is held." if len(self.figures) > 1 else "This figure is not held."
            raise InputError("nothing-to-release", Fault("figures", what, "Reload to see what is."))
        names = ", ".join(describe_figure(pack, ref) for ref in self.figures)
        return pack.model_copy(update={"holds": left}), f"Released {names}"


class Foot(OnStatement):
    """Foot the whole pack, every statement and tie together, by its plans or by these, which are then
    the pack's: one for all, and `apart` those of single statements, null for none of its own."""

    in_one_edition = True
    can_be_tried = True
    kind: Literal["foot"]
    policy: Policy | None = None
    apart: dict[Id, Policy | None] = Field(default_factory=dict)

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        proof = self.proof(pack_proof)
        pack_proof = by_plan(pack_proof, self.policy, self.apart)
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


class CloseGap(OnStatement):
    """Close the gap of one relation in one of the ways offered for it."""

    in_one_edition = True
    kind: Literal["close_gap"]
    check: str
    way: Literal["closest", "largest", "total"]

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack, proof = pack_proof.pack, self.proof(pack_proof)
        check = next((check for check in proof.checks if check.relation.id == self.check), None)
        if check is None:
            raise InputError("no-such-relation", Fault("check", f'There is no relation "{self.check}".'))
        way = next((way for way in ways(pack_proof, proof, check) if way.id == self.way), None)
        if way is None:
            raise InputError("no-such-way", Fault("way", "This gap can no longer be closed that way."))
        return pack.model_copy(update={"nudges": way.nudges}), way.says


class ClearNudges(OnStatement):
    """Let every figure of the statement print its own rounding again, or only those named."""

    in_one_edition = True
    kind: Literal["clear_nudges"]
    figures: list[FigureRef] | None = None

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack, proof = pack_proof.pack, self.proof(pack_proof)
        named = self.figures

        def stays(nudge: Nudge) -> bool:
            if named is None:
                return nudge.statement != self.statement
            return (nudge.statement, nudge.line, nudge.column) not in named

        others = tuple(nudge for nudge in pack.nudges if stays(nudge))
        what = f"every figure of {proof.statement.name}"
        if named is not None:
            what = ", ".join(describe_figure(pack, ref) for ref in named if figure_at(pack_proof.proofs, ref))
        return pack.model_copy(update={"nudges": others}), f"Let {what} print its own rounding"


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
    most = max(policy.at_most for policy in (pack.policy, *(s.policy for s in pack.statements)) if policy)
    step = "one unit" if most == 1 else "two units"
    what = f"No figure may move by more than {step}, so these cannot all add: {', '.join(found.conflict)}."
    remedy = " ".join([remedy, *doubts(found)])
    return CannotFoot(Fault("", what, remedy), release, list(found.conflict))


def _without(pack: Pack, refs: Collection[FigureRef]) -> tuple[Hold, ...]:
    return tuple(hold for hold in pack.holds if (hold.statement, hold.line, hold.column) not in refs)


def _label(proof: Proof, line: str, column: str) -> str:
    row, head = proof.statement.line(line), proof.statement.column(column)
    return f"{row.label if row else line}, {head.label if head else column}"
