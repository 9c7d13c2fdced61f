"""Sources as people hand them over, each with what has to be read of it: nothing wrongly, and nothing lost."""

from __future__ import annotations

import io
import unittest
from collections.abc import Mapping, Sequence
from decimal import Decimal

from openpyxl import Workbook

from humble_sum.core.errors import InputError
from humble_sum.core.intake.draft import Draft, draft, stated_units
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.exchange.sources.opening import open_source

Grid = Sequence[Sequence[object]]
Rows = dict[str, tuple[str | None, ...]]


def read(text: str, name: str = "source.csv") -> Draft:
    (table,) = open_source(name, text.encode())
    return draft(table)


def amounts(made: Draft) -> Rows:
    return {
        line.label: tuple(None if a is None else format(a.normalize(), "f") for a in line.amounts)
        for line in made.lines
        if not line.heading
    }


def sums(made: Draft) -> dict[str, list[str]]:
    return {line.label: [made.lines[n].label for n, _ in line.parts] for line in made.lines if line.parts}


def headings(made: Draft) -> list[str]:
    return [column.label for column in made.columns]


def book(sheets: Mapping[str, Grid]) -> bytes:
    """A workbook whose formulas have no saved values."""
    made = Workbook()
    made.remove(made.worksheets[0])
    for title, rows in sheets.items():
        sheet = made.create_sheet(title)
        for row in rows:
            sheet.append(list(row))
    written = io.BytesIO()
    made.save(written)
    return written.getvalue()


class LinedUpTest(unittest.TestCase):
    def test_columns_of_money_and_rows_of_years_lined_up_by_spaces(self) -> None:
        money = read(
            "Line             2026           2025\nFares     3,400.50 kr    1,004.00 kr\nHire     (7,594.00 kr)     553.25 kr\n",
            "a.txt",
        )
        self.assertEqual(amounts(money), {"Fares": ("3400.5", "1004"), "Hire": ("-7594", "553.25")})
        years = read(
            "EUR million\nYear      Fares    Freight\n2025      5,075     12,928\n2026        342      7,053\n",
            "b.txt",
        )
        self.assertEqual(amounts(years)["2025"], ("5075000000", "12928000000"))

    def test_columns_lined_up_by_spaces(self) -> None:
        made = read(
            "Lanternfish Ferries\n"
            "                       Note     2027      2026\n"
            "                               £'000     £'000\n\n"
            "Revenue                   2    1,234     1,100\n"
            "Cost of sales             3     (834)     (800)\n"
            "                             -------   -------\n"
            "Gross profit                     400       300\n"
            "Other income                       -        12\n",
            "report.txt",
        )
        self.assertEqual(headings(made), ["2027", "2026"])
        self.assertEqual(amounts(made)["Revenue"], ("1234000", "1100000"))
        self.assertEqual(amounts(made)["Other income"], ("0", "12000"))
        self.assertEqual(sums(made), {"Gross profit": ["Revenue", "Cost of sales"]})

    def test_a_table_in_markdown(self) -> None:
        made = read(
            "# Income\n\nAmounts in CHF thousand.\n\n| | 2027 | 2026 |\n|:--|--:|--:|\n| **Income** | | |\n"
            "| Fares \\| tolls | 1'234 | 1'100 |\n| Freight | 200* | 150 |\n"
            "| **Total** | **1'434** | **1'250** |\n",
            "income.md",
        )
        self.assertEqual(amounts(made)["Fares | tolls"], ("1234000", "1100000"))
        self.assertEqual(amounts(made)["Freight"], ("200000", "150000"))
        self.assertEqual(sums(made), {"Total": ["Fares | tolls", "Freight"]})

    def test_sentences_with_commas_are_no_table(self) -> None:
        text = (
            "In the year to March 2027 revenue was ₹41.3 crore, against ₹38.9 crore a year before.\n"
            "Costs rose to Rs 30,12,000 from Rs. 28.5 lakh, and the margin was 27.1% (2026: 25%).\n"
        )
        with self.assertRaises(InputError) as raised:
            read(text, "letter.txt")
        self.assertEqual(raised.exception.kind, "no-table")


