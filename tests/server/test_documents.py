"""Documents over HTTP: kept with the pack, judged at each revision, and answered for good."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from humble_sum.server.app import create_app
from tests.exchange.test_documents import FILES, RIGHT, WRONG
from tests.server.template import BYTES, demo_database


class DocumentsTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = demo_database(Path(folder.name) / "records.sqlite")
        self.addCleanup(database.close)
        self.client = TestClient(create_app(database, ("testserver",)))
        self.pack = f"/api/packs/{self.client.get('/api/packs').json()[0]['id']}"

    def take(self, name: str, data: bytes) -> Any:
        return self.client.post(f"{self.pack}/documents", params={"name": name}, content=data, headers=BYTES)

    def number(self, view: Any, text: str) -> Any:
        return next(each for each in view["numbers"] if each["text"] == text)

    def change(self, change: Any) -> None:
        revision = self.client.get(self.pack).json()["revision"]
        answer = self.client.post(f"{self.pack}/changes", json={"revision": revision, "change": change})
        self.assertEqual(answer.status_code, 200, answer.text)

    def test_what_was_said_of_a_number_is_known_in_the_next_version_and_undone(self) -> None:
        view = self.take("report.docx", FILES["a.docx"]).json()
        wrong = self.number(view, WRONG)
        self.assertEqual((wrong["judgement"], wrong["should_print"]), ("disagrees", RIGHT))
        self.change(wrong["none_of_ours"])
        # The same sentence in another kind of file under another name.
        moved = self.take("draft 2.txt", b"New words.\n\n" + FILES["a.txt"]).json()
        self.assertEqual(self.number(moved, WRONG)["judgement"], "other")
        self.assertIsNotNone(self.number(moved, WRONG)["forget"])
        revision = self.client.get(self.pack).json()["revision"]
        self.client.post(f"{self.pack}/undo", json={"revision": revision, "statement": "income"})
        again = self.client.get(f"{self.pack}/documents/{view['id']}").json()
        self.assertEqual(self.number(again, WRONG)["judgement"], "disagrees")

    def test_the_demo_has_documents_with_faults_and_versions_are_compared(self) -> None:
        names = self.client.get(f"{self.pack}/documents/samples").json()
        views = {name: self.client.post(f"{self.pack}/documents/samples/{name}").json() for name in names}
        wrong = {
            name: [n["text"] for n in view["numbers"] if n["judgement"] == "disagrees"]
            for name, view in views.items()
        }
        report = ["₹31.73 crore", "₹4.14 crore", "₹1.44 crore", "887", "184"]
        of_deck, of_circular = ["₹4.23 crore", "₹3.62 crore"], ["₹27.39 crore"]
        expected = {
            "Annual report.docx": report,
            "Board deck.pptx": of_deck,
            "Circular 2025.pdf": of_circular,
        }
        self.assertEqual(wrong, expected)
        at = f"{self.pack}/documents/{views['Annual report.docx']['id']}"
        fixed = self.client.get(f"{at}/corrected", params={"follow": True}).content
        since = self.take("Annual report.docx", fixed).json()
        self.assertEqual(len(since["since"]), len(report))
        self.assertEqual(since["counts"]["disagrees"], 0)
        record = self.client.get(f"{self.pack}/documents/record").content.decode("utf-8-sig")
        self.assertIn("Board deck.pptx", record)
        checks = self.client.get(f"{self.pack}/issue").json()["checks"]
        (check,) = [each for each in checks if each["id"] == "documents"]
        self.assertEqual(len(check["open"]), 3 + 1)

    def test_files_keep_their_bare_names_in_any_script(self) -> None:
        view = self.take("..\\a/Отчёт\u202e 2026\n.txt", FILES["a.txt"]).json()
        self.assertEqual(view["name"], "Отчёт 2026.txt")
        answer = self.client.get(f"{self.pack}/documents/{view['id']}/corrected")
        named = answer.headers["Content-Disposition"]
        self.assertIn("filename*=UTF-8''%D0%9E%D1%82%D1%87%D1%91%D1%82%202026%20corrected.txt", named)

    def test_a_number_may_be_another_figure_or_stay_for_a_reason(self) -> None:
        view = self.take("report.txt", FILES["a.txt"]).json()
        wrong = self.number(view, WRONG)
        said = {"kind": "answer_number", "around": wrong["around"], "number": WRONG}
        self.change(said | {"answer": "figure", "figure": ["income", "net", "y26"]})
        seen = self.number(self.client.get(f"{self.pack}/documents/{view['id']}").json(), WRONG)
        self.assertEqual((seen["figure"], seen["should_print"]), (["income", "net", "y26"], "₹4.13 crore"))
        self.change(said | {"answer": "stays", "reason": "as the board was told"})
        seen = self.client.get(f"{self.pack}/documents/{view['id']}").json()
        self.assertIn("as the board was told", " ".join(self.number(seen, WRONG)["because"]))
        same = self.client.get(f"{self.pack}/documents/{view['id']}/corrected").content
        self.assertEqual(same, FILES["a.txt"])

    def test_a_document_follows_the_pack_and_gives_way_to_its_next_version(self) -> None:
        first = self.take("report.docx", FILES["a.docx"]).json()
        fixed = self.client.get(f"{self.pack}/documents/{first['id']}/corrected").content
        second = self.take("report.docx", fixed).json()
        self.assertEqual((second["id"], second["open"]), (first["id"], []))
        self.change(
            {
                "kind": "correct_amount",
                "statement": "income",
                "line": "fares",
                "column": "y26",
                "amount": "1",
                "reason": "x",
            }
        )
        (listed,) = self.client.get(f"{self.pack}/documents").json()
        self.assertGreater(listed["wrong"], 0)
        self.assertEqual(self.client.delete(f"{self.pack}/documents/{first['id']}").json(), [])
        self.assertEqual(self.client.get(f"{self.pack}/documents/{first['id']}").status_code, 404)

    def test_what_cannot_be_read_is_refused_and_not_kept(self) -> None:
        answer = self.take("report.pdf", b"nothing")
        self.assertEqual(
            (answer.status_code, answer.json()["type"].rpartition(":")[2]), (422, "bad-document")
        )
        self.assertEqual(self.client.get(f"{self.pack}/documents").json(), [])
