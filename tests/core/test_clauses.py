import unittest
from typing import Any

from humble_sum.core.errors import InputError
from humble_sum.core.printing.clauses import Clauses, read_clauses
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses
from tests.making import resolved


class RefusalTest(unittest.TestCase):
    def refused(self, data: Any) -> str:
        with self.assertRaises(InputError) as caught:
            read_clauses(data)
        return str(caught.exception)

    def test_an_unknown_clause_is_named(self) -> None:
        self.assertIn('clauses.scales: "scales" is not a known clause', self.refused({"scales": "lakhs"}))

    def test_an_unknown_value_is_named_with_the_values_there_are(self) -> None:
        said = self.refused({"scale": "lacs"})
        self.assertIn("'lacs' is not a value of scale", said)
        self.assertIn("'lakhs'", said)

    def test_every_wrong_clause_is_listed(self) -> None:
        with self.assertRaises(InputError) as caught:
            read_clauses({"scale": 3, "zero": "naught", "currency": "RUPEES"})
        self.assertEqual(
            [fault.where for fault in caught.exception.faults],
            ["clauses.currency", "clauses.scale", "clauses.zero"],
        )

    def test_an_unknown_currency_is_refused_by_name(self) -> None:
        self.assertIn('"XYZ" is not an ISO 4217 currency code', self.refused({"currency": "XYZ"}))

    def test_decimals_are_whole_small_and_not_booleans(self) -> None:
        for decimals in (
            {"fixed": -1},
            {"fixed": 21},
            {"fixed": True},
            {"fixed": "2"},
            {"fixed": 2.5},
            2,
            {},
        ):
            with self.subTest(decimals=decimals):
                self.assertIn("clauses.decimals", self.refused({"decimals": decimals}))

    def test_words_that_would_not_show_or_would_turn_the_text_are_refused(self) -> None:
        for word in ("", " ", "a\u202eb", "a\nb", "a\x00", "\u200f", "x" * 25):
            with self.subTest(word=word):
                self.assertIn("clauses.zero", self.refused({"zero": {"word": word}}))

    def test_what_is_no_language_tag_is_refused(self) -> None:
        for tag in ("", "e", "en IN", "../en", "x" * 50):
            self.assertIn("language tag", self.refused({"locale": tag}))

    def test_clauses_that_contradict_each_other_are_refused_with_the_way_out(self) -> None:
        for data, said in (
            ({"scale": "fit", "scale_word": "caption"}, "say scale_word short or full"),
            ({"scale": "lakhs", "ladder": "indian"}, "say scale fit"),
            ({"step": "0.05", "decimals": {"fixed": 0}}, "add decimals"),
            ({"step": "5", "decimals": {"significant": 3}}, "keep one of them"),
            ({"decimals": {"fixed": 2, "significant": 3}}, "keep one of them"),
            ({"step": "0"}, "more than zero"),
            ({"step": "five"}, "not a decimal"),
            ({"bands": [{"when": {}, "mark": "x"}]}, "a band needs"),
            ({"bands": [{"when": {"above": "5"}, "tone": "rust"}]}, "add a mark"),
            ({"before": "a\u202eb"}, "U+202E"),
            ({"currency": "rupees"}, "ISO 4217"),
        ):
            with self.subTest(data):
                self.assertIn(said, self.refused(data))

    def test_what_is_not_an_object_is_refused(self) -> None:
        values: tuple[Any, ...] = (None, [], "lakhs", 3)
        for data in values:
            with self.subTest(data=data):
                self.refused(data)


class NamedTest(unittest.TestCase):
    def test_only_named_clauses_decide_and_null_currency_is_named(self) -> None:
        self.assertEqual(read_clauses({}).named(), {})
        self.assertEqual(read_clauses({"currency": None}).named(), {"currency": None})

    def test_spelling_reads_back_the_same(self) -> None:
        data = {"decimals": {"fixed": 2}, "zero": {"word": "nil"}, "currency": None, "negative": "cr"}
        clauses = read_clauses(data)
        self.assertEqual(clauses.spelled(), data)
        self.assertEqual(read_clauses(clauses.spelled()), clauses)

    def test_clauses_that_say_what_is_so_by_default_are_others_than_those_that_do_not(self) -> None:
        bare = Clauses()
        for said in ({"form": "amount"}, {"currency": None}, {"shown": True}):
            with self.subTest(said):
                clauses = Clauses.model_validate(said)
                self.assertNotEqual(clauses, bare)
                self.assertEqual(clauses, Clauses.model_validate(said))
                self.assertEqual(len({clauses, Clauses.model_validate(said), bare}), 2)

    def test_in_force_has_every_clause(self) -> None:
        self.assertEqual(tuple(Clauses.model_fields), NAMES)
        for name, field in Clauses.model_fields.items():
            self.assertEqual(field.default, getattr(ResolvedClauses(), name), name)

    def test_the_schema_promises_no_default(self) -> None:
        self.assertFalse([f for f in Clauses.model_json_schema()["properties"].values() if "default" in f])

    def test_the_unit_is_the_last_printed_digit(self) -> None:
        for rule, exponent in (
            ({"scale": "lakhs"}, 5),
            ({"scale": "crores", "decimals": {"fixed": 2}}, 5),
            ({"form": "percent", "decimals": {"fixed": 1}, "scale": "lakhs"}, -3),
            ({"decimals": "currency", "currency": "KWD"}, -3),
            ({"decimals": "currency", "currency": "HUF"}, -2),
            ({"decimals": "currency"}, -2),
        ):
            with self.subTest(rule=rule):
                self.assertEqual(resolved(rule).exponent, exponent)
