"""Containers that somebody spoiled and whose manifest was put right again: none is vouched for, and what was
spoiled is named. So it is too where the manifest says that another version or library made the files, which
are then read back; and with a seal none of them passes at all."""

from __future__ import annotations

import io
import re
import unittest
import zipfile
from collections.abc import Sequence
from datetime import UTC, datetime
from functools import cache
from typing import Any

from humble_sum.core.errors import InputError
from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.exchange.containers.container import read_container, with_seal
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.containers.pdf_paint import paint_differences
from humble_sum.exchange.containers.seals import ROLES, make_seal, new_key, read_key, read_public_key
from humble_sum.exchange.containers.verification import verify
from humble_sum.exchange.html import write_edition
from humble_sum.exchange.imprint import Imprint, digest_of
from humble_sum.exchange.paper import set_on_paper
from humble_sum.records.demo import demo_pack
from tests.exchange.made_once import made_once
from tests.exchange.spoils import (
    Spoil,
    parts_of,
    put,
    replaced,
    spoiled,
    spoils_by_kind,
    spoils_of_boards,
    spoils_of_pdfs,
)
from tests.making import CASES, demo_income
from tests.soak import some

MADE = "2026-05-04T09:30:00+00:00"
BOARDS = ("html", "dashboards", "charts")
EARLIER = {"version": "0.0.9"}
OTHER_LIBRARIES = {
    "libraries": dict.fromkeys(("exact", "unit", "printed", "charts", "dashboards"), "another 1.0")
}
# What a file that others made may have otherwise: not what it says, but how it says it.
FREE_OF_OTHERS = {
    "edition.xsd: a label",
    "edition.xsd: a sign of a sum",
    "edition.xsd: a kind",
    "edition.xsd: a time",
    "pack.json: other bytes",
    "manifest.json: a check's evidence",
    "manifest.json: a check called otherwise",
}
# Notes may be others where another version of the program made the workbook.
FREE_NOTES = {f"workbook-{mode}.xlsx: a note" for mode in ("exact", "unit", "printed")}


def setUpModule() -> None:
    unittest.enterModuleContext(made_once())


def issued(pack_proof: PackProof, kinds: tuple[str, ...]) -> bytes:
    reasons = {check.id: "Known." for check in checks_of(pack_proof)}
    return issue(pack_proof, 1, MADE, Wanted("Asha", "the auditors", files=kinds, reasons=reasons))[1]


@cache
def footed() -> PackProof:
    """The income statement alone, footed."""
    pack_proof = prove_pack(demo_income())
    found = plan(pack_proof, made=MADE)
    assert isinstance(found, Plan)
    return prove_pack(pack_proof.pack.model_copy(update={"nudges": found.nudges}))


@cache
def container(*kinds: str) -> bytes:
    """An issue of it with some kinds of files; with few if none are named."""
    return issued(footed(), kinds or ("html", "csv"))


@cache
def boards(edition: str = "own") -> bytes:
    return issued(prove_pack(in_edition(demo_pack(), edition)), BOARDS)


