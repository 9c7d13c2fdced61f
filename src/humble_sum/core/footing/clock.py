"""When a search has to end, and what it tells meanwhile."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from time import monotonic


def _endless() -> float | None:
    return None


def _silent(doing: str, done: int, of: int) -> None:
    pass


@dataclass(frozen=True)
class Clock:
    """`left` says how many seconds are left, None for no limit; nothing is left once it is cancelled.
    `tell` hears what is being done, and how much of how many of that is done."""

    left: Callable[[], float | None] = _endless
    tell: Callable[[str, int, int], None] = _silent

    @property
    def over(self) -> bool:
        left = self.left()
        return left is not None and left <= 0


ENDLESS = Clock()


def until(seconds: float | None) -> Clock:
    """A clock that runs out after so many seconds, if any."""
    if seconds is None:
        return ENDLESS
    end = monotonic() + seconds
    return Clock(lambda: end - monotonic())


class OutOfTime(Exception):
    """The clock ran out inside a step that says nothing until it is done."""
