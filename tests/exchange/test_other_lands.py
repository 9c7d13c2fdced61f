"""Sources in other scripts, calendars and habits, and totals where they are easily mistaken: read right."""

from __future__ import annotations

import unittest

from humble_sum.core.intake.draft import Draft, stated_units
from humble_sum.core.intake.units import unit_of
from tests.exchange.test_awkward_sources import amounts, headings, read, sums


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

    def test_a_mark_is_named_where_a_number_could_be_either_too(self) -> None:
        made = read('Line,2027\nRevenue,"1,234¹"\nOther,567\nTotal,"1,801"\n')
        self.assertIn("the mark ¹ is taken off", self.told(made))

    def test_commas_group_where_the_currency_says_so_and_only_there(self) -> None:
        for unit, asked in (("USD thousands", False), ("JPY millions", False), ("EUR thousands", True)):
            with self.subTest(unit=unit):
                made = read(f'{unit},2027,2026\nFares,"12,345","11,900"\nFreight,"3,210","3,005"\n')
                self.assertEqual(any(doubt.asks == "either" for doubt in made.doubts), asked)
        made = read("USD thousands;2027;2026\nFares;12.345;11.900\nFreight;3.210;3.005\n")
        self.assertTrue(any(doubt.asks == "either" for doubt in made.doubts), "points may be either still")


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

    def test_a_total_that_is_wrong_in_one_year_is_a_total(self) -> None:
        made = read("Line,2027,2026\nFerries,120,110\nFreight,34,31\nKiosks,95,102\nTotal,249,253\n")
        self.assertEqual(sums(made), {"Total": ["Ferries", "Freight", "Kiosks"]})
        (line,) = (line for line in made.lines if line.parts)
        self.assertIn("1 of 2 columns", line.evidence)

    def test_a_total_that_adds_nowhere_is_left_alone(self) -> None:
        made = read("Line,2027,2026\nFerries,120,110\nFreight,34,31\nKiosks,95,102\nTotal,248,253\n")
        self.assertEqual(sums(made), {})


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
