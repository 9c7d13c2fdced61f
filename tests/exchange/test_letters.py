"""Single letters in sources: of scales, of notes, and of what a year's figures are."""

from __future__ import annotations

import unittest
from decimal import Decimal

from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.exchange.sources.opening import open_source


def read(text: str, name: str = "letters.csv") -> Draft:
    (table,) = open_source(name, text.encode())
    return draft(table)


def amounts(made: Draft) -> dict[str, tuple[Decimal | None, ...]]:
    return {line.label: line.amounts for line in made.lines}


class LettersTest(unittest.TestCase):
    def test_years_with_a_letter_are_headings(self) -> None:
        for heads in (("2026 A", "2026 B"), ("2026B", "2027B"), ("FY2026 B", "2025 M")):
            with self.subTest(heads):
                made = read(f"Line,{','.join(heads)}\nFares,100,90\nFuel,-40,-35\n")
                self.assertEqual([column.heading for column in made.layout.figures], list(heads))
                self.assertEqual(amounts(made), {"Fares": (100, 90), "Fuel": (-40, -35)})
                self.assertEqual(questions(made), [])

    def test_a_scale_behind_a_bracket(self) -> None:
        made = read("Line,2026,2025\nFares,USD 1.2bn,$(1.1)bn\nFuel,USD (400)m,(350)k\n")
        self.assertEqual(
            amounts(made), {"Fares": (1_200_000_000, -1_100_000_000), "Fuel": (-400_000_000, -350_000)}
        )
        # With Cr it could be a credit or crores, so it is asked about.
        self.assertEqual(len(questions(read("Line,2026\nFares,100\nFuel,(400) Cr\nOil,(5)\n"))), 1)

    def test_lines_counted_in_a_letter(self) -> None:
        made = read(
            "Metric,Unit,2026\nRevenue,$m,12.5\nPassengers,m,1.2\nQuay length,m,85.5\nVisits,k,3.25\nShips,#,12\n"
        )
        self.assertEqual(
            [line.amounts[0] for line in made.lines],
            [12_500_000, 1_200_000, Decimal("85.5"), 3_250, 12],
        )
        self.assertEqual(
            [said for said in settled(made) if "read as millions" in said], ["B3 “m”: read as millions"]
        )
        labelled = read("Metric,2026\nPassengers (m),1.2\nBerth length (m),85.5\nCrossings (m),12\n")
        self.assertEqual([line.amounts[0] for line in labelled.lines], [1_200_000, Decimal("85.5"), 12])

    def test_letters_of_notes_are_no_scales(self) -> None:
        made = read("Line,2026\nFares (a),1.25\nFuel (b),0.5\nWages (k),2.5\nOther (m),1.5\n")
        self.assertEqual(
            [line.amounts[0] for line in made.lines],
            [Decimal(each) for each in ("1.25", "0.5", "2.5", "1.5")],
        )

    def test_raised_letters_stay_apart(self) -> None:
        page = (
            "<table><tr><th>Line<th>31<sup>st</sup> March 2026<tr><td>Deck m<sup>2</sup><td>100<sup>a</sup>"
            "<tr><td>Fuel<sup>a, b</sup><td>(4)</table>"
        )
        made = read(page, "page.html")
        self.assertEqual(amounts(made), {"Deck m²": (100,), "Fuel (a, b)": (-4,)})
        self.assertEqual(made.layout.figures[0].heading, "31st March 2026")

    def test_a_unit_in_brackets_over_several_columns(self) -> None:
        page = (
            "<table><tr><th rowspan=2>Line<th colspan=2>Year to 31 March ({})<tr><th>2026<th>2025"
            "<tr><td>Fares<td>12.5<td>11.25<tr><td>Fuel<td>(4.5)<td>(3.25)</table>"
        )
        self.assertEqual(amounts(read(page.format("£ thousands"), "page.html"))["Fares"], (12_500, 11_250))
        # What does not say of what stays a question.
        made = read(page.format("thousands"), "page.html")
        self.assertEqual(
            (amounts(made)["Fares"], len(questions(made))), ((Decimal("12.5"), Decimal("11.25")), 1)
        )
