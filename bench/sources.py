"""Reading sources, beside a plain pass over the same cells: python -m bench sources.

A workbook is compared with openpyxl's read-only iteration of it and with its full one, a file of text with
the csv module and a Decimal for each amount. The rows of growth say how much longer four times the rows take.
"""

from __future__ import annotations

import csv
import io
import random
import time
from collections.abc import Callable, Iterator
from decimal import Decimal
from functools import partial
from typing import Any

from openpyxl import Workbook, load_workbook

from bench.rows import Row, print_part
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.sources.opening import open_source

ROUNDS = 3
SIZES = ((5_000, 13), (30_000, 20))
ENTRIES = (12_500, 50_000, 200_000, 400_000)
TABLES = (50, 200, 800)


def rows(tiny: bool = False) -> Iterator[Row]:
    """Processor time of reading and drafting, as a ratio to the plain pass or to a quarter of the rows."""
    rounds = 1 if tiny else ROUNDS
    for length, width in ((50, 4),) if tiny else SIZES:
        data = _statement(length, width)
        ours = _least(partial(_drafted, "made.xlsx", data), rounds)
        full, streamed = (_least(partial(_iterated, data, only), rounds) for only in (False, True))
        measured = f"{ours / full:.2f} × openpyxl, {ours / streamed:.2f} × its read-only way ({ours:.1f} s)"
        yield Row(f"a workbook of {length} × {width} read and drafted", measured)
    for what, made, sizes in (
        ("entries read, drafted and packed", _entries, (20, 80) if tiny else ENTRIES),
        ("tables one below another, read and packed", _tables, (2, 8) if tiny else TABLES),
    ):
        before = None
        for size in sizes:
            name, data = made(size)
            took = _least(partial(_packed, name, data), 1)
            grown = f"{took:.1f} s" if before is None else f"{took:.1f} s, {took / before:.1f} × those before"
            yield Row(f"{size:,} {what}", grown)
            before = took


def _least(work: Callable[[], Any], rounds: int) -> float:
    """The least processor time that a piece of work took."""
    taken = []
    for _ in range(rounds):
        start = time.process_time()
        work()
        taken.append(time.process_time() - start)
    return min(taken)


def _drafted(name: str, data: bytes) -> None:
    for table in open_source(name, data):
        draft(table)


def _packed(name: str, data: bytes) -> None:
    """All the way: read, drafted and written as a pack."""
    made = [Kept(draft(table), table.name or "Entries") for table in open_source(name, data)]
    write_pack(pack_of(made, "Lanternfish Ferries", "2026"))


def _iterated(data: bytes, read_only: bool) -> None:
    """Every cell of a workbook, as openpyxl gives it."""
    book = load_workbook(io.BytesIO(data), read_only=read_only)
    for sheet in book:
        for row in sheet.iter_rows(values_only=True):
            for value in row:
                if isinstance(value, (int, float)):
                    Decimal(str(value))
    book.close()


def _statement(length: int, width: int) -> bytes:
    """A workbook of lines under a head of months, with a total after every ten."""
    draw = random.Random(1)
    book = Workbook(write_only=True)
    sheet = book.create_sheet("Trial balance")
    sheet.append(["€ thousand", *(f"{n % 12 + 1:02}/{2020 + n // 12}" for n in range(width - 1))])
    group: list[list[int]] = []
    for n in range(length):
        if len(group) == 10:
            sheet.append([f"Total {n}", *map(sum, zip(*group, strict=True))])
            group = []
        else:
            group.append([draw.randint(-10_000, 90_000) for _ in range(width - 1)])
            sheet.append([f"Account {n}", *group[-1]])
    return _saved(book)


def _entries(length: int) -> tuple[str, bytes]:
    draw = random.Random(2)
    kept = io.StringIO()
    write = csv.writer(kept).writerow
    write(["Entry", "Date", "Account", "Text", "Debit", "Credit"])
    for n in range(length):
        amount = f"{draw.randint(1, 9_999_999) / 100:.2f}"
        day = f"2026-{draw.randint(1, 12):02}-{draw.randint(1, 28):02}"
        write(
            [
                n,
                day,
                4000 + draw.randint(0, 80) * 10,
                f"Sailing {n % 977}",
                *draw.choice(((amount, ""), ("", amount))),
            ]
        )
    return "entries.csv", kept.getvalue().encode()


def _tables(count: int) -> tuple[str, bytes]:
    """A sheet of small tables that have the same headings."""
    book = Workbook(write_only=True)
    sheet = book.create_sheet("Routes")
    for n in range(count):
        fares, freight = 1_000 + 7 * n, 300 + 11 * n
        sheet.append([f"Route {n}"])
        sheet.append(["€ thousand", "2026", "2025"])
        sheet.append(["Fares", fares, fares - 50])
        sheet.append(["Freight", freight, freight + 20])
        sheet.append(["Total", fares + freight, fares + freight - 30])
        sheet.append([])
    return "routes.xlsx", _saved(book)


def _saved(book: Workbook) -> bytes:
    kept = io.BytesIO()
    book.save(kept)
    return kept.getvalue()


if __name__ == "__main__":
    print_part("sources", rows)
