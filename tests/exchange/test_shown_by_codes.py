"""What a workbook's number codes show is what is meant: units that codes make, credits that codes write."""

from __future__ import annotations

import io
import unittest
from collections.abc import Sequence
from datetime import date
from decimal import Decimal

from openpyxl import Workbook

from humble_sum.core.intake.code_clauses import divides_by, turns
from humble_sum.core.intake.decisions import TableDecided
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.exchange.edition_workbook import write_workbook
from humble_sum.exchange.sources.opening import open_source
from tests.exchange.test_awkward_sources import Grid, amounts
from tests.making import pack, rule, statement

IN_FULL: Grid = [["Fares", 1844374651.4, 1712090000], ["Freight", 411200000, 386000000]]


def shown(over: str, rows: Grid, shown_by: str, decided: TableDecided | None = None) -> Draft:
    """A sheet under a text, its numbers shown by a code."""
    made = Workbook()
    sheet = made.active
    assert sheet is not None
    for row in ([over], ["", "2026", "2025"], *rows):
        sheet.append(list(row))
    for cells in sheet.iter_rows(min_row=3, min_col=2):
        for cell in cells:
            cell.number_format = shown_by
    out = io.BytesIO()
    made.save(out)
    (table,) = open_source("a.xlsx", out.getvalue())
    return draft(table, decided or TableDecided())


def headed(cells: Sequence[object], shown_by: str) -> Draft:
    """A sheet whose columns are headed by these cells, all shown by one code."""
    made = Workbook()
    sheet = made.active
    assert sheet is not None
    for row in ([None, *cells], ["Fares", 100, 90], ["Freight", 50, 40]):
        sheet.append(row)
    for column in ("B1", "C1"):
        sheet[column].number_format = shown_by
    out = io.BytesIO()
    made.save(out)
    (table,) = open_source("a.xlsx", out.getvalue())
    return draft(table)


class HeadingTest(unittest.TestCase):
    def test_headings_read_as_their_codes_show_them(self) -> None:
        days = (date(2026, 3, 31), date(2025, 3, 31))
        for cells, code, expected in (
            (days, "dd/mm/yyyy", ["31 March 2026", "31 March 2025"]),
            (days, "mmm-yy", ["March 2026", "March 2025"]),
            (days, "[$-409]mmmm\\ yyyy;@", ["March 2026", "March 2025"]),
            (days, "yyyy", ["2026", "2025"]),
            (days, '"FY"yyyy', ["FY2026", "FY2025"]),
            (days, '[$-409]yyyy"E"', ["2026E", "2025E"]),
            ((26, 25), '"FY"0', ["FY26", "FY25"]),
            ((2026, 2025), '0"E"', ["2026E", "2025E"]),
            ((1, 2), '"Week "0', ["Week 1", "Week 2"]),
            ((2026, 2025), "General", ["2026", "2025"]),
        ):
            with self.subTest(code):
                made = headed(cells, code)
                self.assertEqual([column.heading for column in made.layout.figures], expected)
                self.assertEqual([line.label for line in made.lines], ["Fares", "Freight"])

    def test_amounts_with_words_around_them_are_no_headings(self) -> None:
        for code in ('"EUR "0', '"\u00a3"0"m"', '0" t"', '"FY"#,##0', '"FY"0.0'):
            with self.subTest(code):
                made = headed((100, 90), code)
                self.assertEqual(len(made.lines), 3 if code != '"EUR "0' else 2)

    def test_labels_that_are_dates_read_as_people_write_them(self) -> None:
        rows: Grid = [[date(2026, 1, 31), 100, 90], [date(2026, 2, 28), 50, 40]]
        made = shown("Month", rows, "0")
        self.assertEqual([line.label for line in made.lines], ["31 January 2026", "28 February 2026"])


