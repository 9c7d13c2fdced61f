"""Beyond loopback only who has a token gets in, and one of two sorts reads alone."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from fastapi.testclient import TestClient

from humble_sum.server.app import create_app
from humble_sum.server.authentication import Person, new_tokens
from tests.server.template import demo_database


class GateTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = demo_database(Path(folder.name) / "records.sqlite")
        self.addCleanup(database.close)
        tokens, (self.edit, self.read) = new_tokens()
        self.app = create_app(database, ("ledger.example",), tokens)

    def client(self) -> TestClient:
        return TestClient(self.app, base_url="http://ledger.example", follow_redirects=False)

    def test_without_a_token_nothing_is_told(self) -> None:
        for path in ("/", "/api/packs", "/api/openapi.json", "/assets/fonts.css", "/read/x/own", "/none"):
            for headers in ({}, {"Authorization": "Bearer x"}, {"Cookie": "humble-sum-token=\udc80"}):
                answer = self.client().get(
                    path, headers={k: v.encode("utf-8", "ignore") for k, v in headers.items()}
                )
                self.assertEqual(answer.status_code, 401, path)
                self.assertNotIn("Lanternfish", answer.text)
        self.assertEqual(self.client().get("/", params={"token": "x"}).status_code, 401)

    def test_a_link_sets_a_cookie_and_leaves_the_address(self) -> None:
        client = self.client()
        answer = client.get("/api/packs", params={"token": self.edit, "a": "b"})
        self.assertEqual((answer.status_code, answer.headers["location"]), (303, "/api/packs?a=b"))
        cookie = answer.headers["set-cookie"].lower()
        self.assertTrue("httponly" in cookie and "samesite=strict" in cookie)
        self.assertEqual(client.get("/api/packs").status_code, 200)

    def test_who_reads_changes_nothing(self) -> None:
        reader, editor = ({"Authorization": f"Bearer {token}"} for token in (self.read, self.edit))
        pack = self.client().get("/api/packs", headers=reader).json()[0]["id"]
        body = {"revision": 1, "change": {"kind": "foot", "statement": "income"}}
        url = f"/api/packs/{pack}/changes"
        refused = self.client().post(url, json=body, headers=reader)
        self.assertEqual((refused.status_code, refused.json()["title"]), (403, "This token only reads"))
        self.assertEqual(self.client().get(f"/api/packs/{pack}", headers=reader).json()["revision"], 1)
        self.assertEqual(self.client().post(url, json=body, headers=editor).status_code, 200)

    def test_history_has_the_name_of_the_token_and_no_other(self) -> None:
        tokens, texts = new_tokens((Person("Asha", "edit"), Person("Ravi", "read")))
        app = create_app(self.app.state.desk.database, ("ledger.example",), tokens)
        client = TestClient(app, base_url="http://ledger.example")
        asha = {"Authorization": f"Bearer {texts[0]}", "Humble-Author": "Ravi"}
        pack = client.get("/api/packs", headers=asha).json()[0]["id"]
        body = {"revision": 1, "change": {"kind": "foot", "statement": "income"}}
        self.assertEqual(client.post(f"/api/packs/{pack}/changes", json=body, headers=asha).status_code, 200)
        ravi = {"Authorization": f"Bearer {texts[1]}"}
        self.assertEqual(client.get(f"/api/packs/{pack}/history", headers=ravi).json()[0]["author"], "Asha")
        self.assertEqual(client.post(f"/api/packs/{pack}/changes", json=body, headers=ravi).status_code, 403)

    def test_other_hosts_and_other_sites_are_refused_as_before(self) -> None:
        headers = {"Authorization": f"Bearer {self.edit}"}
        other = TestClient(self.app, base_url="http://other.example")
        self.assertEqual(other.get("/api/packs", headers=headers).status_code, 400)
        planted = self.client().post(
            "/api/packs", content=b"{}", headers=headers | {"Origin": "http://other.example"}
        )
        self.assertEqual(planted.status_code, 403)
