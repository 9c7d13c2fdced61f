"""Changes in all three doors, and that a long one stops nobody else's."""

import csv
import io
import json
import threading
from typing import Any
from unittest.mock import patch

from humble_sum.core.changes.apply import apply, apply_change
from humble_sum.core.changes.change_union import COMMANDS, read_change
from humble_sum.core.errors import InputError
from humble_sum.core.footing.plan import NoPlan, Plan
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo import demo_pack
from humble_sum.server.plan_cache import Plans
from tests.server.test_server import ServerTest


class DoorsTest(ServerTest):
    def test_http_takes_every_kind_there_is_and_no_other(self) -> None:
        openapi = self.get("/api/openapi.json")
        schema = openapi["components"]["schemas"]["ChangeRequest"]["properties"]["change"]
        self.assertEqual(set(schema["discriminator"]["mapping"]), set(COMMANDS))
        for kind, model in COMMANDS.items():
            self.assertTrue(model.__doc__, kind)
            where = {
                "statement",
                "dashboard",
                "edition",
                "name",
                "entity",
                "taxonomies",
                "point",
                "around",
                "figure",
            }
            self.assertTrue(where & set(model.model_fields), kind)

    def test_an_unknown_kind_is_named_in_the_same_words(self) -> None:
        said = self.problem(self.change(422, kind="conjure"), "bad-request")
        with self.assertRaises(InputError) as caught:
            read_change({"kind": "conjure", "statement": "income"})
        what = caught.exception.faults[0].what
        self.assertEqual(what, 'There is no kind "conjure".')
        for kind, written in ((None, "null"), (True, "true"), (["hold"], '["hold"]')):
            with self.assertRaises(InputError) as caught:
                read_change({"kind": kind})
            self.assertEqual(caught.exception.faults[0].what, f"There is no kind {written}.")
        self.assertIn(what, said)

    def test_python_and_http_come_to_the_same_pack(self) -> None:
        changes: list[dict[str, Any]] = [
            {"kind": "hold", "line": "tax", "column": "y26", "reason": "agreed"},
            {
                "kind": "set_clause",
                "line": "costs",
                "column": "y26",
                "clause": "decimals",
                "value": {"fixed": 1},
            },
            {
                "kind": "set_clause",
                "line": "costs",
                "column": "y26",
                "clause": "decimals",
                "value": {"fixed": 0},
            },
            {"kind": "foot"},
        ]
        pack = demo_pack()
        said = []
        for change in changes:
            applied = apply_change(pack, read_change({"statement": "income"} | change))
            pack = applied.pack
            said.append(applied.says)
            self.assertEqual(self.change(**change)["says"], applied.says)
        ours = {(n.statement, n.line, n.column, n.units) for n in pack.nudges}
        theirs = json.loads(self.client.get(f"{self.pack}/statements/income/files/json").content)
        self.assertEqual(
            ours, {(n["statement"], n["line"], n["column"], n["units"]) for n in theirs["nudges"]}
        )

    def test_a_change_that_is_refused_leaves_the_pack_as_it_was(self) -> None:
        pack = demo_pack()
        change = read_change({"kind": "hold", "statement": "income", "line": "none", "column": "y26"})
        with self.assertRaises(InputError):
            apply(prove_pack(pack), change)
        self.assertEqual(pack, demo_pack())


class AtOnceTest(ServerTest):
    """A plan that takes its time, while others go on."""

    def slowly(self) -> tuple[Any, threading.Event, threading.Event]:
        begun, go = threading.Event(), threading.Event()
        usual = Plans.taken

        def taken(plans: Plans, pack_proof: PackProof) -> Plan | NoPlan:
            begun.set()
            go.wait(60)
            return usual(plans, pack_proof)

        return patch.object(Plans, "taken", taken), begun, go

    def foot(self, answers: list[Any]) -> threading.Thread:
        body = {"revision": 1, "change": {"kind": "foot", "statement": "income"}}
        url = f"{self.pack}/changes"
        thread = threading.Thread(target=lambda: answers.append(self.client.post(url, json=body)))
        thread.start()
        return thread

    def test_another_pack_is_changed_while_one_is_planned(self) -> None:
        headers = {"content-type": "application/json"}
        other = self.client.post("/api/packs", content=write_pack(demo_pack()), headers=headers).json()["id"]
        slow, begun, go = self.slowly()
        answers: list[Any] = []
        with slow:
            thread = self.foot(answers)
            self.assertTrue(begun.wait(60))
            hold = {"kind": "hold", "statement": "income", "line": "tax", "column": "y26"}
            body = {"revision": 1, "change": hold}
            self.assertEqual(self.post(f"/api/packs/{other}/changes", body)["pack"]["revision"], 2)
            go.set()
            thread.join(60)
        self.assertEqual(answers[0].status_code, 200)
        self.assertEqual(self.get(self.pack)["statements"][0]["gaps"], 0)

    def test_a_plan_for_a_revision_that_has_gone_by_is_refused_and_nothing_of_it_kept(self) -> None:
        slow, begun, go = self.slowly()
        answers: list[Any] = []
        with slow:
            thread = self.foot(answers)
            self.assertTrue(begun.wait(60))
            self.change(kind="hold", line="tax", column="y26")
            go.set()
            thread.join(60)
        self.assertEqual(answers[0].status_code, 409)
        self.problem(answers[0].json(), "stale-revision")
        page = self.get(self.pack)
        self.assertEqual((page["revision"], page["statements"][0]["gaps"]), (2, 15))
        self.assertEqual([each["kind"] for each in self.get(f"{self.pack}/history")], ["hold"])

    def test_history_of_one_figure_is_a_file(self) -> None:
        self.change(statement="income", kind="hold", line="net", column="y26", reason="=agreed")
        self.change(statement="income", kind="set_line", line="fuel", label="Fuel; oil")
        self.step("undo")

        def rows(query: str = "") -> list[list[str]]:
            answer = self.client.get(f"{self.pack}/history.csv{query}")
            self.assertEqual(answer.headers["content-type"], "text/csv; charset=utf-8")
            return list(csv.reader(io.StringIO(answer.content.decode("utf-8-sig"), newline="")))

        head, *every = rows()
        self.assertEqual(head, ["number", "at", "author", "what", "state", "since"])
        self.assertEqual([(row[0], row[4]) for row in every], [("1", "applied"), ("2", "undone")])
        (only,) = rows("?figure=income:net:y26")[1:]
        self.assertIn("Held Surplus for the year", only[3])
        self.assertEqual(rows("?figure=cash:opening:y26")[1:], [])
        self.assertEqual(self.client.get(f"{self.pack}/history.csv?figure=net").status_code, 422)
