"""What the footing screen shows: relations in words, what a plan would move, and how the pack would stand."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from decimal import Decimal
from functools import partial
from typing import Literal

from humble_sum.core.amounts import EXACT
from humble_sum.core.changes.footing_commands import Foot, ReleaseFigures
from humble_sum.core.changes.plan_sentence import plan_sentence
from humble_sum.core.changes.relation_commands import answers_of
from humble_sum.core.footing.alternatives import Settling, settlings
from humble_sum.core.footing.plan import NoPlan, Plan, describe_proof, doubts
from humble_sum.core.footing.problem import three_figures
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.printing.figure import exact_text, print_amount, scaled_text
from humble_sum.core.proof.break_causes import suspects
from humble_sum.core.proof.checks import Check
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import (
    describe_figure,
    describe_relation,
    describe_tie,
    describe_tie_check,
    signed_mark,
)
from humble_sum.core.proof.pack_proof import PackProof, TieCheck, prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.marks import Nudge
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.policy import Policy
from humble_sum.server.plan_cache import Plans
from humble_sum.server.presenters.footing_exceptions import exceptions
from humble_sum.server.presenters.footing_models import (
    AfterView,
    AnswerView,
    ApartView,
    BreakView,
    FootingPageView,
    HeldView,
    ImpossibleView,
    MarkView,
    MoveView,
    RelationsView,
    RelationView,
    SettlingView,
    StatementName,
)
from humble_sum.server.presenters.word_page import sentence_view

MOST_RELATIONS = 120  # of a statement; beyond, only those that do not foot are listed


def footing_page(
    pack_proof: PackProof, planned: PackProof, revision: int, plans: Plans, clock: Clock = ENDLESS
) -> FootingPageView:
    """Everything the footing screen shows of a pack, `planned` by its own policies or by others."""
    policy = planned.pack.policy
    footed = _footed(planned)
    try:
        found: Plan | NoPlan | None = plans.search(planned, clock)
    except OutOfTime:
        found = None
    return FootingPageView(
        revision=revision,
        policy=policy,
        sentence=sentence_view(plan_sentence(policy, footed)),
        foot=footed(policy),
        apart=[
            ApartView(
                statement=each.id,
                name=each.name,
                policy=each.policy,
                sentence=sentence_view(plan_sentence(each.policy, partial(footed, of=each.id))),
                like_others=footed(None, of=each.id),
            )
            for each in planned.pack.statements
            if each.policy is not None
        ],
        statements=[
            StatementName(id=each.id, name=each.name, apart=footed(policy, of=each.id))
            for each in planned.pack.statements
        ],
        exceptions=exceptions(planned.pack),
        answers=[AnswerView(says=a.says, detail=a.detail, change=a.change) for a in answers_of(pack_proof)],
        ended=found is None,
        gaps=sum(pack_proof.count(id, "gap") for id in pack_proof.proofs),
        relations=_relations(pack_proof),
        moves=_moves(pack_proof, found.nudges) if isinstance(found, Plan) else [],
        after=_after(planned, found) if isinstance(found, Plan) else None,
        kept=isinstance(found, Plan) and _is_kept(pack_proof, planned, found),
        impossible=_impossible(planned, found, clock) if isinstance(found, NoPlan) else None,
        held=[_held(proof, figure) for proof, figure in _figures(pack_proof) if figure.held],
        breaks=_breaks(pack_proof),
    )


def _footed(planned: PackProof) -> Callable[..., Foot]:
    """Commands that foot by the plans in hand with one changed: the pack's own, or that `of` a statement."""
    pack = planned.pack
    own = {each.id: each.policy for each in pack.statements}

    def footed(policy: Policy | None, of: str | None = None) -> Foot:
        pack_proof, apart = (policy, own) if of is None else (pack.policy, own | {of: policy})
        return Foot(kind="foot", statement=pack.statements[0].id, policy=pack_proof, apart=apart)

    return footed


def _relations(pack_proof: PackProof) -> list[RelationsView]:
    found = []
    for proof in pack_proof.proofs.values():
        for way in ("down", "across"):
            made = _of_one_way(proof, way, [c for c in proof.checks if c.relation.way == way])
            if made is not None:
                found.append(made)
    if pack_proof.ties:
        ties = [
            RelationView(
                line=check.tie.figures[0][1],
                total=describe_tie(pack_proof.pack, check.tie),
                parts="",
                marks=[
                    MarkView(column="", status=check.status, mark=signed_mark(check.gap) if check.gap else "")
                ],
            )
            for check in pack_proof.ties
        ]
        found.append(
            RelationsView(statement="", name="Ties", way="tie", columns=[""], relations=ties, unlisted=0)
        )
    return found


