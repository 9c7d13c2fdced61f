"""Errors in one shape: RFC 9457 problem details."""

from __future__ import annotations

import logging
import sqlite3
from typing import Any

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from humble_sum.core.changes.change_union import Change
from humble_sum.core.changes.footing_commands import Foot, ReleaseFigures
from humble_sum.core.errors import HALF, CannotFoot, Fault, InputError, faults_of_details
from humble_sum.core.statements.names import FigureRef
from humble_sum.exchange.exact_json import MOST_BYTES
from humble_sum.records.faults import BUSY, fault_of
from humble_sum.server.lanes import NOBODY, Left, TooBusy
from humble_sum.server.problem_registry import BAD_REQUEST, FAULT_OF_OURS, PROBLEMS, TOO_LARGE

LOG = logging.getLogger(__name__)
TYPE = "urn:humble-sum:problem:"


class FaultView(BaseModel):
    """One thing wrong: where, what, and what to do."""

    where: str
    what: str
    remedy: str


class Settle(BaseModel):
    """What would settle it, in words, and its commands in order."""

    label: str
    changes: list[Change]


class Problem(BaseModel):
    """RFC 9457 problem details; `faults` says each thing wrong."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "type": TYPE + "stale-revision",
                    "title": "The pack has changed since",
                    "status": 409,
                    "detail": "The pack is at revision 8, and this change was made on 7.",
                    "faults": [
                        {
                            "where": "revision",
                            "what": "The pack is at revision 8, and this change was made on 7.",
                            "remedy": "Reload the pack and repeat the change.",
                        }
                    ],
                }
            ]
        }
    )
    type: str = Field(description="A stable name for the kind of problem.")
    title: str
    status: int
    detail: str
    faults: list[FaultView] = []
    settle: Settle | None = Field(
        default=None, description="When footing is impossible: the commands that release the holds and foot."
    )
    release: list[list[str]] | None = Field(
        default=None, description="When footing is impossible: a smallest set of holds to release."
    )
    conflict: list[str] | None = Field(
        default=None, description="When footing is impossible: the relations that cannot hold together."
    )


class Overtaken(InputError):
    """A change was made on an earlier revision, and others changed what it is about; carries the change."""

    def __init__(self, change: Change, fault: Fault):
        super().__init__("stale-revision", fault)
        self.change = change


def problem(kind: str, faults: tuple[Fault, ...], **more: Any) -> JSONResponse:
    """A problem response for one kind of refusal, which the registry has."""
    status, title, _ = PROBLEMS[kind]
    body = Problem(
        type=TYPE + kind,
        title=title,
        status=status,
        detail=str(faults[0]) if faults else "",
        faults=[FaultView(where=f.where, what=f.what, remedy=f.remedy) for f in faults],
        **more,
    )
    return JSONResponse(
        body.model_dump(exclude_none=True), status_code=status, media_type="application/problem+json"
    )


def install(app: FastAPI) -> None:
    """Have the app answer every error as problem details."""
    _install_refusals(app)
    _install_requests(app)
    _install_failures(app)
    app.add_middleware(BodyLimit)


def _install_refusals(app: FastAPI) -> None:
    """What the product refuses, with its reasons."""

    @app.exception_handler(CannotFoot)
    def cannot_foot(_: Request, error: CannotFoot) -> JSONResponse:
        settle = _settle([(s, line, column) for s, line, column in error.release or ()])
        more = {"release": error.release, "conflict": error.conflict, "settle": settle}
        return problem(error.kind, error.faults, **more)

    @app.exception_handler(Overtaken)
    def overtaken(_: Request, error: Overtaken) -> JSONResponse:
        settle = Settle(label="Make my change all the same", changes=[error.change])
        return problem(error.kind, error.faults, settle=settle)

    @app.exception_handler(TooBusy)
    def busy(_: Request, error: TooBusy) -> JSONResponse:
        response = problem(error.kind, error.faults)
        response.headers["Retry-After"] = str(error.again)
        return response

    @app.exception_handler(InputError)
    def refused(_: Request, error: InputError) -> JSONResponse:
        return problem(error.kind, error.faults)


def _install_requests(app: FastAPI) -> None:
    """What is wrong with a request itself, or with the line it came by."""

    @app.exception_handler(Left)
    @app.exception_handler(ClientDisconnect)
    def left(request: Request, _: Left | ClientDisconnect) -> Response:
        LOG.warning("%s %s: whoever asked went away", request.method, request.url.path)
        return NOBODY

    @app.exception_handler(UnicodeEncodeError)
    def halved(_: Request, __: UnicodeEncodeError) -> JSONResponse:
        return problem(BAD_REQUEST, (HALF,))

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        return problem(BAD_REQUEST, tuple(faults_of_details(error.errors())))

    @app.exception_handler(HTTPException)
    def http(request: Request, error: HTTPException) -> JSONResponse:
        if error.status_code == 405:
            fault = Fault(
                "method", "This address does not take that method.", PROBLEMS["other-method"].remedy
            )
            response = problem("other-method", (fault,))
            response.headers.update(error.headers or {})
            return response
        if error.status_code == 404:
            what = f"There is nothing at {request.url.path}."
            return problem("no-such-operation", (Fault("path", what, PROBLEMS["no-such-operation"].remedy),))
        return problem(BAD_REQUEST, (Fault("", f"{error.detail}."),))


def _install_failures(app: FastAPI) -> None:
    """What went wrong here: with the records, or unforeseen."""

    @app.exception_handler(DBAPIError)
    @app.exception_handler(sqlite3.Error)
    def records(request: Request, error: DBAPIError | sqlite3.Error) -> JSONResponse:
        known = fault_of(error, request.app.state.desk.database.file)
        if known is None:
            LOG.error("%s %s: the records failed", request.method, request.url.path, exc_info=error)
            return problem(FAULT_OF_OURS, (Fault("", "This is our fault. Nothing was changed."),))
        response = problem(known.kind, tuple(Fault("", f.what, f.remedy) for f in known.faults))
        if known.kind == BUSY:
            response.headers["Retry-After"] = "2"
        return response

    @app.exception_handler(Exception)
    def unforeseen(_: Request, error: Exception) -> JSONResponse:
        # The error itself goes to the log; what was kept before the request is still kept.
        return problem(FAULT_OF_OURS, (Fault("", "This is our fault. Nothing was changed."),))


class BodyLimit:
    """Refuses a body past the file limit while it arrives, before any of it is kept.

    The framework has a limit of its own, which answers plain text where a problem is promised.
    """

    def __init__(self, app: ASGIApp):
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        length = dict(scope["headers"]).get(b"content-length", b"0")
        if length.isdigit() and int(length) > MOST_BYTES:
            await _too_large()(scope, receive, send)
            return
        seen = 0

        async def counted() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > MOST_BYTES:
                raise InputError(TOO_LARGE, _large())
            return message

        await self.app(scope, counted, send)


def _settle(release: list[FigureRef]) -> Settle | None:
    if not release:
        return None
    statement = release[0][0]
    changes: list[Change] = [
        ReleaseFigures(kind="release", statement=statement, figures=release),
        Foot(kind="foot", statement=statement),
    ]
    label = "Release it and foot" if len(release) == 1 else f"Release {len(release)} and foot"
    return Settle(label=label, changes=changes)


def _large() -> Fault:
    return Fault("", f"The file is larger than {MOST_BYTES // 1024 // 1024} MiB.", "Split it into several.")


def _too_large() -> JSONResponse:
    return problem(TOO_LARGE, (_large(),))
