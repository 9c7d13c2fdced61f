"""Sources in other scripts, calendars and habits: read right."""

from __future__ import annotations

import unittest
from decimal import Decimal

from humble_sum.core.intake.draft import Draft, draft, stated_units
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.ratios import is_ratio
from humble_sum.core.intake.units import unit_of
from humble_sum.exchange.sources.opening import open_source
from tests.exchange.test_awkward_sources import Grid, amounts, book, headings, read, sums


class ScriptsTest(unittest.TestCase):
    def test_units_in_signs(self) -> None:
        for said, currency, power in (
            ("单位：万元", "CNY", 4),
            ("编制单位：渡轮公司  单位：万元", "CNY", 4),
            ("單位：新台幣仟元", "TWD", 3),
            ("单位：千美元", "USD", 3),
            ("（単位：億円）", "JPY", 8),
            ("(단위: 억원)", "KRW", 8),
            ("港币百万元", "HKD", 6),
            ("人民币", "CNY", None),
        ):
            with self.subTest(said=said):
                unit = unit_of(said)
                assert unit is not None
                self.assertEqual((unit.currency, unit.power), (currency, power))
        self.assertIsNone(unit_of("编制单位：渡轮公司"))

    def test_ten_thousands_are_taken_to_ones(self) -> None:
        made = read(
            '利润表\n单位：万元\n项目,本期,上期\n收入,"1,234.56",1100\n减：成本,800,700\n利润,434.56,400\n'
        )
        self.assertEqual(amounts(made)["收入"], ("12345600", "11000000"))
        self.assertEqual(sums(made), {"利润": ["收入", "减：成本"]})

    def test_years_of_other_calendars_are_headings(self) -> None:
        for years in ("۱۴۰۳,۱۴۰۲", "1403,1402", "2568,2567"):
            with self.subTest(years=years):
                made = read(f"شرح,{years}\nدرآمد,12345,11000\nهزینه,-8100,-7000\nسود,4245,4000\n")
                self.assertEqual(headings(made), years.split(","))
                self.assertEqual(list(amounts(made)), ["درآمد", "هزینه", "سود"])

    def test_figures_like_years_below_a_heading_are_figures(self) -> None:
        made = read("Line,Q1,Q2\nCrossings,1403,1402\nPassengers,9000,8000\n")
        self.assertEqual(amounts(made)["Crossings"], ("1403", "1402"))

    def test_codes_right_of_the_labels_in_other_languages(self) -> None:
        for heading in ("Код", "行次", "Kód", "Код строки"):
            with self.subTest(heading=heading):
                made = read(
                    f"Name;{heading};2027;2026\nA;2110;1 234,5;100\nB;2120;(800,5);-70\nC;2100;434;30\n"
                )
                self.assertEqual(headings(made), ["2027", "2026"])
                self.assertEqual(sums(made), {"C": ["A", "B"]})

    def test_names_of_accounts_are_labels_whatever_stands_beside_them(self) -> None:
        made = read(
            "Cuenta;2027;2026;Observaciones\nCaja;100,5;90\nBancos;20;18,25;revisado por la auditoría\n"
        )
        self.assertEqual(list(amounts(made)), ["Caja", "Bancos"])


