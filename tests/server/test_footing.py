"""Footing over HTTP: relations in words, plans by a policy, what is impossible and what settles it."""

import csv
import io
import json
from decimal import Decimal
from typing import Any

from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.exchange.pack_json import read_pack, write_pack
from tests.making import pack, statement
from tests.server.template import JSON
from tests.server.test_server import ServerTest


class FootingTest(ServerTest):
    def planned(self, policy: dict[str, Any] | None = None, status: int = 200) -> Any:
        return self.post(f"{self.pack}/footing", {"policy": policy}, status)

    def test_every_relation_is_an_equation_in_words(self) -> None:
        page = self.planned()
        sums = page["relations"][0]
        self.assertEqual((sums["name"], sums["way"]), ("Income", "down"))
        first = sums["relations"][0]
        self.assertEqual(first["total"], "Revenue from crossings")
        self.assertEqual(
            first["parts"], "= Passenger fares + Vehicle carriage + Night freight + Island mail contract"
        )
        self.assertEqual([mark["mark"] for mark in first["marks"]], ["+1", "+1", ""])
        across = next(group for group in page["relations"] if group["way"] == "across")
        self.assertEqual(across["columns"], ["Change"])
        gaps = [
            m for g in page["relations"] for r in g["relations"] for m in r["marks"] if m["status"] == "gap"
        ]
        self.assertEqual((len(gaps), page["gaps"]), (51, 51))

    def test_another_policy_is_planned_and_nothing_is_kept(self) -> None:
        usual, few = self.planned(), self.planned({"choosing": "fewest"})
        self.assertEqual((usual["after"]["moved"], len(usual["moves"])), (46, 46))
        self.assertLess(few["after"]["moved"], 46)
        self.assertTrue(few["after"]["proved"])
        self.assertEqual(few["after"]["foots"], few["after"]["relations"])
        self.assertEqual(few["after"]["ties_agree"], few["after"]["ties"])
        self.assertEqual(self.get(self.pack)["revision"], 1)
        self.assertEqual(self.planned()["policy"]["choosing"], "closest")
        move = next(m for m in usual["moves"] if m["label"] == "Harbour dues, 2025–26")
        self.assertEqual(
            [move[name] for name in ("exact", "rounded", "printed", "share")],
            ["−148.496502", "(148)", "(149)", "0.7%"],
        )
        said = " ".join(part if isinstance(part, str) else part["label"] for part in few["sentence"])
        self.assertIn("choosing the fewest figures , at most one unit and any share of each figure.", said)

    def test_a_kept_plan_is_the_packs_own_and_undone_with_its_nudges(self) -> None:
        policy = {"choosing": "fewest", "gives_way": "lines_first"}
        kept = self.change(kind="foot", policy=policy)
        self.assertEqual([s["gaps"] for s in kept["pack"]["statements"]], [0, 0, 0, 0, 0])
        page = self.planned()
        self.assertLessEqual(policy.items(), page["policy"].items())
        self.assertTrue(all(move["kept"] for move in page["moves"]))
        self.assertEqual(page["after"]["leaves"], [])
        self.step("undo")
        page = self.planned()
        self.assertEqual((page["policy"]["choosing"], page["gaps"]), ("closest", 51))

    def test_footing_is_tried_on_the_page_like_a_rule(self) -> None:
        foot = {"kind": "foot", "statement": "income", "policy": {"choosing": "fewest"}}
        rule = {"kind": "set_rule_clause", "statement": "income", "rule": "house", "clause": "decimals"}
        changes = [rule | {"value": {"fixed": 1}}, foot]
        body = {"revision": 1, "change": {"kind": "together", "statement": "income", "changes": changes}}
        tried = self.post(f"{self.pack}/trial", body)
        self.assertEqual((tried["gaps"], tried["proof"]["gaps"]), (0, 0))
        self.assertEqual(self.get(self.pack)["statements"][0]["gaps"], 15)

    def test_holds_in_the_way_are_named_with_what_settles_it(self) -> None:
        for line in ("pbt", "tax", "net"):
            self.change(kind="hold", line=line, column="y26", reason="agreed")
        page = self.planned()
        self.assertIsNone(page["after"])
        self.assertEqual(page["impossible"]["conflict"], ["Surplus for the year, 2025–26"])
        (release,) = page["impossible"]["release"]
        self.assertEqual(release["reason"], "agreed")
        self.assertEqual(len(page["held"]), 3)
        others = page["impossible"]["others"]
        self.assertEqual([way["change"]["kind"] for way in others], ["release", "release"])
        self.assertRegex(
            others[0]["says"], r"^Release .* instead: \d+ figures move, [0-9.]+ units of drift added$"
        )
        ref = [release["statement"], release["line"], release["column"]]
        self.assertEqual(page["impossible"]["change"]["figures"], [ref])
        for ready in (page["impossible"]["change"], others[0]["change"]):
            settled = self.change(**ready)
            self.assertTrue(settled["changed"])
            self.assertIsNotNone(self.planned()["after"])
            self.step("undo")
        ref = [release["statement"], release["line"], release["column"]]
        self.change(kind="release", figures=[ref])
        self.assertIsNotNone(self.planned()["after"])

    def test_a_policy_that_makes_no_sense_is_refused(self) -> None:
        for policy in ({"at_most": 4}, {"most_change": 0.05}, {"luck": True}):
            with self.subTest(policy):
                self.problem(self.planned(policy, 422), "bad-request")

    def test_why_a_figure_moves_is_told_by_what_leaving_it_would_cost(self) -> None:
        said = self.post(f"{self.pack}/footing/why", {"figure": ["income", "dues", "y26"]})["says"]
        self.assertRegex(
            said, r"^The least plan that leaves it alone adds 0\.\d+ units more drift: it moves "
        )
        self.problem(
            self.post(f"{self.pack}/footing/why", {"figure": ["income", "none", "y26"]}, 404),
            "no-such-figure",
        )
        for line in ("pbt", "tax", "net"):
            self.change(kind="hold", line=line, column="y26")
        said = self.post(f"{self.pack}/footing/why", {"figure": ["income", "dues", "y26"]})["says"]
        self.assertEqual(said, "No plan keeps every hold.")

    def test_two_units_are_obeyed_while_the_plan_allows_them(self) -> None:
        self.change(kind="hold", line="net", column="y26")
        self.change(kind="foot", policy={"at_most": 2, "choosing": "fewest"})
        self.assertEqual(self.get(self.pack)["statements"][0]["gaps"], 0)
        page = self.planned({"at_most": 2, "choosing": "fewest"})
        self.assertTrue(all(move["kept"] for move in page["moves"]))

    def taken(self, made: Pack) -> str:
        """The address of a pack that was just taken in."""
        answer = self.client.post("/api/packs", content=write_pack(made), headers=JSON)
        self.assertEqual(answer.status_code, 201, answer.text)
        return f"/api/packs/{answer.json()['id']}"

    def test_of_a_large_statement_only_what_does_not_foot_is_listed(self) -> None:
        lines: list[Line] = []
        for n in range(150):
            # Every tenth total misses its parts by rounding: 10.4 and 10.4 print as 10 and 10, 20.8 as 21.
            amounts = {"now": Decimal("10.4") if n % 10 == 0 else Decimal("10.1")}
            parts = [Line(id=f"{name}{n}", label=f"{name}{n}", amounts=amounts) for name in "ab"]
            adds = tuple((part.id, 1) for part in parts)
            lines += [*parts, Line(id=f"t{n}", label=f"Total {n}", kind="subtotal", parts=adds)]
        of = Statement(
            id="s", name="S", title="S", columns=(Column(id="now", label="Now"),), lines=tuple(lines)
        )
        page = self.post(f"{self.taken(pack(of))}/footing", {})
        (sums,) = page["relations"]
        self.assertEqual((len(sums["relations"]), sums["unlisted"], page["gaps"]), (15, 135, 15))
        self.assertEqual({mark["mark"] for row in sums["relations"] for mark in row["marks"]}, {"+1"})
        after = page["after"]
        self.assertEqual((after["foots"], after["relations"], after["moved"]), (150, 150, 15))
        # In each of fifteen sums one of two parts moves, by 0.2 units more than its own rounding.
        self.assertEqual((after["added_drift"], after["farthest"], after["proved"]), ("3", "0.6", True))

    def test_a_source_break_is_named_with_what_would_explain_it_and_left_alone(self) -> None:
        amounts: dict[str, list[str | None]] = {"a": ["1250.4"], "b": ["300.4"], "c": ["75"]}
        of = statement(amounts, {"t": ["a", "b", "c"]}, columns=("now",), stated={"t": ["1025"]})
        page = self.post(f"{self.taken(pack(of))}/footing", {})
        (found,) = page["breaks"]
        self.assertEqual(found["says"], "S: T, Now is −600.8 off its parts")
        self.assertEqual(found["suspects"], ["the sign of B, Now (300.4) may be turned"])
        self.assertEqual((page["moves"], page["after"]["relations"]), ([], 0))
        self.assertEqual(page["relations"][0]["relations"][0]["marks"][0]["status"], "break")


