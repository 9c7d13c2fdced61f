"""Tables of documents in every shape: names in the middle, periods as rows, totals of columns."""

from __future__ import annotations

import unittest
from decimal import Decimal

from humble_sum.core.documents.document import Document, Paragraph, Table
from humble_sum.core.documents.proofreading import Proofread, Reader
from humble_sum.core.proof.pack_proof import prove_pack
from tests.every_change import DEMO

READER = Reader(prove_pack(DEMO))


def proofread(*rows: tuple[str, ...]) -> Proofread:
    return READER.proofread(Document("a.txt", "text", (Table(0, rows),)))


def printed() -> list[tuple[str, str, str]]:
    """Three lines of costs as the pack prints them in two years."""
    proof = READER.pack_proof.proofs["income"]
    found = []
    for line in ("dues", "dep", "keep"):
        row = proof.statement.line(line)
        assert row is not None
        one, other = (READER.names.figure(("income", line, c)).units for c in ("y26", "y25"))
        found.append((row.label, str(abs(one or 0)), str(abs(other or 0))))
    return found


class TableShapesTest(unittest.TestCase):
    def test_the_column_of_names_may_stand_anywhere(self) -> None:
        lines = printed()
        for order in ((0, 1, 2), (1, 0, 2), (1, 2, 0)):
            head = ("₹ lakhs", "2025–26", "2024–25")
            rows = [tuple(row[n] for n in order) for row in (head, *lines)]
            read = proofread(*rows)
            self.assertEqual([each.says for each in read.numbers], ["agrees"] * 6, order)

    def test_a_table_may_have_its_periods_as_rows(self) -> None:
        lines = printed()
        wrong = str(int(lines[1][1]) + 4)
        heads = ("₹ lakhs", *(label for label, _, _ in lines))
        first = ("2025–26", lines[0][1], wrong, lines[2][1])
        read = proofread(heads, first, ("2024–25", *(row[2] for row in lines)))
        self.assertEqual(read.count("agrees"), 5)
        (found,) = [each for each in read.numbers if each.says == "disagrees"]
        self.assertEqual((found.place.row, found.place.column), (1, 2))
        self.assertEqual(found.should_print, lines[1][1])

    def test_totals_of_columns_are_checked_as_printed(self) -> None:
        rows = [
            ("Pier", "Q1", "Q2", "Year"),
            ("North", "12", "14", "26"),
            ("South", "31", "9", "40"),
            ("East", "7", "8", "16"),
            ("West", "20", "22", "42"),
        ]
        (wrong,) = [each for each in proofread(*rows).sums if not each.holds]
        self.assertEqual((wrong.across, wrong.row, wrong.column), (True, 3, 3))
        self.assertEqual((wrong.comes_to, wrong.prints), (15, 16))
        turned = list(zip(*rows, strict=True))
        (wrong,) = [each for each in proofread(*turned).sums if not each.holds]
        self.assertEqual((wrong.across, wrong.row, wrong.column), (False, 3, 3))

    def test_percentages_that_should_come_to_a_hundred_are_added_up(self) -> None:
        rows = [
            ("Pier", "Share"),
            ("North", "33.3%"),
            ("South", "33.3%"),
            ("East", "33.3%"),
            ("All", "100.0%"),
        ]
        (off,) = proofread(*rows).sums
        self.assertEqual((off.row, off.comes_to, off.holds), (4, Decimal("0.999"), False))
        rows[1] = ("North", "33.4%")
        (right,) = proofread(*rows).sums
        self.assertTrue(right.holds)
        rows[1] = ("North", "58.1%")
        self.assertEqual(proofread(*rows).sums, ())

    def test_lines_that_are_full_do_not_end_a_sentence(self) -> None:
        text = (
            "All in all the year that ended was a good one, and revenue from crossings\n"
            "came to ₹33.83 crore in the end, more than anybody had thought possible."
        )
        (number,) = READER.proofread(Document("a.txt", "text", (Paragraph(0, text),))).numbers
        self.assertEqual((number.figure, number.says), (("income", "rev", "y26"), "disagrees"))

    def test_narrow_lines_go_on_in_small_letters_and_lists_do_not(self) -> None:
        narrow = "Revenue from crossings\ncame to ₹33.83 crore in\nthe year that ended and\nmore."
        listed = "Harbour dues: 148 lakhs\nDepreciation: 314 lakhs"
        blocks = (Paragraph(0, narrow), Paragraph(1, listed))
        first, *rest = READER.proofread(Document("a.txt", "text", blocks)).numbers
        self.assertEqual((first.figure, first.says), (("income", "rev", "y26"), "disagrees"))
        self.assertEqual(
            [each.figure for each in rest], [("income", "dues", "y26"), ("income", "dep", "y26")]
        )


if __name__ == "__main__":
    unittest.main()
