"""Runs the tests of the named folders, or all: python -m tests [core exchange … browser].

The browser's run in processes of their own, two at a time: each test has its own server and page, and
most of its time is waiting.
"""

import subprocess
import sys
import unittest
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

HERE = Path(__file__).parent
FOLDERS = ("core", "exchange", "records", "server", "cli", "docs", "browser")
AT_ONCE = 2


def main() -> None:
    """Run what the arguments name, and end with how many passed and failed."""
    named = sys.argv[1:] or FOLDERS
    counts = []
    if here := [name for name in named if name != "browser"]:
        counts.append(run(here))
    if "browser" in named:
        files = sorted(HERE.glob("browser/test_*.py"), key=lambda file: -file.stat().st_size)
        with ThreadPoolExecutor(AT_ONCE) as several:
            counts += several.map(apart, [f"browser/{file.name}" for file in files])
    passed, failed = sum(count[0] for count in counts), sum(count[1] for count in counts)
    sys.stdout.write(f"{passed} passed, {failed} failed\n")
    sys.exit(bool(failed) or not passed)


def run(names: Iterable[str]) -> tuple[int, int]:
    """Run folders or files of tests in this process: how many passed, how many failed."""
    suite = unittest.TestSuite()
    for name in names:
        place = HERE / name
        folder, pattern = (place.parent, place.name) if place.suffix else (place, "test*.py")
        suite.addTests(unittest.TestLoader().discover(str(folder), pattern, str(HERE.parent)))
    result = unittest.TextTestRunner(verbosity=0, buffer=True).run(suite)
    # A test with several failed parts is one failed test.
    tests = {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
    failed = len(tests) + len(result.unexpectedSuccesses)
    return result.testsRun - failed - len(result.skipped), failed


def apart(file: str) -> tuple[int, int]:
    """Run one file in a process of its own; what it said is shown only where something failed."""
    command = [sys.executable, "-m", "tests", file]
    done = subprocess.run(command, capture_output=True, text=True, cwd=HERE.parent, check=False)
    if done.returncode:
        sys.stderr.write(done.stderr)
    *_, last = done.stdout.strip().splitlines() or ["0 passed, 1 failed"]
    passed, _, failed, _ = last.split()
    return int(passed), int(failed)


main()
