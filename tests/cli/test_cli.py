"""The command line, run as its users run it."""

import io
import json
import os
import socket
import subprocess
import sys
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path
from typing import Any
from unittest.mock import patch

import humble_sum
from humble_sum.cli.main import main
from humble_sum.exchange.pack_json import read_pack, write_pack
from humble_sum.records.demo import demo_pack
from tests.making import cases

LAKHS = '{"scale": "lakhs", "negative": "brackets", "zero": "dash", "locale": "en-IN"}'


class CliTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.pack = self.folder / "pack.json"
        self.pack.write_bytes(write_pack(demo_pack()))

    def run_it(self, *arguments: object, code: int = 0, stdin: str = "") -> str:
        """Run humble-sum in this process; its output, or its errors when it is refused."""
        out, err = (io.TextIOWrapper(io.BytesIO(), "utf-8", write_through=True) for _ in range(2))
        found: object = 0
        with (
            patch.object(sys, "argv", ["humble-sum", *map(str, arguments)]),
            patch.object(sys, "stdin", io.StringIO(stdin)),
            patch.object(sys, "stdout", out),
            patch.object(sys, "stderr", err),
            patch.dict(os.environ, COLUMNS="200"),
        ):
            try:
                main()
            except SystemExit as stop:
                found = stop.code or 0
        said, errors = (stream.buffer.getvalue().decode() for stream in (out, err))
        self.assertEqual(found, code, said + errors)
        if code == 2:
            self.assertEqual(said, "")
        return errors if code == 2 else said

    def file(self, name: str, data: Any) -> Path:
        path = self.folder / name
        path.write_text(json.dumps(data), encoding="utf-8")
        return path


class ShowTest(CliTest):
    def test_values_from_arguments_and_from_standard_input(self) -> None:
        self.assertEqual(self.run_it("show", "--rule", LAKHS, "-277037049.75", "0"), "(2,770)\n–\n")
        rule = self.file("rule.json", json.loads(LAKHS) | {"missing": {"word": "n/a"}})
        self.assertEqual(self.run_it("show", "--rule", rule, stdin="250000\n\n-1\n"), "3\nn/a\n0\n")

    def test_json_adds_units_and_sort(self) -> None:
        shown = json.loads(self.run_it("show", "--rule", LAKHS, "--json", "--", "-21350"))
        told = {"text": "0", "units": 0, "exponent": 5, "sort": "rounds_away", "hang": ""}
        self.assertEqual(shown, told | {"mark": "", "tone": "plain", "too_wide": False})

    def test_bad_rules_and_values_are_refused_by_name(self) -> None:
        for rule, value, said in (
            ('{"scales": 1}', "1", '"scales" is not a known clause'),
            ('{"scale": "lacs"}', "1", "'lacs' is not a value of scale"),
            ("{", "1", "not JSON"),
            (str(self.folder / "none.json"), "1", "No such file"),
            ("{}", "NaN", 'value 1: "NaN" is not a decimal'),
        ):
            with self.subTest(rule=rule):
                self.assertIn(said, self.run_it("show", "--rule", rule, value, code=2))


class CheckTest(CliTest):
    def test_gaps_are_listed_with_exit_code_1(self) -> None:
        listed = self.run_it("check", self.pack, code=1)
        marks = [line.split()[:2] for line in listed.splitlines()]
        self.assertEqual(sum(where == "income" and mark != "?" for where, mark in marks), 15)
        self.assertEqual([mark for _, mark in marks].count("?"), 35, "a part is missing")
        self.assertEqual(len(marks), 51 + 35 + 4)
        self.assertTrue(listed.splitlines()[-4].startswith("board/note  off by 0.01  Surplus for the year"))
        self.assertIn(
            "−2  Total costs, 2025–26: printed parts add to (2,768), the total prints (2,770).", listed
        )
        found = json.loads(self.run_it("check", self.pack, "--json", code=1))
        self.assertEqual(found[0]["relation"], "down:rev:y26")

    def test_a_rule_over_every_other_changes_what_is_found(self) -> None:
        exact = '{"scale": "ones", "decimals": {"fixed": 2}}'
        found = self.run_it("check", self.pack, "--rule", exact, "--statement", "income")
        self.assertEqual(found.splitlines()[-1], "Every sum that can be checked foots.")

    def test_a_figure_is_traced(self) -> None:
        traced = self.run_it("check", self.pack, "--trace", "income/costs/y26")
        self.assertEqual(
            [line.split()[0] for line in traced.splitlines()], ["Exact", "In", "Half", "Nudge", "Printed"]
        )
        self.assertIn("[House rule, Statements]", traced)
        for place in ("costs", "income/none/y26", "none/costs/y26"):
            self.run_it("check", self.pack, "--trace", place, code=2)


