"""The API as its users meet it, over a real database."""

import tempfile
import threading
import unittest
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from humble_sum.exchange.exact_json import MOST_BYTES
from humble_sum.exchange.formats import OF_STATEMENTS
from humble_sum.exchange.pack_json import read_pack, write_pack
from humble_sum.records.demo import demo_pack
from humble_sum.server.app import create_app
from tests.making import demo_income
from tests.server.template import JSON, demo_database


class ServerTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = demo_database(Path(folder.name) / "records.sqlite")
        self.addCleanup(database.close)
        self.client = TestClient(create_app(database), base_url="http://localhost")
        self.pack_id = self.client.get("/api/packs").json()[0]["id"]
        self.pack = f"/api/packs/{self.pack_id}"
        self.income = f"{self.pack}/statements/income"

    def get(self, url: str, status: int = 200) -> Any:
        answer = self.client.get(url)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def post(self, url: str, body: Any, status: int = 200) -> Any:
        answer = self.client.post(url, json=body)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def change(self, status: Any = 200, **change: Any) -> Any:
        revision = self.get(self.pack)["revision"]
        body = {"revision": revision, "change": {"statement": "income"} | change}
        return self.post(f"{self.pack}/changes", body, status)

    def step(self, way: str, status: int = 200) -> Any:
        body = {"revision": self.get(self.pack)["revision"], "statement": "income"}
        return self.post(f"{self.pack}/{way}", body, status)

    def texts(self) -> dict[tuple[str, str], str]:
        proof = self.get(f"{self.income}/proof")
        return {(line["id"], f["column"]): f["text"] for line in proof["lines"] for f in line["figures"]}

    def problem(self, body: Any, kind: str) -> str:
        """Check that an answer is problem details of this kind; what its faults say."""
        self.assertLessEqual({"type", "title", "status", "detail", "faults"}, set(body))
        self.assertEqual(body["type"], f"urn:humble-sum:problem:{kind}")
        return " ".join(f"{f['where']}: {f['what']} {f['remedy']}" for f in body["faults"])


class ReadingTest(ServerTest):
    def test_the_page_has_every_figure_and_every_relation(self) -> None:
        proof = self.get(f"{self.income}/proof")
        self.assertEqual((proof["caption"], proof["gaps"]), ("₹ lakhs", 15))
        self.assertEqual(len(proof["lines"]), 23)
        costs = next(line for line in proof["lines"] if line["id"] == "costs")["figures"][0]
        self.assertEqual(
            (costs["text"], costs["hang"], costs["exact"]), ("(2,770)", ")", "−₹27,70,37,049.75")
        )
        self.assertEqual((costs["drift"], costs["drift_share"]), ("+0.3704975", 370))
        check = next(check for check in proof["checks"] if check["id"] == "down:costs:y26")
        self.assertEqual((check["mark"], check["status"]), ("−2", "gap"))
        self.assertIn("printed parts add to (2,768), the total prints (2,770)", check["says"])

    def test_a_figure_has_trace_sentence_specimens_and_ways(self) -> None:
        figure = self.get(f"{self.income}/figures/costs/y26")
        self.assertEqual(figure["label"], "Total costs, 2025–26")
        self.assertEqual(figure["steps"][-1]["value"], "(2,770)")
        self.assertEqual(
            figure["gaps"][0]["ways"][0]["says"], "Nudge Harbour dues to (149), Depreciation to (315)"
        )
        self.assertEqual([s["sort"] for s in figure["specimens"]][-1], "missing")

    def test_a_part_of_a_gap_shows_that_gap(self) -> None:
        figure = self.get(f"{self.income}/figures/dues/y26")
        self.assertEqual(figure["gaps"][0]["check"], "down:costs:y26")

    def test_what_is_not_there_is_a_problem(self) -> None:
        for url, kind in (
            ("/api/packs/none", "no-such-pack"),
            (f"{self.pack}/statements/none/proof", "no-such-statement"),
            (f"{self.income}/figures/none/y26", "no-such-figure"),
            (f"{self.income}/figures/h1/y26", "no-such-figure"),
            (f"{self.income}/files/tar", "no-such-format"),
        ):
            with self.subTest(url=url):
                self.problem(self.get(url, 404), kind)
        self.assertEqual(self.client.get("/api/none").headers["content-type"], "application/problem+json")

    def test_files_come_with_a_name_and_a_type(self) -> None:
        for format, output in OF_STATEMENTS.items():
            answer = self.client.get(f"{self.income}/files/{format}")
            self.assertEqual(answer.status_code, 200)
            self.assertEqual(answer.headers["content-type"], output.media_type)
            kind = "".join(f"-{each}" for each in format.split("-")[1:])
            name = f"lanternfish-ferries-income{kind}.{output.extension}"
            self.assertIn(f'filename="{name}"', answer.headers["content-disposition"])
        self.assertEqual(read_pack(self.client.get(f"{self.income}/files/json").content), demo_pack())


