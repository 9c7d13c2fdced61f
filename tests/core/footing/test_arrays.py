"""Problems in arrays come to what problems one by one come to."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from decimal import Decimal
from typing import Any
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.sparse import coo_array, csr_array

import humble_sum
from humble_sum import InputError
from humble_sum.core.footing import array_foot, solve
from humble_sum.core.footing.array_foot import foot_arrays
from humble_sum.core.footing.arrays import of_names
from humble_sum.core.footing.problem_json import answer_named, answer_to
from humble_sum.core.footing.solver.deadline import ENDLESS

Relations = list[tuple[str, list[tuple[str, int]]]]


@st.composite
def problems(draw: st.DrawFn) -> tuple[dict[str, str], Relations, dict[str, int]]:
    """Figures with a few decimals, some of them sums of others; what adds may go every way, name a figure
    twice, or add to nothing; some are held."""
    count = draw(st.integers(1, 14))
    ids = [f"f{n:02d}" for n in range(count)]
    digits = draw(st.integers(0, 3))
    exact = {id: draw(st.integers(-30_000, 30_000)) for id in ids}
    relations: Relations = []
    for _ in range(draw(st.integers(0, 6))):
        total = draw(st.sampled_from(ids))
        parts = draw(
            st.lists(st.tuples(st.sampled_from(ids), st.sampled_from((1, -1))), min_size=1, max_size=5)
        )
        if draw(st.booleans()):
            parts = [each for each in parts if each[0] != total] or parts
            exact[total] = sum(sign * exact[id] for id, sign in parts)
        relations.append((total, parts))
    figures = {id: str(Decimal(amount).scaleb(-digits)) for id, amount in exact.items()}
    held = draw(st.lists(st.sampled_from(ids), max_size=3, unique=True))
    holds = {id: int(Decimal(figures[id]) // 1) + draw(st.integers(-1, 2)) for id in held}
    return figures, relations, holds


def as_matrix(ids: Sequence[str], relations: Relations) -> csr_array:
    rows, columns, entries = [], [], []
    for row, (total, parts) in enumerate(relations):
        for id, sign in [(total, -1), *parts]:
            rows.append(row)
            columns.append(ids.index(id))
            entries.append(-sign)
    return csr_array(coo_array((entries, (rows, columns)), shape=(len(relations), len(ids)), dtype=np.int64))


class ArraysTest(unittest.TestCase):
    @settings(max_examples=120)
    @given(problems())
    def test_arrays_and_names_come_to_the_same(self, problem: Any) -> None:
        figures, relations, holds = problem
        arrays = of_names(figures, relations, holds)
        assert arrays is not None
        one_by_one = answer_named(figures, relations, holds, ENDLESS)
        found = foot_arrays(arrays)
        self.assertEqual(one_by_one.feasible, found is not None)
        ids = sorted(figures)
        if found is not None:
            assert one_by_one.printed is not None and one_by_one.moved is not None
            self.assertEqual(found.printed.tolist(), [one_by_one.printed[id] for id in ids])
            self.assertEqual([ids[n] for n in found.moved], one_by_one.moved)
            self.assertEqual(found.added_drift, Decimal(one_by_one.added_drift or "0"))
            self.assertEqual((found.proved, found.settled), (one_by_one.proved, one_by_one.settled))

    @settings(max_examples=80)
    @given(problems())
    def test_large_trees_cost_as_little_as_small_ones(self, problem: Any) -> None:
        """Which of equals is taken may differ, as trees of many steps do not tell them all apart."""
        figures, relations, holds = problem
        arrays = of_names(figures, relations, holds)
        assert arrays is not None
        one_by_one = foot_arrays(arrays)
        with patch.object(array_foot, "ORDERED", -1):
            found = foot_arrays(arrays)
        self.assertEqual(one_by_one is None, found is None)
        if found is not None and one_by_one is not None:
            self.assertEqual(found.added_drift, one_by_one.added_drift)
            self.assertEqual(len(found.moved), len(one_by_one.moved))
            self.assertTrue(found.proved)
            self.assertFalse((arrays.matrix @ found.printed).any())
            self.assertTrue((found.printed == arrays.held)[arrays.is_held].all())
            near = np.abs(found.printed - arrays.floor - arrays.up) <= 1
            self.assertTrue(near[~arrays.is_held].all())

    @settings(max_examples=60)
    @given(problems(), st.integers(0, 2))
    def test_a_matrix_comes_to_the_same_as_names(self, problem: Any, way: int) -> None:
        figures, relations, holds = problem
        ids = sorted(figures)
        amounts: Any = [Decimal(figures[id]) for id in ids]
        power = 0
        if way:
            power = 3 if way == 1 else 20  # the second is longer than machine integers
            amounts = [int(each.scaleb(power)) for each in amounts]
        if way == 1:
            amounts = np.array(amounts, dtype=np.int64)
        held = {ids.index(id): units for id, units in holds.items()}
        found = humble_sum.foot(amounts, as_matrix(ids, relations), held, power=power)
        named = humble_sum.foot(figures, relations, holds)
        self.assertEqual(found.feasible, named.feasible)
        if found.printed is not None and named.printed is not None:
            self.assertEqual(found.printed.tolist(), [named.printed[id] for id in ids])
            self.assertEqual(found.added_drift, Decimal(named.added_drift or "0"))
            return
        self.assertEqual(found.proved, named.proved)
        if named.release is None:
            self.assertIsNone(found.release)
        else:
            assert found.release is not None
            self.assertEqual(len(found.release), len(named.release))
        assert found.conflict is not None
        again = humble_sum.foot(
            amounts, as_matrix(ids, [relations[n] for n in found.conflict]), held, power=power
        )
        self.assertFalse(again.feasible, "what conflicts has no plan by itself")

    def test_many_figures_take_the_way_of_arrays(self) -> None:
        figures = {f"f{n:05d}": f"{n}.{n % 10}" for n in range(3_000)}
        figures["total"] = str(sum(map(Decimal, figures.values())))
        relations: Relations = [("total", [(id, 1) for id in figures if id != "total"])]
        named = humble_sum.foot(figures, relations)
        data = {
            "figures": figures,
            "relations": [
                {"total": total, "parts": [list(part) for part in parts]} for total, parts in relations
            ],
        }
        with patch.object(solve, "_in_tree", side_effect=AssertionError("one by one")):
            self.assertEqual(answer_to(data), named)
        self.assertTrue(named.proved)
        assert named.printed is not None
        self.assertEqual(named.printed["total"], sum(u for id, u in named.printed.items() if id != "total"))

    def test_the_callers_matrix_stays_as_it_was(self) -> None:
        """Also one whose columns are in no order, or in which rows are the other way round."""
        for entries, columns in (([1, -1, -1], [2, 1, 0]), ([1, 1, -1], [0, 1, 2]), ([-1, 1, -1], [1, 2, 0])):
            for kind in (np.int64, np.float64, np.int8):
                data = np.array(entries, dtype=kind)
                given = csr_array((data, np.array(columns), np.array([0, 3])), shape=(1, 3))
                before = [given.data.copy(), given.indices.copy(), given.toarray()]
                found = humble_sum.foot([104, 104, 208], given, power=1)
                assert found.printed is not None
                self.assertEqual(found.printed.tolist(), [10, 11, 21])
                for was, now in zip(before, (given.data, given.indices, given.toarray()), strict=True):
                    np.testing.assert_array_equal(was, now)

    def test_what_is_no_problem_is_named(self) -> None:
        one = csr_array(np.array([[1, -1]]))
        for figures, relations, holds, power, where in (
            ([0.5, 0.5], one, None, 0, "figures"),
            ([[1, 2]], one, None, 0, "figures"),
            ([], one, None, 0, "figures"),
            ([Decimal("1.5"), Decimal("NaN")], one, None, 0, "figures[1]"),
            ([Decimal("1.5"), Decimal("1.5")], one, None, 2, "power"),
            ([15, 15], one, None, -1, "power"),
            ([15, 15, 15], one, None, 1, "relations"),
            ([15, 15], csr_array(np.array([[1.0, -0.5]])), None, 1, "relations"),
            ([15, 15], np.array([[1, -1]]), None, 1, "relations"),
            ([15, 15], csr_array(np.array([[np.nan, -1]])), None, 1, "relations"),
            ([15, 15], csr_array(np.array([[np.inf, -1]])), None, 1, "relations"),
            ([15, 15], csr_array(np.array([[1j, -1]])), None, 1, "relations"),
            ([15, 15], csr_array(np.array([[10**9, -1]])), None, 1, "relations"),
            ([15, 15], one, {2: 1}, 1, "holds.2"),
            ([15, 15], one, {1: 1.5}, 1, "holds.1"),
        ):
            with self.subTest(where=where, figures=figures), self.assertRaises(InputError) as refused:
                humble_sum.foot(figures, relations, holds, power=power)  # type: ignore[arg-type]
            self.assertEqual(refused.exception.faults[0].where, where)


if __name__ == "__main__":
    unittest.main()
