import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.footing.gap_fixes import ways
from humble_sum.core.footing.plan import NoPlan, Plan, added_drift, plan
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import Proof, prove
from humble_sum.core.statements.marks import Hold
from humble_sum.core.statements.pack import Pack
from tests.making import demo_income, pack, rule, statement


def footed(made: Pack) -> tuple[Plan, Proof]:
    """The plan for the pack's first statement, and its proof with the plan's nudges."""
    of = made.statements[0]
    found = plan(prove_pack(made))
    assert isinstance(found, Plan)
    return found, prove(made.model_copy(update={"nudges": found.nudges}), of)


@st.composite
def packs(draw: st.DrawFn) -> Pack:
    """A statement of lines, subtotals and a total over two columns and their change."""
    amount = st.one_of(st.just("0"), st.integers(-3000, 3000).map(lambda n: str(Decimal(n) / 100)))
    lines = {f"l{n}": [draw(amount), draw(amount)] for n in range(draw(st.integers(2, 6)))}
    ids = list(lines)
    cut = draw(st.integers(1, len(ids) - 1))
    totals = {"s1": ids[:cut], "s2": [f"-{id}" for id in ids[cut:]], "t": ["s1", "-s2"]}
    mode = draw(st.sampled_from(["half_up", "half_even", "toward_zero", "down"]))
    return pack(statement(lines, totals, change=True), rule("house", {"rounding": mode}))


class PlanTest(unittest.TestCase):
    def test_the_demo_foots_down_and_across_with_every_nudge_explained(self) -> None:
        found, proof = footed(demo_income())
        self.assertEqual(proof.gaps, [])
        self.assertTrue(found.proved)
        self.assertEqual(found.added_drift, Decimal("0.773976"))
        self.assertEqual(
            sum((added_drift(proof.figures[n.line, n.column], n.units) for n in found.nudges), Decimal(0)),
            found.added_drift,
        )
        for nudge in found.nudges:
            self.assertEqual(abs(nudge.units - nudge.own_rounding), 1)
            self.assertRegex(nudge.reason, r"^Exact .* rounds to .* add\. Adds 0\.\d+ units of drift\.$")

    @settings(max_examples=60)
    @given(packs())
    def test_whatever_is_nudged_keeps_the_promises(self, made: Pack) -> None:
        found = plan(prove_pack(made))
        if isinstance(found, NoPlan):
            return
        proof = prove(made.model_copy(update={"nudges": found.nudges}), made.statements[0])
        self.assertEqual(proof.gaps, [])
        for figure in proof.figures.values():
            assert figure.exact is not None and figure.printed.units is not None
            where = figure.position
            assert where is not None
            self.assertIn(figure.printed.units, (where.floor, where.floor + 1))
            if where.exact:
                self.assertEqual(figure.printed.units, where.floor)
            if figure.printed.own_rounding:
                self.assertNotEqual(figure.printed.units, 0, "an amount was turned into zero")

    @settings(max_examples=30)
    @given(packs())
    def test_footing_a_footed_page_moves_nothing_more(self, made: Pack) -> None:
        first = plan(prove_pack(made))
        if isinstance(first, Plan):
            again = plan(prove_pack(made.model_copy(update={"nudges": first.nudges})))
            self.assertEqual(again, first)

    def test_a_held_surplus_stays_and_the_rest_moves_around_it(self) -> None:
        demo = demo_income()
        hold = Hold(statement="income", line="net", column="y26", printed=Decimal("41300000"))
        _, proof = footed(demo.model_copy(update={"holds": (hold,)}))
        self.assertEqual(proof.figures["net", "y26"].printed.text, "413")
        self.assertEqual(proof.gaps, [])

    def test_holds_that_make_it_impossible_are_named_with_the_sum(self) -> None:
        demo = demo_income()
        holds = tuple(Hold(statement="income", line=line, column="y26") for line in ("pbt", "tax", "net"))
        found = plan(prove_pack(demo.model_copy(update={"holds": holds})))
        assert isinstance(found, NoPlan)
        self.assertEqual(found.conflict, ("Surplus for the year, 2025–26",))
        assert found.release is not None
        (released,) = found.release
        kept = tuple(h for h in holds if (h.statement, h.line, h.column) != released)
        self.assertIsInstance(plan(prove_pack(demo.model_copy(update={"holds": kept}))), Plan)

    def test_a_directed_rounding_that_foots_is_left_alone(self) -> None:
        of = statement({"a": ["1.9"], "b": ["1.0"]}, {"t": ["a", "b"]}, columns=("now",))
        found, _ = footed(pack(of, rule("house", {"rounding": "toward_zero"})))
        self.assertEqual(found.nudges, ())

    def test_under_a_directed_rounding_the_figure_nearest_its_next_step_moves(self) -> None:
        of = statement({"a": ["1.9"], "b": ["1.6"], "c": ["1.5"]}, {"t": ["a", "b", "c"]}, columns=("now",))
        found, _ = footed(pack(of, rule("house", {"rounding": "toward_zero"})))
        self.assertEqual([(n.line, n.units) for n in found.nudges], [("a", 2), ("b", 2)])

    def test_each_column_may_print_in_its_own_unit(self) -> None:
        of = statement({"a": ["1.26", "1.4"], "b": ["1.26", "1.4"]}, {"t": ["a", "b"]})
        _, proof = footed(pack(of, rule("now", {"decimals": {"fixed": 1}}, column="now")))
        self.assertEqual(proof.gaps, [])
        self.assertEqual(proof.figures["t", "now"].printed.text, "2.5")


class WaysTest(unittest.TestCase):
    def ways_of(self, made: Pack, id: str) -> dict[str, Any]:
        proof = prove(made, made.statements[0])
        (check,) = [check for check in proof.gaps if check.relation.id == id]
        return {way.id: way for way in ways(prove_pack(made), proof, check)}

    def test_ways_to_close_the_gap_in_total_costs(self) -> None:
        found = self.ways_of(demo_income(), "down:costs:y26")
        self.assertEqual(found["closest"].says, "Nudge Harbour dues to (149), Depreciation to (315)")
        self.assertEqual(
            found["largest"].says, "Nudge Crew and shore wages to (1,026), Fuel and lubricants to (887)"
        )
        self.assertNotIn("total", found)  # two units would be more than one step

    def test_each_way_closes_its_gap_and_says_what_it_leaves(self) -> None:
        demo = demo_income()
        for check in prove(demo, demo.statements[0]).gaps:
            for way in self.ways_of(demo, check.relation.id).values():
                after = prove(demo.model_copy(update={"nudges": way.nudges}), demo.statements[0])
                self.assertNotIn(check.relation.id, [gap.relation.id for gap in after.gaps])
                self.assertEqual(len(after.gaps), way.gaps_after)

    def test_held_figures_are_in_no_way(self) -> None:
        demo = demo_income()
        holds = tuple(Hold(statement="income", line=line, column="y26") for line in ("dues", "dep"))
        found = self.ways_of(demo.model_copy(update={"holds": holds}), "down:costs:y26")
        self.assertNotIn("Harbour", found["closest"].says)
