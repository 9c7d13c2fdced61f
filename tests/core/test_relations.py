import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.relations import exact_amounts, exact_miss, relations
from tests.making import statement

amounts = st.one_of(
    st.none(),
    st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**30), max_value=10**30, places=3).map(
        str
    ),
)


class ExactAmountsTest(unittest.TestCase):
    def test_totals_nest_with_signs_and_changes_follow(self) -> None:
        of = statement(
            {"a": ["10", "4"], "b": ["3", "1"], "c": ["2", "2"]},
            {"net": ["sub", "-c"], "sub": ["a", "b"]},  # a total may come before its parts
            change=True,
        )
        found = exact_amounts(of)
        self.assertEqual(found["net", "now"], Decimal(11))
        self.assertEqual(found["net", "change"], Decimal(8))

    def test_missing_is_not_zero(self) -> None:
        of = statement({"a": [None, "4"], "b": [None, "1"]}, {"t": ["a", "b"]}, change=True)
        found = exact_amounts(of)
        self.assertIsNone(found["t", "now"])
        self.assertIsNone(found["a", "change"])
        self.assertEqual(found["t", "then"], Decimal(5))

    def test_a_total_keeps_the_amount_it_states(self) -> None:
        of = statement({"a": ["1"], "b": ["2"]}, {"t": ["a", "b"]}, columns=("now",), stated={"t": ["4"]})
        found = exact_amounts(of)
        self.assertEqual(found["t", "now"], Decimal(4))
        self.assertEqual(exact_miss(relations(of)[0], found), Decimal(1))

    @given(st.lists(st.tuples(amounts, amounts), min_size=2, max_size=5))
    def test_computed_sums_and_present_changes_add_exactly(
        self, rows: list[tuple[str | None, str | None]]
    ) -> None:
        of = statement(
            {f"l{n}": list(row) for n, row in enumerate(rows)},
            {"t": [f"l{n}" for n in range(len(rows))]},
            change=True,
        )
        found = exact_amounts(of)
        for relation in relations(of):
            missing = any(found[cell] is None for cell, _ in relation.parts)
            if not missing:
                self.assertEqual(exact_miss(relation, found), Decimal(0))
            elif relation.total[1] != "change":
                self.assertIn(exact_miss(relation, found), (None, Decimal(0)))


class RelationsTest(unittest.TestCase):
    def test_sums_run_down_every_column_and_cross_sums_to_derived_ones(self) -> None:
        of = statement({"a": ["1", "2"]}, {"t": ["a"]}, change=True)
        self.assertEqual(
            [relation.id for relation in relations(of)],
            ["down:t:now", "down:t:then", "down:t:change", "across:a:change", "across:t:change"],
        )