def _of_one_way(
    proof: Proof, way: Literal["down", "across"], checks: Sequence[Check]
) -> RelationsView | None:
    """Relations in words, a row for each total line, or for each line with what goes across."""
    if not checks:
        return None
    rows: dict[str, list[Check]] = {}
    for check in checks:
        rows.setdefault(check.relation.total[0], []).append(check)
    columns = dict.fromkeys(check.relation.total[1] for check in checks)
    listed = rows
    if len(rows) > MOST_RELATIONS:
        listed = {line: own for line, own in rows.items() if any(c.status != "foots" for c in own)}
    relations = []
    for line, own in listed.items():
        by_column = {check.relation.total[1]: check for check in own}
        marks = [_mark(column, by_column[column]) for column in columns if column in by_column]
        total, parts = _equation(proof, own[0], way)
        relations.append(RelationView(line=line, total=total, parts=parts, marks=marks))
    return RelationsView(
        statement=proof.statement.id,
        name=proof.statement.name,
        way=way,
        columns=[proof.grid.heads[column] for column in columns],
        relations=relations,
        unlisted=len(rows) - len(listed),
    )


def _mark(column: str, check: Check | TieCheck) -> MarkView:
    mark = signed_mark(check.gap) if check.status == "gap" else ""
    return MarkView(column=column, status=check.status, mark=mark)


def _equation(proof: Proof, check: Check, way: str) -> tuple[str, str]:
    """A relation as an equation in words: its total, and "= fares + freight − refunds"."""
    names = proof.grid.labels if way == "down" else proof.grid.heads
    place = 0 if way == "down" else 1
    said = ""
    for cell, sign in check.relation.parts:
        joint = " + " if sign > 0 else " − "
        said += (joint if said or sign < 0 else "") + names[cell[place]]
    total = proof.grid.labels[check.relation.total[0]]
    return total, f"= {said.strip()}" if way == "down" else "across"


def _moves(pack_proof: PackProof, nudges: Sequence[Nudge]) -> list[MoveView]:
    found = []
    for each in nudges:
        proof = pack_proof.proofs[each.statement]
        figure = proof.figures[each.line, each.column]
        assert figure.exact is not None
        found.append(
            MoveView(
                statement=each.statement,
                line=each.line,
                column=each.column,
                label=f"{proof.grid.labels[each.line]}, {proof.grid.heads[each.column]}",
                owner=proof.statement.name,
                exact=scaled_text(figure.exact, figure.clauses),
                rounded=_printed(figure, figure.own_rounding),
                printed=_printed(figure, each.units),
                share=_share(_thousandths(each)) if each.own_rounding else "",
                weight=_thousandths(each),
                reason=each.reason,
                kept=figure.units == each.units,
            )
        )
    return found


def _printed(figure: Figure, units: int | None) -> str:
    if units == figure.units:
        return figure.printed.full_text or "a blank"
    return (
        print_amount(figure.exact, figure.clauses, units, figure.money, figure.usual_sign).full_text
        or "a blank"
    )


def _thousandths(nudge: Nudge) -> int:
    """What part of the figure a move is; all of it where it rounded away."""
    size = abs(nudge.own_rounding) or abs(nudge.units) or 1
    return (2000 * abs(nudge.units - nudge.own_rounding) + size) // (2 * size)


def _share(thousandths: int) -> str:
    return f"{thousandths // 10}.{thousandths % 10}%" if thousandths else "<0.1%"