class MarksTest(unittest.TestCase):
    TEXT = '$ in millions,2027,2026\nRevenue,"1,234¹",1100\nCosts,(800)²,(700)(a)\nProfit,434,400 *\n'

    def told(self, made: Draft) -> str:
        return " ".join(f"{doubt.place} {doubt.why}" for doubt in made.doubts)

    def test_a_raised_note_is_no_digit(self) -> None:
        made = read(self.TEXT)
        self.assertEqual(amounts(made)["Revenue"], ("1234000000", "1100000000"))
        self.assertEqual(amounts(made)["Costs"], ("-800000000", "-700000000"))
        for place, mark in (("B2", "¹"), ("B3", "²"), ("C3", "(a)"), ("C4", "*")):
            self.assertIn(f"{place} the mark {mark} is taken off", self.told(made))

    def test_a_raised_note_on_a_dash_leaves_nothing(self) -> None:
        made = read('Line,2027,2026\nFares,"1,200","1,100-³"\nHire,-¹,300\nFuel,–²,100\n')
        self.assertEqual(
            amounts(made), {"Fares": ("1200", "-1100"), "Hire": ("0", "300"), "Fuel": ("0", "100")}
        )

    def test_a_dash_where_cents_would_stand_is_no_minus(self) -> None:
        swiss = read("Posten;2027\nFahrten;CHF 1'234.–\nMiete;800.--\nVerlust;-34.-\n")
        self.assertEqual(amounts(swiss), {"Fahrten": ("1234",), "Miete": ("800",), "Verlust": ("-34",)})
        rupees = read('Item,Amount\nFares,"₹1,234/-"\nRent,"Rs. 800/-"\nLoss,"(₹34/-)"\n')
        self.assertEqual(amounts(rupees), {"Fares": ("1234",), "Rent": ("800",), "Loss": ("-34",)})

    def test_what_could_be_either_is_read_as_it_adds_in_most_columns(self) -> None:
        made = read("Line,2027,2026\nFares,514,6.283\nHire,7.514,2.740\nTotal income,8.028,9.023\n")
        self.assertEqual(amounts(made)["Total income"], ("8028", "9023"))
        self.assertEqual(questions(made), [])

    def test_what_adds_says_more_than_one_ratio(self) -> None:
        made = read(
            "£000\nLine;2027;2026\nFares;709;694\nHire;772;877\nTotal;1.481;1.571\nGearing;0.8x;0.7x\n"
        )
        self.assertEqual(amounts(made)["Total"], ("1481000", "1571000"))
        self.assertEqual([each.places for each in questions(made)], [("B6",), ("C6",)])

    def test_cells_that_others_are_at_odds_about_are_asked_of(self) -> None:
        made = read("Line;2027\nFares;2.375\nHire;12.566\nGearing;3.5x\nPence a share;32,91\n")
        asked = {place for each in questions(made) for place in each.places}
        self.assertLessEqual({"B2", "B3", "B5"}, asked)

    def test_a_mark_is_named_where_a_number_could_be_either_too(self) -> None:
        made = read('Line,2027\nRevenue,"1,234¹"\nOther,567\nTotal,"1,801"\n')
        self.assertIn("the mark ¹ is taken off", self.told(made))

    def test_commas_group_where_the_currency_says_so_and_only_there(self) -> None:
        for unit, asked in (("USD thousands", False), ("JPY millions", False), ("EUR thousands", True)):
            with self.subTest(unit=unit):
                made = read(f'{unit},2027,2026\nFares,"12,345","11,900"\nFreight,"3,210","3,005"\n')
                self.assertEqual(any(doubt.asks == "either" for doubt in made.doubts), asked)
        made = read("in TEUR;31.12.2027;31.12.2026\nFares;12.345;11.900\nFreight;3.210;3.005\n")
        self.assertEqual(amounts(made)["Fares"], ("12345000", "11900000"))
        self.assertFalse(any(doubt.asks == "either" for doubt in made.doubts))
        made = read("Rate;31.12.2027;31.12.2026\nEuro;1.105;1.079\nFranc;1.011;1.023\n")
        self.assertTrue(any(doubt.asks == "either" for doubt in made.doubts), "rates, of no currency")
        made = read("USD thousands;2027;2026\nFares;12.345;11.900\nFreight;3.210;3.005\n")
        self.assertTrue(any(doubt.asks == "either" for doubt in made.doubts), "points may be either still")


class RaggedTest(unittest.TestCase):
    def test_commas_that_nobody_quoted_group_digits(self) -> None:
        made = read("Line,2027,2026\nRevenue,1,234,1,100\nCosts,-800,-700\nProfit,434,400\n")
        self.assertEqual(amounts(made)["Revenue"], ("1234", "1100"))
        self.assertEqual(sums(made), {"Profit": ["Revenue", "Costs"]})
        self.assertIn("Row 2 is longer than the headings: commas group digits", str(made.table.notes[0].what))

    def test_where_they_could_be_grouped_in_two_ways_they_are_named(self) -> None:
        made = read("Line,2027,2026\nRevenue,1,234,567,890\nCosts,-800,-700\n")
        self.assertIn("Row 2 is longer than the headings.", str(made.table.notes[0].what))

    def test_a_missing_heading_joins_nothing(self) -> None:
        made = read("Line,2027\nFares,12,345\nFreight,8,20\n")
        self.assertEqual(amounts(made)["Fares"], ("12", "345"))


