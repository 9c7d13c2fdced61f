"""Formulas worked out where no value was saved, in exact decimals, and those that are not."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.intake.evaluation import work_out
from humble_sum.core.intake.table import SheetCell, Table, Value

AMOUNTS = st.decimals(-(10**9), 10**9, places=2)


def sheet(*rows: list[Any], name: str = "S") -> Table:
    def cell(said: Any) -> SheetCell:
        if isinstance(said, str) and said.startswith("="):
            return SheetCell(None, said)
        return SheetCell(said if not isinstance(said, int) or isinstance(said, bool) else Decimal(said))

    width = max(map(len, rows))
    return Table(
        "x", name, tuple(tuple(cell(c) for c in [*row, *[None] * (width - len(row))]) for row in rows)
    )


def value(formula: str, *rows: list[Any]) -> Value:
    made = sheet([formula], *rows)
    found = work_out([made], [("S", 0, 0)])
    return found.values.get(("S", 0, 0), found.why_not.get(("S", 0, 0)))


class FormulaTest(unittest.TestCase):
    def test_what_is_worked_out(self) -> None:
        rows = ([10, 3], ["12.5", Decimal("0.1")], [None, -4])
        for formula, expected in {
            "=A2+B2": "13",
            "=-A2^2": "100",
            "=2+3*4-6/3": "12",
            "=(2+3)*4": "20",
            "=A2%": "0.1",
            "=SUM(A2:B4,1)": "10.1",
            "=ROUND(B3*25,0)": "3",
            "=ROUND(-2.5,0)": "-3",
            "=ROUNDDOWN(-2.59,1)": "-2.5",
            "=ROUNDUP(2.01,1)": "2.1",
            "=ROUND(1234,-2)": "1200",
            "=MIN(A2:B4)": "-4",
            "=MAX(A2,B2)": "10",
            "=ABS(B4)": "4",
            "=IF(A2>B2,A2,B2)": "10",
            "=IF(A4=0,7)": "7",
            "=SUBTOTAL(9,A2:B4)": "9.1",
            "=$A$2-S!B2": "7",
            "='S'!A2": "10",
        }.items():
            self.assertEqual(Decimal(str(value(formula, *rows))), Decimal(expected), formula)

    def test_what_is_not_is_named(self) -> None:
        for formula, why in {
            "=VLOOKUP(1,A2:B3,2)": "VLOOKUP is not worked out here",
            "=A2/B5": "it divides by zero",
            "=A1": "it goes round in a circle",
            "=A2:B3": "it takes a range for one value",
            "=Other!A1": "there is no sheet “other”",
            "=A3+1": "“12.5” is no number",
            "=SUM(A1:XFD1048576)": "it asks for too many cells",
            "=((((": "it ends too soon",
            "=1+": "it ends too soon",
            "=[1]Book!A1": "in it is not known here",
            "=9^99": "it raises to a power",
        }.items():
            self.assertIn(why, str(value(formula, [10, 3], ["12.5", 1], [None, 0], [None, None])), formula)

    def test_subtotals_do_not_count_each_other(self) -> None:
        made = sheet([5], [7], ["=SUBTOTAL(9,A1:A2)"], [1], ["=SUBTOTAL(9,A1:A4)"])
        found = work_out([made], [("S", 4, 0)])
        self.assertEqual(found.values["S", 4, 0], 13)

    def test_sheets_refer_to_each_other_and_a_fault_is_said_of_what_needs_it(self) -> None:
        one = sheet(["='Cash & bank'!A1*2"], ["=FOO()"], ["=A2+1"], name="One")
        other = sheet(["=One!A4"], name="Cash & bank")
        one = Table("x", "One", (*one.rows, (SheetCell(Decimal(21)),)))
        found = work_out([one, other], [("One", n, 0) for n in range(3)])
        self.assertEqual(found.values["One", 0, 0], 42)
        self.assertEqual(found.why_not["One", 2, 0], "FOO is not worked out here")

    def test_a_sheet_may_be_called_as_a_column_or_a_row_is(self) -> None:
        for name in ("A", "B", "AB", "A1", "1", "2", "12", "TRUE", "Données", "o''x", "Q1 2025"):
            other = sheet([7, 8], [9, 10], name=name.replace("''", "'"))
            for formula, expected in (("A2", 9), ("B1*1", 8), ("$A$1+1", 8)):
                work = sheet([f"='{name}'!{formula}"])
                self.assertEqual(
                    work_out([work, other], [("S", 0, 0)]).values["S", 0, 0], expected, (name, formula)
                )
            total = work_out([sheet([f"=SUM('{name}'!A1:B2)"]), other], [("S", 0, 0)])
            self.assertEqual(total.values["S", 0, 0], 34, name)

    def test_there_is_no_row_nought(self) -> None:
        for formula in ("=A0", "=SUM(A0:A2)", "=SUM(A1:A0)", "=S!$A$0"):
            self.assertIn("is not known here", str(value(formula, [1], [2])), formula)

    def test_a_long_chain_of_cells_is_no_matter(self) -> None:
        made = sheet([1], *([f"=A{n}+1"] for n in range(1, 5_000)))
        self.assertEqual(work_out([made], [("S", 4_999, 0)]).values["S", 4_999, 0], 5_000)

    @settings(max_examples=40, deadline=None)
    @given(st.text("=+-*/^%(),;<>&\"'!$:AB12. SUMIFROUND", max_size=24))
    def test_nothing_that_is_typed_raises(self, text: str) -> None:
        value("=" + text, [1, 2], [3, "x"])

    @settings(max_examples=40, deadline=None)
    @given(st.lists(AMOUNTS, min_size=1, max_size=12))
    def test_sums_are_exact(self, amounts: list[Decimal]) -> None:
        made = sheet([f"=SUM(A2:A{len(amounts) + 1})"], *([each] for each in amounts))
        self.assertEqual(work_out([made], [("S", 0, 0)]).values["S", 0, 0], sum(amounts))
