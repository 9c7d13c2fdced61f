"""Tables of one row an amount: a line comes again for every period, which a column of its own says."""

from __future__ import annotations

import random
import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from humble_sum.core.intake.decisions import TableDecided
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.intake.table_sentence import Open, table_sentence
from tests.making import drafted

LABELS = ("Fares", "Freight and mail", "Kiosk sales", "Fuel", "Wages", "Berth fees")
PERIODS = (
    ("Period", ["FY24", "FY25", "FY26"]),
    ("Period end", ["2024-12-31", "2025-12-31", "2026-12-31"]),
    ("Year", ["2024", "2025", "2026"]),
    ("Quarter", ["Q1 2026", "Q2 2026", "Q3 2026"]),
    ("Month", ["202601", "202602", "202603"]),
    ("Scenario", ["Actual", "Budget", "Forecast"]),
)


def amounts(made: Draft) -> dict[str, tuple[Decimal | None, ...]]:
    return {line.label: line.amounts for line in made.lines}


def heads(made: Draft) -> list[str]:
    return [column.heading for column in made.layout.figures]


def asked(made: Draft) -> list[str]:
    return [each.asks for each in questions(made)]


class LongFormTest(unittest.TestCase):
    @given(
        st.lists(st.sampled_from(LABELS), min_size=2, max_size=6, unique=True),
        st.sampled_from(PERIODS),
        st.integers(2, 3),
        st.randoms(use_true_random=False),
    )
    def test_what_was_taken_apart_comes_together_again(
        self, labels: list[str], periods: tuple[str, list[str]], count: int, chance: random.Random
    ) -> None:
        name, all_of = periods
        wide = {
            label: [Decimal(chance.randint(-(10**7), 10**7)).scaleb(-2) for _ in range(count)]
            for label in labels
        }
        rows = [
            [label, period, f"{amount:f}"]
            for label, found in wide.items()
            for period, amount in zip(all_of[:count], found, strict=True)
        ]
        if chance.random() < 0.5:
            chance.shuffle(rows)
        made = drafted([["Line", name, "Amount"], *rows])
        first = list(
            dict.fromkeys(period for _, period, _ in rows)
        )  # periods in the order in which they come
        order = [all_of.index(period) for period in first]
        self.assertEqual(amounts(made), {k: tuple(v[n] for n in order) for k, v in wide.items()})
        self.assertEqual(len(set(heads(made))), count)
        for place, column in enumerate(made.layout.figures):
            for line in made.lines:
                ref = made.table.sheet_place(line.row, column.index)
                self.assertEqual(ref[0], "C")
                self.assertEqual(rows[int(ref[1:]) - 2][2], f"{wide[line.label][order[place]]:f}")

    def test_years_beside_months_and_a_unit_over_the_amounts(self) -> None:
        rows = [
            [code, line, year, month, f"{base}.5"]
            for code, line, base in (("4000", "Fares", 12), ("4010", "Cargo", 7))
            for year in ("2025", "2026")
            for month in ("1", "2")
        ]
        head = ["Account code", "Account", "Year", "Month", "Amount (EUR thousands)"]
        made = drafted([["Lanternfish Ferries", "", "", "", ""], head, *rows])
        self.assertEqual(heads(made), ["January 2025", "February 2025", "January 2026", "February 2026"])
        self.assertEqual(amounts(made)["Cargo"], (Decimal(7500),) * 4)
        self.assertEqual([line.id for line in made.lines], ["4000", "4010"])
        self.assertEqual(made.currency, "EUR")

    def test_months_of_one_year_are_of_that_year(self) -> None:
        rows = [[a, month, "2026", "5"] for a in ("Fares", "Fuel") for month in ("1", "2")]
        made = drafted([["Line", "Month", "Year", "Amount"], *rows])
        self.assertEqual(heads(made), ["January 2026", "February 2026"])

    def test_one_month_written_in_two_ways_is_one(self) -> None:
        rows = [["Fares", "01", "2026", "1"], ["Fuel", "1", "2026", "2"]]
        rows += [[a, "2", "2026", "3"] for a in ("Fares", "Fuel")]
        made = drafted([["Line", "Month", "Year", "Amount"], *rows])
        self.assertEqual((heads(made), amounts(made)["Fuel"]), (["January 2026", "February 2026"], (2, 3)))
        # Two amounts of one line in it are entries, of which none may be lost.
        twice = drafted([["Line", "Month", "Year", "Amount"], *rows, ["Fares", "1", "2026", "9"]])
        self.assertIsNone(twice.across)
        self.assertEqual(len(twice.lines), 5)

    def test_several_amounts_a_row(self) -> None:
        rows = [
            [a, p, str(n), str(n + 1)] for n, (a, p) in enumerate((a, p) for a in "XY" for p in ("H1", "H2"))
        ]
        made = drafted([["Item name", "Half year", "Actual", "Budget"], *rows], across="B")
        self.assertEqual(heads(made), ["H1 Actual", "H1 Budget", "H2 Actual", "H2 Budget"])
        self.assertEqual(amounts(made), {"X": (0, 1, 1, 2), "Y": (2, 3, 3, 4)})

    def test_a_period_and_what_its_figures_are(self) -> None:
        rows = [
            [line, period, version, str(n)]
            for n, (line, period, version) in enumerate(
                (a, p, v) for a in ("Fares", "Fuel") for p in ("FY25", "FY26") for v in ("Actual", "Budget")
            )
        ]
        made = drafted([["Line", "Period", "Version", "Amount"], *rows])
        self.assertEqual(heads(made), ["FY25 Actual", "FY25 Budget", "FY26 Actual", "FY26 Budget"])
        self.assertEqual(amounts(made), {"Fares": (0, 1, 2, 3), "Fuel": (4, 5, 6, 7)})

    def test_lines_of_one_name_in_two_places_keep_both(self) -> None:
        rows = [
            [region, line, period, str(100 * n + m)]
            for n, region in enumerate(("North", "South"), 1)
            for line in ("Fares", "Fuel")
            for m, period in enumerate(("FY25", "FY26"))
        ]
        made = drafted([["Region", "Line item", "FY", "Value"], *rows])
        self.assertEqual(list(amounts(made)), ["North, Fares", "North, Fuel", "South, Fares", "South, Fuel"])
        self.assertEqual(amounts(made)["South, Fuel"], (200, 201))

    def test_each_lines_currency_and_what_is_missing(self) -> None:
        rows = [
            ["Fares", "EUR", "FY25", "100", ""],
            ["Fares", "EUR", "FY26", "120", "see note"],
            ["Cargo", "USD", "FY26", "31", ""],
            ["Kiosk", "EUR", "FY25", "5", ""],
            ["Kiosk", "EUR", "FY26", "n/a", ""],
        ]
        made = drafted([["Line", "Currency", "Period", "Amount", "Comment"], *rows])
        self.assertEqual(amounts(made), {"Fares": (100, 120), "Cargo": (None, 31), "Kiosk": (5, None)})
        pack = pack_of([Kept(made, "Income")], "Lanternfish Ferries", "2026")
        self.assertEqual(pack.currency, "EUR")
        self.assertEqual([line.currency for line in pack.statements[0].lines], [None, "USD", None])
        self.assertTrue(any("Comment" in said for said in settled(made)))

    def test_a_total_of_all_periods_is_left_out_and_named(self) -> None:
        rows = [[a, p, v] for a, v in (("Fares", "1"), ("Fuel", "2")) for p in ("2025", "2026")]
        made = drafted([["Line", "Year", "Amount"], *rows, ["Total", "", "6"], ["Unaudited", "", ""]])
        self.assertEqual(amounts(made), {"Fares": (1, 1), "Fuel": (2, 2)})
        self.assertTrue(any("Total 6" in said for said in settled(made)))

    def test_words_that_are_no_periods_are_asked_about(self) -> None:
        rows = [[a, d, str(n)] for n, (a, d) in enumerate((a, d) for a in ("Wages", "Fuel") for d in "PQ")]
        table = [["Cost", "Department", "Amount"], *rows]
        made = drafted(table)
        self.assertEqual(len(made.lines), 4)
        self.assertIn("Is each of its rows a line?", asked(made))
        told = drafted(table, across="B")
        self.assertEqual((heads(told), amounts(told)), (["P", "Q"], {"Wages": (0, 1), "Fuel": (2, 3)}))
        self.assertNotIn("Is each of its rows a line?", asked(told))
        kept = drafted(table, across="rows")
        self.assertEqual((len(kept.lines), asked(kept)), (4, []))

    def test_the_word_in_its_sentence_turns_it_to_rows_and_back(self) -> None:
        rows = [[a, p, "1"] for a in ("Fares", "Fuel") for p in ("2025", "2026")]
        table = [["Line", "Year", "Amount"], *rows]

        def word(made: Draft) -> Open:
            return next(w for w in table_sentence(made) if isinstance(w, Open) and w.name == "across")

        said = word(drafted(table))
        self.assertEqual(said.label, "a column for each Year")
        as_rows = drafted(table, **said.picks[1].decide)
        self.assertEqual((len(as_rows.lines), word(as_rows).label), (4, "a line for each row"))
        self.assertEqual(len(drafted(table, **word(as_rows).picks[1].decide).lines), 2)

    def test_a_column_decided_that_tells_no_rows_apart_is_named(self) -> None:
        for letters in ("B", "ZZZ"):
            made = drafted(
                [["Line", "2025", "2026"], ["Fares", "1", "2"], ["Fuel", "3", "4"]], across=letters
            )
            self.assertTrue(any(f"a column for each of {letters}" in doubt.text for doubt in made.doubts))
            self.assertEqual(len(made.lines), 2)

    def test_what_is_no_column_is_refused_in_words(self) -> None:
        for told in ("b", "ROWS", "ABCD", ""):
            with self.assertRaises(ValidationError) as refused:
                TableDecided(across=told)
            self.assertIn("neither rows nor the letters of a column", str(refused.exception))

    def test_entries_and_wide_tables_stay_as_they_are(self) -> None:
        journal = [["2026-03-01", "Fares", "Morning", "100"], ["2026-03-01", "Fares", "Evening", "110"]]
        journal += [["2026-03-02", "Fares", "Morning", "90"], ["2026-03-02", "Fuel", "Morning", "-20"]]
        journal += [["2026-03-02", "Fuel", "Morning", "-25"]]
        wide = [["Fares", "3", "100", "90"], ["Cargo", "4", "30", "33"], ["Total", "", "130", "123"]]
        vessels = [["Orca", "2019", "1000", "50"], ["Heron", "2020", "1500", "70"]]
        vessels += [["Tern", "2020", "700", "35"], ["Skua", "2022", "800", "45"]]
        for head, rows in (
            (["Date", "Account", "Text", "Amount"], journal),
            (["Line", "Note", "FY26", "FY25"], wide),
            (["Vessel", "Year", "Passengers", "Revenue"], vessels),
        ):
            with self.subTest(head):
                made = drafted([head, *rows])
                self.assertIsNone(made.across)
                self.assertEqual(len(made.lines), len(rows))

    def test_no_line_adds_itself(self) -> None:
        rows = [["Deck", "100"], ["Engine", "120"], ["Deck", "5"], ["Engine", "60"], ["Deck", "105"]]
        made = drafted([["Part", "2026"], *rows, ["Engine", "180"]])
        self.assertEqual([line.label for line in made.lines if line.parts], [])
        self.assertEqual(asked(made), [])


