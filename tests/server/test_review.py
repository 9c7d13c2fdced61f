"""Who reviews puts points and signs, and changes nothing else; what went out leaves a trace when its pack goes."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from humble_sum.server.app import create_app
from humble_sum.server.authentication import Person, new_tokens
from tests.server.template import demo_database

POINT = {
    "kind": "put_point",
    "on": {"statement": "income", "line": "fuel", "column": "y26"},
    "words": "In here?",
}
SIGN: dict[str, Any] = {"kind": "sign", "role": "reviewed", "statements": ["income"]}
DECIMALS: dict[str, Any] = {
    "kind": "set_clause",
    "statement": "income",
    "line": "net",
    "column": "y26",
    "clause": "decimals",
}
DECIMALS |= {"value": {"fixed": 2}}


class ReviewTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = demo_database(Path(folder.name) / "records.sqlite")
        self.addCleanup(database.close)
        tokens, texts = new_tokens((Person("Asha", "edit"), Person("Rita", "review"), Person("Bo", "read")))
        self.app = create_app(database, ("testserver",), tokens)
        self.asha, self.rita, self.bo = (self.signed_in(text) for text in texts)
        self.pack = f"/api/packs/{self.asha.get('/api/packs').json()[0]['id']}"

    def signed_in(self, token: str) -> TestClient:
        return TestClient(self.app, headers={"Authorization": f"Bearer {token}", "Humble-Author": "Mallory"})

    def change(self, who: TestClient, change: dict[str, Any]) -> Any:
        revision = who.get(self.pack).json()["revision"]
        return who.post(f"{self.pack}/changes", json={"revision": revision, "change": change})

    def undo(self, who: TestClient) -> int:
        revision = who.get(self.pack).json()["revision"]
        body = {"revision": revision, "statement": "income"}
        return int(who.post(f"{self.pack}/undo", json=body).status_code)

    def kind(self, answer: Any) -> str:
        return str(answer.json()["type"]).rpartition(":")[2]

    def test_a_reviewer_puts_points_and_signs_as_reviewed_under_the_name_of_the_token(self) -> None:
        self.assertEqual(self.change(self.rita, POINT).status_code, 200)
        self.assertEqual(self.change(self.rita, SIGN).status_code, 200)
        seen = self.asha.get(f"{self.pack}/review").json()
        self.assertEqual([(p["author"], p["waits"]) for p in seen["points"]], [("Rita", True)])
        page = next(each for each in seen["pages"] if each["statement"] == "income")
        self.assertEqual([(s["author"], s["standing"]) for s in page["reviewed"]], [("Rita", "stands")])
        self.assertIsNone(page["reviewed"][0]["take_back"])
        statement = self.asha.get(self.pack).json()["statements"][0]
        self.assertEqual((statement["points"], statement["signed"]), (1, ["reviewed"]))
        self.assertEqual(self.rita.get(f"{self.pack}/review").json()["waiting"], 0)
        answer = {"kind": "answer_point", "point": seen["points"][0]["id"], "words": "It is."}
        self.assertEqual(self.change(self.asha, answer).status_code, 200)
        self.assertEqual(self.rita.get(f"{self.pack}/review").json()["waiting"], 1)

    def test_a_reviewer_changes_nothing_else(self) -> None:
        refused = [DECIMALS, SIGN | {"role": "prepared"}, {"kind": "remove_point", "point": "point"}]
        refused.append({"kind": "unsign", "role": "prepared", "statement": "income", "author": "Rita"})
        for change in refused:
            with self.subTest(change):
                answer = self.change(self.rita, change)
                self.assertEqual((answer.status_code, self.kind(answer)), (403, "only-reviews"))
        for method, path in (("POST", f"{self.pack}/issues"), ("DELETE", self.pack), ("POST", "/api/packs")):
            self.assertEqual(self.rita.request(method, path, json={}).status_code, 403, path)
        self.assertEqual(self.change(self.bo, POINT).status_code, 403)
        self.assertEqual(self.asha.get(self.pack).json()["revision"], 1)

    def test_nobody_takes_back_the_signature_of_another(self) -> None:
        self.change(self.rita, SIGN)
        self.change(self.asha, SIGN)
        for who, whose in ((self.asha, "Rita"), (self.rita, "Asha")):
            unsign = {"kind": "unsign", "role": "reviewed", "statement": "income", "author": whose}
            answer = self.change(who, unsign)
            self.assertEqual((answer.status_code, self.kind(answer)), (403, "not-yours"))
        self.assertEqual(self.change(self.rita, unsign | {"author": "Rita"}).status_code, 200)
        answer = self.change(self.asha, SIGN | {"edition": "nowhere"})
        self.assertEqual((answer.status_code, self.kind(answer)), (404, "no-such-edition"))

    def test_an_answer_by_a_change_says_what_history_says(self) -> None:
        self.change(self.rita, POINT)
        self.change(self.asha, DECIMALS)
        point = self.asha.get(f"{self.pack}/review").json()["points"][0]["id"]
        answer = {"kind": "answer_point", "point": point, "change": 999, "did": "Nothing at all"}
        self.assertEqual(self.change(self.asha, answer).status_code, 404)
        self.assertEqual(self.change(self.asha, answer | {"change": 2}).status_code, 200)
        (said,) = self.asha.get(f"{self.pack}/review").json()["points"][0]["answers"]
        self.assertEqual(said["change"], 2)
        self.assertEqual(
            said["did"],
            next(e["summary"] for e in self.asha.get(f"{self.pack}/history").json() if e["number"] == 2),
        )

    def test_a_reviewer_undoes_nothing_but_the_own_last_act(self) -> None:
        self.change(self.rita, POINT)
        self.assertEqual(self.undo(self.rita), 200)
        self.change(self.asha, DECIMALS)
        self.assertEqual(self.undo(self.rita), 409)
        self.change(self.asha, POINT)
        self.assertEqual(self.undo(self.rita), 409)
        self.assertEqual(self.undo(self.asha), 200)

    def test_a_signature_is_lifted_by_what_prints_otherwise_and_says_what(self) -> None:
        self.change(self.rita, SIGN)
        self.change(self.asha, DECIMALS)
        page = self.asha.get(f"{self.pack}/review").json()["pages"][0]
        self.assertEqual(page["reviewed"][0]["standing"], "lifted")
        self.assertRegex(page["reviewed"][0]["says"], r"^\d+ figures? since \d{4}-")
        self.assertTrue(all(", was " in each for each in page["reviewed"][0]["changed"]))
        self.assertEqual(self.asha.get(self.pack).json()["statements"][0]["signed"], [])
        self.assertEqual(self.undo(self.asha), 200)
        page = self.asha.get(f"{self.pack}/review").json()["pages"][0]
        self.assertEqual(page["reviewed"][0]["standing"], "stands")

    def test_a_change_on_an_earlier_revision_is_kept_where_it_means_the_same(self) -> None:
        old = self.asha.get(self.pack).json()["revision"]
        self.change(self.rita, POINT)
        body = {"revision": old, "change": DECIMALS}
        self.assertEqual(self.asha.post(f"{self.pack}/changes", json=body).status_code, 200)
        second = self.asha.post(f"{self.pack}/changes", json={"revision": old, "change": POINT})
        self.assertEqual(second.status_code, 200)
        self.assertEqual(len(self.asha.get(f"{self.pack}/review").json()["points"]), 2)

    def test_one_whose_matter_others_changed_is_refused_with_theirs_and_its_own(self) -> None:
        old = self.asha.get(self.pack).json()["revision"]
        self.change(self.asha, DECIMALS | {"value": {"fixed": 1}})
        answer = self.asha.post(f"{self.pack}/changes", json={"revision": old, "change": DECIMALS})
        self.assertEqual((answer.status_code, self.kind(answer)), (409, "stale-revision"))
        self.assertIn("Asha has changed the pack since", answer.json()["detail"])
        (own,) = answer.json()["settle"]["changes"]
        self.assertEqual(own["value"], {"fixed": 2})
        never = self.asha.post(f"{self.pack}/changes", json={"revision": 99, "change": DECIMALS})
        self.assertEqual(never.status_code, 409)

    def test_who_else_is_at_the_pack_is_told_with_the_figure_in_hand(self) -> None:
        at = {"statement": "income", "line": "fuel", "column": "y26"}
        seen = self.rita.get(f"{self.pack}/now", params=at | {"window": "r"}).json()
        self.assertEqual((seen["here"], seen["last"]), ([], None))
        self.change(self.rita, POINT)
        seen = self.asha.get(f"{self.pack}/now", params={"window": "a"}).json()
        self.assertEqual(seen["here"], [at | {"name": "Rita"}])
        self.assertEqual((seen["revision"], seen["last"]["author"]), (2, "Rita"))

    def issue(self, **more: str) -> Any:
        seen = self.asha.get(f"{self.pack}/issue").json()
        body = {"revision": seen["revision"], "number": seen["number"], "prepared_by": "Mallory"}
        body |= {"recipients": "the auditors", "files": ["html"]}
        body["reasons"] = {check["id"]: "known" for check in seen["checks"] if check["open"]}
        return self.asha.post(f"{self.pack}/issues", json=body | more)

    def test_who_reviewed_an_issue_is_who_signed(self) -> None:
        self.assertEqual(self.kind(self.issue(reviewed_by="Rita")), "bad-issue")
        self.change(self.rita, SIGN)
        issued = self.issue().json()
        self.assertEqual((issued["prepared_by"], issued["reviewed_by"]), ("Asha", "Rita"))

    def test_an_issue_leaves_a_trace_when_its_pack_is_deleted(self) -> None:
        issued = self.issue().json()
        self.asha.put(f"{self.pack}/standing", json={"standing": "taken_out"})
        self.assertEqual(self.asha.delete(self.pack).status_code, 409)
        self.asha.post(f"{self.pack}/issues/1/withdraw", json={"why": "Tax was wrong."})
        self.assertEqual(self.asha.delete(self.pack).status_code, 200)
        (trace,) = self.bo.get("/api/issues/deleted").json()
        self.assertEqual((trace["digest"], trace["number"]), (issued["digest"], 1))
        self.assertEqual((trace["prepared_by"], trace["deleted_by"], trace["withdrawn_by"]), ("Asha",) * 3)
        self.assertEqual((trace["withdrawn"], trace["entity"]), ("Tax was wrong.", "Lanternfish Ferries"))
