"""Long work answered line by line, and stopped when its reader goes away."""

from __future__ import annotations

import asyncio
import json
import logging
import threading
import time
from collections.abc import AsyncIterator, Callable
from typing import Any

from fastapi import Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel

from humble_sum.core.errors import InputError
from humble_sum.exchange.sources.progress import Progress, Stopped
from humble_sum.server.disconnects import stopped, stops
from humble_sum.server.error_responses import problem
from humble_sum.server.problem_registry import FAULT_OF_OURS

LEAST_PAUSE = 0.05  # seconds between two lines of progress
LOG = logging.getLogger(__name__)


def streamed(
    request: Request, work: Callable[[Progress], BaseModel], result: str = "intake"
) -> StreamingResponse:
    """Answer with the work's progress as lines of JSON, and its result, under that name, or problem as
    the last one."""
    return StreamingResponse(_lines(request, work, result), media_type="application/x-ndjson")


async def _lines(request: Request, work: Callable[[Progress], BaseModel], result: str) -> AsyncIterator[str]:
    loop = asyncio.get_running_loop()
    told: asyncio.Queue[str] = asyncio.Queue()
    done, stop = asyncio.Event(), threading.Event()
    last, said = 0.0, ""

    def tell(line: str) -> None:
        loop.call_soon_threadsafe(told.put_nowait, line)

    def progress(part: int, total: int, what: str) -> None:
        nonlocal last, said
        if stop.is_set() or stops(request):
            raise Stopped
        if what != said or time.monotonic() - last > LEAST_PAUSE:
            last, said = time.monotonic(), what
            tell(json.dumps({"done": part, "total": total, "says": what}) + "\n")

    def refuse(refusal: InputError) -> None:
        body = bytes(problem(refusal.kind, refusal.faults).body).decode()
        tell(f'{{"problem": {body}}}\n')

    def run() -> None:
        try:
            tell(f'{{"{result}": {work(progress).model_dump_json()}}}\n')
        except Stopped:
            if stops(request):
                refuse(stopped())
        except InputError as refusal:
            refuse(refusal)
        except Exception:
            LOG.exception("streamed work failed")
            body = bytes(problem(FAULT_OF_OURS, ()).body).decode()
            tell(f'{{"problem": {body}}}\n')
        finally:
            loop.call_soon_threadsafe(done.set)

    thread = threading.Thread(target=run, daemon=True)
    thread.start()
    waiting: list[asyncio.Future[Any]] = []
    try:
        while not (done.is_set() and told.empty()):
            waiting = [asyncio.ensure_future(told.get()), asyncio.ensure_future(done.wait())]
            finished, others = await asyncio.wait(waiting, return_when=asyncio.FIRST_COMPLETED)
            for task in others:
                task.cancel()
            if waiting[0] in finished:
                yield str(waiting[0].result())
    finally:
        # The reader has all of it, or has gone away.
        stop.set()
        for task in waiting:
            task.cancel()
