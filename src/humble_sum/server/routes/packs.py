"""Packs: listed, taken in, opened, changed, undone and redone."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Annotated, Any
from urllib.parse import unquote

from fastapi import Body, Header, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from humble_sum.core.changes.apply import apply, page_of
from humble_sum.core.changes.change_union import Change
from humble_sum.core.changes.command import Command
from humble_sum.core.changes.footing_commands import Foot, by_plan
from humble_sum.core.changes.review_commands import AnswerPoint, Sign, Unsign
from humble_sum.core.changes.same_meaning import carried_over
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.figure_search import find_figures
from humble_sum.core.proof.pack_proof import proof_of
from humble_sum.core.review.signatures import brought, unreviewed
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.names import Label
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.nudges_csv import NudgeRow, write_nudges
from humble_sum.exchange.pack_json import read_pack
from humble_sum.records.issue_rows import keep_traces, standing_issues
from humble_sum.records.pack_rows import Standing, now, pack_row, pack_rows, with_state
from humble_sum.records.revisions import Stepped, at_revision, last_change, record, redo, summary_of, undo
from humble_sum.records.tables import PackRow
from humble_sum.server.authentication import PERSON, ROLE
from humble_sum.server.error_responses import Overtaken
from humble_sum.server.origins import of_type
from humble_sum.server.presenters.statement_page import proof_view
from humble_sum.server.problem_registry import NOT_YOURS, ONLY_REVIEWS, PROBLEMS
from humble_sum.server.proof_cache import Desk
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.schemas import FoundView, Outcome, PackName, PackView

router = addresses("packs")

PACK_BODY = {
    "requestBody": {
        "required": True,
        "description": "A pack file; its schema is docs/formats/pack.schema.json.",
        "content": {"application/json": {"schema": {"type": "object"}}},
    }
}


Trial = Annotated[str | None, Query(description="The name of a trial: read as the pack would be.")]
IN_VIEW = "Of a large statement, the rows to answer with: the first, and the one after the last."
NUDGES: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "The table.",
        "content": {"text/csv": {"schema": {"type": "string"}, "example": ",".join(NudgeRow._fields)}},
    }
}
MOST_FOUND = 40  # figures by name
MOST_AUTHOR = 80  # characters
Author = Annotated[
    str, Header(description="Whose change it is, percent-encoded: it is put to holds, nudges and history.")
]


class ChangeRequest(BaseModel):
    """A change, and the revision of the pack it was made on."""

    revision: int
    change: Change = Field(discriminator="kind")
    page: Id | None = Field(
        default=None, description="The statement to answer with, where it is not the change's own."
    )
    rows: tuple[int, int] | None = Field(default=None, description=IN_VIEW)


class CopyRequest(BaseModel):
    """A copy of a pack, for another period where one is said."""

    model_config = ConfigDict(json_schema_extra={"examples": [{"period": "Year to 31 March 2027"}]})
    period: Label | None = None


class StandingRequest(BaseModel):
    """Whether a pack is in use, put away, or taken out."""

    model_config = ConfigDict(json_schema_extra={"examples": [{"standing": "put_away"}]})
    standing: Standing


class StepRequest(BaseModel):
    """Undo or redo from this revision; `statement` is the page to answer with."""

    model_config = ConfigDict(json_schema_extra={"examples": [{"revision": 3, "statement": "income"}]})
    revision: int
    statement: str
    rows: tuple[int, int] | None = Field(default=None, description=IN_VIEW)


def answered(view: BaseModel) -> Response:
    """The answer as JSON. A page is large, and FastAPI would check it and convert it once more."""
    return Response(view.model_dump_json(), media_type="application/json")


def spelled_with(view: BaseModel, **parts: str) -> str:
    """A view as JSON with these fields of it, in order, as JSON that is at hand already."""
    rest = view.model_dump_json(exclude=set(parts)).removesuffix("}")
    return ",".join([rest, *(f'"{name}":{part}' for name, part in parts.items())]) + "}"


def answered_with(view: BaseModel, **parts: str) -> Response:
    """The same as an answer."""
    return Response(spelled_with(view, **parts), media_type="application/json")


def desk_of(request: Request) -> Desk:
    desk = request.app.state.desk
    assert isinstance(desk, Desk)
    return desk


def author_of(request: Request) -> str:
    """Who does something: the name of the token, which nobody else can claim, or the one the page says."""
    said = request.headers.get("humble-author", "")
    return getattr(request.state, PERSON, "") or unquote(said).strip()[:MOST_AUTHOR]


def only_reviews(request: Request) -> bool:
    """Whether whoever asks may only put points and sign."""
    return getattr(request.state, ROLE, None) == "review"


def allowed(request: Request, change: Command) -> None:
    """Raise InputError where a change is not for who only reviews."""
    if not only_reviews(request):
        return
    signs_as_other = isinstance(change, Sign | Unsign) and change.role != "reviewed"
    if not change.of_review or signs_as_other:
        what = "Nothing was changed: this token puts points and signs as reviewed."
        raise InputError(ONLY_REVIEWS, Fault("token", what, "Ask for one that edits."))


@router.get("/packs")
def list_packs(request: Request, standing: Standing = "in_use") -> list[PackName]:
    """Every pack that is in use, or else put away or taken out; oldest first."""
    with desk_of(request).database.reading() as session:
        rows = pack_rows(session, standing)
        return [PackName(id=r.id, entity=r.entity, period=r.period) for r in rows]


@router.post("/packs", status_code=201, openapi_extra=PACK_BODY)
async def take_pack(request: Request) -> PackView:
    """Take in a pack file. It is kept whole or not at all."""
    of_type(request, "application/json")
    data = await request.body()

    def keep() -> PackView:
        return desk_of(request).take_in(brought(read_pack(data)))

    # Reading and keeping a large pack would hold up every other request.
    return await run_in_threadpool(keep)


@router.get("/packs/{pack}")
def open_pack(request: Request, pack: str) -> PackView:
    """One pack: its statements with their gaps, and its revision."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        return desk.view(session, pack_row(session, pack))


