"""Measures printing, reading and footing against a yardstick run just before and after."""

import io
import statistics
import time
from collections.abc import Callable
from decimal import Decimal

import numpy as np
from openpyxl import Workbook, load_workbook

from bench import footing
from humble_sum.core.intake.amounts import read_amounts
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


def seconds(*works: Callable[[], object]) -> list[float]:
    """Median seconds of each work, taking turns so that all meet the same machine."""
    times: list[list[float]] = [[] for _ in works]
    for _ in range(ROUNDS):
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


def main() -> None:
    million = [Decimal(n * 7919 % 10**11) / 100 - 400_000_000 for n in range(1_000_000)]
    amounts = million[:50_000]
    printing, yardstick = seconds(
        lambda: print_texts(million, RULE), lambda: [f"{amount:,.2f}" for amount in million]
    )
    one_by_one, few = seconds(
        lambda: [print_amount(amount, RULE) for amount in amounts],
        lambda: [f"{amount:,.2f}" for amount in amounts],
    )
    print(
        f"printing a million texts, against a plain format of them: {printing / yardstick:.1f}×; "
        f"figures one by one: {one_by_one / few:.1f}×"
    )
    printer = Printer(RULE)
    several = amounts[:20_000]
    all_shown, each, plain = seconds(
        lambda: show(several, printer.clauses),
        lambda: [printer(amount) for amount in several],
        lambda: [f"{amount:,.2f}" for amount in several],
    )
    print(f"show of 20,000 values: {all_shown / plain:.1f}×; a Printer called for each: {each / plain:.1f}×")
    texts = [f"{n * 7919 % 10**9 / 100:,.2f}" for n in range(1, 50_000)]
    clean = [text.replace(",", "") for text in texts]
    reading, grouped, own = seconds(
        lambda: read_amounts(clean), lambda: read_amounts(texts), lambda: [Decimal(text) for text in clean]
    )
    print(
        f"reading clean digits, against Decimal itself: {reading / own:.1f}×; grouped: {grouped / own:.1f}×"
    )
    data = book_bytes(3_000, 15)
    ours, theirs = seconds(lambda: read_sheets("bench.xlsx", data), lambda: iterate(data))
    print(f"taking in a workbook of 48,000 cells, against openpyxl going through it: {ours / theirs:.2f}×")
    ledger = with_subtotals(100, 49, 13)
    whole, theirs = seconds(lambda: taken(ledger), lambda: iterate(ledger))
    print(f"a workbook of 5,000 × 13 with 100 subtotals to a pack, against the same: {whole / theirs:.2f}×")
    lines = nested(400, 15)
    finding, adding = seconds(lambda: found_sums(lines), lambda: [sum(line, Decimal(0)) for line in lines])
    ratio = finding / adding
    print(f"finding the sums of 400 lines × 15 columns: {finding:.3f} s, {ratio:.0f}× adding each line")
    footing.main()
    pack = demo_pack()
    statement = pack.statements[0]
    proof, again, one = seconds(
        lambda: prove(pack, statement),
        lambda grid=prove(pack, statement).grid: prove(pack, statement, grid),  # type: ignore[misc]
        lambda: [print_amount(amounts[n], RULE) for n in range(63)],
    )
    print(
        f"proving the demo statement, against printing its 63 figures: {proof / one:.1f}×; "
        f"after a change of rules: {again / one:.1f}×"
    )


if __name__ == "__main__":
    main()
