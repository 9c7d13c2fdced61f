"""The two words and the bounds of footing under any deadline, against trying every plan; certificates
against the checker."""

import copy
import itertools
import json
import random
import unittest
from decimal import Decimal
from typing import Any
from unittest.mock import patch

from bench.families import mesh
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.errors import InputError
from humble_sum.core.footing import solve as plans
from humble_sum.core.footing.certificate import Rejected, certify, verify
from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Entry, Equation, Problem, window_of
from humble_sum.core.footing.problem_json import read_problem
from humble_sum.core.footing.solve import Footed, foot
from humble_sum.core.footing.solver import program as programs_of
from humble_sum.core.footing.solver import search
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.footing.solver.highs import Search
from humble_sum.core.footing.solver.program import Program, least
from humble_sum.core.footing.solver.search import minimise
from humble_sum.core.printing.rounding import position, round_units
from humble_sum.core.statements.policy import AT_MOST, CHOOSING, Policy
from tests.core.footing.making import program_of
from tests.core.footing.test_program import every_choice


def counted(looks: int) -> Clock:
    """A clock that is over after so many looks at it."""
    waits = iter(range(looks))
    return Clock(lambda: 5.0 if next(waits, None) is not None else 0.0)


@st.composite
def fractional(draw: st.DrawFn) -> Program:
    """Odd circles of pairs and groups over few variables, whose relaxations are mostly fractional."""
    count = draw(st.integers(5, 11))
    made = random.Random(draw(st.integers(0, 10**6)))
    point = [made.randint(0, 1) for _ in range(count)]
    rows = []
    for _ in range(draw(st.integers(2, 5))):
        members = made.sample(range(count), draw(st.integers(2, 4)))
        rows.append([(v, made.choice([1, 1, -1])) for v in members])
    right = [sum(a * point[v] for v, a in row) for row in rows]
    size = draw(st.sampled_from([1, 9, 10**5, 10**12]))
    stages = [[made.randint(-size, size) for _ in range(count)] for _ in range(draw(st.integers(1, 3)))]
    return program_of(rows, right, stages, [made.randint(0, 1) for _ in range(count)])


@st.composite
def webs(draw: st.DrawFn) -> Problem:
    """Figures in groups in two ways, whose totals are tied, under policies and holds of any kind."""
    policy = Policy(
        at_most=draw(st.sampled_from(list(AT_MOST))),
        keep_amounts=draw(st.booleans()),
        keep_signs=draw(st.booleans()),
    )
    made = random.Random(draw(st.integers(0, 10**6)))
    leaves = draw(st.integers(3, 4))
    exact = {f"l{n}": Decimal(made.randint(-45, 45)) / 10 for n in range(leaves)}
    equations = []
    for way in range(2):
        order = made.sample(range(leaves), leaves)
        cut = made.randint(1, leaves - 1)
        for group, members in enumerate((order[:cut], order[cut:])):
            exact[f"g{way}{group}"] = sum((exact[f"l{n}"] for n in members), Decimal(0))
            equations.append(Equation(f"g{way}{group}", tuple((f"l{n}", 1) for n in members)))
    exact["t"] = exact["g00"] + exact["g01"]
    equations += [Equation("t", ((f"g{way}0", 1), (f"g{way}1", 1))) for way in range(2)]
    held = draw(st.sampled_from([None, None, *exact]))
    entries = []
    for id, amount in exact.items():
        where = position(amount, 0)
        own_rounding = round_units(where, "half_up")
        window = window_of(where, own_rounding, policy)
        own = own_rounding if id == held else None
        rank, choosing = draw(st.integers(0, 2)), draw(st.sampled_from(list(CHOOSING)))
        kept = draw(st.sampled_from([None, *window]))
        entries.append(Entry(id, where, own_rounding, "half_up", own, window, rank, kept, choosing))
    return Problem(tuple(entries), tuple(equations))


def every_plan(problem: Problem) -> list[dict[str, int]]:
    ids = [entry.id for entry in problem.entries]
    windows = [entry.window if entry.held is None else (entry.held,) for entry in problem.entries]
    return [
        plan
        for units in itertools.product(*windows)
        if (plan := dict(zip(ids, units, strict=True)))
        and all(plan[e.total] == sum(sign * plan[id] for id, sign in e.parts) for e in problem.equations)
    ]


