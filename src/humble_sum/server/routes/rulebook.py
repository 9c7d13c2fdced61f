"""The rulebook: its rules as sentences with what each decides, trials of changes, and its file."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from decimal import Decimal
from functools import lru_cache
from hashlib import sha256
from typing import Any, Literal

from fastapi import Request, Response
from pydantic import BaseModel, Field

from humble_sum.core.amounts import amount_text
from humble_sum.core.changes.apply import apply, page_of
from humble_sum.core.changes.change_union import Together
from humble_sum.core.changes.offers import RuleOffers
from humble_sum.core.changes.rule_commands import (
    DuplicateRule,
    EditRule,
    MergeRules,
    MoveRule,
    RemoveRule,
    UseStyle,
)
from humble_sum.core.changes.rulebook_use import STYLES, RuleStanding, alike, rule_of, standings
from humble_sum.core.once import ByKey
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses
from humble_sum.core.proof.pack_proof import PackProof, proof_of, prove_pack
from humble_sum.core.proof.trial_changes import Changed, ChangedFigures, trial_changes
from humble_sum.core.rules.rulebook import Decided, Id, Level, LineKind, Reach, Rule
from humble_sum.core.rules.sentence import rule_sentence, unsaid_words
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.rulebook_json import write_rulebook
from humble_sum.records.pack_rows import pack_row
from humble_sum.server.downloads import attached, file_name
from humble_sum.server.figure_schemas import OfferView, SentenceView, SpecimenView, WordView
from humble_sum.server.presenters.statement_page import proof_view, specimen_views
from humble_sum.server.presenters.word_page import sentence_view, word_view
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import (
    ChangeRequest,
    Trial,
    answered,
    answered_with,
    desk_of,
    spelled_with,
)
from humble_sum.server.schemas import ProofView, Ready

router = addresses("rulebook", "/packs/{pack}")

MOST_THAT_MATTER, MOST_OTHERS = 20, 6  # changed figures of one kind that are listed; all are counted


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
    figures: int = Field(description="How many figures it decides at least one clause of.")
    decides: dict[str, int]
    sentence: SentenceView
    more: list[WordView]
    specimens: list[SpecimenView]
    earlier: Ready | None = Field(description="Puts the rule before the one above it.")
    later: Ready | None = Field(description="Puts it after the one below it.")
    duplicate: Ready
    switch: Ready = Field(description="Switches it off, or on again.")
    remove: Ready


class StyleView(BaseModel):
    id: str
    label: str
    change: Ready


class RulebookView(BaseModel):
    """The rules in order, broad to narrow where the book has them so; later wins at one reach."""

    revision: int
    rules: list[RuleView]
    styles: list[StyleView]
    alike: list[OfferView] = Field(description="Rules that say the same, and could be said once.")
    kinds: list[LineKind]
    most: int = Field(description="The most figures any rule decides, for drawing.")


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
    by_statement: dict[str, int] = Field(description="How many gaps each statement would have.")
    proof: ProofView


class ChangedGroup(BaseModel):
    """Figures that change for one reason: how many, and the first of them."""

    says: str
    figures: int
    changed: list[ChangedView]


class ChangesView(BaseModel):
    """The figures that a trial would print otherwise: those that need a look, and the others by rule."""

    figures: int
    matters: list[ChangedGroup]
    rest: list[ChangedGroup]


@router.get("/rulebook", response_model=RulebookView)
def see_rulebook(request: Request, pack: str, trial: Trial = None) -> Response:
    """Every rule as a sentence, and what it decides."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof = desk.seen(session, row, trial)
        found = standings(pack_proof)
        of = pack_proof.pack.statements[0].id
        rules = [_rule(pack_proof.pack, of, at, found) for at in range(len(pack_proof.pack.rulebook.rules))]
        view = RulebookView(
            revision=row.revision,
            rules=[],
            styles=[
                StyleView(id=id, label=label, change=UseStyle(kind="use_style", statement=of, style=id))
                for id, (label, _) in STYLES.items()
            ],
            alike=[
                OfferView(
                    label=_listed([rule_of(pack_proof.pack.rulebook, id).name for id in ids]),
                    change=MergeRules(kind="merge_rules", statement=of, rules=ids),
                )
                for ids in alike(pack_proof.pack.rulebook)
            ],
            kinds=sorted({line.kind for s in pack_proof.pack.statements for line in s.figured}),
            most=max((each.figures for each in found.values()), default=0),
        )
        return answered_with(view, rules=f"[{','.join(rules)}]")


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
    headers = attached(name)
    return Response(write_rulebook(found.rulebook), media_type="application/json", headers=headers)


@router.post("/trial", response_model=TrialView)
def try_change(request: Request, pack: str, body: ChangeRequest) -> Response:
    """What a change would do to the pack. Nothing is kept; the answer names the trial, by which its
    pages and figures can be read until others have taken its place."""
    desk = desk_of(request)
    changes = body.change.changes if isinstance(body.change, Together) else [body.change]
    with desk.lanes.trials.taken(), desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof = desk.proved(session, row)
        tried, said, trial = pack_proof, [], str(row.revision)
        for change in changes:
            # Each trial goes on from the one before it, which is as a rule still in hand.
            trial = _trial_id(trial, change)
            new, says = apply(tried, change, planner=desk.plans.taken)
            said.append(says)
            tried = desk.try_out(row, trial, pack_proof, lambda new=new, tried=tried: prove_pack(new, tried))  # type: ignore[misc]
        proof = proof_of(tried, body.page or page_of(tried.pack, body.change))
        before, after = _gaps(pack_proof), _gaps(tried)
        view = TrialView(
            id=trial,
            revision=row.revision,
            says="; ".join(said),
            new_gaps=len(after - before),
            closed_gaps=len(before - after),
            gaps=len(after),
            by_statement={id: tried.count(id, "gap") for id in tried.proofs},
            proof=proof_view(tried, proof, row.revision, body.rows),
        )
        return answered(view)


