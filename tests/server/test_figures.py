"""Figures taken in over HTTP: read, chosen, accepted or refused."""

import json
import sqlite3
from contextlib import closing
from typing import Any

import duckdb

from tests.exchange.test_sources import LINES, book
from tests.server.template import BYTES
from tests.server.test_server import ServerTest

CSV = b"Line;Now;Then\nTea;1,234;2,345\nScones;5,678;6,789\nBoth;6,912;9,134\n"


def amounts(draft: Any) -> list[list[str]]:
    """What was read of each line."""
    return [[cell["read"] for cell in row["cells"]] for row in draft["rows"] if row["role"] == "line"]


class DatabasesTest(ServerTest):
    def test_only_databases_that_are_allowed_are_read(self) -> None:
        self.assertEqual(self.client.get("/api/intakes/databases").json(), [])
        folder = self.client.app.state.desk.database.file.parent  # type: ignore[attr-defined]
        with duckdb.connect(str(folder / "close.duckdb")) as connection:
            connection.execute("CREATE TABLE close AS SELECT 'Tea' AS line, 12.25::numeric(9, 2) AS now")
        told = f"close = duckdb:///{folder}/close.duckdb\n# none = sqlite:///x\nfile = /etc/passwd\n"
        (folder / "databases.txt").write_text(told, encoding="utf-8")
        (known,) = self.client.get("/api/intakes/databases").json()
        self.assertEqual(known["name"], "close")
        taken = self.client.post("/api/intakes/databases/close", json={"query": "close"})
        self.assertEqual(amounts(taken.json()["drafts"][0]), [["12.25"]])
        again = {"query": "close", "into": taken.json()["id"], "again": True}
        answer = self.client.post("/api/intakes/databases/close", json=again)
        self.assertEqual(answer.status_code, 201, answer.text)
        for name, query, status in (("file", "close", 404), ("close", "DROP TABLE close", 422)):
            answer = self.client.post(f"/api/intakes/databases/{name}", json={"query": query})
            self.assertEqual(answer.status_code, status, answer.text)


