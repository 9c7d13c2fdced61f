"""Which rule decided what, and ways out for figures that are too wide."""

import unittest
from typing import Any

from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.resolved_clauses import NAMES
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.overflow import remedies
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.rules.provenance import decisions
from humble_sum.core.rules.rulebook import Reach, with_clauses
from humble_sum.core.statements.pack import Pack
from humble_sum.records.demo import demo_pack

SPOT = ("costs", "y26")


def with_rule(**clauses: Any) -> Pack:
    """The demo pack with more clauses on the income statement."""
    pack = demo_pack()
    book = with_clauses(pack.rulebook, Reach(statement="income"), "Income", read_clauses(clauses))
    return pack.model_copy(update={"rulebook": book})


def figure(pack: Pack) -> Figure:
    return prove(pack, pack.statements[0]).figures[SPOT]


class DecisionsTest(unittest.TestCase):
    def test_every_clause_is_there_once_under_its_rule(self) -> None:
        found = decisions(figure(with_rule(plus="always")).decided)
        said = [name for each in found for name, _ in each.clauses]
        self.assertEqual(sorted(said), sorted(NAMES))
        self.assertEqual(
            [each.rule.name if each.rule else "Default" for each in found],
            ["Statements", "Income", "House rule", "Default"],
        )
        self.assertIn(("plus", "a plus"), found[1].clauses)
        self.assertIn(("scale", "lakhs"), found[2].clauses)


class RemediesTest(unittest.TestCase):
    def test_each_way_out_lets_the_figure_fit(self) -> None:
        wide = {"most": 11, "gives_way": "nothing"}
        pack = with_rule(width=wide, decimals={"fixed": 4}, money_shown="every", scale="thousands")
        tight = figure(pack)
        self.assertTrue(tight.printed.too_wide)
        self.assertEqual(tight.printed.text, "(₹2,77,037.0498)")
        found = remedies(tight)
        self.assertEqual([each.clause for each in found], ["decimals", "scale", "width"])
        for remedy in found:
            with self.subTest(remedy.says):
                own = read_clauses({remedy.clause: remedy.value})
                book = with_clauses(pack.rulebook, Reach(statement="income"), "Income", own)
                after = figure(pack.model_copy(update={"rulebook": book}))
                self.assertFalse(after.printed.too_wide)
                self.assertEqual(after.printed.full_text, remedy.text)

    def test_a_figure_that_fits_needs_none(self) -> None:
        self.assertEqual(remedies(figure(with_rule(width={"most": 9, "gives_way": "nothing"}))), [])
