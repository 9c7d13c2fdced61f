"""Many packs on processes of this machine: python -m bench many."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Iterator, Mapping
from functools import partial
from pathlib import Path

from bench.packs import tied_pack
from bench.rows import Row, print_part
from humble_sum.cluster.engine import run_jobs
from humble_sum.cluster.jobs import Job, Work, run_job
from humble_sum.cluster.ledger import Ledger
from humble_sum.exchange.pack_json import write_pack

PACKS, LINES = 40, 82  # lines in two statements of five columns: about 1,000 figures
OPTIONS: dict[Work, Mapping[str, object]] = {
    "check": {},
    "foot": {},
    "render": {"formats": ["html", "csv", "markdown", "exact", "printed", "records"]},
}


def rows(tiny: bool = False) -> Iterator[Row]:
    """Packs checked, footed and written by one process and by two workers, and again with nothing changed."""
    count, lines = (4, 6) if tiny else (PACKS, LINES)
    data = [write_pack(tied_pack(lines, 2, seed=seed)) for seed in range(count)]
    jobs = [
        Job(f"p{number}", work, "own", each, options)
        for work, options in OPTIONS.items()
        for number, each in enumerate(data)
    ]
    figures = run_job(jobs[0]).figures
    what = f"{count} packs of {figures:,} figures, checked, footed and written"
    alone = _timed(partial(_plain, jobs))
    one, two = (_timed(partial(_engine, jobs, workers)) for workers in (1, 2))
    yield Row(f"{what}, by two workers", f"{two:.1f} s, {two / alone:.2f} × one process ({alone:.1f} s)")
    yield Row("The engine with one worker, beside one process", f"{one / alone:.2f} ×")
    with tempfile.TemporaryDirectory() as folder:
        ledger = Ledger(Path(folder))
        for job in jobs:
            ledger.keep(job, run_job(job))
        ledger.save()
        again = _timed(partial(_again, jobs, Path(folder)))
    yield Row("The same with nothing changed", f"{again:.2f} s")


def _plain(jobs: list[Job]) -> None:
    for job in jobs:
        run_job(job)


def _engine(jobs: list[Job], workers: int) -> None:
    """What the commands do, with the start of the workers. One worker too is a process of the engine's."""
    for _, result in run_jobs(jobs, len(jobs), workers, in_process=False):
        assert not result.failed, result.failed


def _again(jobs: list[Job], folder: Path) -> None:
    ledger = Ledger(folder)
    assert all(ledger.done(job) is not None for job in jobs)


def _timed(work: partial[None]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


if __name__ == "__main__":
    print_part("many", rows)
