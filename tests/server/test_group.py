"""A group: every pack in a line, kept up to date by what changed, and figures that are taken from others."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path
from typing import Any
from unittest import mock

from fastapi.testclient import TestClient

from humble_sum.core.issue.pack_standing import standing_of
from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo_group import PARENT, PERIOD, PLANTED, STATEMENT, ensure_group, group_packs
from humble_sum.server.app import create_app
from humble_sum.server.routes import group
from tests.server.template import demo_database

TOTAL = [STATEMENT, "total", "y26"]


class GroupTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = demo_database(Path(folder.name) / "records.sqlite")
        self.addCleanup(database.close)
        ensure_group(database)
        self.client = TestClient(create_app(database, ("testserver",)))

    def lines(self, edition: str = "own") -> dict[str, Any]:
        while True:
            seen = self.client.get("/api/group", params={"edition": edition}).json()
            if not seen["waiting"]:
                return {line["entity"]: line for line in seen["lines"]}

    def change(self, pack: str, change: dict[str, Any]) -> Any:
        revision = self.client.get(f"/api/packs/{pack}").json()["revision"]
        return self.client.post(f"/api/packs/{pack}/changes", json={"revision": revision, "change": change})

    def taken(self, pack: str) -> dict[str, Any]:
        found = self.client.get(f"/api/packs/{pack}/taken").json()
        return {
            source["name"]: each for each in found for source in each["sources"] if each["figure"][2] == "y26"
        }

    def test_every_pack_is_a_line_and_only_what_changed_is_looked_at_again(self) -> None:
        lines = self.lines()
        self.assertEqual(len(lines), 13)
        parent = lines[PARENT]
        self.assertEqual(parent["standing"]["headline_name"], "Income of the group")
        with mock.patch.object(group, "standing_of", side_effect=AssertionError):
            self.assertEqual(self.lines(), lines)
        foot = {"kind": "foot", "statement": STATEMENT}
        self.assertEqual(self.change(parent["id"], foot).status_code, 200)
        with mock.patch.object(group, "standing_of", wraps=standing_of) as looked:
            after = self.lines()
        self.assertEqual(looked.call_count, 1)
        self.assertEqual((parent["standing"]["gaps"], after[PARENT]["standing"]["gaps"]), (1, 0))

    def test_packs_without_the_edition_say_so_and_others_are_told(self) -> None:
        told = self.lines("Board")
        self.assertIsNotNone(told["Lanternfish Ferries"]["standing"])
        self.assertIn("no edition", told[PARENT]["problem"])

    def test_what_moved_in_another_pack_is_found_and_taken(self) -> None:
        lines = self.lines()
        parent = lines[PARENT]["id"]
        found = self.taken(parent)
        stands = {name: each["sources"][0]["stands"] for name, each in found.items()}
        self.assertEqual({name for name, said in stands.items() if said == "moved"}, set(PLANTED))
        answer = self.change(parent, found["Saltmarsh Yard"]["take"])
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertEqual(
            answer.json()["says"],
            "Saltmarsh Yard, 2025–26 in Note 5: income by entity taken from Saltmarsh Yard",
        )
        self.assertNotEqual(self.taken(parent)["Saltmarsh Yard"]["sources"][0]["stands"], "moved")
        self.assertEqual(self.change(parent, found["Saltmarsh Yard"]["leave"]).status_code, 200)
        self.assertNotIn("Saltmarsh Yard", self.taken(parent))

    def test_what_its_own_page_prints_otherwise_is_apart(self) -> None:
        parent = self.lines()[PARENT]["id"]
        other = self.lines()["Kelp Point Pier"]["id"]
        self.assertEqual(self.taken(parent)["Kelp Point Pier"]["sources"][0]["stands"], "follows")
        self.change(other, {"kind": "foot", "statement": STATEMENT})
        self.assertEqual(self.taken(parent)["Kelp Point Pier"]["sources"][0]["stands"], "apart")
        self.client.put(f"/api/packs/{other}/standing", json={"standing": "put_away"})
        self.assertEqual(self.taken(parent)["Kelp Point Pier"]["sources"][0]["stands"], "gone")

    def take(self, pack: str, **source: Any) -> Any:
        revision = self.client.get(f"/api/packs/{pack}").json()["revision"]
        whole = {"entity": "Tern Chandlery", "period": PERIOD, "figure": TOTAL} | source
        body = {"revision": revision, "figure": [STATEMENT, "fares", "y26"], "sources": [whole]}
        return self.client.post(f"/api/packs/{pack}/taken", json=body)

    def test_sums_rates_shares_and_refusals(self) -> None:
        lines = self.lines()
        yard = lines["Saltmarsh Yard"]["id"]
        command = self.take(yard, rate="2", share="0.25").json()
        amount = command["sources"][0]["amount"]
        command["sources"].append(command["sources"][0] | {"entity": "Beacon Training", "share": "0.5"})
        self.assertEqual(self.change(yard, command).status_code, 200)
        (found,) = self.client.get(f"/api/packs/{yard}/taken").json()
        self.assertEqual(len(found["sources"]), 2)
        self.assertTrue(amount)
        refused = (
            ({"entity": "Nobody"}, "There is no pack of Nobody"),
            ({"figure": [STATEMENT, "income", "y26"]}, "has no figure"),
            ({"entity": "Saltmarsh Yard"}, "follows this pack itself"),
            ({"entity": PARENT}, "follows this pack itself"),
        )
        for source, says in refused:
            with self.subTest(says):
                answer = self.take(yard, **source)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(says, answer.json()["detail"])
        self.change(lines["Tern Chandlery"]["id"], {"kind": "edit_pack", "currency": "EUR"})
        self.assertIn("Give a rate", self.take(yard).json()["detail"])
        twin = json.loads(write_pack(group_packs()[7]))
        self.client.post("/api/packs", json=twin)
        self.assertIn("There are 2 packs of Tern Chandlery", self.take(yard).json()["detail"])
        total = {"kind": "take_figure", "figure": TOTAL, "sources": command["sources"]}
        self.assertIn("the sum of its parts", self.change(yard, total).json()["detail"])


if __name__ == "__main__":
    unittest.main()
