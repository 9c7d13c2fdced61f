"""Printing over Arrow batches: the same texts as one by one, whatever the type, and nothing kept."""

import tracemalloc
import unittest
from decimal import Decimal
from typing import Any

import pyarrow as pa
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum import show
from humble_sum.arrow import AT_ONCE, print_batch, print_batches
from humble_sum.core.errors import InputError

RULES: list[dict[str, Any]] = [
    {"scale": "lakhs", "negative": "brackets", "locale": "en-IN", "currency": "INR"},
    {"decimals": {"fixed": 2}, "zero": "dash", "missing": "dash"},
    {"locale": "ar-EG", "decimals": {"significant": 3}},
]
SUMS = st.decimals(allow_nan=False, allow_infinity=False, places=4, min_value=-(10**20), max_value=10**20)
EDGES = st.sampled_from([Decimal(n).scaleb(-4) for n in (2**63 - 1, 2**63, -(2**63), -(2**63) - 1, 0, -1)])


class BatchTest(unittest.TestCase):
    @settings(max_examples=30)
    @given(st.lists(st.none() | SUMS, max_size=30), st.sampled_from(RULES))
    def test_texts_are_those_of_show_whatever_the_type(
        self, values: list[Decimal | None], rule: dict[str, Any]
    ) -> None:
        wanted = [each.text for each in show(values, rule)]
        columns = {
            "narrow": pa.array(values, pa.decimal128(38, 4)),
            "wide": pa.array(values, pa.decimal256(60, 4)),
            "text": pa.array([None if value is None else str(value) for value in values], pa.string()),
        }
        batch = pa.record_batch(columns)
        made = print_batch(batch, dict.fromkeys(columns, rule))
        self.assertEqual(made.schema.names, [*columns, *(f"{name} as printed" for name in columns)])
        for name in columns:
            self.assertEqual(made.column(f"{name} as printed").to_pylist(), wanted)
            self.assertEqual(made.column(name), batch.column(name))

    @settings(max_examples=30)
    @given(
        st.lists(st.one_of(SUMS, EDGES), min_size=1, max_size=30), st.sampled_from(RULES), st.integers(-2, 6)
    )
    def test_units_of_any_size_and_digit_are_printed_from_any_row_on(
        self, values: list[Decimal], rule: dict[str, Any], scale: int
    ) -> None:
        whole = [value.scaleb(4) for value in values]
        column = pa.array([int(each) for each in whole], pa.decimal128(38, 0)).view(pa.decimal128(38, scale))
        wanted = [each.text for each in show([each.scaleb(-scale) for each in whole], rule)]
        for start in {0, len(values) // 2, len(values) - 1}:
            made = print_batch(pa.record_batch({"a": column.slice(start)}), {"a": rule})
            self.assertEqual(made.column("a as printed").to_pylist(), wanted[start:])

    def test_a_long_column_is_whole_and_its_rows_are_numbered_through(self) -> None:
        texts = [str(n) for n in range(2 * AT_ONCE + 1)]
        made = print_batch(pa.record_batch({"n": texts}), {"n": {"grouping": "none"}})
        self.assertEqual(made.column("n as printed").to_pylist(), texts)
        with self.assertRaises(InputError) as refused:
            print_batch(pa.record_batch({"n": [*texts, "x"]}), {"n": {}})
        self.assertEqual(refused.exception.faults[0].where, f"n, row {2 * AT_ONCE + 2}")

    def test_whole_numbers_and_nothing_at_all(self) -> None:
        batch = pa.record_batch({"n": pa.array([1_234_567, None, -5]), "none": pa.nulls(3)})
        rule = {"missing": "dash"}
        made = print_batch(batch, {"n": rule, "none": rule}, suffix="'")
        self.assertEqual(
            made.column("n'").to_pylist(), [each.text for each in show([1_234_567, None, -5], rule)]
        )
        self.assertEqual(len(set(made.column("none'").to_pylist())), 1)

    def test_what_is_no_amount_is_refused_where_it_is(self) -> None:
        batch = pa.record_batch(
            {"f": [1.5], "t": ["1,234"], "d": pa.array([None], pa.date32()), "none": pa.nulls(1)}
        )
        for name, rule, kind in (
            ("f", {}, "bad-batch"),
            ("t", {}, "bad-amount"),
            ("d", {}, "bad-batch"),
            ("gone", {}, "bad-batch"),
            ("none", {"scael": "lakhs"}, "bad-rule"),
        ):
            with self.subTest(name), self.assertRaises(InputError) as refused:
                print_batch(batch, {name: rule})
            self.assertEqual(refused.exception.kind, kind)

    def test_a_stream_needs_no_more_memory_than_its_batches(self) -> None:
        batch = pa.record_batch({"a": pa.array([Decimal(n * 7919) / 100 for n in range(2_000)])})
        rules = {"a": RULES[0]}
        printed = print_batches((batch for _ in range(60)), rules)
        next(printed)
        tracemalloc.start()
        before = pa.total_allocated_bytes()
        rows = sum(each.num_rows for each in printed)
        _, most = tracemalloc.get_traced_memory()
        tracemalloc.stop()
        self.assertEqual(rows, 59 * 2_000)
        self.assertLess(most, 4_000_000)
        self.assertLess(pa.total_allocated_bytes() - before, 1_000_000)