class CurrencyColumnTest(unittest.TestCase):
    def test_a_currency_beside_a_unit_of_the_table(self) -> None:
        rows = [["Fares", "EUR", "100", "120"], ["Cargo", "USD", "30", "31"], ["Other", "XYZ", "1", "2"]]
        head = [["In thousands", "", "", ""], ["Line", "Currency", "2025", "2026"]]
        made = drafted([*head, *rows, ["Kiosk", "EUR", "3", "4"]])
        self.assertEqual(amounts(made)["Cargo"], (30_000, 31_000))
        self.assertEqual(
            [(line.label, line.currency) for line in made.lines],
            [("Fares", "EUR"), ("Cargo", "USD"), ("Other", None), ("Kiosk", "EUR")],
        )
        self.assertEqual([doubt.text for doubt in made.doubts if "no currency we know" in doubt.why], ["XYZ"])

    def test_codes_of_currencies_under_any_heading(self) -> None:
        made = drafted(
            [["Line", "Book", "2026"], ["Fares", "EUR", "10"], ["Cargo", "USD", "3"], ["Mail", "", "4"]]
        )
        self.assertEqual([line.currency for line in made.lines], ["EUR", "USD", None])

    def test_currencies_that_are_the_lines_stay_labels(self) -> None:
        made = drafted([["Currency", "2026", "2025"], ["EUR", "1.17", "1.15"], ["USD", "1.35", "1.30"]])
        self.assertEqual(list(amounts(made)), ["EUR", "USD"])
