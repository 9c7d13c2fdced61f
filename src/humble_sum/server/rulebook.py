"""The rulebook: its rules as sentences with what each decides, trials of changes, and its file."""

from __future__ import annotations

from typing import Any, Literal

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from humble_sum.core.clauses import NAMES, InForce
from humble_sum.core.proofs import Figure
from humble_sum.core.rulebooks import STYLES, RuleStanding, standings
from humble_sum.core.rules import Decided, Id, Level, Reach, Rule
from humble_sum.core.sentences import word_of
from humble_sum.core.specimens import specimens
from humble_sum.core.statements import Pack
from humble_sum.core.ties import PackProof
from humble_sum.exchange.rulebook_json import write_rulebook
from humble_sum.records.packs import pack_row
from humble_sum.server.changing import apply
from humble_sum.server.desk import proof_of
from humble_sum.server.packs import ChangeRequest, desk_of
from humble_sum.server.showing import proof_view, word_view
from humble_sum.server.statements import file_name
from humble_sum.server.views import ProofView, SpecimenView, WordView

router = APIRouter(prefix="/packs/{pack}", tags=["rulebook"])

MOST_CHANGED = 300  # changed figures listed; all are counted
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


class TrialRequest(ChangeRequest):
    """A change to try; `page` is the statement to show, where it is not the change's own."""

    page: Id | None = None


class ChangedView(BaseModel):
    """A figure that a change on trial would print otherwise."""

    statement: str
    line: str
    column: str
    label: str
    was: str
    now: str


class TrialView(BaseModel):
    """What a change would do: figures that change, gaps that come and go, and the page as it would be."""

    revision: int
    says: str
    figures: int
    new_gaps: int
    closed_gaps: int
    gaps: int
    changed: list[ChangedView]
    proof: ProofView


@router.get("/rulebook")
def see_rulebook(request: Request, pack: str) -> RulebookView:
    """Every rule as a sentence, and what it decides."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        whole = desk.proved(session, row)
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


@router.post("/trial")
def try_change(request: Request, pack: str, body: TrialRequest) -> TrialView:
    """What a change would do to the pack. Nothing is kept."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        whole = desk.proved(session, row)
        new, says = apply(whole, body.change)
        tried = desk.tried(whole, new)
        proof = proof_of(tried, body.page or body.change.statement)
        changed = _changed(whole, tried)
        before, after = _gaps(whole), _gaps(tried)
        return TrialView(
            revision=row.revision,
            says=says,
            figures=len(changed),
            new_gaps=len(after - before),
            closed_gaps=len(before - after),
            gaps=len(after),
            changed=changed[:MOST_CHANGED],
            proof=proof_view(tried, proof, row.revision, body.rows),
        )


def _gaps(whole: PackProof) -> set[tuple[str, str]]:
    found = {(id, check.relation.id) for id, proof in whole.proofs.items() for check in proof.gaps}
    return found | {("", tie.tie.id) for tie in whole.ties if tie.status == "gap"}


def _changed(before: PackProof, after: PackProof) -> list[ChangedView]:
    found = []
    for id, proof in after.proofs.items():
        old = before.proofs.get(id)
        if old is None or old is proof:
            continue
        for cell in proof.grid.cells:
            if cell not in old.figures:
                continue
            now, was = proof.figures[cell], old.figures[cell]
            if now.decided is was.decided and now.units == was.units:
                continue
            if _text(now) != _text(was):
                label = f"{proof.grid.labels[cell[0]]}, {proof.grid.heads[cell[1]]}"
                found.append(
                    ChangedView(
                        statement=id,
                        line=cell[0],
                        column=cell[1],
                        label=label,
                        was=_text(was) or "a blank",
                        now=_text(now) or "a blank",
                    )
                )
    return found


def _text(figure: Figure) -> str:
    return figure.printed.whole


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
    shown = specimens(decided.clauses)
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
        specimens=[SpecimenView(sort=s.sort, exact=s.exact, text=s.text) for s in shown],
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
