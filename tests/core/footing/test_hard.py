"""Problems whose relaxations are fractional: their least costs, under a limit, by policy and by size."""

import json
import unittest
from contextlib import suppress
from dataclasses import replace
from decimal import Decimal
from pathlib import Path

from humble_sum.core.footing.certificate import certify, verify
from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.problem import Problem, window_of
from humble_sum.core.footing.problem_json import read_problem
from humble_sum.core.footing.solve import Footed, foot
from humble_sum.core.footing.solver.deadline import OutOfTime, until
from humble_sum.core.statements.policy import Policy
from tests.soak import some

HARD = Path(__file__).parents[2] / "cases/hard"
LIMIT = 60.0  # seconds: many times what any of them takes, so that a slow machine comes to the end too


def opened(name: str) -> Problem:
    return read_problem(json.loads((HARD / f"{name}.json").read_text()))


def as_soon_as_possible(problem: Problem) -> Footed:
    """The plan of a second; of twice as long, and so on, on a machine that has other work to do."""
    for seconds in (1.0, 2.0, 4.0, 8.0, 16.0):
        with suppress(OutOfTime):
            found = foot(problem, until(seconds))
            assert found is not None
            return found
    raise AssertionError("no plan in 16 seconds")


class HardTest(unittest.TestCase):
    def test_each_is_least_and_said_to_be_in_one_of_the_two_words(self) -> None:
        for case in some(json.loads((HARD / "index.json").read_text()), 2):
            with self.subTest(case["name"]):
                problem = opened(case["name"])
                found = foot(problem, until(LIMIT), certify=True)
                assert found is not None and found.bound is not None
                self.assertEqual(found.added_drift, Decimal(case["least_added_drift"]))
                self.assertTrue(found.solver_proved)
                self.assertLessEqual(found.bound, found.added_drift)
                if found.proved:
                    certificate = json.loads(json.dumps(certify(problem, found)))
                    self.assertEqual(verify(problem, certificate).figures, case["figures"])

    def test_little_time_gives_a_plan_that_adds_with_a_bound_that_holds(self) -> None:
        for case in json.loads((HARD / "index.json").read_text()):
            with self.subTest(case["name"]):
                problem, least = opened(case["name"]), Decimal(case["least_added_drift"])
                found = as_soon_as_possible(problem)
                assert found.bound is not None
                self.assertGreaterEqual(found.added_drift, least)
                self.assertLessEqual(found.bound, least)
                if found.proved or found.solver_proved:
                    self.assertEqual(found.added_drift, least)
                for equation in problem.equations:
                    parts = sum(sign * found.printed[id] for id, sign in equation.parts)
                    self.assertEqual(found.printed[equation.total], parts)

    def test_policies_and_holds_are_footed_or_explained(self) -> None:
        problem = opened("tied-statements-1000")
        totals = {equation.total for equation in problem.equations}
        share = Policy(most_change=Decimal("0.05"))
        variants = {
            "totals last": [replace(e, rank=2 if e.id in totals else 0) for e in problem.entries],
            "largest": [replace(e, choosing="largest") for e in problem.entries],
            "fewest": [replace(e, choosing="fewest") for e in problem.entries],
            "guarded": [
                replace(e, window=window_of(e.where, e.own_rounding, share)) for e in problem.entries
            ],
            "held": [
                replace(e, held=e.own_rounding) if n % 4 == 0 else e for n, e in enumerate(problem.entries)
            ],
        }
        for name, entries in some(variants.items(), 2):
            with self.subTest(name):
                changed = replace(problem, entries=tuple(entries))
                found = foot(changed, until(LIMIT))
                if found is not None:
                    self.assertTrue(found.solver_proved)
                    continue
                why = explain(changed, until(LIMIT))
                assert why.release is not None
                freed = [replace(e, held=None) if e.id in why.release else e for e in entries]
                self.assertIsNotNone(foot(replace(problem, entries=tuple(freed)), until(LIMIT)))
