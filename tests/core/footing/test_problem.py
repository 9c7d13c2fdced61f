"""Footing problems: the solved cases, and random ones against trying every plan."""

import itertools
import random
import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.amounts import amount_text
from humble_sum.core.errors import InputError
from humble_sum.core.footing.problem import Problem, abs_drift
from humble_sum.core.footing.problem_json import answer, read_problem
from humble_sum.core.footing.solve import foot
from tests.making import cases

Bare = dict[str, Any]


def every_plan(problem: Problem) -> list[tuple[Decimal, dict[str, int]]]:
    """Added drift and printed units of every plan that foots."""
    windows = [[e.held] if e.held is not None else list(e.window) for e in problem.entries]
    found = []
    for units in itertools.product(*windows):
        printed = {e.id: u for e, u in zip(problem.entries, units, strict=True)}
        if all(printed[q.total] == sum(s * printed[p] for p, s in q.parts) for q in problem.equations):
            added = sum(
                (abs_drift(e, printed[e.id]) - abs_drift(e, e.own_rounding) for e in problem.entries),
                Decimal(0),
            )
            found.append((added, printed))
    return found


@st.composite
def tables(draw: st.DrawFn) -> Bare:
    """Exact amounts in a two-way table or a tree, with sums, a few ties and holds."""
    tenths = st.integers(-45, 45).map(lambda n: Decimal(n) / 10)
    rows, columns = draw(st.integers(1, 3)), draw(st.integers(1, 2))
    exact = {f"r{r}c{c}": draw(tenths) for r in range(rows) for c in range(columns)}
    relations = []
    for c in range(columns):
        exact[f"Tc{c}"] = sum((exact[f"r{r}c{c}"] for r in range(rows)), Decimal(0))
        relations.append({"total": f"Tc{c}", "parts": [[f"r{r}c{c}", 1] for r in range(rows)]})
    if columns == 2:
        for r in [*range(rows), "T"]:
            name = f"r{r}" if r != "T" else "T"
            exact[f"{name}d"] = exact[f"{name}c0"] - exact[f"{name}c1"]
            relations.append({"total": f"{name}d", "parts": [[f"{name}c0", 1], [f"{name}c1", -1]]})
        relations.append({"total": "Td", "parts": [[f"r{r}d", 1] for r in range(rows)]})
    holds = {}
    for id in sorted(exact):
        if draw(st.integers(0, 7)) == 0:
            holds[id] = int(exact[id]) + draw(st.integers(-1, 1))
    return {
        "figures": {id: amount_text(amount) for id, amount in exact.items()},
        "relations": relations,
        "holds": holds,
    }


class SolvedCasesTest(unittest.TestCase):
    def test_every_case_matches_in_cost_and_in_feasibility(self) -> None:
        for case in cases("footing"):
            with self.subTest(case["name"]):
                bare = {key: case[key] for key in ("figures", "relations", "holds")}
                result = answer(read_problem(bare))
                self.assertEqual(result.feasible, case["feasible"])
                self.assertTrue(result.proved)
                if not case["feasible"]:
                    smallest = case.get("smallest_hold_releases")
                    released = result.release and sorted(result.release)
                    self.assertTrue(
                        released in [sorted(s) for s in smallest] if smallest else released is None
                    )
                    continue
                self.assertEqual(Decimal(result.added_drift or "x"), Decimal(case["optimal_cost"]))
                if case["optimal_solutions_count"] == 1:
                    self.assertEqual(result.printed, case["one_optimal"])
        self.assertEqual(len(cases("footing")), 31)


class RandomTest(unittest.TestCase):
    @settings(max_examples=120)
    @given(tables())
    def test_cost_agrees_with_trying_every_plan(self, bare: Bare) -> None:
        problem = read_problem(bare)
        footed, plans = foot(problem), every_plan(problem)
        if not plans:
            self.assertIsNone(footed)
            return
        assert footed is not None
        least = min(added for added, _ in plans)
        self.assertEqual((footed.added_drift, footed.proved), (least, True))
        self.assertIn(footed.printed, [printed for _, printed in plans])
        fewest = min(
            sum(printed[e.id] != e.own_rounding for e in problem.entries)
            for added, printed in plans
            if added == least
        )
        self.assertEqual(len(footed.moved), fewest)

    @settings(max_examples=60)
    @given(tables(), st.randoms(use_true_random=False))
    def test_the_answer_does_not_hang_on_the_order_of_the_file(
        self, bare: Bare, shuffler: random.Random
    ) -> None:
        def shuffled(items: Any) -> list[Any]:
            listed = list(items)
            shuffler.shuffle(listed)
            return listed

        other = {
            "figures": dict(shuffled(bare["figures"].items())),
            "relations": [r | {"parts": shuffled(r["parts"])} for r in shuffled(bare["relations"])],
            "holds": bare["holds"],
        }
        first, second = answer(read_problem(bare)), answer(read_problem(other))
        self.assertEqual(first.printed, second.printed)
        self.assertEqual(first.release, second.release)

    def test_amounts_longer_than_a_double_are_footed_exactly(self) -> None:
        tail = "0" * 25
        bare = {
            "figures": {
                "a": f"1{tail}.4000000000000000000000000001",
                "b": f"1{tail}.4",
                "t": f"2{tail}.8000000000000000000000000001",
            },
            "relations": [{"total": "t", "parts": [["a", 1], ["b", 1]]}],
        }
        # a is nearer its tipping point than b by one part in 10^28, so a moves.
        result = answer(read_problem(bare))
        self.assertEqual(result.moved, ["a"])
        self.assertEqual(result.added_drift, "0.1999999999999999999999999998")


