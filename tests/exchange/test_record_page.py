"""The page of nudges and holds: a row for each, what they share said once, and every word as it is."""

import re
import unittest
from html import unescape

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.exchange.nudges_csv import nudge_rows
from humble_sum.exchange.record_page import held_rows, write_record_page
from tests.making import pack, rule, statement


def nudged() -> PackProof:
    """Three lines of 1.4 that are to add up to 4, one of them called like a formula and a tag."""
    of = statement({"a": ["1.4"], "b": ["1.4"], "c": ["1.4"]}, {"t": ["a", "b", "c"]}, columns=("now",))
    lines = tuple(line.model_copy(update={"label": f"=<{line.id}>"}) for line in of.lines)
    made = pack(of.model_copy(update={"lines": lines}), rule("house", {"decimals": {"fixed": 0}}))
    pack_proof = prove_pack(made)
    for change in (
        {"kind": "hold", "statement": of.id, "line": "c", "column": "now", "reason": "agreed & signed"},
        {"kind": "foot", "statement": of.id},
    ):
        pack_proof = prove_pack(apply(pack_proof, read_change(change)).pack)
    return pack_proof


class RecordPageTest(unittest.TestCase):
    def rows(self, pack_proof: PackProof) -> list[list[str]]:
        page = write_record_page(pack_proof).decode()
        cells = [
            re.findall(r'<(?:td|th scope="row")>(.*?)</t[dh]>', row)
            for row in re.findall(r"<tr>(.*?)</tr>", page)
        ]
        return [[unescape(re.sub("<[^>]*>", "", cell)) for cell in row] for row in cells if row]

    def test_every_nudge_and_hold_has_a_row(self) -> None:
        pack_proof = nudged()
        (nudge,) = nudge_rows(pack_proof)
        (hold,) = held_rows(pack_proof)
        first, second = self.rows(pack_proof)
        self.assertEqual(first[:5], list(nudge[1:6]))
        self.assertTrue(nudge.reason.endswith(first[5]))
        self.assertNotIn(f"Exact {nudge.exact}", first[5])
        self.assertEqual(second, list(hold))
        self.assertIn("agreed & signed", second)
        self.assertTrue(first[0].startswith("=<"), "a page runs no formula, so nothing is put before it")

    def test_losses_are_said_as_shortly(self) -> None:
        of = statement({name: ["-1.4"] for name in "abc"}, {"t": list("abc")}, columns=("now",))
        pack_proof = prove_pack(pack(of, rule("house", {"decimals": {"fixed": 0}, "negative": "brackets"})))
        pack_proof = prove_pack(apply(pack_proof, read_change({"kind": "foot", "statement": of.id})).pack)
        (row,) = self.rows(pack_proof)
        self.assertEqual(row[2:5], ["-1.4", "(1)", "(2)"])
        self.assertTrue(row[5].startswith("Among the closest calls"), row[5])

    def test_what_nudges_share_is_said_once(self) -> None:
        pack_proof = nudged()
        (nudge,) = pack_proof.pack.nudges
        said = nudge.model_copy(update={"author": "A. Rao", "made": "2026-03-31T09:00:00Z"})
        page = write_record_page(prove_pack(pack_proof.pack.model_copy(update={"nudges": (said,)}))).decode()
        self.assertIn("Nudged by A. Rao on 2026-03-31, as the plan says: ", page)
        self.assertEqual(page.count(nudge.plan), 1)
        self.assertIn("1 figure prints another number", page)

    def test_none_is_said(self) -> None:
        of = statement({"a": ["1"]}, {}, columns=("now",))
        page = write_record_page(prove_pack(pack(of))).decode()
        self.assertEqual(page.count("<p>None.</p>"), 2)
        self.assertIn("0 figures print", page)
