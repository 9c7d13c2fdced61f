"""Sources taken in: text, workbooks, records and pasted tables, good and bad."""

import io
import json
import unittest
import zipfile
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any
from unittest.mock import patch

from openpyxl import Workbook

from humble_sum.core.errors import InputError
from humble_sum.core.intake.decisions import ColumnDecided, TableDecided
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.table import Table, column_letters
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.core.statements.validation import check
from humble_sum.exchange.sources import text as text_source
from humble_sum.exchange.sources.cells import day_of
from humble_sum.exchange.sources.opening import open_source
from humble_sum.exchange.sources.pasted import read_pasted
from humble_sum.records.demo import demo_pack

LINES: list[list[Any]] = [
    ["", "2025-26", "2024-25", "Change"],
    ["Income", None, None, None],
    ["Fares", 184374651.4, 171206448.75, "=B3-C3"],
    ["Freight", 41146150.9, 38552449.6, "=B4-C4"],
    ["All income", "=SUM(B3:B4)", "=SUM(C3:C4)", "=B5-C5"],
    ["Fuel", 88646650.15, 94850450.8, "=B6-C6"],
    ["Surplus", "=B5-B6", "=C5-C6", "=B7-C7"],
]


def book(rows: list[list[Any]], title: str = "Income", shown_by: str = "") -> bytes:
    """A workbook of one sheet; `shown_by` is the number code of every cell but headings and labels."""
    made = Workbook()
    sheet = made.active
    assert sheet is not None
    sheet.title = title
    for row in rows:
        sheet.append(row)
    for cells in sheet.iter_rows(min_row=2, min_col=2) if shown_by else ():
        for cell in cells:
            cell.number_format = shown_by
    out = io.BytesIO()
    made.save(out)
    return out.getvalue()


