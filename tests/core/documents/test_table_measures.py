"""Columns of tables that are worked out: growth, shares of a total."""

from __future__ import annotations

import unittest

from humble_sum.core.documents.document import Document, Paragraph, Table
from humble_sum.core.documents.proofreading import Judgment
from tests.core.documents.test_none_of_ours import READER

ROWS = (
    ("Passenger fares", "18.44", "17.12", "7.7%"),
    ("Vehicle carriage", "9.62", "9.18", "4.8%"),
    ("Night freight", "4.11", "3.86", "6.5%"),
    ("Revenue from crossings", "33.38", "31.37", "6.4%"),
)
SHARES = (
    ("Crew and shore wages", "37"),
    ("Fuel and lubricants", "32"),
    ("Vessel upkeep", "14"),
    ("Harbour dues", "5"),
)


def numbers(*rows: tuple[str, ...]) -> dict[tuple[int | None, int | None], Judgment]:
    blocks = (Paragraph(0, "Amounts in ₹ crore"), Table(0, rows))
    read = READER.proofread(Document("a.docx", "docx", blocks))
    return {(each.place.row, each.place.column): each for each in read.numbers}


class TableMeasuresTest(unittest.TestCase):
    def test_a_column_of_growth_is_known_by_most_of_its_cells_and_a_wrong_one_is_found(self) -> None:
        head = ("", "FY26", "FY25", "Growth")
        found = numbers(head, *ROWS)
        self.assertEqual({found[n, 3].says for n in range(1, 5)}, {"rounds"})
        self.assertEqual(found[1, 3].measure, "change_percent")
        spoilt = [*ROWS[:2], (*ROWS[2][:3], "5.6%"), ROWS[3]]
        wrong = numbers(head, *spoilt)[3, 3]
        self.assertEqual((wrong.says, wrong.should_print), ("disagrees", "6.7%"))

    def test_shares_are_known_without_the_figures_beside_them(self) -> None:
        found = numbers(("Cost", "% of total costs"), *SHARES)
        self.assertEqual({(each.measure, each.says) for each in found.values()}, {("share", "rounds")})
        wrong = numbers(("Cost", "% of total costs"), *SHARES[:3], ("Harbour dues", "8"))[4, 1]
        self.assertEqual((wrong.says, wrong.should_print), ("disagrees", "5"))

    def test_columns_that_come_to_nothing_are_none_of_ours(self) -> None:
        rows = [
            (*row[:3], growth) for row, growth in zip(ROWS, ("1.7%", "9.8%", "2.5%", "3.4%"), strict=True)
        ]
        found = numbers(("", "FY26", "FY25", "Market"), *rows)
        self.assertEqual({found[n, 3].says for n in range(1, 5)}, {"other"})


if __name__ == "__main__":
    unittest.main()
