"""Progress of long work, which its owner can stop."""

from __future__ import annotations

from collections.abc import Callable

# Told how much is done, of how much, and what is being done. It stops the work by raising Stopped.
Progress = Callable[[int, int, str], None]


class Stopped(Exception):
    """The work was stopped by its owner. Nothing of it is kept."""


def unheard(done: int, total: int, what: str) -> None:
    """Progress that nobody follows."""
