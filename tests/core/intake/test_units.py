"""The unit that a source states: read where it is stated, and nowhere else."""

import csv
import unittest
from decimal import Decimal
from pathlib import Path

from humble_sum.core.intake.amount_reading import read
from humble_sum.core.intake.decisions import TableDecided, UnitName
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.units import scale_within, unit_of, unit_within
from humble_sum.exchange.sources.opening import open_source

STATED = {
    "(All amounts in ₹ lakhs, unless otherwise stated)": ("INR", 5),
    "£'000": ("GBP", 3),
    "$ thousands": ("USD", 3),
    "Rs. in crore": ("INR", 7),
    "in EUR": ("EUR", None),
    "EUR m": ("EUR", 6),
    "TEUR": ("EUR", 3),
    "Mio. €": ("EUR", 6),
    "Rupees in lakhs": ("INR", 5),
    "In thousands of euros": ("EUR", 3),
    "000s": (None, 3),
}
NOT_STATED = (
    "Revenue in Europe",
    "Income",
    "R",
    "M",
    "Cr",
    "2026",
    "FTE",
    "%",
    "Note",
    "Total",
    "Q1",
    "per share",
    "Thousand Islands Ferries",
    "Million Dollar Beach Ltd",
    "Fares in pounds of cargo",
    "Dollar shop",
    "Bin",
    "Mile",
    "Mil",
    "Crown dues",
    "Tal",
)


# Titles and headings as they stand in statements of many lands, with the currency where they name one.
ABROAD = Path(__file__).parent.parent.parent / "cases" / "stated_units.tsv"
# Heading, the heading without its unit, and the power of ten.
IN_HEADINGS = (
    ("2026 in thousands", "2026", 3),
    ("Year ended 30 June 2025 in '000s", "Year ended 30 June 2025", 3),
    ("2026 MSEK", "2026", 6),
    ("Actual USDm", "Actual", 6),
    ("Sales (EURk)", "Sales", 3),
    ("2026 w tys. zł", "2026", 3),
    ("2026 in thousands of Canadian dollars", "2026", 3),
    ("31 December 2000", "31 December 2000", None),
    ("2 000", "2 000", None),
    ("Miles", "Miles", None),
)


def made(text: str) -> tuple[DraftLine, ...]:
    (table,) = open_source("made.csv", text.encode())
    return draft(table).lines