def _after(pack_proof: PackProof, found: Plan) -> AfterView:
    pack = pack_proof.pack.model_copy(update={"nudges": found.nudges})
    after = prove_pack(pack, pack_proof)
    checks = [check for proof in after.proofs.values() for check in proof.checks]
    drifts = [figure.drift for _, figure in _figures(after) if figure.moved and figure.drift is not None]
    farthest = max((drift.copy_abs() for drift in drifts), default=Decimal(0))
    nudged = {(n.statement, n.line, n.column) for n in found.nudges}
    active = [(proof.statement.id, *figure.cell) for proof, figure in _figures(pack_proof) if figure.nudge]
    return AfterView(
        foots=sum(check.status == "foots" for check in checks),
        relations=sum(check.status in ("foots", "gap") for check in checks),
        ties=sum(tie.status in ("foots", "gap") for tie in after.ties),
        ties_agree=sum(tie.status == "foots" for tie in after.ties),
        moved=len(found.nudges),
        figures=sum(len(proof.figures) for proof in after.proofs.values()),
        farthest=three_figures(EXACT.normalize(farthest)),
        added_drift=three_figures(found.added_drift),
        proved=found.proved,
        solver_proved=found.solver_proved,
        proof=describe_proof(found),
        bound=None if found.bound is None or found.proved else three_figures(found.bound),
        leaves=[describe_figure(pack_proof.pack, ref) for ref in active if ref not in nudged],
    )


def _is_kept(pack_proof: PackProof, planned: PackProof, found: Plan) -> bool:
    """Whether the pack has these policies and these nudges already."""
    units = {(n.statement, n.line, n.column): n.units for n in found.nudges}
    own = {(n.statement, n.line, n.column): n.units for n in pack_proof.pack.nudges}
    apart = [each.policy for each in planned.pack.statements] == [
        s.policy for s in pack_proof.pack.statements
    ]
    return units == own and apart and planned.pack.policy == pack_proof.pack.policy


def _figures(pack_proof: PackProof) -> list[tuple[Proof, Figure]]:
    """The figures that are held or nudged, with their proofs."""
    marked = {(h.statement, h.line, h.column) for h in pack_proof.pack.holds}
    marked |= {(n.statement, n.line, n.column) for n in pack_proof.pack.nudges}
    return [
        (proof, proof.figures[cell])
        for id, proof in pack_proof.proofs.items()
        for cell in proof.grid.cells
        if (id, *cell) in marked
    ]


def _held(proof: Proof, figure: Figure) -> HeldView:
    line, column = figure.cell
    return HeldView(
        statement=proof.statement.id,
        line=line,
        column=column,
        label=f"{proof.grid.labels[line]}, {proof.grid.heads[column]}",
        printed=figure.printed.full_text or "a blank",
        reason=figure.held.reason if figure.held else "",
    )


def _impossible(pack_proof: PackProof, found: NoPlan, clock: Clock) -> ImpossibleView:
    release = None
    if found.release is not None:
        release = [
            _held(pack_proof.proofs[statement], pack_proof.proofs[statement].figures[line, column])
            for statement, line, column in found.release
        ]
    others = [_settling(pack_proof, each) for each in settlings(pack_proof, found, clock)]
    change = _released(found.release) if found.release else None
    return ImpossibleView(
        conflict=list(found.conflict), release=release, doubts=doubts(found), change=change, others=others
    )


def _released(refs: Sequence[FigureRef]) -> ReleaseFigures:
    return ReleaseFigures(kind="release", statement=refs[0][0], figures=list(refs))


def _settling(pack_proof: PackProof, way: Settling) -> SettlingView:
    moves = "1 figure moves" if len(way.plan.nudges) == 1 else f"{len(way.plan.nudges)} figures move"
    then = f"{moves}, {three_figures(way.plan.added_drift)} units of drift added"
    if way.release is None:
        change = _footed(pack_proof)(way.policy)
        return SettlingView(says=f"Allow two units: {then}", change=change)
    statement, line, column = way.release
    proof = pack_proof.proofs[statement]
    held = _held(proof, proof.figures[line, column])
    says = f"Release {held.label} instead: {then}"
    return SettlingView(says=says, change=_released([way.release]))


def _breaks(pack_proof: PackProof) -> list[BreakView]:
    """Source breaks in words, with how far the exact amounts are off and what may explain it."""
    found = []
    for proof in pack_proof.proofs.values():
        for check in proof.breaks:
            off = exact_text(check.miss, proof.figures[check.relation.total].clauses)
            says = (
                f"{proof.statement.name}: {describe_relation(proof, check.relation)} is {off} off its parts"
            )
            found.append(BreakView(says=says, suspects=suspects(proof, check)))
    ties = [tie for tie in pack_proof.ties if tie.status == "break"]
    return found + [
        BreakView(says=describe_tie_check(pack_proof.pack, pack_proof.proofs, t), suspects=[]) for t in ties
    ]
