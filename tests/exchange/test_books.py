"""Workbooks as analysts keep them: several sheets, merged and dated headings, hidden rows, shares."""

import io
import unittest
from collections.abc import Callable
from datetime import date
from decimal import Decimal
from typing import Any

from openpyxl import Workbook
from openpyxl.styles import Alignment

from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.packing import Kept, name_of, pack_of
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.sources import sheets
from humble_sum.exchange.sources.opening import open_source
from humble_sum.exchange.sources.progress import Stopped
from tests.exchange.test_sources import with_cell

INCOME: list[list[Any]] = [
    [None, "Year", "Year", None],
    [None, date(2026, 3, 31), date(2025, 3, 31), "Share"],
    ["Fares", 1250.4, 1100.25, "=B3/B$5"],
    ["Freight", 310.15, 298.75, "=B4/B$5"],
    ["All income", "=B3+B4", "=C3+C4", "=B5/B$5"],
    ["Costs", -900.25, -800.1, "=B6/B$5"],
    ["Surplus", "=B5+B6", "=C5+C6", "=B7/B$5"],
    ["Passengers carried", 1234, 1200, None],
    ["Fare per passenger", 1.0133, 0.9169, None],
    ["Operating margin", 0.42, 0.43, None],
]
CASH: list[list[Any]] = [
    ["", "31 March 2026", "31 March 2025"],
    ["Surplus", "=Income!B7", "=Income!C7"],
    ["Fuel stocks", -10.5, 4.25],
    ["Closing cash", "=SUM(B2:B3)", "=SUM(C2:C3)"],
]


def made(change: Callable[[Workbook], object] = lambda book: None) -> bytes:
    """A workbook of two sheets, with formulas."""
    book = Workbook()
    income = book.active
    assert income is not None
    income.title = "Income"
    for row in INCOME:
        income.append(row)
    income.merge_cells("B1:C1")
    cash = book.create_sheet("Cash")
    for row in CASH:
        cash.append(row)
    change(book)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def values() -> bytes:
    """The same workbook as values only, shares rounded as somebody would paste them."""
    statements = {s.name: s for s in packed(made()).statements}

    def paste(book: Workbook) -> None:
        for sheet in book.worksheets:
            exact = prove_pack(packed(made())).proofs[statements[sheet.title].id].grid
            for row in sheet.iter_rows():
                for cell in row:
                    if isinstance(cell.value, str) and cell.value.startswith("="):
                        line = statements[sheet.title].figured[
                            cell.row - (3 if sheet.title == "Income" else 2)
                        ]
                        column = statements[sheet.title].columns[cell.column - 2]
                        amount = exact.amounts[exact.number[line.id, column.id]]
                        assert amount is not None
                        cell.value = float(round(amount, 4))
                        cell.number_format = "0.0%" if column.share else "General"

    return made(paste)


def drafts(data: bytes) -> list[Draft]:
    return [draft(table) for table in open_source("book.xlsx", data)]


def packed(data: bytes) -> Pack:
    return pack_of([Kept(each, name_of(each)) for each in drafts(data)], "Lanternfish", "2026")