class RatiosTest(unittest.TestCase):
    def test_what_divides_amounts_is_in_no_unit_of_them(self) -> None:
        for formula, ratio in (
            ("=B6/B4", True),
            ("=B4/C4-1", True),
            ("=(B4-C4)/ABS(C4)", True),
            ("=IFERROR(SUM(B2:B3)/B9,0)", True),
            ("=B4/1000", False),
            ("=SUM(B2:B3)/2", False),
            ("=B4*C4/D4", False),
            ("=B4+C4", False),
            ("=TODAY()/B4", False),
        ):
            with self.subTest(formula=formula):
                self.assertEqual(is_ratio(formula), ratio)

    def test_it_is_not_scaled(self) -> None:
        grid: Grid = [["INR lakhs", "2027"], ["Debt", 80], ["Equity", 40], ["Gearing", "=B2/B3"]]
        (table,) = open_source("x.xlsx", book({"Sheet": grid}))
        self.assertEqual(amounts(draft(table))["Gearing"], ("2",))


class LabelsTest(unittest.TestCase):
    TEXT = (
        "Line,2027,2026\nPassenger fares and other,,\n{}income from crossings,12345.5,11900.5\n"
        "Freight,3210,3005\nTotal,15555.5,14905.5\n"
    )

    def test_a_label_that_goes_on_below_is_one(self) -> None:
        made = read(self.TEXT.format(""))
        whole = "Passenger fares and other income from crossings"
        self.assertEqual(list(amounts(made)), [whole, "Freight", "Total"])
        self.assertEqual(sums(made), {"Total": [whole, "Freight"]})
        self.assertIn("goes on in the row below", " ".join(doubt.why for doubt in made.doubts))

    def test_a_heading_stays_one(self) -> None:
        for first in ("of which ", "Other "):
            with self.subTest(first=first):
                labels = [line.label for line in read(self.TEXT.format(first)).lines]
                self.assertIn("Passenger fares and other", labels)
        small = read("line,2027\nincome,\nfares,10.5\nfreight,20.5\n")
        self.assertIn("income", [line.label for line in small.lines])

    def test_a_table_with_a_unit_keeps_it(self) -> None:
        made = read("EUR m,2027\nFares and other,\nincome,10.5\nFreight,20.5\n")
        self.assertEqual({unit.name for unit in stated_units(made)}, {"EUR millions"})


if __name__ == "__main__":
    unittest.main()


class NotesBelowTest(unittest.TestCase):
    """What stands below the last figure states the unit where nothing above does, and is no line."""

    def test_a_unit_below_the_table_is_the_tables(self) -> None:
        for note, first in (
            ("（単位：百万円）", "12345000000"),
            ("All amounts in USD thousands", "12345000"),
            ("Note: figures are in ₹ crore", "123450000000"),
        ):
            with self.subTest(note):
                text = f'Line,Now,Then\nFares,"12,345.0","11,000.0"\nFuel,"(7,000.0)","(6,500.0)"\n{note},,\n'
                (table,) = open_source("a.csv", text.encode())
                made = draft(table)
                self.assertEqual(made.lines[0].amounts[0], Decimal(first))
                self.assertEqual([line.label for line in made.lines], ["Fares", "Fuel"])
                self.assertIn("a note and no line", " ".join(doubt.why for doubt in made.doubts))

    def test_a_heading_above_formulas_that_were_never_worked_out_is_no_note(self) -> None:
        rows: Grid = [["Line", 2026], ["Fares", 5], ["Equity", None], ["Rest", "=NOSUCH(B2)"]]
        (table,) = open_source("a.xlsx", book({"A": rows}))
        self.assertIn("Equity", [line.label for line in draft(table).lines])

    def test_notes_of_other_amounts_change_nothing(self) -> None:
        for above, note in (
            ("", "* includes $5 million of grants"),
            ("", "1. Loans of EUR 20 million fall due in 2027"),
            ("In thousands\n", "All amounts in USD millions"),
        ):
            with self.subTest(note):
                text = f"{above}Line,Now,Then\nFares,12.5,11.5\nFuel,7.5,6.5\n{note},,\n"
                (table,) = open_source("a.csv", text.encode())
                self.assertEqual(
                    draft(table).lines[0].amounts[0], Decimal("12500") if above else Decimal("12.5")
                )


