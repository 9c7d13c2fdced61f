import itertools
import unittest
from dataclasses import replace

from hypothesis import given, settings

from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.problem import Problem
from humble_sum.core.footing.problem_json import read_problem
from humble_sum.core.footing.solve import foot
from tests.core.footing.test_problem import Bare, tables


def without_holds(bare: Bare, released: tuple[str, ...]) -> Problem:
    holds = {id: units for id, units in bare["holds"].items() if id not in released}
    return read_problem(bare | {"holds": holds})


def only(problem: Problem, numbers: list[int]) -> Problem:
    """The problem with only these equations."""
    return replace(problem, equations=tuple(problem.equations[number] for number in numbers))


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
        self.assertIsNone(foot(only(problem, numbers)))
        for left_out in numbers:
            fewer = only(problem, [n for n in numbers if n != left_out])
            self.assertIsNotNone(foot(fewer))

    def test_what_only_whole_numbers_contradict_is_told_by_the_relations_of_it(self) -> None:
        """Averages, 2a = b + c, in a chain: its ends are both even or both odd, and are held otherwise."""
        figures = {f"x{n:03d}": f"{100 + 7 * n}.25" for n in range(120)}
        figures |= {f"y{n:03d}": f"{103 + 7 * n}.75" for n in range(119)}
        relations = [
            {"total": f"x{n:03d}", "parts": [[f"y{n:03d}", 1], [f"y{n:03d}", 1], [f"x{n + 1:03d}", -1]]}
            for n in range(119)
        ]
        holds = {"x050": 450, "x058": 507}
        problem = read_problem({"figures": figures, "relations": relations, "holds": holds})
        self.assertIsNone(foot(problem))
        why = explain(problem)
        self.assertEqual([each.total for each in why.conflict], [f"x{n:03d}" for n in range(50, 58)])
        self.assertTrue(why.smallest)
        self.assertIn(why.release, (("x050",), ("x058",)))

    def test_of_parts_that_have_nothing_to_do_with_it_nothing_is_said(self) -> None:
        bare: Bare = {"figures": {}, "relations": [], "holds": {}}
        for part, held in (("a", 2), ("b", 5), ("c", 2)):
            bare["figures"] |= {f"{part}1": "0.5", f"{part}2": "1.5", f"{part}t": "2"}
            bare["relations"].append({"total": f"{part}t", "parts": [[f"{part}1", 1], [f"{part}2", 1]]})
            bare["holds"] |= {f"{part}t": held}
        why = explain(read_problem(bare))
        self.assertEqual((why.release, [each.total for each in why.conflict]), (("bt",), ["bt"]))
        self.assertTrue(why.proved and why.smallest)

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
        # One of each part, and no part does with none.
        self.assertEqual((why.release, why.proved), (("d", "t"), True))
        self.assertIsNotNone(foot(without_holds(bare, why.release or ())))
        consistent = bare | {"holds": {"t": 10**30, "a": 10**30 - 10, "b": 10}}
        self.assertIsNotNone(foot(read_problem(consistent)))
