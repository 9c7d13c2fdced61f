"""A forged certificate for each refusal: it would pass if the check did not look there."""

from __future__ import annotations

import json
import unittest
from typing import Any
from unittest.mock import patch

from humble_sum.core.errors import InputError
from humble_sum.core.footing import certificate
from humble_sum.core.footing.certificate import MOST_TRIED, Rejected, certify, digest, verify
from humble_sum.core.footing.problem import Problem
from humble_sum.core.footing.problem_json import read_problem
from humble_sum.core.footing.solve import foot
from humble_sum.core.footing.solver import program

ALONE: dict[str, Any] = {"total": "t", "parts": [["a", 1], ["b", 1]]}
FIGURES = {"a": "10.4", "b": "10.4", "t": "20.8"}
# The cost of a and b is 0 or 2, of t 6 or 0; the second tier counts what is not its own rounding.
PAIR = read_problem({"figures": FIGURES, "relations": [ALONE]})
LEAST = {"a": 10, "b": 11, "t": 21}
GOOD = {"weights": {"0": "3", "1": "1"}, "fineness": "1", "prices": {"0": "-7"}}


def told(
    problem: Problem, printed: dict[str, Any], *steps: dict[str, Any], relations: tuple[int, ...] = (0,)
) -> dict[str, Any]:
    """A certificate of one part."""
    return {
        "format": "humble-sum certificate",
        "version": 1,
        "problem": digest(problem),
        "printed": printed,
        "parts": [{"relations": list(relations), "steps": list(steps)}],
    }