def units(text: str) -> int:
    """A printed figure of the demo as a number."""
    size = int(text.strip("()–").replace(",", "") or 0) if text != "n/a" else 0
    return -size if text.startswith("(") else size


class AnswersTest(ServerTest):
    """What footing makes of lines, columns and statements, and the record of who did what."""

    def page(self, **body: Any) -> Any:
        return self.post(f"{self.pack}/footing", body)

    def test_a_rounding_line_is_added_prints_the_difference_and_is_undone(self) -> None:
        outcome = self.change(kind="add_rounding", total="costs")
        self.assertEqual(outcome["says"], "Rounding line added to Total costs")
        self.assertEqual(self.change(kind="foot")["pack"]["statements"][0]["gaps"], 0)
        lines = {line["label"]: line for line in self.get(f"{self.income}/proof")["lines"]}
        printed = {
            line["id"]: units(line["figures"][0]["text"]) for line in lines.values() if line["figures"]
        }
        parts = lines["Total costs"]["parts"]
        self.assertEqual(sum(printed[part] for part in parts), printed["costs"])
        self.assertNotEqual(printed[lines["Rounding"]["id"]], 0)
        self.assertIn(lines["Rounding"]["id"], lines["Total costs"]["parts"])
        refused = self.change(422, kind="add_rounding", total="costs")
        self.assertIn("has a rounding line already", self.problem(refused, "bad-structure"))
        self.step("undo")
        self.step("undo")
        self.assertNotIn("Rounding", [line["label"] for line in self.get(f"{self.income}/proof")["lines"]])

    def test_words_of_lines_and_columns_are_kept_and_said(self) -> None:
        self.change(kind="set_line", line="costs", answer="note")
        self.change(kind="set_line", line="fuel", readiness="never")
        self.change(kind="set_column", column="y25", label="2024–25", published=True)
        self.change(kind="set_column", column="change", label="Change", answer="printed")
        figure = self.get(f"{self.income}/figures/costs/change")
        said = {word["clause"]: word["value"] for word in figure["structure"]["sentence"] if "clause" in word}
        self.assertEqual((said["answer"], said["readiness"]), ("note", "usual"))
        column = {word["clause"]: word["value"] for word in figure["column_sentence"] if "clause" in word}
        terms = [["y26", 1], ["y25", -1]]
        self.assertEqual(
            column, {"terms": terms, "published": False, "answered_in": False, "answer": "printed"}
        )
        named = {each["name"]: each["says"] for each in self.page()["exceptions"]}
        self.assertEqual(named["Fuel and lubricants in Income"], "never moved")
        self.assertEqual(named["Total costs in Income"], "left with a note")
        self.assertEqual(named["Column 2024–25 in Income"], "published already")
        self.assertEqual(named["Column Change in Income"], "printed from printed figures")
        kept = read_pack(self.client.get(f"{self.income}/files/json").content).statements[0]
        fuel, y25 = kept.line("fuel"), kept.column("y25")
        assert fuel is not None and y25 is not None
        self.assertEqual((fuel.readiness, y25.published), ("never", True))
        proof = self.get(f"{self.income}/proof")
        self.assertIn("Figures may not add because of rounding.", proof["exceptions"])
        self.assertIn("noted", {check["status"] for check in proof["checks"] if check["line"] == "costs"})
        moved = {(m["line"], m["column"]) for m in self.page()["moves"] if m["statement"] == "income"}
        self.assertFalse({move for move in moved if move[0] == "fuel" and move[1] == "y26"})
        self.assertFalse({move for move in moved if move[1] == "y25"})

    def test_one_statement_can_be_planned_otherwise_and_like_the_others_again(self) -> None:
        own = {"gives_way": "totals_first"}
        page = self.page(apart={"income": own})
        self.assertEqual([each["name"] for each in page["apart"]], ["Income"])
        self.assertNotEqual(page["moves"], self.page()["moves"])
        kept = self.change(kind="foot", apart={"income": own})
        self.assertEqual(sum(s["gaps"] for s in kept["pack"]["statements"]), 0)
        self.assertEqual(self.page()["apart"][0]["policy"]["gives_way"], "totals_first")
        self.change(kind="foot", apart={"income": None})
        self.assertEqual(self.page()["apart"], [])
        self.problem(self.post(f"{self.pack}/footing", {"apart": {"none": own}}, 404), "no-such-statement")

    def test_changes_holds_and_nudges_carry_who_made_them(self) -> None:
        self.client.headers["Humble-Author"] = "A.%20Petrel%20%E0%A4%AA"
        self.change(kind="hold", line="net", column="y26", reason="agreed")
        self.change(kind="foot")
        self.client.headers["Humble-Author"] = "Second"
        self.change(kind="set_clause", line="costs", column="y26", clause="zero", value="figure")
        self.change(kind="foot")
        self.assertEqual(
            [change["author"] for change in self.get(f"{self.pack}/history")],
            ["Second", "A. Petrel प", "A. Petrel प"],
        )
        pack = read_pack(self.client.get(f"{self.income}/files/json").content)
        self.assertEqual((pack.holds[0].author, pack.holds[0].made[:2]), ("A. Petrel प", "20"))
        self.assertEqual({nudge.author for nudge in pack.nudges}, {"A. Petrel प"})

    def test_the_nudges_are_taken_away_as_a_table(self) -> None:
        self.change(kind="foot")
        answer = self.client.get(f"{self.pack}/nudges.csv")
        self.assertIn("nudges.csv", answer.headers["content-disposition"])
        rows = list(csv.DictReader(io.StringIO(answer.content.decode("utf-8-sig"))))
        self.assertEqual(len(rows), 46)
        row = next(r for r in rows if r["line"] == "Harbour dues" and r["column"] == "2025–26")
        self.assertEqual((row["exact"], row["rounded"], row["printed"]), ("-14849650.20", "(148)", "(149)"))
        self.assertIn("Among the closest calls", row["reason"])

    def test_a_plan_is_followed_line_by_line_and_can_be_given_little_time(self) -> None:
        answer = self.client.post(f"{self.pack}/footing/streamed", json={"policy": None, "seconds": 30})
        last = json.loads(answer.text.strip().split("\n")[-1])
        self.assertEqual(last["footing"]["after"]["moved"], 46)
        self.assertIn("no plan is less", last["footing"]["after"]["proof"])
        # What was found to the end is not searched for again; another plan has no time at all.
        short = self.page(seconds=0.000001, policy={"at_most": 2, "choosing": "largest"})
        self.assertEqual((short["ended"], short["after"], short["impossible"]), (True, None, None))
        self.assertEqual(self.get(self.pack)["revision"], 1)
        self.problem(self.post(f"{self.pack}/footing", {"seconds": -1}, 422), "bad-request")

    def test_what_is_kept_is_said_and_nothing_more_would_move(self) -> None:
        self.assertFalse(self.page()["kept"])
        self.change(kind="foot")
        page = self.page()
        self.assertTrue(page["kept"] and all(move["kept"] for move in page["moves"]))
        other = self.page(policy={"choosing": "fewest"})
        self.assertFalse(other["kept"])
        self.assertTrue(any(not move["kept"] for move in other["moves"]))
        self.client.post(f"{self.pack}/undo", json={"revision": 2, "statement": "income"})
        self.assertFalse(self.page()["kept"])

    def test_a_search_that_is_over_cannot_be_ended(self) -> None:
        self.problem(self.post(f"{self.pack}/footing/searches/gone/end", {}, 404), "no-such-search")

    def test_figures_are_tied_kept_undone_and_footed_alike(self) -> None:
        place = f"{self.income}/figures/net/y26"
        self.change(kind="untie", line="net", column="y26")
        self.assertEqual(self.get(place)["tied"], [])
        same = self.get(f"{place}/tieable")
        self.assertTrue(all(each["same"] for each in same))
        self.assertIn(["position", "surplus"], [[each["statement"], each["line"]] for each in same])
        outcome = self.change(kind="tie", line="net", column="y26", to=["position", "surplus", "y26"])
        self.assertEqual(
            outcome["says"],
            "Surplus for the year, 2025–26 in Income tied to Surplus for the year, 31 March 2026 in Position",
        )
        self.assertEqual(len(self.get(place)["tied"]), 2)
        exported = read_pack(json.dumps(self.get(f"{self.income}/files/json")).encode())
        self.assertIn(("income", "net", "y26"), [ref for tie in exported.ties for ref in tie.figures])
        refused = self.change(422, kind="tie", line="net", column="y26", to=["cash", "surplus", "y26"])
        self.assertIn("already", self.problem(refused, "bad-tie"))
        self.change(404, kind="tie", line="net", column="y26", to=["cash", "none", "y26"])
        self.step("undo")
        self.assertEqual(self.get(place)["tied"], [])

    def test_one_sum_is_answered_apart_from_the_others_of_its_total(self) -> None:
        place = {"line": "costs", "column": "y26"}
        outcome = self.change(kind="answer_relation", way="down", **place, answer="note")
        self.assertEqual(outcome["says"], "Total costs, 2025–26: they are left with a note")
        statuses = {check["id"]: check["status"] for check in self.get(f"{self.income}/proof")["checks"]}
        self.assertEqual(statuses["down:costs:y26"], "noted")
        self.assertNotEqual(statuses["down:costs:y25"], "noted")
        self.change(kind="answer_relation", way="across", line="fuel", column="change", answer="printed")
        self.change(kind="foot")
        cells = {
            line["id"]: [units(figure["text"]) for figure in line["figures"]]
            for line in self.get(f"{self.income}/proof")["lines"]
        }
        self.assertEqual(cells["fuel"][2], cells["fuel"][0] - cells["fuel"][1])
        kept = read_pack(self.client.get(f"{self.income}/files/json").content).statements[0]
        line, column = kept.line("costs"), kept.column("change")
        assert line is not None and column is not None
        self.assertEqual((line.answers, column.answers), ({"y26": "note"}, {"fuel": "printed"}))
        named = {each["name"]: each["says"] for each in self.page()["exceptions"]}
        self.assertEqual(
            named["Fuel and lubricants across to Change in Income"], "printed from printed figures"
        )
        self.change(kind="answer_relation", way="down", **place, answer=None)
        figure = self.get(f"{self.income}/figures/costs/y26")
        said = {word["clause"]: word["value"] for word in figure["structure"]["sentence"] if "clause" in word}
        self.assertEqual((said["answered_in"], said["answer"]), (False, "nudge"))
        refused = self.change(
            422, kind="answer_relation", way="down", line="fuel", column="y26", answer="note"
        )
        self.assertIn("no such sum", self.problem(refused, "bad-structure"))

    def test_every_gap_is_answered_at_once_and_undone(self) -> None:
        ways = {each["change"]["kind"]: each["detail"] for each in self.page()["answers"]}
        self.assertEqual(ways["rounding_lines"], "adds “Rounding” to 14 totals of 4 statements")
        before = self.get(self.pack)["statements"]
        self.assertEqual(self.change(kind="leave_gaps")["says"], "51 sums left with a note")
        self.assertEqual([each["gaps"] for each in self.get(self.pack)["statements"]], [0, 0, 0, 0, 0])
        self.assertEqual(self.page()["answers"], [])
        said = self.get(f"{self.income}/proof")["exceptions"]
        self.assertIn("Figures may not add because of rounding.", said)
        self.assertIn("No sum has a gap", self.problem(self.change(422, kind="leave_gaps"), "bad-structure"))
        self.step("undo")
        self.assertEqual(self.get(self.pack)["statements"], before)
        self.assertEqual(self.change(kind="rounding_lines")["says"], "14 rounding lines added")
        self.assertEqual([way["change"]["kind"] for way in self.page()["answers"]], ["leave_gaps"])
        footed = self.change(kind="foot")
        self.assertEqual([each["gaps"] for each in footed["pack"]["statements"]], [0, 0, 0, 0, 0])
        # What the lines take costs the plan nothing.
        self.assertLess(Decimal(self.page()["after"]["added_drift"]), Decimal("4.65"))

    def test_a_column_is_given_and_derived_again(self) -> None:
        place = f"{self.income}/figures/fuel/change"
        before = self.get(f"{self.income}/proof")
        self.assertEqual(
            self.change(kind="derive_column", column="change", terms=[])["says"], "Change is given"
        )
        given = self.get(f"{self.income}/proof")
        self.assertEqual(
            [line["figures"] for line in given["lines"]], [line["figures"] for line in before["lines"]]
        )
        self.assertNotIn("across", {check["way"] for check in given["checks"]})
        terms = [["y26", 1], ["y25", -1]]
        sentence = self.get(place)["column_sentence"]
        word = next(part for part in sentence if not isinstance(part, str) and part["clause"] == "terms")
        self.assertIn([terms, "2025–26 less 2024–25"], [[c["value"], c["label"]] for c in word["choices"]])
        outcome = self.change(kind="derive_column", column="change", terms=terms)
        self.assertEqual(outcome["says"], "Change is 2025–26 less 2024–25")
        self.assertEqual(self.get(f"{self.income}/proof")["checks"], before["checks"])
        refused = self.change(422, kind="derive_column", column="y25", terms=[["y26", 1], ["change", 1]])
        self.assertIn("made of itself", self.problem(refused, "bad-structure"))
