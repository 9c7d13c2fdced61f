"""Prices of trees of sums: they prove the least plan least, and no other."""

import unittest
from itertools import product

from hypothesis import given, settings

from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Problem
from humble_sum.core.footing.solve import _own_steps
from humble_sum.core.footing.solver.tree_prices import tree_prices
from humble_sum.core.footing.solver.trees import Sum, bottom_up
from tests.core.footing.test_trees import trees

MOST_PLANS = 3_000


def sums_of(problem: Problem) -> list[Sum]:
    place = {entry.id: number for number, entry in enumerate(problem.entries)}
    made = [Sum(place[e.total], tuple((place[id], sign) for id, sign in e.parts)) for e in problem.equations]
    ordered = bottom_up(made)
    assert ordered is not None
    return ordered


def plans_of(problem: Problem) -> list[list[int]]:
    """Every plan that adds; none where there are too many to try."""
    windows = [entry.window if entry.held is None else (entry.held,) for entry in problem.entries]
    count = 1
    for window in windows:
        count *= len(window)
    if count > MOST_PLANS:
        return []
    sums = sums_of(problem)
    return [
        list(plan)
        for plan in product(*windows)
        if all(plan[s.total] == sum(sign * plan[part] for part, sign in s.parts) for s in sums)
    ]


class TreePricesTest(unittest.TestCase):
    @settings(max_examples=120)
    @given(trees())
    def test_they_prove_a_plan_if_and_only_if_it_is_least(self, problem: Problem) -> None:
        least_of = Objective(problem)
        free = [entry.held is None for entry in problem.entries]

        def cost(plan: list[int]) -> int:
            each = zip(problem.entries, plan, free, strict=True)
            return sum(least_of.cost(entry, units) for entry, units, moves in each if moves)

        plans = plans_of(problem)
        if not plans:
            return
        least = min(map(cost, plans))
        for plan in (*plans[:: max(1, len(plans) // 20)], min(plans, key=cost)):
            up, down = _own_steps(problem, plan, least_of.costs(problem.entries))
            prices, proved = tree_prices(up, down, sums_of(problem))
            self.assertEqual(proved, cost(plan) == least)
            self.assertEqual(len(prices), len(plan))

    def test_numbers_of_any_length_are_told_apart(self) -> None:
        large = 10**40
        sums = [Sum(2, ((0, 1), (1, 1)))]
        # One unit less of the first part costs a hair more, or less, than one less of the total saves.
        for hair in (1, -1):
            prices, proved = tree_prices([None] * 3, [large + hair, None, -large], sums)
            self.assertEqual((proved, len(prices)), (hair > 0, 3))

    def test_a_figure_by_itself_needs_no_price(self) -> None:
        self.assertEqual(tree_prices([3], [5], []), ([0], True))
        self.assertEqual(tree_prices([-3], [None], []), ([0], False))