def summed(count: int) -> tuple[Problem, dict[str, int]]:
    """A total of so many halves, and a plan of them."""
    figures = {f"p{n}": "0.5" for n in range(count)} | {"t": str(count / 2)}
    parts = [[f"p{n}", 1] for n in range(count)]
    problem = read_problem({"figures": figures, "relations": [{"total": "t", "parts": parts}]})
    printed = {f"p{n}": int(n < count // 2) for n in range(count)} | {"t": count // 2}
    return problem, printed


class ForgedTest(unittest.TestCase):
    def refused(self, problem: Problem, forged: object, why: str) -> None:
        with self.assertRaises(Rejected) as caught:
            verify(problem, forged)
        self.assertIn(why, str(caught.exception))

    def test_the_true_one_is_accepted(self) -> None:
        found = verify(PAIR, told(PAIR, LEAST, GOOD))
        self.assertEqual((found.relations, found.figures, found.steps), (1, 3, 1))
        first = {"weights": {"0": "1"}, "fineness": "1", "prices": {"0": "-2"}}
        then = {"weights": {"1": "1"}, "fineness": "1", "prices": {"0": "-1"}}
        self.assertEqual(verify(PAIR, told(PAIR, LEAST, first, then)).steps, 2)
        verify(PAIR, told(PAIR, LEAST, {"every": True}))

    def test_what_is_no_certificate_of_this_problem(self) -> None:
        good = told(PAIR, LEAST, GOOD)
        for wrong in ({"format": "another"}, {"version": 2}, {"problem": "0" * 64}):
            with self.subTest(wrong), self.assertRaises(InputError):
                verify(PAIR, good | wrong)

    def test_a_certificate_stays_that_of_its_problem(self) -> None:
        """The digest that certificates of other days have: of figures with names in any script."""
        named = read_problem({"figures": {"Umsätze": "10.4", "总": "10.4"}, "relations": []})
        self.assertEqual(digest(named), "0ddbcac37bffcec258881b2fe613864760842aa91f3645d874cb6b22698e8abc")

    def test_a_figure_may_print_only_what_its_window_has(self) -> None:
        self.refused(PAIR, told(PAIR, LEAST | {"a": 12, "t": 23}, GOOD), "may not print 12")
        held = read_problem({"figures": FIGURES, "relations": [ALONE], "holds": {"a": 11}})
        self.refused(held, told(held, LEAST, GOOD), "may not print 10")
        small = read_problem({"figures": {"x": "0.6"}, "relations": []})
        self.refused(small, told(small, {"x": True}, relations=()), "may not print True")

    def test_the_plan_has_to_add(self) -> None:
        self.refused(PAIR, told(PAIR, {"a": 10, "b": 10, "t": 21}, GOOD), "the sum of its parts")

    def test_every_relation_is_in_one_part(self) -> None:
        good = told(PAIR, LEAST, GOOD)
        self.refused(PAIR, good | {"parts": []}, "1 relations are in no part")
        other = {"total": "u", "parts": [["c", 1]]}
        both = read_problem({"figures": FIGURES | {"c": "2", "u": "2"}, "relations": [ALONE, other]})
        self.refused(both, told(both, LEAST | {"c": 2, "u": 2}, GOOD), "1 relations are in no part")
        self.refused(PAIR, good | {"parts": good["parts"] * 2}, "figure in common")

    def test_a_figure_of_no_part_prints_its_own_least(self) -> None:
        more = read_problem({"figures": FIGURES | {"c": "10.6"}, "relations": [ALONE]})
        verify(more, told(more, LEAST | {"c": 11}, GOOD))
        self.refused(more, told(more, LEAST | {"c": 10}, GOOD), "c could print something less")
        held = read_problem({"figures": FIGURES | {"c": "10.6"}, "relations": [ALONE], "holds": {"c": 10}})
        verify(held, told(held, LEAST | {"c": 10}, GOOD))

    def test_a_step_shows_what_it_says(self) -> None:
        nothing = "Nothing shows that a"
        self.refused(PAIR, told(PAIR, LEAST), nothing)
        self.refused(PAIR, told(PAIR, LEAST, GOOD | {"prices": {"0": "-6"}}), nothing)
        self.refused(PAIR, told(PAIR, LEAST, GOOD | {"fineness": "0"}), nothing)
        self.refused(PAIR, told(PAIR, LEAST, GOOD | {"fineness": "-1"}), "no less than nothing")
        dear = {"a": 10, "b": 10, "t": 20}
        self.refused(PAIR, told(PAIR, dear, GOOD), nothing)

    def test_a_step_weighs_tiers_that_there_are(self) -> None:
        for weights in ({}, {"-1": "1"}, {"2": "1"}, {"0": "0"}, {"0": "-1"}):
            with self.subTest(weights):
                self.refused(PAIR, told(PAIR, LEAST, GOOD | {"weights": weights}), "weighs what there is not")

    def test_no_step_passes_over_what_comes_first(self) -> None:
        later = {"weights": {"1": "1"}, "fineness": "1", "prices": {"0": "-1"}}
        self.refused(PAIR, told(PAIR, LEAST, later), "passes over what comes first")

    def test_what_comes_first_weighs_more_than_all_after_it(self) -> None:
        """All that comes after can be less by two, so a weight of two would let it decide."""
        light = {"weights": {"0": "2", "1": "1"}, "fineness": "1", "prices": {"0": "-5"}}
        self.refused(PAIR, told(PAIR, LEAST, light), "does not weigh more")
        # What is proved by then needs no weight: here both tiers weigh the same.
        first = {"weights": {"0": "1"}, "fineness": "1", "prices": {"0": "-2"}}
        both = {"weights": {"0": "1", "1": "1"}, "fineness": "1", "prices": {"0": "-3"}}
        verify(PAIR, told(PAIR, LEAST, first, both))

    def test_each_half_is_shown(self) -> None:
        shown = {"fineness": "1", "prices": {"0": "-7"}}
        half = {"figure": "a", "at_most": 10, "below": shown, "above": shown}
        verify(PAIR, told(PAIR, LEAST, {"weights": GOOD["weights"], "halves": half}))
        nothing = {"fineness": "0", "prices": {}}
        for false in (half | {"below": nothing | {"fineness": "1"}}, half | {"above": nothing}):
            step = {"weights": GOOD["weights"], "halves": false}
            self.refused(PAIR, told(PAIR, LEAST, step), "A half of the plans is not shown")

    def test_a_half_that_is_empty_needs_nothing(self) -> None:
        shown = {"fineness": "1", "prices": {"0": "-7"}}
        for at_most, side in ((9, "above"), (11, "below")):
            half = {"figure": "a", "at_most": at_most, side: shown}
            verify(PAIR, told(PAIR, LEAST, {"weights": GOOD["weights"], "halves": half}))

    def test_halves_that_were_found_are_accepted_and_no_others(self) -> None:
        """An odd circle: its relaxation prints every figure at a half, so prices alone prove nothing."""
        circle = {f"x{n}": "0.4" for n in range(3)} | {f"y{n}": "0.2" for n in range(3)}
        sums = [
            {"total": f"t{n}", "parts": [[f"x{n}", 1], [f"x{(n + 1) % 3}", 1], [f"y{n}", 1]]}
            for n in range(3)
        ]
        problem = read_problem(
            {"figures": circle | dict.fromkeys(("t0", "t1", "t2"), "1"), "relations": sums}
        )
        with patch.object(program, "FEW", 0):
            found = foot(problem, certify=True)
        assert found is not None and found.proved
        made = json.loads(json.dumps(certify(problem, found)))
        halved = [step for part in made["parts"] for step in part["steps"] if "halves" in step]
        self.assertTrue(halved, "halves were needed")
        verify(problem, made)
        for step in halved:
            step["halves"]["at_most"] += 1
        with self.assertRaises(Rejected):
            verify(problem, made)

    def test_a_half_without_a_plan_is_shown_without_costs(self) -> None:
        """With a held at 10 and b at 11 there is none where t is 20: prices alone show it."""
        shown = {"fineness": "1", "prices": {"0": "-7"}}
        half = {"figure": "t", "at_most": 20, "below": shown, "above": shown}
        held = read_problem({"figures": FIGURES, "relations": [ALONE], "holds": {"a": 10, "b": 11}})
        for price, holds in (("1", True), ("-1", False)):
            none = {"fineness": "0", "prices": {"0": price}}
            step = {"weights": GOOD["weights"], "halves": half | {"below": none}}
            if holds:
                verify(held, told(held, LEAST, step))
            else:
                self.refused(held, told(held, LEAST, step), "is not shown")

    def test_every_plan_is_tried_or_there_are_too_many(self) -> None:
        self.refused(PAIR, told(PAIR, {"a": 10, "b": 10, "t": 20}, {"every": True}), "Another plan is less")
        few, printed = summed(8)
        verify(few, told(few, printed, {"every": True}))
        many, printed = summed(16)
        self.assertGreater(2**16, MOST_TRIED)
        self.refused(many, told(many, printed, {"every": True}), "too many plans")
        few, printed = summed(8)
        for most, tried in ((2**8, True), (2**8 - 1, False)):
            with patch.object(certificate, "MOST_TRIED", most):
                if tried:
                    verify(few, told(few, printed, {"every": True}))
                else:
                    self.refused(few, told(few, printed, {"every": True}), "too many plans")

    def test_what_is_missing_or_no_number(self) -> None:
        for broken in ({"fineness": "1"}, GOOD | {"prices": {"9": "1"}}, GOOD | {"fineness": "one"}):
            with self.subTest(broken):
                self.refused(PAIR, told(PAIR, LEAST, broken), "missing or is no number")