class AwkwardTest(unittest.TestCase):
    """Problems that are unusual and still have a plain answer."""

    def test_amounts_of_ten_to_the_thirtieth_foot_to_the_last_digit(self) -> None:
        figures = {"a": f"{10**30}.4", "b": f"{10**30}.4", "t": f"{2 * 10**30}.8"}
        bare = {"figures": figures, "relations": [{"total": "t", "parts": [["a", 1], ["b", 1]]}]}
        result = answer(read_problem(bare))
        assert result.printed is not None
        self.assertEqual(sum(result.printed[id] for id in "ab"), result.printed["t"])
        self.assertEqual(
            (result.printed["t"], result.added_drift, result.proved), (2 * 10**30 + 1, "0.2", True)
        )

    def test_a_figure_in_fifty_relations_foots_in_all_of_them(self) -> None:
        figures, relations = {"x": "3.4"}, []
        for n in range(50):
            other = Decimal(n * 37 % 100) / 10
            figures |= {f"y{n}": amount_text(other), f"t{n}": amount_text(other + Decimal("3.4"))}
            relations.append({"total": f"t{n}", "parts": [["x", 1], [f"y{n}", 1]]})
        result = answer(read_problem({"figures": figures, "relations": relations}))
        assert result.printed is not None
        for n in range(50):
            self.assertEqual(result.printed[f"t{n}"], result.printed["x"] + result.printed[f"y{n}"])
        self.assertTrue(result.proved)

    def test_a_relation_said_twice_changes_nothing(self) -> None:
        figures = {"a": "10.4", "b": "10.4", "t": "20.8"}
        once = [{"total": "t", "parts": [["a", 1], ["b", 1]]}]
        turned = [{"total": "t", "parts": [["b", 1], ["a", 1]]}]
        first = answer(read_problem({"figures": figures, "relations": once}))
        self.assertEqual(answer(read_problem({"figures": figures, "relations": once * 3 + turned})), first)

    def test_relations_that_contradict_each_other_are_named(self) -> None:
        figures = {"a": "10.4", "b": "10.4", "c": "30.2", "t": "20.8"}
        parts = [{"total": "t", "parts": [["a", 1], ["b", 1]]}, {"total": "t", "parts": [["a", 1], ["c", 1]]}]
        result = answer(read_problem({"figures": figures, "relations": parts}))
        self.assertEqual((result.feasible, result.release), (False, None))
        # The first can hold alone, the second cannot.
        self.assertEqual(
            [r.model_dump(mode="json")["parts"] for r in result.conflict or ()], [[["a", 1], ["c", 1]]]
        )

    def test_an_odd_circle_of_halves_has_no_plan(self) -> None:
        bare = {
            "figures": {"a": "1.5", "b": "1.5", "c": "1.5", "d": "3.0", "e": "3.0", "f": "3.0"},
            "relations": [
                {"total": "d", "parts": [["a", 1], ["b", 1]]},
                {"total": "e", "parts": [["b", 1], ["c", 1]]},
                {"total": "f", "parts": [["a", 1], ["c", 1]]},
            ],
        }
        # Halves would do, whole numbers cannot.
        self.assertFalse(answer(read_problem(bare)).feasible)


class BadProblemTest(unittest.TestCase):
    def test_each_fault_is_named(self) -> None:
        good: Bare = {"figures": {"a": "1.5"}, "relations": [], "holds": {}}
        for change, said in (
            ({"figures": {}}, "figures"),
            ({"figures": {"a": "NaN"}}, "figures.a"),
            ({"figures": {"a": 1.5}}, "figures.a: 1.5 is a binary number"),
            ({"relations": [{"total": "t", "parts": [["a", 1]]}]}, 'relations[0]: There is no figure "t"'),
            ({"relations": [{"total": "a", "parts": [["a", 2]]}]}, "relations[0].parts[0][1]"),
            ({"relations": [{"total": "a", "parts": []}]}, "relations[0].parts: It has 0 parts, and needs 1"),
            ({"relations": [{"total": "a", "parts": ["a"]}]}, "relations[0].parts[0]: 'a' is not a list."),
            ({"holds": {"zz": 1}}, 'holds.zz: There is no figure "zz"'),
            ({"holds": {"a": 1.5}}, "holds.a"),
            ({"extra": 1}, 'extra: "extra" is not a known name'),
        ):
            with self.subTest(said=said), self.assertRaises(InputError) as caught:
                read_problem(good | change)
            self.assertIn(said, str(caught.exception))
            self.assertEqual(len(caught.exception.faults), 1)