def with_cell(data: bytes, old: str, new: str) -> bytes:
    """The workbook with one stored value written another way."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old_archive, zipfile.ZipFile(out, "w") as archive:
        for part in old_archive.namelist():
            content = old_archive.read(part)
            archive.writestr(part, content.replace(f"<v>{old}</v>".encode(), f"<v>{new}</v>".encode()))
    return out.getvalue()


def valued() -> list[list[Any]]:
    """The same lines as values alone, worked out exactly."""
    amounts = {
        2: ["184374651.40", "171206448.75"],
        3: ["41146150.90", "38552449.60"],
        5: ["88646650.15", "94850450.80"],
    }
    exact = {row: [Decimal(a) for a in pair] for row, pair in amounts.items()}
    exact[4] = [a + b for a, b in zip(exact[2], exact[3], strict=True)]
    exact[6] = [a - b for a, b in zip(exact[4], exact[5], strict=True)]
    rows = [list(row) for row in LINES]
    for row, (now, then) in exact.items():
        rows[row][1:] = [float(now), float(then), float(now - then)]
    return rows


def structure(made: Draft) -> list[tuple[str, list[tuple[str, int]]]]:
    return [(line.label, [(made.lines[p].label, s) for p, s in line.parts]) for line in made.lines]


def one(name: str, data: bytes) -> Table:
    (table,) = open_source(name, data)
    return table


class WorkbookTest(unittest.TestCase):
    def test_formulas_and_values_give_the_same_structure(self) -> None:
        by_formula, by_value = draft(one("f.xlsx", book(LINES))), draft(one("v.xlsx", book(valued())))
        self.assertEqual(structure(by_formula), structure(by_value))
        self.assertEqual(dict(structure(by_formula))["Surplus"], [("All income", 1), ("Fuel", -1)])
        self.assertEqual([c.difference for c in by_formula.columns], [c.difference for c in by_value.columns])
        self.assertEqual(by_formula.columns[2].difference, ("2025-26", "2024-25"))
        self.assertEqual({line.how for line in by_formula.lines if line.parts}, {"formula"})
        self.assertEqual({line.how for line in by_value.lines if line.parts}, {"found"})

    def test_the_statement_adds_as_the_workbook_does(self) -> None:
        for rows in (LINES, valued()):
            of = statement_of(draft(one("b.xlsx", book(rows))), "income", "Income")
            check(Pack(entity="E", period="P", statements=(of,)))
            self.assertEqual(exact_amounts(of)["Surplus", "2025-26"], Decimal("136874152.15"))
            self.assertEqual(exact_amounts(of)["Surplus", "Change"], Decimal("21965704.60"))

    def test_binary_tails_are_snapped_and_named(self) -> None:
        data = with_cell(book([["", "A", "B"], ["x", 0.3, 1], ["y", 1.5, 2]]), "0.3", "0.30000000000000004")
        made = draft(one("b.xlsx", data))
        self.assertEqual(made.lines[0].amounts[0], Decimal("0.3"))
        (doubt,) = made.doubts
        self.assertEqual((doubt.place, doubt.text), ("b.xlsx, Income, B2", "0.3"))

    def test_dates_errors_and_text_among_figures_need_a_look(self) -> None:
        rows: list[list[Any]] = [["", "A"], ["x", 5], ["y", date(2026, 3, 31)], ["z", "#REF!"], ["w", 7]]
        rows += [["v", 8], ["u", "see note"], ["t", 9]]
        made = draft(one("b.xlsx", book(rows)))
        why = {doubt.place[-2:]: doubt.why for doubt in made.doubts}
        self.assertIn("date", why["B3"])
        self.assertIn("error of the workbook", why["B4"])
        self.assertIn("text where a figure is expected", why["B7"])
        self.assertEqual([line.amounts[0] for line in made.lines][1:3], [None, None])

    def test_stored_days_are_counted_from_either_first_day(self) -> None:
        for stored, since_1904, day in (
            ("46112", False, date(2026, 3, 31)),
            ("44650", True, date(2026, 3, 31)),
            ("1", False, date(1900, 1, 1)),
            ("59", False, date(1900, 2, 28)),
            ("61", False, date(1900, 3, 1)),  # 60 is a leap day that there never was
            ("4.6112E4", False, date(2026, 3, 31)),
            ("46112.75", False, datetime(2026, 3, 31, 18)),
            ("0.5", False, time(12)),
            ("99999999999", False, "99999999999"),
        ):
            with self.subTest(stored=stored, since_1904=since_1904):
                self.assertEqual(day_of(stored, since_1904), day)

    def test_every_sheet_that_holds_something_is_a_table(self) -> None:
        made = Workbook()
        made.create_sheet("Empty")
        made.create_sheet("Two").append(["x", 1])
        out = io.BytesIO()
        made.save(out)
        self.assertEqual([table.name for table in open_source("b.xlsx", out.getvalue())], ["Two"])

    def test_what_is_not_a_sound_workbook_is_refused(self) -> None:
        good = book(LINES)
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("xl/worksheets/sheet1.xml", b"0" * 50_000_000)
        other = io.BytesIO()
        with zipfile.ZipFile(other, "w") as archive:
            archive.writestr("hello.txt", "hello")
        for data, kind in (
            (b"\xd0\xcf\x11\xe0" + b"\x00" * 600, "closed-workbook"),
            (good[: len(good) // 2], "broken-workbook"),
            (other.getvalue(), "broken-workbook"),
            # An archive of a version that there is not, as one changed byte makes it.
            (good.replace(b"PK\x01\x02\x14\x03\x14", b"PK\x01\x02\x14\x03\xbb", 1), "broken-workbook"),
            (bomb.getvalue(), "too-large"),
            (b"", "no-table"),
        ):
            with self.subTest(kind=kind), self.assertRaises(InputError) as caught:
                open_source("b.xlsx", data)
            self.assertEqual(caught.exception.kind, kind)
            self.assertTrue(caught.exception.faults[0].where.startswith("b.xlsx"))

    def test_macros_and_links_are_left_alone_and_said(self) -> None:
        out = io.BytesIO(book(LINES))
        with zipfile.ZipFile(out, "a") as archive:
            archive.writestr("xl/vbaProject.bin", b"x")
            archive.writestr("xl/externalLinks/externalLink1.xml", b"<x/>")
        said = " ".join(note.what for note in one("b.xlsm", out.getvalue()).notes)
        self.assertIn("macros were not run", said)
        self.assertIn("not followed", said)

    def test_formulas_in_a_circle_are_named_and_the_rest_is_offered(self) -> None:
        rows: list[list[Any]] = [["", "A"], ["x", "=B3"], ["y", "=B2"], ["z", 5], ["w", 6], ["t", "=B4+B5"]]
        made = draft(one("b.xlsx", book(rows)))
        self.assertEqual(
            [doubt.place for doubt in made.doubts if "circle" in doubt.why],
            ["b.xlsx, Income, B2", "b.xlsx, Income, B3"],
        )
        self.assertEqual(made.lines[4].parts, ((2, 1), (3, 1)))
        check(Pack(entity="E", period="P", statements=(statement_of(made, "s", "S"),)))

    def test_a_code_that_is_there_twice_is_named(self) -> None:
        made = draft(one("c.csv", b"Code,Line,Now\n4100,Tea,1.5\n4100,Scones,2.5\n"))
        self.assertEqual([line.id for line in made.lines], ["4100", "4100-2"])
        (doubt,) = made.doubts
        self.assertIn("c.csv, A3", doubt.place)
        self.assertIn("kept as 4100-2", doubt.why)


class TextTest(unittest.TestCase):
    def test_encoding_and_delimiter_are_found(self) -> None:
        rows = [["Posten", "2026", "2025"], ["Erlöse", "1.234,50", "987,00"], ["Aufwand", "(34,50)", "12,00"]]
        for delimiter in ",;\t|":
            text = "\r\n".join(delimiter.join(f'"{cell}"' for cell in row) for row in rows)
            for encoding in ("utf-8", "utf-8-sig", "utf-16", "cp1252"):
                with self.subTest(delimiter=delimiter, encoding=encoding):
                    made = draft(one("x.csv", text.encode(encoding)))
                    self.assertEqual([line.label for line in made.lines], ["Erlöse", "Aufwand"])
                    self.assertEqual(made.lines[0].amounts, (Decimal("1234.50"), Decimal("987.00")))
                    self.assertEqual(made.lines[1].amounts[0], Decimal("-34.50"))

    def test_quoted_newlines_and_ragged_rows(self) -> None:
        table = one("x.csv", b'Line,A,B\n"Two\nlines",1,2\nShort,3\n')
        self.assertEqual(table.rows[1][0].text, "Two\nlines")
        self.assertEqual(table.rows[2][2].value, None)
        self.assertIn("Row 3 is not as long as the headings", table.notes[0].what)

    def test_a_convention_is_overruled_for_a_whole_column(self) -> None:
        data = b"Line;A\nx;1,234\ny;5,678\n"
        made = draft(one("x.csv", data))
        self.assertEqual(made.lines[0].amounts[0], Decimal(1234))
        self.assertIn("could be read two ways", made.doubts[0].why)
        again = draft(one("x.csv", data), TableDecided(columns={"B": ColumnDecided(convention="comma")}))
        self.assertEqual([line.amounts[0] for line in again.lines], [Decimal("1.234"), Decimal("5.678")])
        self.assertEqual(again.doubts, ())

    def test_codes_become_ids_and_stay_text(self) -> None:
        made = draft(one("x.csv", b"Code,Line,A\n0010,Fares,5\n0020,Fuel,6\n0010,Again,7\n"))
        self.assertEqual([line.id for line in made.lines], ["0010", "0020", "0010-2"])
        self.assertEqual([column.role for column in made.layout.columns], ["code", "label", "figures"])

    def test_blank_is_missing_and_a_dash_is_zero(self) -> None:
        made = draft(one("x.csv", "Line,A\nx,5\ny,\nz,–\n".encode()))
        self.assertEqual(
            [line.amounts[0] for line in made.lines if not line.heading], [Decimal(5), Decimal(0)]
        )
        self.assertTrue(made.lines[1].heading)  # a label alone says nothing of a figure

    def test_what_is_not_text_or_too_long_is_refused(self) -> None:
        for data, kind in ((b"\x00\x01\x02", "unknown-encoding"), (b"\xff\xfea", "unknown-encoding")):
            with self.subTest(kind=kind), self.assertRaises(InputError) as caught:
                open_source("x.csv", data)
            self.assertEqual(caught.exception.kind, kind)
        with patch.object(text_source, "MOST_CELLS", 1_000), self.assertRaises(InputError) as caught:
            open_source("x.csv", b"a,1\n" * 501)
        self.assertEqual(caught.exception.kind, "too-long")


class OtherSourcesTest(unittest.TestCase):
    def test_text_that_begins_as_other_files_do_is_text(self) -> None:
        for first in ("PKR million", "PK", "PAR1", "PAR1 ferries", "ARROW1", "ARROW1 lane"):
            text = f"{first},2026,2025\nFares,1200,1100\nFreight,300,280\nTotal,1500,1380\n"
            for name in ("a.csv", "pasted"):
                with self.subTest(first=first, name=name):
                    (table,) = open_source(name, text.encode())
                    self.assertEqual(table.rows[1][0].value, "Fares")

    def test_json_records_keep_their_digits(self) -> None:
        records = '[{"line": "Fares", "2026": 12345678901234567890.10}, {"line": "Fuel", "2026": "(5)"}]'
        made = draft(one("x.json", records.encode()))
        self.assertEqual(
            [line.amounts[0] for line in made.lines], [Decimal("12345678901234567890.10"), Decimal(-5)]
        )
        for bad in ("{}", "[]", "[1]", '[{"a": [1]}]', '[{"a": NaN}]', "["):
            with self.subTest(bad=bad), self.assertRaises(InputError):
                open_source("x.json", bad.encode())

    def test_pasted_html_and_pasted_text(self) -> None:
        html = (
            "<p>x</p><table><tr><th>Line<th colspan=2>2026</tr>"
            "<tr><td>Fares &amp; more<td>1,234.5<td>2</td></tr></table><table><tr><td>no</table>"
        )
        table = read_pasted(html)
        self.assertEqual(
            [[c.text for c in row] for row in table.rows],
            [["x", "", ""], ["Line", "2026", ""], ["Fares & more", "1,234.5", "2"]],
        )
        self.assertEqual(read_pasted("Line\t2026\nFares\t1,234\n").rows[1][1].text, "1,234")
        with self.assertRaises(InputError):
            read_pasted("<table></table>")

    def test_the_demo_statement_is_found_again_from_its_values(self) -> None:
        of = demo_pack().statements[0]
        exact = exact_amounts(of)
        records: list[dict[str, str | None]] = []
        for line in of.lines:
            amounts = {c.label: None if line.kind == "heading" else exact[line.id, c.id] for c in of.columns}
            texts = {k: None if a is None else str(a) for k, a in amounts.items()}
            records.append({"line": line.label, **texts})
        made = draft(one("income.json", json.dumps(records).encode()))
        labels = {line.id: line.label for line in of.lines}
        expected = {line.label: {(labels[p], s) for p, s in line.parts} for line in of.lines if line.parts}
        self.assertEqual({label: set(parts) for label, parts in structure(made) if parts}, expected)
        self.assertEqual(made.columns[2].difference, ("2025-26", "2024-25"))

    def test_columns_are_lettered_as_people_do(self) -> None:
        self.assertEqual([column_letters(n) for n in (0, 25, 26, 701, 702)], ["A", "Z", "AA", "ZZ", "AAA"])
