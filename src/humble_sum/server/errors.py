"""Errors in one shape: RFC 9457 problem details."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ConfigDict, Field
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from humble_sum.core.errors import CannotFoot, Fault, Refused, faults_of_details
from humble_sum.exchange.exact_json import MOST_BYTES

TYPE = "urn:humble-sum:problem:"
STATUS = {
    "no-such-pack": 404,
    "no-such-statement": 404,
    "no-such-figure": 404,
    "no-such-relation": 404,
    "no-such-rule": 404,
    "no-such-format": 404,
    "no-such-intake": 404,
    "no-such-table": 404,
    "no-such-line": 404,
    "no-such-style": 404,
    "no-such-trial": 404,
    "no-such-search": 404,
    "no-such-column": 404,
    "several-figures": 409,
    "stale-revision": 409,
    "cannot-foot": 409,
    "nothing-to-undo": 409,
    "nothing-to-redo": 409,
    "nothing-to-hold": 409,
    "no-such-way": 409,
    "too-large": 413,
    "fault-of-ours": 500,
}
TITLES = {
    "bad-pack": "The pack file cannot be taken",
    "bad-problem": "The footing problem cannot be taken",
    "bad-request": "The request is not understood",
    "bad-rule": "The rule cannot be taken",
    "fault-of-ours": "Something went wrong",
    "cannot-foot": "The page cannot foot with these holds",
    "no-such-pack": "No such pack",
    "bad-amount": "An amount cannot be read",
    "broken-text": "The file is broken",
    "broken-workbook": "The workbook is broken",
    "closed-workbook": "The workbook is closed",
    "bad-rulebook": "The rulebook cannot be taken",
    "not-a-rulebook": "This is not a rulebook",
    "nothing-to-copy": "There is nothing to copy",
    "no-such-style": "No such style",
    "no-such-search": "The search is over",
    "bad-certificate": "The certificate cannot be taken",
    "no-certificate": "Nothing can be certified",
    "no-such-trial": "The trial is no longer in hand",
    "no-such-column": "No such column",
    "several-figures": "Several statements have this figure",
    "bad-structure": "The structure cannot be changed so",
    "bad-tie": "The figures cannot be tied so",
    "bad-members": "The list of members cannot be used",
    "nothing-matches": "The figures do not match the layout",
    "no-such-line": "No such line",
    "no-table": "There is nothing to take in",
    "not-records": "These are not records",
    "too-long": "The file is too long",
    "unknown-encoding": "The file cannot be read as text",
    "not-a-pack": "This is not a pack file",
    "out-of-time": "The time was up",
    "not-json": "The file is not JSON",
    "nothing-to-hold": "There is no figure to hold",
    "nothing-to-redo": "Nothing to redo",
    "nothing-to-undo": "Nothing to undo",
    "other-version": "The file is of another version",
    "stale-revision": "The pack has changed since",
    "too-large": "The file is too large",
}


class FaultView(BaseModel):
    """One thing wrong: where, what, and what to do."""

    where: str
    what: str
    remedy: str


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
                            "remedy": "Load the pack again and repeat the change.",
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
    release: list[list[str]] | None = Field(
        default=None, description="When footing is impossible: a smallest set of holds to release."
    )
    conflict: list[str] | None = Field(
        default=None, description="When footing is impossible: the relations that cannot hold together."
    )


def problem(kind: str, faults: tuple[Fault, ...], **more: Any) -> JSONResponse:
    """A problem response for one kind of refusal."""
    status = STATUS.get(kind, 422)
    body = Problem(
        type=TYPE + kind,
        title=TITLES.get(kind, kind.replace("-", " ").capitalize()),
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

    @app.exception_handler(CannotFoot)
    def cannot_foot(_: Request, error: CannotFoot) -> JSONResponse:
        return problem(error.kind, error.faults, release=error.release, conflict=error.conflict)

    @app.exception_handler(Refused)
    def refused(_: Request, error: Refused) -> JSONResponse:
        return problem(error.kind, error.faults)

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        return problem("bad-request", tuple(faults_of_details(error.errors())))

    @app.exception_handler(HTTPException)
    def http(_: Request, error: HTTPException) -> JSONResponse:
        body = Problem(type="about:blank", title=str(error.detail), status=error.status_code, detail="")
        return JSONResponse(
            body.model_dump(exclude_none=True),
            status_code=error.status_code,
            media_type="application/problem+json",
        )

    @app.exception_handler(Exception)
    def unforeseen(_: Request, error: Exception) -> JSONResponse:
        # The error itself goes to the log; what was kept before the request is still kept.
        return problem("fault-of-ours", (Fault("", "This is our fault. Nothing was changed."),))

    app.add_middleware(BodyLimit)


class BodyLimit:
    """Refuses a body past the file limit while it arrives, before any of it is kept."""

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
                raise Refused("too-large", _large())
            return message

        await self.app(scope, counted, send)


def _large() -> Fault:
    return Fault("", f"The file is larger than {MOST_BYTES // 1024 // 1024} MiB.", "Split it into several.")


def _too_large() -> JSONResponse:
    return problem("too-large", (_large(),))
