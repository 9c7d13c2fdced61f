import itertools
import unittest
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.footing.solver import program as programs_of
from humble_sum.core.footing.solver import search
from humble_sum.core.footing.solver.deadline import Clock
from humble_sum.core.footing.solver.program import Program, least
from humble_sum.core.footing.solver.search import minimise
from tests.core.footing.making import program_of


@st.composite
def programs(draw: st.DrawFn) -> Program:
    """Small programs, most of them feasible, with costs from tiny to longer than a double."""
    count = draw(st.integers(1, 7))
    stages = []
    for _ in range(draw(st.integers(1, 3))):
        size = 10 ** draw(st.sampled_from([0, 1, 7, 18, 40]))
        stages.append(draw(st.lists(st.integers(-size, size), min_size=count, max_size=count)))
    preference = draw(st.lists(st.integers(0, 1), min_size=count, max_size=count))
    point = draw(st.lists(st.integers(0, 1), min_size=count, max_size=count))
    rows, right = [], []
    for _ in range(draw(st.integers(0, 4))):
        row = tuple((v, a) for v in range(count) if (a := draw(st.sampled_from([-2, -1, 0, 0, 1, 1]))))
        rows.append(row)
        right.append(sum(a * point[v] for v, a in row) + draw(st.sampled_from([0, 0, 0, 0, 1])))
    return program_of(rows, right, stages, preference)


Told = tuple[tuple[int, ...], tuple[int, ...]]


def every_choice(program: Program) -> list[Told]:
    """The cost of each feasible choice by stages, and the choice, by trying them all."""
    matrix, right = program.matrix.toarray().tolist(), program.right.tolist()
    stages = [costs.tolist() for costs in program.stages]
    return [
        (tuple(sum(c for c, d in zip(costs, choice, strict=True) if d) for costs in stages), choice)
        for choice in itertools.product((0, 1), repeat=len(program.preference))
        if all(
            sum(a * d for a, d in zip(row, choice, strict=True)) == b
            for row, b in zip(matrix, right, strict=True)
        )
    ]