@router.get("/trials/{trial}")
def see_changes(request: Request, pack: str, trial: str, page: Id | None = None) -> ChangesView:
    """The figures that a trial would print otherwise, those of one page first."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        base, tried = desk.trial(pack_row(session, pack), trial)
    found = trial_changes(base, tried)
    return ChangesView(
        figures=found.figures,
        matters=[_group(tried, group, page, MOST_THAT_MATTER) for group in found.matters],
        rest=[_group(tried, group, page, MOST_OTHERS) for group in found.rest],
    )


def _group(pack_proof: PackProof, group: ChangedFigures, page: str | None, most: int) -> ChangedGroup:
    first = sorted(group.figures, key=lambda each: each.ref[0] != page)[:most]
    changed = [_changed(pack_proof, each) for each in first]
    return ChangedGroup(says=group.says, figures=len(group.figures), changed=changed)


def _changed(pack_proof: PackProof, changed: Changed) -> ChangedView:
    statement, line, column = changed.ref
    grid = pack_proof.proofs[statement].grid
    return ChangedView(
        statement=statement,
        line=line,
        column=column,
        label=f"{grid.labels[line]}, {grid.heads[column]}",
        was=changed.was,
        now=changed.now,
    )


def _trial_id(before: str, change: BaseModel) -> str:
    """A trial's name, the same whenever the same changes are tried on the same revision."""
    spelled = json.dumps(change.model_dump(mode="json"), sort_keys=True)
    return sha256(f"{before} {spelled}".encode()).hexdigest()[:16]


def _gaps(pack_proof: PackProof) -> set[tuple[str, str]]:
    found = {(id, check.relation.id) for id, proof in pack_proof.proofs.items() for check in proof.gaps}
    return found | {("", tie.tie.id) for tie in pack_proof.ties if tie.status == "gap"}


class _Said(BaseModel):
    """What a rule says wherever it stands: its sentence, the words it does not have yet, and specimens."""

    sentence: SentenceView
    more: list[WordView]
    specimens: list[SpecimenView]


@lru_cache(maxsize=1_024)
def _said(statement: str, own: tuple[str, ...], same: ByKey[Rule]) -> dict[str, str]:
    """It as JSON, by name. A change touches one rule, or none, and every word has every value it can take
    with what that would print: most of a rulebook's page, which need not be made again."""
    rule = same.one
    named = rule.clauses.named()
    decided = Decided(ResolvedClauses.of(named), {name: rule if name in named else None for name in NAMES})
    offers, said = RuleOffers(statement, rule), frozenset(named)
    view = _Said(
        sentence=sentence_view(rule_sentence(decided, offers, said)),
        more=[word_view(word) for word in unsaid_words(decided, offers, said)],
        specimens=specimen_views(decided.clauses, list(map(Decimal, own))),
    )
    return {name: view.model_dump_json(include={name})[len(name) + 4 : -1] for name in _Said.model_fields}


def _rule(pack: Pack, statement: str, at: int, found: Mapping[str, RuleStanding]) -> str:
    """The rule at one place of the book, with what can be done with it, as JSON."""
    rules = pack.rulebook.rules
    rule, standing = rules[at], found[rules[at].id]
    of: dict[str, Any] = {"statement": statement, "rule": rule.id}
    earlier = MoveRule(kind="move_rule", before=rules[at - 1].id, **of) if at else None
    after_next = rules[at + 2].id if at + 2 < len(rules) else None
    later = MoveRule(kind="move_rule", before=after_next, **of) if at + 1 < len(rules) else None
    view = RuleView(
        id=rule.id,
        name=rule.name,
        reach=rule.reach,
        reach_said=describe_reach(pack, rule.reach),
        level=rule.reach.level,
        off=rule.off,
        standing=standing.of(rule),
        reaches=standing.reaches,
        figures=standing.figures,
        decides=dict(standing.decides),
        sentence=[],
        more=[],
        specimens=[],
        earlier=earlier,
        later=later,
        duplicate=DuplicateRule(kind="duplicate_rule", **of),
        switch=EditRule(kind="edit_rule", off=not rule.off, **of),
        remove=RemoveRule(kind="remove_rule", **of),
    )
    # As text: 1 and 1.0 are one amount, and two specimens.
    own = tuple(map(amount_text, pack.specimens))
    same = ByKey(rule, rule.model_dump_json(exclude_unset=True))
    return spelled_with(view, **_said(statement, own, same))


def _listed(names: Sequence[str]) -> str:
    return f"{', '.join(names[:-1])} and {names[-1]}" if len(names) > 1 else names[0]


def describe_reach(pack: Pack, reach: Reach) -> str:
    """Where a rule applies, in words."""
    words: list[Any] = []
    owners = [s for s in pack.statements if reach.in_statement(s.id)]
    labels = [next((line.label for s in owners if (line := s.line(id))), id) for id in reach.rows]
    if labels:
        words.append(_listed(labels))
    if reach.kind is not None:
        words.append(f"lines of kind {reach.kind.replace('_', ' ')}")
    if reach.column is not None:
        head = next((c.label for s in owners if (c := s.column(reach.column))), reach.column)
        words.append(f"column {head}")
    if reach.owners:
        words.append(f"in {_listed([statement.name for statement in owners])}")
    if reach.places:
        words.append(f"on {', '.join(f'{place}s' for place in reach.places)}")
    if reach.editions:
        words.append(f"for {', '.join(pack.edition_name(id) for id in reach.editions)}")
    said = ", ".join(words[:-1]) + (f" {words[-1]}" if words else "")
    return said.strip() or "everywhere"
