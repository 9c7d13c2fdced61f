"""The parts of a search: the best choice seen, HiGHS in a thread of its own, and neighbourhoods."""

import threading
import time
import unittest
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.footing.solver import search as searching
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime, until, within
from humble_sum.core.footing.solver.highs import RUNNING, Search, solve_linear
from humble_sum.core.footing.solver.incumbent import Incumbent
from humble_sum.core.footing.solver.neighbourhoods import Guide, Neighbourhoods
from humble_sum.core.footing.solver.program import Program
from humble_sum.core.footing.solver.search import minimise
from tests.core.footing.test_certificates import fractional, grouped
from tests.core.footing.test_program import every_choice, programs


def incumbent(program: Program) -> Incumbent:
    return Incumbent(program.matrix, program.right, program.stages[0])


class AnyChoiceTest(unittest.TestCase):
    def test_a_search_whose_relaxation_takes_too_long_has_a_choice(self) -> None:
        program = grouped(3_000, 1)

        def too_long(*_: object) -> object:
            deadline = time.monotonic() + 60
            while not RUNNING and time.monotonic() < deadline:
                threading.Event().wait(0.01)
            for search in list(RUNNING):
                search.wait(ENDLESS)
            raise OutOfTime

        with patch.object(searching, "relax", too_long):
            found = minimise(program.matrix, program.right, program.stages[0])
        self.assertTrue(found.ended)
        self.assertFalse(found.proved)
        assert found.choice is not None
        self.assertTrue(np.array_equal(program.matrix @ found.choice.astype(np.int64), program.right))

    def test_nothing_is_left_running(self) -> None:
        program = grouped(3_000, 1)
        minimise(program.matrix, program.right, program.stages[0], until(0.5))
        for search in list(RUNNING):
            self.assertTrue(search.wait(ENDLESS, 30.0))


class IncumbentTest(unittest.TestCase):
    @settings(max_examples=100)
    @given(programs(), st.lists(st.lists(st.integers(-1, 2), min_size=7, max_size=7), max_size=12))
    def test_it_keeps_the_least_of_the_feasible_ones_it_is_shown(
        self, program: Program, shown: list[list[int]]
    ) -> None:
        best, count = incumbent(program), len(program.preference)
        costs = {choice: cost[0] for cost, choice in every_choice(program)}
        seen = []
        for values in shown:
            choice = tuple(values[:count])
            before = best.cost if best.choice is not None else None
            taken = best.take(np.array(choice, dtype=np.int64))
            better = choice in costs and (before is None or costs[choice] < before)
            self.assertEqual(taken, better)
            if choice in costs:
                seen.append(costs[choice])
        self.assertEqual(best.choice is None, not seen)
        if seen:
            self.assertEqual(best.cost, min(seen))

    def test_values_that_are_not_whole_are_not_taken(self) -> None:
        program = grouped(12, 1)
        best = incumbent(program)
        self.assertFalse(best.take_values(np.full(len(program.preference), 0.5)))
        self.assertFalse(best.take(None))
        self.assertIsNone(best.choice)


