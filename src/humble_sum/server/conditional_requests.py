"""Answers about a pack that has not changed since they were given are not made again (RFC 9110, 8.8 and 13).

What is said of a pack follows from its revision, the address and the day (how many changes were made today),
and from the version of the program. A browser that names the tag of all that gets 304 and no body.
"""

from __future__ import annotations

import asyncio
import hashlib
import re
import sqlite3
from collections.abc import Sequence
from datetime import UTC, datetime

from cachetools import LRUCache
from sqlalchemy import bindparam, select
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from humble_sum import __version__
from humble_sum.core.errors import InputError
from humble_sum.records.database import Database
from humble_sum.records.tables import PackRow
from humble_sum.server.authentication import PERSON

REVISION = select(PackRow.revision).where(PackRow.id == bindparam("pack"))
MOST_KEPT, LARGEST_KEPT = 40_000_000, 4_000_000  # bytes of all answers that are kept, and of one
REVIEW = "/review"  # which says what waits for whoever asks
OF_A_PACK = re.compile(r"/api/packs/([^/@]+)(@[^/]+)?(/.*)?")


class ConditionalRequests:
    """Answers 304 to who has the answer already, and tags every other answer about a pack."""

    def __init__(self, app: ASGIApp, database: Database):
        self.app = app
        self.database = database
        self._making: dict[str, asyncio.Event] = {}
        self._kept: LRUCache[str, tuple[Message, Message]] = LRUCache(
            MOST_KEPT, lambda kept: len(kept[1]["body"]) + 2_000
        )

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        found = OF_A_PACK.fullmatch(scope["path"]) if scope["type"] == "http" else None
        # Issues are made and withdrawn, people come and go, and other packs change, while a pack stays as it
        # is.
        if (
            found is None
            or scope["method"] != "GET"
            or (found[3] or "").startswith(("/issue", "/now", "/documents", "/taken"))
        ):
            await self.app(scope, receive, send)
            return
        asked = f"{scope['path']}?{scope['query_string']!r}"
        if found[3] == REVIEW:
            asked += f" {_person(scope)}"
        try:
            revision = self.database.revision(found[1])
        except sqlite3.Error:  # it cannot be had at once
            revision = await run_in_threadpool(self._revision, found[1])
        if revision is None:
            await self.app(scope, receive, send)
            return
        tag = _tag(found[1], revision, asked)
        headers = {"ETag": tag, "Cache-Control": "no-cache"}
        known = Headers(scope=scope).get("if-none-match", "")
        if _strong(tag) in (_strong(each.strip()) for each in known.split(",")):
            await Response(status_code=304, headers=headers)(scope, receive, send)
            return

        while (kept := self._kept.get(tag)) is None and tag in self._making:
            # Who asks for the same at the same time gets the same answer.
            await self._making[tag].wait()
        if kept is not None:
            start, body = kept
            await send({**start, "headers": list(start["headers"])})
            await send(body)
            return
        seen: list[Message] = []

        async def tagged(message: Message) -> None:
            if message["type"] == "http.response.start" and message["status"] == 200:
                told = MutableHeaders(scope=message)
                for name, value in headers.items():
                    told.setdefault(name, value)
            seen.append(message)
            await send(message)

        self._making[tag] = made = asyncio.Event()
        try:
            await self.app(scope, receive, tagged)
            self._keep(tag, scope["query_string"], seen)
        finally:
            del self._making[tag]
            made.set()

    def _keep(self, tag: str, query: bytes, seen: Sequence[Message]) -> None:
        """Keep an answer that was sent whole, to be sent again as it is. A trial is forgotten after a while,
        and what was said of it with it."""
        complete = len(seen) == 2 and seen[0].get("status") == 200 and not seen[1].get("more_body")
        if (
            complete
            and b"trial" not in query
            and b"view" not in query
            and len(seen[1]["body"]) < LARGEST_KEPT
        ):
            # Headers are a list of their own: who passes them on may add to theirs.
            start = {**seen[0], "headers": tuple(seen[0]["headers"])}
            self._kept[tag] = (start, seen[1])

    def _revision(self, pack: str) -> int | None:
        """The revision of a pack; none where there is no such pack, or its records cannot be read."""
        try:
            with self.database.engine.connect() as connection:
                return connection.execute(REVISION, {"pack": pack}).scalar()
        except (InputError, SQLAlchemyError):
            return None


def _tag(pack: str, revision: int, asked: str) -> str:
    parts = (__version__, pack, str(revision), datetime.now(UTC).date().isoformat(), asked)
    return f'W/"{hashlib.sha256(chr(0).join(parts).encode()).hexdigest()[:24]}"'


def _person(scope: Scope) -> str:
    """Who asks: whose the token is, or who the page says."""
    said = Headers(scope=scope).get("humble-author", "")
    return str(scope.get("state", {}).get(PERSON) or said)


def _strong(tag: str) -> str:
    """A tag without its mark of weakness: for reading, weak ones are as good (RFC 9110, 8.8.3.2)."""
    return tag.removeprefix("W/")
