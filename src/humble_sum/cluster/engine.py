"""Jobs on Dask's engine: a cluster of this machine's own, or any scheduler's. Its results come as they are
done; what a lost worker had in hand is done again by another."""

from __future__ import annotations

import logging
from collections.abc import Iterable, Iterator
from contextlib import ExitStack
from typing import TYPE_CHECKING, Any

from humble_sum import __version__
from humble_sum.cluster.jobs import Job, Result, run_job
from humble_sum.core.errors import Fault, InputError

if TYPE_CHECKING:
    from distributed import Client

WAIT = 10  # seconds for a scheduler to answer
TRIES = 5  # workers that may be lost with a job in hand before it counts as failed
AHEAD = 4  # jobs that wait for each worker: what is not sent yet takes no memory there


def run_jobs(
    jobs: Iterable[Job],
    count: int,
    workers: int = 2,
    address: str | None = None,
    memory: str = "2GB",
    in_process: bool = True,
) -> Iterator[tuple[Job, Result]]:
    """Each of so many jobs with its result, as they are done; a job is asked for when there is a worker for
    it. One worker is this process itself, unless it may not be done `in_process`; more are processes with
    so much `memory` each; with an `address`, they are those of its scheduler.

    Raises InputError where the scheduler is not there, goes away, or has workers of another version.
    """
    if in_process and address is None and (workers <= 1 or count <= 1):
        for job in jobs:
            yield job, run_job(job)
        return
    try:
        import distributed
    except ImportError:
        what = "Several workers need Dask's engine, which is not installed."
        raise InputError(
            "no-cluster", Fault("--workers", what, 'pip install "humble-sum[cluster]"')
        ) from None
    # What goes wrong is said once, by us.
    for name in ("distributed", *logging.root.manager.loggerDict):
        if name.startswith(("distributed", "tornado")):
            logging.getLogger(name).setLevel(logging.CRITICAL)
    with ExitStack() as stack:
        where: Any = address
        if address is None:
            _is_memory(memory)
            where = stack.enter_context(
                distributed.LocalCluster(  # type: ignore[no-untyped-call]
                    n_workers=min(workers, count),
                    threads_per_worker=1,
                    memory_limit=memory,
                    dashboard_address=None,
                    silence_logs=logging.ERROR,
                )
            )
        try:
            client = stack.enter_context(distributed.Client(where, timeout=WAIT))  # type: ignore[no-untyped-call]
            _same_version(client, address)
        except (OSError, TimeoutError, ValueError) as error:
            what = f"There is no scheduler at {address}: {error or 'no answer'}."
            raise InputError("no-cluster", Fault("--cluster", what, "Start it, or leave it out.")) from None
        yield from _as_done(client, jobs, address)


def _is_memory(said: str) -> None:
    """Raise InputError where a text says no amount of memory."""
    from dask.utils import parse_bytes

    try:
        parse_bytes(said)
    except (ValueError, KeyError):
        fault = Fault("--memory", f'"{said}" is no amount of memory.', "Write it such as 2GB.")
        raise InputError("no-cluster", fault) from None


def _same_version(client: Client, address: str | None) -> None:
    """Raise InputError where a worker has another version, or none, of this program."""
    client.wait_for_workers(1, timeout=WAIT)
    for worker, version in client.run(_version).items():
        if version != __version__:
            what = f"The worker {worker} has {version or 'no Humble Sum'}, and this is {__version__}."
            raise InputError("no-cluster", Fault("--cluster", what, "Install the same version there."))


def _version() -> str:
    """The version that a worker has; it is sent as code, so that a worker without one can answer."""
    try:
        from importlib.metadata import version

        return version("humble-sum")
    except Exception:
        return ""


def _as_done(client: Client, jobs: Iterable[Job], address: str | None) -> Iterator[tuple[Job, Result]]:
    """The jobs a few at a time, so that no worker is sent more than it can hold."""
    from distributed import CancelledError, KilledWorker, as_completed
    from distributed.comm.core import CommClosedError

    waiting = iter(jobs)
    ahead = max(2, AHEAD * len(client.scheduler_info()["workers"]))
    in_hand: dict[Any, Job] = {}
    done: Any = as_completed()  # type: ignore[no-untyped-call]

    def send() -> None:
        job = next(waiting, None)
        if job is not None:
            future = client.submit(run_job, job, pure=False, retries=TRIES)
            in_hand[future] = job
            done.add(future)

    try:
        for _ in range(ahead):
            send()
        for future in done:
            job = in_hand.pop(future)
            try:
                result = future.result()
            except KilledWorker:
                result = Result(failed=f"{TRIES} workers were lost with it: it may need more memory.")
            send()
            yield job, result
    except (CommClosedError, CancelledError, OSError):
        what = f"The scheduler{f' at {address}' if address else ''} went away."
        remedy = "What was done is kept: run the same again to go on."
        raise InputError("no-cluster", Fault("--cluster", what, remedy)) from None