class BookTest(unittest.TestCase):
    def test_formulas_and_values_give_the_same_structure_over_both_sheets(self) -> None:
        by_formula, by_value = packed(made()), packed(values())
        for one, other in zip(by_formula.statements, by_value.statements, strict=True):
            self.assertEqual(
                [(c.label, c.share) for c in one.columns], [(c.label, c.share) for c in other.columns]
            )
            self.assertEqual(
                [(line.label, line.kind, line.parts) for line in one.lines],
                [(line.label, line.kind, line.parts) for line in other.lines],
            )

    def test_headings_are_put_together_and_dates_said(self) -> None:
        columns = packed(made()).statements[0].columns
        self.assertEqual([c.label for c in columns], ["Year, 31 March 2026", "Year, 31 March 2025", "Share"])
        self.assertEqual(columns[2].share, (columns[0].id, "All-income"))

    def test_lines_that_stand_apart_are_told_from_those_that_add(self) -> None:
        kinds = {line.label: line.kind for line in packed(made()).statements[0].lines}
        self.assertEqual(
            [kinds[label] for label in ("Passengers carried", "Fare per passenger", "Operating margin")],
            ["count", "per_unit", "percent"],
        )
        made_pack = packed(made())
        figures = prove(made_pack, made_pack.statements[0]).figures
        self.assertEqual(
            figures["Operating-margin", made_pack.statements[0].columns[0].id].printed.text, "42.0%"
        )

    def test_a_cell_that_repeats_another_sheet_is_a_tie_and_takes_its_amount(self) -> None:
        pack = packed(made())
        self.assertEqual(
            [tie.figures[0][1:2] + tie.figures[1][1:2] for tie in pack.ties], [("Surplus", "Surplus")] * 2
        )
        pack_proof = prove_pack(pack)
        self.assertEqual([tie.status for tie in pack_proof.ties], ["foots", "foots"])
        self.assertEqual(
            pack_proof.proofs["cash"].figures["Closing-cash", "31-March-2026"].exact, Decimal("649.80")
        )

    def test_the_same_amount_under_one_name_is_a_tie(self) -> None:
        text = "Line,2026,2025\n{}\nSurplus,1250.40,900.10\n"
        tables = [
            *open_source("one.csv", text.format("Fares,1500.00,1000.00").encode()),
            *open_source("two.csv", text.format("Cash,12,13").encode()),
        ]
        kept = [Kept(draft(table), name_of(draft(table))) for table in tables]
        self.assertEqual(len(pack_of(kept, "E", "P").ties), 2)
        refused = pack_of(kept, "E", "P", without_ties=["Surplus-2026"])
        self.assertEqual([tie.id for tie in refused.ties], ["Surplus-2025"])

    def test_hidden_rows_columns_and_sheets_are_read_and_said(self) -> None:
        def hide(book: Workbook) -> None:
            book["Income"].row_dimensions[4].hidden = True
            book["Income"].column_dimensions["C"].hidden = True
            book["Cash"].sheet_state = "hidden"

        income, cash = drafts(made(hide))
        said = " ".join(f"{note.what}" for note in (*income.table.notes, *cash.table.notes))
        self.assertIn("Hidden rows were read all the same: 4.", said)
        self.assertIn("Hidden columns were read all the same: C.", said)
        self.assertIn("The workbook hides this sheet", said)
        self.assertEqual([line.hidden for line in income.lines[:3]], [False, True, False])

    def test_labels_that_stand_in_keep_their_steps(self) -> None:
        def stand_in(book: Workbook) -> None:
            book["Income"]["A3"].alignment = Alignment(indent=1)
            book["Income"]["A4"].alignment = Alignment(indent=2)

        income = statement_of(drafts(made(stand_in))[0], "income", "Income")
        self.assertEqual([line.indent for line in income.lines[:3]], [1, 2, 0])
        flush = statement_of(drafts(made())[0], "income", "Income")
        self.assertEqual([line.indent for line in flush.lines[:3]], [None, None, None])

    def test_totals_keep_what_the_source_states_for_them(self) -> None:
        wrong = with_cell(values(), "1560.55", "1560.65")
        pack = packed(wrong)
        pack_proof = prove_pack(pack)
        total = pack.statements[0].lines[2]
        self.assertEqual(total.parts, (("Fares", 1), ("Freight", 1)))  # as in the other year
        self.assertEqual(total.amounts["Year-31-March-2026"], Decimal("1560.65"))
        self.assertEqual(pack_proof.count("income", "break"), 2)  # the total, and the surplus of it

    def test_reading_can_be_followed_and_stopped(self) -> None:
        heard: list[tuple[int, int, str]] = []
        sheets.read_sheets("b.xlsx", made(), lambda *told: heard.append(told))
        self.assertEqual({what for _, _, what in heard}, {"Income", "Cash"})
        self.assertTrue(all(done <= pack_proof for done, pack_proof, _ in heard))

        def stop(done: int, pack_proof: int, what: str) -> None:
            raise Stopped

        with self.assertRaises(Stopped):
            sheets.read_sheets("b.xlsx", made(), stop)
