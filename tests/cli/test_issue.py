"""issue, verify and diff on the command line."""

from __future__ import annotations

import contextlib
import io
import json
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from humble_sum.cli.main import main
from humble_sum.exchange.formats import OF_ISSUES
from humble_sum.exchange.imprint import digest_of
from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo import demo_pack

WHY = ("--why", "whole=Not known", "--why", "places=As last year", "--why", "sums=Left so")


class CommandTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.pack = self.folder / "pack.json"
        self.pack.write_bytes(write_pack(demo_pack()))

    def run_it(self, *arguments: object) -> tuple[int, str]:
        """The exit code, and all that was printed."""
        said = io.StringIO()
        with (
            mock.patch.object(sys, "argv", ["humble-sum", *map(str, arguments)]),
            contextlib.redirect_stdout(said),
            contextlib.redirect_stderr(said),
        ):
            try:
                main()
            except SystemExit as ended:
                return int(ended.code or 0), said.getvalue()
        return 0, said.getvalue()


class IssueTest(CommandTest):
    def issue(self, out: Path, *more: object) -> tuple[int, str]:
        return self.run_it("issue", self.pack, "--out", out, "--to", "the auditors", "--by", "Asha", *more)

    def test_a_footed_pack_goes_out_and_an_auditor_checks_it(self) -> None:
        out = self.folder / "issue.zip"
        self.assertEqual(self.run_it("foot", self.pack, "--out", self.pack)[0], 0)
        code, said = self.issue(out)
        self.assertEqual((code, out.exists()), (2, False))
        self.assertIn("Settle it, or say why not", said)
        code, said = self.issue(out, *WHY, "--state", "final", "--files", ",".join(OF_ISSUES))
        self.assertEqual(code, 0, said)
        self.assertIn("issue 1, final, to the auditors", said)
        code, said = self.run_it("verify", out)
        self.assertEqual(code, 0, said)
        self.assertIn("No plan is less", said)
        self.assertIn("Open when it went out", said)
        self.assertIn("Does not hold: nothing.", said)
        self.assertIn("Anyone can write that", said)
        self.assertEqual(self.issue(out, *WHY)[0], 2, "nothing is written over")
        out = self.folder / "short.zip"
        self.assertEqual(self.issue(out, *WHY, "--state", "final", "--files", "html,csv,record")[0], 0)
        told = json.loads(self.run_it("verify", out, "--json", "--digest", digest_of(out.read_bytes()))[1])
        self.assertEqual((told["does_not_hold"], told["issue"]["state"]), ([], "final"))
        self.assertEqual((told["digest"], len(told["not_shown"])), (digest_of(out.read_bytes()), 1))
        code, said = self.run_it("verify", out, "--digest", "0" * 64)
        self.assertEqual((code, "SHA-256" in said), (1, True))
        offered = " ".join(self.run_it("issue", "--help")[1].split())
        self.assertIn(f"What goes out: {', '.join(OF_ISSUES)}.", offered)

    def test_it_is_sealed_by_those_who_vouch_for_it(self) -> None:
        out, key, beside = (self.folder / name for name in ("issue.zip", "asha.key", "bo.jws"))
        self.assertEqual(self.issue(out, *WHY)[0], 0)
        digest = digest_of(out.read_bytes())
        code, said = self.run_it("key", "new", "--name", "Asha Rao", "--out", key)
        self.assertEqual((code, key.stat().st_mode & 0o777), (0, 0o600), said)
        self.assertEqual(
            self.run_it("key", "new", "--name", "Asha", "--out", key)[0], 2, "none is written over"
        )
        nowhere = self.folder / "link.key"
        nowhere.symlink_to(self.folder / "no such folder" / "key")
        self.assertEqual(self.run_it("key", "new", "--name", "Asha", "--out", nowhere)[0], 2)
        self.assertFalse((self.folder / "link.key.pub").exists(), "both keys or neither")
        long = self.folder / ("k" * 252)  # with .pub it is longer than a file system allows
        code, said = self.run_it("key", "new", "--name", "Asha", "--out", long)
        self.assertEqual((code, "too long" in said, long.exists()), (2, True, False), said)
        code, said = self.issue(long.with_name("k" * 256), *WHY)
        self.assertEqual((code, "too long" in said), (2, True), said)
        code, said = self.run_it("serve", "--house-styles", "k" * 256)
        self.assertEqual((code, "too long" in said), (2, True), said)
        public = self.folder / "asha.key.pub"
        self.assertEqual(self.run_it("verify", out, "--signed-by", public)[0], 1, "it has no seal yet")
        code, said = self.run_it("seal", out, "--key", key)
        self.assertEqual(code, 0, said)
        self.assertNotIn("can be read by others", said)
        self.run_it(
            "key", "new", "--name", "Bo Lind", "--out", self.folder / "bo.key", "--until", "2999-12-31"
        )
        (self.folder / "bo.key").chmod(0o644)
        code, said = self.run_it(
            "seal", out, "--key", self.folder / "bo.key", "--as", "reviewed", "--out", beside
        )
        self.assertEqual((code, "can be read by others" in said), (0, True), said)
        both = ("--signed-by", public, "--signed-by", self.folder / "bo.key.pub", "--seal", beside)
        code, said = self.run_it("verify", out, *both, "--digest", digest)
        self.assertEqual(code, 0, said)
        self.assertIn("prepared by the key of Asha Rao", said)
        self.assertIn("reviewed by the key of Bo Lind", said)
        self.assertIn("Not shown here: nothing.", said)
        self.assertEqual(self.run_it("seal", out, "--key", public)[0], 2, "a public key seals nothing")
        out.write_bytes(out.read_bytes()[:-1] + b"x")
        self.assertEqual(self.run_it("seal", out, "--key", key)[0], 2)

    def test_versions_of_a_house_style_are_told_apart(self) -> None:
        one, two = self.folder / "one.json", self.folder / "two.json"
        rule = {"id": "house", "name": "House", "clauses": {"scale": "lakhs"}}
        for file, scale in ((one, "lakhs"), (two, "crores")):
            told = {
                "kind": "humble-sum/rulebook",
                "version": 1,
                "rules": [rule | {"clauses": {"scale": scale}}],
            }
            file.write_text(json.dumps(told), encoding="utf-8")
        self.assertEqual(self.run_it("diff", one, one), (0, "They are the same.\n"))
        self.assertEqual(self.run_it("diff", one, two), (1, "House: scale crores, was lakhs\n"))
        self.assertEqual(self.run_it("diff", one, self.pack)[0], 2)

    def test_what_changed_since_is_told(self) -> None:
        out = self.folder / "issue.zip"
        self.assertEqual(self.issue(out, *WHY)[0], 0)
        self.assertEqual(self.run_it("diff", out, self.pack)[0], 0)
        changed = self.pack.read_text(encoding="utf-8").replace("184374651.40", "184974651.40")
        self.pack.write_text(changed, encoding="utf-8")
        code, said = self.run_it("diff", out, self.pack)
        self.assertEqual(code, 1)
        self.assertIn("Passenger fares, 2025–26 in Income: 1,850 was 1,844, amount changed", said)
        self.assertIn("figures print differently", said)

    def test_all_of_an_edition_is_written_into_a_new_folder(self) -> None:
        folder = self.folder / "all"
        code, said = self.run_it("render", self.pack, "--all", "--edition", "Board", "--out", folder)
        self.assertEqual(code, 0, said)
        names = {each.name for each in folder.iterdir()}
        self.assertEqual(len(said.splitlines()), len(names))
        self.assertTrue({"income.csv", "income.xlsx", "workbook-printed.xlsx", "pack.json"} <= names)
        self.assertTrue(any(name.startswith("dashboard-") for name in names))
        self.assertIn("33.4", (folder / "income.csv").read_text(encoding="utf-8-sig"))
        self.assertEqual(self.run_it("render", self.pack, "--all", "--out", folder)[0], 2)
        self.assertEqual(self.run_it("render", self.pack, "--all")[0], 2)

    def test_what_is_left_untagged_is_told(self) -> None:
        change = {"kind": "set_clause", "statement": "income", "line": "salv", "column": "y25"}
        change |= {"clause": "rounds_away", "value": "less_than"}
        self.assertEqual(self.run_it("change", self.pack, json.dumps(change), "--out", self.pack)[0], 0)
        code, said = self.run_it("render", self.pack, "--to", "xbrl", "--out", self.folder / "x.zip")
        self.assertEqual(code, 0, said)
        self.assertIn("left untagged: Salvage settlement", said)

    def test_spoiled_containers_and_none_are_refused(self) -> None:
        for name, data in (("a.zip", b""), ("b.zip", b"PK\x03\x04"), ("c.zip", b"{}")):
            (self.folder / name).write_bytes(data)
            self.assertEqual(self.run_it("verify", self.folder / name)[0], 2)
        self.assertEqual(self.issue(self.folder / "x.zip", "--why", "whole")[0], 2)
        self.assertEqual(self.issue(self.folder / "x.zip", "--edition", "None")[0], 2)
        self.assertFalse((self.folder / "x.zip").exists())


