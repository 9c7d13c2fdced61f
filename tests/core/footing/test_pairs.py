"""Variables that rows make one: the smaller program says the same as the whole one."""

import unittest
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.footing.solver import bounds as pricing
from humble_sum.core.footing.solver import program as programs_of
from humble_sum.core.footing.solver.ascent import bound
from humble_sum.core.footing.solver.integers import less
from humble_sum.core.footing.solver.presolve import Merged, merged
from humble_sum.core.footing.solver.program import Program, least
from tests.core.footing.making import program_of
from tests.core.footing.test_program import every_choice, programs


@st.composite
def paired(draw: st.DrawFn) -> Program:
    """Programs most of whose rows pair two variables, in chains, rings and stars; some cannot be met."""
    count = draw(st.integers(2, 8))
    costs = draw(st.lists(st.integers(-50, 50), min_size=count, max_size=count))
    point = draw(st.lists(st.integers(0, 1), min_size=count, max_size=count))
    rows, right = [], []
    for _ in range(draw(st.integers(1, 7))):
        named = draw(st.lists(st.integers(0, count - 1), min_size=2, max_size=3, unique=True))
        row = [(v, draw(st.sampled_from([1, -1]))) for v in named]
        rows.append(row)
        right.append(sum(a * point[v] for v, a in row) + draw(st.sampled_from([0, 0, 0, 0, 0, 0, 0, 1])))
    return program_of(rows, right, [costs], [0] * count)


def smaller(program: Program) -> Merged | None:
    return merged(program.matrix.tocsc(), program.right, program.stages[0])


class PairsTest(unittest.TestCase):
    @settings(max_examples=150)
    @given(paired())
    def test_choices_are_those_of_the_whole_program_at_the_same_cost(self, program: Program) -> None:
        made = smaller(program)
        if made is None:
            return
        left = Program(made.matrix, made.right, (made.costs,), np.zeros(len(made.costs), dtype=np.int8))
        settled = int(program.stages[0][made.flipped == 1].sum())
        found = {
            (cost[0] + settled, tuple(made.values(np.array(choice)).tolist()))
            for cost, choice in every_choice(left)
        }
        self.assertEqual(found, {(cost[0], choice) for cost, choice in every_choice(program)})

    @settings(max_examples=150)
    @given(paired(), st.lists(st.integers(-60, 60), min_size=8, max_size=8))
    def test_prices_read_back_prove_no_less(self, program: Program, raised: list[int]) -> None:
        made = smaller(program)
        if made is None:
            return
        prices = np.array(raised[: made.matrix.shape[0]], dtype=np.int64)
        reduced = less(made.costs, made.matrix, prices)
        values = np.where(reduced == 0, 0.5, (reduced < 0).astype(float))
        whole = program.matrix.tocsc()
        read = made.prices(prices, values, whole, program.stages[0])
        settled = int(program.stages[0][made.flipped == 1].sum())
        self.assertEqual(
            bound(read, program.right, less(program.stages[0], whole, read)),
            bound(prices, made.right, reduced) + settled,
        )

    def test_a_long_chain_of_equals_is_one_variable(self) -> None:
        count = 500
        chain = [[(v, 1), (v + 1, 1 if v % 3 else -1)] for v in range(count - 1)]
        made = smaller(program_of(chain, [v % 3 and 1 for v in range(count - 1)], [[1] * count], [0] * count))
        assert made is not None
        self.assertEqual((made.matrix.shape, len(made.costs)), ((0, 1), 1))
        both = {tuple(made.values(np.array([value])).tolist()) for value in (0, 1)}
        for choice in both:
            self.assertTrue(all((choice[v] != choice[v + 1]) == bool(v % 3) for v in range(count - 1)))

    def test_a_ring_that_contradicts_itself_asks_for_what_cannot_be(self) -> None:
        made = smaller(
            program_of(
                [[(0, 1), (1, -1)], [(1, 1), (2, -1)], [(0, 1), (2, 1)]], [0, 0, 1], [[0] * 3], [0] * 3
            )
        )
        assert made is not None
        # Twice the one variable is to be 1.
        self.assertEqual((made.matrix.toarray().tolist(), made.right.tolist()), ([[2]], [1]))

    @settings(max_examples=60)
    @given(st.one_of(paired(), programs()))
    def test_large_programs_agree_with_trying_everything(self, program: Program) -> None:
        every = every_choice(program)
        with (
            patch.object(pricing, "LARGE", 1),
            patch.object(programs_of, "FEW", 0),
            patch.object(programs_of, "SINGLY", 0),
        ):
            answer = least(program)
        if not every:
            self.assertIsNone(answer.choice)
            return
        assert answer.choice is not None
        costs = {choice: cost for cost, choice in every}
        self.assertTrue(answer.proved)
        self.assertEqual(costs[tuple(answer.choice.tolist())], min(cost for cost, _ in every))


class EqualsTest(unittest.TestCase):
    def test_many_equals_are_told_apart_alike_for_any_order_of_relations(self) -> None:
        # A ring of pairs has two choices of one cost; which is taken does not hang on the solver.
        found = set()
        for step in (1, 2, 3):
            rows = [[(2 * n, 1), (2 * n + 1, 1)] for n in range(100)]
            rows += [[(2 * n, 1), (2 * n + 2, 1), (2 * n + 4, 1)] for n in range(97)]
            right = [1] * 100 + [1] * 97
            order = sorted(range(len(rows)), key=lambda n: (n * step * 7919) % 197)
            program = program_of(
                [rows[n] for n in order], [right[n] for n in order], [[0] * 200], [0, 1] * 100
            )
            answer = least(program)
            assert answer.choice is not None
            found.add(tuple(answer.choice.tolist()))
        self.assertEqual(len(found), 1)
