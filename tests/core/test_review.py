"""Points and signatures: what prints the same keeps a mark, what prints otherwise lifts it, and nobody signs for
another."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.review.printed_state import printed_statement
from humble_sum.core.review.signatures import brought
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.pack_json import read_pack, write_pack
from tests.every_change import DEMO, GOOD, NOT_YET

SIGN: dict[str, Any] = {"kind": "sign", "role": "prepared", "statements": ["income"]}
OTHERS = [each for each in GOOD if each["kind"] not in NOT_YET and each["kind"] != "put_point"]


def done(
    pack: Pack, said: dict[str, Any], author: str = "Asha", made: str = "2026-05-04T09:30:00+00:00"
) -> Pack:
    return apply(prove_pack(pack), read_change(said), author, made=made).pack


def income(pack: Pack) -> object:
    return printed_statement(pack, prove_pack(pack).proofs["income"])


class SignaturesTest(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.sampled_from(OTHERS), min_size=1, max_size=4))
    def test_a_mark_stands_exactly_while_the_page_prints_as_it_was_signed(
        self, changes: list[dict[str, Any]]
    ) -> None:
        pack = done(DEMO, SIGN)
        signed = income(pack)
        for said in changes:
            try:
                pack = done(pack, said, made="2026-05-05T10:00:00+00:00")
            except InputError:
                continue
            if pack.statement("income") is None:
                self.assertEqual(pack.signatures, ())
                return
            (mark,) = pack.signatures
            self.assertEqual(mark.lifted == "", income(pack) == signed, said)
        self.assertEqual(read_pack(write_pack(pack)), pack)

    def test_what_is_changed_back_stands_again_and_the_first_time_stays(self) -> None:
        pack = done(DEMO, SIGN)
        two = {
            "kind": "correct_amount",
            "statement": "income",
            "line": "fuel",
            "column": "y26",
            "reason": "invoice",
        }
        was = next(line for line in DEMO.statements[0].lines if line.id == "fuel").amounts["y26"]
        later = done(pack, two | {"amount": "-1.25"}, made="first")
        self.assertEqual(later.signatures[0].lifted, "first")
        later = done(later, two | {"amount": "-99000000"}, made="second")
        self.assertEqual(later.signatures[0].lifted, "first")
        self.assertEqual(done(later, two | {"amount": str(was)}, made="third").signatures[0].lifted, "")

    def test_an_edition_and_a_dashboard_are_signed_for_themselves(self) -> None:
        board = {"kind": "sign", "role": "reviewed", "edition": "Board", "statements": ["income"]}
        pack = done(
            done(DEMO, board),
            {"kind": "sign", "role": "reviewed", "edition": "Board", "dashboards": ["board"]},
        )
        rate: dict[str, Any] = {"kind": "set_clause", "statement": "income", "line": "net", "column": "y26"}
        rate |= {"clause": "decimals", "value": {"fixed": 3}}
        edition = apply(prove_pack(in_edition(pack, "Board")), read_change(rate), "Bo", made="now").pack
        page, dashboard = edition.signatures
        self.assertEqual((page.statement, page.lifted != ""), ("income", True))
        self.assertEqual(dashboard.dashboard, "board")
        with self.assertRaises(InputError):
            done(
                DEMO, {"kind": "sign", "role": "reviewed", "dashboards": ["board"]}
            )  # it shows another edition

    def test_nobody_signs_without_a_name_or_for_another(self) -> None:
        with self.assertRaises(InputError) as refused:
            done(DEMO, SIGN, author=" ")
        self.assertEqual(refused.exception.kind, "no-name")
        with self.assertRaises(InputError):
            read_change(SIGN | {"author": "Rita"})
        pack = done(done(DEMO, SIGN), SIGN, author="Bo")
        self.assertEqual({each.author for each in pack.signatures}, {"Asha", "Bo"})
        self.assertEqual(len(done(pack, SIGN).signatures), 2)

    def test_one_that_came_with_a_file_never_counts(self) -> None:
        pack = brought(read_pack(write_pack(done(DEMO, SIGN))))
        check = next(each for each in checks_of(prove_pack(pack)) if each.id == "prepared")
        self.assertIn("Income: the signature of Asha came with a file", [each.says for each in check.open])
        self.assertNotIn("by Asha", check.evidence)


class PointsTest(unittest.TestCase):
    def test_a_point_is_answered_by_a_change_and_settled_and_asked_for_before_an_issue(self) -> None:
        put: dict[str, Any] = {"kind": "put_point"}
        put["on"] = {"statement": "income", "line": "fuel", "column": "y26"}
        pack = done(DEMO, put | {"words": "Is bunkering in here?"}, author="Rita")
        check = next(each for each in checks_of(prove_pack(pack)) if each.id == "points")
        self.assertEqual([each.figure for each in check.open], [("income", "fuel", "y26")])
        (point,) = pack.points
        self.assertEqual((point.author, point.standing), ("Rita", "open"))
        answer = {"kind": "answer_point", "point": point.id, "change": 7, "did": "Fuel corrected"}
        pack = done(pack, answer)
        self.assertEqual((pack.points[0].standing, pack.points[0].answers[0].author), ("answered", "Asha"))
        pack = done(pack, {"kind": "settle_point", "point": point.id}, author="Rita")
        check = next(each for each in checks_of(prove_pack(pack)) if each.id == "points")
        self.assertTrue(check.holds)
        with self.assertRaises(InputError):
            done(pack, {"kind": "answer_point", "point": point.id, "words": "  "})

    def test_a_point_is_on_what_is_there(self) -> None:
        for on in (
            {"statement": "none"},
            {"statement": "income", "line": "none"},
            {"dashboard": "board", "item": "x"},
        ):
            with self.subTest(on), self.assertRaises(InputError):
                done(DEMO, {"kind": "put_point", "on": on, "words": "?"})
        for on in ({"line": "fuel"}, {"statement": "income", "column": "y26"}, {"item": "net"}):
            with self.subTest(on), self.assertRaises(InputError):
                read_change({"kind": "put_point", "on": on, "words": "?"})

    def test_neither_changes_what_prints(self) -> None:
        put: dict[str, Any] = {"kind": "put_point", "on": {}, "words": "All of it?"}
        pack = done(done(DEMO, put), SIGN)
        one, other = prove_pack(DEMO), prove_pack(pack)
        for id, proof in one.proofs.items():
            self.assertEqual(printed_statement(DEMO, proof), printed_statement(pack, other.proofs[id]))