def measured(problem: Problem, plan: dict[str, int]) -> list[int]:
    """What a plan comes to by the tiers that say what is least."""
    least_of = Objective(problem)
    free = [entry for entry in problem.entries if entry.held is None]
    return [sum(tier(e, plan[e.id]) for e in free) for tier in least_of.tiers[: least_of.ranked]]


def grouped(count: int, seed: int) -> Program:
    """Figures in groups of four in three ways, with their totals: fractional, and a while to prove when there
    are many."""
    return mesh(seed, count).program()


class WordsTest(unittest.TestCase):
    @settings(max_examples=300)
    @given(fractional(), st.integers(0, 60))
    def test_no_word_is_false_whenever_the_clock_ends_it(self, program: Program, looks: int) -> None:
        every = every_choice(program)
        costs = {choice: cost for cost, choice in every}
        with patch.object(programs_of, "FEW", 0):
            found = least(program, counted(looks))
        if found.choice is None:
            self.assertTrue(found.ended or not every)
            self.assertFalse(found.proved and every)
            return
        cost = costs[tuple(found.choice.tolist())]
        if found.proved:
            self.assertEqual(cost, min(costs.values()))
        if found.solver_proved:
            self.assertEqual(cost[0], min(costs.values())[0])
        self.assertLessEqual(cost[0] - found.short, min(costs.values())[0])
        self.assertLessEqual(cost[0] - found.solver_short, min(costs.values())[0])

    @settings(max_examples=200)
    @given(fractional(), st.integers(0, 40))
    def test_no_bound_is_above_what_trying_everything_finds(self, program: Program, looks: int) -> None:
        every = every_choice(program)
        least_cost = min(every)[0][0] if every else None
        answer = minimise(program.matrix, program.right, program.stages[0], counted(looks))
        if least_cost is None:
            self.assertIsNone(answer.choice)
            return
        self.assertLessEqual(answer.bound, least_cost)
        if answer.choice is not None:
            self.assertGreaterEqual(answer.cost, least_cost)
            self.assertEqual(answer.cost, int(sum(program.stages[0][answer.choice == 1])))

    @settings(max_examples=80)
    @given(webs())
    def test_what_is_proved_is_least_and_its_certificate_is_accepted(self, problem: Problem) -> None:
        plans_there_are = every_plan(problem)
        for few in (programs_of.FEW, 0):
            with patch.object(programs_of, "FEW", few):
                found = foot(problem, certify=True)
            self.assertEqual(found is None, not plans_there_are)
            if found is None:
                return
            own = measured(problem, found.printed)
            self.assertEqual(own, min(measured(problem, plan) for plan in plans_there_are))
            self.assertTrue(found.proved)
            certificate = json.loads(json.dumps(certify(problem, found)))
            self.assertEqual(verify(problem, certificate).relations, len(problem.equations))

    @settings(max_examples=60)
    @given(webs(), st.integers(0, 10**6))
    def test_a_certificate_of_a_plan_that_is_not_least_is_never_accepted(
        self, problem: Problem, seed: int
    ) -> None:
        """Whatever the prices: here those of the least plan, and those with one changed."""
        with patch.object(programs_of, "FEW", 0):
            found = foot(problem, certify=True)
        if found is None:
            return
        least_measure = measured(problem, found.printed)
        made = random.Random(seed)
        certificate = certify(problem, found)
        for plan in every_plan(problem):
            if measured(problem, plan) <= least_measure:
                continue
            false = copy.deepcopy(certificate) | {"printed": plan}
            spoilt = copy.deepcopy(false)
            for part in spoilt["parts"]:
                for step in part["steps"]:
                    _change(step.get("halves", step), made)
            for told in (false, spoilt):
                with self.assertRaises(Rejected):
                    verify(problem, told)


def _change(step: dict[str, Any], made: random.Random) -> None:
    if prices := step.get("prices"):
        place = made.choice(list(prices))
        prices[place] = str(int(prices[place]) + made.randint(-50, 50))


