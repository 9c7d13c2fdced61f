"""Pages for the readers of an edition, each at its own address: read-only, and without a script."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Header, Query, Request
from fastapi.responses import HTMLResponse

from humble_sum.core.changes.place_commands import dashboard_of
from humble_sum.core.locales import readers_tag
from humble_sum.core.proof.pack_proof import PackProof, proof_of, prove_pack
from humble_sum.core.statements.in_edition import in_language
from humble_sum.exchange.reader_pages import Link, dashboard_page, statement_page
from humble_sum.records.pack_rows import pack_row
from humble_sum.server.routes.packs import desk_of

router = APIRouter(prefix="/read/{pack}", include_in_schema=False)
FONTS = "/assets/fonts.css"

Language = Annotated[str | None, Query(alias="lang")]
Accepted = Annotated[str | None, Header(alias="accept-language")]


@router.get("/{edition}")
def first_page(
    request: Request, pack: str, edition: str, lang: Language = None, accept_language: Accepted = None
) -> HTMLResponse:
    """The edition's first dashboard, or its first statement."""
    return _page(request, pack, edition, None, None, lang, accept_language)


@router.get("/{edition}/statements/{statement}")
def statement(
    request: Request,
    pack: str,
    edition: str,
    statement: str,
    lang: Language = None,
    accept_language: Accepted = None,
) -> HTMLResponse:
    """A statement of the edition."""
    return _page(request, pack, edition, None, statement, lang, accept_language)


@router.get("/{edition}/dashboards/{dashboard}")
def dashboard(
    request: Request,
    pack: str,
    edition: str,
    dashboard: str,
    lang: Language = None,
    accept_language: Accepted = None,
) -> HTMLResponse:
    """A dashboard of the edition."""
    return _page(request, pack, edition, dashboard, None, lang, accept_language)


def _page(
    request: Request,
    pack: str,
    edition: str,
    dashboard: str | None,
    statement: str | None,
    lang: str | None,
    accepted: str | None,
) -> HTMLResponse:
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof = _shown(desk.proved(session, row, edition), lang, accepted)
        base = f"/read/{row.id}/{edition}"
    asked = f"?lang={quote(lang)}" if lang else ""
    boards = [each for each in pack_proof.pack.dashboards if each.edition == edition]
    if dashboard is None and statement is None:
        dashboard = boards[0].id if boards else None
        statement = None if boards else pack_proof.pack.statements[0].id
    named = {each.name for each in pack_proof.pack.statements}
    links = [
        Link(
            f"{each.name} (dashboard)" if each.name in named else each.name,
            None if each.id == dashboard else f"{base}/dashboards/{each.id}{asked}",
        )
        for each in boards
    ]
    links += [
        Link(each.name, None if each.id == statement else f"{base}/statements/{each.id}{asked}")
        for each in pack_proof.pack.statements
    ]
    if dashboard is not None:
        page = dashboard_page(dashboard_of(pack_proof.pack, dashboard), pack_proof, links, FONTS)
    else:
        page = statement_page(proof_of(pack_proof, statement or ""), pack_proof, links, FONTS)
    return HTMLResponse(page, headers={"Cache-Control": "no-cache", "Vary": "Accept-Language"})


def _shown(pack_proof: PackProof, lang: str | None, accepted: str | None) -> PackProof:
    """The edition in the reader's own language, where it is one that says so."""
    edition = pack_proof.pack.edition(pack_proof.pack.shown)
    if edition is None or not edition.any_language:
        return pack_proof
    tag = readers_tag(lang, accepted)
    return prove_pack(in_language(pack_proof.pack, tag)) if tag else pack_proof