class UnitTest(unittest.TestCase):
    def test_a_unit_that_codes_make_is_not_made_again(self) -> None:
        for over, code in (
            ("Income, Rs in millions", "#,##0.0,,"),
            ("Income, USD thousands", '#,##0,"k"'),
            ("Income, EUR billions", "0.000,,,;(0.000,,,)"),
        ):
            with self.subTest(code):
                made = shown(over, IN_FULL, code)
                self.assertEqual(amounts(made)["Fares"], ("1844374651.4", "1712090000"))
                self.assertTrue(any("in ones already" in each for each in settled(made)))
                self.assertEqual(list(questions(made)), [])

    def test_a_unit_that_codes_do_not_make_is_that_of_the_numbers(self) -> None:
        made = shown("Income, Rs in millions", [["Fares", 1844.4, 1712.1], ["Freight", 411, 386]], "#,##0.0")
        self.assertEqual(amounts(made)["Fares"], ("1844400000", "1712100000"))
        self.assertFalse(any("already" in each for each in settled(made)))

    def test_codes_without_a_unit_above_show_ones(self) -> None:
        made = shown("Income", IN_FULL, "#,##0.0,,")
        self.assertEqual(amounts(made)["Freight"], ("411200000", "386000000"))
        self.assertEqual(list(questions(made)), [])

    def test_codes_of_another_unit_are_asked_about_and_settled(self) -> None:
        made = shown("Income, INR lakhs", IN_FULL, "#,##0,")
        (asked,) = questions(made)
        self.assertIn("number codes show thousands", asked.says)
        for unit, wanted in (("ones", "411200000"), ("lakhs", "41120000000000")):
            again = shown("Income, INR lakhs", IN_FULL, "#,##0,", TableDecided.model_validate({"unit": unit}))
            self.assertEqual(amounts(again)["Freight"][0], wanted)
            self.assertEqual(list(questions(again)), [])

    def test_a_decided_unit_is_that_of_the_numbers(self) -> None:
        told = TableDecided.model_validate({"unit": "millions"})
        made = shown("Income, Rs in millions", [["Fares", 2, 3], ["Freight", 1, 1]], "#,##0.0,,", told)
        self.assertEqual(amounts(made)["Fares"], ("2000000", "3000000"))

    def test_workbooks_of_ours_come_back_as_they_went(self) -> None:
        of = statement({"a": ["1844374651.40"], "b": ["-411200000"]}, {"t": ["a", "b"]}, columns=("now",))
        for scale in ("ones", "thousands", "lakhs", "millions", "crores", "billions"):
            pack_proof = prove_pack(pack(of, rule("house", {"scale": scale, "decimals": {"fixed": 1}})))
            for mode in ("exact", "unit"):
                with self.subTest(scale=scale, mode=mode):
                    table = open_source("a.xlsx", write_workbook(pack_proof, mode))[0]
                    made = draft(table, TableDecided())
                    found = [line.amounts[-1] for line in made.lines if not line.heading]
                    self.assertEqual(found[:2], [Decimal("1844374651.40"), Decimal("-411200000")])

    def test_what_a_code_divides_by(self) -> None:
        for code, power in (("0", 0), ("#,##0", 0), ("#,##0,", 3), ("0.0,,;;", 6), ("General", 0), ("", 0)):
            self.assertEqual(divides_by(code), power, code)


class SideTest(unittest.TestCase):
    ACCOUNTS = ("Cash", "Payables", "Equity")

    def read(self, *rows: tuple[float, str]) -> Draft:
        made = Workbook()
        sheet = made.active
        assert sheet is not None
        sheet.append(["Trial balance at 31 March 2026, in EUR"])
        sheet.append(["Account", "Balance"])
        for number, (name, (amount, shown_by)) in enumerate(zip(self.ACCOUNTS, rows, strict=True), 3):
            sheet.append([name, amount])
            sheet[f"B{number}"].number_format = shown_by
        out = io.BytesIO()
        made.save(out)
        (table,) = open_source("a.xlsx", out.getvalue())
        return draft(table, TableDecided())

    def test_credits_are_below_zero_however_the_code_writes_them(self) -> None:
        dr, cr = '#,##0.00" Dr"', '#,##0.00" Cr"'
        wanted = {"Cash": ("1200.5",), "Payables": ("-300.25",), "Equity": ("-900.25",)}
        for rows in (
            ((1200.5, f"{dr};{cr}"), (-300.25, f"{dr};{cr}"), (-900.25, f"{dr};{cr}")),
            ((-1200.5, f"{cr};{dr}"), (300.25, f"{cr};{dr}"), (900.25, f"{cr};{dr}")),
            ((1200.5, "0.00"), (300.25, r"0.00\ \C\r;0.00\ \D\r"), (900.25, f"{cr};{dr}")),
        ):
            with self.subTest(rows):
                self.assertEqual(amounts(self.read(*rows)), wanted)

    def test_other_words_of_a_code_turn_nothing(self) -> None:
        for code in (
            '#,##0.00" Cr"',
            '#,##0" Cr";-#,##0" Cr"',
            '#,##0" crore"',
            '"Dr "#,##0',
            '#,##0" k";-#,##0" k"',
            '[>=100]0" Cr";0',
            "0.00",
            '0"mcr"',
        ):
            self.assertEqual(turns(code), (False, False), code)