class SpoilsTest(unittest.TestCase):
    def assert_found(self, data: bytes, name: str) -> None:
        """Not vouched for, and told by the name of the file that was spoiled, or refused as altered."""
        try:
            found = verify(data)
        except InputError as refused:
            self.assertTrue(refused.faults)
            return
        self.assertFalse(found.holds, name)
        # A pack that says otherwise makes every other file one that is not of it.
        if not name.startswith(("pack.json", "manifest.json", "seal-1")):
            self.assertIn(name.partition(":")[0], {fault.where for fault in found.faults}, name)

    def assert_all_found(self, data: bytes, spoils: Sequence[tuple[str, Spoil]], **told: Any) -> int:
        for name, spoil in spoils:
            with self.subTest(name, **told):
                self.assert_found(spoiled(data, spoil, **told), name)
        return len(spoils)

    def test_nothing_that_was_spoiled_is_vouched_for(self) -> None:
        many = self.assert_all_found(boards(), [*spoils_of_boards()])
        for kinds, spoils in spoils_by_kind():
            self.assertTrue(verify(container(*kinds)).holds)
            many += self.assert_all_found(container(*kinds), spoils)
        self.assertGreater(many, 120)

    def test_files_of_another_edition_are_found(self) -> None:
        own = parts_of(boards())
        for name, data in parts_of(boards("Board")).items():
            if name in own and data != own[name] and name != "manifest.json":
                with self.subTest(name):
                    self.assert_found(spoiled(boards(), put(name, data)), name)

    def test_nor_where_others_are_said_to_have_made_them(self) -> None:
        """Workbooks of one kind each, as they are read back alike."""
        for kinds, spoils in spoils_by_kind():
            by_others = [each for each in spoils if each[0] not in FREE_OF_OTHERS | FREE_NOTES]
            if kinds[0] not in ("unit", "printed"):
                self.assert_all_found(container(*kinds), some(by_others, 2), **EARLIER)
            if kinds[0] == "exact":
                self.assert_all_found(container(*kinds), some(spoils, 3), **OTHER_LIBRARIES)
        self.assert_all_found(boards(), some(spoils_of_boards(), 2), **OTHER_LIBRARIES)

    def test_what_others_made_is_read_back_and_said(self) -> None:
        """The very same bytes need no reading; others that say the same are told apart from what does not."""

        def looser(parts: dict[str, bytes]) -> None:
            page = "edition.html"
            parts[page] = parts[page].replace(b"</tr>\n<tr", b"</tr>\n\n<tr")

        told = verify(spoiled(container(), looser, **EARLIER))
        self.assertTrue(told.holds)
        self.assertTrue(any("edition.html: made by Humble Sum 0.0.9" in each for each in told.shown))
        self.assertTrue(any(each.startswith("edition.html: ") for each in told.not_shown))
        self.assertFalse(verify(spoiled(container(), looser)).holds)

    def test_charts_drawn_by_another_version_are_read_back(self) -> None:
        """Other places of lines and texts, and the same texts."""

        def redrawn(parts: dict[str, bytes]) -> None:
            for name in parts:
                if name.startswith(("chart-", "dashboard-")):
                    parts[name] = re.sub(rb'd="M ([0-9.]+)', rb'd="M 1\\1', parts[name])

        self.assertEqual(verify(spoiled(boards(), redrawn, **OTHER_LIBRARIES)).faults, [])
        self.assertFalse(verify(spoiled(boards(), redrawn)).holds)

    def test_what_a_later_version_made_is_named_and_not_vouched_for(self) -> None:
        spoil = replaced("edition.html", "Fuel", "Fule")
        found = verify(spoiled(container(), spoil, version="99.0.0"))
        self.assertEqual((found.holds, found.faults), (False, []))
        self.assertIn("edition.html: a later version made it, 99.0.0", " ".join(found.not_shown))

    def test_a_number_that_no_file_says_is_not_shown(self) -> None:
        self.assertIn("Its number", " ".join(verify(container("csv")).not_shown))
        self.assertNotIn("Its number", " ".join(verify(container("html")).not_shown))

    def test_a_container_of_the_first_format_is_read_back(self) -> None:
        """Version 0.1.0 made it of the same income statement, footed."""
        data = (CASES / "issue-format-1.zip").read_bytes()
        found = verify(data)
        self.assertEqual((found.faults, found.holds), ([], True))
        self.assertEqual((found.issue.number, found.digest), (1, digest_of(data)))
        self.assertTrue(any("made by Humble Sum 0.1.0" in each for each in found.shown))
        self.assertTrue(any(each.startswith("edition.xsd") for each in found.not_shown))
        for name in ("edition.html", "record.html", "edition.xhtml", "statement-1.csv"):
            with self.subTest(name):
                self.assert_found(spoiled(data, replaced(name, "Fuel", "Fule")), name)

    def test_a_workbook_packed_otherwise_is_the_same(self) -> None:
        def packed(level: int, more: bytes = b"", remark: bytes = b"") -> Spoil:
            def spoil(parts: dict[str, bytes]) -> None:
                name, out = "workbook-exact.xlsx", io.BytesIO()
                with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=level) as book:
                    for part, data in parts_of(parts[name]).items():
                        book.writestr(part, data)
                    book.comment = remark
                parts[name] = out.getvalue() + more

            return spoil

        self.assertTrue(verify(spoiled(container("exact"), packed(1))).holds)
        for spoil in (packed(1, more=b"x"), packed(1, remark=b"x")):
            self.assertFalse(verify(spoiled(container("exact"), spoil)).holds)


class PaperSpoilsTest(unittest.TestCase):
    def test_a_pdf_that_was_spoiled_is_found_even_where_other_fonts_are_said_to_have_set_it(self) -> None:
        pack_proof = prove_pack(demo_income())
        imprint = Imprint("Statutory", 1, "draft", "0" * 64)
        made = set_on_paper(write_edition(pack_proof, paper=True, imprint=imprint)).data
        self.assertEqual(paint_differences(made, made)[0], [])
        for name, spoil in some(spoils_of_pdfs("edition.pdf"), 2):
            parts = {"edition.pdf": made}
            spoil(parts)
            with self.subTest(name):
                self.assertTrue(paint_differences(parts["edition.pdf"], made)[0])
        with self.subTest("no PDF"):
            self.assertTrue(paint_differences(b"%PDF-1.7\nno", made)[0])

    def test_by_its_bytes_where_it_was_set_here(self) -> None:
        data = issued(prove_pack(demo_income()), ("pdf", "record"))
        self.assertTrue(verify(data).holds)
        name, spoil = next(each for each in spoils_of_pdfs("record.pdf") if "over" in each[0])
        changes: list[dict[str, Any]] = [{}, {"libraries": {}}, dict(EARLIER)]
        for told in some(changes, 2):
            found = verify(spoiled(data, spoil, **told))
            with self.subTest(name, **told):
                self.assertFalse(found.holds)
                self.assertEqual({fault.where for fault in found.faults}, {"record.pdf"})


