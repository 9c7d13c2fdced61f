"""Runs the tests of the named folders or files, or all: python -m tests [core server/test_show.py … browser].

Files run two at a time, the largest first, each in a process that is forked from one in which what takes
long to import is there already. A single file runs in this process.
"""

import sys
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

from tests.running import HERE, run, run_quietly

FOLDERS = ("core", "exchange", "records", "server", "soak", "cli", "docs", "browser")
AT_ONCE = 2
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
    files = [file for name in sys.argv[1:] or FOLDERS for file in files_of(name)]
    if len(files) == 1:
        passed, failed, said = run(files[0])
        sys.stderr.write(said)
    else:
        passed, failed = run_apart(sorted(files, key=lambda file: -file.stat().st_size))
    sys.stdout.write(f"{passed} passed, {failed} failed\n")
    sys.exit(bool(failed) or not passed)


def files_of(name: str) -> list[Path]:
    """A file of tests, or all those in a folder and below it."""
    place = HERE / name
    return [place] if place.suffix else sorted(place.rglob("test_*.py"))


def run_apart(files: list[Path]) -> tuple[int, int]:
    """Run each file in a process of its own; what it said is shown only where something failed."""
    processes = get_context("forkserver")
    processes.set_forkserver_preload(SLOW_TO_IMPORT)
    passed = failed = 0
    with ProcessPoolExecutor(AT_ONCE, processes, max_tasks_per_child=1) as several:
        for more_passed, more_failed, said in several.map(run_quietly, files):
            passed, failed = passed + more_passed, failed + more_failed
            if more_failed:
                sys.stderr.write(said)
    return passed, failed


if __name__ == "__main__":
    main()
