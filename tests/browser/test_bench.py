"""The part of the bench that measures a browser runs to its end."""

from __future__ import annotations

import unittest

from bench.repaint import rows


class BenchTest(unittest.TestCase):
    def test_keys_are_timed_to_the_painted_page(self) -> None:
        self.assertEqual(len(list(rows(tiny=True))), 4)


if __name__ == "__main__":
    unittest.main()
