"""Reports printed as text over several pages, and two sides beside each other."""

from __future__ import annotations

import unittest
from decimal import Decimal

from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.questions import questions
from humble_sum.exchange.sources.opening import open_source
from tests.making import drafted

PAGE = """LANTERN LINES LTD                                   PAGE {page}
TRIAL BALANCE AS AT 31-MAR-2026

CODE   ACCOUNT                  DEBIT          CREDIT
"""
LEDGER = (
    PAGE.format(page=1)
    + """1000   Cash                  1,200.50
1010   Bank                    300.00
\f"""
    + PAGE.format(page=2)
    + """2000   Payables                              500.50
3000   Capital                             1,000.00
       TOTAL                 1,500.50      1,500.50
"""
)


def drafts(name: str, text: str) -> list[Draft]:
    return [draft(table) for table in open_source(name, text.encode())]


def amounts(made: Draft) -> dict[str, tuple[Decimal | None, ...]]:
    return {line.label: line.amounts for line in made.lines}


class PagesTest(unittest.TestCase):
    def test_codes_stand_apart_and_what_heads_every_page_is_read_once(self) -> None:
        (made,) = drafts("ledger.txt", LEDGER)
        self.assertEqual(
            amounts(made),
            {
                "Cash": (Decimal("1200.50"), None),
                "Bank": (Decimal("300.00"), None),
                "Payables": (None, Decimal("500.50")),
                "Capital": (None, Decimal("1000.00")),
                "TOTAL": (Decimal("1500.50"), Decimal("1500.50")),
            },
        )
        self.assertEqual([column.heading for column in made.layout.figures], ["DEBIT", "CREDIT"])
        self.assertEqual(made.layout.columns[0].role, "code")

    def test_a_second_table_under_the_same_headings_keeps_them(self) -> None:
        one = "                  2026     2025\nFares              100       90\nHire                50       40\n"
        two = "\n\nCosts\n" + one.replace("Fares", "Fuel ").replace("Hire ", "Wages")
        tables = drafts("two.txt", one + two)
        self.assertEqual([list(amounts(made)) for made in tables], [["Fares", "Hire"], ["Fuel", "Wages"]])
        years = "Ferries Ltd\nYear 2026\n          Amount\nFares        100\nHire          50\n"
        text = years + "\n" + years.replace("2026", "2025")
        self.assertTrue(
            any(
                "Year 2025" in cell.text
                for table in open_source("y.txt", text.encode())
                for row in table.rows
                for cell in row
            )
        )

    def test_amounts_that_could_be_years_below_an_empty_row_are_a_line(self) -> None:
        above: list[list[str]] = [["Cash", "1000", "990"], ["Plant", "1015", "997"], ["", "", ""]]
        below = [["Total assets", "2015", "1987"], ["Loans", "-15", "-7"], ["Creditors", "-500", "-480"]]
        for heads in (
            ["\u00a3m", "2026", "2025"],
            ["\u00a3m", "FY26", "FY25"],
            ["", "31 March 2026", "31 March 2025"],
        ):
            with self.subTest(heads=heads):
                made = drafted([heads, *above, *below])
                self.assertEqual([line.label for line in made.lines][2], "Total assets")
                self.assertEqual(made.lines[2].parts, ((0, 1), (1, 1)))
        for again in (
            ["Cash \u00a3m", "2026", "2025"],
            ["Cash \u00a3m", "2024", "2023"],
            ["", "2011", "1999"],
        ):
            with self.subTest(again=again):
                rows = [["\u00a3m", "2026", "2025"], *above, again, *below[1:]]
                tables = drafts("two.csv", "\n".join(map(",".join, rows)))
                self.assertEqual([len(made.lines) for made in tables], [2, 2])

    def test_dots_that_lead_to_figures_are_no_part_of_a_name(self) -> None:
        text = "                 2026     2025\nTurnover .....  1,234    1,100\nCosts . . . . .  (834)    (700)\n"
        (made,) = drafts("leaders.txt", text + "Profit            400      400\n")
        self.assertEqual([line.label for line in made.lines], ["Turnover", "Costs", "Profit"])

    def test_few_lines_below_many_titles_are_no_delimited_text(self) -> None:
        (made,) = drafts("short.txt", LEDGER.partition("\f")[0])
        self.assertEqual(amounts(made)["Cash"], (Decimal("1200.50"),))


