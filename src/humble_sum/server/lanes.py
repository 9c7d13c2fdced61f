"""Lanes for long work: each lets so many through at once and so many wait, and turns the others away.

Whatever is asked of the server, most of its threads stay free for what is quick. Who is turned away is told
when to come again (RFC 9110, 10.2.3).
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from time import monotonic

from starlette.responses import Response

from humble_sum.core.errors import Fault, InputError
from humble_sum.server.problem_registry import TOO_BUSY

LOOK_AGAIN = 0.2  # seconds between two looks whether who waits is still there


class TooBusy(InputError):
    """A lane that is full: what it does, and after how many seconds it may have room."""

    def __init__(self, doing: str, again: int):
        what = f"Too much is being worked out at once ({doing})."
        super().__init__(TOO_BUSY, Fault("", what, f"Do it again in {again} seconds."))
        self.again = again


NOBODY = Response(status_code=499)  # is sent to no one


class Left(Exception):
    """Whoever asked has gone away while waiting."""


@dataclass
class Lane:
    """One sort of long work: `at_once` go on, `waiting` wait for at most `longest_wait` seconds."""

    doing: str
    at_once: int
    waiting: int
    longest_wait: float
    _in: int = 0
    _queue: int = 0
    _turn: threading.Condition = field(default_factory=threading.Condition)

    @contextmanager
    def taken(self, gone: Callable[[], bool] = lambda: False) -> Iterator[None]:
        """A place in the lane, once there is one. Raises TooBusy where none comes free in time, and Left
        where its asker has gone."""
        self._enter(gone)
        try:
            yield
        finally:
            with self._turn:
                self._in -= 1
                self._turn.notify()

    @property
    def going(self) -> int:
        """How many go on."""
        return self._in

    def refuse_if_full(self) -> None:
        """Turn away before an answer begins. Raises TooBusy."""
        with self._turn:
            if self._in >= self.at_once and self._queue >= self.waiting:
                raise TooBusy(self.doing, round(self.longest_wait))

    def _enter(self, gone: Callable[[], bool]) -> None:
        self.refuse_if_full()
        with self._turn:
            self._queue += 1
            try:
                until = monotonic() + self.longest_wait
                while self._in >= self.at_once:
                    if gone():
                        raise Left
                    if monotonic() > until:
                        raise TooBusy(self.doing, round(self.longest_wait))
                    self._turn.wait(LOOK_AGAIN)
                self._in += 1
            finally:
                self._queue -= 1


@dataclass
class Lanes:
    """The lanes of one server."""

    planning: Lane = field(default_factory=lambda: Lane("looking for plans", 2, 6, 20))
    trials: Lane = field(default_factory=lambda: Lane("trying changes out", 3, 8, 10))
    intakes: Lane = field(default_factory=lambda: Lane("reading files", 2, 4, 20))
    files: Lane = field(default_factory=lambda: Lane("writing files", 2, 6, 20))
