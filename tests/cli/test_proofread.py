"""Documents proofread on the command line."""

from __future__ import annotations

import json

from humble_sum.exchange.documents.proofread_json import as_json
from tests.cli.test_cli import CliTest
from tests.exchange.test_documents import FILES, RIGHT, WRONG, proofread


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
