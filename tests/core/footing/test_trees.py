"""Trees solved from the bottom up, against the program that proves its answers another way."""

import unittest
from decimal import Decimal
from unittest.mock import patch

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.footing import solve as plans
from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Entry, Equation, Problem, window_of
from humble_sum.core.footing.shares import Drift, Searched
from humble_sum.core.footing.solve import _in_tree, _part_of, _unsolved, foot
from humble_sum.core.footing.solver.components import components
from humble_sum.core.footing.solver.deadline import ENDLESS
from humble_sum.core.footing.solver.trees import Node, Sum, bottom_up, least_in_tree
from humble_sum.core.printing.rounding import position, round_units
from humble_sum.core.statements.policy import CHOOSING, Policy

TENTHS = st.integers(-45, 45).map(lambda n: Decimal(n) / 10)


@st.composite
def trees(draw: st.DrawFn) -> Problem:
    """Lines under subtotals under a total, with signs, perhaps holds, under a policy."""
    policy = Policy(
        at_most=draw(st.sampled_from([1, 2])),
    )
    exact: dict[str, Decimal] = {}
    equations = []

    def grow(id: str, depth: int) -> Decimal:
        parts = [f"{id}.{n}" for n in range(draw(st.integers(1, 3)))] if depth else []
        if not parts:
            exact[id] = draw(TENTHS)
            return exact[id]
        signs = [draw(st.sampled_from([1, 1, -1])) for _ in parts]
        total = sum((s * grow(part, depth - 1) for part, s in zip(parts, signs, strict=True)), Decimal(0))
        exact[id] = total
        equations.append(Equation(id, tuple(zip(parts, signs, strict=True))))
        return total

    grow("t", 2)
    entries = []
    for id in sorted(exact):
        where = position(exact[id], 0)
        own_rounding = round_units(where, "half_up")
        held = own_rounding if draw(st.integers(0, 9)) == 0 else None
        window = window_of(where, own_rounding, policy)
        choosing = draw(st.sampled_from(list(CHOOSING)))
        rank = draw(st.integers(0, 2))
        entries.append(Entry(id, where, own_rounding, held=held, window=window, rank=rank, choosing=choosing))
    return Problem(tuple(entries), tuple(equations))


class TreeTest(unittest.TestCase):
    @settings(max_examples=200)
    @given(trees())
    def test_a_tree_is_settled_as_the_program_does_to_the_last_equal(self, problem: Problem) -> None:
        least_of = Objective(problem)
        tree = _in_tree(problem, least_of)
        drift = Drift(least_of.parts, told=least_of.plain)
        searched = Searched([_unsolved(problem, least_of)], drift, ENDLESS)
        self.assertEqual(tree is not None, searched.in_shares())
        if tree is not None:
            program = _part_of(problem, searched.found[0])
            self.assertTrue(program.proved)
            self.assertEqual(tree.printed, program.printed)

    @settings(max_examples=200)
    @given(trees())
    def test_trees_in_arrays_come_to_the_same(self, problem: Problem) -> None:
        least_of = Objective(problem)
        with patch.object(plans, "ORDERED", -1):
            arrays = _in_tree(problem, least_of)
        with patch.object(plans, "ORDERED", -1), patch.object(plans, "NEVER", 0):
            one_by_one = _in_tree(problem, least_of)
        self.assertEqual(arrays is None, one_by_one is None)
        if arrays is not None and one_by_one is not None:
            self.assertEqual(arrays.printed, one_by_one.printed)

    def test_what_is_no_tree_is_told(self) -> None:
        shared = [Sum(3, ((0, 1), (1, 1))), Sum(4, ((1, 1), (2, 1)))]
        twice = [Sum(3, ((0, 1),)), Sum(3, ((1, 1),))]
        circle = [Sum(0, ((1, 1),)), Sum(1, ((0, 1),))]
        for sums in (shared, twice, circle, [Sum(2, ((0, 1), (0, 1)))]):
            with self.subTest(sums):
                self.assertIsNone(bottom_up(sums))
        chain = [Sum(2, ((1, 1),)), Sum(1, ((0, 1),))]
        self.assertEqual(bottom_up(chain), chain[::-1])

    def test_a_total_that_no_steps_can_meet_has_no_plan(self) -> None:
        nodes = [Node(1, (0, 5)), Node(1, (0, 5)), Node(5, (0,))]
        self.assertIsNone(least_in_tree(nodes, [Sum(2, ((0, 1), (1, 1)))]))
        self.assertEqual(least_in_tree([*nodes[:2], Node(3, (0,))], [Sum(2, ((0, 1), (1, 1)))]), [1, 2, 3])

    def test_ten_thousand_figures_in_a_tree_foot_without_a_solver(self) -> None:
        amounts = [Decimal((n * 7919) % 10_007) / 100 for n in range(10_000)]
        entries, equations = [], []

        def entry(id: str, amount: Decimal, total: bool) -> None:
            where = position(amount, 0)
            own_rounding = round_units(where, "half_up")
            window = window_of(where, own_rounding, Policy())
            entries.append(Entry(id, where, own_rounding, window=window, rank=int(total)))

        for n, amount in enumerate(amounts):
            entry(f"l{n}", amount, False)
        for s in range(100):
            group = range(100 * s, 100 * s + 100)
            entry(f"s{s}", sum((amounts[n] for n in group), Decimal(0)), True)
            equations.append(Equation(f"s{s}", tuple((f"l{n}", 1) for n in group)))
        entry("t", sum(amounts, Decimal(0)), True)
        equations.append(Equation("t", tuple((f"s{s}", 1) for s in range(100))))
        found = foot(Problem(tuple(entries), tuple(equations)))
        assert found is not None
        self.assertTrue(found.proved)
        for equation in equations:
            parts = sum(sign * found.printed[id] for id, sign in equation.parts)
            self.assertEqual(found.printed[equation.total], parts)


class ComponentTest(unittest.TestCase):
    def test_what_no_relation_joins_comes_apart_in_order(self) -> None:
        found = [(part.figures, part.equations) for part in components(6, [[4, 1], [2, 5], [5, 0]])]
        self.assertEqual(found, [((0, 2, 5), (1, 2)), ((1, 4), (0,)), ((3,), ())])

    @settings(max_examples=100)
    @given(st.lists(st.lists(st.integers(0, 9), min_size=1, max_size=4), max_size=8))
    def test_components_share_nothing_and_leave_nothing_out(self, equations: list[list[int]]) -> None:
        found = list(components(10, equations))
        self.assertEqual(sorted(figure for part in found for figure in part.figures), list(range(10)))
        self.assertEqual(
            sorted(number for part in found for number in part.equations), list(range(len(equations)))
        )
        for part in found:
            named = {figure for number in part.equations for figure in equations[number]}
            self.assertLessEqual(named, set(part.figures))
            # Within a component every figure can be reached from its first by equations.
            reached = {part.figures[0]}
            while (
                more := {
                    figure
                    for number in part.equations
                    if reached & set(equations[number])
                    for figure in equations[number]
                }
                - reached
            ):
                reached |= more
            self.assertEqual(reached, set(part.figures))
