"""How many connections are held: past that the one that has been idle longest gives way to a new one."""

from __future__ import annotations

import logging
import resource
from time import monotonic
from typing import Any, Protocol

WANTED_FILES, LEFT_FOR_RECORDS = 4_096, 224  # files open at once, and those that are no connections
AGAIN = 60.0  # seconds after which trouble of a kind is told again
MOST_KINDS = 1_000
LOGS = ("asyncio", "uvicorn.error", "humble_sum.server.ndjson", "humble_sum.server.error_responses")


class Closing(Protocol):
    """A connection that can be closed."""

    transport: Any


class Connections:
    """The connections that are open, and of them those that wait for a request, the longest waiting first."""

    def __init__(self, most: int):
        self.most = most
        self._open: set[Closing] = set()
        self._idle: dict[Closing, bool] = {}

    def opened(self, connection: Closing) -> None:
        """Hold a new connection. Where there are too many, one that is idle is closed: of somebody who is not
        signed in first, so that places stay for those who are."""
        self._open.add(connection)
        if len(self._open) > self.most:
            strangers = (each for each, known in self._idle.items() if not known)
            given_up = next(strangers, next(iter(self._idle), connection))
            self.closed(given_up)
            given_up.transport.abort()
        if connection in self._open:
            self._idle[connection] = False

    def waits(self, connection: Closing, known: bool) -> None:
        """A connection has had its answer; `known` says that who asked is signed in."""
        if connection in self._open:
            self._idle.pop(connection, None)
            self._idle[connection] = known

    def asks(self, connection: Closing) -> None:
        """A request is being answered on it."""
        self._idle.pop(connection, None)

    def closed(self, connection: Closing) -> None:
        """It is gone."""
        self._open.discard(connection)
        self._idle.pop(connection, None)


def most_connections() -> int:
    """How many connections this process may hold, once it has asked for more files than it is given."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = WANTED_FILES if hard == resource.RLIM_INFINITY else min(hard, WANTED_FILES)
    if soft != resource.RLIM_INFINITY and soft < wanted:
        resource.setrlimit(resource.RLIMIT_NOFILE, (wanted, hard))
        soft = wanted
    files = wanted if soft == resource.RLIM_INFINITY else soft
    return max(16, files - LEFT_FOR_RECORDS)


class OnceAMinute(logging.Filter):
    """Lets one line of each kind of trouble through in a minute."""

    def __init__(self) -> None:
        super().__init__()
        self._told: dict[str, float] = {}

    def filter(self, record: logging.LogRecord) -> bool:
        kind, now = f"{record.name} {record.msg}", monotonic()
        if now - self._told.get(kind, -AGAIN) < AGAIN:
            return False
        if len(self._told) >= MOST_KINDS:
            self._told.clear()
        self._told[kind] = now
        return True


def tell_once_a_minute() -> None:
    """Have the logs of the server tell each kind of trouble at most once a minute."""
    once = OnceAMinute()
    for name in LOGS:
        logging.getLogger(name).addFilter(once)
