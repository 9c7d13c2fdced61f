"""Containers: the same issue is the same bytes; what was spoiled is found; and sums in workbooks are live."""

from __future__ import annotations

import hashlib
import io
import json
import re
import unittest
import zipfile
from collections.abc import Callable
from decimal import Decimal
from functools import cache
from typing import Any

from openpyxl import load_workbook

from humble_sum.core.errors import InputError
from humble_sum.core.footing.certificate import Rejected, certify
from humble_sum.core.footing.kept_plan import verify_kept
from humble_sum.core.footing.plan import Plan, plan, problem_of
from humble_sum.core.footing.problem_json import foot_in_time
from humble_sum.core.footing.solver.deadline import until
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.in_edition import editions_of, in_edition
from humble_sum.exchange.containers.archive import write_archive
from humble_sum.exchange.containers.container import read_container
from humble_sum.exchange.containers.issue_files import certificate_of
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.manifest import MANIFEST
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.containers.verification import verify
from humble_sum.exchange.edition_workbook import MODES, figure_places, value_in, write_workbook
from humble_sum.exchange.formats import OF_ISSUES
from humble_sum.exchange.imprint import digest_of
from humble_sum.exchange.sources.progress import Stopped
from humble_sum.records.demo import demo_pack
from tests.exchange.made_once import made_once
from tests.making import pack, rule, statement

Parts = dict[str, bytes]
MADE = "2026-05-04T09:30:00+00:00"


@cache
def footed(edition: str = "own") -> PackProof:
    pack_proof = prove_pack(in_edition(demo_pack(), edition))
    found = plan(pack_proof, made=MADE)
    assert isinstance(found, Plan)
    return prove_pack(pack_proof.pack.model_copy(update={"nudges": found.nudges}))


PAPERLESS = tuple(choice for choice in OF_ISSUES if choice != "pdf")  # paper takes most of the time


def issued(pack_proof: PackProof, files: tuple[str, ...] = PAPERLESS) -> bytes:
    reasons = {check.id: "Known." for check in checks_of(pack_proof)}
    return issue(pack_proof, 1, MADE, Wanted("Asha", "the auditors", files=files, reasons=reasons))[1]


@cache
def container() -> bytes:
    return issued(footed())


@cache
def quick() -> bytes:
    return issued(footed(), ("html", "csv"))


def repacked(change: Callable[[Parts], object]) -> bytes:
    """The container with its files changed by whoever does not know their digests."""
    with zipfile.ZipFile(io.BytesIO(container())) as old:
        parts = {name: old.read(name) for name in old.namelist()}
    change(parts)
    return write_archive(parts.items())


def forged(parts: Parts, name: str, was: bytes, now: bytes) -> None:
    """A file changed by whoever does know, digest and all."""
    assert was in parts[name], name
    parts[name] = parts[name].replace(was, now, 1)
    told = json.loads(parts[MANIFEST])
    for each in told["files"]:
        if each["name"] == name:
            each |= {"sha256": hashlib.sha256(parts[name]).hexdigest(), "size": len(parts[name])}
    parts[MANIFEST] = as_written(told)


def as_written(told: object) -> bytes:
    return (json.dumps(told, ensure_ascii=False, sort_keys=True, indent=1) + "\n").encode()


def restated(**said: object) -> Callable[[Parts], None]:
    def change(parts: Parts) -> None:
        parts[MANIFEST] = as_written(json.loads(parts[MANIFEST]) | said)

    return change


