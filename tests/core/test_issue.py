"""The last checks, and how two states of a pack differ in print."""

from __future__ import annotations

import unittest
from typing import Any

from humble_sum.core.errors import InputError
from humble_sum.core.issue.checklist import checklist
from humble_sum.core.issue.differences import differences, same
from humble_sum.core.issue.issue import recorded
from humble_sum.core.issue.last_check import Check, Open
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.pack import Pack
from tests.making import pack, rule, statement

WHOLE = {"decimals": {"fixed": 0}, "form": "amount"}


def made(a: str | None = "1.4", b: str = "1.3", clauses: dict[str, Any] = WHOLE, **more: Any) -> Pack:
    of = statement({"a": [a], "b": [b]}, {"t": ["a", "b"]}, columns=("now",))
    return pack(of, rule("house", clauses), **more)


def checks(of: PackProof, **more: Any) -> dict[str, Check]:
    return {check.id: check for check in checklist(of, (), **more)}


def nudge(pack: Pack, line: str, units: int, reason: str = "So that it adds") -> Pack:
    told = {"statement": pack.statements[0].id, "line": line, "column": "now", "units": units}
    told |= {
        "exponent": 0,
        "natural": 1,
        "reason": reason,
        "plan": "least",
        "author": "",
        "made": "2026-05-04T09:30:00+00:00",
    }
    return Pack.model_validate(pack.model_dump(mode="json") | {"nudges": [told]})


class ChecklistTest(unittest.TestCase):
    def test_gaps_are_open_with_a_place_and_a_command(self) -> None:
        sums = checks(prove_pack(made()))["sums"]
        self.assertEqual(len(sums.open), 1)
        self.assertEqual(sums.open[0].statement, made().statements[0].id)
        assert sums.settle is not None
        self.assertEqual(sums.settle.kind, "foot")
        footed = checks(prove_pack(nudge(made(), "a", 2)))
        self.assertTrue(footed["sums"].holds and footed["reasons"].holds)
        self.assertIsNone(footed["sums"].settle)

    def test_a_nudge_without_a_reason_is_open(self) -> None:
        self.assertFalse(checks(prove_pack(nudge(made(), "a", 2, "")))["reasons"].holds)

    def test_a_missing_part_is_open_and_a_break_is_open(self) -> None:
        self.assertFalse(checks(prove_pack(made(a=None)))["whole"].holds)
        of = statement({"a": ["1"], "b": ["1"]}, {"t": ["a", "b"]}, columns=("now",), stated={"t": ["3"]})
        broken = pack(of, rule("house", WHOLE))
        self.assertFalse(checks(prove_pack(broken))["breaks"].holds)

    def test_what_is_moved_to_zero_or_over_it_is_open(self) -> None:
        self.assertFalse(checks(prove_pack(nudge(made(a="0.6"), "a", 0)))["signs"].holds)
        self.assertTrue(checks(prove_pack(nudge(made(), "a", 2)))["signs"].holds)

    def test_what_is_too_wide_is_open(self) -> None:
        wide = prove_pack(made(a="123456", clauses=WHOLE | {"width": {"most": 3}}))
        found = checks(wide)["readable"]
        self.assertFalse(found.holds)

    def test_published_figures_have_to_print_as_they_were_published(self) -> None:
        of = made().statements[0].id
        pack_proof = prove_pack(made())
        self.assertTrue(checks(pack_proof, published={(of, "a", "now"): "1"})["published"].holds)
        self.assertFalse(checks(pack_proof, published={(of, "a", "now"): "2"})["published"].holds)

    def test_a_scale_that_nobody_names_is_open(self) -> None:
        silent = WHOLE | {"scale": "thousands", "scale_word": "none"}
        self.assertFalse(checks(prove_pack(made(clauses=silent)))["units"].holds)
        named = WHOLE | {"scale": "thousands", "scale_word": "caption"}
        self.assertTrue(checks(prove_pack(made(clauses=named)))["units"].holds)

    def test_what_is_open_needs_a_reason_and_what_holds_keeps_none(self) -> None:
        held, open_ = Check("a", "A", "1"), Check("b", "B", "2", (Open("b1."), Open("b2")))
        with self.assertRaises(InputError) as refused:
            recorded((held, open_), {"b": "  "})
        self.assertIn("b1, and 1 more", str(refused.exception))
        first, second = recorded((held, open_), {"a": "x", "b": " Known. "})
        self.assertEqual((first.reason, second.reason, second.open), ("", "Known.", ("b1.", "b2")))


class DifferencesTest(unittest.TestCase):
    def causes(self, before: Pack, after: Pack) -> dict[str, tuple[str, str]]:
        found = differences(prove_pack(before), prove_pack(after))
        return {each.figure[1]: (each.cause, each.says.partition(",")[0]) for each in found}

    def test_each_figure_that_prints_otherwise_has_its_cause(self) -> None:
        self.assertEqual(
            self.causes(made(), made(a="7.4")), {"a": ("amount", "7 was 1"), "t": ("parts", "9 was 3")}
        )
        self.assertEqual(self.causes(made(), nudge(made(), "a", 2)), {"a": ("nudge", "2 was 1")})
        finer = made(clauses=WHOLE | {"decimals": {"fixed": 1}})
        self.assertEqual({cause for cause, _ in self.causes(made(), finer).values()}, {"rule"})
        self.assertEqual(self.causes(made(), made()), {})

    def test_an_amount_that_prints_the_same_is_no_difference(self) -> None:
        self.assertEqual(self.causes(made(a="1.41"), made(a="1.42")), {})
        self.assertEqual(same(prove_pack(made(a="1.41")), prove_pack(made(a="1.42"))), 3)

    def test_lines_come_and_go(self) -> None:
        of = statement({"a": ["1.4"], "b": ["1.3"], "c": ["9"]}, {"t": ["a", "b"]}, columns=("now",))
        more = pack(of, rule("house", WHOLE))
        self.assertEqual(self.causes(made(), more)["c"][0], "new")
        self.assertEqual(self.causes(more, made())["c"][0], "gone")


if __name__ == "__main__":
    unittest.main()
