"""What arithmetic and layout tell of a table that its words do not."""

from __future__ import annotations

import unittest
from decimal import Decimal

from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.regions import regions
from humble_sum.core.intake.table import SheetCell, Table
from tests.making import drafted


class LayoutTest(unittest.TestCase):
    def test_a_total_may_stand_before_the_columns_that_it_adds(self) -> None:
        made = drafted(
            [
                ["EUR m", "Total", "North", "South", "Islands"],
                ["Fares", "120.4", "60.1", "40.2", "20.1"],
                ["Freight", "45.3", "20.0", "15.3", "10.0"],
                ["Kiosks", "12.6", "5.0", "4.1", "3.5"],
            ]
        )
        self.assertEqual(made.columns[0].sum, tuple(column.id for column in made.columns[1:]))

    def test_cells_written_as_percentages_are_no_question_where_they_are_one_column_over_another(
        self,
    ) -> None:
        made = drafted(
            [
                ["$ in millions", "2026", "2025", "Change"],
                ["Passenger revenue", "$ 1234.5", "$ 1100.2", "12.2%"],
                ["Freight revenue", "345.6", "401.0", "(13.8)%"],
                ["Other", "—", "12.0", "n.m."],
                ["Total revenue", "$ 1580.1", "$ 1513.2", "4.4%"],
            ]
        )
        self.assertEqual(list(questions(made, ())), [])
        self.assertEqual(made.lines[0].amounts[2], Decimal("0.122"))

    def test_a_unit_over_two_sides_is_that_of_both(self) -> None:
        rows = [
            ["Balance sheet", "", "", "", "", "£000"],
            ["Liabilities", "2026", "2025", "Assets", "2026", "2025"],
            ["Share capital", "1,000", "1,000", "Vessels", "5,420", "5,110"],
            ["Reserves", "5,630", "5,225", "Piers", "1,210", "1,115"],
            ["Total", "6,630", "6,225", "Total", "6,630", "6,225"],
        ]
        table = Table("sides.csv", "", tuple(tuple(map(SheetCell, row)) for row in rows))
        for side in regions(table):
            with self.subTest(side=side.name):
                self.assertEqual(draft(side).lines[-1].amounts[0], Decimal(6_630_000))

    def test_debits_that_equal_credits_settle_how_numbers_are_written(self) -> None:
        rows = [["Account", "Balance", "D/C"], ["Bank", "892", "D"], ["Purchases", "900", "D"]]
        rows += [["Rent", "536", "D"], ["Sales", "2,328", "C"]]
        made = drafted(rows)
        self.assertEqual(made.lines[-1].amounts, (Decimal(-2328),))
        self.assertEqual(list(questions(made, ())), [])

    def test_neither_sides_nor_numbers_of_lines_are_asked_of(self) -> None:
        rows = [["", "", "FY27", "FY26"]]
        rows += [[f"{n})", f"Line {n}", f"{n * 977 % 500}.5", f"{n * 613 % 500}.5"] for n in range(1, 8)]
        titled = [["for the year ended 31 December 2026", "", "", ""], *rows]
        self.assertEqual(list(questions(drafted(titled), ())), [])
        rows = [
            ["1000", "Bank", "500", "Soll"],
            ["1010", "Rent", "100", "Soll"],
            ["1020", "Pay", "77", "Soll"],
        ]
        rows += [["1030", "Sales", "400", "Haben"], ["1040", "Capital", "277", "Haben"]]
        made = drafted([["", "£000", "Balance", "D/C"], *rows])
        self.assertEqual(list(questions(made, ())), [])

    def test_a_column_of_units_says_what_lines_are_that_are_no_money(self) -> None:
        rows = [["Indicator", "Unit", "FY25", "FY24"], ["Net sales", "EUR thousand", "210,400", "198,700"]]
        rows += [
            ["Gross margin", "% of sales", "41.2", "40.8"],
            ["Earnings", "EUR per share", "1.25", "1.10"],
        ]
        rows += [["Order intake", "units", "3,120", "2,980"], ["Emissions", "t CO2e", "18,400", "19,150"]]
        made = drafted(rows)
        self.assertEqual([line.kind for line in made.lines[2:]], ["per_unit", "count", "count"])
        self.assertEqual(
            [line.amounts[0] for line in made.lines][:2], [Decimal(210_400_000), Decimal("0.412")]
        )

    def test_a_column_of_percentage_points_is_one_whatever_the_size_of_its_figures(self) -> None:
        rows = [["", "FY26", "FY25", "Change (pp)"], ["Occupancy", "78.4%", "75.1%", "3.3"]]
        rows += [["Punctuality", "91.0%", "92.5%", "-1.5"], ["Refund rate", "1.2%", "1.4%", "-0.2"]]
        amounts = [line.amounts[2] for line in drafted(rows).lines]
        self.assertEqual(amounts, [Decimal("0.033"), Decimal("-0.015"), Decimal("-0.002")])


if __name__ == "__main__":
    unittest.main()
