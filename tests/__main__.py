"""Runs the tests of the named folders, or all: python -m tests [core exchange … browser]."""

import sys
import unittest
from pathlib import Path

HERE = Path(__file__).parent
FOLDERS = ("core", "exchange", "records", "server", "cli", "docs", "browser")


def main() -> None:
    suite = unittest.TestSuite()
    for folder in sys.argv[1:] or FOLDERS:
        suite.addTests(unittest.TestLoader().discover(str(HERE / folder), top_level_dir=str(HERE.parent)))
    result = unittest.TextTestRunner(verbosity=0, buffer=True).run(suite)
    # A test with several failed parts is one failed test.
    tests = {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
    failed = len(tests) + len(result.unexpectedSuccesses)
    sys.stdout.write(f"{result.testsRun - failed - len(result.skipped)} passed, {failed} failed\n")
    sys.exit(bool(failed) or not result.testsRun)


main()