class ChangingTest(ServerTest):
    def test_the_whole_story(self) -> None:
        outcome = self.change(kind="hold", line="net", column="y26", reason="agreed with the auditors")
        self.assertEqual(outcome["says"], "Held Surplus for the year, 2025–26 at 413")
        outcome = self.change(kind="foot")
        self.assertEqual((outcome["proof"]["gaps"], outcome["proof"]["nudges"]), (0, 12))
        self.assertEqual(self.texts()["net", "y26"], "413")
        nudges = self.get(f"{self.income}/nudges")
        self.assertEqual(len(nudges["nudges"]), 12)
        for nudge in nudges["nudges"]:
            self.assertNotEqual(nudge["natural"], nudge["printed"])
            self.assertTrue(nudge["reason"] and nudge["made"] and nudge["plan"])
        self.assertEqual(self.step("undo")["proof"]["gaps"], 15)
        self.assertEqual(self.step("redo")["proof"]["gaps"], 0)
        self.assertEqual([c["state"] for c in self.get(f"{self.pack}/history")], ["applied", "applied"])

    def test_structure_is_changed_undone_and_redone_with_what_hangs_on_it(self) -> None:
        before = read_pack(self.client.get(f"{self.income}/files/json").content)
        self.change(kind="group", lines=["fuel", "keep"], label="Running the fleet")
        self.change(kind="hold", line="Running-the-fleet", column="y26")
        self.change(kind="make_part", line="dep", total="Running-the-fleet")
        self.change(kind="set_line", line="dep", natural="negative", label="Wear and tear")
        said = self.change(kind="dissolve", line="Running-the-fleet")["says"]
        self.assertEqual(said, "Running the fleet removed, its parts kept")
        pack = read_pack(self.client.get(f"{self.income}/files/json").content)
        self.assertEqual(pack.holds, ())
        line = pack.statements[0].line("dep")
        assert line is not None
        self.assertEqual((line.label, line.usual_sign), ("Wear and tear", "negative"))
        for _ in range(5):
            self.step("undo")
        self.assertEqual(read_pack(self.client.get(f"{self.income}/files/json").content), before)
        for _ in range(5):
            self.step("redo")
        self.assertEqual(read_pack(self.client.get(f"{self.income}/files/json").content), pack)

    def test_structure_changes_after_a_refused_change_too(self) -> None:
        for line in ("pbt", "tax", "net"):
            self.change(kind="hold", line=line, column="y26")
        self.change(409, kind="foot")
        self.assertTrue(self.change(kind="flip_sign", line="fuel")["changed"])

    def test_what_a_tie_needs_cannot_be_taken_out(self) -> None:
        self.change(kind="group", statement="cash", lines=["netcash", "opening"], label="All of it")
        refused = self.change(422, kind="set_members", statement="routes", members=["Nowhere"])
        self.assertIn("None of the 1 members", self.problem(refused, "bad-members"))
        self.change(kind="set_members", statement="routes", id="routes", members=[])
        routes = self.get(f"{self.pack}/statements/routes/proof")
        self.assertNotIn("moonrise", [line["id"] for line in routes["lines"]])

    def test_a_clause_changes_where_it_was_decided(self) -> None:
        place = {"line": "costs", "column": "y26"}
        self.change(kind="set_clause", clause="decimals", value={"fixed": 1}, **place)
        self.change(kind="set_clause", clause="negative", value="minus", **place)
        self.assertEqual(self.texts()["costs", "y26"], "−2,770.4")
        pack = read_pack(self.client.get(f"{self.income}/files/json").content)
        self.assertEqual(
            [rule.id for rule in pack.rulebook.rules], [each.id for each in demo_pack().rulebook.rules]
        )

    def test_a_clause_can_be_set_at_each_reach_and_left_to_the_broader_rule(self) -> None:
        for apply, changed in (
            ("line", {("costs", "y26"), ("costs", "y25"), ("costs", "change")}),
            ("column", None),
            ("statement", None),
            ("everywhere", None),
        ):
            before = self.texts()
            self.change(
                kind="set_clause", clause="scale", value="crores", apply=apply, line="costs", column="y26"
            )
            after = self.texts()
            differing = {cell for cell in before if before[cell] != after[cell]}
            if changed is not None:
                self.assertEqual(differing, changed)
            elif apply != "everywhere":
                self.assertIn(("fares", "y26"), differing)
            self.step("undo")
        outcome = self.change(kind="drop_clause", rule="statements", clause="negative")
        self.assertIn("left to the broader rule", outcome["says"])
        self.assertEqual(self.texts()["costs", "y26"], "−2,770")

    def test_a_changed_unit_rests_the_nudges_and_returning_wakes_them(self) -> None:
        self.change(kind="foot")
        place = {"line": "costs", "column": "y26", "clause": "decimals"}
        outcome = self.change(kind="set_clause", value={"fixed": 2}, **place)
        self.assertEqual(outcome["proof"]["nudges"], 0)
        self.assertTrue(all(n["resting"] for n in self.get(f"{self.income}/nudges")["nudges"]))
        outcome = self.change(kind="set_clause", value={"fixed": 0}, **place)
        self.assertEqual((outcome["proof"]["nudges"], outcome["proof"]["gaps"]), (12, 0))

    def test_holds_that_make_footing_impossible_come_with_the_release(self) -> None:
        for line in ("pbt", "tax", "net"):
            self.change(kind="hold", line=line, column="y26")
        body = self.change(409, kind="foot")
        said = self.problem(body, "cannot-foot")
        self.assertIn("Surplus for the year, 2025–26", said)
        self.assertEqual(len(body["release"]), 1)
        self.assertEqual(body["conflict"], ["Surplus for the year, 2025–26"])
        self.change(kind="release", figures=body["release"])
        self.assertEqual(self.change(kind="foot")["proof"]["gaps"], 0)

    def test_one_gap_is_closed_in_an_offered_way_and_nudges_are_cleared(self) -> None:
        outcome = self.change(kind="close_gap", check="down:costs:y26", way="closest")
        texts = self.texts()
        self.assertEqual((texts["dues", "y26"], texts["dep", "y26"]), ("(149)", "(315)"))
        self.assertIn("Nudge Harbour dues to (149)", outcome["says"])
        self.problem(self.change(409, kind="close_gap", check="down:costs:y26", way="closest"), "no-such-way")
        self.problem(
            self.change(404, kind="close_gap", check="down:none:y26", way="closest"), "no-such-relation"
        )
        self.assertEqual(self.change(kind="clear_nudges")["proof"]["nudges"], 0)

    def test_footing_twice_changes_nothing_the_second_time(self) -> None:
        self.assertTrue(self.change(kind="foot")["changed"])
        second = self.change(kind="foot")
        self.assertFalse(second["changed"])
        self.assertEqual(len(self.get(f"{self.pack}/history")), 1)

    def test_a_missing_figure_cannot_be_held(self) -> None:
        self.problem(self.change(409, kind="hold", line="claims", column="y26"), "nothing-to-hold")

    def test_bad_changes_are_refused_by_name_and_keep_nothing(self) -> None:
        place = {"line": "costs", "column": "y26"}
        before = self.get(self.pack)
        for change, kind, said in (
            ({"kind": "set_clause", "clause": "scales", "value": "x"} | place, "bad-rule", "scales"),
            ({"kind": "set_clause", "clause": "scale", "value": "lacs"} | place, "bad-rule", "lacs"),
            ({"kind": "set_clause", "clause": "currency", "value": "XYZ"} | place, "bad-rule", "XYZ"),
            (
                {"kind": "set_clause", "clause": "zero", "value": {"word": "\u202e"}} | place,
                "bad-rule",
                "U+202E",
            ),
            ({"kind": "dance"}, "bad-request", "dance"),
            ({"kind": "release", "figures": []}, "bad-request", "figures"),
            ({"kind": "drop_clause", "rule": "none", "clause": "zero"}, "no-such-rule", "none"),
        ):
            with self.subTest(change=change):
                status = 404 if kind.startswith("no-such") else 422
                self.assertIn(said, self.problem(self.change(status, **change), kind))
        self.assertEqual(self.get(self.pack), before)

    def test_nothing_to_undo_or_redo_is_said(self) -> None:
        self.problem(self.step("undo", 409), "nothing-to-undo")
        self.problem(self.step("redo", 409), "nothing-to-redo")

    def test_of_two_changes_on_one_revision_one_is_refused(self) -> None:
        revision = self.get(self.pack)["revision"]
        statuses = []

        def press(places: int) -> None:
            change = {
                "kind": "set_clause",
                "statement": "income",
                "line": "costs",
                "column": "y26",
                "clause": "decimals",
                "value": {"fixed": places},
            }
            answer = self.client.post(f"{self.pack}/changes", json={"revision": revision, "change": change})
            statuses.append(answer.status_code)

        threads = [threading.Thread(target=press, args=(n,)) for n in (1, 2, 3, 4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(statuses), [200, 409, 409, 409])
        self.assertEqual(self.get(self.pack)["revision"], revision + 1)


class TakingTest(ServerTest):
    def test_a_pack_file_is_taken_and_is_the_same_pack(self) -> None:
        answer = self.client.post("/api/packs", content=write_pack(demo_pack()), headers=JSON)
        self.assertEqual(answer.status_code, 201)
        taken = self.client.get(f"/api/packs/{answer.json()['id']}/statements/income/files/json").content
        self.assertEqual(read_pack(taken), demo_pack())

    def test_a_bad_file_is_refused_with_its_places_and_not_kept(self) -> None:
        answer = self.client.post(
            "/api/packs", content=write_pack(demo_pack()).replace(b"184374651.40", b"NaN"), headers=JSON
        )
        self.assertEqual(answer.status_code, 422)
        self.assertIn("statements[0].lines[1].amounts.y26", self.problem(answer.json(), "bad-pack"))
        self.assertEqual(len(self.get("/api/packs")), 1)

    def test_a_file_over_the_limit_is_refused_declared_or_not(self) -> None:
        large = b" " * (MOST_BYTES + 1)
        for content in (large, iter([large[: MOST_BYTES // 2]] * 3)):
            answer = self.client.post("/api/packs", content=content, headers=JSON)
            self.assertEqual(answer.status_code, 413)
            self.problem(answer.json(), "too-large")

    def test_a_break_in_the_source_is_shown_and_never_nudged_away(self) -> None:
        data = demo_income()
        lines = [
            line.model_copy(update={"amounts": {"y26": demo_pack().statements[0].lines[1].amounts["y26"]}})
            if line.id == "costs"
            else line
            for line in data.statements[0].lines
        ]
        broken = data.model_copy(
            update={"statements": (data.statements[0].model_copy(update={"lines": tuple(lines)}),)}
        )
        id = self.client.post("/api/packs", content=write_pack(broken), headers=JSON).json()["id"]
        view = self.get(f"/api/packs/{id}")
        self.assertEqual(view["statements"][0]["breaks"], 2)  # the change of a broken total is broken too
        body = {"revision": 1, "change": {"kind": "foot", "statement": "income"}}
        outcome = self.post(f"/api/packs/{id}/changes", body)
        broke = [check for check in outcome["proof"]["checks"] if check["status"] == "break"]
        self.assertEqual([check["id"] for check in broke], ["down:costs:y26", "down:costs:change"])
        self.assertIn("source break: the exact total is ₹", broke[0]["says"])


class CleanTest(ServerTest):
    def test_what_nothing_prints_is_taken_out_at_the_door(self) -> None:
        self.change(kind="set_line", line="moor", label="a\x01b")
        line = next(each for each in self.get(f"{self.income}/proof")["lines"] if each["id"] == "moor")
        self.assertEqual(line["label"], "ab")
        self.assertEqual(self.client.get(f"{self.income}/files/xlsx").status_code, 200)
        body = b'{"revision": 2, "change": {"kind": "write_passage", "dashboard": "board", "item": "note",'
        body += b' "text": "x\\ud800\\u0001y"}}'
        answer = self.client.post(f"{self.pack}/changes", content=body, headers=JSON)
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertEqual(self.client.get(f"{self.pack}/dashboards/board/files/xlsx").status_code, 200)
        self.problem(self.get(f"{self.income}/rows?first={10**20}&last=1", 422), "bad-request")


class AloneTest(ServerTest):
    def test_values_are_shown_by_a_rule(self) -> None:
        body = {
            "rule": {"scale": "lakhs", "negative": "brackets", "zero": "dash"},
            "values": ["-277037049.75", "0", None],
        }
        shown = self.post("/api/show", body)
        self.assertEqual([s["text"] for s in shown], ["(2,770)", "–", ""])
        self.assertEqual([s["units"] for s in shown], ["-2770", "0", None])
        self.assertIn(
            "binary", self.problem(self.post("/api/show", {"rule": {}, "values": [0.1]}, 422), "bad-request")
        )

    def test_a_bare_problem_is_footed_or_explained(self) -> None:
        bare = {
            "figures": {"a": "10.4", "b": "10.4", "t": "20.8"},
            "relations": [{"total": "t", "parts": [["a", 1], ["b", 1]]}],
        }
        footed = self.post("/api/foot", bare)
        self.assertEqual((footed["added_drift"], footed["printed"]["t"]), ("0.2", 21))
        held = self.post("/api/foot", bare | {"holds": {"a": 10, "b": 10, "t": 21}})
        self.assertEqual((held["feasible"], len(held["release"])), (False, 1))
        unknown = {"figures": {"a": "1"}, "relations": [{"total": "x", "parts": [["a", 1]]}]}
        self.problem(self.post("/api/foot", unknown, 422), "bad-problem")


class UnchangedTest(ServerTest):
    """What has not changed is not sent again, and what has changed never passes for what it was."""

    def seen(self, path: str, tag: str = "") -> tuple[int, str, bytes]:
        answer = self.client.get(path, headers={"If-None-Match": tag} if tag else {})
        return answer.status_code, answer.headers.get("etag", ""), answer.content

    def test_an_answer_is_sent_once_and_again_when_anything_changes(self) -> None:
        page = f"{self.pack}/statements/income/proof"
        paths = [page, f"{page}?first=0&last=2", f"{self.pack}/dashboards/board", f"{self.pack}/history"]
        tags = {}
        for path in paths:
            status, tags[path], body = self.seen(path)
            self.assertEqual((status, bool(body)), (200, True))
            self.assertEqual(self.seen(path, tags[path]), (304, tags[path], b""))
            self.assertEqual(self.seen(path, f'"other", {tags[path].removeprefix("W/")}')[0], 304)
        self.assertEqual(len(set(tags.values())), len(paths), "every address has its own")
        self.change(kind="foot")
        for path in paths:
            status, now, body = self.seen(path, tags[path])
            self.assertEqual((status, bool(body)), (200, True), path)
            self.assertNotEqual(now, tags[path])
        self.step("undo")
        self.assertEqual(self.seen(page, tags[page])[0], 200, "an undo is a revision too")

    def test_refusals_and_lists_have_no_tag(self) -> None:
        for path in ("/api/packs", f"{self.pack}/statements/none/proof", "/api/packs/none"):
            self.assertEqual(self.seen(path)[1], "", path)
        self.assertEqual(self.seen("/api/packs", "*")[0], 200)


class DoorTest(ServerTest):
    def test_other_host_names_are_turned_away(self) -> None:
        for host in (
            "evil.example",
            "localhost.evil.example",
            "evil.example:localhost",
            "",
            "localhost@evil",
        ):
            answer = self.client.get("/api/packs", headers={"host": host})
            self.assertEqual(
                (answer.status_code, answer.json()["title"]), (400, "This is no name of the server")
            )
        for host in ("localhost", "LOCALHOST:8440", "127.0.0.1:1", "[::1]", "[::1]:8440"):
            self.assertEqual(self.client.get("/api/packs", headers={"host": host}).status_code, 200, host)

    def test_head_says_what_get_would(self) -> None:
        pack = self.get("/api/packs")[0]["id"]
        for path in ("/", "/api/packs", f"/api/packs/{pack}/history.csv", "/api/docs", "/none"):
            got, asked = self.client.get(path), self.client.head(path)
            self.assertEqual((asked.status_code, asked.content), (got.status_code, b""), path)
            for name in ("content-type", "etag", "content-security-policy"):
                self.assertEqual(asked.headers.get(name), got.headers.get(name))

    def test_the_page_of_the_api_has_every_call_and_loads_nothing(self) -> None:
        page = self.client.get("/api/docs").text
        for path, operations in self.get("/api/openapi.json")["paths"].items():
            for method in operations:
                self.assertIn(f"{method.upper()}</span> <code>{path}<", page)
        self.assertNotRegex(page, "<script|src=|@import|https?://")

    def test_every_answer_in_the_openapi_file_has_an_example(self) -> None:
        paths = self.get("/api/openapi.json")["paths"]
        for path, operations in paths.items():
            for method, operation in operations.items():
                with self.subTest(path=path, method=method):
                    self.assertIn("summary", operation)
                    self.assertIn("Problem", str(operation["responses"]["422"]))
                    if not path.endswith(("{format}", "{name}", "container", "corrected")):
                        good = "201" if "201" in operation["responses"] else "200"
                        (answer,) = operation["responses"][good]["content"].values()
                        self.assertIn("example", answer)

    def test_an_unforeseen_error_is_a_problem_too(self) -> None:
        client = TestClient(self.client.app, base_url="http://localhost", raise_server_exceptions=False)
        self.client.app.state.desk.view = None  # type: ignore[attr-defined]
        answer = client.get(self.pack)
        self.assertEqual(answer.status_code, 500)
        self.problem(answer.json(), "fault-of-ours")
