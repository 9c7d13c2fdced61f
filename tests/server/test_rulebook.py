"""The rulebook over HTTP: rules as sentences, trials that keep nothing, files, clauses copied."""

import json

from humble_sum.core.printing.resolved_clauses import NAMES
from humble_sum.exchange.pack_json import read_pack
from tests.server.template import BYTES
from tests.server.test_server import ServerTest


class RulebookTest(ServerTest):
    def test_rules_are_sentences_with_what_they_decide(self) -> None:
        book = self.get(f"{self.pack}/rulebook")
        house = book["rules"][0]
        said = " ".join(part if isinstance(part, str) else part["label"] for part in house["sentence"])
        self.assertTrue(
            said.startswith("Show amounts in ₹ lakhs with no decimals , digits grouped 12,34,567 ."), said
        )
        self.assertEqual((house["standing"], house["reach_said"]), ("decides", "everywhere"))
        reaches = {rule["id"]: rule["reach_said"] for rule in book["rules"]}
        self.assertEqual(reaches["perhead"], "Fare per passenger in By route")
        self.assertEqual(reaches["fares-charts"], "in By route on charts")
        self.assertEqual(reaches["board"], "for Board")
        self.assertEqual(house["figures"], book["most"])
        # A figure is counted once, however many clauses of it a rule decides.
        self.assertLessEqual(house["figures"], house["reaches"])
        self.assertEqual(house["figures"], max(house["decides"].values()))

    def test_a_trial_says_what_would_change_and_keeps_nothing(self) -> None:
        revision = self.get(self.pack)["revision"]
        change = {"kind": "set_rule_clause", "rule": "house", "clause": "scale", "value": "crores"}
        tried = self.post(
            f"{self.pack}/trial", {"revision": revision, "change": {"statement": "income"} | change}
        )
        self.assertEqual(tried["proof"]["caption"], "₹ crores")
        changes = self.get(f"{self.pack}/trials/{tried['id']}?page=income")
        self.assertGreater(changes["figures"], 100)
        self.assertEqual(tried["gaps"], 51 + tried["new_gaps"] - tried["closed_gaps"])
        away = next(group for group in changes["matters"] if group["says"] == "Now round away to nothing")
        self.assertIn("Interest on deposits, 2024–25", [each["label"] for each in away["changed"]])
        counted = sum(group["figures"] for group in (*changes["matters"], *changes["rest"]))
        gaps = next((g["figures"] for g in changes["matters"] if g["says"] == "Would no longer foot"), 0)
        self.assertEqual(gaps, tried["new_gaps"])
        self.assertEqual(counted - gaps, changes["figures"])
        first = changes["rest"][0]["changed"][0]
        self.assertEqual(
            (first["label"], first["was"], first["now"]), ("Passenger fares, 2025–26", "1,844", "18")
        )
        self.assertEqual([group["says"] for group in changes["rest"]], ["House rule"])
        self.assertEqual(self.get(self.pack)["revision"], revision)
        self.assertEqual(self.get(f"{self.income}/proof")["caption"], "₹ lakhs")
        kept = self.change(**change)
        self.assertEqual(kept["proof"]["caption"], "₹ crores")
        self.assertEqual(
            [line["figures"] for line in kept["proof"]["lines"]],
            [line["figures"] for line in tried["proof"]["lines"]],
        )

    def test_rules_are_added_edited_and_undone(self) -> None:
        before = read_pack(self.client.get(f"{self.income}/files/json").content)
        reach = {"kind": "subtotal"}
        self.change(kind="add_rule", name="Subtotals", reach=reach, clauses={"negative": "cr"})
        rule = self.get(f"{self.pack}/rulebook")["rules"][-1]["id"]
        # A kind is narrower than a statement.
        self.assertEqual(self.texts()["costs", "y26"], "2,770\u00a0CR")
        self.change(kind="edit_rule", rule=rule, reach={"kind": "subtotal", "statement": "cash"})
        self.assertEqual(self.texts()["costs", "y26"], "(2,770)")
        self.change(kind="edit_rule", rule=rule, reach={"kind": "subtotal", "statement": "income"})
        self.assertEqual(self.texts()["costs", "y26"], "2,770\u00a0CR")
        self.change(kind="edit_rule", rule=rule, off=True)
        self.assertEqual(self.texts()["costs", "y26"], "(2,770)")
        self.change(kind="duplicate_rule", rule=rule)
        self.change(kind="move_rule", rule=rule, before="house")
        self.change(kind="remove_rule", rule=rule)
        self.change(404, kind="remove_rule", rule=rule)
        refused = self.change(422, kind="set_rule_clause", rule="house", clause="step", value="0.05")
        self.assertIn("finer", self.problem(refused, "bad-rule"))
        for _ in range(7):
            self.step("undo")
        self.assertEqual(read_pack(self.client.get(f"{self.income}/files/json").content), before)

    def test_a_lines_clauses_are_given_to_others(self) -> None:
        self.change(kind="copy_clauses", figure=["income", "salv", "y26"], lines=["int", "mail"])
        book = self.get(f"{self.pack}/rulebook")["rules"]
        self.assertEqual(
            [rule["reach_said"] for rule in book[-2:]],
            ["Interest on deposits in Income", "Island mail contract in Income"],
        )
        self.problem(
            self.change(422, kind="copy_clauses", figure=["income", "fuel", "y26"], lines=["int"]),
            "nothing-to-copy",
        )

    def test_the_file_of_one_pack_is_used_by_another(self) -> None:
        file = json.loads(self.client.get(f"{self.pack}/rulebook/file").content)
        self.change(kind="use_style", style="board-crores")
        self.assertEqual(self.get(f"{self.income}/proof")["caption"], "₹ crores")
        self.change(kind="use_rulebook", rulebook=file)
        self.assertEqual(self.get(f"{self.income}/proof")["caption"], "₹ lakhs")
        stranger = {
            "id": "x",
            "name": "Stranger",
            "reach": {"line": "elsewhere"},
            "clauses": {"plus": "always"},
        }
        answer = self.change(kind="use_rulebook", rulebook={"rules": [*file["rules"], stranger]})
        self.assertTrue(answer["says"].startswith("Nothing to change"), answer["says"])
        answer = self.change(kind="use_rulebook", rulebook={"rules": [*file["rules"][:1], stranger]})
        self.assertTrue(answer["says"].endswith("are not here: Stranger"), answer["says"])
        self.problem(self.change(422, kind="use_rulebook", rulebook={"rules": [{"id": "?"}]}), "bad-rulebook")
        self.problem(self.change(404, kind="use_style", style="none"), "no-such-style")

    def test_a_locale_changes_every_number_and_percentage(self) -> None:
        self.change(kind="set_rule_clause", rule="house", clause="locale", value="mr-IN")
        self.assertEqual(self.texts()["costs", "y26"], "(२,७७०)")
        share = self.get(f"{self.pack}/statements/routes/proof")["lines"][0]["figures"][-1]["text"]
        self.assertEqual(share, "३४%")
        self.change(kind="set_rule_clause", rule="house", clause="locale", value="sv-SE")
        self.assertEqual(self.texts()["costs", "y26"], "(2\u00a0770)")

    def test_a_trial_is_read_like_the_pack_until_it_is_kept(self) -> None:
        revision = self.get(self.pack)["revision"]
        rule = {"kind": "set_rule_clause", "statement": "income", "rule": "house"}
        changes = [
            rule | {"clause": "scale", "value": "crores"},
            rule | {"clause": "decimals", "value": {"fixed": 2}},
        ]
        body = {
            "revision": revision,
            "change": {"kind": "together", "statement": "income", "changes": changes},
        }
        tried = self.post(f"{self.pack}/trial", body | {"page": "position"})
        self.assertEqual((tried["proof"]["statement"], tried["proof"]["caption"]), ("position", "₹ crores"))
        trial = f"?trial={tried['id']}"
        self.assertEqual(self.get(f"{self.income}/proof{trial}")["caption"], "₹ crores")
        figure = self.get(f"{self.income}/figures/costs/y26{trial}")
        self.assertEqual(figure["steps"][-1]["value"], "(27.70)")
        book = self.get(f"{self.pack}/rulebook{trial}")
        self.assertIn("2 decimals", [p["label"] for p in book["rules"][0]["sentence"] if isinstance(p, dict)])
        self.assertEqual(self.get(f"{self.income}/proof")["caption"], "₹ lakhs")
        kept = self.post(f"{self.pack}/changes", body)
        self.assertEqual(kept["pack"]["changes_today"], 1)
        self.assertEqual(self.texts()["costs", "y26"], "(27.70)")
        self.problem(self.get(f"{self.income}/proof?trial=0", 404), "no-such-trial")
        self.step("undo")
        self.assertEqual(self.texts()["costs", "y26"], "(2,770)")

    def test_the_same_changes_are_the_same_trial(self) -> None:
        change = {"kind": "set_rule_clause", "statement": "income", "rule": "house", "clause": "plus"}
        body = {"revision": self.get(self.pack)["revision"], "change": change | {"value": "always"}}
        first, again = (self.post(f"{self.pack}/trial", body)["id"] for _ in range(2))
        self.assertEqual(first, again)
        other = body | {"change": change | {"value": "never"}}
        self.assertNotEqual(self.post(f"{self.pack}/trial", other)["id"], first)

    def test_a_figure_is_found_by_line_and_column_with_the_rules_that_decided(self) -> None:
        found = self.get(f"{self.pack}/figures/costs/y26")
        self.assertEqual(
            [each["name"] for each in found["decisions"]], ["Statements", "House rule", "Default"]
        )
        self.assertEqual(sum(len(each["clauses"]) for each in found["decisions"]), len(NAMES))
        said = self.problem(self.get(f"{self.pack}/figures/fin/y26", 409), "several-figures")
        self.assertIn("income", said)
        self.assertEqual(self.get(f"{self.pack}/figures/fin/y26?statement=cash")["line"], "fin")
        self.problem(self.get(f"{self.pack}/figures/nothing/y26", 404), "no-such-figure")

    def test_specimens_of_your_own_are_kept_and_undone(self) -> None:
        answer = self.change(kind="set_specimens", amounts=["-0.005", "1e9", "-0.005"])
        self.assertEqual(answer["says"], "2 specimens of your own kept")
        rule = self.get(f"{self.pack}/rulebook")["rules"][0]
        own = [each for each in rule["specimens"] if each["sort"] == "yours"]
        self.assertEqual([each["text"] for each in own], ["0", "10,000"])
        self.problem(self.change(422, kind="set_specimens", amounts=["about 5"]), "bad-request")
        pack = read_pack(self.client.get(f"{self.income}/files/json").content)
        self.assertEqual([str(amount) for amount in pack.specimens], ["-0.005", "1000000000"])
        self.step("undo")
        shown = self.get(f"{self.pack}/rulebook")["rules"][0]["specimens"]
        self.assertNotIn("yours", [each["sort"] for each in shown])

    def test_a_column_is_headed_by_a_date(self) -> None:
        made = self.change(kind="set_column", column="y26", label="This year", date="2026-03-31")
        self.assertEqual(made["proof"]["columns"][0]["heading"], "31 March 2026")
        self.change(kind="set_rule_clause", rule="house", clause="locale", value="sv-SE")
        csv = self.client.get(f"{self.income}/files/csv").content.decode()
        self.assertIn("31 mars 2026", csv)
        self.step("undo")
        self.step("undo")
        self.assertEqual(self.get(f"{self.income}/proof")["columns"][0]["heading"], "2025–26")
        self.problem(
            self.change(422, kind="set_column", column="y26", label="A", date="2026-02-30"), "bad-request"
        )
        self.problem(self.change(404, kind="set_column", column="none", label="A"), "no-such-column")

    def test_locales_side_by_side(self) -> None:
        found = {each["tag"]: each for each in self.get(f"{self.pack}/locales?rule=house&also=gsw-LI")}
        self.assertEqual(next(iter(found)), "gsw-LI")
        self.assertEqual(
            [
                found[tag][name]
                for tag, name in (("mr-IN", "amount"), ("tr-TR", "percent"), ("ja-JP", "date"))
            ],
            ["−२,७७०", "%12,3", "2026年3月31日"],
        )
        self.assertIn("(as German)", self.get(f"{self.pack}/locales?rule=house&also=de-XQ")[0]["says"])
        self.problem(self.get(f"{self.pack}/locales?rule=house&also=1", 422), "bad-rule")

    def test_clauses_that_contradict_a_rules_own_are_refused_with_the_way_out(self) -> None:
        self.change(
            kind="set_clause", line="costs", column="y26", clause="step", value="5", apply="everywhere"
        )
        for clause, value, said in (
            ("decimals", {"significant": 3}, "keep one of them"),
            ("scale", "fit", "say scale_word short or full"),
            ("ladder", "indian", "leave the ladder out"),
            ("step", "0.05", "finer than 0 decimals"),
        ):
            with self.subTest(clause):
                change = {"line": "costs", "column": "y26", "clause": clause, "value": value}
                refused = self.change(422, kind="set_clause", apply="everywhere", **change)
                self.assertIn(said, self.problem(refused, "bad-rule"))
        self.assertEqual(self.get(self.pack)["revision"], 2)

    def test_only_the_last_trials_are_in_hand_and_an_older_one_is_made_again(self) -> None:
        def tried(places: int) -> str:
            change = {"kind": "set_rule_clause", "statement": "income", "rule": "house", "clause": "decimals"}
            body = {"revision": 1, "change": change | {"value": {"fixed": places}}}
            return str(self.post(f"{self.pack}/trial", body)["id"])

        first = tried(1)
        others = [tried(places) for places in range(2, 12)]
        self.problem(self.get(f"{self.income}/proof?trial={first}", 404), "no-such-trial")
        self.problem(self.get(f"{self.pack}/trials/{first}", 404), "no-such-trial")
        self.assertGreater(self.get(f"{self.pack}/trials/{others[-1]}")["figures"], 0)
        self.assertEqual(tried(1), first)
        self.assertEqual(self.get(f"{self.income}/rows?trial={first}&first=1&last=2")["first"], 1)

    def test_a_trial_that_is_refused_leaves_the_pack_and_other_trials_alone(self) -> None:
        rule = {"statement": "income", "rule": "house", "clause": "step"}
        bad = {"kind": "set_rule_clause", "value": "0.05"} | rule
        good = {"kind": "set_rule_clause", "value": "5"} | rule
        both = {"kind": "together", "statement": "income", "changes": [good, bad]}
        refused = self.post(f"{self.pack}/trial", {"revision": 1, "change": both}, 422)
        self.assertIn("finer", self.problem(refused, "bad-rule"))
        kept = self.post(f"{self.pack}/changes", {"revision": 1, "change": both}, 422)
        self.problem(kept, "bad-rule")
        self.assertEqual(self.get(self.pack)["revision"], 1)
        self.assertEqual(self.post(f"{self.pack}/trial", {"revision": 1, "change": good})["revision"], 1)

    def test_house_styles_are_kept_offered_and_followed(self) -> None:
        id = self.pack.rpartition("/")[2]
        found = self.get(f"/api/house-styles?pack={id}")
        self.assertEqual(found, {"styles": [], "following": None, "faults": []})
        kept = {"pack": id, "name": "Ferries", "version": 1}
        first = self.post("/api/house-styles", kept, 201)["styles"][0]
        self.assertEqual((first["name"], first["version"], first["followers"]), ("Ferries", 1, []))
        self.change(**first["follow"])
        following = self.get(f"/api/house-styles?pack={id}")["following"]
        self.assertEqual((following["version"], following["own"], following["newest"]), (1, [], None))
        # The pack's own change is told, and becomes the next version, which another pack then has before it.
        word = {"rule": "house", "clause": "scale", "value": "crores"}
        self.change(statement="income", kind="set_rule_clause", **word)
        own = self.get(f"/api/house-styles?pack={id}")["following"]["own"]
        self.assertEqual(own, ["House rule: scale crores, was lakhs"])
        self.assertEqual(self.post("/api/house-styles", kept, 409)["title"], "This version is kept already")
        later = self.post("/api/house-styles", kept | {"version": 2}, 201)
        self.assertEqual(later["following"]["newest"], 2)
        self.assertEqual(later["following"]["changes"], own)
        self.assertEqual([each["id"] for each in later["styles"][0]["followers"]], [id])
        self.change(**later["following"]["follow"])
        following = self.get(f"/api/house-styles?pack={id}")["following"]
        self.assertEqual((following["version"], following["own"]), (2, []))
        self.change(**following["leave"])
        self.assertIsNone(self.get(f"/api/house-styles?pack={id}")["following"])
        self.step("undo")
        self.assertEqual(self.get(f"/api/house-styles?pack={id}")["following"]["version"], 2)

    def test_a_new_pack_begins_with_a_house_style(self) -> None:
        id = self.pack.rpartition("/")[2]
        self.post("/api/house-styles", {"pack": id, "name": "Ferries", "version": 1}, 201)
        csv = b"Line,2026,2025\nFares,123456789,90\nHire,50,40\nTotal,123456839,130\n"
        intake = self.client.post("/api/intakes?name=a.csv", content=csv, headers=BYTES).json()["id"]
        kept = {
            "entity": "Kiosk",
            "period": "2026",
            "statements": [{"table": 0, "name": "Sales"}],
            "house_style": {"name": "Ferries", "version": 2},
        }
        refused = self.post(f"/api/intakes/{intake}/accept", kept, 404)
        self.assertIn("Ferries, version 2", refused["faults"][0]["what"])
        kept["house_style"] = {"name": "Ferries", "version": 1}
        made = self.post(f"/api/intakes/{intake}/accept", kept, 201)
        following = self.get(f"/api/house-styles?pack={made['id']}")["following"]
        self.assertEqual((following["name"], following["own"]), ("Ferries", []))
        proof = self.get(f"/api/packs/{made['id']}/statements/{made['statements'][0]['id']}/proof")
        self.assertEqual(proof["caption"], "\u20b9 lakhs")
