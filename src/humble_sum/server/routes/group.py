"""A group over HTTP: all packs in use, a line for each, with what is open in it."""

from __future__ import annotations

from decimal import Decimal
from functools import partial
from time import monotonic
from typing import Annotated

from fastapi import Query, Request
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from humble_sum.core.amounts import amount_text
from humble_sum.core.changes.taken_commands import LeaveTaken, TakeFigure
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.issue.pack_standing import PackStanding, standing_of
from humble_sum.core.issue.taken_standing import Finder, Stands, TakenStanding, resolved, taken_standings
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.taken import Source
from humble_sum.records.pack_rows import pack_row, pack_rows
from humble_sum.records.revisions import at_revision
from humble_sum.records.standing_rows import LastIssue, keep_standings, last_issues, standings
from humble_sum.server.proof_cache import Desk
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import desk_of
from humble_sum.server.schemas import Ready

router = addresses("group")
AT_ONCE = 0.2  # seconds that are given to packs that changed since they were looked at


class GroupLine(BaseModel):
    """A pack of the group. `standing` is null while it is still to be looked at, or cannot be."""

    id: str
    entity: str
    period: str
    revision: int
    standing: PackStanding | None
    issue: str = Field(description='Its newest issue in this edition: "3, final".')
    not_as_there: int = Field(description="Figures taken from other packs that are not as those have them.")
    problem: str = Field(description="Why it cannot be looked at; empty where it can.")


class GroupView(BaseModel):
    """Every pack in use. `waiting` are still to be looked at: ask again."""

    edition: str
    lines: list[GroupLine]
    waiting: int
    open: int = Field(description="How many packs have something open.")


@router.get("/group")
def see_group(
    request: Request, edition: Annotated[str, Query(max_length=80, description="The edition.")] = OWN
) -> GroupView:
    """Every pack in use with what is open in it. Packs that changed are looked at again, some at a time, so
    that the answer comes soon; those that are left are counted as waiting."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        rows = [(row.id, row.entity, row.period, row.revision) for row in pack_rows(session, "in_use")]
        known, issues = standings(session, edition), last_issues(session, edition)
    ends = monotonic() + AT_ONCE
    looked: list[tuple[str, int, PackStanding]] = []
    problems: dict[str, str] = {}
    for id, _, _, revision in rows:
        if id in known or monotonic() > ends:
            continue
        found = desk.kept(("standing", id, revision, edition), partial(_looked_at, desk, id, edition))
        if isinstance(found, str):
            problems[id] = found
            continue
        looked.append((id, *found))
        known[id] = found[1]
    state = sum(revision for _, _, _, revision in rows)
    apart = {
        id: desk.kept(("taken", id, len(rows), state, edition), partial(_not_as_there, desk, id, edition))
        for id, standing in known.items()
        if standing.takes and monotonic() <= 2 * AT_ONCE + ends
    }
    if looked:
        with desk.database.writing() as session:
            keep_standings(session, edition, looked)
    lines = [
        GroupLine(
            id=id,
            entity=entity,
            period=period,
            revision=revision,
            standing=known.get(id),
            issue=_issue(issues, id),
            not_as_there=apart.get(id, 0),
            problem=problems.get(id, ""),
        )
        for id, entity, period, revision in rows
    ]
    return GroupView(
        edition=edition,
        lines=lines,
        waiting=sum(each.standing is None and not each.problem for each in lines),
        open=sum(each.standing is not None and each.standing.open + each.not_as_there > 0 for each in lines),
    )


class SourceView(BaseModel):
    """A source of a figure that is taken: what it gave, what it would give now, and what its page prints."""

    name: str
    was: str
    now: str = Field(description="Empty where it is gone.")
    printed_there: str
    stands: Stands


class TakenView(BaseModel):
    """A figure that is taken from other packs; `take` takes it as it is now, `leave` has it follow no
    more."""

    figure: FigureRef
    name: str
    printed_here: str
    open: bool
    sources: list[SourceView]
    take: Ready | None
    leave: Ready


class TakeRequest(BaseModel):
    """Which figure is to be taken from which others."""

    model_config = ConfigDict(extra="forbid")
    revision: int
    figure: FigureRef
    sources: Annotated[list[Source], Field(min_length=1, max_length=2_000)]


@router.get("/packs/{pack}/taken")
def see_taken(request: Request, pack: str) -> list[TakenView]:
    """The figures of a pack that are taken from others, and how they stand to what those have now."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        pack_proof = desk.proved(session, pack_row(session, pack))
        found = taken_standings(pack_proof, finder(desk, session))
    return [_taken_view(pack_proof, each) for each in found]


