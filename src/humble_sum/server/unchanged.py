"""Answers about a pack that has not changed since they were given are not made again (RFC 9110, 8.8 and 13).

What is said of a pack follows from its revision, the address and the day (how many changes were made today),
and from the version of the program. A browser that names the tag of all that gets 304 and no body.
"""

from __future__ import annotations

import hashlib
import re
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from humble_sum import __version__
from humble_sum.core.errors import InputError
from humble_sum.records.database import Database
from humble_sum.records.tables import PackRow

OF_A_PACK = re.compile(r"/api/packs/([^/@]+)(@[^/]+)?(/.*)?")


class Unchanged:
    """Answers 304 to who has the answer already, and tags every other answer about a pack."""

    def __init__(self, app: ASGIApp, database: Database):
        self.app = app
        self.database = database

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        found = OF_A_PACK.fullmatch(scope["path"]) if scope["type"] == "http" else None
        if found is None or scope["method"] != "GET":
            await self.app(scope, receive, send)
            return
        tag = await run_in_threadpool(self._tag, found[1], f"{scope['path']}?{scope['query_string']!r}")
        if tag is None:
            await self.app(scope, receive, send)
            return
        headers = {"ETag": tag, "Cache-Control": "no-cache"}
        known = Headers(scope=scope).get("if-none-match", "")
        if _strong(tag) in (_strong(each.strip()) for each in known.split(",")):
            await Response(status_code=304, headers=headers)(scope, receive, send)
            return

        async def tagged(message: Message) -> None:
            if message["type"] == "http.response.start" and message["status"] == 200:
                told = MutableHeaders(scope=message)
                for name, value in headers.items():
                    told.setdefault(name, value)
            await send(message)

        await self.app(scope, receive, tagged)

    def _tag(self, pack: str, asked: str) -> str | None:
        """The tag of an answer; none where there is no such pack, or its records cannot be read."""
        try:
            with self.database.reading() as session:
                revision = session.scalar(select(PackRow.revision).where(PackRow.id == pack))
        except (InputError, SQLAlchemyError):
            return None
        if revision is None:
            return None
        parts = (__version__, pack, str(revision), datetime.now(UTC).date().isoformat(), asked)
        return f'W/"{hashlib.sha256(chr(0).join(parts).encode()).hexdigest()[:24]}"'


def _strong(tag: str) -> str:
    """A tag without its mark of weakness: for reading, weak ones are as good (RFC 9110, 8.8.3.2)."""
    return tag.removeprefix("W/")
