"""The ways of large programs, on programs small enough to be checked another way."""

import random
import unittest
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.footing.solver import bounds as prices
from humble_sum.core.footing.solver.ascent import ascend, bound
from humble_sum.core.footing.solver.bounds import Empty, relax
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.footing.solver.integers import added, inner, ints, less, scaled, total
from humble_sum.core.footing.solver.program import Program
from humble_sum.core.footing.solver.search import minimise
from tests.core.footing.making import program_of

LONG = st.one_of(st.integers(-100, 100), st.integers(-(10**40), 10**40))


@st.composite
def tables(draw: st.DrawFn) -> Program:
    """Lines by columns with totals both ways, most of them feasible, in steps up from the floor."""
    lines, columns = draw(st.integers(2, 6)), draw(st.integers(2, 6))
    made = random.Random(draw(st.integers(0, 10**6)))
    point = [[made.randint(0, 1) for _ in range(columns)] for _ in range(lines)]
    place = {(r, c): r * columns + c for r in range(lines) for c in range(columns)}
    rows = [[(place[r, c], 1) for c in range(columns)] for r in range(lines)]
    rows += [[(place[r, c], draw(st.sampled_from([1, 1, -1]))) for r in range(lines)] for c in range(columns)]
    right = [sum(a * point[v // columns][v % columns] for v, a in row) for row in rows]
    costs = [made.randint(-99, 99) for _ in place]
    return program_of(rows, right, [costs], [0] * len(place))


class LargeTest(unittest.TestCase):
    @settings(max_examples=80)
    @given(tables())
    def test_prices_raised_alone_bound_every_choice(self, program: Program) -> None:
        costs = program.stages[0]
        raised = ascend(program.matrix, program.right, costs)
        proved = bound(raised, program.right, less(costs, program.matrix, raised))
        least = minimise(program.matrix, program.right, costs)
        self.assertLessEqual(proved, least.cost)
        # They say at least what no prices say.
        self.assertGreaterEqual(proved, total(np.minimum(costs, 0)))

    @settings(max_examples=80)
    @given(tables())
    def test_a_core_grows_until_the_whole_program_is_proved(self, program: Program) -> None:
        usual = minimise(program.matrix, program.right, program.stages[0])
        with patch.object(prices, "LARGE", 1), patch.object(prices, "CORE", 0.1):
            by_core = minimise(program.matrix, program.right, program.stages[0])
        self.assertEqual((by_core.cost, by_core.proved), (usual.cost, usual.proved))

    def test_rows_that_no_variable_can_meet_have_no_solution(self) -> None:
        program = program_of([[(0, 1), (1, 1)], []], [1, 1], [[1, 2]], [0, 0])
        relaxed = relax(program.matrix, program.right, program.stages[0], ENDLESS)
        assert isinstance(relaxed, Empty) and relaxed.proof is not None
        self.assertTrue(relaxed.proof.empty)
        self.assertIsNone(minimise(program.matrix, program.right, program.stages[0]).choice)

    def test_long_costs_do_not_hide_a_solution(self) -> None:
        # HiGHS finds this infeasible where the costs go in as they are.
        program = program_of([[(0, -2), (1, -2), (2, 1), (3, -2)]], [1], [[0, 0, 1, -1305670057986]], [0] * 4)
        answer = minimise(program.matrix, program.right, program.stages[0])
        assert answer.choice is not None
        self.assertEqual((answer.choice.tolist(), answer.proved), ([0, 0, 1, 0], True))

    def test_time_that_is_up_is_told_and_bounds_still_hold(self) -> None:
        def over() -> float:
            raise OutOfTime

        program = program_of([[(v, 1) for v in range(30)]], [9], [list(range(-9, 21))], [0] * 30)
        answer = minimise(program.matrix, program.right, program.stages[0], Clock(over))
        self.assertEqual((answer.choice, answer.ended), (None, True))
        self.assertLessEqual(answer.bound, sum(range(-9, 0)))


class WholeTest(unittest.TestCase):
    def test_nothing_taken_any_number_of_times_is_nothing(self) -> None:
        self.assertEqual(scaled(np.zeros(3, dtype=np.int64), 1 << 70).tolist(), [0, 0, 0])

    @given(st.lists(st.tuples(LONG, LONG), min_size=1, max_size=6))
    def test_arrays_add_and_multiply_exactly_at_any_length(self, pairs: list[tuple[int, int]]) -> None:
        a, b = (ints([pair[n] for pair in pairs]) for n in (0, 1))
        self.assertEqual(total(a), sum(x for x, _ in pairs))
        self.assertEqual(inner(a, b), sum(x * y for x, y in pairs))
        self.assertEqual(added(a, b).tolist(), [x + y for x, y in pairs])
