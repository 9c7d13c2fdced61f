"""Ctrl-C and SIGTERM end a search with the best plan that it has found, and a second one ends the program."""

from __future__ import annotations

import signal
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field

import typer

from humble_sum.core.errors import InputError
from humble_sum.core.footing.solver.deadline import Clock, until

SIGNALED = 128  # what a shell adds to a signal for the exit code: 130 and 143


@dataclass
class Stop:
    """A clock that is over once the program is asked to stop, and the signal that asked."""

    seconds: float | None
    asked: int | None = None
    clock: Clock = field(init=False)

    def __post_init__(self) -> None:
        limit = until(self.seconds)
        self.clock = Clock(lambda: limit.left() if self.asked is None else 0.0)


@contextmanager
def stoppable(seconds: float | None) -> Iterator[Stop]:
    """Within, the signals end the search and not the program. Afterwards the program says so, and exits by
    the signal's code."""
    stop = Stop(seconds)
    before = {each: signal.getsignal(each) for each in (signal.SIGINT, signal.SIGTERM)}

    def ask(number: int, frame: object) -> None:
        stop.asked = number
        for each, handler in before.items():
            signal.signal(each, handler)

    for each in before:
        signal.signal(each, ask)
    try:
        yield stop
    except InputError:
        if stop.asked is None:
            raise
        print("Stopped before there was any plan. Nothing is written.", file=sys.stderr)
    finally:
        for each, handler in before.items():
            signal.signal(each, handler)
    if stop.asked is not None:
        raise typer.Exit(SIGNALED + stop.asked)


def say_stopped(stop: Stop) -> None:
    """Say that what is given is the best so far, where the search was stopped."""
    if stop.asked is not None:
        print("Stopped. This is the best plan found so far; it is not proved.", file=sys.stderr)