@router.post("/packs/{pack}/taken")
def take_from_others(request: Request, pack: str, body: TakeRequest) -> Ready:
    """The command that takes a figure from others at the amounts that they have now. Nothing is changed
    until it is made."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        found = desk.pack(session, at_revision(session, pack, body.revision))
        sources = resolved(found, body.sources, finder(desk, session))
    return TakeFigure(kind="take_figure", figure=body.figure, sources=sources)


def finder(desk: Desk, session: Session) -> Finder:
    """What finds a pack in use by whose it is and its period. Of two that are called alike neither is
    found."""
    by_name: dict[tuple[str, str], list[str]] = {}
    for row in pack_rows(session, "in_use"):
        by_name.setdefault((row.entity, row.period), []).append(row.id)

    def find(entity: str, period: str, edition: str) -> PackProof | None:
        ids = by_name.get((entity, period), [])
        if len(ids) > 1:
            what = f"There are {len(ids)} packs of {entity} for {period}."
            raise InputError("bad-source", Fault("sources", what, "Put one of them away."))
        if not ids:
            return None
        try:
            return desk.proved(session, pack_row(session, ids[0]), edition)
        except InputError:
            return None

    return find


def _taken_view(pack_proof: PackProof, of: TakenStanding) -> TakenView:
    gone = any(each.now is None for each in of.sources)
    moved = any(each.stands == "moved" for each in of.sources)
    now = tuple(
        each.source.model_copy(update={"amount": each.amount})
        for each in of.sources
        if each.amount is not None
    )
    figure = of.taken.figure
    proof = pack_proof.proofs.get(figure[0])
    own = proof.figures.get((figure[1], figure[2])) if proof else None

    def said(amount: Decimal) -> str:
        return exact_text(amount, own.clauses) if own else amount_text(amount)

    return TakenView(
        figure=figure,
        name=describe_figure(pack_proof.pack, figure),
        printed_here=of.printed_here,
        open=of.open,
        sources=[
            SourceView(
                name=each.source.entity,
                was=said(each.source.value),
                now="" if each.now is None else said(each.now),
                printed_there=each.printed_there,
                stands=each.stands,
            )
            for each in of.sources
        ],
        take=TakeFigure(kind="take_figure", figure=figure, sources=now) if moved and not gone else None,
        leave=LeaveTaken(kind="leave_taken", figure=figure),
    )


def _looked_at(desk: Desk, id: str, edition: str) -> tuple[int, PackStanding] | str:
    """How a pack stands, and at which revision; or why that cannot be told."""
    try:
        with desk.database.reading() as session:
            row = pack_row(session, id if edition == OWN else f"{id}@{edition}")
            return row.revision, standing_of(desk.proved(session, row))
    except InputError as error:
        return str(error)


def _not_as_there(desk: Desk, id: str, edition: str) -> int:
    """How many figures of a pack that are taken from others are not as those have them."""
    with desk.database.reading() as session:
        row = pack_row(session, id if edition == OWN else f"{id}@{edition}")
        try:
            found = taken_standings(desk.proved(session, row), finder(desk, session))
        except InputError:
            return 0
    return sum(each.open for each in found)


def _issue(issues: dict[str, LastIssue], pack: str) -> str:
    found = issues.get(pack)
    if found is None:
        return ""
    return f"{found.number}, {'taken back' if found.withdrawn else found.state}"
