"""Runs the tests of the named folders or files, or all: python -m tests [core server/test_show.py … browser].

Files run in processes of their own, two at a time, the largest first, and small ones several in one. A
single file, or all after --here, run in this process.
"""

import subprocess
import sys
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

HERE = Path(__file__).parent
FOLDERS = ("core", "exchange", "records", "server", "soak", "cli", "docs", "browser")
AT_ONCE = 2
SMALL, TOGETHER = 14_000, 60_000  # bytes of a file that shares a process, and of those that share one
HERE_ALONE = "--here"


def main() -> None:
    """Run what the arguments name, and end with how many passed and failed."""
    named = [name for name in sys.argv[1:] if name != HERE_ALONE]
    files = [file for name in named or FOLDERS for file in files_of(name)]
    if len(files) == 1 or HERE_ALONE in sys.argv:
        counts = [run(files)]
    else:
        with ThreadPoolExecutor(AT_ONCE) as several:
            counts = list(several.map(apart, batches(files)))
    passed, failed = sum(count[0] for count in counts), sum(count[1] for count in counts)
    sys.stdout.write(f"{passed} passed, {failed} failed\n")
    sys.exit(bool(failed) or not passed)


def files_of(name: str) -> list[Path]:
    """A file of tests, or all those in a folder and below it."""
    place = HERE / name
    return [place] if place.suffix else sorted(place.rglob("test_*.py"))


def batches(files: list[Path]) -> list[list[Path]]:
    """The files to run in one process each, the largest first: to start one takes longer than many a file."""
    found: list[list[Path]] = [[]]
    for file in sorted(files, key=lambda file: -file.stat().st_size):
        small = file.parent.name != "browser" and file.stat().st_size < SMALL
        room = sum(each.stat().st_size for each in found[-1]) < TOGETHER
        if small and found[-1] and found[-1][0].stat().st_size < SMALL and room:
            found[-1].append(file)
        else:
            found.append([file])
    return [batch for batch in found if batch]


def run(files: list[Path]) -> tuple[int, int]:
    """Run files of tests in this process: how many passed, how many failed."""
    suite = unittest.TestSuite()
    for file in files:
        # By name: to discover a file finds others of its name in the folders below it too.
        suite.addTests(unittest.defaultTestLoader.loadTestsFromName(module_of(file)))
    result = unittest.TextTestRunner(verbosity=0, buffer=True).run(suite)
    # A test with several failed parts is one failed test.
    tests = {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
    failed = len(tests) + len(result.unexpectedSuccesses)
    return result.testsRun - failed - len(result.skipped), failed


def module_of(file: Path) -> str:
    """The name a file of tests is imported by."""
    return ".".join(file.relative_to(HERE.parent).with_suffix("").parts)


def apart(files: list[Path]) -> tuple[int, int]:
    """Run files in a process of their own; what they said is shown only where something failed."""
    named = [str(file.relative_to(HERE)) for file in files]
    command = [sys.executable, "-m", "tests", HERE_ALONE, *named]
    done = subprocess.run(command, capture_output=True, text=True, cwd=HERE.parent, check=False)
    if done.returncode:
        sys.stderr.write(done.stderr)
    *_, last = done.stdout.strip().splitlines() or ["0 passed, 1 failed"]
    passed, _, failed, _ = last.split()
    return int(passed), int(failed)


main()
