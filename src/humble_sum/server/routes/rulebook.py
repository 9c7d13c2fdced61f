"""The rulebook: its rules as sentences with what each decides, trials of changes, and its file."""

from __future__ import annotations

import json
from hashlib import sha256
from typing import Any, Literal

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from humble_sum.core.changes.commands import Together, apply
from humble_sum.core.changes.rulebook import STYLES, RuleStanding, standings
from humble_sum.core.printing.clauses import NAMES, InForce
from humble_sum.core.proof.pack_proof import PackProof, proof_of, prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Decided, Id, Level, Reach, Rule
from humble_sum.core.rules.sentence import word_of
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.relations import Cell
from humble_sum.exchange.rulebook_json import write_rulebook
from humble_sum.records.packs import pack_row
from humble_sum.server.presenters.proof import proof_view, specimen_views, word_view
from humble_sum.server.routes.packs import ChangeRequest, Trial, answered, desk_of
from humble_sum.server.routes.statements import file_name
from humble_sum.server.schemas import ProofView, SpecimenView, WordView

router = APIRouter(prefix="/packs/{pack}", tags=["rulebook"])

MOST_CHANGED = 100  # changed figures listed; all are counted
# The clauses that make a rule's first sentence, with what leads to each.
TOGETHER = {
    "form": "",
    "currency": "in",
    "scale": "in",
    "ladder": "of",
    "decimals": "with",
    "grouping": ", digits grouped",
}
PHRASES = {
    "money_sign": "Currency",
    "money_shown": "Currency shown",
    "scale_word": "Scale said",
    "rounding": "Round",
    "step": "Round to steps of",
    "locale": "Marks as in",
    "digits": "Digits are",
    "negative": "Negatives",
    "negative_tone": "Negatives stand",
    "zero": "Exact zeros as",
    "rounds_away": "Small amounts as",
    "missing": "Missing as",
    "plus": "Rises have",
    "before": "Before it",
    "after": "After it",
    "bands": "Mark",
    "words": "Say",
    "line_up": "Digits are",
    "width": "At most",
}


class RuleView(BaseModel):
    """A rule as a sentence, with how many figures it reaches and each of its clauses decides."""

    id: str
    name: str
    reach: Reach
    reach_said: str
    level: Level
    off: bool
    standing: Literal["decides", "overruled", "idle", "off"]
    reaches: int
    in_force: int = Field(description="How many clauses of figures it decides, all together.")
    decides: dict[str, int]
    sentence: list[str | WordView]
    more: list[WordView]
    specimens: list[SpecimenView]


class StyleView(BaseModel):
    id: str
    label: str


class RulebookView(BaseModel):
    """The rules in order, broad to narrow where the book has them so; later wins at one reach."""

    revision: int
    rules: list[RuleView]
    styles: list[StyleView]
    kinds: list[str]
    most: int = Field(description="The most clauses any rule decides, for drawing.")


class ChangedView(BaseModel):
    """A figure that a change on trial would print otherwise."""

    statement: str
    line: str
    column: str
    label: str
    was: str
    now: str


class TrialView(BaseModel):
    """What a change would do to the page, and the gaps that come and go."""

    id: str = Field(description="Names the trial where pages and figures are read.")
    revision: int
    says: str
    new_gaps: int
    closed_gaps: int
    gaps: int
    proof: ProofView


class ChangesView(BaseModel):
    """The figures that a trial would print otherwise: how many, and the first of them."""

    figures: int
    changed: list[ChangedView]


@router.get("/rulebook")
def see_rulebook(request: Request, pack: str, trial: Trial = None) -> RulebookView:
    """Every rule as a sentence, and what it decides."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        whole = desk.tried(row, trial) if trial else desk.proved(session, row)
        found = standings(whole)
        rules = [_rule(whole.pack, rule, found[rule.id]) for rule in whole.pack.rulebook.rules]
        return RulebookView(
            revision=row.revision,
            rules=rules,
            styles=[StyleView(id=id, label=label) for id, (label, _) in STYLES.items()],
            kinds=sorted({line.kind for s in whole.pack.statements for line in s.figured}),
            most=max((rule.in_force for rule in rules), default=0),
        )


FILE: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "The file, named for the entity.",
        "content": {
            "application/json": {"example": {"kind": "humble-sum/rulebook", "version": 1, "rules": []}}
        },
    }
}


@router.get("/rulebook/file", response_class=Response, responses=FILE)
def rulebook_file(request: Request, pack: str) -> Response:
    """The rulebook as a file, for another pack to use."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        found = desk.pack(session, pack_row(session, pack))
    name = file_name(found.entity, "rulebook", "json")
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(write_rulebook(found.rulebook), media_type="application/json", headers=headers)