class SidesTest(unittest.TestCase):
    def test_sides_that_are_headed_alike_are_statements_of_their_own(self) -> None:
        for head in ("Rs.", "Amount", "2026"):
            text = f"Liabilities,{head},Assets,{head}\nCapital,500,Vessels,750\nLoans,350,Cash,100\n"
            left, right = drafts("sides.csv", text + "Total,850,Total,850\n")
            self.assertEqual(amounts(left), {"Capital": (500,), "Loans": (350,), "Total": (850,)}, head)
            self.assertEqual(amounts(right), {"Vessels": (750,), "Cash": (100,), "Total": (850,)}, head)

    def test_words_between_figures_that_are_headed_otherwise_are_no_labels(self) -> None:
        text = "Vessel,Length,Flag,Tonnage\nAurora,120,Malta,5400\nBorealis,98,Cyprus,4100\n"
        (made,) = drafts("fleet.csv", text)
        self.assertEqual(amounts(made), {"Aurora": (120, 5400), "Borealis": (98, 4100)})

    def test_columns_that_only_their_units_tell_apart_keep_them_in_their_names(self) -> None:
        (made,) = drafts("two.csv", "Line,2026 £m,2026 $m\nFares,12.5,15.9\nFuel,(2.5),(3.2)\n")
        self.assertEqual([column.heading for column in made.layout.figures], ["2026 £m", "2026 $m"])
        text = "Line,Budget,Actual,Budget,Actual\n,Q1,Q1,Q2,Q2\nFares,100,110,120,115\nFuel,-50,-55,-60,-58\n"
        (made,) = drafts("quarters.csv", text)
        wanted = ["Budget, Q1", "Actual, Q1", "Budget, Q2", "Actual, Q2"]
        self.assertEqual([column.heading for column in made.layout.figures], wanted)


class TimesTest(unittest.TestCase):
    def test_years_months_and_days_written_as_numbers_are_no_amounts(self) -> None:
        for head, now, before in (
            ("Period", "2026", "2025"),
            ("Month", "202603", "202503"),
            ("Posting date", "20260331", "20250331"),
            ("Year", "202603", "202503"),
        ):
            text = f"Line,{head},Sum\nFares,{now},1234\nFares,{before},1100\nFuel,{now},-234\n"
            (made,) = drafts("long.csv", text)
            self.assertEqual([column.heading for column in made.layout.figures], ["Sum"], head)

    def test_amounts_of_a_month_stay_amounts(self) -> None:
        (made,) = drafts("month.csv", "Line,Month,Year to date\nFares,2026,12340\nFuel,-311,-2340\n")
        self.assertEqual(amounts(made)["Fares"], (2026, 12340))


class ThreeDigitsTest(unittest.TestCase):
    def test_points_before_three_digits_group_unless_something_speaks_for_decimals(self) -> None:
        for title, first in (
            ("", Decimal(33_918)),
            ("in thousands", Decimal(33_918_000)),
            ("EUR millions", Decimal(33_918_000)),  # 33.918 millions
            ("KWD", Decimal("33.918")),
            ("GBP", Decimal("33.918")),
        ):
            text = f"{title};\nLine;2026\nFares;33.918\nFuel;79.948\nHire;92.628\nMail;12.444\n"
            (made,) = drafts("three.csv", text)
            self.assertEqual(made.lines[0].amounts, (first,), title)
            self.assertTrue(any("could be either" in each.says for each in questions(made)), title)


if __name__ == "__main__":
    unittest.main()
