"""The application: the API under /api and the built front end beside it, in one process."""

from __future__ import annotations

import threading
from functools import partial
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.responses import FileResponse, HTMLResponse
from fastapi.staticfiles import StaticFiles

from humble_sum import __version__
from humble_sum.records.database import Database
from humble_sum.records.token_rows import holder_of
from humble_sum.server import error_responses as problems
from humble_sum.server.api_page import api_page
from humble_sum.server.authentication import Authentication, Guard, Person, Role, Tokens
from humble_sum.server.compression import Compression
from humble_sum.server.conditional_requests import ConditionalRequests
from humble_sum.server.examples import add_examples
from humble_sum.server.intake_store import Intakes
from humble_sum.server.origins import AllowedHosts, HeadRequests, SameOrigin
from humble_sum.server.proof_cache import Desk
from humble_sum.server.routes import (
    commands,
    documents,
    footing,
    formats,
    group,
    history,
    house_styles,
    intakes,
    issues,
    locales,
    packs,
    places,
    readers,
    review,
    rulebook,
    session,
    standalone,
    statements,
)
from humble_sum.server.shutdown import tidying
from humble_sum.server.timeouts import RequestTimeouts

SITE = Path(__file__).parent / "site"
# Written by tools/write_formats.py; working it out takes seconds, and a test keeps it current.
OPENAPI = Path(__file__).parent / "openapi.json"
# The addresses of the screens in the browser, which are all one page.
SCREENS = (
    *(
        "packs",
        "figures",
        "rulebook",
        "footing",
        "places",
        "documents",
        "issue",
        "beside",
        "history",
        "group",
    ),
)
LOOPBACK = ("127.0.0.1", "localhost", "[::1]", "::1")
ROLES: dict[str, Role] = {"edit": "edit", "review": "review"}
NOT_BUILT = "<!doctype html><title>Humble Sum</title><p>The front end is not built. Run make demo."


def create_app(
    database: Database,
    hosts: tuple[str, ...] = LOOPBACK,
    tokens: Tokens | None = None,
    styles: Path | None = None,
) -> FastAPI:
    """The application over one database, answering only to these host names, and where there are tokens
    only to who has one. House styles are in a folder beside the records, or in the one given."""
    desk = Desk(database)
    app = FastAPI(
        title="Humble Sum",
        version=__version__,
        summary="Printed figures that are right, readable and add up.",
        description="Amounts travel as decimal text. Every printed text is made here, once, by rule.",
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        lifespan=tidying(database, desk.rest),
    )
    app.state.stopping = threading.Event()
    app.state.desk = desk
    app.state.intakes = Intakes()
    app.state.house_styles = styles or database.file.parent / "house-styles"
    problems.install(app)
    app.add_middleware(ConditionalRequests, database=database)
    app.state.guard = None if tokens is None else Guard(tokens, partial(_holder, database))
    if app.state.guard is not None:
        app.add_middleware(Authentication, guard=app.state.guard)
    app.add_middleware(AllowedHosts, hosts=hosts)
    app.add_middleware(SameOrigin)
    app.add_middleware(HeadRequests)
    app.add_middleware(Compression)
    app.add_middleware(RequestTimeouts)
    rooms = (
        packs,
        group,
        review,
        documents,
        history,
        statements,
        places,
        issues,
        rulebook,
        house_styles,
        locales,
        session,
    )
    for part in (*rooms, commands, footing, formats, intakes, standalone, readers):
        app.router.routes.extend(part.router.routes)
    _serve_site(app)
    app.get("/api/openapi.json", include_in_schema=False)(lambda: FileResponse(OPENAPI))
    app.get("/api/docs", include_in_schema=False)(lambda: HTMLResponse(api_page(OPENAPI)))
    return app


def _holder(database: Database, token: str) -> Person | None:
    """Whose a token on record is."""
    with database.reading() as session:
        row = holder_of(session, token)
        return None if row is None else Person(row.name, ROLES.get(row.role, "read"))


def _serve_site(app: FastAPI) -> None:
    if not (SITE / "index.html").exists():
        app.get("/", include_in_schema=False)(lambda: HTMLResponse(NOT_BUILT, status_code=503))
        return
    app.mount("/assets", StaticFiles(directory=SITE / "assets"), name="assets")

    def page(rest: str = "") -> FileResponse:
        return FileResponse(SITE / "index.html", headers={"Cache-Control": "no-cache"})

    for address in ("/", "/figures", *(f"/{screen}/{{rest:path}}" for screen in SCREENS)):
        app.get(address, include_in_schema=False)(page)

    @app.get("/icon.svg", include_in_schema=False)
    def icon() -> FileResponse:
        return FileResponse(SITE / "icon.svg")

    @app.get("/third-party.txt", include_in_schema=False)
    def third_party() -> FileResponse:
        return FileResponse(SITE / "third-party.txt", media_type="text/plain; charset=utf-8")


def openapi(app: FastAPI) -> dict[str, Any]:
    """The OpenAPI document of the application, with an example in every answer."""
    return add_examples(app.openapi())