class FootTest(CliTest):
    def test_every_solved_case(self) -> None:
        for case in cases("footing"):
            bare = self.file("case.json", {key: case[key] for key in ("figures", "relations", "holds")})
            result = json.loads(self.run_it("foot", bare, code=0 if case["feasible"] else 1))
            self.assertEqual(result["feasible"], case["feasible"])
            if case["feasible"]:
                self.assertEqual(Decimal(result["added_drift"]), Decimal(case["optimal_cost"]))

    def test_a_certificate_is_written_and_checked_and_that_of_another_problem_refused(self) -> None:
        bare = {
            "figures": {"a": "10.4", "b": "10.4", "t": "20.8"},
            "relations": [{"total": "t", "parts": [["a", 1], ["b", 1]]}],
        }
        problem, proof = self.file("problem.json", bare), self.folder / "proof.json"
        other = self.file("other.json", bare | {"holds": {"t": 21}})
        self.run_it("foot", problem, "--certificate", proof)
        self.assertIn("No plan is less.", self.run_it("verify-plan", problem, proof))
        self.assertIn("another problem", self.run_it("verify-plan", other, proof, code=2))
        told = json.loads(proof.read_text())
        told["printed"] = {"a": 10, "b": 10, "t": 20}
        proof.write_text(json.dumps(told))
        self.assertIn("Not shown", self.run_it("verify-plan", problem, proof, code=1))
        proof.write_text("{}")
        self.assertIn("no certificate", self.run_it("verify-plan", problem, proof, code=2))

    def test_a_pack_is_certified_as_it_is_kept(self) -> None:
        footed, proof = self.folder / "footed.json", self.folder / "proof.json"
        self.run_it("foot", self.pack, "--out", footed, "--certificate", proof)
        self.assertIn("No plan is less.", self.run_it("verify-plan", footed, proof))
        self.assertIn("another problem", self.run_it("verify-plan", self.pack, proof, code=2))

    def test_a_limit_that_is_no_time_is_refused(self) -> None:
        for seconds in ("0", "-1", "soon", "nan"):
            self.run_it("foot", self.pack, "--seconds", seconds, code=2)

    def test_a_pack_is_footed_and_written(self) -> None:
        out = self.folder / "footed.json"
        said = self.run_it("foot", self.pack, "--hold", "income/net/y26", "--out", out)
        self.assertIn(
            "income: foots. 12 figures nudged, 0.773976 units of drift added; no plan is less.", said
        )
        self.assertIn("Harbour dues, 2025–26: (148) → (149). Exact −148.496502 rounds to −148.", said)
        self.assertIn("cash: foots.", said)
        self.assertEqual(sum(n.statement == "income" for n in read_pack(out.read_bytes()).nudges), 12)
        self.assertEqual(
            self.run_it("check", out, code=1).splitlines()[-1], "Every sum that can be checked foots."
        )

    def test_a_hold_is_at_what_the_figure_prints_nudge_and_all(self) -> None:
        footed, again = self.folder / "footed.json", self.folder / "again.json"
        self.run_it("foot", self.pack, "--out", footed)
        self.run_it("foot", footed, "--hold", "income/dues/y26", "--out", again)
        (hold,) = read_pack(again.read_bytes()).holds
        self.assertEqual(hold.printed, Decimal("-14900000"))  # (149), where its own rounding is (148)
        self.assertIn("| Harbour dues | (149) |", self.run_it("render", again, "--to", "md"))
        said = self.run_it("foot", self.pack, "--hold", "income/claims/y26", code=2)
        self.assertIn("nothing to hold", said)

    def test_holds_in_conflict_exit_with_1_and_write_nothing(self) -> None:
        holds = [word for line in ("pbt", "tax", "net") for word in ("--hold", f"income/{line}/y26")]
        out = self.folder / "out.json"
        said = self.run_it("foot", self.pack, *holds, "--out", out, code=1)
        self.assertIn("cannot foot. These cannot all add: Surplus for the year, 2025–26.", said)
        self.assertRegex(said, "Releasing income/(pbt|tax|net)/y26 would settle it")
        self.assertFalse(out.exists())
        found = json.loads(self.run_it("foot", self.pack, *holds, "--json", code=1))
        self.assertEqual(found[0]["feasible"], False)

    def test_a_bare_problem_is_checked_and_footed_in_words(self) -> None:
        parts = [["a", 1], ["b", 1]]
        bare = {
            "figures": {"a": "10.4", "b": "10.4", "t": "20.8"},
            "relations": [{"total": "t", "parts": parts}],
        }
        file = self.file("bare.json", bare)
        said = self.run_it("check", file, code=1)
        self.assertEqual(said, "   +1  t prints +1 against its printed parts.\n")
        self.assertEqual(json.loads(self.run_it("check", file, "--json", code=1))[0]["gap"], 1)
        footed = self.run_it("foot", file, "--words")
        self.assertEqual(
            footed, "Foots. 1 figure nudged, 0.2 units of drift added; no plan is less.\n  b: 10 → 11\n"
        )
        held = self.file("held.json", bare | {"holds": {"a": 10, "b": 10, "t": 21}})
        self.assertIn("cannot all add: t.\n  Releasing t would", self.run_it("foot", held, "--words", code=1))
        broken = self.file("broken.json", bare | {"figures": {"a": "10.4", "b": "10.4", "t": "20.9"}})
        self.assertIn("its exact amount is 0.1 off its parts", self.run_it("check", broken, code=1))
        whole = self.file("whole.json", bare | {"figures": {"a": "1", "b": "2", "t": "3"}})
        self.assertEqual(self.run_it("check", whole), "Everything foots.\n")
        self.run_it("check", self.file("none.json", {"figures": {}}), code=2)

    def test_time_that_is_up_is_said_and_writes_nothing(self) -> None:
        out = self.folder / "footed.json"
        said = self.run_it("foot", self.pack, "--seconds", "0.001", "--out", out, code=2)
        self.assertIn("The time ran out before any plan was found.", said)
        self.assertFalse(out.exists())
        (first, *_) = json.loads(self.run_it("foot", self.pack, "--seconds", "600", "--json"))
        self.assertEqual((first["proved"], first["bound"]), (True, None))

    def test_bad_files_are_refused(self) -> None:
        for data, said in (
            ({"figures": {"a": "x"}}, "figures.a"),
            ({"kind": "ledger"}, '"ledger"'),
            ([], "humble-sum: "),
        ):
            self.assertIn(said, self.run_it("foot", self.file("bad.json", data), code=2))


