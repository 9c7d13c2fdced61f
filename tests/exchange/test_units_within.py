"""Units that hold for some lines of a table: those under a heading, measures, amounts for one of something."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any, ClassVar

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.intake.decisions import TableDecided, merged
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.table_sentence import Open, row_sentence
from tests.making import drafted

Rows = list[list[str]]
UNITS = {"£m": 6, "£000": 3, "in thousands": 3, "000s": 3, "€ bn": 9, "₹ lakhs": 5, "millions": 6}
NAMES = ("Revenue", "Passengers", "Freight carried", "Net debt", "Vehicles")
PARTS = ("North", "South", "Islands", "Mainland", "Night boats")


def first(made: Draft) -> dict[str, str]:
    """The first amount of every line, in ones."""
    found = {}
    for line in made.lines:
        amount = line.amounts[0] if line.amounts else None
        found[line.label] = "" if amount is None else format(amount.normalize(), "f")
    return found


def word(made: Draft, row: int, name: str) -> Open:
    """A word of the sentence of a row."""
    return next(each for each in row_sentence(made, row) if isinstance(each, Open) and each.name == name)


def kinds(made: Draft) -> dict[str, str | None]:
    return {line.label: line.kind for line in made.lines}


class SectionTest(unittest.TestCase):
    @given(
        st.lists(st.tuples(st.sampled_from(NAMES), st.sampled_from(sorted(UNITS))), min_size=1, max_size=4),
        st.booleans(),
        st.sampled_from(["", "£m", "$ in thousands"]),
        st.randoms(use_true_random=False),
    )
    def test_lines_are_in_the_unit_of_the_heading_they_stand_under(
        self, headings: list[tuple[str, str]], deep: bool, over: str, draw: Any
    ) -> None:
        rows, expected = [[over, "FY26", "FY25"]], []
        for name, unit in headings:
            rows.append([f"{name} ({unit})", "", ""])
            for part in draw.sample(PARTS, 2):
                written = [f"{draw.randint(1, 99_999) / 10:.1f}" for _ in range(2)]
                rows.append([("  " if deep else "") + part, *written])
                expected.append(Decimal(written[0]) * 10 ** UNITS[unit])
        made = drafted(rows)
        self.assertEqual([line.amounts[0] for line in made.lines if not line.heading], expected)
        named = [doubt.text for doubt in made.doubts]
        self.assertEqual([text for text in named if "(" in text], [f"{n} ({u})" for n, u in headings])

    def test_a_section_ends_with_its_total_where_the_table_has_a_scale_too_and_is_asked_about(self) -> None:
        rows = [["£m", "2026", "2025"], ["Traffic (000s)", "", ""], ["Adults", "1.5", "1.2"]]
        rows += [["Children", "0.5", "0.4"], ["Total traffic", "2.0", "1.6"], ["Net debt", "12.5", "13.5"]]
        made = drafted(rows)
        self.assertEqual(first(made)["Total traffic"], "2000")
        self.assertEqual(first(made)["Net debt"], "12500000")
        (asked,) = questions(made)
        self.assertEqual(asked.asks, "What unit is in force under Traffic (000s)?")
        self.assertEqual([answer.label for answer in asked.answers], ["thousands", "ones"])
        told = merged(TableDecided(), asked.answers[1].decide)
        again = draft(made.table, told)
        self.assertEqual(first(again)["Total traffic"], "2")
        self.assertEqual(questions(again), [])

    def test_the_sentences_of_a_heading_and_a_line_say_their_unit_and_change_it(self) -> None:
        rows = [
            ["£m", "2026", "2025"],
            ["Net debt", "12.5", "13.5"],
            ["Traffic (000s)", "", ""],
            ["Cars", "1.5", "2"],
        ]
        made = drafted(rows)
        units = [word(made, row, "unit") for row in (1, 2, 3)]
        self.assertEqual([unit.label for unit in units], ["millions", "thousands", "thousands"])
        for row in (2, 3):
            told = units[row - 1].picks[0]
            self.assertEqual(told.label, "ones")
            again = draft(made.table, merged(TableDecided(), told.decide))
            self.assertEqual(first(again)["Cars"], "1.5")
            self.assertEqual(first(again)["Net debt"], "12500000")
            back = word(again, row, "unit").picks[-1]
            self.assertEqual(back.label, "as the source says")
            self.assertEqual(first(draft(made.table, merged(again.decided, back.decide)))["Cars"], "1500")

    def test_a_heading_over_headings_holds_for_all_of_them_and_is_asked_about(self) -> None:
        rows = [["", "2026", "2025"], ["Traffic (000s)", "", ""], ["People", "", ""], ["Adults", "10", "9"]]
        rows += [["Vehicles", "", ""], ["Cars", "5", "6"], ["Revenue (£m)", "", ""], ["Fares", "7", "8"]]
        made = drafted(rows)
        found = first(made)
        self.assertEqual((found["Adults"], found["Cars"], found["Fares"]), ("10000", "5000", "7000000"))
        self.assertEqual(
            [each.asks for each in questions(made)], ["What unit is in force under Traffic (000s)?"]
        )

    def test_an_empty_row_ends_a_section_but_before_its_total(self) -> None:
        rows = [["", "2026", "2025"], ["Traffic (000s)", "", ""], ["Adults", "15", "12"], ["", "", ""]]
        rows += [["Total traffic", "15", "12"], ["", "", ""], ["Sites", "4", "5"]]
        self.assertEqual(
            first(drafted(rows)),
            {"Traffic (000s)": "", "Adults": "15000", "Total traffic": "15000", "Sites": "4"},
        )

    def test_a_line_with_a_unit_gives_it_to_what_it_is_made_of(self) -> None:
        rows = [["£m", "2026", "2025"], ["Passengers (thousands)", "16", "14"], ["  Adults", "12", "11"]]
        rows += [["  Children", "4", "3"], ["Passengers by night (thousands)", "3", "2"]]
        rows += [["of which cabins", "1", "2"], ["Net debt", "7", "8"]]
        found = first(drafted(rows))
        self.assertEqual(
            (found["Adults"], found["of which cabins"], found["Net debt"]), ("12000", "1000", "7000000")
        )

    def test_a_letter_is_a_scale_over_fractions_unless_notes_are_lettered_or_lengths_measured(self) -> None:
        for heading, scaled in (("Passengers (m)", True), ("Draught (m)", False)):
            with self.subTest(heading):
                corner = drafted(
                    [[heading, "2026", "2025"], ["Adults", "1.5", "1.2"], ["Children", "0.5", "0.4"]]
                )
                self.assertEqual(first(corner)["Adults"], "1500000" if scaled else "1.5")
                rows = [["", "2026", "2025"], [heading, "", ""], ["Adults", "1.5", "1.2"]]
                self.assertEqual(first(drafted(rows))["Adults"], "1500000" if scaled else "1.5")
        noted = [
            ["", "2026", "2025"],
            ["Fares (a)", "3", "4"],
            ["Passengers (m)", "", ""],
            ["Adults", "1.5", "1"],
        ]
        self.assertEqual(first(drafted(noted))["Adults"], "1.5")

    def test_percentages_under_a_heading_are_told_together(self) -> None:
        rows = [["£m", "2026", "2025"], ["Revenue", "12", "11"], ["Occupancy (%)", "", ""]]
        rows += [["Winter", "54.2", "51"], ["Summer", "0.8", "91"]]
        found = first(drafted(rows))
        self.assertEqual((found["Winter"], found["Summer"], found["Revenue"]), ("0.542", "0.008", "12000000"))
        loans = [["£m", "2026", "2025"], ["Loans at 5 %", "", ""], ["Bank", "54.2", "51"]]
        self.assertEqual(first(drafted(loans))["Bank"], "54200000")

    def test_what_each_share_earns_is_in_no_thousands_and_the_shares_are(self) -> None:
        rows = [["$ in thousands", "2026", "2025"], ["Net income", "4,500", "3,600"]]
        rows += [
            ["Net income per common share:", "", ""],
            ["  Basic", "0.45", "0.36"],
            ["  Diluted", "0.44", "0.35"],
        ]
        rows += [
            ["Weighted-average shares used in net income per share:", "", ""],
            ["  Basic #2", "10,000", "9,000"],
        ]
        made = drafted(rows)
        self.assertEqual((first(made)["Basic"], first(made)["Basic #2"]), ("0.45", "10000000"))
        self.assertEqual(kinds(made)["Diluted"], "per_unit")
        flat = [["$ in thousands", "2026", "2025"], ["Earnings per share", "", ""], ["Basic", "0.45", "0.36"]]
        flat += [["Average shares", "10,000", "9,000"]]
        self.assertEqual(
            first(drafted(flat)), {"Earnings per share": "", "Basic": "0.45", "Average shares": "10000000"}
        )


class MeasureTest(unittest.TestCase):
    MONEY: ClassVar[Rows] = [
        ["£m", "2026", "2025"],
        ["Fares", "1,204.5", "1,100.1"],
        ["Freight", "200.2", "190.4"],
    ]

    def alone(self, *labels: str) -> Draft:
        rows = [[label, f"{41.25 + 3 * n}", f"{38.5 + n * n}"] for n, label in enumerate(labels)]
        return drafted([*self.MONEY, ["Total revenue", "1,404.7", "1,290.5"], *rows])

    def test_measures_and_rates_are_in_no_millions(self) -> None:
        labels = (
            "CO2 (kt)",
            "Fuel, tonnes",
            "Energy (GWh)",
            "Sailed (nautical miles)",
            "Deck (m²)",
            "Age (years)",
            "Crew, FTE",
            "Full-time equivalents",
            "Average headcount",
            "Effectif moyen",
        )
        rates: tuple[str, ...] = (
            "Fuel price ($/t)",
            "Power (€/MWh)",
            "Fare (pence/km)",
            "Yield (p per km)",
            "Dividend (p)",
        )
        rates += (
            "Exchange rate USD:GBP",
            "Average fare",
            "Price index (2015 = 100)",
            "Days sales outstanding",
            "EUR/USD, closing",
            "Brent price",
            "Avg fare",
            "Yield",
            "Spread (bps)",
            "Wechselkurs EUR/USD",
            "Prix moyen",
        )
        made = self.alone(*labels, *rates)
        for n, label in enumerate((*labels, *rates)):
            with self.subTest(label):
                self.assertEqual(Decimal(first(made)[label]), Decimal("41.25") + 3 * n)
        self.assertEqual({kinds(made)[label] for label in rates}, {"per_unit"})

    def test_money_with_such_words_stays_in_millions(self) -> None:
        labels: tuple[str, ...] = (
            "Occupancy costs",
            "Interest rate swaps",
            "Receivables (90 days)",
            "Revenue (passengers)",
        )
        labels += (
            "Other income (x)",
            "Average net debt",
            "Return on plan assets",
            "Loans USD/EUR",
            "Net/Tax",
            "Purchase price",
            "Cost of FTE leavers",
            "Unit costs",
            "Scores Ltd",
        )
        made = self.alone(*labels)
        for n, label in enumerate(labels):
            with self.subTest(label):
                self.assertEqual(Decimal(first(made)[label]), (Decimal("41.25") + 3 * n) * 1_000_000)

    def test_percentages_by_their_names_are_told_from_ratios(self) -> None:
        rows = [["Gearing", "41.2", "38.9"], ["Market share", "0.4", "0.3"], ["ROCE", "12.5", "11.5"]]
        named: tuple[str, ...] = (
            "Net interest margin",
            "LTV",
            "% of sales",
            "%",
            "Like-for-like growth",
            "Inflation",
        )
        named += ("Eigenkapitalquote", "Taux d'occupation")
        shares = first(drafted([*self.MONEY, *([name, "12.5", "11.5"] for name in named)]))
        self.assertEqual([shares[name] for name in named], ["0.125"] * len(named))
        found = first(drafted([*self.MONEY, *rows]))
        self.assertEqual((found["Gearing"], found["Market share"], found["ROCE"]), ("0.412", "0.4", "0.125"))

    def test_what_drives_a_variance_is_money_where_it_is_added(self) -> None:
        rows = [
            ["\u00a3m", "2026", "2025"],
            ["Operating profit 2025", "10.0", "9.0"],
            ["Volume", "1.5", "2.5"],
        ]
        rows += [["Fuel price", "-1.1", "0.4"], ["Inflation", "-0.2", "-0.3"], ["EUR/USD", "0.1", "0.1"]]
        total = ["Total", "10.3", "11.7"]
        apart = [["Gearing", "41.2", "38.1"], ["EPS (p)", "1.2", "1.0"], ["Total EPS (p)", "1.2", "1.0"]]
        made = drafted([*rows, total, *apart])
        self.assertEqual(made.lines[5].parts, tuple((n, 1) for n in range(5)))
        self.assertEqual(first(made)["Fuel price"], "-1100000")
        self.assertEqual(kinds(made)["Gearing"], "percent")
        self.assertEqual(first(made)["Total EPS (p)"], "1.2")
        closing = drafted([*rows, ["Closing", "10.3", "11.7"]])
        self.assertEqual(first(closing)["Fuel price"], "-1100000")
        self.assertEqual(first(drafted([*rows, ["Total", "10.3", "13.8"]]))["Fuel price"], "-1.1")

    def test_a_measure_prints_with_its_own_decimals_and_without_money(self) -> None:
        rows = [["Energy (GWh)", "120.45", "131.5"], ["Number of vessels", "21", "20"]]
        pack = pack_of([Kept(drafted([*self.MONEY, *rows]), "Figures")], "Lanternfish Ferries", "2026")
        rules = {rule.name: rule.clauses.model_dump(exclude_none=True) for rule in pack.rulebook.rules}
        self.assertEqual(rules["Line Energy (GWh)"]["decimals"], {"up_to": 2})
        self.assertEqual(rules["Line Number of vessels"]["decimals"], {"fixed": 0})
        self.assertEqual(rules["Line Energy (GWh)"]["scale"], "ones")

    def test_a_column_of_units_says_which_are_measures(self) -> None:
        rows = [["Line", "Unit", "2026", "2025"], ["Revenue", "£m", "12.5", "11.5"]]
        rows += [
            ["Emissions", "kt", "120.4", "131.2"],
            ["Fuel", "$/t", "612", "540"],
            ["Fares", "€/mln", "3", "4"],
        ]
        made = drafted(rows)
        self.assertEqual(
            kinds(made), {"Revenue": None, "Emissions": "count", "Fuel": "per_unit", "Fares": None}
        )
        self.assertEqual(first(made)["Fares"], "3000000")


class ColumnMeasureTest(unittest.TestCase):
    def column(self, heading: str, *cells: str) -> list[Decimal | None]:
        """What a column with this heading is read as, beside millions of pounds."""
        rows = [["£m", "", "", ""], ["Route", "Revenue", "Profit", heading]]
        rows += [["North", "1204.5", "150.4", cells[0]], ["South", "804.5", "80.4", cells[1]]]
        return [line.amounts[2] for line in drafted(rows).lines]

    def test_measures_and_rates_are_in_no_millions(self) -> None:
        for heading in (
            "CO2 (kt)",
            "Fuel price ($/t)",
            "Length (m)",
            "Average fare",
            "Energy, GWh",
            "Cover ratio",
            "Rate",
            "Unit cost",
            "Fare / crossing",
            "Tenor (years)",
            "LTV",
            "Margin (bps)",
        ):
            with self.subTest(heading):
                self.assertEqual(self.column(heading, "12.5", "9.25"), [Decimal("12.5"), Decimal("9.25")])
        for heading in ("Rates", "Life", "Duration risk", "Rate relief"):
            with self.subTest(heading):
                self.assertEqual(self.column(heading, "12.5", "9.25")[0], Decimal("12500000"))

    def test_years_in_which_loans_mature_are_no_figures(self) -> None:
        for heading in ("Maturity", "Expiry", "Due in"):
            made = drafted([["Loan", heading, "£m"], ["Term A", "2029", "12.5"], ["Term B", "2031", "7.5"]])
            self.assertEqual(
                [line.amounts for line in made.lines], [(Decimal("12500000"),), (Decimal("7500000"),)]
            )

    def test_percentages_are_told_by_name_or_by_working_them_out(self) -> None:
        self.assertEqual(self.column("Load factor", "81.2", "79.5"), [Decimal("0.812"), Decimal("0.795")])
        self.assertEqual(self.column("Load factor", "0.81", "0.79"), [Decimal("0.81"), Decimal("0.79")])
        self.assertEqual(self.column("Margin", "12.5", "10.0"), [Decimal("0.125"), Decimal("0.100")])
        self.assertEqual(
            self.column("Margin", "1054.1", "724.1"), [Decimal("1054100000"), Decimal("724100000")]
        )
        self.assertEqual(self.column("Occupancy costs", "81.2", "79.5")[0], Decimal("81200000"))


class OddLinesTest(unittest.TestCase):
    ADDING: ClassVar[Rows] = [
        ["£m", "2026", "2025"],
        ["Fares", "1,204.5", "1,100.1"],
        ["Freight", "200.0", "190.4"],
    ]
    TOTAL: ClassVar[list[str]] = ["Total revenue", "1,404.5", "1,290.5"]

    def test_lines_written_unlike_those_that_add_are_asked_about_together(self) -> None:
        rows = [
            *self.ADDING,
            self.TOTAL,
            ["Vessels", "21", "20"],
            ["Net debt", "41.0", "30.5"],
            ["Sites", "4", "5"],
        ]
        made = drafted(rows)
        (asked,) = questions(made)
        self.assertEqual(asked.asks, "What unit are Vessels, Sites in?")
        self.assertEqual(first(made)["Vessels"], "21000000")
        again = draft(made.table, merged(TableDecided(), asked.answers[1].decide))
        self.assertEqual((first(again)["Vessels"], first(again)["Net debt"]), ("21", "41000000"))
        self.assertEqual(questions(again), [])

    def test_fractions_below_whole_millions_are_asked_about(self) -> None:
        rows = [["£m", "2026", "2025"], ["Fares", "1204", "1100"], ["Freight", "200", "190"]]
        rows += [["Total revenue", "1404", "1290"], ["Crossings an hour", "2.4", "2.5"]]
        self.assertEqual(
            [each.asks for each in questions(drafted(rows))], ["What unit is Crossings an hour in?"]
        )

    def test_a_count_below_whole_millions_is_asked_about_and_money_is_not(self) -> None:
        rows = [["£m", "2026", "2025"], ["Fares", "1204", "1100"], ["Freight", "200", "190"]]
        rows += [
            ["Total revenue", "1404", "1290"],
            ["Vessels in service", "21", "20"],
            ["Net debt", "41", "30"],
        ]
        self.assertEqual(
            [each.asks for each in questions(drafted(rows))], ["What unit is Vessels in service in?"]
        )

    def test_a_column_of_whole_numbers_beside_decimals_is_asked_about(self) -> None:
        rows = [["£m", "", "", "", ""], ["Route", "Revenue", "Costs", "Assets", "Vessels"]]
        rows += [["North", "1204.5", "900.1", "50.5", "5"], ["South", "804.5", "700.5", "40.5", "4"]]
        made = drafted(rows)
        (asked,) = questions(made)
        self.assertEqual(asked.asks, "What unit is Vessels in?")
        self.assertEqual(made.lines[0].amounts[3], 5)
        self.assertEqual([answer.label for answer in asked.answers], ["ones", "millions"])
        again = draft(made.table, merged(TableDecided(), asked.answers[1].decide))
        self.assertEqual(again.lines[0].amounts[3], 5_000_000)
        self.assertEqual(questions(again), [])

    def test_a_column_that_comes_to_no_total_is_asked_about(self) -> None:
        head = [["£m", "", "", ""], ["Lender", "Drawn", "Discount", "Undrawn"]]
        lines = [["Bank A", "100.5", "5.1", "9.5"], ["Bank B", "50.5", "10.2", "8.5"]]
        for stated in ("", "7.5"):
            made = drafted([*head, *lines, ["Total", "151.0", stated, "18.0"]])
            (asked,) = questions(made)
            self.assertEqual(asked.asks, "What unit is Discount in?")
            again = draft(made.table, merged(TableDecided(), asked.answers[1].decide))
            self.assertEqual(again.lines[0].amounts[1], Decimal("5.1"))
            self.assertEqual(questions(again), [])
        self.assertEqual(questions(drafted([*head, *lines, ["Total", "151.0", "15.3", "18.0"]])), [])

    def test_what_rates_and_prices_are_called_is_an_amount_where_it_is_added(self) -> None:
        rows = [["\u00a3m", "", "", "", ""], ["Route", "Price", "Volume", "Mix", "Total"]]
        rows += [["North", "1.5", "2.5", "-0.5", "3.5"], ["South", "0.5", "0.5", "0.1", "1.1"]]
        total = ["Total", "2.0", "3.0", "-0.4", "4.6"]
        down = [[row[0], row[1], row[2]] for row in (*rows[1:], total)]
        commas = [[cell.replace(".", ",") for cell in row] for row in (*rows, total)]
        for added in ([*rows, total], rows, [["\u00a3m", "", ""], *down], commas):
            made = drafted(added)
            self.assertEqual((made.lines[0].amounts[0], questions(made)), (Decimal(1_500_000), []))
        alone = drafted([*rows[:2], ["North", "1.5", "2.5", "", "2.5"], ["South", "0.5", "0.5", "", "0.5"]])
        self.assertEqual(alone.lines[0].amounts[:2], (Decimal("1.5"), Decimal(2_500_000)))

    def test_a_line_far_smaller_than_those_that_add_is_asked_about(self) -> None:
        for label, amounts, expected in (
            ("Coupon", ("5.2", "6.1"), True),
            ("Net debt", ("52.5", "61.5"), False),
        ):
            made = drafted([*self.ADDING, self.TOTAL, [label, *amounts]])
            self.assertEqual(
                [each.asks for each in questions(made)], [f"What unit is {label} in?"] * expected
            )

    def test_nothing_is_asked_where_all_are_written_alike_or_the_unit_was_decided(self) -> None:
        alike = [*self.ADDING, self.TOTAL, ["Net debt", "41.0", "30.0"]]
        self.assertEqual(questions(drafted(alike)), [])
        odd = [*self.ADDING, self.TOTAL, ["Vessels", "21", "20"]]
        self.assertEqual(questions(drafted(odd, unit="millions")), [])
        self.assertEqual(first(drafted(odd, rows={"Vessels": {"unit": "thousands"}}))["Vessels"], "21000")


if __name__ == "__main__":
    unittest.main()