class SegmentsTest(unittest.TestCase):
    """Headings that are written over each of their columns, and differences that are chance."""

    def test_a_heading_over_each_of_its_columns_spans_them(self) -> None:
        head = "Segment,North,North,South,South,Total,Total\n,2026,2025,2026,2025,2026,2025\n"
        lines = "Fares,100,90,50,40,150,130\nFuel,-20,-15,-10,-5,-30,-20\nNet,80,75,40,35,120,110\n"
        (table,) = open_source("a.csv", (head + lines).encode())
        made = draft(table)
        self.assertEqual(
            [column.label for column in made.columns[:3]], ["North, 2026", "North, 2025", "South, 2026"]
        )
        # South's year before is what North's is less South's: in three lines, and by chance.
        self.assertFalse(any(column.derived for column in made.columns))

    def test_a_half_of_a_year_may_be_what_the_other_leaves(self) -> None:
        text = "Line,FY 2026,H1 2026,H2 2026\nFares,30,13,17\nHire,41,20,21\nFuel,-7,-3,-4\n"
        (table,) = open_source("a.csv", text.encode())
        self.assertTrue(draft(table).columns[2].derived)

    def test_serial_numbers_are_no_amounts(self) -> None:
        for head in ("Sr. No.", "Sl No", "Serial No.", "S. No."):
            text = f"{head},Particulars,2026,2025\n1,Capital,100,100\n2,Reserves,250,200\n,Total,350,300\n"
            (table,) = open_source("a.csv", text.encode())
            self.assertEqual([column.label for column in draft(table).columns], ["2026", "2025"], head)


class WhenRowsAreOfTest(unittest.TestCase):
    """Columns that say when each row is of are no amounts, and are named."""

    def roles(self, text: str) -> list[tuple[str, str]]:
        (table,) = open_source("rows.csv", text.encode())
        made = draft(table)
        return [(column.heading, column.role) for column in made.layout.columns]

    def test_years_and_months_of_rows_are_no_amounts(self) -> None:
        for text, other in (
            ("Line,Year,Amount\nTea,2026,5\nMail,2026,6\nTea,2025,4\n", ["Year"]),
            ("Vessel,Built,Fares\nHeron,1998,1200\nTern,2004,900\nTotal,,2100\n", ["Built"]),
            ("FY,Line,Amount\n2026,Tea,5\n2026,Mail,6\n2025,Tea,4\n", ["FY"]),
            (
                "Konto;Jahr;Monat;Betrag\nErlöse;2026;1;5\nErlöse;2026;12;6\nKosten;2026;1;4\n",
                ["Jahr", "Monat"],
            ),
        ):
            with self.subTest(text):
                self.assertEqual([head for head, role in self.roles(text) if role == "other"], other)

    def test_amounts_of_a_year_or_a_month_stay_amounts(self) -> None:
        for text in (
            "Line,Q1,Q2,Year\nFares,960,1000,1960\nHire,1000,990,1990\n",
            "Line,Month,Year\nFares,5,1999.5\nHire,6,2050\n",
            "Line,Month,Quarter\nFares,5,12\nHire,6,11\n",
        ):
            with self.subTest(text):
                self.assertNotIn("other", [role for _, role in self.roles(text)])


