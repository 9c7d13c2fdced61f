"""Running files of tests in this process."""

from __future__ import annotations

import io
import os
import time
import unittest
from pathlib import Path

HERE = Path(__file__).parent


def run_quietly(file: Path) -> tuple[int, int, str, float]:
    """Run a file of tests, without what programs started by it write; last the seconds that it took."""
    began = time.monotonic()
    nowhere = os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, 1)
    os.dup2(nowhere, 2)
    return *run(file), round(time.monotonic() - began, 1)


def run(file: Path) -> tuple[int, int, str]:
    """Run a file of tests in this process: how many passed, how many failed, and what was said."""
    # By name: to discover a file finds others of its name in the folders below it too.
    suite = unittest.defaultTestLoader.loadTestsFromName(module_of(file))
    said = io.StringIO()
    result = unittest.TextTestRunner(said, verbosity=0, buffer=True).run(suite)
    # A test with several failed parts is one failed test.
    tests = {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
    failed = len(tests) + len(result.unexpectedSuccesses)
    return result.testsRun - failed - len(result.skipped), failed, said.getvalue()


def module_of(file: Path) -> str:
    """The name a file of tests is imported by."""
    return ".".join(file.relative_to(HERE.parent).with_suffix("").parts)
