"""Who gets in where the server can be reached from other machines.

On loopback everybody on the machine is trusted, as with any program of theirs. Beyond it nobody is: each
request needs a token, as a cookie that a link sets or as a bearer (RFC 6750). There are two, one that edits
and one that reads. They are made anew at each start and only their digests are kept.
"""

from __future__ import annotations

import hmac
import secrets
from dataclasses import dataclass
from hashlib import sha256
from http.cookies import SimpleCookie
from typing import Literal
from urllib.parse import parse_qsl, urlencode

from starlette.datastructures import Headers
from starlette.responses import RedirectResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from humble_sum.core.errors import Fault
from humble_sum.server.door import READING
from humble_sum.server.errors import problem
from humble_sum.server.problem_registry import NO_TOKEN, ONLY_READS

COOKIE = "humble-sum-token"
ASKED = "token"
Role = Literal["edit", "read"]
# What a reader may send though it is not a GET: it works something out and keeps nothing.
WORKS_OUT = ("/api/show", "/api/foot")


@dataclass(frozen=True)
class Tokens:
    """The digests of the tokens that are good."""

    edit: bytes
    read: bytes

    def role_of(self, token: str) -> Role | None:
        """What a token allows; compared in a time that tells nothing of it."""
        digest = sha256(token.encode("utf-8", "surrogateescape")).digest()
        edits, reads = hmac.compare_digest(digest, self.edit), hmac.compare_digest(digest, self.read)
        return "edit" if edits else "read" if reads else None


def new_tokens() -> tuple[Tokens, str, str]:
    """Tokens, and the two texts, which are told once: that which edits, that which reads."""
    edit, read = secrets.token_urlsafe(24), secrets.token_urlsafe(24)
    return Tokens(sha256(edit.encode()).digest(), sha256(read.encode()).digest()), edit, read


class Gate:
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
        if linked is not None and scope["method"] == "GET" and self.tokens.role_of(linked):
            rest = urlencode([(name, value) for name, value in query if name != ASKED])
            to = RedirectResponse(scope["path"] + (f"?{rest}" if rest else ""), status_code=303)
            to.set_cookie(COOKIE, linked, httponly=True, samesite="strict", path="/")
            await to(scope, receive, send)
            return
        role = self.tokens.role_of(_told(Headers(scope=scope)))
        if role is None:
            fault = Fault("token", "This address is for those who have its link.", "Ask whoever runs it.")
            answer = problem(NO_TOKEN, (fault,))
            answer.headers["WWW-Authenticate"] = "Bearer"
            await answer(scope, receive, send)
            return
        if role == "read" and scope["method"] not in READING and scope["path"] not in WORKS_OUT:
            fault = Fault("token", "Nothing was changed: this token only reads.", "Ask for one that edits.")
            await problem(ONLY_READS, (fault,))(scope, receive, send)
            return
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