class ContainerTest(unittest.TestCase):
    def test_the_same_issue_is_the_same_file(self) -> None:
        """Papers are compared when it is verified, which sets them again."""
        pack_proof = issued(footed(), tuple(OF_ISSUES))
        self.assertEqual(issued(footed()), issued(prove_pack(footed().pack)))
        found = verify(pack_proof)
        self.assertEqual((found.faults, found.holds, found.digest), ([], True, digest_of(pack_proof)))
        self.assertTrue(any("No plan is less" in each for each in found.shown))
        for kind in OF_ISSUES.values():
            self.assertTrue(any(each.startswith(kind.label) for each in found.shown), kind.label)
        self.assertEqual(len(found.not_shown), 1, "who made it and when")

    def test_each_kind_is_told_and_it_can_be_stopped(self) -> None:
        told: list[tuple[int, int, str]] = []
        found = verify(quick(), lambda *said: told.append(said))
        self.assertEqual([done for done, _, _ in told], list(range(len(told))))
        self.assertEqual({pack_proof for _, pack_proof, _ in told}, {len(told)})
        self.assertEqual([what for _, _, what in told], [OF_ISSUES[kind].label for kind in found.issue.kinds])

        def stop(*_: object) -> None:
            raise Stopped

        with self.assertRaises(Stopped):
            verify(quick(), stop)

    def test_an_issue_of_every_edition_holds(self) -> None:
        """What was open when it went out, with its reason, is told and is no fault."""
        for edition in editions_of(demo_pack())[1:]:
            pack_proof = prove_pack(in_edition(demo_pack(), edition))
            with self.subTest(edition=edition):
                told = verify(issued(pack_proof, ("html", "csv")))
                self.assertEqual(told.faults, [])
                gaps = sum(pack_proof.count(id, "gap") for id in pack_proof.proofs)
                opened = {check.id for check in told.open}
                self.assertEqual(bool(gaps), bool(opened & {"sums", "ties"}))

    def test_what_was_spoiled_is_refused(self) -> None:
        at = len(container()) // 3
        flipped = bytes([container()[at] ^ 1])
        spoiled = {
            "a byte": container()[:at] + flipped + container()[at + 1 :],
            "cut": container()[:-60],
            "none": b"",
            "no zip": b"PK\x03\x04 and nothing",
            "missing": repacked(lambda parts: parts.pop("edition.html")),
            "added": repacked(lambda parts: parts.update({"more.txt": b"x"})),
            "climbing": repacked(lambda parts: parts.update({"../../x": b"x"})),
            "no manifest": repacked(lambda parts: parts.pop(MANIFEST)),
            "newer": repacked(restated(format=3)),
            "other": repacked(restated(kind="humble-sum/pack")),
            "unknown": repacked(restated(extra=1)),
            "changed": repacked(lambda parts: parts.update({"figures.csv": parts["figures.csv"] + b"\r\n"})),
        }
        for at in range(0, len(quick()), len(quick()) // 60):
            spoiled[f"a byte at {at}"] = quick()[:at] + bytes([quick()[at] ^ 0x55]) + quick()[at + 1 :]
        for name, data in spoiled.items():
            with self.subTest(name=name), self.assertRaises(InputError) as refused:
                verify(data)
            self.assertTrue(all(fault.what for fault in refused.exception.faults))

    def test_more_than_is_stated_is_never_unpacked(self) -> None:
        def swell(parts: Parts) -> None:
            parts["figures.csv"] = bytes(40_000_000)

        with self.assertRaises(InputError) as refused:
            read_container(repacked(swell))
        self.assertIn("digest", str(refused.exception))
        sizes = json.loads(zipfile.ZipFile(io.BytesIO(container())).read(MANIFEST))["files"]
        vast = [each | {"size": 10**10} for each in sizes]
        with self.assertRaises(InputError):
            read_container(repacked(restated(files=vast)))

    def test_what_was_forged_is_found(self) -> None:
        cases = {
            "figures.csv": (b"184374651.40,", b"184374651.41,"),
            "pack.json": (b'"184374651.40"', b'"184474651.40"'),
            "edition.html": (b"1,844", b"1,845"),
            "statement-1.csv": (b"1,844", b"1,845"),
            "record.csv": (b"Night freight", b"Day freight"),
            "certificate.json": (b'"printed": {', b'"printed": {"x": 1, '),
        }
        for name, (was, now) in cases.items():
            with self.subTest(name=name), made_once():
                found = verify(repacked(lambda parts, n=name, w=was, o=now: forged(parts, n, w, o)))  # type: ignore[misc]
                self.assertTrue(found.faults)

    def test_a_certificate_of_another_plan_is_no_proof(self) -> None:
        """The best plan's certificate beside a pack that keeps a dearer one that foots as well."""
        of = statement({"a": ["1.4"], "b": ["1.3"]}, {"t": ["a", "b"]}, columns=("now",))
        pack_proof = prove_pack(pack(of, rule("house", {"decimals": {"fixed": 0}})))
        best = plan(pack_proof, made=MADE)
        assert isinstance(best, Plan)
        (nudge,) = best.nudges
        other = nudge.model_copy(update={"line": "b" if nudge.line == "a" else "a"})
        kept, dearer = (
            prove_pack(pack_proof.pack.model_copy(update={"nudges": (each,)})) for each in (nudge, other)
        )
        certificate = certificate_of(kept)
        assert certificate is not None
        self.assertTrue(verify_kept(kept, certificate))
        self.assertEqual(dearer.count(of.id, "gap"), 0)
        with self.assertRaises((Rejected, InputError)):
            verify_kept(dearer, certificate)
        problem = problem_of(dearer, list(dearer.proofs.values())).problem
        footed = foot_in_time(problem, until(60), certify=True)
        assert footed is not None
        with self.assertRaises(Rejected):  # of the very problem, and of another plan
            verify_kept(dearer, certify(problem, footed))
        self.assertIsNone(certificate_of(dearer))

    def test_a_live_sum_that_comes_to_something_else_is_found(self) -> None:
        def forge(parts: Parts) -> None:
            name = "workbook-printed.xlsx"
            with zipfile.ZipFile(io.BytesIO(parts[name])) as old:
                inner = {each: old.read(each) for each in old.namelist()}
            sheet = "xl/worksheets/sheet1.xml"
            assert b"<f>B7+B8+B9+B10</f>" in inner[sheet]
            inner[sheet] = inner[sheet].replace(b"<f>B7+B8+B9+B10</f>", b"<f>B7+B8+B9</f>")
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as new:
                for each, data in inner.items():
                    new.writestr(each, data)
            forged(parts, name, parts[name], out.getvalue())

        (fault,) = verify(repacked(forge)).faults
        self.assertIn("xl/worksheets/sheet1.xml", fault.what)
        self.assertIn("B7+B8+B9", fault.what)

    def test_a_nudge_that_is_taken_out_is_missed(self) -> None:
        def take_out(parts: Parts) -> None:
            told = json.loads(parts["pack.json"])
            gone = json.dumps(told | {"nudges": told["nudges"][1:]}).encode()
            forged(parts, "pack.json", parts["pack.json"], gone)

        said = " ".join(map(str, verify(repacked(take_out)).faults))
        self.assertIn("figures.csv", said)
        self.assertIn("Every sum foots as printed", said)

    def test_nobody_issues_to_nobody_or_with_open_checks(self) -> None:
        pack_proof = prove_pack(demo_pack())
        for wanted in (Wanted("", "x"), Wanted("x", " "), Wanted("x", "y"), Wanted("x", "y", files=("tar",))):
            with self.assertRaises(InputError):
                issue(pack_proof, 1, MADE, wanted)


class WorkbookTest(unittest.TestCase):
    def cells(self, data: bytes) -> tuple[dict[str, Any], dict[str, str]]:
        """What each cell of the statements holds, and the formulas."""
        values: dict[str, Any] = {}
        formulas: dict[str, str] = {}
        shown, written = load_workbook(io.BytesIO(data), data_only=True), load_workbook(io.BytesIO(data))
        for sheet in written:
            for row in sheet.iter_rows():
                for cell in row:
                    at = f"{sheet.title}!{cell.coordinate}"
                    values[at] = shown[sheet.title][cell.coordinate].value
                    if isinstance(cell.value, str) and cell.value.startswith("="):
                        formulas[at] = cell.value
        return values, formulas

    def worked_out(self, formula: str, sheet: str, values: dict[str, Any]) -> Decimal:
        come = Decimal(0)
        for sign, other, at in re.findall(r"([+-]?)(?:'((?:[^']|'')+)'!)?([A-Z]+\d+)", formula.lstrip("=")):
            held = values[f"{other.replace(chr(39) * 2, chr(39)) or sheet}!{at}"]
            amount = Decimal(repr(held)) if isinstance(held, int | float) else Decimal(str(held))
            come += -amount if sign == "-" else amount
        return come

    def test_every_live_sum_comes_to_its_value(self) -> None:
        for edition in editions_of(demo_pack()):
            for mode in MODES:
                pack_proof = (
                    footed(edition) if edition == "own" else prove_pack(in_edition(demo_pack(), edition))
                )
                values, formulas = self.cells(write_workbook(pack_proof, mode))
                with self.subTest(edition=edition, mode=mode):
                    self.assertGreater(len(formulas), 90 if mode == "printed" else 125)
                    numbers = [abs(Decimal(repr(v))) for v in values.values() if isinstance(v, int | float)]
                    largest = max(numbers)
                    for at, formula in formulas.items():
                        held = values[at]
                        assert isinstance(held, int | float | str)
                        come = self.worked_out(str(formula), at.partition("!")[0], values)
                        near = Decimal(repr(held) if not isinstance(held, str) else held)
                        room = max(largest, abs(near)) * Decimal("1e-14")
                        self.assertAlmostEqual(come, near, delta=room)

    def test_cells_hold_the_very_amounts(self) -> None:
        pack_proof = footed()
        for mode in MODES:
            values, _ = self.cells(write_workbook(pack_proof, mode))
            for ref, (sheet, at) in figure_places(pack_proof).items():
                amount = value_in(mode)(pack_proof.proofs[ref[0]].figures[ref[1:]])
                held = values[f"{sheet}!{at}"]
                if amount is not None and not isinstance(held, str):
                    self.assertEqual(held, float(f"{amount:.15g}"))
                elif amount is not None:
                    self.assertEqual(Decimal(held), amount)

    def test_what_was_cut_and_what_was_not_checked_is_noted(self) -> None:
        pack_proof = prove_pack(in_edition(demo_pack(), "Parent"))
        book = load_workbook(io.BytesIO(write_workbook(pack_proof, "unit")))
        cut = unchecked = 0
        for ref, (sheet, at) in figure_places(pack_proof).items():
            amount = value_in("unit")(pack_proof.proofs[ref[0]].figures[ref[1:]])
            note = book[sheet][at].comment
            column = pack_proof.proofs[ref[0]].statement.column(ref[2])
            if amount is not None and column and not column.share and len(amount.as_tuple().digits) > 15:
                cut += 1
                self.assertIn(format(amount, "f"), note.text, at)
                self.assertIn(book[sheet][at].data_type, ("n", "f"))
        for id, proof in pack_proof.proofs.items():
            for check in proof.checks:
                if check.status == "incomplete":
                    unchecked += 1
                    sheet, at = figure_places(pack_proof)[id, *check.relation.total]
                    self.assertIn("cannot be checked", book[sheet][at].comment.text)
        self.assertGreater(min(cut, unchecked), 5)

    def test_codes_and_names_keep_to_the_limits_of_the_format(self) -> None:
        long = {"before": '"' * 24, "after": '"' * 24, "scale": "crores", "decimals": {"fixed": 2}}
        of = statement({"a": ["1"], "b": ["-98765432.10"], "c": ["0"]}, {}, columns=("now",))
        twice = of.model_copy(update={"id": "second", "name": "History"})
        emoji = of.model_copy(update={"id": "third", "name": "\U0001f6a2" * 40})
        both = pack(of, rule("house", long)).model_copy(update={"statements": (of, twice, emoji)})
        for data in (write_workbook(prove_pack(both), mode) for mode in MODES):
            book = load_workbook(io.BytesIO(data))
            self.assertNotIn("history", [name.lower() for name in book.sheetnames])
            self.assertTrue(all(len(name.encode("utf-16-le")) <= 62 for name in book.sheetnames))
            codes = [cell.number_format for row in book.worksheets[0].iter_rows() for cell in row]
            self.assertTrue(all(len(code) <= 255 for code in codes), codes)
            self.assertIn('\\"', "".join(codes))

    def test_many_columns_go_on_several_pages(self) -> None:
        ids = tuple(f"m{n}" for n in range(30))
        of = statement({"a": ["1"] * 30}, {}, columns=ids)
        sheet = load_workbook(io.BytesIO(write_workbook(prove_pack(pack(of, rule("r", {})))))).worksheets[0]
        self.assertEqual((sheet.page_setup.fitToWidth, sheet.print_title_cols), (3, "$A:$A"))
        self.assertEqual([each.id for each in sheet.col_breaks.brk], [13, 25])

    def test_as_printed_adds_where_the_exact_amounts_do_not_as_printed(self) -> None:
        of = statement({"a": ["0.4"], "b": ["0.4"]}, {"t": ["a", "b"]}, columns=("now",))
        pack_proof = prove_pack(pack(of, rule("house", {"decimals": {"fixed": 0}})))
        values, formulas = self.cells(write_workbook(pack_proof, "printed"))
        self.assertEqual(formulas, {}, "a gap is no live sum")
        self.assertEqual([values[f"{of.name}!B{n}"] for n in (6, 7, 8)], [0, 0, 1])

    def test_hostile_and_long_names_and_amounts_are_text(self) -> None:
        digits = "123456789012345678901234567890"
        of = statement({"a": [digits], "b": ["1"]}, {}, columns=("now",))
        of = of.model_copy(update={"name": "=cmd|' /C calc'!A0 [x]:*?/ and so on for ever and ever"})
        again = of.model_copy(update={"id": "second"})
        both = pack(of, rule("house", {})).model_copy(update={"statements": (of, again)})
        book = load_workbook(io.BytesIO(write_workbook(prove_pack(both))))
        self.assertTrue(all(len(name) <= 31 for name in book.sheetnames))
        first = book[book.sheetnames[0]]
        self.assertEqual((first["B6"].value, first["B6"].data_type), (digits, "s"))


if __name__ == "__main__":
    unittest.main()
