import unittest
from decimal import Decimal

from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.records.demo import demo_pack
from tests.making import one_figure, pack, rule, statement

LAKHS = rule("house", {"scale": "lakhs", "locale": "en-IN", "currency": "INR", "money_shown": "caption"})


class DemoTest(unittest.TestCase):
    """The demo statement, whose gaps are printed in the design."""

    def setUp(self) -> None:
        self.pack = demo_pack()
        self.proof = prove(self.pack, self.pack.statements[0])

    def test_nine_gaps_down_in_the_demo(self) -> None:
        down = {c.relation.total: c.gap for c in self.proof.gaps if c.relation.way == "down"}
        self.assertEqual(
            down,
            {
                ("rev", "y26"): 1,
                ("tot", "y26"): 1,
                ("costs", "y26"): -2,
                ("op", "y26"): -1,
                ("net", "y26"): -1,
                ("rev", "y25"): 1,
                ("op", "y25"): -1,
                ("pbt", "y25"): -1,
                ("tot", "change"): -1,
            },
        )
        self.assertEqual(len([c for c in self.proof.gaps if c.relation.way == "across"]), 6)
        self.assertEqual(self.proof.breaks, [])

    def test_zero_small_and_missing_print_apart(self) -> None:
        text = {cell: figure.printed.text for cell, figure in self.proof.figures.items()}
        self.assertEqual(text["int", "y26"], "–")
        self.assertEqual(text["salv", "y25"], "(0)")
        self.assertEqual(text["claims", "y26"], "n/a")
        self.assertEqual(text["claims", "change"], "n/a")
        self.assertEqual(text["costs", "y26"], "(2,770)")

    def test_the_caption_is_the_unit(self) -> None:
        self.assertEqual((self.proof.caption, self.proof.exceptions), ("₹ lakhs", ()))


class StatusTest(unittest.TestCase):
    def test_a_source_break_is_not_a_gap_and_is_never_nudged_away(self) -> None:
        of = statement(
            {"a": ["1.4"], "b": ["1.4"]}, {"t": ["a", "b"]}, columns=("now",), stated={"t": ["12.8"]}
        )
        made = pack(of)
        proof = prove(made, of)
        (check,) = proof.checks
        self.assertEqual((check.status, check.miss), ("break", Decimal("10.0")))
        found = plan(prove_pack(made))
        assert isinstance(found, Plan)
        self.assertEqual(found.nudges, ())

    def test_a_break_that_rounds_to_nothing_is_still_a_break(self) -> None:
        of = statement({"a": ["1"], "b": ["2"]}, {"t": ["a", "b"]}, columns=("now",), stated={"t": ["3.01"]})
        self.assertEqual(prove(pack(of), of).checks[0].status, "break")

    def test_a_missing_part_that_the_total_counts_leaves_it_unchecked(self) -> None:
        of = statement({"a": ["5", "4"], "b": ["2", None]}, {"t": ["a", "b"]}, change=True)
        statuses = {c.relation.id: c.status for c in prove(pack(of), of).checks}
        self.assertEqual(statuses["down:t:change"], "incomplete")
        self.assertEqual(statuses["across:b:change"], "incomplete")
        self.assertEqual(statuses["down:t:then"], "foots")

    def test_figures_in_different_units_are_not_compared(self) -> None:
        of = statement({"a": ["1.26"], "b": ["1.26"]}, {"t": ["a", "b"]}, columns=("now",))
        proof = prove(pack(of, rule("line", {"decimals": {"fixed": 1}}, line="a")), of)
        self.assertEqual(proof.checks[0].status, "mixed")


class CaptionTest(unittest.TestCase):
    def test_a_column_or_line_in_another_unit_is_said(self) -> None:
        of = statement({"a": ["1", "1"], "b": ["1", "1"], "c": ["1", "1"]}, {})
        crores = rule("then", {"scale": "crores"}, column="then")
        ones = rule("b", {"scale": "ones"}, line="b")
        proof = prove(pack(of, LAKHS, crores, ones), of)
        self.assertEqual(proof.caption, "₹ lakhs")
        self.assertEqual(proof.exceptions, ("Then in ₹ crores", "B in ₹"))

    def test_the_unit_is_never_said_twice(self) -> None:
        for word in ("short", "full", "none"):
            made = one_figure("277037049.75", LAKHS, rule("w", {"scale_word": word}, line="a"))
            proof = prove(made, made.statements[0])
            self.assertNotIn("lakh", proof.caption)
        self.assertEqual(proof.caption, "₹")


class HoldTest(unittest.TestCase):
    def test_a_held_amount_prints_rounded_at_any_unit(self) -> None:
        hold = Hold(statement="s", line="a", column="now", printed=Decimal("41300000"))
        for scale, places, text in (("lakhs", 0, "413"), ("crores", 2, "4.13"), ("crores", 0, "4")):
            house = rule("house", {"scale": scale, "decimals": {"fixed": places}})
            made = one_figure("41327500.10", house).model_copy(update={"holds": (hold,)})
            self.assertEqual(prove(made, made.statements[0]).figures["a", "now"].printed.text, text)

    def test_a_nudge_rests_at_another_unit_and_works_again_at_its_own(self) -> None:
        nudge = Nudge(statement="s", line="a", column="now", units=414, exponent=5, own_rounding=413)
        for places, text, resting in ((0, "414", False), (1, "413.3", True), (0, "414", False)):
            house = rule("house", {"scale": "lakhs", "decimals": {"fixed": places}})
            made = one_figure("41327500.10", house).model_copy(update={"nudges": (nudge,)})
            figure = prove(made, made.statements[0]).figures["a", "now"]
            self.assertEqual((figure.printed.text, figure.resting is not None), (text, resting))

    def test_a_nudge_past_the_neighbouring_step_is_not_obeyed(self) -> None:
        for units in (412, 415):
            nudge = Nudge(statement="s", line="a", column="now", units=units, exponent=0, own_rounding=413)
            made = one_figure("413.3").model_copy(update={"nudges": (nudge,)})
            figure = prove(made, made.statements[0]).figures["a", "now"]
            self.assertEqual(figure.printed.text, "413")

    def test_an_exact_zero_obeys_no_nudge(self) -> None:
        nudge = Nudge(statement="s", line="a", column="now", units=1, exponent=0, own_rounding=0)
        made = one_figure("0").model_copy(update={"nudges": (nudge,)})
        self.assertEqual(prove(made, made.statements[0]).figures["a", "now"].printed.text, "0")
