"""House styles that packs share: what a version takes the place of, and what is said otherwise."""

import os
import tempfile
import unittest
from pathlib import Path
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.rules.house_style import HouseStyle, own_words, taken_from
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.pack_json import read_pack, write_pack
from humble_sum.exchange.rulebook_json import write_rulebook
from humble_sum.exchange.style_folder import keep_version, read_styles
from humble_sum.records.demo import demo_pack
from tests.making import rule

REACHES = st.sampled_from([Reach(), Reach(kind="total"), Reach(line="net"), Reach(editions=("Board",))])
SCALES = st.sampled_from(["ones", "lakhs", "crores"])


@st.composite
def rules(draw: st.DrawFn) -> tuple[Rule, ...]:
    ids = draw(st.lists(st.sampled_from(["a", "b", "c", "rule-1", "rule-2", "rule-3"]), unique=True))
    return tuple(rule(id, {"scale": draw(SCALES)}).model_copy(update={"reach": draw(REACHES)}) for id in ids)


def followed(pack: Pack, version: int, *rules: Rule) -> tuple[Pack, str]:
    file = {
        "house_style": {"name": "Ferries", "version": version},
        "rules": [each.model_dump(mode="json") | {"clauses": each.clauses.spelled()} for each in rules],
    }
    change = read_change({"kind": "follow_style", "statement": "income", "rulebook": file})
    return apply(prove_pack(pack), change)


class FollowingTest(unittest.TestCase):
    @given(rules(), rules(), rules())
    def test_a_new_version_takes_the_place_of_the_last_and_of_nothing_else(
        self, own: tuple[Rule, ...], first: tuple[Rule, ...], second: tuple[Rule, ...]
    ) -> None:
        one, style = taken_from(Rulebook(rules=own), first, HouseStyle(name="S", version=1), None)
        two, again = taken_from(one, second, HouseStyle(name="S", version=2), style)
        for book, given_, follows in ((one, first, style), (two, second, again)):
            self.assertEqual(book.rules[: len(given_)], given_)
            self.assertEqual(follows.rules, tuple(each.id for each in given_))
            ids = [each.id for each in book.rules]
            self.assertEqual(len(ids), len(set(ids)))
        # What is the pack's own says the same as before, whatever its id has become.
        others = [each for each in one.rules if each.id not in style.rules]
        kept = [each for each in two.rules if each.id not in again.rules]
        said = [(each.name, each.reach, each.clauses) for each in others if each not in second]
        self.assertEqual([(each.name, each.reach, each.clauses) for each in kept], said)
        self.assertEqual(len(own_words(one, style, Rulebook(rules=first))), len(others))

    def test_what_a_pack_says_otherwise_is_said(self) -> None:
        house = rule("house", {"scale": "crores"})
        pack, says = followed(demo_pack(), 1, house, rule("gone", {"scale": "ones"}, line="nowhere"))
        self.assertEqual(
            says, "Follows Ferries, version 1; left out, as their lines or columns are not here: gone"
        )
        assert pack.follows is not None
        everywhere = [each for each in pack.rulebook.rules if each.reach == Reach()]
        self.assertEqual(everywhere, [house])
        style = Rulebook(rules=(house,))
        own = Rulebook(rules=tuple(each for each in pack.rulebook.rules if each.id != "house"))
        self.assertEqual(len(own_words(pack.rulebook, pack.follows, style)), len(own.rules))
        changed = Rulebook(rules=(rule("house", {"scale": "millions"}), *own.rules))
        self.assertIn("house: scale millions, was crores", own_words(changed, pack.follows, style))
        # The file keeps it; who takes another rulebook whole follows nothing any more.
        self.assertEqual(read_pack(write_pack(pack)).follows, pack.follows)
        use = {"kind": "use_rulebook", "statement": "income", "rulebook": {"rules": []}}
        self.assertIsNone(apply(prove_pack(pack), read_change(use)).pack.follows)
        left, _ = apply(prove_pack(pack), read_change({"kind": "leave_style", "statement": "income"}))
        self.assertEqual((left.follows, left.rulebook), (None, pack.rulebook))
        with self.assertRaises(InputError):
            apply(prove_pack(left), read_change({"kind": "leave_style", "statement": "income"}))

    def test_amounts_stay_in_their_own_currency(self) -> None:
        here = rule("house", {"currency": "EUR", "scale": "crores"})
        there = rule("parent", {"currency": "EUR"}).model_copy(update={"reach": Reach(editions=("Parent",))})
        self.assertEqual(demo_pack().currency, "INR")
        pack, says = followed(demo_pack(), 1, here, there)
        self.assertIn("the amounts are in INR", says)
        said = {each.id: each.clauses.named().get("currency") for each in pack.rulebook.rules}
        self.assertEqual((said["house"], said["parent"]), ("INR", "EUR"))

    def test_a_rulebook_that_is_no_house_style_is_not_followed(self) -> None:
        unnamed: dict[str, Any] = {"house_style": {"name": " ", "version": 1}, "rules": []}
        plain: dict[str, Any] = {"rules": []}
        unseen: dict[str, Any] = {"house_style": {"name": "a\x00b", "version": 1}, "rules": []}
        for file in (unnamed, plain, unseen):
            change = read_change({"kind": "follow_style", "statement": "income", "rulebook": file})
            with self.assertRaises(InputError):
                apply(prove_pack(demo_pack()), change)


class FolderTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "styles"

    def keep(self, version: int, *rules: Rule, name: str = "Ferries, statutory") -> Path:
        return keep_version(self.folder, HouseStyle(name=name, version=version), Rulebook(rules=rules))

    def test_versions_are_kept_once_and_read_back_in_order(self) -> None:
        self.assertEqual(read_styles(self.folder).styles, ())
        first, second = rule("house", {"scale": "lakhs"}), rule("house", {"scale": "crores"})
        self.keep(9, first)
        self.keep(10, second)
        self.keep(1, first, name="Ferries statutory")  # the same words for a file, and another style
        found = read_styles(self.folder)
        said = [(each.style.name, each.style.version) for each in found.styles]
        expected = [("Ferries statutory", 1), ("Ferries, statutory", 9), ("Ferries, statutory", 10)]
        self.assertEqual((said, found.faults), (expected, ()))
        self.assertEqual(found.changes(found.styles[2]), ["house: scale crores, was lakhs"])
        self.assertEqual(found.newest("Ferries, statutory"), found.styles[2])
        self.assertEqual(found.styles[1].rulebook, Rulebook(rules=(first,)))
        for version in (8, 9, 10):
            with self.assertRaises(InputError) as caught:
                self.keep(version, second)
            self.assertIn("version 11", str(caught.exception))
        self.assertEqual(len(list(self.folder.iterdir())), 3, "nothing half written is left")

    def test_what_cannot_be_read_is_named_and_the_rest_is_offered(self) -> None:
        self.keep(1, rule("house", {"scale": "lakhs"}))
        style = HouseStyle(name="Ferries, statutory", version=1)
        (self.folder / "twice.json").write_bytes(write_rulebook(Rulebook(), style))
        (self.folder / "plain.json").write_bytes(write_rulebook(Rulebook()))
        (self.folder / "broken.json").write_bytes(b'{"rules": [')
        (self.folder / "large.json").write_bytes(b" " * 2_000_001)
        (self.folder / "folder.json").mkdir()
        os.mkfifo(self.folder / "pipe.json")  # which nobody ever writes to
        (self.folder / "notes.txt").write_text("not looked at")
        found = read_styles(self.folder)
        self.assertEqual([each.style for each in found.styles], [style])
        self.assertEqual(
            {fault.where for fault in found.faults},
            {"twice.json", "plain.json", "broken.json", "large.json", "folder.json", "pipe.json"},
        )
        # A file that is changed is read again.
        (self.folder / "plain.json").write_bytes(
            write_rulebook(Rulebook(), HouseStyle(name="Plain", version=1))
        )
        self.assertIsNotNone(read_styles(self.folder).newest("Plain"))
