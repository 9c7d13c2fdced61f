"""Editions and places: what a pack prints for other readers, and whether it all agrees."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Query, Request, Response
from sqlalchemy.orm import Session

from humble_sum.core.changes.place_commands import dashboard_of, item_of, passage_of
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.places.offered_marks import offered_marks
from humble_sum.core.places.places_report import Found, placed_on, placers
from humble_sum.core.proof.pack_proof import PackProof, figure_of, proof_of
from humble_sum.core.rules.rulebook import Place
from humble_sum.core.statements.in_edition import editions_of
from humble_sum.exchange.formats import OF_DASHBOARDS
from humble_sum.records.pack_rows import pack_row
from humble_sum.records.tables import PackRow
from humble_sum.server.downloads import attached, file_name
from humble_sum.server.figure_schemas import SentenceView
from humble_sum.server.presenters.editions import (
    BesideView,
    EditionView,
    EverywhereView,
    beside_view,
    edition_view,
    everywhere_view,
)
from humble_sum.server.presenters.place_models import DashboardView, FindingView, FollowView
from humble_sum.server.presenters.places_page import dashboard_view, finding_view, item_words
from humble_sum.server.proof_cache import Desk
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import answered, desk_of

MOST_MARKS = 8
router = addresses("editions and places", "/packs/{pack}")

FILE: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "The file, named for the entity and dashboard.",
        "content": {each.media_type.split(";")[0]: {} for each in OF_DASHBOARDS.values()},
    }
}


def _in_all(desk: Desk, session: Session, row: PackRow) -> dict[str, PackProof]:
    """The pack proved in every edition, its own first."""
    return {id: desk.proved(session, row, id) for id in editions_of(desk.pack(session, row))}


def _placed(proofs: dict[str, PackProof]) -> list[Found]:
    pack = next(iter(proofs.values())).pack
    by_place = {id: placers(proofs[id]) for id in {each.edition for each in pack.dashboards}}
    return [
        found
        for each in pack.dashboards
        for found in placed_on(each, proofs[each.edition], by_place[each.edition])
    ]


@router.get("/editions")
def editions(request: Request, pack: str) -> list[EditionView]:
    """Every edition, the pack's own first: whether it foots, and what is said only in it."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        return [edition_view(row.id, pack_proof) for pack_proof in _in_all(desk, session, row).values()]


@router.get("/statements/{statement}/beside/{edition}", response_model=BesideView)
def beside(request: Request, pack: str, statement: str, edition: str) -> Response:
    """A statement in the edition that the pack is opened in and another, beside each other."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        one, other = desk.proved(session, row), desk.proved(session, row, edition)
        proof_of(one, statement)
        return answered(beside_view(one, other, statement, row.revision))


@router.get("/statements/{statement}/figures/{line}/{column}/everywhere")
def everywhere(
    request: Request,
    pack: str,
    statement: str,
    line: str,
    column: str,
    place: Annotated[Place, Query(description="The sort of place whose rule is said.")] = "tile",
) -> EverywhereView:
    """One figure wherever it is printed: on the pages of every edition, and in every place."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        proofs = _in_all(desk, session, row)
        figure_of(proof_of(proofs[row.edition], statement), line, column)
        found = _placed(proofs)
        return everywhere_view(row.id, proofs, (statement, line, column), found, place, row.edition)


@router.get("/dashboards/{dashboard}", response_model=DashboardView)
def dashboard(request: Request, pack: str, dashboard: str) -> Response:
    """A dashboard as the readers of its edition see it, with how each figure stands to the page."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        found = dashboard_of(desk.pack(session, row), dashboard)
        pack_proof = desk.proved(session, row, found.edition)
        return answered(dashboard_view(found, pack_proof, row.revision))


@router.get("/dashboards/{dashboard}/items/{item}/words")
def words(request: Request, pack: str, dashboard: str, item: str) -> SentenceView:
    """An item as a sentence: what it shows, or how often it stands, in words that carry the change of each
    of their choices."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        found = desk.pack(session, pack_row(session, pack))
    board = dashboard_of(found, dashboard)
    return item_words(board, item_of(board, item), found)


@router.get("/dashboards/{dashboard}/items/{item}/marks")
def marks(
    request: Request,
    pack: str,
    dashboard: str,
    item: str,
    typed: Annotated[str, Query(max_length=200)] = "",
) -> list[FollowView]:
    """What a passage may follow by the words typed: figures, measures of them, words chosen by them, names;
    each as the mark that is written, and what it prints now."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        board = dashboard_of(desk.pack(session, row), dashboard)
        pack_proof = desk.proved(session, row, board.edition)
    passage = passage_of(item_of(board, item))
    return [FollowView(**vars(each)) for each in offered_marks(pack_proof, passage, typed, MOST_MARKS)]


@router.get("/agreement")
def agreement(request: Request, pack: str) -> list[FindingView]:
    """Every placed figure that does not agree with the page of its edition, with what would settle it."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        found = _placed(_in_all(desk, session, pack_row(session, pack)))
        return [finding_view(each) for each in found if each.agrees.standing != "agrees"]


@router.get("/dashboards/{dashboard}/files/{format}", response_class=Response, responses=FILE)
def take_dashboard(
    request: Request,
    pack: str,
    dashboard: str,
    format: str,
    item: Annotated[str | None, Query(description="The chart, for svg and png.")] = None,
) -> Response:
    """A dashboard as a file: html, md, txt, csv, xlsx; or one of its charts as svg or png."""
    output = OF_DASHBOARDS.get(format)
    if output is None:
        what = f'There is no format "{format}".'
        raise InputError("no-such-format", Fault("format", what, f"Use one of {', '.join(OF_DASHBOARDS)}."))
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        found = dashboard_of(desk.pack(session, row), dashboard)
        pack_proof = desk.proved(session, row, found.edition)
    with desk.lanes.files.taken():
        data = output.write_dashboard(found, pack_proof, item)
    name = file_name(pack_proof.pack.entity, found.name, format)
    headers = attached(name)
    return Response(data, media_type=output.media_type, headers=headers)
