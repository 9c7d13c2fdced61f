"""Rolling forward: new figures in the same layout, the last period as it was published."""

import unittest
from decimal import Decimal

from humble_sum.core.changes.roll_forward import Rolled, best_statement, roll_forward
from humble_sum.core.errors import InputError
from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.rules.rulebook import Reach
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.records.demo import demo_pack
from tests.making import statement


def next_income(
    more: tuple[Line, ...] = (), without: tuple[str, ...] = (), restated: bool = False
) -> Statement:
    """The demo's income statement a year on: a column for 2026–27, under other labels in part."""
    old = demo_pack().statements[0]
    lines = []
    for line in old.figured:
        if line.id in without or line.adds:
            continue
        amounts = {"2026-27": Decimal("100.55") + (line.amounts.get("y26") or 0)}
        if restated:
            amounts["y26"] = (line.amounts.get("y26") or Decimal(0)) + (line.id == "fuel")
        lines.append(Line(id=line.id, label=line.label.upper(), amounts=amounts))
    columns = [Column(id="2026-27", label="2026–27")]
    if restated:
        columns.append(Column(id="y26", label="2025–26"))
    return Statement(id="i", name="I", title="I", columns=tuple(columns), lines=(*lines, *more))


class RollTest(unittest.TestCase):
    def setUp(self) -> None:
        demo = demo_pack()
        found = plan(prove_pack(demo))
        assert isinstance(found, Plan)
        self.old = demo.model_copy(update={"nudges": found.nudges})
        self.full_text = prove_pack(self.old)

    def roll(self, new: Statement, **more: bool) -> Rolled:
        return roll_forward(self.full_text, {"income": new}, "Year to 31 March 2027", **more)

    def test_columns_move_along_and_the_last_year_is_as_published(self) -> None:
        rolled = self.roll(next_income())
        (income,) = rolled.pack.statements
        self.assertEqual([c.label for c in income.columns], ["2026–27", "2025–26", "Change"])
        self.assertEqual(income.columns[2].difference, ("2026-27", "y26"))
        proof, before = prove_pack(rolled.pack).proofs["income"], self.full_text.proofs["income"]
        for line in income.figured:
            held, was = proof.figures[line.id, "y26"], before.figures[line.id, "y26"]
            self.assertEqual((held.printed.text, held.exact), (was.printed.text, was.exact))
            self.assertEqual(held.held is not None, was.exact is not None)
        self.assertEqual(proof.figures["fares", "2026-27"].exact, Decimal("184374751.95"))
        self.assertEqual(rolled.left_out, ("Position", "Cash flows", "By route", "Operations"))
        self.assertEqual(rolled.pack.nudges, ())

    def test_what_was_answered_in_a_column_goes_with_it(self) -> None:
        (income, *others) = self.old.statements
        lines = [
            line.model_copy(update={"answers": {"y25": "note", "y26": "printed"}}) if line.adds else line
            for line in income.lines
        ]
        income = income.model_copy(update={"lines": tuple(lines)})
        self.full_text = prove_pack(self.old.model_copy(update={"statements": (income, *others)}))
        (rolled,) = self.roll(next_income()).pack.statements
        self.assertEqual({tuple(line.answers) for line in rolled.lines if line.adds}, {("y26",)})

    def test_published_figures_keep_their_nudges_when_the_new_page_is_footed(self) -> None:
        rolled = self.roll(next_income())
        found = plan(prove_pack(rolled.pack))
        assert isinstance(found, Plan)
        after = prove_pack(rolled.pack.model_copy(update={"nudges": found.nudges})).proofs["income"]
        self.assertEqual(after.gaps, [])
        self.assertEqual({nudge.column for nudge in found.nudges} - {"2026-27", "change"}, set())

    def test_what_came_went_and_moved_is_told(self) -> None:
        salt = Line(id="salt", label="Salt haulage", amounts={"2026-27": Decimal(5)})
        rolled = self.roll(next_income(more=(salt,), without=("mail",)))
        fates = {each.label: each for each in rolled.comparisons[0].lines}
        self.assertEqual(fates["Salt haulage"].fate, "new")
        self.assertEqual(
            (fates["Island mail contract"].fate, fates["Island mail contract"].now), ("gone", None)
        )
        self.assertEqual(
            (fates["Passenger fares"].fate, fates["Passenger fares"].moved), ("kept", Decimal("100.55"))
        )
        income = rolled.pack.statements[0]
        ids = [line.id for line in income.lines]
        self.assertEqual(ids.index("salt") - 1, ids.index("tax"))
        net = income.line("net")
        assert net is not None
        self.assertIn(("salt", 1), net.parts)

    def test_restated_comparatives_are_named_and_published_ones_stay_unless_asked(self) -> None:
        rolled = self.roll(next_income(restated=True))
        (restated,) = rolled.comparisons[0].restated
        self.assertEqual(
            (restated.label, restated.restated - restated.published), ("FUEL AND LUBRICANTS, 2025–26", 1)
        )
        income = rolled.pack.statements[0]
        kept = income.line("fuel")
        assert kept is not None
        self.assertEqual(kept.amounts["y26"], restated.published)
        taken = self.roll(next_income(restated=True), restate=True).pack
        line = taken.statements[0].line("fuel")
        assert line is not None
        self.assertEqual(line.amounts["y26"], restated.restated)
        self.assertNotIn(("fuel", "y26"), [(hold.line, hold.column) for hold in taken.holds])

    def test_columns_of_the_same_name_are_filled(self) -> None:
        columns = (
            Column(id="q1", label="Q1"),
            Column(id="q2", label="Q2"),
            Column(id="y", label="Year", sum=("q1", "q2")),
        )
        lines = (
            Line(id="a", label="A", amounts={"q1": "1.5"}),
            Line(id="t", label="T", kind="total", parts=(("a", 1),)),
        )
        old = Statement(id="s", name="S", title="S", columns=columns, lines=lines)
        pack_proof = prove_pack(Pack(entity="E", period="Q1", statements=(old,)))
        new = statement({"a": ["2.5"]}, {}, columns=("q2",))
        rolled = roll_forward(pack_proof, {"s": new}, "Q2")
        line = rolled.pack.statements[0].line("a")
        assert line is not None
        self.assertEqual(line.amounts, {"q1": Decimal("1.5"), "q2": Decimal("2.5")})
        self.assertEqual((rolled.comparisons[0].then, rolled.comparisons[0].now), ("Q1", "Q2"))
        self.assertEqual({(hold.line, hold.column) for hold in rolled.pack.holds}, {("a", "q1"), ("t", "q1")})

    def test_ties_and_rules_go_with_their_columns(self) -> None:
        rule = self.old.rulebook.rules[0].model_copy(
            update={"id": "c", "reach": Reach(statement="income", column="y26")}
        )
        book = self.old.rulebook.model_copy(update={"rules": (*self.old.rulebook.rules, rule)})
        pack_proof = prove_pack(self.old.model_copy(update={"rulebook": book}))
        cash = self.old.statements[2].model_copy(
            update={
                "columns": (Column(id="new", label="2026–27"),),
                "lines": tuple(
                    Line(id=line.id, label=line.label, amounts={"new": Decimal(1)})
                    for line in self.old.statements[2].figured
                    if not line.adds
                ),
            }
        )
        rolled = roll_forward(pack_proof, {"income": next_income(), "cash": cash}, "Next")
        refs = {tie.id: tie.figures for tie in rolled.pack.ties}
        self.assertEqual(refs["surplus-y26"], (("income", "net", "2026-27"), ("cash", "surplus", "new")))
        self.assertEqual(refs["cash-forward"], (("cash", "closing", "y26"), ("cash", "opening", "new")))
        self.assertEqual(next(r.reach.column for r in rolled.pack.rulebook.rules if r.id == "c"), "2026-27")

    def test_new_figures_find_their_statement_or_none(self) -> None:
        self.assertEqual(best_statement(self.old, next_income()), "income")
        self.assertIsNone(best_statement(self.old, statement({"zz": ["1", "2"]}, {})))
        with self.assertRaises(InputError):
            roll_forward(self.full_text, {}, "Next")
