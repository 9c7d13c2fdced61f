"""Small files that ask for much: each is read for what is there, or refused with a sentence."""

from __future__ import annotations

import io
import json
import unittest
import zipfile

import openpyxl

from humble_sum.core.errors import InputError
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.table import Table
from humble_sum.exchange.sources.opening import open_source


def book(sheet: str) -> bytes:
    """A workbook whose one sheet has this XML in it."""
    plain = io.BytesIO()
    made = openpyxl.Workbook()
    made.save(plain)
    out = io.BytesIO()
    start = '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">'
    with zipfile.ZipFile(plain) as source, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as target:
        for name in source.namelist():
            data = source.read(name)
            if name.endswith("sheet1.xml"):
                data = f"{start}{sheet}</worksheet>".encode()
            target.writestr(name, data)
    return out.getvalue()


def text(at: str, said: str) -> str:
    return f'<c r="{at}" t="inlineStr"><is><t>{said}</t></is></c>'


HEAD = f'<row r="1">{text("A1", "Line")}{text("B1", "2026")}'
FARES = f'<row r="2">{text("A2", "Fares")}<c r="B2"><v>10</v></c></row>'
LAST = f'<row r="1048576">{text("A1048576", "End")}<c r="B1048576"><v>5</v></c></row>'


def read(name: str, data: bytes) -> tuple[Table, str]:
    (table,) = open_source(name, data)
    return table, " ".join(note.what for note in table.notes)


class LimitsTest(unittest.TestCase):
    def test_cells_at_the_ends_of_a_sheet_are_left_out_and_named(self) -> None:
        far = text("XFD1", "far")
        for sheet, named in (
            (f"{HEAD}{far}</row>{FARES}", "XFD1"),
            (f"{HEAD}</row>{FARES}{LAST}", "A1048576"),
            (f"{HEAD}{far}</row>{FARES}{LAST}", "A1048576, XFD1"),
        ):
            table, notes = read("x.xlsx", book(f"<sheetData>{sheet}</sheetData>"))
            self.assertEqual((len(table.rows), table.width), (2, 2))
            self.assertIn(f"Cells far from all others were left out: {named}.", notes)

    def test_columns_and_merged_ranges_beyond_the_table_do_no_harm(self) -> None:
        cols = '<cols><col min="-5" max="3" hidden="1"/></cols>'
        merged = '<mergeCells count="1"><mergeCell ref="A1:XFD1048576"/></mergeCells>'
        table, notes = read("x.xlsx", book(f"{cols}<sheetData>{HEAD}</row>{FARES}</sheetData>{merged}"))
        made = statement_of(draft(table), "s", "S")
        self.assertEqual([column.label for column in made.columns], ["2026"])
        self.assertIn("Hidden columns were read all the same: A, B.", notes)

    def test_records_with_names_of_their_own_are_refused(self) -> None:
        records = [{f"k{n}-{m}": n for m in range(5)} for n in range(4_000)]
        with self.assertRaises(InputError) as caught:
            open_source("x.json", json.dumps(records).encode())
        self.assertIn("20000 names", caught.exception.faults[0].what)

    def test_control_characters_are_taken_out_and_named(self) -> None:
        table, notes = read("x.csv", b"Line,2026\nFa\x01res\x07,10\n")
        self.assertEqual(table.rows[1][0].text, "Fares")
        self.assertIn("taken out of A2", notes)

    def test_utf_32_is_read_by_its_mark(self) -> None:
        table, _ = read("x.csv", "Line,2026\nFares,10\nMail,5\n".encode("utf-32"))
        self.assertEqual(table.rows[1][0].text, "Fares")

    def test_a_label_without_an_end_is_cut_and_named(self) -> None:
        table, _ = read("x.csv", b"Line,2026\n" + b"x" * 300_000 + b",10\n")
        made = draft(table)
        self.assertEqual(len(made.lines[0].label), 2_000)
        self.assertIn("cut there", made.doubts[0].why)

    def test_formulas_without_values_are_worked_out_and_the_others_named(self) -> None:
        made = openpyxl.Workbook()
        sheet = made.active
        assert sheet is not None
        for row in (["Line", 2026, 2025], ["Fares", 10, 4], ["Mail", "=B2/4", "=VLOOKUP(1,A1:B2,1)"]):
            sheet.append(row)
        out = io.BytesIO()
        made.save(out)
        table, notes = read("x.xlsx", out.getvalue())
        self.assertEqual(table.rows[2][1].text, "2.5")
        self.assertIn("1 formula had no saved value and was worked out.", notes)
        self.assertIn("C3 (VLOOKUP is not worked out here)", notes)
