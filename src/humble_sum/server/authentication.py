"""Who gets in where the server can be reached from other machines.

On loopback everybody on the machine is trusted, as with any program of theirs. Beyond it nobody is: each
request needs a token, as a bearer (RFC 6750) or as the cookie that signing in sets. Each edits or reads, and
may be somebody's, whose name history then has. Some are made at the start; others are on record, and can be
made and revoked while the server runs. Only their digests are kept.
"""

from __future__ import annotations

import asyncio
import hmac
import re
import secrets
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from hashlib import sha256
from http.cookies import SimpleCookie
from pathlib import Path
from time import monotonic
from typing import Literal, NamedTuple

from cachetools import LRUCache, TTLCache
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers
from starlette.responses import FileResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from humble_sum.core.errors import Fault
from humble_sum.server.error_responses import problem
from humble_sum.server.origins import READING
from humble_sum.server.problem_registry import NO_TOKEN, ONLY_READS

PERSON, ROLE = "person", "role"  # in the state of a request: whose token it came with, and what it allows
ENTER = Path(__file__).parent / "enter"
# What everybody gets: the page that takes a link.
OPEN = {
    ("GET", "/enter"): "enter.html",
    ("GET", "/enter.js"): "enter.js",
    ("GET", "/enter.css"): "enter.css",
}
SESSION = "/api/session"
KNOWN_FOR = 1.0  # seconds for which a token on record is not looked up again
FREE_TRIES, LONGEST_WAIT = 5, 4.0  # wrong tokens from an address before it waits, and how long it does
Role = Literal["edit", "review", "read"]
# What a reader may send though it is not a GET: it works something out and keeps nothing.
WORKS_OUT = ("/api/show", "/api/foot")
# Where who reviews may change something; which changes they may make is asked there.
REVIEWED = re.compile(r"/api/packs/[^/]+/(changes|undo|redo)")


class Person(NamedTuple):
    """Who has a token: the name that history has, none where the page says it, and what it allows."""

    name: str
    role: Role


@dataclass(frozen=True)
class Tokens:
    """Whose the tokens with these digests are."""

    people: tuple[tuple[bytes, Person], ...]

    def person_of(self, token: str) -> Person | None:
        """Whose a token is; compared with all of them, in a time that tells nothing of it."""
        digest = sha256(token.encode("utf-8", "surrogateescape")).digest()
        found = [person for known, person in self.people if hmac.compare_digest(digest, known)]
        return found[0] if found else None


def new_tokens(
    people: Sequence[Person] = (Person("", "edit"), Person("", "read")),
) -> tuple[Tokens, tuple[str, ...]]:
    """Tokens for these people, and their texts in the same order, which are told once."""
    texts = tuple(secrets.token_urlsafe(24) for _ in people)
    digests = [sha256(text.encode()).digest() for text in texts]
    return Tokens(tuple(zip(digests, people, strict=True))), texts


class Guard:
    """Knows whose a token is, and slows down whoever tries many."""

    def __init__(self, tokens: Tokens, on_record: Callable[[str], Person | None] = lambda _: None):
        self.tokens, self.on_record = tokens, on_record
        self._known: TTLCache[str, Person | None] = TTLCache(1_000, KNOWN_FOR, monotonic)
        self._wrong: LRUCache[str, int] = LRUCache(10_000)

    async def person_of(self, token: str, address: str) -> Person | None:
        """Whose a token is, None where it opens nothing. The more wrong ones came from an address, the longer
        it waits for the next answer."""
        if not token:
            return None
        person = self.tokens.person_of(token)
        if person is None:
            digest = sha256(token.encode("utf-8", "surrogateescape")).hexdigest()
            if digest not in self._known:
                self._known[digest] = await run_in_threadpool(self.on_record, token)
            person = self._known.get(digest)
        if person is None:
            tries = self._wrong[address] = self._wrong.get(address, 0) + 1
            if tries > FREE_TRIES:
                await asyncio.sleep(min(LONGEST_WAIT, 0.25 * 2 ** min(tries - FREE_TRIES, 10)))
        else:
            self._wrong.pop(address, None)
        return person


class Authentication:
    """Lets in who has a token."""

    def __init__(self, app: ASGIApp, guard: Guard):
        self.app, self.guard = app, guard

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers, asked = Headers(scope=scope), (scope["method"], scope["path"])
        if asked in OPEN:
            await _page(OPEN[asked], 200)(scope, receive, send)
            return
        if asked == ("POST", SESSION):
            await self.app(scope, receive, send)
            return
        person = await self.guard.person_of(_told(headers, cookie_of(scope)), address_of(scope))
        if person is None:
            if scope["method"] == "GET" and "text/html" in headers.get("accept", ""):
                # Somebody in a browser: the page that takes their link.
                await _page("enter.html", 401)(scope, receive, send)
                return
            await refused()(scope, receive, send)
            return
        limited = person.role != "edit" and asked != ("DELETE", SESSION)
        reviews = person.role == "review" and REVIEWED.fullmatch(scope["path"])
        if limited and not reviews and scope["method"] not in READING and scope["path"] not in WORKS_OUT:
            fault = Fault("token", "Nothing was changed: this token only reads.", "Ask for one that edits.")
            await problem(ONLY_READS, (fault,))(scope, receive, send)
            return
        scope.setdefault("state", {})[PERSON] = person.name
        scope["state"][ROLE] = person.role
        await self.app(scope, receive, send)


def refused() -> ASGIApp:
    """What who has no token is told."""
    fault = Fault("token", "This address is for those who have its link.", "Ask whoever runs it.")
    answer = problem(NO_TOKEN, (fault,))
    answer.headers["WWW-Authenticate"] = "Bearer"
    return answer


def _page(name: str, status: int) -> FileResponse:
    """A file of the page that takes a link; nobody keeps it."""
    return FileResponse(ENTER / name, status, {"Cache-Control": "no-store"})


def cookie_of(scope: Scope) -> str:
    """The name of the cookie: servers on several ports of one machine each have their own."""
    return f"humble-sum-{(scope.get('server') or ('', 0))[1]}"


def address_of(scope: Scope) -> str:
    """From which address a request comes."""
    return str((scope.get("client") or ("",))[0])


def _told(headers: Headers, name: str) -> str:
    """The token of a request: of its bearer, or of its cookie."""
    scheme, _, bearer = headers.get("authorization", "").partition(" ")
    if scheme.lower() == "bearer" and bearer:
        return bearer.strip()
    try:
        cookie = SimpleCookie(headers.get("cookie", "")).get(name)
    except Exception:
        return ""
    return cookie.value if cookie else ""
