import itertools
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.footing.program import Program, least, minimise


@st.composite
def programs(draw: st.DrawFn) -> Program:
    """Small programs, most of them feasible, with costs from tiny to longer than a double."""
    count = draw(st.integers(1, 7))
    size = 10 ** draw(st.sampled_from([1, 7, 18, 40]))
    costs = tuple(draw(st.lists(st.integers(-size, size), min_size=count, max_size=count)))
    point = draw(st.lists(st.integers(0, 1), min_size=count, max_size=count))
    rows, right = [], []
    for _ in range(draw(st.integers(0, 4))):
        row = tuple((v, a) for v in range(count) if (a := draw(st.sampled_from([-2, -1, 0, 0, 1, 1]))))
        rows.append(row)
        right.append(sum(a * point[v] for v, a in row) + draw(st.sampled_from([0, 0, 0, 0, 1])))
    return Program(costs, tuple(rows), tuple(right))


def every_choice(program: Program) -> list[tuple[int, tuple[int, ...]]]:
    """Cost and choice of each feasible choice, by trying them all."""
    return [
        (sum(c for c, d in zip(program.costs, choice, strict=True) if d), choice)
        for choice in itertools.product((0, 1), repeat=len(program.costs))
        if all(
            sum(a * choice[v] for v, a in row) == b
            for row, b in zip(program.rows, program.right, strict=True)
        )
    ]


class ProgramTest(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(programs())
    def test_least_cost_and_proof_agree_with_trying_everything(self, program: Program) -> None:
        answer = minimise(program)
        choices = every_choice(program)
        if not choices:
            self.assertIsNone(answer.choice)
            return
        self.assertEqual(answer.cost, min(choices)[0])
        self.assertTrue(answer.proved)
        self.assertIn((answer.cost, answer.choice), choices)

    @settings(max_examples=100, deadline=None)
    @given(programs(), st.lists(st.integers(0, 1), min_size=7, max_size=7))
    def test_the_first_among_equals_is_taken(self, program: Program, preference: list[int]) -> None:
        answer = least(program, preference[: len(program.costs)])
        choices = every_choice(program)
        if choices:
            cheapest = [choice for cost, choice in choices if cost == min(choices)[0]]
            first = min(cheapest, key=lambda c: [d != p for d, p in zip(c, preference, strict=False)])
            self.assertEqual(answer.choice, first)

    @settings(max_examples=50, deadline=None)
    @given(programs())
    def test_a_search_cut_short_still_bounds_the_cost(self, program: Program) -> None:
        answer = minimise(program, most_nodes=1)
        choices = every_choice(program)
        if answer.choice is not None:
            self.assertLessEqual(answer.bound, min(choices)[0])
            self.assertGreaterEqual(answer.cost, min(choices)[0])

    def test_an_odd_cycle_is_seen_to_have_no_whole_answer(self) -> None:
        # Halves satisfy every row, so the relaxation alone would not notice.
        pairs = (((0, 1), (1, 1)), ((1, 1), (2, 1)), ((0, 1), (2, 1)))
        self.assertIsNone(minimise(Program((0, 0, 0), pairs, (1, 1, 1))).choice)

    def test_costs_differing_in_their_fortieth_digit_are_told_apart(self) -> None:
        large = 10**40
        program = Program((large + 1, large, large + 2), (((0, 1), (1, 1), (2, 1)),), (1,))
        answer = minimise(program)
        self.assertEqual((answer.choice, answer.proved), ((0, 1, 0), True))