@router.post("/packs/{pack}/copies", status_code=201)
def copy_pack(request: Request, pack: str, body: CopyRequest) -> PackView:
    """Keep a copy of a pack as it stands, with a history of its own."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        found = desk.pack(session, pack_row(session, pack))
    return desk.take_in(unreviewed(found).model_copy(update={"period": body.period or found.period}))


@router.put("/packs/{pack}/standing")
def set_standing(request: Request, pack: str, body: StandingRequest) -> PackName:
    """Put a pack away, take it out, or bring it back as it was."""
    with desk_of(request).database.writing() as session:
        row = pack_row(session, pack)
        row.standing = body.standing
        return PackName(id=row.id, entity=row.entity, period=row.period)


@router.delete("/packs/{pack}")
def delete_pack(request: Request, pack: str) -> PackName:
    """Delete a pack for good, with its history. It has to be taken out first. Of issues that went out stays
    what they were: number, digest, names and times."""
    with desk_of(request).database.writing() as session:
        row = pack_row(session, pack)
        if row.standing != "taken_out":
            what = f"{row.entity}, {row.period} has not been removed."
            raise InputError("in-use", Fault("pack", what, "Take it out first, which can be undone."))
        if (issued := standing_issues(session, row)) > 0:
            what = "An issue of this pack" if issued == 1 else f"{issued} issues of this pack"
            what = f"{what} went out, and issues are kept."
            raise InputError("in-use", Fault("pack", what, "Withdraw them first, or leave it put away."))
        keep_traces(session, row, author_of(request))
        session.delete(row)
        return PackName(id=row.id, entity=row.entity, period=row.period)


@router.post("/packs/{pack}/changes", response_model=Outcome)
def change_pack(
    request: Request,
    pack: str,
    body: Annotated[
        ChangeRequest,
        Body(
            openapi_examples={
                "decimals": {
                    "summary": "One decimal, where decimals were decided",
                    "value": {
                        "revision": 1,
                        "change": {
                            "kind": "set_clause",
                            "statement": "income",
                            "line": "costs",
                            "column": "y26",
                            "clause": "decimals",
                            "value": {"fixed": 1},
                        },
                    },
                },
                "foot": {
                    "summary": "Foot the pack",
                    "value": {"revision": 2, "change": {"kind": "foot", "statement": "income"}},
                },
            }
        ),
    ],
    humble_author: Author = "",
) -> Response:
    """Make one change, in one transaction. One made on an earlier revision is kept where it means the same on
    the pack as it is now, and refused with 409 where others changed what it is about."""
    desk = desk_of(request)
    author = author_of(request)
    allowed(request, body.change)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        change = linked(session, row, body.change)
        old, revision = desk.proved(session, row), row.revision
        own_signature(request, change, old.pack)
        then = None if revision == body.revision else desk.earlier(row, body.revision)
        last = last_change(session, row)
    if revision == body.revision:
        new, says = apply(old, change, author, desk.plans.taken, now())
    else:
        carried = None if then is None else carried_over(then, old, change, author, desk.plans.taken, now())
        if carried is None:
            raise overtaken(change, last)
        new, says = carried
    with desk.changing(pack, revision) as (session, row):
        kept = base_of(new)
        changed = record(session, row, base_of(old.pack), kept, body.change.kind, says, author)
        revision, code = row.revision, row.id
    if changed:
        desk.remember(code, revision, kept)
        if isinstance(body.change, Foot):
            desk.plans.keep(new, desk.plans.taken(by_plan(old, body.change.policy, body.change.apart)))
    else:
        says = "Nothing to change: it is already so"
    return _outcome(desk, pack, body.page or page_of(new, body.change), body, says, changed)


def own_signature(request: Request, change: Command, pack: Pack) -> None:
    """Raise InputError where somebody with a name takes back a signature that another gave here."""
    name = getattr(request.state, PERSON, "")
    if not isinstance(change, Unsign) or not (name or only_reviews(request)) or change.author == name:
        return
    under = (change.statement, change.dashboard, change.edition)
    theirs = [
        s for s in pack.signatures if (s.role, s.under, s.author) == (change.role, under, change.author)
    ]
    if any(not each.brought for each in theirs):
        what = f"Nothing was changed: this is the signature of {change.author or 'somebody else'}."
        raise InputError(NOT_YOURS, Fault("author", what, PROBLEMS[NOT_YOURS].remedy))


def linked(session: Session, row: PackRow, change: Change) -> Change:
    """An answer by a change with what history says that change did; other changes as they are. Raises
    InputError where there is no such change in force."""
    if not isinstance(change, AnswerPoint):
        return change
    if change.change is None:
        return change.model_copy(update={"did": ""})
    did = summary_of(session, row, change.change)
    if did is None:
        fault = Fault(
            "change", f"No change {change.change} is in force.", "Take its number from the history."
        )
        raise InputError("no-such-change", fault)
    return change.model_copy(update={"did": did})


def overtaken(change: Command, last: tuple[int, str, str] | None) -> Overtaken:
    """The refusal of a change whose matter others changed since: what they did, and the change itself, to be
    made all the same."""
    by = (last[2] or "Somebody else") if last else "Somebody else"
    did = f": {last[1]}" if last else ""
    fault = Fault("revision", f"{by} has changed the pack since{did}.", "Look at it, and decide again.")
    return Overtaken(change, fault)


@router.post("/packs/{pack}/undo", response_model=Outcome)
def undo_change(request: Request, pack: str, body: StepRequest) -> Response:
    """Take back the last change."""
    step = partial(undo, author=author_of(request), own_review=only_reviews(request))
    return _stepped(request, pack, body, step, "Undone")


@router.post("/packs/{pack}/redo", response_model=Outcome)
def redo_change(request: Request, pack: str, body: StepRequest) -> Response:
    """Put back the change undone last."""
    step = partial(redo, author=author_of(request), own_review=only_reviews(request))
    return _stepped(request, pack, body, step, "Redone")


def _stepped(
    request: Request, pack: str, asked: StepRequest, step: Callable[[Session, PackRow], Stepped], says: str
) -> Response:
    desk = desk_of(request)
    with desk.database.reading() as session:
        before = desk.pack(session, at_revision(session, pack, asked.revision))
    with desk.changing(pack, asked.revision) as (session, row):
        made = step(session, row)
        revision, code = row.revision, row.id
    # What it becomes is told from what it was, and need not be read again.
    desk.remember(code, revision, with_state(before, made.becomes))
    return _outcome(desk, pack, asked.statement, asked, f"{says}: {made.summary}")


@router.get("/packs/{pack}/nudges.csv", response_class=Response, responses=NUDGES)
def take_nudges(request: Request, pack: str) -> Response:
    """Every nudge in force as a table: what moved, from what to what, why, by whom and when."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        data = write_nudges(desk.proved(session, pack_row(session, pack)))
    named = {"Content-Disposition": 'attachment; filename="nudges.csv"'}
    return Response(data, media_type="text/csv; charset=utf-8", headers=named)