class ColumnsTest(unittest.TestCase):
    def test_prices_and_quantities_are_in_no_scale(self) -> None:
        made = read(
            "₹ lakh,Quantity,Price per unit (₹),Value\nDiesel,412,94.25,388.31\nOil,12,310.50,37.26\n"
            "Total,424,,425.57\n"
        )
        self.assertEqual(amounts(made)["Oil"], ("12", "310.5", "3726000"))
        self.assertEqual(sums(made), {"Total": ["Diesel", "Oil"]})
        self.assertEqual([column.apart for column in made.columns], [False, True, False])
        self.assertEqual(
            amounts(read("£'000,Passengers ('000),Fares\nA,12,30\nB,11,28\n"))["A"], ("12000", "30000")
        )
        self.assertEqual(amounts(read("₹ lakh,As per books\nA,12\nB,11\n"))["A"], ("1200000",))

    def test_a_heading_stands_over_the_columns_to_its_right(self) -> None:
        made = read("₹ thousand,Note,2027,,2026,\n,,Ferry,Kiosk,Ferry,Kiosk\nFares,2,100,20,90,15\n")
        self.assertEqual(headings(made), ["2027, Ferry", "2027, Kiosk", "2026, Ferry", "2026, Kiosk"])

    def test_percentages_of_change_add_to_no_total(self) -> None:
        made = read(
            "£'000,Actual,Budget,Variance,Variance %\nFares,120,110,10,9.1\nFreight,80,95,(15),(15.8)\n"
            "Total,200,205,(5),(2.4)\n"
        )
        self.assertEqual(amounts(made)["Freight"], ("80000", "95000", "-15000", "-0.158"))
        self.assertTrue(made.columns[3].apart)
        proof = prove_pack(pack_of([Kept(made, "Budget")], "Ferries", "2027"))
        self.assertEqual(proof.count("budget", "break"), 0)

    def test_a_column_of_margins_does_not_hide_a_sum(self) -> None:
        made = read(
            "Month,Revenue,Costs,Margin\nJan,1200,800,33.3%\nFeb,1100,950,13.6%\nMar,1550,825,46.8%\n"
            "Quarter,3850,2575,33.1%\n"
        )
        self.assertEqual(sums(made), {"Quarter": ["Jan", "Feb", "Mar"]})

    def test_codes_of_accounts_are_no_figures(self) -> None:
        made = read(
            "Acc,Name,Dr,Cr\n1000,Cash,500,\n2000,Loan,,300\n3000,Sales,,250\n4000,Rent,50,\n,Total,550,550\n"
        )
        self.assertEqual(amounts(made)["Loan"], (None, "300"))
        self.assertIn("column A, Acc, read as codes of the lines", list(settled(made)))

    def test_words_among_codes_name_a_row_without_a_label(self) -> None:
        made = read(
            "Code,Account,Debit,Credit\n100,Cash,500,\n200,Sales,,900\nCarried forward,,500,900\n"
            "Code,Account,Debit,Credit\nBrought forward,,500,900\n300,Rent,400,\nTotal,,900,900\n"
        )
        wanted = ["Cash", "Sales", "Carried forward", "Brought forward", "Rent", "Total"]
        self.assertEqual([line.label for line in made.lines], wanted)
        self.assertFalse([doubt for doubt in made.doubts if doubt.asks])

    def test_a_column_of_a_period_is_kept_where_its_figures_have_marks(self) -> None:
        made = read("Item,2027,2026\nRevenue,120,*\nCosts,(80),(75) (x)\nProfit,40,[25]\n")
        self.assertEqual(headings(made), ["2027", "2026"])
        self.assertEqual({doubt.text for doubt in made.doubts if doubt.asks}, {"[25]"})
        self.assertLessEqual({"*", "(75) (x)"}, {doubt.text for doubt in made.doubts})

    def test_components_of_equity_add_where_some_are_blank(self) -> None:
        made = read(
            "EUR thousand,Capital,Premium,Retained,Total\nOpening,100,50,200,350\nProfit,0,0,80,80\n"
            "Dividends,,,-30,-30\nIssue,10,20,,30\nClosing,110,70,250,430\n"
        )
        self.assertEqual(made.columns[3].sum, ("Capital", "Premium", "Retained"))

    def test_shares_in_issue_are_no_sum_of_quarters(self) -> None:
        rows: Grid = [
            ["₹ lakh", "Q1", "Q2", "Year"],
            ["Revenue", 10, 20, "=B2+C2"],
            ["Costs", -4, -6, "=B3+C3"],
            ["Shares (number)", 1000, 1000, 1000],
        ]
        (table,) = open_source("a.xlsx", book({"P": rows}))
        made = draft(table)
        self.assertEqual(amounts(made)["Shares (number)"], ("1000", "1000", "1000"))
        pack = pack_of([Kept(made, "P")], "Ferries", "2027")
        line = pack.statements[0].lines[2]
        self.assertEqual((line.kind, line.amounts["Year"]), ("count", Decimal(1000)))
        self.assertEqual(prove_pack(pack).proofs["p"].figures[line.id, "Year"].exact, Decimal(1000))

    def test_a_year_that_is_not_its_quarters_is_kept_as_it_stands(self) -> None:
        rows: Grid = [["Line", "Q1", "Q2", "Year"], ["Revenue", 10, 20, "=B2+C2"], ["Costs", -4, -6, -11]]
        (table,) = open_source("a.xlsx", book({"P": rows}))
        made = draft(table)
        self.assertFalse(made.columns[2].derived)
        self.assertEqual(amounts(made)["Costs"][2], "-11")
        self.assertTrue(any("read as it stands" in doubt.why for doubt in made.doubts))


