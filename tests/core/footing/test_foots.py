import doctest
import subprocess
import sys
import unittest
from decimal import Decimal

from humble_sum import foot
from humble_sum.core.errors import InputError
from humble_sum.core.footing import api as foots
from tests.making import cases


class FootTest(unittest.TestCase):
    def test_examples_of_the_docstring_come_out_as_they_say(self) -> None:
        self.assertEqual(doctest.testmod(foots).failed, 0)

    def test_every_solved_case(self) -> None:
        for case in cases("footing"):
            with self.subTest(case["name"]):
                relations = [(each["total"], each["parts"]) for each in case["relations"]]
                found = foot(case["figures"], relations, case.get("holds"), seconds=600)
                self.assertEqual(found.feasible, case["feasible"])
                if case["feasible"]:
                    self.assertEqual(Decimal(found.added_drift or ""), Decimal(case["optimal_cost"]))

    def test_floats_and_unknown_figures_are_refused(self) -> None:
        for figures, says in (({"a": 10.4}, "binary number"), ({"a": "10.4"}, 'no figure "t"')):
            with self.assertRaisesRegex(InputError, says):
                foot(figures, [("t", [("a", 1)])])  # type: ignore[arg-type]

    def test_programs_that_only_print_start_without_the_solver(self) -> None:
        script = "import humble_sum, sys; sys.exit('scipy' in sys.modules)"
        self.assertEqual(subprocess.run([sys.executable, "-c", script], check=False).returncode, 0)
