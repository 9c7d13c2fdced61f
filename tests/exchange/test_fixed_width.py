"""Statements as plain text in columns: digits under digits in every script."""

import unittest
from typing import Any

from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.rules.rulebook import Reach, with_clauses
from humble_sum.exchange.fixed_width import display_width, write_fixed_width
from humble_sum.records.demo import demo_pack


def written(statement: str = "income", **clauses: Any) -> list[str]:
    """The demo statement's lines under one more rule on every line of it."""
    pack = demo_pack()
    book = with_clauses(pack.rulebook, Reach(statement=statement), "Test", read_clauses(clauses))
    pack = pack.model_copy(update={"rulebook": book})
    found = pack.statement(statement)
    assert found is not None
    return write_fixed_width(pack, prove(pack, found)).decode().splitlines()


def ends_of_digits(lines: list[str]) -> set[int]:
    """Where the digits of the first column end."""
    last = lines[-1]
    start, end = last.index("="), last.index(" ", last.index("="))
    ends = set()
    for line in lines[4:-1]:
        places = [n for n, character in enumerate(line[start:end]) if character.isdigit()]
        ends |= {places[-1]} if places else set()
    return ends


class FixedWidthTest(unittest.TestCase):
    def test_digits_stand_under_digits_past_a_closing_bracket(self) -> None:
        lines = written()
        self.assertEqual(lines[1], "Lanternfish Ferries, Year to 31 March 2026, ₹ lakhs")
        self.assertIn("Total costs                 (2,770)   (2,730)     (40)", lines)
        self.assertIn("Surplus for the year           413       300      113", lines)
        self.assertEqual(len(ends_of_digits(lines)), 1)
        self.assertEqual(lines[-1].split(), ["========", "========", "======="])

    def test_a_rule_may_have_figures_end_where_the_column_does(self) -> None:
        lines = written(line_up=False)
        ends = {display_width(line) for line in lines[4:] if line.strip()[-1:] in ")0123456789"}
        self.assertEqual(len(ends), 1)

    def test_wide_and_combining_characters_keep_the_columns(self) -> None:
        self.assertEqual(
            [display_width(text) for text in ("31日", "र्च", "e\u0301", "\u200f12")], [4, 2, 1, 2]
        )
        for tag in ("ja-JP", "mr-IN", "sv-SE"):
            with self.subTest(tag):
                lines = written("position", locale=tag)
                ruled = {display_width(line) for line in lines if set(line.strip()) <= {"-", " "} and line}
                self.assertEqual(len(ruled), 1)
                self.assertEqual(len(ends_of_digits(lines)), 1)
