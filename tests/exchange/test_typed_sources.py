"""OpenDocument, Parquet, Arrow and SQLite as sources: exactly what is stored, and nothing runs or grows."""

import io
import sqlite3
import tempfile
import unittest
import zipfile
from contextlib import suppress
from datetime import date
from decimal import Decimal
from pathlib import Path
from typing import Any
from unittest.mock import patch

import pyarrow
import pyarrow.parquet

from humble_sum.core.errors import InputError
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.core.intake.table import Table
from humble_sum.exchange.sources import sqlite_file
from humble_sum.exchange.sources.opening import open_source

SPACES = " ".join(
    f'xmlns:{short}="urn:oasis:names:tc:opendocument:xmlns:{short}:1.0"'
    for short in ("office", "table", "text")
)
KIND = "application/vnd.oasis.opendocument.spreadsheet"


def spreadsheet(*sheets: tuple[str, str], kind: str = KIND) -> bytes:
    """An OpenDocument spreadsheet of sheets by name, each its rows as XML."""
    tables = "".join(f'<table:table table:name="{name}">{rows}</table:table>' for name, rows in sheets)
    content = (
        f"<office:document-content {SPACES}><office:body><office:spreadsheet>{tables}"
        "</office:spreadsheet></office:body></office:document-content>"
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        made.writestr("mimetype", kind)
        made.writestr("content.xml", content, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def row(*cells: str, more: str = "") -> str:
    return f"<table:table-row {more}>{''.join(cells)}</table:table-row>"


def text(said: str) -> str:
    return f'<table:table-cell office:value-type="string"><text:p>{said}</text:p></table:table-cell>'


def number(value: str, kind: str = "float", more: str = "", shown: str = "") -> str:
    return (
        f'<table:table-cell office:value-type="{kind}" office:value="{value}" {more}>'
        f"<text:p>{shown or value}</text:p></table:table-cell>"
    )


def amounts(table: Table) -> dict[str, tuple[Decimal | None, ...]]:
    return {line.label: line.amounts for line in draft(table).lines}


def only(data: bytes, name: str = "made", query: str = "") -> Table:
    (table,) = open_source(name, data, query=query)
    return table


class OpenDocumentTest(unittest.TestCase):
    def test_values_formulas_percentages_and_dates(self) -> None:
        data = spreadsheet(
            (
                "Costs",
                row(text("Costs"), text("2026"), text("2025"))
                + row(text("Fuel"), number("886.25"), number("949.1"))
                + row(text("Wages"), number("1025.5"), number("978"))
                + row(
                    text("All costs"),
                    number("1911.75", more='table:formula="of:=SUM([.B2:.B3])"'),
                    number("1927.1", more='table:formula="of:=[.C2]+[.C3]"'),
                ),
            )
        )
        table = only(data)
        made = draft(table)
        self.assertEqual(amounts(table)["Fuel"], (Decimal("886.25"), Decimal("949.1")))
        total = made.lines[-1]
        self.assertEqual({part for part, _ in total.parts}, {0, 1})
        self.assertEqual(total.how, "formula")
        kept = pack_of([Kept(made, "Costs", False)], "E", "2026", "EUR")
        self.assertEqual(kept.statements[0].lines[-1].parts, (("Fuel", 1), ("Wages", 1)))

    def test_a_formula_whose_value_is_another_is_named(self) -> None:
        data = spreadsheet(
            (
                "S",
                row(text("A"), text("2026"))
                + row(text("a"), number("1"))
                + row(text("b"), number("2"))
                + row(text("t"), number("4", more='table:formula="of:=SUM([.B2:.B3])"')),
            )
        )
        self.assertTrue(any("formula" in note.what for note in only(data).notes))

    def test_repeated_rows_and_cells_cost_what_they_say(self) -> None:
        many = 'table:number-rows-repeated="1048570"'
        wide = '<table:table-cell table:number-columns-repeated="16380"/>'
        data = spreadsheet(
            (
                "S",
                row(text("Line"), text("2026"), wide)
                + row(number("7", more='table:number-columns-repeated="1"'), more="")
                + row(text("Fares"), number("5", more='table:number-columns-repeated="2"'))
                + row(wide, more=many),
            )
        )
        table = only(data)
        self.assertEqual(len(table.rows), 3)
        self.assertEqual([cell.value for cell in table.rows[2]], ["Fares", Decimal(5), Decimal(5)])
        bomb = spreadsheet(("S", row(text("a"), number("1"), more='table:number-rows-repeated="1000000000"')))
        with self.assertRaises(InputError) as refused:
            open_source("bomb.ods", bomb)
        self.assertEqual(refused.exception.kind, "too-long")

    def test_what_the_types_say_of_a_look_is_read(self) -> None:
        data = spreadsheet(
            (
                "S",
                row(text("Line"), text("2026"), text("2025"), text("Margin"))
                + row(
                    text("Fares"),
                    number("10.5", "currency", 'office:currency="KWD"', "10.500"),
                    number("9", "currency", 'office:currency="KWD"', "9.000"),
                    number("0.125", "percentage", shown="12.5%"),
                )
                + row(
                    text("Berths"),
                    number("2", "currency", 'office:currency="KWD"', "2.000"),
                    number("1", "currency", 'office:currency="KWD"', "1.000"),
                    number("0.5", "percentage", shown="50.0%"),
                ),
            )
        )
        made = draft(only(data))
        self.assertEqual(made.currency, "KWD")
        self.assertTrue(made.layout.figures[2].percent)
        self.assertEqual(made.lines[0].amounts[2], Decimal("0.125"))

    def test_hidden_and_merged_are_known(self) -> None:
        title = '<table:table-cell office:value-type="string" table:number-columns-spanned="3"><text:p>₹ in lakhs</text:p></table:table-cell><table:covered-table-cell table:number-columns-repeated="2"/>'
        data = spreadsheet(
            (
                "S",
                row(title)
                + row(text("Line"), text("2026"), text("2025"))
                + row(text("Fares"), number("5"), number("6"))
                + row(text("Tax"), number("1"), number("2"), more='table:visibility="collapse"'),
            )
        )
        table = only(data)
        self.assertEqual(table.hidden, frozenset({3}))
        self.assertEqual(table.merged, ((0, 0, 0, 2),))
        self.assertEqual(amounts(table)["Fares"], (Decimal(500_000), Decimal(600_000)))

    def test_broken_ones_are_refused_in_words(self) -> None:
        whole = spreadsheet(("S", row(text("a"), number("1"))))
        for at in range(60, len(whole), 7):
            spoiled = whole[:at] + bytes([whole[at] ^ 0x55]) + whole[at + 1 :]
            with self.subTest(at=at), suppress(InputError):
                open_source("x.ods", spoiled)
        for bad in (whole[:200], whole[:-40], spreadsheet(("S", "<table:table-row>"))):
            with self.assertRaises(InputError) as refused:
                open_source("x.ods", bad)
            self.assertTrue(refused.exception.faults[0].what)


LEDGER: dict[str, list[Any]] = {
    "line": ["Fares", "Wages", None],
    "2026": [Decimal("184374651.40"), Decimal("-102500000.05"), None],
    "2025": [Decimal("171206448.75"), Decimal("-97800000.00"), Decimal("0.01")],
}


class ColumnarTest(unittest.TestCase):
    def files(self) -> dict[str, bytes]:
        table = pyarrow.table(LEDGER)
        parquet, arrow, stream = io.BytesIO(), io.BytesIO(), io.BytesIO()
        pyarrow.parquet.write_table(table, parquet)
        with pyarrow.ipc.new_file(arrow, table.schema) as writer:
            writer.write_table(table)
        with pyarrow.ipc.new_stream(stream, table.schema) as writer:
            writer.write_table(table)
        return {"parquet": parquet.getvalue(), "arrow": arrow.getvalue(), "stream": stream.getvalue()}

    def test_decimals_are_exact(self) -> None:
        for kind, data in self.files().items():
            with self.subTest(kind):
                found = amounts(only(data))
                self.assertEqual(found["Fares"], (LEDGER["2026"][0], LEDGER["2025"][0]))
                self.assertEqual(found["Wages"], (LEDGER["2026"][1], LEDGER["2025"][1]))

    def test_binary_numbers_are_snapped_and_days_are_days(self) -> None:
        made = pyarrow.table(
            {
                "line": ["a", "b"],
                "day": [date(2026, 3, 31)] * 2,
                "2026": [0.1 + 0.2, float("nan")],
                "n": [1, 2**60],
            }
        )
        out = io.BytesIO()
        pyarrow.parquet.write_table(made, out)
        table = only(out.getvalue())
        self.assertEqual(table.rows[1][2].value, Decimal("0.3"))
        self.assertTrue(table.rows[1][2].snapped)
        self.assertEqual(table.rows[2][2].value, "nan")
        self.assertEqual(table.rows[2][3].value, Decimal(2**60))
        self.assertEqual(table.rows[1][1].value, date(2026, 3, 31))

    def test_broken_or_endless_ones_are_refused(self) -> None:
        for kind, data in self.files().items():
            for bad in (data[: len(data) // 2], data[:12]):
                with self.subTest(kind), self.assertRaises(InputError):
                    open_source("x", bad)
        out = io.BytesIO()
        pyarrow.parquet.write_table(pyarrow.table({"a": pyarrow.repeat(1, 7_000_000)}), out)
        self.assertLess(len(out.getvalue()), 100_000)
        with self.assertRaises(InputError) as refused:
            open_source("x.parquet", out.getvalue())
        self.assertEqual(refused.exception.kind, "too-long")


class SqliteTest(unittest.TestCase):
    def file(self, *statements: str, wal: bool = False) -> bytes:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "made.sqlite"
            connection = sqlite3.connect(path)
            if wal:
                connection.execute("PRAGMA journal_mode = WAL")
            for statement in statements:
                connection.execute(statement)
            connection.commit()
            connection.close()
            return path.read_bytes()

    def ledger(self, **more: Any) -> bytes:
        return self.file(
            "CREATE TABLE balances (line TEXT, year INT, amount TEXT)",
            "INSERT INTO balances VALUES ('Fares', 2026, '184374651.40'), ('Fares', 2025, '171206448.75'),"
            " ('Wages', 2026, '-102500000.05'), ('Wages', 2025, '-97800000.00')",
            'CREATE VIEW "wide ""one""" AS SELECT line, max(CASE year WHEN 2026 THEN amount END) AS "2026",'
            ' max(CASE year WHEN 2025 THEN amount END) AS "2025" FROM balances GROUP BY line',
            **more,
        )

    def test_a_query_is_a_table(self) -> None:
        asked = 'SELECT line, amount AS "2026" FROM balances WHERE year = 2026 ORDER BY line'
        for wal in (False, True):
            found = amounts(only(self.ledger(wal=wal), query=asked))
            self.assertEqual(
                found, {"Fares": (Decimal("184374651.40"),), "Wages": (Decimal("-102500000.05"),)}
            )

    def test_without_one_every_table_and_view_is_read(self) -> None:
        tables = {table.name: table for table in open_source("ledger.sqlite", self.ledger())}
        self.assertEqual(set(tables), {"balances", 'wide "one"'})
        self.assertEqual(
            amounts(tables['wide "one"'])["Fares"], (Decimal("184374651.40"), Decimal("171206448.75"))
        )

    def test_nothing_is_written_attached_or_run(self) -> None:
        data = self.ledger()
        for query in (
            "DELETE FROM balances RETURNING line, amount",
            "ATTACH '/tmp/other.sqlite' AS other",
            "PRAGMA writable_schema = ON",
            "SELECT 1; SELECT 2",
            "INSERT INTO balances VALUES (1, 2, 3)",
            "SELECT load_extension('x')",
            "SELECT ?",
            "SELECT * FROM nowhere",
            "-- nothing",
            "SELECT randomblob(900000000), 1",
        ):
            with self.subTest(query), self.assertRaises(InputError) as refused:
                open_source("ledger.sqlite", data, query=query)
            self.assertTrue(refused.exception.faults[0].what, query)

    def test_a_view_that_is_broken_leaves_the_others(self) -> None:
        data = self.file(
            "CREATE TABLE t (line TEXT, now INT)",
            "INSERT INTO t VALUES ('Fares', 5), (CAST(x'ff41' AS TEXT), 6)",
            "CREATE VIEW v AS SELECT * FROM gone",
        )
        table = only(data)
        self.assertEqual(amounts(table), {"Fares": (Decimal(5),), "\ufffdA": (Decimal(6),)})
        self.assertTrue(any("no such table" in note.what for note in table.notes))

    def test_an_endless_query_ends(self) -> None:
        endless = "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT {} FROM n"
        # Rows and letters end it, however slow the machine.
        bounds: dict[str, Any] = {"MOST_CELLS": 40_000, "SECONDS": 600.0}
        for of in ("i, i", "printf('%.*c', 100000, 'x') AS a, i"):
            with patch.multiple(sqlite_file, **bounds), self.assertRaises(InputError) as refused:
                open_source("ledger.sqlite", self.ledger(), query=endless.format(of))
            self.assertEqual(refused.exception.kind, "too-long")

    def test_a_query_of_another_file_or_a_broken_one_is_refused(self) -> None:
        with self.assertRaises(InputError):
            open_source("x.csv", b"a,b\n1,2\n", query="SELECT 1")
        for bad in (self.ledger()[:600], self.ledger()[:100] + b"\0" * 4000):
            with self.assertRaises(InputError):
                open_source("x.sqlite", bad)
