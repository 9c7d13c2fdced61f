"""Measures printing and footing against a yardstick run just before and after."""

import io
import statistics
import time
from collections.abc import Callable
from decimal import Decimal
from typing import Any

import numpy as np
from openpyxl import Workbook, load_workbook
from scipy.optimize import linprog
from scipy.sparse import csr_array

from humble_sum.core.bulk import print_texts
from humble_sum.core.clauses import InForce
from humble_sum.core.footing.policy import DEFAULT
from humble_sum.core.footing.problem import Entry, Equation, Problem, equations_as_rows, foot, window_of
from humble_sum.core.intake.found_sums import found_sums
from humble_sum.core.printing import print_amount
from humble_sum.core.proofs import prove
from humble_sum.core.reading import read_amounts
from humble_sum.core.rounding import position, round_units
from humble_sum.exchange.sources.sheets import read_sheets
from humble_sum.records.demo import demo_pack

ROUNDS = 5
RULE = InForce.model_validate(
    {
        "locale": "en-IN",
        "currency": "INR",
        "scale": "lakhs",
        "negative": "brackets",
        "zero": "dash",
        "money_shown": "caption",
    }
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


def tree(leaves: int) -> Problem:
    """Lines in tens, subtotals and a total, with made-up amounts."""
    made = np.random.default_rng(7)
    amounts = {f"l{n}": Decimal(int(made.integers(-(10**7), 10**7))) / 100 for n in range(leaves)}
    equations, level, height = [], list(amounts), 0
    while len(level) > 1:
        height += 1
        above = []
        for start in range(0, len(level), 10):
            name, parts = f"h{height}n{start}", level[start : start + 10]
            amounts[name] = sum((amounts[part] for part in parts), Decimal(0))
            equations.append(Equation(name, tuple((part, 1) for part in parts)))
            above.append(name)
        level = above
    entries = []
    for id, amount in amounts.items():
        entries.append(entry(id, amount))
    return Problem(tuple(entries), tuple(equations))


def entry(id: str, amount: Decimal) -> Entry:
    where = position(amount, 0)
    natural = round_units(where, "half_up")
    return Entry(id, where, natural, window=window_of(where, natural, DEFAULT))


def months(rows: int) -> Problem:
    """Rows and their total by twelve months, four quarters and the year, with made-up amounts."""
    made = np.random.default_rng(9)
    names = [*(f"r{n}" for n in range(rows)), "all"]
    of = {f"r{n}": [Decimal(int(x)) / 100 for x in made.integers(-(10**6), 10**7, 12)] for n in range(rows)}
    of["all"] = [sum((of[name][m] for name in names[:-1]), Decimal(0)) for m in range(12)]
    amounts: dict[str, Decimal] = {}
    equations = []
    for name in names:
        for m in range(12):
            amounts[f"{name}m{m}"] = of[name][m]
        for q in range(4):
            parts = range(3 * q, 3 * q + 3)
            amounts[f"{name}q{q}"] = sum((of[name][m] for m in parts), Decimal(0))
            equations.append(Equation(f"{name}q{q}", tuple((f"{name}m{m}", 1) for m in parts)))
        amounts[f"{name}y"] = sum(of[name], Decimal(0))
        equations.append(Equation(f"{name}y", tuple((f"{name}q{q}", 1) for q in range(4))))
    for column in [*(f"m{m}" for m in range(12)), *(f"q{q}" for q in range(4)), "y"]:
        equations.append(Equation(f"all{column}", tuple((f"{name}{column}", 1) for name in names[:-1])))
    return Problem(tuple(entry(id, amount) for id, amount in amounts.items()), tuple(equations))


def plain_lp(problem: Problem) -> None:
    """The same problem handed to SciPy as it comes, with no proof and no choice among equals."""
    rows, right = equations_as_rows(problem)
    cells = [(r, v, a) for r, row in enumerate(rows) for v, a in row]
    matrix: Any = csr_array(
        ([a for _, _, a in cells], ([r for r, _, _ in cells], [v for _, v, _ in cells])),
        shape=(len(rows), len(problem.entries)),
    )
    costs = [1 - 2 * e.where.over / e.where.parts for e in problem.entries]
    linprog(costs, A_eq=matrix, b_eq=right, bounds=(0, 1), method="highs")


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
    lines = nested(400, 15)
    finding, adding = seconds(lambda: found_sums(lines), lambda: [sum(line, Decimal(0)) for line in lines])
    ratio = finding / adding
    print(f"finding the sums of 400 lines × 15 columns: {finding:.3f} s, {ratio:.0f}× adding each line")
    for name, problem in (
        ("a tree", tree(1_000)),
        ("a tree", tree(30_000)),
        ("months, quarters and years", months(60)),
    ):
        ours, theirs = seconds(lambda p=problem: foot(p), lambda p=problem: plain_lp(p))  # type: ignore[misc]
        figures = len(problem.entries)
        print(f"footing {name} of {figures:,}, proved, against one plain LP: {ours / theirs:.1f}×")
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
