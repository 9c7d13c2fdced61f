"""Runs the tests of the named folders or files, or all: python -m tests [core server/test_show.py … browser].

Files run two at a time, the largest first, each in a process that is forked from one in which what takes
long to import is there already. A single file, or all after --here, run in this process.
"""

import io
import os
import sys
import unittest
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

HERE = Path(__file__).parent
FOLDERS = ("core", "exchange", "records", "server", "soak", "cli", "docs", "browser")
AT_ONCE = 2
HERE_ALONE = "--here"
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
    named = [name for name in sys.argv[1:] if name != HERE_ALONE]
    files = [file for name in named or FOLDERS for file in files_of(name)]
    if len(files) == 1 or HERE_ALONE in sys.argv:
        passed, failed, said = run(files)
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


def run_quietly(file: Path) -> tuple[int, int, str]:
    """Run a file of tests, without what programs started by it write."""
    nowhere = os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, 1)
    os.dup2(nowhere, 2)
    return run([file])


def run(files: list[Path]) -> tuple[int, int, str]:
    """Run files of tests in this process: how many passed, how many failed, and what was said."""
    suite = unittest.TestSuite()
    for file in files:
        # By name: to discover a file finds others of its name in the folders below it too.
        suite.addTests(unittest.defaultTestLoader.loadTestsFromName(module_of(file)))
    said = io.StringIO()
    result = unittest.TextTestRunner(said, verbosity=0, buffer=True).run(suite)
    # A test with several failed parts is one failed test.
    tests = {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
    failed = len(tests) + len(result.unexpectedSuccesses)
    return result.testsRun - failed - len(result.skipped), failed, said.getvalue()


def module_of(file: Path) -> str:
    """The name a file of tests is imported by."""
    return ".".join(file.relative_to(HERE.parent).with_suffix("").parts)


if __name__ == "__main__":
    main()
