"""Who may change anything, and what a browser may do with an answer.

A page of another site, or of another port of this machine, can have a browser send requests here. A
browser says where a request comes from (the Fetch standard's `Sec-Fetch-Site` and `Origin`), so that
those are told from the server's own page; a program that is no browser sends neither.
"""

from __future__ import annotations

from collections.abc import Awaitable, Callable, Sequence

from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from humble_sum.core.errors import Fault, InputError
from humble_sum.server.error_responses import problem

READING = ("GET", "HEAD", "OPTIONS")
OWN_SITE = ("same-origin", "none")  # "none" is what a person asked for, by address or bookmark
OTHER_SITE, OTHER_TYPE, OTHER_HOST = "other-site", "other-content-type", "other-host"
# Scripts are files of our own. Styles may stand in the page: menus and dialogs place themselves by them.
POLICY = "; ".join(
    [
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self' 'unsafe-inline'",
        "font-src 'self'",
        "img-src 'self' data:",
        "connect-src 'self'",
        "frame-ancestors 'none'",
        "base-uri 'none'",
        "form-action 'none'",
    ]
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=(), payment=(), usb=()",
}


def comes_from_elsewhere(headers: Headers) -> bool:
    """Whether a browser says that another site, or another port of this machine, sent a request."""
    site, origin = headers.get("sec-fetch-site"), headers.get("origin")
    if site is not None and site not in OWN_SITE:
        return True
    if origin is None:
        return False
    scheme, _, host = origin.partition("://")
    return scheme not in ("http", "https") or host != headers.get("host")


class SameOrigin:
    """Refuses changes that other sites ask for, and tells browsers what they may do with answers."""

    def __init__(self, app: ASGIApp):
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "websocket":
            return  # there is none here; not to answer refuses it
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        guarded = _with_headers(send)
        if scope["method"] not in READING and comes_from_elsewhere(Headers(scope=scope)):
            what = "Another site asked for this change, so it was not made."
            fault = Fault("origin", what, "Make it on the page of Humble Sum itself.")
            await problem(OTHER_SITE, (fault,))(scope, receive, guarded)
            return
        await self.app(scope, receive, guarded)


class AllowedHosts:
    """Refuses requests by a host name that is not one of the server's (RFC 9110, 7.4): a name of another
    site can be made to lead here."""

    def __init__(self, app: ASGIApp, hosts: Sequence[str]):
        self.app, self.hosts = app, {host.lower() for host in hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http":
            asked = Headers(scope=scope).get("host", "")
            name = asked if asked.endswith("]") else asked.rpartition(":")[0] or asked
            if name.lower() not in self.hosts:
                fault = Fault("host", f'"{asked[:80]}" is no name of this server.', "Ask for it by its own.")
                await problem(OTHER_HOST, (fault,))(scope, receive, send)
                return
        await self.app(scope, receive, send)


class HeadRequests:
    """Answers HEAD as it would answer GET, without the body (RFC 9110, 9.3.2)."""

    def __init__(self, app: ASGIApp):
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] != "HEAD":
            await self.app(scope, receive, send)
            return

        async def bare(message: Message) -> None:
            if message["type"] == "http.response.body":
                message = {**message, "body": b""}
            await send(message)

        await self.app({**scope, "method": "GET"}, receive, bare)


def _with_headers(send: Send) -> Callable[[Message], Awaitable[None]]:
    async def sent(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                headers.setdefault(name, value)
        await send(message)

    return sent


def of_type(request: Request, wanted: str) -> None:
    """Refuse a body of another content type than the one that is taken here."""
    told = request.headers.get("content-type", "").partition(";")[0].strip().lower()
    if told != wanted:
        what = f'The content type is "{told}".' if told else "There is no content type."
        raise InputError(OTHER_TYPE, Fault("content-type", what, f"Send it as {wanted}."))
