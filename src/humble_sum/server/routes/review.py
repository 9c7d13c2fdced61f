"""Points and signatures over HTTP; they are put, answered and given as changes of the pack."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from fastapi import Query, Request
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.records.issue_rows import deleted_issues
from humble_sum.records.pack_rows import pack_row
from humble_sum.records.revisions import last_change
from humble_sum.server.presence import Here
from humble_sum.server.presenters.review_page import ReviewView, review_view
from humble_sum.server.presenters.times import shown_time
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import author_of, desk_of

router = addresses("review")


class DeletedIssueView(BaseModel):
    """What is left of an issue whose pack was deleted."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "entity": "Lanternfish Ferries",
                    "period": "Year to 31 March 2026",
                    "edition": "Statutory",
                    "number": 1,
                    "state": "final",
                    "made": "2026-05-04 09:30",
                    "prepared_by": "Asha Rao",
                    "reviewed_by": "Rita Shah",
                    "recipients": "the auditors",
                    "digest": "5e" * 32,
                    "withdrawn": "Tax was wrong.",
                    "withdrawn_by": "Asha Rao",
                    "deleted": "2026-06-01 10:00",
                    "deleted_by": "Asha Rao",
                }
            ]
        }
    )
    entity: str
    period: str
    edition: str
    number: int
    state: str
    made: str
    prepared_by: str
    reviewed_by: str
    recipients: str
    digest: str = Field(description="The SHA-256 of its container.")
    withdrawn: str | None = Field(description="Why it was taken back.")
    withdrawn_by: str
    deleted: str
    deleted_by: str


@router.get("/packs/{pack}/review")
def see_review(request: Request, pack: str) -> ReviewView:
    """The points of a pack, and who signed which page of its edition."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        return review_view(desk.proved(session, row), row.revision, author_of(request))


class HereView(BaseModel):
    """Somebody at the pack in another window, with the figure in hand there."""

    name: str
    statement: str
    line: str
    column: str


class LastView(BaseModel):
    """The last change in force: its number in history, what it did, and whose it is."""

    number: int
    summary: str
    author: str


class NowView(BaseModel):
    """How a pack stands at this moment: its revision, its last change, and who else is there."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "revision": 7,
                    "last": {"number": 6, "summary": "Point on Fuel in Income", "author": "Rita Shah"},
                    "here": [{"name": "Rita Shah", "statement": "income", "line": "fuel", "column": "y26"}],
                }
            ]
        }
    )
    revision: int
    last: LastView | None
    here: list[HereView]


@router.get("/packs/{pack}/now")
def see_now(
    request: Request,
    pack: str,
    statement: Annotated[str, Query(max_length=200)] = "",
    line: Annotated[str, Query(max_length=200)] = "",
    column: Annotated[str, Query(max_length=200)] = "",
    window: Annotated[str, Query(max_length=40, description="A name that only this window has.")] = "",
) -> NowView:
    """Whether a pack has changed and who else is at it. Asked every few seconds; it says where one is."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        change = last_change(session, row)
        last = None if change is None else LastView(number=change[0], summary=change[1], author=change[2])
    others = desk.presence.heard(row.id, window, Here(author_of(request), statement, line, column))
    return NowView(revision=row.revision, last=last, here=[HereView(**asdict(each)) for each in others])


@router.get("/issues/deleted")
def see_deleted(request: Request) -> list[DeletedIssueView]:
    """What is left of issues whose packs were deleted, the last deleted first."""
    with desk_of(request).database.reading() as session:
        return [
            DeletedIssueView(
                **{name: getattr(row, name) for name in DeletedIssueView.model_fields}
                | {"made": shown_time(row.made), "deleted": shown_time(row.deleted)}
                | {"deleted_by": row.deleted_by}
            )
            for row in deleted_issues(session)
        ]
