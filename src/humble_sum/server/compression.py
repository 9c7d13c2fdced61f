"""Large answers sent compressed to who takes them so (RFC 9110, 12.5.3)."""

from __future__ import annotations

from starlette.middleware.gzip import GZipMiddleware
from starlette.types import ASGIApp, Receive, Scope, Send

LEAST_BYTES = 32_000  # below this the time it takes is worth more than the bytes
LEVEL = 2


class Compression:
    """Compresses large answers, but none that comes line by line: no line has to wait for the next."""

    def __init__(self, app: ASGIApp):
        self.app = app
        self.compressing = GZipMiddleware(app, minimum_size=LEAST_BYTES, compresslevel=LEVEL)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        streamed = scope["type"] != "http" or scope["path"].endswith("/streamed")
        await (self.app if streamed else self.compressing)(scope, receive, send)
