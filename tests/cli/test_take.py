"""Taking figures in on the command line."""

import json
import sqlite3
from contextlib import closing
from pathlib import Path

from humble_sum.exchange.pack_json import read_pack
from tests.cli.test_cli import CliTest


class TakeTest(CliTest):
    def csv(self, name: str, *rows: str) -> Path:
        path = self.folder / name
        path.write_text("\n".join(rows), encoding="utf-8")
        return path

    def test_files_become_a_pack_that_can_be_checked_and_footed(self) -> None:
        first = self.csv(
            "income.csv", "Line;Now;Then", "Fares;₹10,4;₹20,4", "Freight;10,4;20,4", "All;20,8;40,8"
        )
        second = self.csv("costs.csv", "Line,Now,Then", "Fuel,1.25,2.5", "Crew,1.25,2.5", "Both,2.50,5.0")
        out = self.folder / "taken.json"
        told = self.run_it("take", first, second, "--as", out, "--entity", "Ferries", "--period", "2026")
        self.assertIn("column B written with a decimal comma: 3 cells have a decimal comma", told)
        self.assertIn("= Fares + Freight  [2 lines add to it exactly in 2 columns]", told)
        taken = read_pack(out.read_bytes())
        self.assertEqual((taken.entity, taken.currency), ("Ferries", "INR"))
        self.assertEqual([s.id for s in taken.statements], ["income", "costs"])
        self.assertIn(
            "All, Now: printed parts add to 20, the total prints 21.", self.run_it("check", out, code=1)
        )
        self.assertIn("income: foots.", self.run_it("foot", out))

    def test_one_query_of_an_sqlite_file_is_taken_in_and_the_file_stays_as_it_is(self) -> None:
        file = self.folder / "ledger.sqlite"
        with closing(sqlite3.connect(file)) as made, made:
            made.execute("CREATE TABLE b (line TEXT, now TEXT, hidden TEXT)")
            made.execute("INSERT INTO b VALUES ('Fares', '10.4', '1'), ('Freight', '-3.15', '2')")
        before = file.read_bytes()
        out = self.folder / "taken.json"
        query = 'SELECT line AS "Line", now AS "2026" FROM b'
        self.run_it("take", file, "--query", query, "--as", out)
        (statement,) = read_pack(out.read_bytes()).statements
        self.assertEqual([str(*line.amounts.values()) for line in statement.lines], ["10.4", "-3.15"])
        self.assertIn("not authorized", self.run_it("take", file, "--query", "DELETE FROM b", code=2))
        self.assertEqual(file.read_bytes(), before)
        self.assertIn("this is none", self.run_it("take", self.csv("x.csv", "a,b"), "--query", "x", code=2))

    def test_cells_that_need_a_look_exit_with_1(self) -> None:
        file = self.csv("x.csv", "Line;A", "x;1,234", "y;5,678")
        told = self.run_it("take", file, code=1)
        self.assertIn("ask: How are the numbers written?\n       at B2, B3", told)
        self.assertIn("1,234 is 1234 | 1,234 is 1.234", told)
        again = self.run_it("take", file, "--convention", "comma")
        self.assertIn("you chose a decimal comma", again)
        self.assertIn("1.234", again)

    def test_next_month_is_read_as_was_decided(self) -> None:
        head = ("Close,,", "Line;Note;March", "Fares;1;1,234", "Tips;2;tbc", "All;;1,234")
        first = self.csv("march.csv", *head)
        decided = self.folder / "decided.json"
        decided.write_text(
            json.dumps(
                {
                    "entity": "Kiosk",
                    "tables": [
                        {
                            "table": "1",
                            "decided": {
                                "name": "Income",
                                "columns": {"C": {"convention": "comma"}},
                                "rows": {"Tips": {"kind": "memo", "label": "Tips of guests"}},
                                "cells": {"C4": {"text": "tbc", "read": "0.5"}},
                            },
                        }
                    ],
                }
            )
        )
        again = self.folder / "again.json"
        out = self.folder / "taken.json"
        told = self.run_it("take", first, "--decisions", decided, "--decisions-out", again, "--as", out)
        self.assertNotIn("ask:", told)
        self.assertEqual(json.loads(again.read_text())["tables"], json.loads(decided.read_text())["tables"])
        taken = read_pack(out.read_bytes())
        self.assertEqual((taken.entity, taken.statements[0].name), ("Kiosk", "Income"))
        tips = taken.statements[0].lines[1]
        self.assertEqual((tips.label, tips.kind), ("Tips of guests", "memo"))
        self.assertEqual([str(amount) for amount in tips.amounts.values()], ["0.5"])
        april = self.csv(
            "april.csv", "Close,,", "Line;Note;April", "Fares;1;2,345", "Tips;2;0,25", "All;;2,345"
        )
        told = self.run_it("take", april, "--decisions", decided)
        self.assertIn("2.345", told)
        self.assertIn("cell C4 with “tbc””: was decided, and is not in this table", told)

    def test_a_file_of_decisions_that_is_none_is_refused(self) -> None:
        file = self.csv("x.csv", "Line,A", "x,1")
        for said, why in (
            ("{", "This is no JSON"),
            (
                '{"tables": [{"table": "1", "decided": {"columns": {"B": {"role": "sums"}}}}]}',
                "not a value of role",
            ),
            ('{"kind": "humble-sum/pack"}', "not a value of kind"),
        ):
            bad = self.csv("bad.json", said)
            self.assertIn(why, self.run_it("take", file, "--decisions", bad, code=2))

    def test_answers_for_programs_and_short_ones(self) -> None:
        file = self.csv("x.csv", "Line;A", "x;1,234", "y;tbc")
        told = json.loads(self.run_it("take", file, "--json", code=1))
        (table,) = told["tables"]
        self.assertEqual([each["places"] for each in table["questions"]], [["B2"], ["B3"]])
        self.assertEqual(table["questions"][1]["answers"][1]["decide"]["cells"]["B3"]["read"], "0")
        short = self.run_it("take", file, "--quiet", code=1)
        self.assertIn("B3 reads “tbc”", short)
        self.assertNotIn("1,234 \n", short)

    def test_refusals_write_nothing(self) -> None:
        out = self.folder / "taken.json"
        good = self.csv("x.csv", "Line,A", "x,1")
        self.run_it("take", self.folder / "none.csv", "--as", out, code=2)
        self.run_it("take", good, "--convention", "roman", "--as", out, code=2)
        self.run_it("take", good, "--currency", "XYZ", "--as", out, code=2)
        self.assertFalse(out.exists())

    def test_what_was_decided_is_written_again_with_what_was_left_out(self) -> None:
        first, second = self.csv("a.csv", "Line,A", "x,1"), self.csv("b.csv", "Line,B", "y,tbc", "z,2")
        decided = self.file(
            "decided.json",
            {
                "tables": [
                    {"table": "1", "decided": {"left_out": True}},
                    {"table": "2", "decided": {"cells": {"B2": {"text": "tbc", "read": "missing"}}}},
                ],
                "without_ties": ["x-A"],
            },
        )
        out, again = self.folder / "out.json", self.folder / "again.json"
        told = self.run_it(
            "take", first, second, "--decisions", decided, "--decisions-out", again, "--as", out
        )
        self.assertNotIn("a.csv", told)
        self.assertEqual([s.name for s in read_pack(out.read_bytes()).statements], ["b"])
        self.assertEqual(json.loads(again.read_text()), json.loads(decided.read_text()))

    def test_questions_count_when_figures_go_into_a_pack_too(self) -> None:
        new = self.csv("next.csv", "Line,2026-27", "Passenger fares,10", "Vehicle carriage,tbc")
        told = self.run_it("take", new, "--into", self.pack, code=1)
        self.assertIn("B3 reads “tbc”", told)