class RatioTest(unittest.TestCase):
    """Ratios among amounts in thousands: none of them is a thousand times what it says."""

    def test_lines_that_no_amount_of_money_is_called(self) -> None:
        rows = {
            "Exchange rate (₹/$)": "83.5",
            "Debt/equity": "0.45",
            "Net debt to EBITDA": "1.2",
            "DSO (days)": "45",
            "Receivable days": "47",
            "Interest cover": "6.2",
            "Current ratio": "1.8",
            "Closing share price": "512.5",
            "Net promoter score": "54",
        }
        lines = "".join(f"{label},{amount},{amount}\n" for label, amount in rows.items())
        made = read(f"Key figures in ₹ crores,2026,2025\nRevenue,1844.4,1712.1\n{lines}")
        self.assertEqual(
            amounts(made),
            {"Revenue": ("18444000000", "17121000000")}
            | {label: (amount, amount) for label, amount in rows.items()},
        )

    def test_rates_in_points_and_amounts_with_such_words(self) -> None:
        made = read(
            "In ₹ crores,2026,2025\nRevenue,1844,1712\nEffective tax rate,25.2,24\nOccupancy rate,81,79\n"
            "Insurance cover,12.5,11\nRate differences,3,2\nPrice adjustments,4,5\nDays in lieu paid,6,7\n"
            "Selling price variance,8,9\nDebt to equity conversion,3,1\nOther income (x),2,1\n"
        )
        for label, amount in (
            ("Selling price variance", "80000000"),
            ("Debt to equity conversion", "30000000"),
        ):
            self.assertEqual(amounts(made)[label][0], amount)
        self.assertEqual(amounts(made)["Other income (x)"][0], "20000000")
        self.assertEqual(amounts(made)["Effective tax rate"], ("0.252", "0.24"))
        self.assertEqual(amounts(made)["Occupancy rate"], ("0.81", "0.79"))
        for label, amount in (("Insurance cover", "125000000"), ("Rate differences", "30000000")):
            self.assertEqual(amounts(made)[label][0], amount)
        self.assertEqual(amounts(made)["Price adjustments"][0], "40000000")
        self.assertEqual(amounts(made)["Days in lieu paid"][0], "60000000")

    def test_columns_of_growth_and_shares_without_a_sign(self) -> None:
        rows = "Fares,110,100,0.1,0.55,10\nFreight,90,80,0.125,0.45,12.5\nTotal,200,180,0.1111,1,11.11\n"
        made = read(f"In USD thousands,2026,2025,Growth,Mix,Change\n{rows}")
        self.assertEqual(amounts(made)["Freight"], ("90000", "80000", "0.125", "0.45", "0.125"))
        self.assertEqual(sums(made), {"Total": ["Fares", "Freight"]})
        by_formula = "Fares,110,100,0.10000000000000009\nFreight,90,81,0.11111111111111116\n"
        made = read(f"In USD thousands,2026,2025,Growth\n{by_formula}")
        self.assertTrue(all(Decimal(row[2] or 0) < 1 for row in amounts(made).values()))

    def test_a_change_in_amounts_stays_one(self) -> None:
        for rows in ("Fares,110,100,10\nFreight,90,100,-10\n", "Fares,115,100,15\nFreight,90,80,10\n"):
            made = read(f"In USD thousands,2026,2025,Change\n{rows}")
            self.assertEqual(amounts(made)["Fares"][2], f"{rows.split(',')[3].split()[0]}000")
        made = read("In USD thousands,2026,2025,Growth fund\nFares,115,100,7\nFreight,90,80,9\n")
        self.assertEqual(amounts(made)["Freight"][2], "9000")


class YearsTest(unittest.TestCase):
    def test_a_year_does_not_add_figures_of_another(self) -> None:
        made = read(
            "EUR,North 2026,North 2025,South 2026,South 2025,Total 2026,Total 2025\n"
            "Fares,5,4,6,5,11,9\nCosts,-3,-2,-4,-3,-7,-5\nResult,2,2,2,2,4,4\n"
        )
        for column in made.columns:
            added = [each.label[-4:] for each in made.columns if each.id in (column.sum or ())]
            self.assertLessEqual({*added}, {column.label[-4:]})
        made = read(
            "EUR,Q3 2025,Q4 2025,Q1 2026,Q2 2026,FY 2026\n"
            "Fares,11,24,35,47,117\nFreight,52,61,78,93,284\nMail,7,13,29,31,80\nFees,3,17,8,22,50\n"
        )
        self.assertEqual(len(made.columns[-1].sum or ()), 4)
