"""Answers other than nudging: rounding lines, totals from printed figures, gaps left with a note, and
what lines, columns and statements say of themselves to a plan."""

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.structure import add_rounding
from humble_sum.core.footing.plan import NoPlan, Plan, plan
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Line, Pack, Statement
from humble_sum.core.statements.policy import Policy
from tests.core.footing.test_plan import packs
from tests.making import demo_income, pack, rule, statement

GAP = {"a": ["10.4", "7.3"], "b": ["10.4", "7.3"], "c": ["10.1", "7.2"]}  # totals print 31 and 22
NOW = {id: amounts[:1] for id, amounts in GAP.items()}


def with_line(of: Statement, id: str, **words: Any) -> Statement:
    lines = tuple(line.model_copy(update=words) if line.id == id else line for line in of.lines)
    return of.model_copy(update={"lines": lines})


def with_column(of: Statement, id: str, **words: Any) -> Statement:
    columns = tuple(c.model_copy(update=words) if c.id == id else c for c in of.columns)
    return of.model_copy(update={"columns": columns})


def with_rounding(of: Statement, total: str) -> Statement:
    """The statement with a rounding line in a total."""
    amounts = {column.id: "0" for column in of.columns if not column.derived}
    line = Line.model_validate({"id": "r", "label": "Rounding", "amounts": amounts, "rounding": True})
    owner = of.line(total)
    assert owner is not None
    grown = with_line(of, total, parts=(*owner.parts, ("r", 1)))
    return grown.model_copy(update={"lines": (line, *grown.lines)})


def footed(made: Pack) -> tuple[Plan, PackProof]:
    found = plan(prove_pack(made))
    assert isinstance(found, Plan), found
    return found, prove_pack(made.model_copy(update={"nudges": found.nudges}))


def one(pack_proof: PackProof) -> Proof:
    (proof,) = pack_proof.proofs.values()
    return proof


class AnswerTest(unittest.TestCase):
    def test_a_rounding_line_takes_what_is_missed_and_nothing_else_moves(self) -> None:
        of = with_rounding(statement(GAP, {"t": ["a", "b", "c"]}, change=True), "t")
        found, pack_proof = footed(pack(of))
        figures = one(pack_proof).figures
        self.assertEqual(one(pack_proof).gaps, [])
        self.assertEqual(
            {(n.line, n.column): n.units for n in found.nudges}, {("r", "now"): 1, ("r", "then"): 1}
        )
        self.assertEqual(
            [figures["r", column].printed.text for column in ("now", "then", "change")], ["1", "1", "0"]
        )
        self.assertEqual(figures["t", "now"].printed.text, "31")
        self.assertIn("adds from printed figures", found.nudges[0].reason)

    def test_a_total_can_be_the_sum_of_its_printed_lines(self) -> None:
        of = with_line(statement(GAP, {"t": ["a", "b", "c"]}), "t", answer="printed")
        found, pack_proof = footed(pack(of))
        self.assertEqual([n.line for n in found.nudges], ["t", "t"])
        figures = one(pack_proof).figures
        self.assertEqual((figures["t", "now"].printed.text, figures["t", "then"].printed.text), ("30", "21"))

    @settings(max_examples=40)
    @given(packs(), st.sampled_from(["printed", "rounding", "change"]))
    def test_what_follows_lets_every_other_figure_print_its_own_rounding(
        self, made: Pack, answer: str
    ) -> None:
        of = made.statements[0]
        if answer == "change":
            of = of.model_copy(update={"lines": tuple(line for line in of.lines if not line.adds)})
        for total in [line.id for line in of.lines if line.adds]:
            if answer == "rounding":
                of = add_rounding(of, total, "Rounding")
            else:
                of = with_line(of, total, answer="printed")
        of = with_column(of, "change", answer="printed")
        found, pack_proof = footed(made.model_copy(update={"statements": (of,)}))
        self.assertEqual(one(pack_proof).gaps, [])
        follows = {line.id for line in of.lines if line.rounding or line.answer == "printed"}
        self.assertLessEqual({n.line for n in found.nudges if n.column != "change"}, follows)
        self.assertEqual(found.added_drift, 0)

    def test_a_change_column_from_printed_amounts(self) -> None:
        of = statement({"a": ["10.4", "7.6"]}, {}, change=True)  # 2.8, and 10 − 8
        self.assertEqual(one(footed(pack(of))[1]).figures["a", "change"].printed.text, "3")
        printed = with_column(of, "change", answer="printed")
        self.assertEqual(one(footed(pack(printed))[1]).figures["a", "change"].printed.text, "2")

    def test_a_gap_left_is_noted_and_forces_nothing(self) -> None:
        of = with_line(statement(GAP, {"t": ["a", "b", "c"]}), "t", answer="note")
        policy = Policy(note="Rounded; may not add.")
        found, pack_proof = footed(pack(of, policy=policy))
        self.assertEqual(found.nudges, ())
        self.assertEqual([check.status for check in one(pack_proof).checks], ["noted", "noted"])
        self.assertEqual(one(pack_proof).exceptions, ("Rounded; may not add.",))
        self.assertEqual(one(pack_proof).gaps, [])

    def test_answers_combine_in_one_plan_with_nudges(self) -> None:
        made = demo_income()
        of = with_line(with_rounding(made.statements[0], "costs"), "net", answer="note")
        _, pack_proof = footed(made.model_copy(update={"statements": (of,)}))
        self.assertEqual(one(pack_proof).gaps, [])


