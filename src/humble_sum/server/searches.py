"""Searches that go on, each by the name its asker gave it, so that their best plan can be asked for."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from humble_sum.core.errors import Fault, InputError


class Searches:
    """The searches going on."""

    def __init__(self) -> None:
        self._going: dict[str, threading.Event] = {}

    @contextmanager
    def going(self, name: str | None) -> Iterator[threading.Event]:
        """A search under its name; the event is set once its best plan is wanted."""
        event = threading.Event()
        if name is None:
            yield event
            return
        self._going[name] = event
        try:
            yield event
        finally:
            self._going.pop(name, None)

    def end(self, name: str) -> None:
        """Let a search end with the best it has. Raises InputError where none of this name goes on."""
        event = self._going.get(name)
        if event is None:
            raise InputError("no-such-search", Fault("search", "This search is over."))
        event.set()
