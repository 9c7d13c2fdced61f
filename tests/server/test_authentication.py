"""Beyond loopback only who has a token gets in, and one of two sorts reads alone."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from fastapi.testclient import TestClient

from humble_sum.core.errors import InputError
from humble_sum.records.token_rows import add_token, revoke_token, standing_of, tokens_on_record
from humble_sum.server.app import create_app
from humble_sum.server.authentication import FREE_TRIES, LONGEST_WAIT, Person, new_tokens
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
            for headers in ({}, {"Authorization": "Bearer x"}, {"Cookie": "humble-sum-80=\udc80"}):
                answer = self.client().get(
                    path, headers={k: v.encode("utf-8", "ignore") for k, v in headers.items()}
                )
                self.assertEqual(answer.status_code, 401, path)
                self.assertNotIn("Lanternfish", answer.text)

    def test_an_address_with_a_token_in_it_opens_nothing_and_leads_nowhere(self) -> None:
        for path in ("/", "//elsewhere.example/", "/api/packs"):
            answer = self.client().get(path, params={"token": self.edit})
            self.assertEqual(answer.status_code, 401, path)
            self.assertNotIn("location", answer.headers)
            self.assertNotIn("set-cookie", answer.headers)

    def test_a_browser_gets_the_page_that_takes_a_link_and_signs_in_and_out(self) -> None:
        client = self.client()
        page = client.get("/figures", headers={"Accept": "text/html,*/*"})
        self.assertEqual(page.status_code, 401)
        self.assertIn("enter.js", page.text)
        self.assertEqual(client.get("/enter").headers["cache-control"], "no-store")
        for name in ("/enter.js", "/enter.css"):
            self.assertEqual(client.get(name).status_code, 200)
        self.assertEqual(client.get("/api/session").status_code, 401)
        wrong = client.post("/api/session", json={"token": "nobody's"})
        self.assertEqual(
            (wrong.status_code, wrong.headers["content-type"]), (401, "application/problem+json")
        )
        self.assertNotIn("set-cookie", wrong.headers)
        told = client.post("/api/session", json={"token": self.read})
        self.assertEqual(told.json(), {"name": "", "role": "read", "signed_in": True})
        cookie = told.headers["set-cookie"].lower()
        self.assertTrue(
            cookie.startswith("humble-sum-80=") and "httponly" in cookie and "samesite=strict" in cookie
        )
        self.assertEqual(client.get("/api/packs").status_code, 200)
        self.assertFalse(client.delete("/api/session").json()["signed_in"])
        self.assertEqual(client.get("/api/packs").status_code, 401)

    def test_another_site_signs_nobody_in(self) -> None:
        planted = self.client().post(
            "/api/session", json={"token": self.edit}, headers={"Origin": "http://other.example"}
        )
        self.assertEqual(planted.status_code, 403)
        self.assertNotIn("set-cookie", planted.headers)

    def test_tokens_on_record_open_until_they_are_revoked_or_over(self) -> None:
        database = self.app.state.desk.database
        with database.writing() as session:
            asha, over = add_token(session, "Asha  Rao", "edit", 1), add_token(session, "Ravi", "read", 1)
            rows = tokens_on_record(session)
            number = rows[0].id
            rows[1].expires = "2026-01-01T00:00:00Z"
            self.assertNotIn(asha, str([vars(row) for row in rows]), "only digests are kept")
        client = self.client()
        told = client.get("/api/session", headers={"Authorization": f"Bearer {asha}"})
        self.assertEqual(told.json(), {"name": "Asha Rao", "role": "edit", "signed_in": True})
        refused = client.get("/api/session", headers={"Authorization": f"Bearer {over}"})
        self.assertEqual(refused.status_code, 401)
        with database.writing() as session:
            revoke_token(session, number)
            self.assertEqual([standing_of(row) for row in tokens_on_record(session)], ["revoked", "over"])
            with self.assertRaises(InputError):
                revoke_token(session, 99)
            for name in ("", "  ", "x" * 81):
                with self.assertRaises(InputError):
                    add_token(session, name, "read", None)
        with patch.object(self.app.state.guard, "_known", {}):
            refused = client.get("/api/session", headers={"Authorization": f"Bearer {asha}"})
        self.assertEqual(refused.status_code, 401)

    def test_many_wrong_tokens_wait_and_right_ones_do_not(self) -> None:
        waited: list[float] = []

        async def pause(seconds: float) -> None:
            waited.append(seconds)

        client = self.client()
        with patch("humble_sum.server.authentication.asyncio.sleep", pause):
            for number in range(FREE_TRIES + 8):
                client.get("/api/packs", headers={"Authorization": f"Bearer wrong{number}"})
            self.assertEqual(len(waited), 8)
            self.assertEqual((sorted(waited), max(waited)), (waited, LONGEST_WAIT))
            client.get("/api/packs", headers={"Authorization": f"Bearer {self.edit}"})
            self.assertEqual(len(waited), 8)

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
        revision = client.get(f"/api/packs/{pack}", headers=asha).json()["revision"]
        step = {"revision": revision, "statement": "income"}
        said = asha | {"Humble-Author": "Ravi"}
        self.assertEqual(client.post(f"/api/packs/{pack}/undo", json=step, headers=said).status_code, 200)
        (kept,) = client.get(f"/api/packs/{pack}/history", headers=ravi).json()
        self.assertEqual((kept["author"], kept["state"]), ("Asha", "undone"))
        self.assertEqual([(s["what"], s["author"]) for s in kept["steps"]], [("undone", "Asha")])
        csv = client.get(f"/api/packs/{pack}/history.csv", headers=ravi).text
        self.assertRegex(csv, r"undone 2\d{3}-\S+ by Asha")
        self.assertEqual(client.post(f"/api/packs/{pack}/changes", json=body, headers=ravi).status_code, 403)

    def test_other_hosts_and_other_sites_are_refused_as_before(self) -> None:
        headers = {"Authorization": f"Bearer {self.edit}"}
        other = TestClient(self.app, base_url="http://other.example")
        self.assertEqual(other.get("/api/packs", headers=headers).status_code, 400)
        planted = self.client().post(
            "/api/packs", content=b"{}", headers=headers | {"Origin": "http://other.example"}
        )
        self.assertEqual(planted.status_code, 403)