class UnitTest(unittest.TestCase):
    def test_what_states_a_unit(self) -> None:
        for text, (currency, power) in STATED.items():
            with self.subTest(text):
                unit = unit_of(text)
                assert unit is not None
                self.assertEqual((unit.currency, unit.power), (currency, power))

    def test_what_states_one_in_other_lands(self) -> None:
        with ABROAD.open(encoding="utf-8") as lines:
            for row in csv.DictReader(lines, delimiter="\t", quoting=csv.QUOTE_NONE):
                with self.subTest(row["stated"]):
                    unit = unit_of(row["stated"]) or unit_within(row["stated"])[0]
                    assert unit is not None
                    self.assertEqual(unit.power, int(row["power"]))
                    self.assertIn(row["currency"], ("", unit.currency))

    def test_words_that_say_one_scale_here_and_another_there_are_asked_about(self) -> None:
        for said in ("mil EUR", "bilion eur", "v mil EUR"):
            with self.subTest(said):
                self.assertIsNone(unit_of(said))
                (table,) = open_source("made.csv", f"{said},\nLine,2026\nFares,12\nHire,3\n".encode())
                self.assertEqual(
                    [each.asks for each in questions(draft(table))], ["What unit are its amounts in?"]
                )
        for said, power in (("R$ mil", 3), ("mil Kč", 6)):
            unit = unit_of(said)
            self.assertEqual(unit and unit.power, power)
        for twelve in ("in Billionen Euro", "Trillion EUR"):  # 10**12, which no page is kept in
            self.assertIsNone(unit_of(twelve))
            self.assertIsNone(scale_within(twelve))

    def test_where_it_ends_a_heading(self) -> None:
        for heading, named, power in IN_HEADINGS:
            with self.subTest(heading):
                unit, rest = unit_within(heading)
                self.assertEqual((rest, unit and unit.power), (named, power))

    def test_what_states_none(self) -> None:
        for text in NOT_STATED:
            with self.subTest(text):
                self.assertIsNone(unit_of(text))

    def test_a_heading_is_what_is_left_of_it(self) -> None:
        for text, rest in (("2026 £'000", "2026"), ("FY27 (Rs. in crore)", "FY27"), ("Item, GBP", "Item")):
            self.assertEqual(unit_within(text)[1], rest)
        self.assertEqual(unit_within("Share of total 2026"), (None, "Share of total 2026"))

    def amounts(self, csv: str, unit: UnitName | None = None) -> list[tuple[Decimal | None, ...]]:
        (table,) = open_source("made.csv", csv.encode())
        return [line.amounts for line in draft(table, TableDecided(unit=unit)).lines]

    def test_amounts_are_in_ones_and_shares_counts_and_own_words_are_left_alone(self) -> None:
        csv = (
            "Item,£m\nFares,12.5\nFreight,3.25\nMargin,20%\nNumber of crossings,420\n"
            "Surplus per passenger,1.25\nOrder book,2.4bn\n"
        )
        found = [row[0] for row in self.amounts(csv)]
        self.assertEqual(
            found,
            [Decimal(x) for x in ("12500000", "3250000", "0.2", "420", "1.25", "2400000000")],
        )
        self.assertEqual(
            [row[0] for row in self.amounts(csv, "ones")][:2], [Decimal("12.5"), Decimal("3.25")]
        )

    def test_a_notes_column_is_no_figure_and_a_heading_of_percent_is_one(self) -> None:
        (table,) = open_source(
            "made.csv", b'Item,Note,2026,% change\nFares,3,100,4.5\nFreight,"3, 4",50,-2\n'
        )
        made = draft(table)
        self.assertEqual([column.heading for column in made.layout.figures], ["2026", "% change"])
        self.assertEqual(made.lines[0].amounts, (Decimal(100), Decimal("0.045")))

    def test_marks_are_taken_off_and_named(self) -> None:
        for text, amount in (
            ("310¹", "310"),
            ("1,234*", "1234"),
            ("567(1)", "567"),
            ("(45)‡", "-45"),
            ("12 (2)", "12"),
        ):
            with self.subTest(text):
                reading = read(text)
                self.assertEqual(reading.amount, Decimal(amount))
                self.assertIn("taken off", " ".join(reading.why))
        self.assertEqual(read("(2)").amount, Decimal(-2))
        self.assertEqual(read("10²³").kind, "amount")
        self.assertEqual(read("10²³").amount, Decimal(10))

    def test_a_unit_set_to_the_right_is_of_all_periods_and_of_nothing_else(self) -> None:
        periods = "Acme,,,\n,,,£000\nLine,2027,2026,2025\nFares,12,11,10\nCosts,2,1,3\n"
        self.assertEqual(self.amounts(periods)[0], (12_000, 11_000, 10_000))
        others = "Acme,,\n,,£000\nRoute,Passengers,Revenue\nNorth,120,11\nSouth,20,10\n"
        self.assertEqual(self.amounts(others)[0], (120, 11_000))

    def test_a_column_that_states_no_unit_is_in_that_of_what_it_is_worked_out_from(self) -> None:
        for heading, first, second in (
            ("Var.", "65.5", "-100.0"),
            ("Abweichung", "-65.5", "100.0"),
            ("Total", "2,534.5", "-2,100.0"),
            ("Total", "2,534.6", "-2,100.0"),  # each was rounded
        ):
            text = f'Item,Plan 2026 kEUR,Actual 2026 kEUR,{heading}\nFares,"1,234.5","1,300.0","{first}"\n'
            text += f'Fuel,-1000.0,-1100.0,"{second}"\n'
            wanted = Decimal(first.replace(",", "")) * 1000
            self.assertEqual(self.amounts(text)[0][2], wanted, heading)
        budget = "Item,2026 kEUR,Budget\nFares,1300,1250\nFuel,-1100,-1000\n"
        self.assertEqual(self.amounts(budget)[0], (1_300_000, 1_250_000))
        in_ones = "Item,2026 kEUR,Budget\nFares,1300,1250000\nFuel,-1100,-1000000\n"
        self.assertEqual(self.amounts(in_ones)[0], (1_300_000, 1_250_000))

    def test_a_column_that_may_be_in_the_unit_of_those_beside_it_is_asked_about(self) -> None:
        (table,) = open_source("made.csv", b"Item,2026 kEUR,Elsewhere\nFares,1300,1250\nFuel,-1100,-1000\n")
        (asked,) = [each for each in questions(draft(table)) if "unit" in each.asks]
        self.assertIn("Elsewhere", asked.asks)
        for answer, wanted in zip(asked.answers, (1_250, 1_250_000), strict=True):
            decided = TableDecided.model_validate(answer.decide)
            made = draft(table, decided)
            self.assertEqual(made.lines[0].amounts[1], wanted)
            self.assertFalse([each for each in questions(made) if "unit" in each.asks])
        (share,) = open_source(
            "made.csv", b"Item,2026 kEUR,Headcount,Share %\nFares,1300,1250,54.2\nFuel,1100,1000,45.8\n"
        )
        self.assertFalse([each for each in questions(draft(share)) if "unit" in each.asks])

    def test_units_in_odd_places(self) -> None:
        for text, wanted in (
            ("Line,$m 2026,$m 2025\nSales,12.5,11\nCosts,2,1\n", "12500000"),
            ("Company: Acme\nScale: Lakhs\nLine,2026\nFares,12.5\nFreight,1\n", "1250000"),
            ("Item,2026,2025\nRooms (000),12.5,11\nRevenue,100,90\n", "12500"),
            ("Name;Betrag in Tsd. EUR;Vorjahr\nUmsatz;1.234,5;1.100,0\nKosten;-234,5;-200,0\n", "1234500"),
            ("Item,Units,Amount (€)\nRopes,12,42.00\nAnchors,2,200.00\n", "12"),
        ):
            with self.subTest(text):
                self.assertEqual(self.amounts(text)[0][0], Decimal(wanted))
        text = "Name;Betrag in Tsd. EUR;Vorjahr\nUmsatz;1.234,5;1.100,0\nKosten;-234,5;-200,0\n"
        self.assertEqual(self.amounts(text)[0][1], Decimal(1_100_000))

    def test_units_in_prose_are_read_and_those_that_are_not_plain_are_asked_of(self) -> None:
        for text, name in {
            "In millions of US dollars except per share data": "USD millions",
            "(in millions of U.S. dollars, except per share amounts)": "USD millions",
            "(₹ in Crores, except EPS)": "INR crores",
            "in Tsd. EUR, außer Angaben je Aktie": "EUR thousands",
            "en milliers d'euros, sauf par action": "EUR thousands",
            "в тыс. руб., кроме данных на акцию": "RUB thousands",
            "All amounts in Indian Rupees (INR) lakhs": "INR lakhs",
            "(Unaudited, in thousands of euros)": "EUR thousands",
            "RMB'000": "CNY thousands",
            "kEUR": "EUR thousands",
            "（単位：百万円）": "JPY millions",
        }.items():
            unit = unit_of(text)
            self.assertEqual(unit and unit.name, name, text)
        (table,) = open_source(
            "a.csv", b"In millions of US dollars except per share data,\nLine,2026\nSales,2.5\nEPS,1.25\n"
        )
        self.assertEqual([line.amounts[0] for line in draft(table).lines], [2_500_000, Decimal("1.25")])
        (table,) = open_source("b.csv", b"Of the millions of visitors,\nLine,2026\nSales,2.5\nTips,1.25\n")
        (question,) = questions(draft(table))
        self.assertEqual([answer.label for answer in question.answers], ["ones", "millions"])

    def test_percentages_without_their_sign_are_in_points(self) -> None:
        csv = "In £m,,\nLine,2026,2025\nSales,10,8\nMargin %,41.7,35\n7% loan,12,14\nMargin (%),0.4,0.3\nGrowth in per cent,104,2\n"
        found = {line.label: (line.kind, line.amounts[0]) for line in made(csv)}
        self.assertEqual(found["Margin %"], ("percent", Decimal("0.417")))
        self.assertEqual(found["7% loan"], (None, Decimal(12_000_000)))
        self.assertEqual(found["Margin (%)"], ("percent", Decimal("0.4")))
        self.assertEqual(found["Growth in per cent"], ("percent", Decimal("1.04")))

    def test_two_sides_and_two_tables_are_told_apart(self) -> None:
        sides = b"Assets,2026,,Liabilities,2026\nPlant,10,,Loans,4\nCash,5,,Equity,11\nTotal,15,,Total,15\n"
        self.assertEqual([t.name for t in open_source("made.csv", sides)], ["Assets", "Liabilities"])
        below = b"Income,2026\nFares,10\nFreight,5\n\nCash,2026\nOpening,3\nClosing,4\n"
        tables = open_source("made.csv", below)
        self.assertEqual(
            [[line.label for line in draft(t).lines] for t in tables],
            [["Fares", "Freight"], ["Opening", "Closing"]],
        )
        self.assertEqual(tables[1].place(1, 1), "made.csv, B6")
