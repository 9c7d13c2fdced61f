"""Any change, said in any way and after any other: the pack stays whole, or the change is refused in words."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply, page_of
from humble_sum.core.changes.change_union import COMMANDS, read_change
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.in_edition import base_of, editions_of, in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.validation import check
from humble_sum.exchange.pack_json import read_pack, write_pack
from tests.every_change import DEMO, GOOD, NET, NOT_YET

AWKWARD: list[Any] = [
    None,
    "",
    " ",
    "gone",
    "own",
    "h1",
    "share",
    "\u0000",
    "\u202e",
    "\ud800",
    "x" * 3_000,
    "9" * 60,
    "1e999",
    "NaN",
    -1,
    0,
    10**20,
    1.5,
    True,
    [],
    {},
    [[]],
    ["net", "net"],
    [["y26", 1], ["y26", 1]],
    NET,
    {"fixed": 99},
]


def mutated() -> st.SearchStrategy[dict[str, Any]]:
    """A good change with one thing in it replaced, left out or added."""

    def of(said: dict[str, Any]) -> st.SearchStrategy[dict[str, Any]]:
        fields = sorted((set(said) | set(COMMANDS[said["kind"]].model_fields)) - {"kind"})
        names = st.sampled_from(fields or ["unknown"])
        others = st.sampled_from(GOOD).map(lambda other: next(iter(list(other.values())[1:]), None))
        put = st.tuples(names, st.sampled_from(AWKWARD) | others).map(lambda pair: said | {pair[0]: pair[1]})
        left_out = names.map(lambda name: {key: value for key, value in said.items() if key != name})
        return put | left_out

    return st.sampled_from(GOOD).flatmap(of)


class AnyChangeTest(unittest.TestCase):
    def after(self, start: Pack, said: dict[str, Any]) -> Pack | None:
        """The pack after a change, whole and as its file says; None where it is refused."""
        try:
            done = apply(prove_pack(start), read_change(said))
        except InputError as refused:
            self.assertTrue(refused.faults and all(fault.what for fault in refused.faults), said)
            return None
        self.assertTrue(done.says, said)
        base = base_of(done.pack)
        check(base)
        self.assertEqual(read_pack(write_pack(base)), base, said)
        prove_pack(done.pack)
        return done.pack

    def test_every_kind_is_here_and_can_be_made(self) -> None:
        self.assertEqual({said["kind"] for said in GOOD}, set(COMMANDS))
        for said in GOOD:
            with self.subTest(said["kind"]):
                self.assertEqual(self.after(DEMO, said) is None, said["kind"] in NOT_YET)

    def test_what_is_new_is_signed_and_what_was_there_keeps_its_name(self) -> None:
        pack = DEMO
        for author, said in (
            ("A. Petrel", {"kind": "hold", "statement": "income", "line": "tax", "column": "y26"}),
            ("B. Tern", {"kind": "foot", "statement": "income"}),
            ("C. Gull", {"kind": "hold", "statement": "income", "line": "tax", "column": "y25"}),
        ):
            old = pack
            pack = apply(prove_pack(old), read_change(said), author, made="2026-11-30T07:00:00Z").pack
            self.assertLessEqual(set(old.holds), set(pack.holds))
            new = (set(pack.holds) - set(old.holds)) | (set(pack.nudges) - set(old.nudges))
            self.assertEqual({mark.author for mark in new}, {author})
            self.assertTrue(new, author)

    def test_half_of_a_character_is_refused(self) -> None:
        said = next(each for each in GOOD if "amount" in each)
        with self.assertRaises(InputError) as refused:
            read_change(said | {"amount": "\ud800"})
        self.assertIn("half of a character", str(refused.exception))

    @settings(max_examples=120, deadline=None)
    @given(mutated(), st.sampled_from(editions_of(DEMO)))
    def test_said_wrongly_it_is_refused_or_makes_a_whole_pack(
        self, said: dict[str, Any], edition: str
    ) -> None:
        self.after(in_edition(DEMO, edition), said)

    @settings(max_examples=25, deadline=None)
    @given(st.lists(st.tuples(st.sampled_from(GOOD), st.integers(0, 3)), min_size=2, max_size=5))
    def test_after_any_other_every_edition_still_prints(self, said: list[tuple[dict[str, Any], int]]) -> None:
        now = DEMO
        for each, number in said:
            shown = editions_of(now)
            after = self.after(in_edition(now, shown[number % len(shown)]), each)
            now = base_of(after) if after else now
        for edition in editions_of(now):
            prove_pack(in_edition(now, edition))

    def test_a_change_is_shown_on_its_own_statement_or_the_first(self) -> None:
        on_routes = read_change({"kind": "derive_column", "statement": "routes", "column": "q1", "terms": []})
        self.assertEqual(page_of(DEMO, on_routes), "routes")
        on_none = read_change({"kind": "set_taxonomies", "taxonomies": []})
        self.assertEqual(page_of(DEMO, on_none), DEMO.statements[0].id)
