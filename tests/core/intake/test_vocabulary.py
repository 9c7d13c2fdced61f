"""The files of words: no meaning that is not known, no phrase twice, and what counts where."""

from __future__ import annotations

import unittest

from humble_sum.core.intake.named_measures import is_for_one, is_measure, measure_signals
from humble_sum.core.intake.vocabulary import (
    MEANINGS,
    BadVocabulary,
    entries,
    meanings,
    read_entries,
    says,
    words_of,
)


class VocabularyTest(unittest.TestCase):
    def test_every_file_is_sound_and_every_meaning_has_phrases(self) -> None:
        known = {entry.meaning for some in entries().values() for entry in some}
        self.assertEqual(known, {*MEANINGS})

    def test_a_bad_file_is_refused_with_its_line(self) -> None:
        for text, what in (
            (
                '[total.start]\nen = "total"\n\n[totl.start]\nen = "sum"\n',
                "line 4: no meaning is called totl",
            ),
            (
                '[total.start]\nen = "total"\n[total.middle]\nen = "sum"\n',
                "line 3: nothing counts at “middle”",
            ),
            ('[total.start]\nde = "summe"\nen = "total | net | total"\n', "line 3: “total” is there twice"),
            ('[total.start]\nen = "total | "\n', "line 1: a phrase is empty"),
        ):
            with self.subTest(what), self.assertRaises(BadVocabulary) as refused:
                list(read_entries("lines.toml", text))
            self.assertIn(what, str(refused.exception))
            self.assertTrue(str(refused.exception).startswith("lines.toml"))

    def test_a_phrase_counts_where_its_entry_says(self) -> None:
        self.assertTrue(says("Total assets", "total"))
        self.assertTrue(says("– Total assets", "total"))
        self.assertFalse(says("A total eclipse", "total"))
        self.assertTrue(says("Umsatz, gesamt", "total"))
        self.assertTrue(says("費用合計", "total"))
        self.assertTrue(says("Note", "notes"))
        self.assertFalse(says("Note payable", "notes"))
        self.assertTrue(says("Fuel (thousand tonnes)", "measure"))
        self.assertFalse(says("Tonnes of trouble (see note)", "measure"))

    def test_a_longer_name_is_another_thing_than_the_words_in_it(self) -> None:
        self.assertNotIn("total", meanings("Net debt / EBITDA"))
        self.assertNotIn("count", meanings("Losses carried forward"))
        self.assertIn("count", meanings("Passengers carried"))

    def test_texts_are_compared_without_case_and_with_wide_letters_folded(self) -> None:
        self.assertEqual(words_of("ＴＯＴＡＬ　Assets"), words_of("total assets"))

    def test_a_number_before_a_unit_names_something(self) -> None:
        for name in ("Sales 19%", "5.5% notes 2031", "Dividend of 12.5p per share", "30 days", "90+ days"):
            with self.subTest(name):
                self.assertTrue(all(signal.bits <= 1 for signal in measure_signals(name, ())))
        for name in (
            "Margin (%)",
            "Earnings per share",
            "Load factor",
            "Fuel price ($/t)",
            "EUR/USD, average",
        ):
            with self.subTest(name):
                self.assertTrue(any(signal.bits >= 8 for signal in measure_signals(name, ())))

    def test_what_is_given_for_one_and_what_is_a_scale(self) -> None:
        for name in ("Fuel ($/t)", "Fare (£/crossing)", "Rent, EUR/m²"):
            self.assertTrue(is_for_one(name), name)
        for name in ("Revenue (€/mln)", "Revenue (Euro/migliaia)", "Ratio (a/b)"):
            self.assertFalse(is_for_one(name), name)
        self.assertTrue(is_measure("Draught (m)"))
        self.assertFalse(is_measure("Passengers (m)"))


if __name__ == "__main__":
    unittest.main()
