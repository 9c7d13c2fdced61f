"""Requests that do not come: heads half sent, and bodies that trickle, are given up after a while."""

from __future__ import annotations

import asyncio
from typing import Any

from starlette.types import ASGIApp, Message, Receive, Scope, Send
from uvicorn.protocols.http.h11_impl import H11Protocol

from humble_sum.core.errors import Fault
from humble_sum.server.authentication import ROLE
from humble_sum.server.connections import Connections
from humble_sum.server.error_responses import problem
from humble_sum.server.problem_registry import TOO_SLOW

HEAD_SECONDS = 15.0  # from the first byte of a head, or from the opening of a connection, to its end
PART_SECONDS = 20.0  # between two parts of a body
BODY_SECONDS = 300.0  # for all of a body
MOST_CONNECTIONS = 800  # until the server says how many files it may open


class TooSlow(Exception):
    """A body that did not come in time."""


class RequestTimeouts:
    """Answers 408 to a body that does not come in time (RFC 9110, 15.5.9)."""

    def __init__(self, app: ASGIApp, part: float = PART_SECONDS, body: float = BODY_SECONDS):
        self.app = app
        self.part, self.body = part, body

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        loop = asyncio.get_running_loop()
        until = loop.time() + self.body
        begun = complete = False

        async def in_time() -> Message:
            nonlocal complete
            if complete:
                return await receive()
            try:
                async with asyncio.timeout_at(min(until, loop.time() + self.part)):
                    message = await receive()
            except TimeoutError:
                raise TooSlow from None
            complete = not message.get("more_body", False)
            return message

        async def noticed(message: Message) -> None:
            nonlocal begun
            begun = begun or message["type"] == "http.response.start"
            await send(message)

        try:
            await self.app(scope, in_time, noticed)
        except TooSlow:
            if begun:
                return
            fault = Fault("", "The request did not come in time, so nothing was done.", "Send it again.")
            answer = problem(TOO_SLOW, (fault,))
            answer.headers["Connection"] = "close"
            await answer(scope, receive, send)


class PatientProtocol(H11Protocol):
    """HTTP/1.1 that closes a connection whose request head does not end in time."""

    waits: asyncio.TimerHandle | None = None
    held = Connections(MOST_CONNECTIONS)  # of all, in the one process there is

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        self.held.opened(self)
        self._wait()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.cycle is not None and not self.cycle.response_complete:
            self.held.asks(self)
        self._wait()

    def on_response_complete(self) -> None:
        known = self.cycle is not None and bool(self.cycle.scope.get("state", {}).get(ROLE))
        super().on_response_complete()
        self.held.waits(self, known)

    def connection_lost(self, exc: Exception | None) -> None:
        self.held.closed(self)
        if self.waits is not None:
            self.waits.cancel()
        super().connection_lost(exc)

    def _wait(self) -> None:
        """Wait for a head while none is answered; what waits between requests is the server's own matter."""
        answering = self.cycle is not None and not self.cycle.response_complete
        between = self.cycle is not None and self.cycle.response_complete and not self.conn.trailing_data[0]
        if answering or between:
            if self.waits is not None:
                self.waits.cancel()
                self.waits = None
        elif self.waits is None:
            self.waits = self.loop.call_later(HEAD_SECONDS, self._give_up)

    def _give_up(self) -> None:
        self.waits = None
        if not self.transport.is_closing():
            self.transport.close()