class FiguresTest(ServerTest):
    def take(self, name: str, data: bytes, status: int = 201, into: str | None = None) -> Any:
        params = {"name": name} | ({"into": into} if into else {})
        answer = self.client.post("/api/intakes", params=params, content=data, headers=BYTES)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def decide(self, intake: str, status: int = 200, table: int = 0, **said: Any) -> Any:
        answer = self.client.patch(f"/api/intakes/{intake}/tables/{table}", json=said)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()["drafts"][table] if status == 200 else answer.json()

    def accept(self, intake: str, status: int = 201, **changes: Any) -> Any:
        body = {"entity": "Kiosk", "period": "2026", "statements": [{"table": 0, "name": "Sales"}]} | changes
        return self.post(f"/api/intakes/{intake}/accept", body, status)

    def test_the_unit_of_a_source_is_read_said_and_overruled(self) -> None:
        csv = "Harbour Ltd,\nIn £m,\nLine,2026\nFares,12.5\nFreight,3\n".encode()
        taken = self.client.post("/api/intakes?name=close.csv", content=csv, headers=BYTES).json()
        (made,) = taken["drafts"]
        self.assertEqual((made["unit"], made["currency"]), ("millions", "GBP"))
        self.assertIn("GBP millions, as “In £m” says; amounts are kept in ones", made["read"])
        self.assertEqual(amounts(made), [["12,500,000"], ["3,000,000"]])
        for unit, first in (("ones", ["12.5"]), (None, ["12,500,000"])):
            read = self.decide(taken["id"], unit=unit)
            self.assertEqual(amounts(read)[0], first)
        self.problem(self.decide(taken["id"], 422, unit="dozens"), "bad-decisions")
        self.problem(self.decide(taken["id"], 404, 9, unit="ones"), "no-such-table")

    def test_files_are_called_by_what_can_be_printed(self) -> None:
        for name, called in (
            ("\x00.csv", ".csv"),
            ("\x00", None),
            (" ", None),
            ("/", "Statement"),
            ("a" * 401, None),
        ):
            with self.subTest(name):
                made = self.take(name, b"Line,2026\nFares,5\nFuel,6\n", 201 if called else 422)
                self.assertEqual(made["drafts"][0]["name"] if called else None, called)

    def test_a_query_is_asked_of_an_sqlite_file(self) -> None:
        with closing(sqlite3.connect(":memory:")) as made:
            made.execute("CREATE TABLE b (line TEXT, now TEXT)")
            made.execute("INSERT INTO b VALUES ('Tea', '5.5'), ('Scones', '1.25')")
            made.commit()
            data = made.serialize()
        asked = {"name": "b.sqlite", "query": "SELECT line, now AS \"2026\" FROM b WHERE line = 'Tea'"}
        for door in ("/api/intakes", "/api/intakes/streamed"):
            answer = self.client.post(door, params=asked, content=data, headers=BYTES)
            last = json.loads(answer.text.splitlines()[-1])
            (draft,) = last.get("intake", last)["drafts"]
            self.assertEqual(amounts(draft), [["5.5"]])
        refused = self.client.post(
            "/api/intakes", params=asked | {"query": "DROP TABLE b"}, content=data, headers=BYTES
        )
        self.assertEqual(refused.status_code, 422)
        self.problem(refused.json(), "broken-file")

    def test_a_source_that_has_changed_is_taken_again_as_it_was_decided(self) -> None:
        one = self.take("close.csv", b"Line,2026,2025\nFares,100,tbc\nHire,50,40\nTotal,150,130\n")
        id = one["id"]
        both = self.take("other.csv", b"Line,2026\nTea,7\n", into=id)
        self.assertEqual([each["name"] for each in both["sources"]], ["close.csv", "other.csv"])
        self.decide(id, unit="thousands", cells={"C2": {"text": "tbc", "read": "90"}})

        def again(name: str, data: bytes, status: int = 201, query: str = "") -> Any:
            params = {"name": name, "into": id, "again": "true", "query": query}
            answer = self.client.post("/api/intakes", params=params, content=data, headers=BYTES)
            self.assertEqual(answer.status_code, status, answer.text)
            return answer.json()

        same = again("close.csv", b"Line,2026,2025\nFares,100,tbc\nHire,50,40\nTotal,150,130\n")
        self.assertEqual(same["changed"], [])
        changed = b"Line,2026,2025\nFares,101,95\nMail,5,\nHire,50,40\nTotal,156,135\n"
        read = again("close.csv", changed)
        self.assertEqual(
            read["changed"],
            [
                "Mail is new",
                "Fares, 2026: 100000 is now 101000",
                "Fares, 2025: 90000 is now 95000",
                "Total, 2026: 150000 is now 156000",
                "Total, 2025: 130000 is now 135000",
            ],
        )
        # The unit stays decided; the cell does not say any more what was decided of it.
        self.assertEqual(read["drafts"][0]["unit"], "thousands")
        self.assertEqual(amounts(read["drafts"][0])[0], ["101,000", "95,000"])
        self.assertEqual(amounts(read["drafts"][1]), [["7"]], "the other source stays as it was")
        self.problem(again("third.csv", changed, 404), "no-such-source")
        self.problem(again("close.csv", b"no figures", 422), "no-table")
        self.assertEqual(self.get(f"/api/intakes/{id}")["drafts"], read["drafts"], "nothing is half taken")

    def test_another_query_takes_the_place_of_the_tables(self) -> None:
        with closing(sqlite3.connect(":memory:")) as made:
            made.execute("CREATE TABLE b(line, year)")
            made.executemany("INSERT INTO b VALUES (?, ?)", [("Tea", 5), ("Mail", 6)])
            data = made.serialize()
        taken = self.take("b.sqlite", data)
        self.assertEqual(taken["sources"], [{"name": "b.sqlite", "query": ""}])
        self.decide(taken["id"], left_out=True)
        query = "SELECT line, year AS \"2026\" FROM b WHERE line = 'Tea'"
        params = {"name": "b.sqlite", "into": taken["id"], "again": "true", "query": query}
        read = self.client.post("/api/intakes", params=params, content=data, headers=BYTES).json()
        self.assertEqual(read["changed"], ["query is new", "b is gone"])
        # What was decided of a table is not decided of the answer to a query.
        self.assertEqual([each["left_out"] for each in read["drafts"]], [False])
        self.assertEqual(read["sources"], [{"name": "b.sqlite", "query": query}])

    def test_a_file_is_read_and_kept_only_when_accepted(self) -> None:
        taken = self.take("kiosk.csv", CSV)
        (draft,) = taken["drafts"]
        self.assertEqual([c["role"] for c in draft["columns"]], ["label", "figures", "figures"])
        self.assertEqual(draft["rows"][2]["sum"], "Tea + Scones")
        (question,) = draft["questions"]
        self.assertEqual((question["asks"], len(question["places"])), ("How are the numbers written?", 6))
        self.assertEqual(len(self.get("/api/packs")), 1)
        pack = self.accept(taken["id"], currency="INR")
        self.assertEqual(len(self.get("/api/packs")), 2)
        proof = self.get(f"/api/packs/{pack['id']}/statements/sales/proof")
        self.assertEqual((proof["caption"], proof["gaps"]), ("₹", 0))
        self.problem(self.get(f"/api/intakes/{taken['id']}", 404), "no-such-intake")

    def test_every_answer_and_every_word_decides_what_it_says(self) -> None:
        """Each choice on the screen is a patch; taken, the table is read so, and null takes it back."""
        taken = self.take("kiosk.csv", CSV)
        (draft,) = taken["drafts"]
        start = amounts(draft)
        point, comma = draft["questions"][0]["answers"]
        self.assertEqual(amounts(self.decide(taken["id"], **comma["decide"]))[0][0], "1.234")
        again = self.decide(taken["id"], **point["decide"])
        self.assertEqual((amounts(again), again["questions"]), (start, []))
        words = {word["name"]: word for word in draft["sentence"] if isinstance(word, dict)}
        self.assertEqual({"what it is", "name", "currency", "unit", "first row"}, set(words))
        for name, word in words.items():
            for pick in word["picks"]:
                made = self.decide(taken["id"], **pick["decide"])
                said = {each["name"]: each for each in made["sentence"] if isinstance(each, dict)}
                if name in said and said[name]["chosen"] >= 0:
                    chosen = word["picks"][said[name]["chosen"]]["label"]
                    self.assertTrue(chosen.startswith(said[name]["label"]), chosen)
            undone: dict[str, Any] = {path: None for pick in word["picks"] for path in pick["decide"]}
            self.decide(taken["id"], **undone)
        column = draft["columns"][1]["sentence"]
        left_out = next(p for p in column[1]["picks"] if p["label"] == "left out")
        self.assertEqual(len(self.decide(taken["id"], **left_out["decide"])["rows"][0]["cells"]), 1)

    def test_a_row_is_said_otherwise_and_brought_back(self) -> None:
        taken = self.take("kiosk.csv", CSV)
        (draft,) = taken["drafts"]
        row = draft["rows"][0]["row"]
        url = f"/api/intakes/{taken['id']}/tables/0/rows/{row}/words"
        word = self.get(url)[1]
        picks = {pick["label"]: pick["decide"] for pick in word["picks"]}
        gone = self.decide(taken["id"], **picks["left out"])
        self.assertEqual(gone["rows"][0]["role"], "left_out")
        self.assertEqual([r["sum"] for r in gone["rows"]], ["", "", ""], "its total adds it no more")
        back = self.get(url)[1]["picks"][0]["decide"]
        self.assertEqual(self.decide(taken["id"], **back)["rows"], draft["rows"])
        self.problem(self.get(f"/api/intakes/{taken['id']}/tables/0/rows/900/words", 404), "no-such-table")

    def test_decisions_go_to_another_month_as_a_file(self) -> None:
        taken = self.take("kiosk.csv", CSV)
        self.decide(taken["id"], name="Sales", columns={"B": {"convention": "comma"}})
        file = self.get(f"/api/intakes/{taken['id']}/decisions")
        next_month = self.take("kiosk.csv", CSV)
        answer = self.client.put(f"/api/intakes/{next_month['id']}/decisions", json=file)
        (draft,) = answer.json()["drafts"]
        self.assertEqual((draft["name"], amounts(draft)[0][0]), ("Sales", "1.234"))

    def test_totals_a_workbook_did_not_save_are_worked_out(self) -> None:
        draft = self.take("f.xlsx", book(LINES))["drafts"][0]
        surplus = next(row for row in draft["rows"] if row["label"] == "Surplus")
        read = [cell["read"] for cell in surplus["cells"]]
        self.assertEqual(read, ["136,874,152.15", "114,908,447.55", "21,965,704.60"])
        self.assertTrue(surplus["cells"][0]["stands"].startswith("="), "beside it what stands there")
        self.assertIn("Change = 2025-26 − 2024-25", draft["read"])

    def test_a_found_sum_is_refused_and_an_offered_one_taken(self) -> None:
        taken = self.take("x.csv", b"Line;Now\nTea;5\nScones;6\nBoth;11\n")
        (question,) = taken["drafts"][0]["questions"]
        self.assertEqual(question["asks"], "Does Both add Tea + Scones?")
        no, yes = question["answers"]
        for answer, said in ((yes, "Tea + Scones"), (no, "")):
            made = self.decide(taken["id"], **answer["decide"])
            self.assertEqual((made["rows"][2]["sum"], made["questions"]), (said, []))
        self.assertEqual(len(self.decide(taken["id"], rows=None)["questions"]), 1)

    def test_a_workbooks_look_becomes_the_statements_rule_unless_refused(self) -> None:
        rows: list[list[Any]] = [
            ["", "Now", "Then"],
            ["Tea", 1234567, 5],
            ["Scones", -2500, 6],
            ["Both", 1232067, 11],
        ]
        id = self.take("x.xlsx", book(rows, shown_by='#,##0.0,;[Red](#,##0.0,);"-"'))["id"]
        draft = self.get(f"/api/intakes/{id}")["drafts"][0]
        self.assertIn(
            "in thousands, one decimal, digits grouped in threes, negatives in brackets", draft["look"]
        )
        self.assertEqual(draft["unheld"], ["negatives in red"])
        for look, text in ((True, "(2.5)"), (False, "(2,500)")):
            id = self.take("x.xlsx", book(rows, shown_by='#,##0.0,;[Red](#,##0.0,);"-"'))["id"]
            pack = self.accept(id, statements=[{"table": 0, "name": "Sales", "look": look}])["id"]
            proof = self.get(f"/api/packs/{pack}/statements/sales/proof")
            self.assertEqual(proof["lines"][1]["figures"][0]["text"], text)

    def test_several_sources_make_one_pack(self) -> None:
        first = self.take("f.xlsx", book(LINES))["id"]
        taken = self.take("kiosk.csv", CSV, into=first)
        self.assertEqual([draft["source"] for draft in taken["drafts"]], ["f.xlsx", "kiosk.csv"])
        pasted = self.post("/api/intakes/pasted", {"text": "Line\tNow\nTea\t5\n", "into": first}, 201)
        self.assertEqual(len(pasted["drafts"]), 3)
        named = [{"table": 1, "name": "Kiosk"}, {"table": 0, "name": "Income"}]
        pack = self.accept(first, statements=named)
        self.assertEqual([s["id"] for s in pack["statements"]], ["kiosk", "income"])

    def test_what_cannot_be_read_is_refused_and_keeps_nothing(self) -> None:
        for name, data, kind in (
            ("x.xlsx", b"PK not a workbook", "broken-workbook"),
            ("x.csv", b"\x00\x01", "unknown-encoding"),
            ("x.json", b"{}", "not-records"),
            ("x.csv", b"", "no-table"),
        ):
            with self.subTest(kind=kind):
                self.problem(self.take(name, data, 422), kind)
        id = self.take("kiosk.csv", CSV)["id"]
        self.problem(self.accept(id, 422, statements=[]), "bad-request")
        self.problem(self.accept(id, 422, currency="XYZ"), "bad-request")
        self.problem(self.accept(id, 404, statements=[{"table": 7, "name": "x"}]), "no-such-table")
        self.assertEqual(len(self.get("/api/packs")), 1)