class SaidOfLinesTest(unittest.TestCase):
    def test_published_columns_stay_as_they_were_with_their_gaps(self) -> None:
        of = with_column(statement(GAP, {"t": ["a", "b", "c"]}, change=True), "then", published=True)
        found, pack_proof = footed(pack(of))
        self.assertEqual({n.column for n in found.nudges} & {"then"}, set())
        # What is derived from it cannot add either.
        self.assertEqual(
            [check.relation.total for check in one(pack_proof).gaps], [("t", "then"), ("t", "change")]
        )
        free = pack(of, policy=Policy(keep_published=False))
        self.assertIn("then", {n.column for n in footed(free)[0].nudges})

    def test_lines_that_never_move_and_lines_that_move_first(self) -> None:
        of = statement(NOW, {"t": ["a", "b", "c"]}, columns=("now",))
        usual = {n.line for n in footed(pack(of))[0].nudges}
        (chosen,) = usual
        never = {n.line for n in footed(pack(with_line(of, chosen, readiness="never")))[0].nudges}
        self.assertNotIn(chosen, never)
        for line in ("a", "b", "c", "t"):
            first = footed(pack(with_line(of, line, readiness="first")))[0]
            self.assertEqual([n.line for n in first.nudges], [line])

    def test_a_statement_can_have_a_plan_of_its_own(self) -> None:
        one_way = statement(NOW, {"t": ["a", "b", "c"]}, columns=("now",))
        other = one_way.model_copy(update={"id": "o", "policy": Policy(gives_way="totals_first")})
        made = pack(one_way, policy=Policy(gives_way="lines_first"))
        found, _ = footed(made.model_copy(update={"statements": (one_way, other)}))
        moved = {(n.statement, n.line) for n in found.nudges}
        self.assertIn(("o", "t"), moved)
        self.assertNotIn(("s", "t"), moved)

    def test_an_earlier_nudge_of_what_follows_is_obeyed_at_its_own_unit_alone(self) -> None:
        of = with_rounding(statement(NOW, {"t": ["a", "b", "c"]}, columns=("now",)), "t")
        _, pack_proof = footed(pack(of))
        finer = pack_proof.pack.model_copy(
            update={"rulebook": pack(of, rule("house", {"decimals": {"fixed": 1}})).rulebook}
        )
        proof = one(prove_pack(finer))
        self.assertEqual(proof.figures["r", "now"].printed.text, "0.0")
        self.assertIsNotNone(proof.figures["r", "now"].resting)

    def test_figures_in_different_units_are_checked_and_not_forced(self) -> None:
        of = statement(NOW, {"t": ["a", "b", "c"]}, columns=("now",))
        mixed = rule("tenths", {"decimals": {"fixed": 1}}, line="a")
        found, pack_proof = footed(pack(of, mixed))
        self.assertEqual(found.nudges, ())
        (check,) = one(pack_proof).checks
        self.assertEqual((check.status, check.consistent), ("mixed", True))

    def test_more_than_roundings_allow_is_told_of_mixed_units(self) -> None:
        of = statement(NOW, {"t": ["a", "b", "c"]}, columns=("now",))
        mixed = rule("tenths", {"decimals": {"fixed": 1}}, line="a")
        holds = [{"statement": "s", "line": "t", "column": "now", "printed": "40"}]
        (check,) = one(
            prove_pack(Pack.model_validate(pack(of, mixed).model_dump() | {"holds": holds}))
        ).checks
        self.assertEqual((check.status, check.consistent), ("mixed", False))


class BadPlanTest(unittest.TestCase):
    def test_a_line_that_never_moves_can_make_footing_impossible(self) -> None:
        of = statement(NOW, {"t": ["a", "b", "c"]}, columns=("now",))
        for line in ("a", "b", "c", "t"):
            of = with_line(of, line, readiness="never")
        found = plan(prove_pack(pack(of)))
        assert isinstance(found, NoPlan)
        self.assertEqual((found.release, found.conflict), (None, ("T, Now",)))
