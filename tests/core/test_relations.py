import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.pack import Statement
from humble_sum.core.statements.relations import exact_amounts, exact_miss, relations
from tests.making import pack, statement

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
        self.assertEqual(exact_miss(relations(of)[0], found, {}), Decimal(1))

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
                self.assertEqual(exact_miss(relation, found, {}), Decimal(0))
            elif relation.total[1] != "change":
                self.assertIn(exact_miss(relation, found, {}), (None, Decimal(0)))


class QuartersTest(unittest.TestCase):
    """A two-way table: routes by months, with quarters and a year that add them."""

    def table(self, *rows: list[str | None]) -> Statement:
        given = [{"id": f"m{n}", "label": f"M{n}"} for n in range(4)]
        derived = [
            {"id": "q1", "label": "Q1", "sum": ["m0", "m1"]},
            {"id": "q2", "label": "Q2", "sum": ["m2", "m3"]},
            {"id": "year", "label": "Year", "sum": ["q1", "q2"]},
        ]
        lines: list[dict[str, object]] = [
            {"id": f"r{n}", "label": f"R{n}", "amounts": {f"m{c}": a for c, a in enumerate(row)}}
            for n, row in enumerate(rows)
        ]
        lines.append(
            {"id": "all", "label": "All", "kind": "total", "parts": [[f"r{n}", 1] for n in range(len(rows))]}
        )
        return Statement.model_validate(
            {"id": "s", "name": "S", "title": "S", "columns": given + derived, "lines": lines}
        )

    def test_columns_add_columns_and_nest(self) -> None:
        of = self.table(["1.4", "1.4", "2", "3"], ["5", None, "7", "8"])
        found = exact_amounts(of)
        self.assertEqual(found["r0", "year"], Decimal("7.8"))
        self.assertEqual(found["r1", "q1"], Decimal(5))  # a missing month adds nothing
        self.assertEqual(found["all", "year"], Decimal("27.8"))
        self.assertEqual({exact_miss(relation, found, {}) for relation in relations(of)}, {Decimal(0)})

    def test_such_a_table_foots_both_ways(self) -> None:
        of = self.table(
            ["1.4", "1.4", "2.4", "3.4"], ["5.3", "1.3", "7.4", "8.4"], ["0.4", "0.4", "0.4", "0.4"]
        )
        made = pack(of)
        self.assertGreater(len(prove(made, of).gaps), 3)
        found = plan(prove_pack(made))
        assert isinstance(found, Plan)
        self.assertTrue(found.proved)
        self.assertEqual(prove(made.model_copy(update={"nudges": found.nudges}), of).gaps, [])


class RelationsTest(unittest.TestCase):
    def test_sums_run_down_every_column_and_cross_sums_to_derived_ones(self) -> None:
        of = statement({"a": ["1", "2"]}, {"t": ["a"]}, change=True)
        self.assertEqual(
            [relation.id for relation in relations(of)],
            ["down:t:now", "down:t:then", "down:t:change", "across:a:change", "across:t:change"],
        )