class StreamTest(ServerTest):
    def lines(self, name: str, data: bytes) -> list[Any]:
        answer = self.client.post(f"/api/intakes/streamed?name={name}", content=data, headers=BYTES)
        self.assertEqual(answer.headers["content-type"], "application/x-ndjson")
        return [json.loads(line) for line in answer.text.splitlines()]

    def test_progress_ends_in_the_intake_or_the_problem(self) -> None:
        rows = "".join(f"Line {n},{n}.25\n" for n in range(5_000))
        told = self.lines("long.csv", f"Line,Now\n{rows}".encode())
        self.assertIn("done", told[0])
        self.assertEqual(told[-1]["intake"]["drafts"][0]["row_count"], 5_000)
        self.assertEqual(self.lines("bad.xlsx", b"PK nothing")[-1]["problem"]["status"], 422)

    def test_figures_roll_a_pack_forward(self) -> None:
        pack = self.client.get("/api/packs").json()[0]["id"]
        csv = "Line,2026-27\nPassenger fares,191234567.10\nVehicle carriage,98765432.10\nNight freight,40000000\n"
        intake = self.client.post("/api/intakes?name=next.csv", content=csv.encode(), headers=BYTES).json()[
            "id"
        ]
        body = {"pack": pack, "period": "Year to 31 March 2027"}
        compared = self.post(f"/api/intakes/{intake}/compare", body)
        self.assertEqual(compared["left_out"], ["Position", "Cash flows", "By route", "Operations"])
        fares = compared["statements"][0]["lines"][0]
        self.assertEqual((fares["fate"], fares["moved"]), ("kept", "68,59,915.70"))
        self.post(f"/api/intakes/{intake}/compare", body | {"into": {"0": "none"}}, 404)
        self.post(f"/api/intakes/{intake}/compare", body | {"into": {"0": None}}, 422)
        rolled = self.post(f"/api/intakes/{intake}/roll", body, 201)
        self.assertEqual(
            (rolled["period"], [s["id"] for s in rolled["statements"]]), ("Year to 31 March 2027", ["income"])
        )
        proof = self.get(f"/api/packs/{rolled['id']}/statements/income/proof")
        self.assertEqual([c["label"] for c in proof["columns"]], ["2026-27", "2025–26", "Change"])
        self.assertTrue(proof["lines"][1]["figures"][1]["held"])

    def test_costs_are_compared_with_the_signs_of_the_pack_unless_they_are_to_stand(self) -> None:
        pack = self.client.get("/api/packs").json()[0]["id"]
        csv = "Line,2026-27\nPassenger fares,900.50\nCrew and wages,400.25\nSurplus,500.25\n"
        wages = self.get(f"/api/packs/{pack}/statements/income/proof")["lines"]
        label = next(line["label"] for line in wages if "rew" in line["label"])
        csv = csv.replace("Crew and wages", label)
        intake = self.client.post("/api/intakes?name=next.csv", content=csv.encode(), headers=BYTES).json()[
            "id"
        ]
        body = {"pack": pack, "period": "Year to 31 March 2027", "into": {"0": "income"}}

        def now() -> str:
            compared = self.post(f"/api/intakes/{intake}/compare", body)
            return next(
                str(each["now"]) for each in compared["statements"][0]["lines"] if each["label"] == label
            )

        self.assertEqual(now().strip("−-"), "400.25")
        self.assertNotEqual(now(), "400.25")
        self.client.patch(f"/api/intakes/{intake}/tables/0", json={"costs": "positive"})
        self.assertEqual(now(), "400.25")

    def test_a_large_page_is_sent_row_by_row(self) -> None:
        rows = "".join(f"Line {n}," + ",".join(f"{n}.{c}5" for c in range(10)) + "\n" for n in range(200))
        csv = f"Line,{','.join(f'M{c}' for c in range(10))}\n{rows}"
        intake = self.client.post("/api/intakes?name=large.csv", content=csv.encode(), headers=BYTES).json()[
            "id"
        ]
        body: dict[str, Any] = {"entity": "E", "period": "P", "statements": [{"table": 0, "name": "Large"}]}
        id = self.post(f"/api/intakes/{intake}/accept", body, 201)["id"]
        page = f"/api/packs/{id}/statements/large"
        proof = self.get(f"{page}/proof?first=50&last=60")
        self.assertTrue(proof["large"])
        self.assertEqual([bool(line["figures"]) for line in proof["lines"]].index(True), 50)
        self.assertEqual(sum(bool(line["figures"]) for line in proof["lines"]), 10)
        rows = self.get(f"{page}/rows?first=190&last=260")
        self.assertEqual((rows["first"], len(rows["lines"])), (190, 10))
        change = {
            "kind": "set_clause",
            "line": "Line-0",
            "column": "M0",
            "clause": "decimals",
            "value": {"fixed": 2},
        }
        asked = {"revision": 1, "rows": [0, 2], "change": {"statement": "large"} | change}
        after = self.post(f"/api/packs/{id}/changes", asked)["proof"]
        self.assertEqual(after["lines"][1]["figures"][0]["text"], "1.05")
        self.assertEqual(after["lines"][2]["figures"], [])
