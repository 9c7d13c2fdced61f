"""A group over HTTP: all packs in use, a line for each, with what is open in it."""

from __future__ import annotations

from time import monotonic
from typing import Annotated

from fastapi import Query, Request
from pydantic import BaseModel, Field

from humble_sum.core.errors import InputError
from humble_sum.core.issue.pack_standing import PackStanding, standing_of
from humble_sum.core.statements.edition import OWN
from humble_sum.records.pack_rows import pack_row, pack_rows
from humble_sum.records.standing_rows import LastIssue, keep_standings, last_issues, standings
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import desk_of

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
        try:
            with desk.database.reading() as session:
                row = pack_row(session, id if edition == OWN else f"{id}@{edition}")
                found = standing_of(desk.proved(session, row))
                revision = row.revision
        except InputError as error:
            problems[id] = str(error)
            continue
        looked.append((id, revision, found))
        known[id] = found
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
            problem=problems.get(id, ""),
        )
        for id, entity, period, revision in rows
    ]
    return GroupView(
        edition=edition,
        lines=lines,
        waiting=sum(each.standing is None and not each.problem for each in lines),
        open=sum(each.standing is not None and each.standing.open > 0 for each in lines),
    )


def _issue(issues: dict[str, LastIssue], pack: str) -> str:
    found = issues.get(pack)
    if found is None:
        return ""
    return f"{found.number}, {'taken back' if found.withdrawn else found.state}"