class PlainTextTest(CliTest):
    def test_a_statement_is_written_with_digits_under_digits(self) -> None:
        said = self.run_it("render", self.pack, "--statement", "income", "--to", "txt")
        lines = said.splitlines()
        self.assertEqual(lines[0], "Statement of income")
        costs = next(line for line in lines if line.startswith("Total costs"))
        surplus = next(line for line in lines if line.startswith("Surplus for the year"))
        self.assertEqual(costs.index("(2,770)") + 6, surplus.index("413") + 3)
        self.assertTrue(lines[-1].strip().startswith("===="))

    def test_values_of_every_form_are_shown(self) -> None:
        for rule, value, text in (
            ({"form": "date", "locale": "mr-IN"}, "20260331", "३१ मार्च, २०२६"),
            ({"form": "percent", "plus": "always", "decimals": {"fixed": 1}}, "0.125", "+12.5%"),
            ({"form": "basis_points"}, "0.0125", "125\xa0bps"),
            ({"form": "multiple", "decimals": {"fixed": 1}}, "1.84", "1.8×"),
        ):
            with self.subTest(rule["form"]):
                self.assertEqual(self.run_it("show", "--rule", json.dumps(rule), value), f"{text}\n")
        said = self.run_it("show", "--rule", '{"before": "a\\u202eb"}', "1", code=2)
        self.assertIn("before", said)


class PlanTest(CliTest):
    def test_a_plan_of_ones_own_moves_other_figures_and_goes_with_the_pack(self) -> None:
        out = self.folder / "footed.json"
        usual = self.run_it("foot", self.pack, "--json")
        few = self.run_it("foot", self.pack, "--plan", '{"choosing": "fewest"}', "--out", out, "--json")
        moved = [sum(len(each["nudges"]) for each in json.loads(said)) for said in (usual, few)]
        self.assertLess(moved[1], moved[0])
        footed = read_pack(out.read_bytes())
        self.assertEqual(footed.policy.choosing, "fewest")
        self.assertIn("choosing the fewest figures", footed.nudges[0].plan)

    def test_a_plan_that_cannot_be_is_refused_or_found_impossible(self) -> None:
        for plan, said in (('{"at_most": 9}', "at_most"), ('{"luck": 1}', "luck"), ("{", "not JSON")):
            with self.subTest(plan):
                self.assertIn(said, self.run_it("foot", self.pack, "--plan", plan, code=2))
        said = self.run_it("foot", self.pack, "--plan", '{"most_change": "0.001"}', code=1)
        self.assertIn("cannot foot", said)

    def test_what_cannot_be_checked_is_named_and_counts_where_it_is_strict(self) -> None:
        line = {"id": "fares", "label": "Fares", "amounts": {"a": "10"}}
        missing = {"id": "tips", "label": "Tips"}
        total = {"id": "all", "label": "All", "kind": "total", "parts": [["fares", 1], ["tips", 1]]}
        statement = {"id": "s", "name": "S", "title": "S", "columns": [{"id": "a", "label": "A"}]}
        pack = {"kind": "humble-sum/pack", "version": 1, "entity": "E", "period": "P"}
        file = self.folder / "pack.json"
        file.write_text(json.dumps(pack | {"statements": [statement | {"lines": [line, missing, total]}]}))
        told = self.run_it("check", file)
        self.assertIn("All, A: Tips is missing, so this sum is not checked.", told)
        self.assertIn("Every sum that can be checked foots.", told)
        self.assertEqual(self.run_it("check", file, "--strict", code=1), told)

    def test_the_version(self) -> None:
        self.assertEqual(self.run_it("--version").strip(), humble_sum.__version__)