@router.get("/packs/{pack}/figures")
def find(
    request: Request,
    pack: str,
    typed: Annotated[str, Query(max_length=200, description="Words, in any order.")] = "",
    trial: Trial = None,
) -> list[FoundView]:
    """Figures of every statement whose names have every word typed, the first of them."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        pack_proof = desk.seen(session, pack_row(session, pack), trial)
    return [
        FoundView(
            statement=each.ref[0],
            line=each.ref[1],
            column=each.ref[2],
            name=each.name,
            label=pack_proof.proofs[each.ref[0]].grid.labels[each.ref[1]],
            printed=pack_proof.proofs[each.ref[0]].figures[each.ref[1], each.ref[2]].printed.full_text,
        )
        for each in find_figures(pack_proof, typed, MOST_FOUND)
    ]


def _outcome(
    desk: Desk,
    pack: str,
    statement: str,
    asked: ChangeRequest | StepRequest,
    says: str,
    changed: bool = True,
) -> Response:
    """The pack as it stands now, with the change among what was written."""
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof, view, revision = desk.proved(session, row), desk.view(session, row), row.revision
    # The change may have taken the page out.
    proof = proof_of(
        pack_proof, statement if pack_proof.pack.statement(statement) else pack_proof.pack.statements[0].id
    )
    outcome = Outcome(
        changed=changed,
        says=says,
        pack=view,
        proof=proof_view(pack_proof, proof, revision, asked.rows),
    )
    return answered(outcome)
