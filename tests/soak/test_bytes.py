"""Bytes of every sort of source, changed at random: read, or refused in words, and within bounds."""

from __future__ import annotations

import io
import random
import unittest
import zipfile
from pathlib import Path

from openpyxl import Workbook

from humble_sum.core.errors import InputError
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.exchange.pack_json import read_pack, write_pack
from humble_sum.exchange.sources.opening import open_source
from humble_sum.records.demo import demo_pack
from tests.soak import SEED, TIMES, told

INPUTS = 150 * TIMES
CASES = Path(__file__).parent.parent / "cases" / "intake"
BITS = (
    b"\x00",
    b"\xff\xfe",
    b'"',
    b",",
    b";",
    b"\t",
    b"\n",
    b"|",
    b"=",
    b"(",
    b")",
    b"-",
    b"1e9",
    b"\xed\xa0\x80",
)


class BytesTest(unittest.TestCase):
    def test_changed_bytes_are_read_or_refused(self) -> None:
        pick = random.Random(SEED)
        sources = [
            (each.name, each.read_bytes()) for each in sorted(CASES.iterdir()) if "truth" not in each.name
        ]
        sources += [("book.xlsx", self.book()), ("pack.json", write_pack(demo_pack()))]
        read = refused = 0
        for number in range(INPUTS):
            name, data = sources[number % len(sources)]
            data = self.changed(pick, name, data)
            with self.subTest(name=name, number=number):
                try:
                    self.take(name, data)
                    read += 1
                except InputError as error:
                    self.assertTrue(all(fault.what for fault in error.faults))
                    refused += 1
            if not (number + 1) % (INPUTS // 10):
                told(f"changed sources so far, {read:,} read and {refused:,} refused", number + 1)
        self.assertTrue(read and refused)

    def take(self, name: str, data: bytes) -> None:
        if name == "pack.json":
            read_pack(data)
            return
        drafts = [draft(table) for table in open_source(name, data)]
        pack_of([Kept(each, f"Sheet {n}") for n, each in enumerate(drafts)], "E", "P")

    def changed(self, pick: random.Random, name: str, data: bytes) -> bytes:
        """The bytes with a few changed; of a workbook those of one part, and packed again, as often as not."""
        if data.startswith(b"PK") and pick.random() < 0.7:
            with zipfile.ZipFile(io.BytesIO(data)) as old:
                parts = {each: old.read(each) for each in old.namelist()}
            chosen = pick.choice(
                [each for each in parts if "sheet" in each or pick.random() < 0.2] or [*parts]
            )
            parts[chosen] = self.few(pick, parts[chosen])
            packed = io.BytesIO()
            with zipfile.ZipFile(packed, "w") as new:
                for each, inside in parts.items():
                    new.writestr(each, inside)
            return packed.getvalue()
        return self.few(pick, data)

    def few(self, pick: random.Random, data: bytes) -> bytes:
        made = bytearray(data)
        for _ in range(pick.randint(1, 6)):
            at = pick.randrange(len(made) + 1)
            match pick.randrange(4):
                case 0:
                    made[at:at] = pick.choice(BITS)
                case 1:
                    del made[at : at + pick.randint(1, 20)]
                case 2:
                    made[at : at + 1] = bytes([pick.randrange(256)])
                case _:
                    end = at + pick.randint(1, 60)
                    made[at:at] = made[at:end] * pick.randint(1, 3)
        return bytes(made)

    def book(self) -> bytes:
        made = Workbook()
        sheet = made.worksheets[0]
        for row in (
            ["Line", 2027, 2026],
            ["Fares", 12.5, 11],
            ["Costs", -3, -2],
            ["Left", "=B2+B3", "=C2+C3"],
        ):
            sheet.append(row)
        written = io.BytesIO()
        made.save(written)
        return written.getvalue()


if __name__ == "__main__":
    unittest.main()