class LinesTest(unittest.TestCase):
    def test_a_result_skips_what_lines_say_is_in_them(self) -> None:
        made = read(
            "EUR m,2027,2026\nRevenue,100,90\n of which ferries,60,55\n of which kiosks,40,35\nCosts,-70,-66\n"
            " thereof staff,-30,-29\nEBIT,30,24\n"
        )
        self.assertEqual(
            sums(made), {"Revenue": ["of which ferries", "of which kiosks"], "EBIT": ["Revenue", "Costs"]}
        )

    def test_a_result_stands_below_totals_that_stand_above_their_parts(self) -> None:
        made = read(
            "Line,2027,2026\nTotal income,300,250\nFares,200,170\nFreight,100,80\nTotal costs,-220,-190\n"
            "Fuel,-120,-100\nStaff,-100,-90\nSurplus,80,60\n"
        )
        self.assertEqual(sums(made)["Surplus"], ["Total income", "Total costs"])
        self.assertEqual(sums(made)["Total costs"], ["Fuel", "Staff"])

    def test_counts_and_per_share_are_in_no_scale(self) -> None:
        made = read(
            "₹ crore,2027,2026,YoY\nNet sales,12.34,11.22,10.0%\nEmployees,1234,1200,2.8%\n"
            "EPS (₹),4.5,3.8,18.4%\n"
        )
        self.assertEqual(amounts(made)["Net sales"], ("123400000", "112200000", "0.1"))
        self.assertEqual(amounts(made)["Employees"], ("1234", "1200", "0.028"))
        self.assertEqual(amounts(made)["EPS (₹)"], ("4.5", "3.8", "0.184"))

    def test_a_first_line_that_cannot_be_read_is_a_line(self) -> None:
        for cell in ("1,234r", "[1,100]", "1e400", "~900"):
            with self.subTest(cell=cell):
                made = read(f'Item,Amount\nRevenue,"{cell}"\nCosts,(834)\nFuel,12\n')
                self.assertEqual(list(amounts(made)), ["Revenue", "Costs", "Fuel"])
                self.assertIn(cell, {doubt.text for doubt in made.doubts})

    def test_powers_of_ten_are_read_and_named(self) -> None:
        made = read("Item,Amount\nA,1.25E+06\nB,-2.5e-3\nC,7\n")
        self.assertEqual(amounts(made), {"A": ("1250000",), "B": ("-0.0025",), "C": ("7",)})
        self.assertEqual(len([doubt for doubt in made.doubts if "power of ten" in doubt.why]), 2)

    def test_a_label_over_two_rows_is_one(self) -> None:
        made = read('"Item","31 March\n2027"\n"Revenue\nfrom ferries","12.50"\n"Costs","8.25"\n')
        self.assertEqual(
            (headings(made), next(iter(amounts(made)))), (["31 March 2027"], "Revenue from ferries")
        )


class UnitsTest(unittest.TestCase):
    def test_units_in_other_languages(self) -> None:
        for said, currency, power in (
            ("en milliers d’euros", "EUR", 3),
            ("in Tausend Euro", "EUR", 3),
            ("importi in migliaia di euro", "EUR", 3),
            ("Belopp i tkr", "SEK", 3),
            ("bedragen x € 1.000", "EUR", 3),
            ("млн руб.", "RUB", 6),
            ("(단위: 백만원)", "KRW", 6),
            ("₹ लाख में", "INR", 5),
            ("in CHF 1000", "CHF", 3),
        ):
            with self.subTest(said=said):
                made = read(f"{said};2027;2026\nA;1,5;2,5\nB;2,5;1,25\n")
                (unit,) = stated_units(made)
                self.assertEqual((unit.currency, unit.power), (currency, power))

    def test_a_thousand_alone_is_no_unit(self) -> None:
        made = read('"Bond (EUR 1,000)",2027\nPrincipal,12\nInterest,3\n')
        self.assertEqual(amounts(made)["Principal"], ("12",))

    def test_a_sheet_that_repeats_another_has_its_unit(self) -> None:
        income: Grid = [["All in ₹ lakhs"], ["", 2027, 2026], ["Profit", 20, 18], ["Tax", -5, -4]]
        position: Grid = [["Position", 2027, 2026], ["Cash", 100, 90], ["Profit", "=Income!B3", "=Income!C3"]]
        tables = open_source("a.xlsx", book({"Income": income, "Position": position}))
        self.assertEqual(amounts(draft(tables[1]))["Cash"], ("10000000", "9000000"))
        self.assertIn("of Income, which it repeats", " ".join(settled(draft(tables[1]))))


if __name__ == "__main__":
    unittest.main()