@router.post("/trial", response_model=TrialView)
def try_change(request: Request, pack: str, body: ChangeRequest) -> Response:
    """What a change would do to the pack. Nothing is kept; the answer names the trial, by which its
    pages and figures can be read until others have taken its place."""
    desk = desk_of(request)
    changes = body.change.changes if isinstance(body.change, Together) else [body.change]
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        whole = desk.proved(session, row)
        tried, said, trial = whole, [], str(row.revision)
        for change in changes:
            # Each trial goes on from the one before it, which is as a rule still in hand.
            trial = _trial_id(trial, change)
            new, says = apply(tried, change, planner=desk.plans.taken)
            said.append(says)
            tried = desk.try_out(row, trial, whole, lambda new=new, tried=tried: prove_pack(new, tried))  # type: ignore[misc]
        proof = proof_of(tried, body.page or body.change.statement)
        before, after = _gaps(whole), _gaps(tried)
        view = TrialView(
            id=trial,
            revision=row.revision,
            says="; ".join(said),
            new_gaps=len(after - before),
            closed_gaps=len(before - after),
            gaps=len(after),
            proof=proof_view(tried, proof, row.revision, body.rows),
        )
        return answered(view)


@router.get("/trials/{trial}")
def see_changes(request: Request, pack: str, trial: str, page: Id | None = None) -> ChangesView:
    """The figures that a trial would print otherwise, those of one page first."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        base, tried = desk.trial(pack_row(session, pack), trial)
    changed = sorted(_changed(base, tried), key=lambda each: each[0].statement.id != page)
    return ChangesView(
        figures=len(changed), changed=[_changed_view(*each) for each in changed[:MOST_CHANGED]]
    )


def _trial_id(before: str, change: BaseModel) -> str:
    """A trial's name, the same whenever the same changes are tried on the same revision."""
    spelled = json.dumps(change.model_dump(mode="json"), sort_keys=True)
    return sha256(f"{before} {spelled}".encode()).hexdigest()[:16]


def _gaps(whole: PackProof) -> set[tuple[str, str]]:
    found = {(id, check.relation.id) for id, proof in whole.proofs.items() for check in proof.gaps}
    return found | {("", tie.tie.id) for tie in whole.ties if tie.status == "gap"}


def _changed(before: PackProof, after: PackProof) -> list[tuple[Proof, Cell, str, str]]:
    """Every figure that prints otherwise, with what it printed and what it would."""
    found: list[tuple[Proof, Cell, str, str]] = []
    for id, proof in after.proofs.items():
        old = before.proofs.get(id)
        if old is None or old is proof:
            continue
        was, now, cells = old.figures.texts, proof.figures.texts, proof.grid.cells
        if old.grid is not proof.grid:
            numbers = [old.grid.number.get(cell) for cell in cells]
            was = [now[n] if place is None else was[place] for n, place in enumerate(numbers)]
        figures = zip(cells, was, now, strict=True)
        found += [(proof, cell, old_text, text) for cell, old_text, text in figures if old_text != text]
    return found


def _changed_view(proof: Proof, cell: Cell, was: str, now: str) -> ChangedView:
    return ChangedView(
        statement=proof.statement.id,
        line=cell[0],
        column=cell[1],
        label=f"{proof.grid.labels[cell[0]]}, {proof.grid.heads[cell[1]]}",
        was=was or "a blank",
        now=now or "a blank",
    )


def _rule(pack: Pack, rule: Rule, standing: RuleStanding) -> RuleView:
    named = rule.clauses.named()
    decided = Decided(InForce(**named), {name: rule if name in named else None for name in NAMES})
    words = {name: word_view(word_of(name, decided)) for name in NAMES}
    said: list[str | WordView] = []
    for name, lead in TOGETHER.items():
        if name in named:
            # "in ₹ lakhs", and not "in ₹ in lakhs".
            lead = "" if name == "scale" and "currency" in named else lead
            said += [part for part in ("" if said else "Show", lead) if part] + [words[name]]
    said += ["."] if said else []
    for name, lead in PHRASES.items():
        if name in named:
            said += [lead, words[name], "."]
    return RuleView(
        id=rule.id,
        name=rule.name,
        reach=rule.reach,
        reach_said=reach_said(pack, rule.reach),
        level=rule.reach.level,
        off=rule.off,
        standing=standing.of(rule),
        reaches=standing.reaches,
        in_force=sum(standing.decides.values()),
        decides=dict(standing.decides),
        sentence=said,
        more=[words[name] for name in NAMES if name not in named],
        specimens=specimen_views(decided.clauses, pack.specimens),
    )


def reach_said(pack: Pack, reach: Reach) -> str:
    """Where a rule applies, in words."""
    words: list[Any] = []
    statement = pack.statement(reach.statement) if reach.statement else None
    owners = [statement] if statement else list(pack.statements)
    if reach.line is not None:
        words.append(next((line.label for s in owners if (line := s.line(reach.line))), reach.line))
    if reach.kind is not None:
        words.append(f"lines of kind {reach.kind.replace('_', ' ')}")
    if reach.column is not None:
        head = next((c.label for s in owners if (c := s.column(reach.column))), reach.column)
        words.append(f"column {head}")
    if statement is not None:
        words.append(f"in {statement.name}")
    if reach.places:
        words.append(f"on {', '.join(reach.places)}")
    if reach.editions:
        words.append(f"for {', '.join(reach.editions)}")
    said = ", ".join(words[:-1]) + (f" {words[-1]}" if words else "")
    return said.strip() or "everywhere"