class SealsTest(unittest.TestCase):
    NOW = datetime(2026, 5, 5, tzinfo=UTC)

    def test_a_seal_says_by_whom_and_fails_on_anything_else(self) -> None:
        private, public = new_key("Asha Rao")
        _, other = new_key("Bo Lind")
        opened = read_container(container())
        sealed = with_seal(opened, make_seal(opened.manifest, read_key(private), "prepared", self.NOW))
        asha, bo = read_public_key(public), read_public_key(other)
        found = verify(sealed, signed_by=[asha])
        self.assertTrue(found.holds)
        self.assertTrue(any("prepared by the key of Asha Rao" in each for each in found.shown))
        self.assertEqual((found.digest, found.not_shown), (opened.digest, []))
        plain = verify(sealed)
        self.assertTrue(plain.holds)
        self.assertIn("calls itself Asha Rao", " ".join(plain.not_shown))
        for data, keys, said in (
            (container(), [asha], "Nothing is sealed with the key of Asha Rao"),
            (sealed, [bo], "Nothing is sealed with the key of Bo Lind"),
            (sealed, [asha, bo], "Nothing is sealed with the key of Bo Lind"),
        ):
            found = verify(data, signed_by=keys)
            self.assertIn(said, " ".join(map(str, found.faults)))

    def test_several_seals_in_it_and_beside_it(self) -> None:
        opened = read_container(container())
        keys = [new_key(name) for name in ("Asha", "Bo", "Cy")]
        seals = [
            make_seal(opened.manifest, read_key(private), role, self.NOW)
            for (private, _), role in zip(keys, ROLES, strict=True)
        ]
        once = with_seal(opened, seals[0])
        twice = with_seal(read_container(once), seals[1])
        public = [read_public_key(key) for _, key in keys]
        found = verify(twice, signed_by=public, seals=[seals[2]])
        self.assertTrue(found.holds, found.faults)
        self.assertEqual([seal.role for seal in found.seals], ["prepared", "reviewed", "approved"])
        self.assertTrue(verify(twice, digest=opened.digest).holds)
        self.assertFalse(verify(twice, digest="0" * 64).holds)

    def test_a_seal_of_another_container_or_of_a_spoiled_one_is_none(self) -> None:
        private, public = new_key("Asha")
        opened = read_container(boards())
        foreign = make_seal(opened.manifest, read_key(private), "prepared", self.NOW)
        for data in (
            with_seal(read_container(container()), foreign),
            *(
                with_seal(read_container(spoiled(boards(), spoil)), foreign)
                for _, spoil in some(spoils_of_boards(), 5)
            ),
        ):
            found = verify(data, signed_by=[read_public_key(public)])
            self.assertIn("is not over this manifest", " ".join(map(str, found.faults)))

    def test_a_key_is_good_for_its_time(self) -> None:
        ends = datetime(2026, 6, 1, tzinfo=UTC)
        private, public = new_key("Asha", ends)
        opened = read_container(container())
        seal = make_seal(opened.manifest, read_key(private), "prepared", self.NOW)
        key = read_public_key(public)
        self.assertTrue(verify(container(), signed_by=[key], seals=[seal], now=self.NOW).holds)
        late = verify(container(), signed_by=[key], seals=[seal], now=datetime(2026, 6, 2, tzinfo=UTC))
        self.assertIn("good until 2026-06-01", " ".join(map(str, late.faults)))
        with self.assertRaises(InputError) as refused:
            make_seal(opened.manifest, read_key(private), "prepared", datetime(2026, 6, 2, tzinfo=UTC))
        self.assertIn("good until 2026-06-01", str(refused.exception))

    def test_keys_and_seals_that_are_none_are_refused(self) -> None:
        private, public = new_key("Asha")
        for data in (b"", b"{}", b"not json", public.replace(b'"name": "Asha"', b'"name": ""')):
            with self.subTest(data[:20]), self.assertRaises(InputError):
                read_public_key(data)
        with self.assertRaises(InputError):
            read_key(public)
        _, other = new_key("Bo")
        swapped = public.replace(read_public_key(public).id.encode(), read_public_key(other).id.encode())
        with self.assertRaises(InputError):
            read_public_key(swapped)
        for name in ("", " ", "x" * 201):
            with self.assertRaises(InputError):
                new_key(name)
        for seal in (b"", b"x.y.z", b"\xff", b"e30..e30", private):
            found = verify(container(), seals=[seal])
            self.assertFalse(found.holds, seal[:20])

    def test_what_is_there_twice_or_in_another_order_is_refused(self) -> None:
        parts = list(parts_of(container()).items())
        for entries in (
            [*parts, parts[0]],
            [*parts, parts[-1]],
            [parts[1], parts[0], *parts[2:]],
        ):
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as packed:
                for name, data in entries:
                    packed.writestr(name, data)
            with self.assertRaises(InputError):
                verify(out.getvalue())


if __name__ == "__main__":
    unittest.main()