if __name__ == "__main__":
    unittest.main()


class StylesTest(CommandTest):
    def test_a_folder_of_house_styles_says_who_follows_what(self) -> None:
        folder = self.folder / "styles"
        code, said = self.run_it("styles", folder)
        self.assertEqual((code, "no such folder" in said), (2, True))
        for version in (1, 2):
            code, said = self.run_it("styles", folder, self.pack, "--keep", "Ferries, statutory")
            self.assertEqual((code, f"version {version}" in said), (0, True), said)
        follow = json.dumps(
            {
                "kind": "follow_style",
                "statement": "income",
                "rulebook": json.loads((folder / "ferries-statutory-1.json").read_bytes()),
            }
        )
        follower = self.folder / "follower.json"
        self.assertEqual(self.run_it("change", self.pack, follow, "--out", follower)[0], 0)
        code, said = self.run_it("styles", folder, self.pack, follower)
        self.assertEqual(code, 1)
        self.assertIn("pack.json: follows no house style", said)
        self.assertIn("follower.json: follows Ferries, statutory, version 1; version 2 is there", said)
        self.assertIn("says the same", said)
        (folder / "ferries-statutory-2.json").unlink()
        self.assertEqual(self.run_it("styles", folder, follower)[0], 0)
        (folder / "other.json").write_text("{}")
        code, said = self.run_it("styles", folder)
        self.assertEqual((code, "wrong: other.json" in said), (1, True))
        self.assertEqual(self.run_it("styles", folder, "--keep", "None")[0], 2)
