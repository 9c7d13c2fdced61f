"""Tables one below another: what makes them two, and what keeps them one."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal

from humble_sum.core.intake.blocks import blocks
from humble_sum.core.intake.decisions import TableDecided
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.table import SheetCell, Table

INCOME = [["£m", "2026", "2025"], ["Fares", "1,204", "1,150"], ["Freight", "310", "299"]]
INCOME += [["Total income", "1,514", "1,449"]]
FUNDS = [["Fund", "Open", "Closed", "Total"], ["Grants", "12", "30", "42"], ["Gifts", "20", "25", "45"]]


def sheet(*parts: list[list[str]]) -> Table:
    rows = [row for part in parts for row in part]
    width = max(map(len, rows))
    cells = [tuple(SheetCell(text) for text in [*row, *[""] * (width - len(row))]) for row in rows]
    return Table("a.csv", "", tuple(cells))


class BlocksTest(unittest.TestCase):
    def test_other_headings_in_other_columns_begin_a_table(self) -> None:
        for between in ([[""]], [[""], ["Funds"]], [["Funds of the year"]]):
            with self.subTest(between=between):
                first, second = blocks(sheet(INCOME, between, FUNDS))
                self.assertEqual([line.label for line in draft(first).lines], [row[0] for row in INCOME[1:]])
                self.assertEqual([line.label for line in draft(second).lines], ["Grants", "Gifts"])

    def test_the_same_headings_come_again_on_another_page(self) -> None:
        page = [INCOME[0], ["Wages", "-800", "-760"], ["Surplus", "714", "689"]]
        self.assertEqual(len(blocks(sheet(INCOME, page))), 1)
        # Behind an empty row it is another table, unless it adds up what is above.
        total = [INCOME[0], INCOME[3], *page[1:]]
        self.assertEqual(len(blocks(sheet(INCOME[:3], [[""]], total))), 1)
        other = [INCOME[0], ["Owned", "12", "11"], ["Chartered", "4", "4"]]
        self.assertEqual(len(blocks(sheet(INCOME, [["Vessels"]], other))), 1)
        self.assertEqual(len(blocks(sheet(INCOME, [[""], ["Vessels"]], other))), 2)

    def test_a_heading_among_the_lines_or_a_gap_begins_none(self) -> None:
        more = [["Costs", "", ""], ["Wages", "-800", "-760"], ["Surplus", "714", "689"]]
        for between in ([], [[""]], [[""], ["", "£m", "£m"]], [["Auditor", "n/a", "n/a"]]):
            with self.subTest(between=between):
                self.assertEqual(len(blocks(sheet(INCOME, between, more))), 1)

    def test_amounts_that_could_be_years_head_nothing(self) -> None:
        more = [[""], ["Vessels", "2,015", "1,987"], ["Piers", "24", "22"]]
        self.assertEqual(len(blocks(sheet(INCOME, more))), 1)

    def test_a_line_of_texts_is_none_of_the_headings(self) -> None:
        table = sheet([["", "2026", "2025"], ["Auditor", "Finch & Co", "Finch & Co"], ["Fee", "120", "115"]])
        (made,) = (draft(each) for each in blocks(table))
        self.assertEqual([line.label for line in made.lines], ["Auditor", "Fee"])
        self.assertEqual([column.label for column in made.columns], ["2026", "2025"])

    def test_numbers_that_count_the_lines_are_no_figures(self) -> None:
        rows = [["(1)", "Fares", "5", "1,204", "1,150"], ["(2)", "Freight", "6", "310", "299"]]
        made = draft(sheet([*rows, ["(3)", "Total", "", "1,514", "1,449"]]))
        self.assertEqual([line.amounts for line in made.lines], [(1_204, 1_150), (310, 299), (1_514, 1_449)])

    def test_each_has_its_own_unit_where_it_says_one(self) -> None:
        first, second = blocks(sheet([["", "£'000", ""]], INCOME_BARE, [[""], ["€m"]], FUNDS))
        self.assertEqual(draft(first).lines[0].amounts[0], 1_204_000)
        self.assertEqual(draft(second).lines[0].amounts[0], 12_000_000)
        _, second = blocks(sheet([["£'000"]], INCOME_BARE, [[""]], FUNDS))
        self.assertEqual(draft(second).lines[0].amounts[0], 12_000, "that of the sheet")

    def test_a_table_keeps_its_own_rows_and_calls_them_as_in_the_source(self) -> None:
        """Also what goes by rows: formulas, hidden rows, merged cells, and what was decided."""
        whole = sheet([["Lanternfish Ferries"]], INCOME, [[""]], FUNDS, [["Total", "32", "55", "87"]])
        rows = [list(row) for row in whole.rows]
        last = len(rows) - 1
        rows[last][1] = SheetCell(Decimal(32), formula=f"=SUM(B{last - 1}:B{last})")
        merged = ((last - 3, 0, last - 3, 1), (0, 0, 0, 2))
        held = replace(whole, rows=tuple(map(tuple, rows)), hidden=frozenset({last - 1, 2}), merged=merged)
        first, second = blocks(held)
        self.assertEqual(len(second.rows), 1 + len(FUNDS) + 1)
        self.assertEqual(second.hidden, {len(second.rows) - 2})
        self.assertEqual(second.merged, ((0, 0, 0, 2), (1, 0, 1, 1)))
        made = draft(second)
        self.assertEqual(made.lines[-1].parts, ((0, 1), (1, 1)))
        self.assertEqual(made.lines[-1].how, "formula")
        for row in range(len(second.rows)):
            named = second.sheet_place(row, 1)
            self.assertEqual(second.find(named), (row, 1))
            self.assertEqual(held.find(named), (second.sheet_row(row), 1))
        self.assertIsNone(second.find("B3"), "a cell of the other table")
        decided = TableDecided(first_row=last)
        self.assertEqual(
            [line.label for line in draft(second, decided).lines], [rows[last - 1][0].text, "Total"]
        )
        self.assertEqual(first.find("B3"), (2, 1))

    def test_a_formula_that_adds_another_table_is_no_sum_of_its_own(self) -> None:
        whole = sheet(INCOME, [[""]], FUNDS, [["Left", "1482", "1394", "2876"]])
        rows = [list(row) for row in whole.rows]
        last = len(rows)
        rows[-1][1] = SheetCell(Decimal(1_482), formula=f"=B4-B{last - 1}")
        _, second = blocks(replace(whole, rows=tuple(map(tuple, rows))))
        self.assertEqual(draft(second).lines[-1].parts, ())

    def test_one_row_an_amount_below_another_table_is_called_as_in_the_source(self) -> None:
        names = ("Fares", "Freight", "Mail", "Charter")
        amounts = [
            [name, year, f"{1_200 + 37 * n}"] for n, name in enumerate(names) for year in ("2026", "2025")
        ]
        _, second = blocks(sheet(INCOME, [[""], ["Routes"]], [["Line", "Period", "Amount"]], amounts))
        made = draft(second)
        column = made.layout.figures[0].index
        self.assertEqual(
            [made.table.sheet_place(line.row, column) for line in made.lines], ["C8", "C10", "C12", "C14"]
        )

    def test_many_tables_on_a_sheet_hold_no_more_than_the_sheet(self) -> None:
        parts = [[[""], [f"Route {n}"], INCOME[0], *INCOME[1:]] for n in range(60)]
        found = blocks(sheet([["Lanternfish Ferries"]], *parts))
        self.assertEqual(len(found), 60)
        self.assertLess(sum(len(each.rows) for each in found), 60 * (len(parts[0]) + 3))


INCOME_BARE = [["", *INCOME[0][1:]], *INCOME[1:]]


if __name__ == "__main__":
    unittest.main()