class CertificateTest(unittest.TestCase):
    PROBLEM = read_problem(
        {
            "figures": {"a": "10.4", "b": "10.4", "t": "20.8"},
            "relations": [{"total": "t", "parts": [["a", 1], ["b", 1]]}],
        }
    )

    def found(self) -> Footed:
        found = foot(self.PROBLEM, certify=True)
        assert found is not None
        return found

    def test_one_of_another_problem_is_refused(self) -> None:
        certificate = certify(self.PROBLEM, self.found())
        other = Problem(self.PROBLEM.entries[:2], ())
        with self.assertRaises(InputError) as caught:
            verify(other, certificate)
        self.assertEqual(caught.exception.kind, "bad-certificate")
        self.assertIn("another problem", str(caught.exception))

    def test_what_is_no_certificate_is_refused_and_a_broken_one_rejected(self) -> None:
        whole = certify(self.PROBLEM, self.found())
        strange: list[object] = [None, [], {}, {"format": "something"}, whole | {"version": 2}]
        for each in strange:
            with self.assertRaises(InputError):
                verify(self.PROBLEM, each)
        broken = [{k: v for k, v in whole.items() if k != "parts"}, whole | {"parts": [{"relations": [9]}]}]
        broken += [whole | {"printed": {"a": 10, "b": 10, "t": 21}}, whole | {"printed": {"a": 10}}]
        broken += [whole | {"parts": []}, whole | {"parts": whole["parts"] * 2}]
        for told in broken:
            with self.assertRaises(Rejected):
                verify(self.PROBLEM, told)

    def test_a_plan_that_is_not_proved_has_none(self) -> None:
        found = self.found()
        unproved = Footed(
            found.printed, found.moved, found.added_drift, False, True, found.bound, found.bound, True
        )
        with self.assertRaises(InputError) as caught:
            certify(self.PROBLEM, unproved)
        self.assertEqual(caught.exception.kind, "no-certificate")


class StoppedTest(unittest.TestCase):
    """Searches of programs that take a while, ended by a clock at any moment."""

    def test_a_longer_limit_is_never_false_and_hardly_ever_dearer(self) -> None:
        program = grouped(120, 3)
        best = minimise(program.matrix, program.right, program.stages[0])
        assert best.choice is not None
        for looks in (1, 3, 9, 27, 81):
            found = least(program, counted(looks))
            if found.choice is None:
                self.assertTrue(found.ended)
                continue
            cost = int(program.stages[0][found.choice == 1].sum())
            self.assertGreaterEqual(cost, best.cost)
            self.assertLessEqual(cost - found.short, best.cost)
            if found.proved or found.solver_proved:
                self.assertEqual(cost, best.cost)

    def test_a_stage_ended_by_the_clock_takes_nothing_worse(self) -> None:
        """The fault there was: equals told apart by a stage that the clock ended were taken though they
        cost more, and the plan was still called proved."""
        for seed in range(4):
            program = grouped(120, seed)
            first = minimise(program.matrix, program.right, program.stages[0])
            for looks in range(2, 60, 6):
                found = least(program, counted(looks))
                if found.choice is not None and (found.proved or found.solver_proved):
                    self.assertEqual(int(program.stages[0][found.choice == 1].sum()), first.cost)

    def test_a_search_that_is_left_ends_by_itself(self) -> None:
        program = grouped(120, 1)
        limits = program.right.astype(float)
        running = Search(program.matrix, limits, limits, program.stages[0].astype(float))
        running.stop()
        self.assertTrue(running.wait(ENDLESS, 60))

    def test_time_up_before_any_plan_is_told(self) -> None:
        entries, equations = [], []
        for n in range(30):
            where = position(Decimal("0.5"), 0)
            entries.append(Entry(f"f{n}", where, 1, window=(0, 1)))
        for n in range(29):
            equations.append(Equation(f"f{n}", ((f"f{n + 1}", 1),)))
        equations.append(Equation("f0", (("f9", 1),)))
        with patch.object(plans, "_in_tree", lambda *_: None), self.assertRaises(OutOfTime):
            foot(Problem(tuple(entries), tuple(equations)), Clock(lambda: 0.0))

    def test_halves_prove_what_prices_alone_cannot(self) -> None:
        rows = [[(0, 1), (1, 1), (3, 1)], [(1, 1), (2, 1), (4, 1)], [(0, 1), (2, 1), (5, 1)]]
        program = program_of(rows, [1, 1, 1], [[-5, -4, -5, 1, 2, 1]], [0] * 6)
        answer = minimise(program.matrix, program.right, program.stages[0])
        self.assertTrue(answer.proved)
        self.assertIsNotNone(answer.halves)
        with patch.object(search, "HALVES", 0):
            unproved = minimise(program.matrix, program.right, program.stages[0])
        self.assertEqual((unproved.proved, unproved.closed, unproved.cost), (False, True, answer.cost))
