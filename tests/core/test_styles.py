"""The house styles to start from: what each prints, and that it leaves narrower rules alone."""

import unittest

from humble_sum.core.changes.rulebook_use import STYLES, styled
from humble_sum.core.printing.clauses import Clauses, over
from humble_sum.core.printing.printer import show
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.records.demo import demo_pack
from tests.making import rule

AMOUNTS = ("277037049.75", "-277037049.75", "0", "4000", None)
PRINTS = {
    "statutory-lakhs": ["2,770.37", "(2,770.37)", "–", "0.04", "n/a"],
    "statutory-thousands": ["277,037", "(277,037)", "–", "4", "n/a"],
    "board-crores": ["27.70", "(27.70)", "–", "0.00", "n/a"],
    "parent-millions": ["277.0", "(277.0)", "–", "0.0", "n/a"],
    "dashboard": ["₹27.7Cr", "−₹27.7Cr", "₹0", "₹4.00K", ""],
}


class StyleTest(unittest.TestCase):
    def house(self, style: str, book: Rulebook | None = None) -> Rule:
        made = styled(book or Rulebook(), style, "INR")
        (house,) = [each for each in made.rules if each.reach == Reach()]
        return house

    def test_each_style_prints_its_own_way(self) -> None:
        self.assertEqual(set(PRINTS), set(STYLES))
        for style, texts in PRINTS.items():
            with self.subTest(style):
                clauses = self.house(style).clauses
                if style == "dashboard":  # it leaves the locale open
                    clauses = over(clauses, Clauses(locale="en-IN"))
                shown = [each.text.replace("\xa0", " ") for each in show(AMOUNTS, clauses)]
                self.assertEqual(shown, texts)

    def test_a_style_takes_the_records_currency(self) -> None:
        book = styled(Rulebook(), "statutory-lakhs", "EUR")
        self.assertEqual(book.rules[0].clauses.currency, "EUR")
        self.assertEqual(book.rules[0].clauses.money_shown, "caption")

    def test_narrower_rules_and_their_order_stay(self) -> None:
        narrow = (rule("tax", {"zero": "blank"}, line="tax"), rule("now", {"plus": "always"}, column="y26"))
        wide = (rule("one", {"scale": "ones"}), rule("two", {"negative": "cr"}))
        book = styled(Rulebook(rules=(wide[0], narrow[0], wide[1], narrow[1])), "board-crores", "INR")
        self.assertEqual([each.id for each in book.rules], ["one", "tax", "now"])
        self.assertEqual(book.rules[1:], narrow)

    def test_every_style_can_be_used_on_the_demo(self) -> None:
        pack = demo_pack()
        for style, (name, _) in STYLES.items():
            book = styled(pack.rulebook, style, pack.currency)
            self.assertEqual(book.rules[0].name, name)
            self.assertEqual(len(book.rules), len(pack.rulebook.rules))
