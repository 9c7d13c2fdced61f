"""Work that ends when whoever asked for it goes away."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable
from typing import TypeVar

from fastapi import Request
from starlette.concurrency import run_in_threadpool

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.solver.deadline import Clock, OutOfTime, until
from humble_sum.exchange.sources.progress import Progress, Stopped
from humble_sum.server.lanes import Left
from humble_sum.server.problem_registry import STOPPING

EVERY = 0.25  # seconds between two looks
T = TypeVar("T")


async def while_there(request: Request, work: Callable[[threading.Event], T]) -> T:
    """What the work comes to, in a thread; its event is set once nobody waits for it any more. Raises Left
    where the work gave up then."""
    gone = threading.Event()
    task = asyncio.ensure_future(run_in_threadpool(work, gone))
    while not task.done():
        await asyncio.wait({task}, timeout=EVERY)
        if not task.done() and (stops(request) or await request.is_disconnected()):
            gone.set()
    try:
        return task.result()
    except (Stopped, OutOfTime, Left, InputError) as ended:
        if stops(request):
            raise stopped() from None
        if gone.is_set() and not isinstance(ended, InputError):
            raise Left from None
        raise


def stops(request: Request) -> bool:
    """Whether the server was asked to stop."""
    stopping: threading.Event = request.app.state.stopping
    return stopping.is_set()


def stopped() -> InputError:
    """What is said of work that ended because the server does."""
    what = "The server is stopping, so this was given up. Nothing was changed."
    return InputError(STOPPING, Fault("", what, "Do it again when the server is back."))


def clock_of(gone: threading.Event, seconds: float) -> Clock:
    """A clock that runs out after so many seconds, or when nobody waits any more."""
    left = until(seconds).left
    return Clock(lambda: 0.0 if gone.is_set() else left())


def unless(gone: threading.Event) -> Progress:
    """Progress that is not shown; it ends the work once nobody waits."""

    def progress(done: int, total: int, says: str) -> None:
        if gone.is_set():
            raise Stopped

    return progress
