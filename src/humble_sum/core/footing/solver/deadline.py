"""When a search has to end, and what it tells meanwhile."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from time import monotonic


def _endless() -> float | None:
    return None


def _silent(doing: str, done: int, of: int) -> None:
    pass


def unheard(cost: int | None, bound: int) -> None:
    """Progress is ignored by default."""


@dataclass(frozen=True)
class Clock:
    """`left` says how many seconds are left, None for no limit; nothing is left once it is cancelled.
    `tell` hears what is being done, and how much of how many of that is done; `found` what the best
    choice so far costs, if there is one, and what no choice costs less than."""

    left: Callable[[], float | None] = _endless
    tell: Callable[[str, int, int], None] = _silent
    found: Callable[[int | None, int], None] = unheard

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


def within(clock: Clock, seconds: float) -> Clock:
    """The same clock, over after so many seconds at the latest."""
    end = monotonic() + seconds

    def left() -> float:
        own = clock.left()
        return end - monotonic() if own is None else min(own, end - monotonic())

    return replace(clock, left=left)


class OutOfTime(Exception):
    """The clock ran out inside a step that says nothing until it is done."""
