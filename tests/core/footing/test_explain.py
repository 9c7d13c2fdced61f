import itertools
import unittest

from hypothesis import given, settings

from humble_sum.core.footing.explain import explain, feasible
from humble_sum.core.footing.problem import Problem, drop_equations
from humble_sum.core.footing.problem_json import read_problem
from humble_sum.core.footing.solve import foot
from tests.core.footing.test_problem import Bare, tables


def without_holds(bare: Bare, released: tuple[str, ...]) -> Problem:
    holds = {id: units for id, units in bare["holds"].items() if id not in released}
    return read_problem(bare | {"holds": holds})


class ExplainTest(unittest.TestCase):
    @settings(max_examples=100)
    @given(tables())
    def test_the_release_settles_it_and_none_is_smaller(self, bare: Bare) -> None:
        problem = read_problem(bare)
        if foot(problem) is not None:
            return
        why = explain(problem)
        assert why.release is not None  # without holds a table of this shape always foots
        self.assertTrue(why.proved)
        self.assertIsNotNone(foot(without_holds(bare, why.release)))
        for smaller in itertools.combinations(bare["holds"], len(why.release) - 1):
            self.assertIsNone(foot(without_holds(bare, smaller)))

    @settings(max_examples=60)
    @given(tables())
    def test_the_conflict_cannot_hold_and_each_of_it_is_needed(self, bare: Bare) -> None:
        problem = read_problem(bare)
        if foot(problem) is not None:
            return
        numbers = [problem.equations.index(equation) for equation in explain(problem).conflict]
        self.assertFalse(feasible(drop_equations(problem, numbers)))
        for left_out in numbers:
            self.assertTrue(feasible(drop_equations(problem, [n for n in numbers if n != left_out])))

    def test_where_no_hold_is_to_blame_no_release_is_offered(self) -> None:
        pairs = [("ab", "a", "b"), ("bc", "b", "c"), ("ac", "a", "c")]
        bare = {
            "figures": {"a": "0.5", "b": "0.5", "c": "0.5", "ab": "1", "bc": "1", "ac": "1"},
            "relations": [{"total": t, "parts": [[x, 1], [y, 1]]} for t, x, y in pairs],
        }
        why = explain(read_problem(bare))
        self.assertIsNone(why.release)
        self.assertEqual(len(why.conflict), 3)

    def test_holds_of_any_length_are_answered(self) -> None:
        bare: Bare = {
            "figures": {"a": "10.4", "b": "10.4", "t": "20.8", "c": "1.5", "d": "1.5", "u": "3"},
            "relations": [
                {"total": "t", "parts": [["a", 1], ["b", 1]]},
                {"total": "u", "parts": [["c", 1], ["d", 1]]},
            ],
            "holds": {"t": 10**30, "a": 11, "c": 2, "d": 2},
        }
        why = explain(read_problem(bare))
        # The far one is released without being weighed, so that fewest is not claimed.
        self.assertEqual((why.release, why.proved), (("d", "t"), False))
        self.assertIsNotNone(foot(without_holds(bare, why.release or ())))
        consistent = bare | {"holds": {"t": 10**30, "a": 10**30 - 10, "b": 10}}
        self.assertIsNotNone(foot(read_problem(consistent)))
