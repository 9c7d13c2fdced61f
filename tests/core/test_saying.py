"""Traces, sentences and specimens: what the margin says of a figure."""

import unittest
from decimal import Decimal

from humble_sum.core.changes.offers import FigureOffers
from humble_sum.core.printing.clauses import Clauses, read_clauses
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses
from humble_sum.core.printing.specimens import specimens
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.proof.trace import drift_text, trace
from humble_sum.core.rules.clause_registry import ENTRIES
from humble_sum.core.rules.rulebook import Rulebook, decide
from humble_sum.core.rules.sentence import more_words, sentence
from humble_sum.core.rules.words import Word
from humble_sum.records.demo import demo_pack
from tests.making import one_figure, rule

OFFERS = FigureOffers("income", "costs", "y26")


def demo_figure(line: str, column: str) -> Figure:
    pack = demo_pack()
    return prove(pack, pack.statements[0]).figures[line, column]


class TraceTest(unittest.TestCase):
    def test_each_step_of_total_costs(self) -> None:
        steps = trace(demo_figure("costs", "y26"))
        self.assertEqual(
            [(step.name, step.value) for step in steps],
            [
                ("Exact", "−₹27,70,37,049.75"),
                ("In lakhs", "−2,770.3704975"),
                ("Half up", "−2,770"),
                ("Nudge", "none"),
                ("Printed", "(2,770)"),
            ],
        )

    def test_each_step_names_the_rule_that_decided_it(self) -> None:
        origins = {
            name: rule.name
            for step in trace(demo_figure("costs", "y26"))
            for name, rule in step.clauses
            if rule
        }
        self.assertEqual(origins["negative"], "Statements")
        self.assertEqual(origins["scale"], "House rule")
        small = trace(demo_figure("salv", "y25"))[-1]
        self.assertIn(
            ("rounds_away", "Line Salvage settlement"), [(n, r.name) for n, r in small.clauses if r]
        )

    def test_a_missing_figure_has_a_short_trace(self) -> None:
        steps = trace(demo_figure("claims", "y26"))
        self.assertEqual(
            [(step.name, step.value) for step in steps], [("Exact", "missing"), ("Printed", "n/a")]
        )

    def test_a_percentage_is_traced_as_one(self) -> None:
        made = one_figure("0.1874", rule("house", {"form": "percent", "decimals": {"fixed": 1}}))
        steps = trace(prove(made, made.statements[0]).figures["a", "now"])
        self.assertEqual([step.value for step in steps], ["0.1874", "18.74", "18.7", "none", "18.7%"])

    def test_drift_is_said_signed_and_whole(self) -> None:
        for drift, text in (("0.2965", "+0.2965"), ("-0.500", "−0.5"), ("0.000", "0"), ("1.0", "+1")):
            self.assertEqual(drift_text(Decimal(drift)), text)


class SentenceTest(unittest.TestCase):
    def words(self, **clauses: object) -> dict[str, Word]:
        book = Rulebook(rules=(rule("house", dict(clauses)),))
        decided = decide(book, "s", "a", "now")
        said = {w.clause: w for w in sentence(decided, OFFERS) if isinstance(w, Word)}
        more = {w.clause: w for w in more_words(decided, OFFERS)}
        self.assertEqual(set(said) & set(more), set())
        return said | more

    def test_the_sentence_reads_as_one(self) -> None:
        figure = demo_figure("costs", "y26")
        said = " ".join(w if isinstance(w, str) else w.label for w in sentence(figure.decided, OFFERS))
        self.assertTrue(
            said.startswith("Show amounts in ₹ lakhs with no decimals , digits grouped 12,34,567 ."), said
        )
        self.assertIn(
            "Negatives in brackets , exact zeros as – , small amounts as 0 , missing as n/a .", said
        )

    def test_every_choice_is_a_value_the_rule_takes_and_the_present_one_is_among_them(self) -> None:
        words = self.words(currency="CHF", scale="lakhs", zero={"word": "nothing"}, decimals={"fixed": 7})
        self.assertEqual(
            set(words) | {clause for clause, entry in ENTRIES.items() if entry.adds} | {"ladder"}, set(NAMES)
        )
        for clause, word in words.items():
            self.assertIn(word.value, [choice.value for choice in word.choices], clause)
            for choice in word.choices:
                read_clauses({clause: choice.value})

    def test_choices_of_a_word_can_be_told_apart_by_label(self) -> None:
        for word in self.words(currency="INR", scale="lakhs").values():
            labels = [choice.label for choice in word.choices]
            self.assertEqual(len(set(labels)), len(labels), word.clause)

    def test_examples_are_what_each_choice_prints(self) -> None:
        negatives = {
            c.value: c.example for c in self.words(locale="en-IN", scale="lakhs")["negative"].choices
        }
        self.assertEqual(negatives["brackets"], "(2,770)")
        self.assertEqual(negatives["minus"], "−2,770")
        self.assertEqual(negatives["cr"], "2,770\u00a0CR")

    def test_words_know_where_they_were_decided(self) -> None:
        words = {
            w.clause: w for w in sentence(demo_figure("salv", "y25").decided, OFFERS) if isinstance(w, Word)
        }
        self.assertEqual(
            [words[c].level for c in ("scale", "negative", "rounds_away")],
            ["everywhere", "statement", "line"],
        )

    def test_clauses_that_decide_nothing_are_left_unsaid(self) -> None:
        percent = self.words(form="percent", currency="INR", scale="lakhs")
        self.assertFalse({"currency", "scale", "scale_word", "money_sign"} & set(percent))
        self.assertNotIn("money_shown", self.words(currency="INR", money_sign="none"))


class SpecimensTest(unittest.TestCase):
    def test_each_specimen_stays_its_sort_at_every_scale(self) -> None:
        for scale in ("ones", "lakhs", "trillions"):
            clauses = ResolvedClauses(
                **Clauses.model_validate(
                    {
                        "scale": scale,
                        "zero": "dash",
                        "rounds_away": "signed",
                        "missing": {"word": "n/a"},
                        "negative": "brackets",
                    }
                ).named()
            )
            printed = {specimen.sort: specimen.text for specimen in specimens(clauses)}
            self.assertEqual(
                printed,
                {
                    "large": "1,234,567",
                    "negative": "(2,770)",
                    "tie": "3",
                    "rounds away": "(0)",
                    "zero": "–",
                    "missing": "n/a",
                },
            )
