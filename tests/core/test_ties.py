"""Ties between statements, shares, and lines that stand apart: the whole pack proved and footed."""

import unittest
from decimal import Decimal

from humble_sum.core.footing.plan import NoPlan, Plan, plan
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.proof.findings import describe_tie_check
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.marks import Hold
from humble_sum.core.statements.pack import Column, Line, Pack, Statement, Tie
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.core.statements.validation import check
from humble_sum.records.demo import demo_pack
from tests.making import pack, rule, statement


def tied(*rules: object, second: str = "2.8", **more: object) -> Pack:
    """Two statements: in one a total of 1.4 and 1.4, in the other the same total of 0.4, 1.2 and 1.2."""
    one = statement({"a": ["1.4"], "b": ["1.4"]}, {"t": ["a", "b"]}, columns=("now",))
    last = str(Decimal(second) - Decimal("1.6"))
    two = statement({"c": ["0.4"], "d": ["1.2"], "e": [last]}, {"u": ["c", "d", "e"]}, columns=("now",))
    two = two.model_copy(update={"id": "two", "name": "Two"})
    tie = Tie(id="same", figures=(("s", "t", "now"), ("two", "u", "now")))
    made = pack(one, *rules, ties=(tie,), **more)  # type: ignore[arg-type]
    made = made.model_copy(update={"statements": (one, two)})
    check(made)
    return made


class TieTest(unittest.TestCase):
    def test_statuses_are_told_from_exact_and_printed_amounts(self) -> None:
        hold = Hold(statement="s", line="t", column="now", printed=Decimal(2))
        for made, status in (
            (tied(), "foots"),
            (tied(second="2.9"), "break"),
            (tied(holds=(hold,)), "gap"),
            (tied(rule("fine", {"decimals": {"fixed": 1}}, statement="two")), "mixed"),
        ):
            pack_proof = prove_pack(made)
            self.assertEqual([tie.status for tie in pack_proof.ties], [status])
            self.assertEqual(pack_proof.count("two", pack_proof.ties[0].status) > 0, True)

    def test_figures_in_different_units_are_as_near_as_their_roundings(self) -> None:
        fine = rule("fine", {"decimals": {"fixed": 1}}, statement="two")
        for holds, consistent in (
            ((), True),
            ((Hold(statement="s", line="t", column="now", printed=Decimal(2)),), False),
        ):
            made = prove_pack(tied(fine, holds=holds))
            (check_of,) = made.ties
            self.assertEqual((check_of.status, check_of.consistent), ("mixed", consistent))
            said = describe_tie_check(made.pack, made.proofs, check_of)
            self.assertIn("consistent" if consistent else "farther apart", said)

    def test_footing_keeps_tied_figures_alike(self) -> None:
        made = tied()
        found = plan(prove_pack(made))
        assert isinstance(found, Plan)
        after = prove_pack(made.model_copy(update={"nudges": found.nudges}))
        self.assertEqual([after.count(id, "gap") for id in ("s", "two")], [0, 0])
        printed = {after.proofs["s"].figures["t", "now"].printed.units}
        self.assertEqual(printed, {after.proofs["two"].figures["u", "now"].printed.units})

    def test_a_statement_footed_alone_follows_what_the_others_print(self) -> None:
        made = tied(holds=(Hold(statement="two", line="u", column="now", printed=Decimal(2)),))
        found = plan(prove_pack(made), only=["s"])
        assert isinstance(found, Plan)
        self.assertEqual({nudge.statement for nudge in found.nudges}, {"s"})
        after = prove_pack(made.model_copy(update={"nudges": found.nudges}))
        self.assertEqual(after.proofs["s"].figures["t", "now"].printed.text, "2")

    def test_holds_that_part_a_tie_are_named(self) -> None:
        holds = tuple(
            Hold(statement=owner, line=line, column="now", printed=Decimal(units))
            for owner, line, units in (("s", "t", 3), ("two", "u", 2))
        )
        found = plan(prove_pack(tied(holds=holds)))
        assert isinstance(found, NoPlan) and found.release is not None
        self.assertEqual(len(found.release), 1)
        self.assertIn("T, Now in S and Two", found.conflict)

    def test_the_demo_foots_as_a_whole(self) -> None:
        demo = demo_pack()
        before = prove_pack(demo)
        self.assertEqual([before.count(s.id, "gap") for s in demo.statements], [15, 10, 6, 20, 0])
        self.assertEqual({tie.status for tie in before.ties}, {"foots"})
        found = plan(before)
        assert isinstance(found, Plan)
        self.assertTrue(found.proved)
        after = prove_pack(demo.model_copy(update={"nudges": found.nudges}))
        self.assertEqual([after.count(s.id, "gap") for s in demo.statements], [0, 0, 0, 0, 0])
        self.assertEqual([after.count(s.id, "break") for s in demo.statements], [0, 0, 0, 0, 0])


class ShareTest(unittest.TestCase):
    def of(self) -> Statement:
        columns = (Column(id="now", label="Now"), Column(id="share", label="Share", share=("now", "t")))
        lines = [Line(id=id, label=id, amounts={"now": Decimal(1)}) for id in "abc"]
        lines.append(Line(id="t", label="t", kind="total", parts=tuple((id, 1) for id in "abc")))
        lines.append(Line(id="n", label="n", kind="count", amounts={"now": Decimal(7)}))
        return Statement(id="s", name="S", title="S", columns=columns, lines=tuple(lines))

    def test_shares_of_a_whole_are_made_to_print_to_one_hundred(self) -> None:
        made = pack(self.of(), rule("share", {"form": "percent"}, column="share"))
        proof = prove(made, made.statements[0])
        self.assertEqual([check.gap for check in proof.checks], [0, 1])  # 33% thrice is not 100%
        found = plan(prove_pack(made))
        assert isinstance(found, Plan)
        self.assertEqual([nudge.units for nudge in found.nudges], [34])

    def test_an_endless_share_rounds_right_and_is_cut_where_it_is_shown(self) -> None:
        share = exact_amounts(self.of())["a", "share"]
        assert share is not None
        made = pack(self.of(), rule("share", {"form": "percent", "decimals": {"fixed": 18}}, column="share"))
        figure = prove(made, made.statements[0]).figures["a", "share"]
        self.assertEqual(figure.printed.text, "33.333333333333333333%")
        self.assertEqual(exact_text(share, figure.clauses), "0.33333333…")

    def test_what_stands_apart_has_no_share_and_no_total_counts_it(self) -> None:
        self.assertIsNone(exact_amounts(self.of())["n", "share"])
        with self.assertRaisesRegex(Exception, "no total counts it"):
            lines = [
                line.model_copy(update={"parts": (("n", 1),)}) if line.id == "t" else line
                for line in self.of().lines
            ]
            check(pack(self.of().model_copy(update={"lines": tuple(lines)})))