class RenderTest(CliTest):
    def test_every_format_is_written(self) -> None:
        for format, start in (
            ("html", b"<!doctype"),
            ("csv", b"\xef\xbb\xbf"),
            ("xlsx", b"PK"),
            ("json", b"{"),
            ("md", b"##"),
        ):
            out = self.folder / f"out.{format}"
            self.run_it("render", self.pack, "--to", format, "--out", out)
            self.assertTrue(out.read_bytes().startswith(start))
        self.assertIn("| **Total income** | **3,426** |", self.run_it("render", self.pack, "--to", "md"))

    def test_a_rule_prints_another_way(self) -> None:
        crores = '{"scale": "crores", "decimals": {"fixed": 2}, "negative": "minus"}'
        text = self.run_it("render", self.pack, "--to", "md", "--rule", crores)
        self.assertIn("₹ crores", text)
        self.assertIn("| Total costs | −27.70 |", text)

    def test_refusals(self) -> None:
        self.assertIn("no such statement", self.run_it("render", self.pack, "--statement", "none", code=2))
        self.run_it("render", self.pack, "--to", "tar", code=2)
        self.run_it("render", self.folder / "none.json", code=2)
        self.run_it("render", self.pack, "--out", self.folder / "none" / "x.html", code=2)


class ChangeTest(CliTest):
    HOLD = '{"kind": "hold", "statement": "income", "line": "tax", "column": "y26", "reason": "agreed"}'

    def test_changes_are_made_one_after_another_and_signed(self) -> None:
        out = self.folder / "changed.json"
        rest = self.file("rest.json", [{"kind": "foot", "statement": "income"}])
        said = self.run_it("change", self.pack, self.HOLD, rest, "--out", out, "--author", "Ada")
        first, second = said.strip().split("\n")
        self.assertIn("Tax", first)
        self.assertIn("figures nudged, no plan is less", second)
        pack = read_pack(out.read_bytes())
        self.assertEqual([(hold.line, hold.author) for hold in pack.holds], [("tax", "Ada")])
        self.assertTrue(pack.nudges and all(nudge.made for nudge in pack.nudges))
        self.assertEqual(
            self.run_it("check", out, code=1).splitlines()[-1], "Every sum that can be checked foots."
        )

    def test_all_are_made_or_none(self) -> None:
        out = self.folder / "changed.json"
        bad = '{"kind": "hold", "statement": "income", "line": "none", "column": "y26"}'
        self.assertIn("none", self.run_it("change", self.pack, self.HOLD, bad, "--out", out, code=2))
        self.assertFalse(out.exists())

    def test_an_unknown_kind_is_named_and_every_kind_is_listed(self) -> None:
        said = self.run_it("change", self.pack, '{"kind": "conjure", "statement": "income"}', code=2)
        self.assertIn("conjure", said)
        listed = self.run_it("change", "--list")
        for kind in ("hold (statement, line, column, [reason])", "foot (", "add_rule (", "set_clause ("):
            self.assertIn(kind, listed)
        self.run_it("change", self.pack, code=2)
        self.run_it("change", self.pack, str(self.folder / "absent.json"), code=2)


class HelpTest(CliTest):
    def test_every_command_explains_itself(self) -> None:
        for command in ("demo", "serve", "show", "check", "foot", "take", "render"):
            said = self.run_it(command, "--help")
            self.assertIn("Usage:", said)
            self.assertGreater(len(said.splitlines()), 8)

    def test_the_installed_command_runs(self) -> None:
        script = Path(sys.executable).with_name("humble-sum")
        done = subprocess.run(
            [script, "show", "--rule", LAKHS, "--", "-277037049.75"], capture_output=True, check=False
        )
        self.assertEqual((done.returncode, done.stdout.decode()), (0, "(2,770)\n"))

    def test_a_port_in_use_is_refused(self) -> None:
        with socket.create_server(("127.0.0.1", 0)) as taken:
            port = taken.getsockname()[1]
            said = self.run_it("serve", "--data", self.folder, "--port", port, code=2)
        self.assertIn("--port", said)
