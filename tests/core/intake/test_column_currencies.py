"""Columns in several currencies: told apart by them, and asked about."""

from __future__ import annotations

import unittest

from humble_sum.core.intake.decisions import TableDecided
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.questions import Question, questions
from tests.making import drafted

LINES = [["Fares", "100", "125"], ["Freight", "50", "62.5"], ["Total", "150", "187.5"]]


def headings(made: Draft) -> list[str]:
    return [column.heading for column in made.layout.figures]


def asked(made: Draft) -> Question | None:
    return next((each for each in questions(made) if "currency" in each.asks), None)


class ColumnCurrenciesTest(unittest.TestCase):
    def test_columns_headed_alike_but_for_their_unit_are_told_apart(self) -> None:
        cases = {
            ("Line", "\u00a3", "$"): ["\u00a3", "$"],
            ("Line", "GBP", "USD"): ["GBP", "USD"],
            ("Line", "Rs. in lakhs", "Rs. in crores"): ["Rs. in lakhs", "Rs. in crores"],
            ("Line", "2026 \u00a3m", "2026 $m"): ["2026 \u00a3m", "2026 $m"],
        }
        for heads, expected in cases.items():
            with self.subTest(heads=heads):
                self.assertEqual(headings(drafted([heads, *LINES])), expected)
        two = drafted([["", "2026", "2026"], ["Line", "\u00a3m", "US$m"], *LINES])
        self.assertEqual(headings(two), ["2026, \u00a3m", "2026, US$m"])
        self.assertEqual([str(a) for a in two.lines[0].amounts], ["1.00E+8", "1.25E+8"])

    def test_several_currencies_are_asked_about_wherever_they_are_stated(self) -> None:
        stated = {
            "in headings": [["Line", "\u00a3", "$"], *LINES],
            "in cells": [["Line", "2026", "2025"], *([n, f"\u00a3{a}", f"${b}"] for n, a, b in LINES)],
            "over the table": [["\u00a3", "2026", "2026 (US$)"], *LINES],
        }
        for where, rows in stated.items():
            with self.subTest(where):
                question = asked(drafted(rows))
                assert question is not None
                self.assertEqual(
                    [answer.label for answer in question.answers], ["all, and none is named", "GBP", "USD"]
                )
        self.assertIsNone(asked(drafted([["Line", "2026 \u00a3", "2025 \u00a3"], *LINES])))
        self.assertIsNone(asked(drafted([["Line", "2026 \u00a3", "Share %"], *LINES])))
        self.assertIsNone(asked(drafted([["Line", "2026 \u00a3m", "Fuel price ($/t)"], *LINES])))

    def test_an_answer_keeps_the_columns_of_one_currency_or_all_without(self) -> None:
        made = drafted([["Line", "\u00a3", "$"], *LINES])
        question = asked(made)
        assert question is not None
        found = []
        for answer in question.answers:
            again = draft(made.table, TableDecided.model_validate(answer.decide))
            self.assertIsNone(asked(again))
            found.append((again.currency, [str(amount) for amount in again.lines[0].amounts]))
        self.assertEqual(found, [(None, ["100", "125"]), ("GBP", ["100"]), ("USD", ["125"])])


if __name__ == "__main__":
    unittest.main()
