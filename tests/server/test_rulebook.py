"""The rulebook over HTTP: rules as sentences, trials that keep nothing, files, clauses copied."""

import json

from humble_sum.exchange.pack_json import read_pack
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
        self.assertEqual(book["rules"][-1]["reach_said"], "Fare per passenger in By route")
        self.assertEqual(house["in_force"], book["most"])

    def test_a_trial_says_what_would_change_and_keeps_nothing(self) -> None:
        revision = self.get(self.pack)["revision"]
        change = {"kind": "set_rule_clause", "rule": "house", "clause": "scale", "value": "crores"}
        tried = self.post(
            f"{self.pack}/trial", {"revision": revision, "change": {"statement": "income"} | change}
        )
        self.assertEqual(tried["proof"]["caption"], "₹ crores")
        self.assertGreater(tried["figures"], 100)
        self.assertEqual(tried["gaps"], 51 + tried["new_gaps"] - tried["closed_gaps"])
        first = tried["changed"][0]
        self.assertEqual(
            (first["label"], first["was"], first["now"]), ("Passenger fares, 2025–26", "1,844", "18")
        )
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
        self.problem(self.change(422, kind="use_rulebook", rulebook={"rules": [{"id": "?"}]}), "bad-rulebook")
        self.problem(self.change(404, kind="use_style", style="none"), "no-such-style")

    def test_a_locale_changes_every_number_and_percentage(self) -> None:
        self.change(kind="set_rule_clause", rule="house", clause="locale", value="mr-IN")
        self.assertEqual(self.texts()["costs", "y26"], "(२,७७०)")
        share = self.get(f"{self.pack}/statements/routes/proof")["lines"][0]["figures"][-1]["text"]
        self.assertEqual(share, "३४%")
        self.change(kind="set_rule_clause", rule="house", clause="locale", value="sv-SE")
        self.assertEqual(self.texts()["costs", "y26"], "(2\u00a0770)")
