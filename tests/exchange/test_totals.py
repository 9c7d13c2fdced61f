"""Totals where they are easily missed or mistaken: of two lines, across headings, typed, wrong in a year."""

from __future__ import annotations

import unittest

from humble_sum.core.intake.draft import draft
from humble_sum.exchange.sources.opening import open_source
from tests.exchange.test_awkward_sources import Grid, amounts, book, read, sums


class TotalsTest(unittest.TestCase):
    def test_equity_is_a_part_of_the_total_below_it(self) -> None:
        made = read(
            "Position,2027,2026\nAssets,,\nShips,120.5,110\nCash,4,6.5\nTotal assets,124.5,116.5\n"
            "Liabilities,,\nLoans,80,85\nEquity,44.5,31.5\nTotal equity and liabilities,124.5,116.5\n"
        )
        self.assertEqual(
            sums(made),
            {"Total assets": ["Ships", "Cash"], "Total equity and liabilities": ["Loans", "Equity"]},
        )

    def test_net_assets_are_what_loans_leave(self) -> None:
        made = read(
            "Position,2027,2026\nShips,120.5,110\nCash,4,6.5\nTotal assets,124.5,116.5\n"
            "Loans,80,85\nNet assets,44.5,31.5\n"
        )
        self.assertEqual(sums(made)["Net assets"], ["Total assets", "Loans"])

    def test_a_total_of_two_lines_and_a_result_in_one_column(self) -> None:
        made = read(
            "Line,2027\nFares,475.1\nMail,984.8\nTotal income,1459.9\n"
            "Wages,333.91\nMoorings,279.08\nTotal costs,612.99\nOperating profit,846.91\n"
        )
        wanted = {
            "Total income": ["Fares", "Mail"],
            "Total costs": ["Wages", "Moorings"],
            "Operating profit": ["Total income", "Total costs"],
        }
        self.assertEqual(sums(made), wanted)
        called = read("Line,2027\nFares,475.1\nMail,984.8\nHire,1459.9\n")
        self.assertEqual(sums(called), {}, "what is not called a total may be chance")

    def test_three_lines_of_few_digits_may_add_by_chance_in_whatever_unit(self) -> None:
        made = read("Line,31 March 2026 MSEK\nAudit,507\nRent,697\nTelephone,398\nLegal,50\nWages,249\n")
        self.assertEqual(sums(made), {})

    def test_a_total_of_one_line_and_zeros_is_not_counted_beside_them(self) -> None:
        made = read(
            "Line,2027,2026\nFares,475,420\nMail,984,990\nTotal income,1459,1410\n"
            "Wages,333,350\nMoorings,-,-\nRents,-,-\nTotal costs,333,350\nOperating profit,1126,1060\n"
        )
        self.assertEqual(sums(made)["Operating profit"], ["Total income", "Total costs"])

    def test_retained_earnings_are_not_what_others_leave(self) -> None:
        made = read(
            "Position,2027,2026\nAssets,,\nShips,120.5,110\nCash,4,6.5\nTotal assets,124.5,116.5\n"
            "Liabilities,,\nLoans,60,65\nTrade payables,20,20\nTotal liabilities,80,85\n"
            "Equity,,\nShare capital,10,10\nRetained earnings,34.5,21.5\nTotal equity,44.5,31.5\n"
        )
        self.assertEqual(sums(made)["Total equity"], ["Share capital", "Retained earnings"])
        self.assertNotIn("Retained earnings", sums(made))

    def test_a_result_below_a_heading_is_what_others_leave(self) -> None:
        made = read(
            "Line,2027,2026\nRevenue,,\nFares,12,11\nMail,3,2\nTotal revenue,15,13\n"
            "Costs,,\nFuel,4,5\nWages,5,1\nTotal costs,9,6\nContribution,6,7\nFinance,,\nInterest,1,2\nProfit,5,5\n"
        )
        self.assertEqual(sums(made)["Contribution"], ["Total revenue", "Total costs"])
        self.assertEqual(sums(made)["Profit"], ["Contribution", "Interest"])

    def test_years_as_rows_below_titles_are_no_amounts(self) -> None:
        made = read("Acme\nin thousands\nYear;Fares;Hire;Total\n2025;388;16;404\n2026;947;317;1.264\n")
        self.assertEqual(
            amounts(made), {"2025": ("388000", "16000", "404000"), "2026": ("947000", "317000", "1264000")}
        )
        ended = read("Year,Fares,Hire\n2025,388,16\n2026,947,317\nTotal,1335,333\n")
        self.assertEqual(list(amounts(ended)), ["2025", "2026", "Total"])

    def test_subtotals_of_a_workbook_pass_over_each_other(self) -> None:
        grid: Grid = [
            ["Line", 2027],
            ["Fares", 12],
            ["Mail", 3],
            ["Income", "=SUBTOTAL(9,B2:B3)"],
            ["Hire", 4],
            ["All income", "=SUBTOTAL(109,B2:B5)"],
        ]
        (table,) = open_source("book.xlsx", book({"Sheet": grid}))
        made = draft(table)
        self.assertEqual(sums(made), {"Income": ["Fares", "Mail"], "All income": ["Fares", "Mail", "Hire"]})
        self.assertEqual(amounts(made)["All income"], ("19",))

    def test_a_total_typed_among_formulas_is_found(self) -> None:
        grid: Grid = [
            ["Line", 2027, 2026],
            ["Fares", 12, 11],
            ["Mail", 3, 2],
            ["Total income", "=B2+B3", "=C2+C3"],
            ["Fuel", 4, 5],
            ["Wages", 5, 1],
            ["Total costs", 9, 6],
        ]
        (table,) = open_source("book.xlsx", book({"Sheet": grid}))
        self.assertEqual(sums(draft(table))["Total costs"], ["Fuel", "Wages"])

    def test_a_total_that_is_wrong_in_one_year_is_a_total(self) -> None:
        made = read("Line,2027,2026\nFerries,120,110\nFreight,34,31\nKiosks,95,102\nTotal,249,253\n")
        self.assertEqual(sums(made), {"Total": ["Ferries", "Freight", "Kiosks"]})
        (line,) = (line for line in made.lines if line.parts)
        self.assertIn("1 of 2 columns", line.evidence)
        self.assertFalse([offer for offer in made.offers if made.lines[offer.total].label == "Total"])

    def test_a_total_that_adds_nowhere_is_left_alone(self) -> None:
        made = read("Line,2027,2026\nFerries,120,110\nFreight,34,31\nKiosks,95,102\nTotal,248,253\n")
        self.assertEqual(sums(made), {})

    def test_a_total_of_one_line_is_not_counted_beside_it(self) -> None:
        made = read(
            "USD,2027,2026\nNet cash from operations,525,510\nPurchase of ships,-400,-300\n"
            "Net cash used in investing,-400,-300\nNet increase in cash,125,210\n"
        )
        of = ["Net cash from operations", "Net cash used in investing"]
        self.assertEqual(sums(made), {"Net increase in cash": of})

    def test_a_column_called_total_adds_those_before_it(self) -> None:
        made = read(
            "Due,0-30,31-60,61-90,> 90,Total\nTrade,10,5,3,2,20\nOther,4,1,-,1,6\nTotal,14,6,3,3,26\n"
        )
        added = [tuple(column.sum or ()) for column in made.columns]
        self.assertEqual([len(parts) for parts in added], [0, 0, 0, 0, 4], "and no chance difference")


if __name__ == "__main__":
    unittest.main()
