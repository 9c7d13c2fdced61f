"""Runs the tests of the named folders or files, or all: python -m tests [core server/test_show.py … browser].

Files run two at a time, those that take longest first, each in a process that is forked from one in which
what takes long to import is there already. A single file runs in this process. `--times` writes how long each
file took to tests/times.json, by which the next run puts them in order.
"""

import json
import sys
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

from tests.running import HERE, run, run_quietly

FOLDERS = ("core", "exchange", "records", "server", "soak", "cli", "cluster", "docs", "browser")
AT_ONCE = 2
TIMES = HERE / "times.json"
SLOW_TO_IMPORT = [
    "hypothesis.strategies",
    "humble_sum.cli.main",
    "humble_sum.cli.serve",
    "humble_sum.core.footing.solve",
    "openpyxl",
    "scipy.optimize",
    "selenium.webdriver.chrome.webdriver",
    "httpx",
    "xlsxwriter",
]


def main() -> None:
    """Run what the arguments name, and end with how many passed and failed."""
    names = [name for name in sys.argv[1:] if name != "--times"]
    files = [file for name in names or FOLDERS for file in files_of(name)]
    if len(files) == 1:
        passed, failed, said = run(files[0])
        sys.stderr.write(said)
    else:
        passed, failed = run_apart(sorted(files, key=seconds_of, reverse=True), "--times" in sys.argv)
    sys.stdout.write(f"{passed} passed, {failed} failed\n")
    sys.exit(bool(failed) or not passed)


def files_of(name: str) -> list[Path]:
    """A file of tests, or all those in a folder and below it."""
    place = HERE / name
    return [place] if place.suffix else sorted(place.rglob("test_*.py"))


def seconds_of(file: Path) -> float:
    """How long a file took when that was last measured; of a new one, a guess by its size."""
    return times().get(str(file.relative_to(HERE)), file.stat().st_size / 3_000)


def times() -> dict[str, float]:
    """How many seconds each file took when that was last measured."""
    known: dict[str, float] = json.loads(TIMES.read_text(encoding="utf-8")) if TIMES.exists() else {}
    return known


def run_apart(files: list[Path], keeps_times: bool) -> tuple[int, int]:
    """Run each file in a process of its own; what it said is shown only where something failed."""
    processes = get_context("forkserver")
    processes.set_forkserver_preload(SLOW_TO_IMPORT)
    passed = failed = 0
    seconds: dict[str, float] = {}
    in_browser = all(file.is_relative_to(HERE / "browser") for file in files)  # which a process keeps open
    with ProcessPoolExecutor(AT_ONCE, processes, max_tasks_per_child=None if in_browser else 1) as several:
        for file, (more_passed, more_failed, said, took) in zip(
            files, several.map(run_quietly, files), strict=True
        ):
            passed, failed = passed + more_passed, failed + more_failed
            seconds[str(file.relative_to(HERE))] = took
            if more_failed:
                sys.stderr.write(said)
    if keeps_times:
        kept = {name: took for name, took in times().items() if (HERE / name).exists()} | seconds
        TIMES.write_text(json.dumps(dict(sorted(kept.items())), indent=1) + "\n", encoding="utf-8")
    return passed, failed


if __name__ == "__main__":
    main()
