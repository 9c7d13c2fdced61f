"""Who gets in where the server can be reached from other machines.

On loopback everybody on the machine is trusted, as with any program of theirs. Beyond it nobody is: each
request needs a token, as a cookie that a link sets or as a bearer (RFC 6750). Each edits or reads, and may be
somebody's, whose name history then has. They are made anew at each start and only their digests are kept.
"""

from __future__ import annotations

import hmac
import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from hashlib import sha256
from http.cookies import SimpleCookie
from typing import Literal, NamedTuple
from urllib.parse import parse_qsl, urlencode

from starlette.datastructures import Headers
from starlette.responses import RedirectResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from humble_sum.core.errors import Fault
from humble_sum.server.error_responses import problem
from humble_sum.server.origins import READING
from humble_sum.server.problem_registry import NO_TOKEN, ONLY_READS

COOKIE = "humble-sum-token"
ASKED = "token"
PERSON = "person"  # in the state of a request: whose token it came with
Role = Literal["edit", "read"]
# What a reader may send though it is not a GET: it works something out and keeps nothing.
WORKS_OUT = ("/api/show", "/api/foot")


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


class Authentication:
    """Lets in who has a token."""

    def __init__(self, app: ASGIApp, tokens: Tokens):
        self.app = app
        self.tokens = tokens

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        query = parse_qsl(scope["query_string"].decode("latin-1"))
        linked = next((value for name, value in query if name == ASKED), None)
        if linked is not None and scope["method"] == "GET" and self.tokens.person_of(linked):
            rest = urlencode([(name, value) for name, value in query if name != ASKED])
            to = RedirectResponse(scope["path"] + (f"?{rest}" if rest else ""), status_code=303)
            to.set_cookie(COOKIE, linked, httponly=True, samesite="strict", path="/")
            await to(scope, receive, send)
            return
        person = self.tokens.person_of(_told(Headers(scope=scope)))
        if person is None:
            fault = Fault("token", "This address is for those who have its link.", "Ask whoever runs it.")
            answer = problem(NO_TOKEN, (fault,))
            answer.headers["WWW-Authenticate"] = "Bearer"
            await answer(scope, receive, send)
            return
        if person.role == "read" and scope["method"] not in READING and scope["path"] not in WORKS_OUT:
            fault = Fault("token", "Nothing was changed: this token only reads.", "Ask for one that edits.")
            await problem(ONLY_READS, (fault,))(scope, receive, send)
            return
        scope.setdefault("state", {})[PERSON] = person.name
        await self.app(scope, receive, send)


def _told(headers: Headers) -> str:
    """The token of a request: of its bearer, or of its cookie."""
    scheme, _, bearer = headers.get("authorization", "").partition(" ")
    if scheme.lower() == "bearer" and bearer:
        return bearer.strip()
    try:
        cookie = SimpleCookie(headers.get("cookie", "")).get(COOKIE)
    except Exception:
        return ""
    return cookie.value if cookie else ""
