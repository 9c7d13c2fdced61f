"""Stopping the server: what goes on is ended, the records are left in one file, and soon nothing runs."""

from __future__ import annotations

import asyncio
import os
import signal
import threading
from collections.abc import AsyncIterator, Callable
from contextlib import AbstractAsyncContextManager, asynccontextmanager
from types import FrameType

import uvicorn
from fastapi import FastAPI
from starlette.concurrency import run_in_threadpool

from humble_sum.records.database import Database

FOR_ANSWERS = 1  # seconds that answers under way get once the server is asked to stop
FOR_ALL = 2.0  # seconds after which the program ends whatever still runs
IDLE = 2.0  # seconds without a change after which the records are put in one file
SIGNALED = 128  # what a shell adds to a signal for the exit code


class StoppableServer(uvicorn.Server):
    """A server that ends searches and other long work when it is asked to stop, and itself soon after."""

    def __init__(self, config: uvicorn.Config, stopping: threading.Event, last: Callable[[], None]):
        super().__init__(config)
        self.stopping, self.last = stopping, last

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        if not self.stopping.is_set():
            self.stopping.set()
            end = threading.Timer(FOR_ALL, self._end, (sig,))
            end.daemon = True
            end.start()
        super().handle_exit(sig, frame)

    def _end(self, sig: int) -> None:
        """End the program though threads still run. What they had begun to write is not kept."""
        self.last()
        os._exit(0 if sig == signal.SIGINT else SIGNALED + sig)


def tidying(
    database: Database, rest: Callable[[], None]
) -> Callable[[FastAPI], AbstractAsyncContextManager[None]]:
    """What puts the records in one file whenever no change has come for a while, and at the end; and has the
    desk `rest` where nobody asks for anything."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        task = asyncio.create_task(_when_idle(database, rest))
        try:
            yield
        finally:
            task.cancel()
            await run_in_threadpool(database.close)

    return lifespan


async def _when_idle(database: Database, rest: Callable[[], None]) -> None:
    while True:
        await asyncio.sleep(IDLE)
        await run_in_threadpool(rest)
        if database.idle_for() > IDLE:
            await run_in_threadpool(database.checkpoint)
