"""Runs the tests of the named folders or files, or all: python -m tests [core server/test_show.py … browser].

Files run in processes of their own, two at a time, the largest first; a single one runs in this process.
"""

import subprocess
import sys
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

HERE = Path(__file__).parent
FOLDERS = ("core", "exchange", "records", "server", "cli", "docs", "browser")
AT_ONCE = 2


def main() -> None:
    """Run what the arguments name, and end with how many passed and failed."""
    files = [file for name in sys.argv[1:] or FOLDERS for file in files_of(name)]
    if len(files) == 1:
        counts = [run(files[0])]
    else:
        files.sort(key=lambda file: -file.stat().st_size)
        with ThreadPoolExecutor(AT_ONCE) as several:
            counts = list(several.map(apart, files))
    passed, failed = sum(count[0] for count in counts), sum(count[1] for count in counts)
    sys.stdout.write(f"{passed} passed, {failed} failed\n")
    sys.exit(bool(failed) or not passed)


def files_of(name: str) -> list[Path]:
    """A file of tests, or all those in a folder and below it."""
    place = HERE / name
    return [place] if place.suffix else sorted(place.rglob("test_*.py"))


def run(file: Path) -> tuple[int, int]:
    """Run one file of tests in this process: how many passed, how many failed."""
    suite = unittest.TestLoader().discover(str(file.parent), file.name, str(HERE.parent))
    result = unittest.TextTestRunner(verbosity=0, buffer=True).run(suite)
    # A test with several failed parts is one failed test.
    tests = {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
    failed = len(tests) + len(result.unexpectedSuccesses)
    return result.testsRun - failed - len(result.skipped), failed


def apart(file: Path) -> tuple[int, int]:
    """Run one file in a process of its own; what it said is shown only where something failed."""
    command = [sys.executable, "-m", "tests", str(file.relative_to(HERE))]
    done = subprocess.run(command, capture_output=True, text=True, cwd=HERE.parent, check=False)
    if done.returncode:
        sys.stderr.write(done.stderr)
    *_, last = done.stdout.strip().splitlines() or ["0 passed, 1 failed"]
    passed, _, failed, _ = last.split()
    return int(passed), int(failed)


main()
