"""Each part of the bench runs to its end, on next to nothing; what it measures so is no measure."""

from __future__ import annotations

import contextlib
import io
import unittest

from bench.__main__ import PARTS, measured
from bench.rows import table

IN_THE_BROWSER = {"repaint"}  # tests/browser runs it


class BenchTest(unittest.TestCase):
    def test_every_part_runs_to_its_end(self) -> None:
        said = io.StringIO()
        with contextlib.redirect_stderr(said):
            parts = [(name, measured(name, tiny=True)) for name in PARTS if name not in IN_THE_BROWSER]
        self.assertTrue(all(rows for _, rows in parts))
        lines = table(parts).splitlines()
        self.assertEqual(len(lines), len(parts) + sum(len(rows) for _, rows in parts))
        told = [f"{name}: {row.what}: {row.measured}" for name, rows in parts for row in rows]
        self.assertLessEqual({*told}, {*said.getvalue().splitlines()}, "each is told as it comes")


if __name__ == "__main__":
    unittest.main()