class ProgramTest(unittest.TestCase):
    @settings(max_examples=150)
    @given(programs())
    def test_least_cost_and_proof_agree_with_trying_everything(self, program: Program) -> None:
        answer = minimise(program.matrix, program.right, program.stages[0])
        choices = every_choice(program)
        if not choices:
            self.assertIsNone(answer.choice)
            return
        assert answer.choice is not None
        self.assertEqual(answer.cost, min(choices)[0][0])
        self.assertTrue(answer.proved)
        self.assertIn((answer.cost, tuple(answer.choice)), [(cost[0], choice) for cost, choice in choices])

    def check_first_among_equals(self, program: Program) -> None:
        answer = least(program)
        choices = every_choice(program)
        if not choices:
            self.assertIsNone(answer.choice)
            return
        assert answer.choice is not None
        cheapest = [choice for cost, choice in choices if cost == min(choices)[0]]
        wishes = program.preference.tolist()
        first = min(cheapest, key=lambda c: [d != p for d, p in zip(c, wishes, strict=True)])
        self.assertEqual((tuple(answer.choice), answer.proved), (first, True))

    @settings(max_examples=150)
    @given(programs())
    def test_the_first_among_equals_is_taken(self, program: Program) -> None:
        self.check_first_among_equals(program)

    @settings(max_examples=150)
    @given(programs())
    def test_prices_stage_by_stage_come_to_the_same(self, program: Program) -> None:
        # Small programs are settled by trying every choice; here they go the way of larger ones.
        with patch.object(programs_of, "FEW", 0), patch.object(programs_of, "BLOCK", 2):
            self.check_first_among_equals(program)

    @settings(max_examples=60)
    @given(programs(), st.integers(0, 4))
    def test_stages_cut_short_state_a_bound_that_holds(self, program: Program, asked: int) -> None:
        """Whether the clock runs out or nodes do, with weights for equals added or not."""
        every = every_choice(program)
        waits = iter(range(asked))
        clock = Clock(lambda: 1.0 if next(waits, None) is not None else 0.0)
        with patch.object(programs_of, "FEW", 0), patch.object(programs_of, "SINGLY", 0):
            answer = least(program, clock)
        if answer.choice is None:
            self.assertTrue(answer.ended or not every)
            return
        costs = {choice: cost for cost, choice in every}
        found = costs[tuple(answer.choice.tolist())]
        self.assertLessEqual(found[0] - answer.short, min(costs.values())[0])
        if answer.proved:
            self.assertEqual(found, min(costs.values()))

    @settings(max_examples=50)
    @given(programs())
    def test_a_relaxation_alone_still_bounds_the_cost(self, program: Program) -> None:
        answer = minimise(program.matrix, program.right, program.stages[0], relaxed_only=True)
        choices = every_choice(program)
        if choices:
            self.assertLessEqual(answer.bound, min(choices)[0][0])
        if answer.choice is not None:
            self.assertGreaterEqual(answer.cost, min(choices)[0][0])

    @settings(max_examples=100)
    @given(programs(), st.integers(0, 6))
    def test_a_choice_in_hand_is_never_given_up_for_a_worse_one(self, program: Program, asked: int) -> None:
        every = every_choice(program)
        if not every:
            return
        start = np.array(every[-1][1], dtype=np.int8)
        waits = iter(range(asked))
        clock = Clock(lambda: 1.0 if next(waits, None) is not None else 0.0)
        answer = minimise(program.matrix, program.right, program.stages[0], clock, start)
        assert answer.choice is not None
        self.assertLessEqual(answer.cost, every[-1][0][0])
        self.assertIn(tuple(answer.choice.tolist()), [choice for _, choice in every])

    @settings(max_examples=60)
    @given(programs())
    def test_a_search_without_hasty_halves_comes_to_the_same(self, program: Program) -> None:
        """HiGHS alone, and its word alone: what it says is least is least in small programs."""
        with patch.object(search, "HALVES", 0):
            answer = minimise(program.matrix, program.right, program.stages[0])
        choices = every_choice(program)
        self.assertEqual(answer.choice is None, not choices)
        if answer.proved and choices:
            self.assertEqual(answer.cost, min(choices)[0][0])

    def test_an_odd_cycle_is_seen_to_have_no_whole_answer(self) -> None:
        # Halves satisfy every row, so the relaxation alone would not notice.
        pairs = (((0, 1), (1, 1)), ((1, 1), (2, 1)), ((0, 1), (2, 1)))
        program = program_of(pairs, (1, 1, 1), [[0, 0, 0]], [0, 0, 0])
        self.assertIsNone(least(program).choice)
        self.assertIsNone(minimise(program.matrix, program.right, program.stages[0]).choice)

    def test_costs_differing_in_their_fortieth_digit_are_told_apart(self) -> None:
        large = 10**40
        program = program_of([((0, 1), (1, 1), (2, 1))], [1], [[large + 1, large, large + 2]], [0, 0, 0])
        answer = minimise(program.matrix, program.right, program.stages[0])
        assert answer.choice is not None
        self.assertEqual((answer.choice.tolist(), answer.proved), ([0, 1, 0], True))

    def test_a_clock_that_has_run_out_ends_the_search_with_a_bound(self) -> None:
        count = 40
        ring = [((v, 1), ((v + 1) % count, 1)) for v in range(count)]
        program = program_of(ring, [1] * count, [list(range(count))], [0] * count)
        answer = minimise(program.matrix, program.right, program.stages[0], Clock(lambda: 0.0))
        self.assertEqual((answer.choice, answer.ended, answer.proved), (None, True, False))
        self.assertLessEqual(answer.bound, np.arange(0, count, 2).sum())
