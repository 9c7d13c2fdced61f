"""The history of a pack: all that was done to it, or to one figure or rule, on the screen and as a file."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any

from fastapi import Query, Request, Response
from sqlalchemy.orm import Session

from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.table_csv import table_csv
from humble_sum.records.pack_rows import pack_row
from humble_sum.records.revisions import concerns_figure, concerns_rule, history, standing_of
from humble_sum.records.tables import ChangeRow
from humble_sum.server.presenters.times import shown_time
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import desk_of
from humble_sum.server.schemas import ChangeStepView, ChangeView

router = addresses("packs")

HEAD = ("number", "at", "author", "what", "state", "since")
HISTORY: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "The table.",
        "content": {"text/csv": {"schema": {"type": "string"}, "example": ",".join(HEAD)}},
    }
}
OfFigure = Annotated[
    str | None,
    Query(description="Only what touched a figure: its statement, line and column, with colons between."),
]
OfRule = Annotated[str | None, Query(description="Only what touched a rule.")]


@router.get("/packs/{pack}/history")
def pack_history(
    request: Request, pack: str, figure: OfFigure = None, rule: OfRule = None
) -> list[ChangeView]:
    """Every change, newest first, undone ones too. One in force can be looked at: `trial=at:` and its
    number reads the pack as it was right after it, and `at:0` as it was taken in."""
    with desk_of(request).database.reading() as session:
        return [
            ChangeView(
                number=change.number,
                at=change.at,
                when=shown_time(change.at),
                kind=change.kind,
                summary=change.summary,
                author=change.author,
                state=standing_of(change),
                steps=[
                    ChangeStepView(what=each["what"], when=shown_time(each["at"]), author=each["author"])
                    for each in change.steps
                ],
            )
            for change in _changes(session, pack, figure, rule)
        ]


@router.get("/packs/{pack}/history.csv", response_class=Response, responses=HISTORY)
def take_history(request: Request, pack: str, figure: OfFigure = None, rule: OfRule = None) -> Response:
    """The same as a table, oldest first: what was done, when, by whom, and whether it stands."""
    with desk_of(request).database.reading() as session:
        rows = [
            (
                str(change.number),
                change.at,
                change.author,
                change.summary,
                standing_of(change),
                _since(change),
            )
            for change in reversed(_changes(session, pack, figure, rule))
        ]
    named = {"Content-Disposition": 'attachment; filename="history.csv"'}
    return Response(table_csv(HEAD, rows), media_type="text/csv; charset=utf-8", headers=named)


def _since(change: ChangeRow) -> str:
    """What was done with a change later, on one line."""
    return "; ".join(f"{s['what']} {s['at']} by {s['author'] or 'nobody named'}" for s in change.steps)


def _changes(session: Session, pack: str, figure: str | None, rule: str | None) -> Sequence[ChangeRow]:
    """The changes on record, newest first: all, or those that touched a figure or a rule."""
    ref = None if figure is None else figure.split(":")
    if ref is not None and len(ref) != 3:
        what = f'"{figure}" names no figure.'
        raise InputError("bad-request", Fault("figure", what, "Write statement:line:column."))
    contents = ref is not None or rule is not None
    changes = history(session, pack_row(session, pack), contents)
    if ref is not None:
        changes = [each for each in changes if concerns_figure(each, (ref[0], ref[1], ref[2]))]
    if rule is not None:
        changes = [each for each in changes if concerns_rule(each, rule)]
    return changes
