"""Documents proofread on the command line."""

from __future__ import annotations

import json

from humble_sum.exchange.documents.proofread_json import as_json
from humble_sum.exchange.documents.record_csv import read_record
from tests.cli.test_cli import CliTest
from tests.exchange.test_documents import FILES, RIGHT, WRONG, proofread
from tests.exchange.test_follow import moved_pack


class ProofreadTest(CliTest):
    def test_the_command_says_what_disagrees_and_writes_a_copy(self) -> None:
        file, out = self.folder / "a.docx", self.folder / "out.docx"
        file.write_bytes(FILES["a.docx"])
        told = json.loads(self.run_it("proofread", file, "--pack", self.pack, "--json", "--out", out, code=1))
        self.assertEqual(told, as_json(proofread("a.docx", FILES["a.docx"])))
        wrong = next(each for each in told["numbers"] if each["text"] == WRONG)
        judged = (wrong["judgement"], wrong["figure"], wrong["should_print"])
        self.assertEqual(judged, ("disagrees", "income/rev/y26", RIGHT))
        self.assertEqual(wrong["place"]["paragraph"], 1)
        self.assertIn("none of ours", self.run_it("proofread", out, "--pack", self.pack))
        self.assertIn("Name one of them", self.run_it("proofread", out, code=2))

    def test_the_edition_that_fits_is_found_or_said(self) -> None:
        file = self.folder / "board.md"
        rows = "| Fuel and lubricants | (8.9) | (9.5) |\n| Crew and shore wages | (10.3) | (9.8) |\n"
        file.write_text(f"| ₹ crores | 2025–26 | 2024–25 |\n|---|---|---|\n{rows}", encoding="utf-8")
        told = json.loads(self.run_it("proofread", file, "--pack", self.pack, "--json"))
        self.assertEqual(told["edition"], "own")
        self.assertEqual(told["counts"]["disagrees"], 0)
        said = self.run_it("proofread", file, "--pack", self.pack, "--edition", "Board")
        self.assertIn("read against Board", said)

    def test_numbers_follow_and_versions_are_compared(self) -> None:
        file, out = self.folder / "a.docx", self.folder / "b.docx"
        file.write_bytes(FILES["a.docx"])
        said = self.run_it("write", file, "--pack", self.pack, "--out", out)
        self.assertRegex(said, r"\d+ numbers follow their figures now")
        self.pack.write_bytes(moved_pack())
        said = self.run_it("write", out, "--pack", self.pack, "--refresh", "--out", file)
        self.assertIn("₹31.37 crore is ₹31.87 crore now (income/rev/y25)", said)
        told = self.run_it("proofread", file, "--pack", self.pack, "--before", out, "--json", code=1)
        since = [(each["was"], each["now"]) for each in json.loads(told)["since"]]
        self.assertEqual(since, [("₹31.37 crore", "₹31.87 crore")])
        record = self.folder / "record.csv"
        self.run_it("proofread", file, "--pack", self.pack, "--record", record, code=1)
        self.assertEqual(len(read_record(record.read_bytes())), len(json.loads(told)["numbers"]))
