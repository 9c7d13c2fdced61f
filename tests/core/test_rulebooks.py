"""Rulebooks as a whole: what each rule decides, order, switching, styles, files and words."""

import json
import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.changes import rulebook_use as rulebooks
from humble_sum.core.errors import InputError
from humble_sum.core.locales.number_words import in_words
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.rules.rulebook import Reach, Rulebook
from humble_sum.core.rules.rulebook_file import rulebook_of
from humble_sum.exchange.rulebook_json import write_rulebook
from humble_sum.records.demo import demo_pack
from tests.making import pack, rule, statement


class StandingTest(unittest.TestCase):
    def test_what_each_rule_decides_is_counted_and_overruled_ones_are_told(self) -> None:
        of = statement({"a": ["1", "2"], "b": ["1", "2"]}, {"t": ["a", "b"]})
        rules = (
            rule("house", {"negative": "minus", "zero": "dash"}),
            rule("all", {"negative": "brackets"}, statement="s"),
            rule("gone", {"negative": "cr"}, line="nowhere"),
            rule("off", {"negative": "cr"}).model_copy(update={"off": True}),
            rule("over", {"negative": "triangle"}),
        )
        pack_proof = prove_pack(pack(of, *rules))
        found = rulebooks.standings(pack_proof)
        said = {each.id: found[each.id].of(each) for each in pack_proof.pack.rulebook.rules}
        self.assertEqual(
            said,
            {"house": "decides", "all": "decides", "gone": "idle", "off": "off", "over": "overruled"},
        )
        self.assertEqual(found["house"].decides, {"negative": 0, "zero": 6})
        self.assertEqual(found["all"].decides, {"negative": 6})

    def test_a_rule_that_says_what_is_so_anyway_decides_it_from_then_on(self) -> None:
        of = statement({"a": ["1", "2"]}, {})
        before = prove_pack(pack(of, rule("house", {"zero": "dash"})))
        after = prove_pack(pack(of, rule("house", {"zero": "dash", "shown": True})), before)
        origin = after.proofs["s"].figures.decided[0].origins["shown"]
        self.assertEqual(
            (origin and origin.id, rulebooks.standings(after)["house"].decides["shown"]), ("house", 2)
        )

    def test_every_clause_of_every_figure_is_decided_by_one_rule_or_the_default(self) -> None:
        pack_proof = prove_pack(demo_pack())
        on_page = [r.id for r in pack_proof.pack.rulebook.rules if not (r.reach.places or r.reach.editions)]
        standings = rulebooks.standings(pack_proof)
        decided = sum(sum(standings[id].decides.values()) for id in on_page)
        by_rules = sum(
            sum(origin is not None for origin in each.origins.values())
            for proof in pack_proof.proofs.values()
            for each in proof.figures.decided
        )
        self.assertEqual(decided, by_rules)


class BookTest(unittest.TestCase):
    def setUp(self) -> None:
        self.book = demo_pack().rulebook

    def test_rules_move_double_switch_and_go(self) -> None:
        ids = [each.id for each in self.book.rules]
        moved = rulebooks.moved(self.book, ids[0], None)
        self.assertEqual([each.id for each in moved.rules], [*ids[1:], ids[0]])
        self.assertEqual(rulebooks.moved(moved, ids[0], ids[1]), self.book)
        twice = rulebooks.duplicated(self.book, "salvage")
        self.assertEqual(len({each.id for each in twice.rules}), len(ids) + 1)
        self.assertEqual(rulebooks.without_rule(twice, twice.rules[ids.index("salvage") + 1].id), self.book)
        with self.assertRaises(InputError):
            rulebooks.without_rule(self.book, "none")

    def test_a_style_takes_the_place_of_what_applies_everywhere(self) -> None:
        for style in rulebooks.STYLES:
            styled = rulebooks.styled(self.book, style, "INR")
            everywhere = [each for each in styled.rules if each.reach == Reach()]
            self.assertEqual(len(everywhere), 1)
            self.assertEqual(everywhere[0].clauses.currency, "INR")
            self.assertEqual(len(styled.rules), len(self.book.rules))

    def test_a_file_reads_back_and_can_come_from_a_pack(self) -> None:
        data = json.loads(write_rulebook(self.book))
        self.assertEqual(rulebook_of(data), self.book)
        self.assertEqual(rulebook_of({"rulebook": data}), self.book)
        wrongs: tuple[object, ...] = ({}, [], {"kind": "x", "rules": []}, {"rules": [{"id": "a"}]})
        for wrong in wrongs:
            with self.subTest(wrong), self.assertRaises(InputError):
                rulebook_of(wrong)

    def test_an_empty_book_prints_by_the_defaults(self) -> None:
        pack_proof = prove_pack(demo_pack().model_copy(update={"rulebook": Rulebook()}))
        self.assertEqual(pack_proof.proofs["income"].figures["fares", "y26"].printed.text, "184,374,651")


class WordsTest(unittest.TestCase):
    def test_both_scales(self) -> None:
        self.assertEqual(
            in_words(Decimal("-27703704.50"), "indian"),
            "minus two crore seventy-seven lakh three thousand seven hundred and four point five",
        )
        self.assertEqual(in_words(Decimal("1000001")), "one million and one")
        self.assertEqual(in_words(Decimal(0)), "zero")
        self.assertEqual(
            in_words(Decimal("2500000000000000"), "indian"), "two thousand five hundred lakh crore"
        )

    @given(st.integers(1, 10**18))
    def test_no_two_amounts_are_said_alike(self, number: int) -> None:
        for system in ("international", "indian"):
            said = in_words(Decimal(number), system)
            self.assertNotEqual(said, in_words(Decimal(number + 1), system))
