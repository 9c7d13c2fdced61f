"""Printing and reading measured against a plain format and openpyxl: python -m bench printing."""

import io
import statistics
import time
from collections.abc import Callable, Iterator
from decimal import Decimal
from functools import partial

import numpy as np
from openpyxl import Workbook, load_workbook

from bench.rows import Row, print_part
from humble_sum.core.intake.amount_reading import read_amounts
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.found_sums import found_sums
from humble_sum.core.intake.packing import Kept, name_of, pack_of
from humble_sum.core.printing.batch import print_texts
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.printer import Printer, show
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.sources.opening import open_source
from humble_sum.exchange.sources.sheets import read_sheets
from humble_sum.records.demo import demo_pack

ROUNDS = 5
RULE = ResolvedClauses(
    locale="en-IN", currency="INR", scale="lakhs", negative="brackets", zero="dash", money_shown="caption"
)


def seconds(*works: Callable[[], object], rounds: int = ROUNDS) -> list[float]:
    """Median seconds of each work, taking turns so that all meet the same machine."""
    times: list[list[float]] = [[] for _ in works]
    for _ in range(rounds):
        for place, work in enumerate(works):
            start = time.perf_counter()
            work()
            times[place].append(time.perf_counter() - start)
    return [statistics.median(each) for each in times]


def book_bytes(lines: int, columns: int) -> bytes:
    """A workbook of made-up amounts, as another program would write it."""
    book = Workbook(write_only=True)
    sheet = book.create_sheet("Ledger")
    sheet.append(["Line", *(f"M{n}" for n in range(columns))])
    made = np.random.default_rng(11)
    for n in range(lines):
        sheet.append([f"Line {n}", *(int(x) / 100 for x in made.integers(-(10**9), 10**9, columns))])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def iterate(data: bytes) -> int:
    """What openpyxl itself takes to go through the values of a file."""
    sheet = load_workbook(io.BytesIO(data), read_only=True).worksheets[0]
    return sum(1 for row in sheet.iter_rows(values_only=True) for _ in row)


def with_subtotals(groups: int, each: int, columns: int) -> bytes:
    """A workbook of groups of lines, with a subtotal below each."""
    book = Workbook(write_only=True)
    sheet = book.create_sheet("Ledger")
    sheet.append(["Line", *(f"M{n}" for n in range(columns))])
    made = np.random.default_rng(3)
    for group in range(groups):
        cents = made.integers(100, 10**10, (each, columns))
        for n, row in enumerate(cents):
            sheet.append([f"Line {group}.{n}", *(int(x) / 100 for x in row)])
        sheet.append([f"Total of group {group}", *(int(x) / 100 for x in cents.sum(axis=0))])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def taken(data: bytes) -> Pack:
    """A pack of a workbook, with its sums found."""
    drafts = [draft(table) for table in open_source("bench.xlsx", data)]
    return pack_of([Kept(made, name_of(made), made.decided.look) for made in drafts], "Bench", "2026", "EUR")


def nested(lines: int, columns: int) -> list[list[Decimal]]:
    """Amounts of lines with a subtotal after every nine and a total at the end."""
    made = np.random.default_rng(5)
    rows: list[list[Decimal]] = []
    while len(rows) < lines:
        group = [[Decimal(int(x)) / 100 for x in made.integers(1, 10**9, columns)] for _ in range(9)]
        rows += [*group, [sum(column, Decimal(0)) for column in zip(*group, strict=True)]]
    return rows[:lines]


def rows(tiny: bool = False) -> Iterator[Row]:
    """Printing, reading and proving."""
    less = 200 if tiny else 1
    timed = partial(seconds, rounds=1 if tiny else ROUNDS)
    million = [Decimal(n * 7919 % 10**11) / 100 - 400_000_000 for n in range(1_000_000 // less)]
    amounts = million[: 50_000 // less]
    printing, yardstick = timed(
        lambda: print_texts(million, RULE), lambda: [f"{amount:,.2f}" for amount in million]
    )
    one_by_one, few = timed(
        lambda: [print_amount(amount, RULE) for amount in amounts],
        lambda: [f"{amount:,.2f}" for amount in amounts],
    )
    yield Row("printing a million texts, against a plain format", f"{printing / yardstick:.1f}×")
    yield Row("printing figures one by one, against a plain format", f"{one_by_one / few:.1f}×")
    printer = Printer(RULE)
    several = amounts[: 20_000 // less]
    all_shown, each, plain = timed(
        lambda: show(several, printer.clauses),
        lambda: [printer(amount) for amount in several],
        lambda: [f"{amount:,.2f}" for amount in several],
    )
    yield Row("show of 20,000 values, against a plain format", f"{all_shown / plain:.1f}×")
    yield Row("a Printer called for each, against a plain format", f"{each / plain:.1f}×")
    texts = [f"{n * 7919 % 10**9 / 100:,.2f}" for n in range(1, 50_000 // less)]
    clean = [text.replace(",", "") for text in texts]
    reading, grouped, own = timed(
        lambda: read_amounts(clean), lambda: read_amounts(texts), lambda: [Decimal(text) for text in clean]
    )
    yield Row("reading clean digits, against Decimal itself", f"{reading / own:.1f}×")
    yield Row("reading grouped digits, against Decimal itself", f"{grouped / own:.1f}×")
    data = book_bytes(3_000 // less, 15)
    ours, theirs = timed(lambda: read_sheets("bench.xlsx", data), lambda: iterate(data))
    yield Row("a workbook of 48,000 cells, against openpyxl going through it", f"{ours / theirs:.2f}×")
    ledger = with_subtotals(2 if tiny else 100, 4 if tiny else 49, 13)
    whole, theirs = timed(lambda: taken(ledger), lambda: iterate(ledger))
    yield Row("a workbook of 5,000 × 13 with 100 subtotals to a pack", f"{whole / theirs:.2f}×")
    lines = nested(20 if tiny else 400, 15)
    finding, adding = timed(lambda: found_sums(lines), lambda: [sum(line, Decimal(0)) for line in lines])
    ratio = finding / adding
    yield Row("finding the sums of 400 lines × 15 columns", f"{finding:.3f} s, {ratio:.0f}× adding each line")
    pack = demo_pack()
    statement = pack.statements[0]
    before = prove(pack, statement)
    proof, again, one = timed(
        lambda: prove(pack, statement),
        lambda: prove(pack, statement, before),
        lambda: [print_amount(amount, RULE) for amount in amounts[:63]],
    )
    yield Row("proving the demo statement, against printing its 63 figures", f"{proof / one:.1f}×")
    yield Row("the same after a change of rules", f"{again / one:.1f}×")


if __name__ == "__main__":
    print_part("printing", rows)