class HighsTest(unittest.TestCase):
    @settings(max_examples=60)
    @given(fractional())
    def test_what_it_finds_is_feasible_and_bounded_by_its_bound(self, program: Program) -> None:
        limits, costs = program.right.astype(float), program.stages[0].astype(float)
        search = Search(program.matrix, limits, limits, costs)
        self.assertTrue(search.wait(ENDLESS))
        every = every_choice(program)
        self.assertEqual(search.empty, not every)
        best = incumbent(program)
        best.take(search.found)
        if every:
            self.assertTrue(search.closed and search.settled)
            tolerance = 1 + 1e-6 * abs(best.cost)
            self.assertLessEqual(best.cost - min(every)[0][0], tolerance)
            self.assertLessEqual(search.bound - tolerance, min(every)[0][0])

    def test_a_choice_to_begin_with_is_not_lost_when_time_is_up_at_once(self) -> None:
        program = grouped(60, 2)
        start = minimise(program.matrix, program.right, program.stages[0], until(30)).choice
        again = minimise(program.matrix, program.right, program.stages[0], Clock(lambda: 0.0), start)
        assert start is not None and again.choice is not None
        self.assertTrue(np.array_equal(again.choice, start) and again.ended)

    def test_an_error_of_the_one_who_listens_ends_a_linear_program(self) -> None:
        class Gone(Exception):
            pass

        def tell(doing: str, done: int, of: int) -> None:
            raise Gone

        program = grouped(600, 3)
        count = len(program.preference)
        clock = Clock(tell=tell)
        with self.assertRaises(Gone):
            solve_linear(
                program.matrix, program.right, program.stages[0].astype(float), np.ones(count), clock
            )

    def test_a_listener_that_leaves_ends_a_search_at_once(self) -> None:
        class Gone(Exception):
            pass

        left = threading.Event()

        def tell(doing: str, done: int, of: int) -> None:
            if left.is_set():
                raise Gone

        program = grouped(150, 4)
        threading.Timer(0.2, left.set).start()
        with self.assertRaises(Gone):
            while True:  # however soon it ends, it is asked again
                minimise(program.matrix, program.right, program.stages[0], Clock(tell=tell))

    def test_a_shorter_clock_within_a_longer_one_is_over_first(self) -> None:
        end = time.monotonic() + 1000
        outer = Clock(lambda: end - time.monotonic())
        inner = within(outer, 0.0)
        self.assertTrue(inner.over and not outer.over)
        self.assertFalse(within(ENDLESS, 1000).over)


class Lying:
    """A solver that says it has come to its end with something less, and has nothing to show for it."""

    done = closed = settled = True
    empty = False
    ending = "optimal"
    found = None
    bound = -1e9

    def __init__(self, *_: object, **__: object):
        pass

    def wait(self, *_: object) -> bool:
        return True

    def offer(self, *_: object) -> None:
        pass

    stop = offer


class LyingTest(unittest.TestCase):
    def fractional(self, program: Program) -> bool:
        alone = minimise(program.matrix, program.right, program.stages[0], relaxed_only=True)
        found = minimise(program.matrix, program.right, program.stages[0], until(60))
        return found.cost > alone.bound

    def test_a_solver_that_is_wrong_is_not_believed(self) -> None:
        program = next(made for seed in range(50) if self.fractional(made := grouped(120, seed)))
        honest = minimise(program.matrix, program.right, program.stages[0], until(60))
        with patch.object(searching, "Search", Lying), patch.object(searching, "HALVES", 0):
            told = minimise(program.matrix, program.right, program.stages[0], ENDLESS, honest.choice)
            alone = minimise(program.matrix, program.right, program.stages[0])
        self.assertEqual((told.cost, told.closed, told.proved), (honest.cost, False, False))
        self.assertEqual((alone.choice, alone.closed, alone.proved), (None, False, False))


class NeighbourhoodsTest(unittest.TestCase):
    def near(self, program: Program, seed: int) -> Neighbourhoods:
        costs = program.stages[0].astype(float)
        # No relaxation to go by: every variable at its cheaper value, which misses many rows.
        return Neighbourhoods(
            incumbent(program), Guide((costs < 0).astype(float), costs, costs), until(60), seed
        )

    def test_what_is_repaired_adds_and_then_only_becomes_better(self) -> None:
        for seed in range(4):
            program = grouped(90, seed)
            near = self.near(program, seed)
            self.assertTrue(near.repaired())
            costs = [near.best.cost]
            for _, better in zip(range(12), near.better(), strict=False):
                costs.append(near.best.cost)
                self.assertEqual(better, costs[-1] < costs[-2])
            self.assertEqual(costs, sorted(costs, reverse=True))
            assert near.best.choice is not None
            kept = program.matrix @ near.best.choice.astype(np.int64)
            self.assertTrue(np.array_equal(kept, program.right))

    def test_nothing_is_repaired_once_the_clock_is_over(self) -> None:
        near = self.near(grouped(90, 1), 1)
        near.clock = Clock(lambda: 0.0)
        self.assertFalse(near.repaired())
