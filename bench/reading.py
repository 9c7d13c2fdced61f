"""Reads tables made up with their truth, and says how many amounts, sums and questions were right.

python -m bench.reading [--tables 2000] [--side measuring] [--show 20] [--kinds]
"""

from __future__ import annotations

import argparse
import json
import os
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import pairwise
from pathlib import Path

from matplotlib import pyplot
from tests.tables.compared import Read, read
from tests.tables.written import tables

from bench.rows import Row


def main() -> None:
    """Read so many tables and print what came of it."""
    asked = argparse.ArgumentParser(prog="python -m bench.reading", description=__doc__)
    asked.add_argument("--tables", type=int, default=500)
    asked.add_argument("--side", choices=("setting", "measuring"), default="measuring")
    asked.add_argument("--show", type=int, default=0, help="tables with something wrong that are printed")
    asked.add_argument("--seed", type=int, default=0, help="other tables of the same styles")
    asked.add_argument("--against", type=Path, help="a checkout whose reading is compared table by table")
    asked.add_argument("--chart", type=Path, help="where to draw how often readings were right")
    told = asked.parse_args()
    results, crashes = [], []
    for made in tables(told.side, told.tables, told.seed):
        try:
            results.append(read(made))
        except Exception as error:  # what is said is which table it was
            crashes.append(f"{made.seed}: {type(error).__name__} {error}")
    amounts = sum(each.amounts for each in results)
    silent = sum(len(each.silent) for each in results)
    mended = sum(len(each.asked) for each in results)
    asked_of = sum(len(each.questions) for each in results)
    needless = sum(each.needless for each in results)
    sums, found = sum(each.sums for each in results), sum(each.found for each in results)
    false = sum(len(each.false) for each in results)
    print(f"{len(results)} tables, {amounts} amounts: {silent} wrong in silence, {mended} wrong and asked")
    print(f"{sum(bool(each.silent) for each in results)} tables with one wrong in silence")
    print(f"{asked_of} questions ({asked_of / len(results):.2f} a table), {needless} needless")
    print(f"sums: {found} of {sums} found, {false} false")
    if crashes:
        print(f"{len(crashes)} crashes: {crashes[:3]}")
    by_kind: Counter[str] = Counter()
    for each in results:
        if each.silent:
            style = each.made.style
            for trait in (
                f"content {each.made.content.name}",
                f"unit at {style.unit_at}",
                f"notes {style.notes}",
                f"codes {style.codes}",
                f"layout {style.layout}",
                f"heads {style.heads}",
                f"language {style.language}",
                f"wrapped {style.wrapped}",
                f"fault {style.fault}",
            ):
                by_kind[trait] += 1
    print("; ".join(f"{trait}: {count}" for trait, count in by_kind.most_common(24)))
    for each in [each for each in results if each.silent][: told.show]:
        show(each)
    if told.chart is not None:
        draw(results, told.chart)
    if told.against is not None:
        compare(results, told.against, told.side, told.tables, told.seed)


# What another checkout makes of the same tables: how many amounts of each are wrong in silence, and its sums.
OTHER = """
import json, sys
from tests.tables.compared import read
from tests.tables.written import tables
side, count, seed = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
found = (read(made) for made in tables(side, count, seed))
print(json.dumps({each.made.seed: [len(each.silent), each.found] for each in found}))
"""


def compare(results: Sequence[Read], checkout: Path, side: str, count: int, seed: int) -> None:
    """Read the same tables with another checkout, and print where both differ and which is right."""
    here = Path(__file__).parent.parent
    paths = {"PYTHONPATH": f"{checkout / 'src'}:{here}"}
    asked = [sys.executable, "-c", OTHER, side, str(count), str(seed)]
    done = subprocess.run(
        asked, env=os.environ | paths, capture_output=True, text=True, check=True, cwd=checkout
    )
    other = json.loads(done.stdout)
    better = worse = 0
    for each in results:
        wrong, found = other[each.made.seed]
        ours, theirs = (len(each.silent), -each.found), (wrong, -found)
        if ours != theirs:
            better, worse = better + (ours < theirs), worse + (ours > theirs)
            which = "this one" if ours < theirs else "the other"
            print(
                f"{each.made.seed}: {which} is right; wrong in silence {len(each.silent)} and {wrong},",
                end=" ",
            )
            print(f"sums {each.found} and {found} of {each.sums}")
    print(f"this one is better in {better} tables, the other in {worse}")


MARGINS = (0.0, 2.0, 4.0, 6.0, 8.0, 12.0, 16.0, 24.0)


def calibration(results: Sequence[Read]) -> list[tuple[str, int, int]]:
    """For each range of margins how many lines and columns were settled by it, and how many right."""
    bins = [[0, 0] for _ in MARGINS]
    for each in results:
        wrong = {place for place, _, _ in each.silent} | {*each.asked}
        for made in each.drafts:
            figures, place = made.layout.figures, made.table.origin
            lines = [(line.verdict, [place(line.row, c.index) for c in figures]) for line in made.lines]
            columns = [(c.verdict, [place(line.row, c.index) for line in made.lines]) for c in figures]
            for verdict, cells in (*lines, *columns):
                if verdict is not None and len(verdict.signals) > 1:
                    of = max(n for n, least in enumerate(MARGINS) if verdict.margin >= least or n == 0)
                    bins[of][0] += 1
                    bins[of][1] += not wrong & {*cells}
    named = [f"{least:g} to {most:g}" for least, most in pairwise(MARGINS)] + [f"{MARGINS[-1]:g} and more"]
    return [(name, count, right) for name, (count, right) in zip(named, bins, strict=True)]


def draw(results: Sequence[Read], file: Path) -> None:
    """The calibration as a chart."""
    pyplot.switch_backend("svg")
    pyplot.rcParams |= {"svg.fonttype": "none", "svg.hashsalt": "reading", "font.family": "sans-serif"}
    told = [each for each in calibration(results) if each[1]]
    figure, axes = pyplot.subplots(figsize=(7, 3.2), layout="constrained")
    axes.bar(
        [name for name, _, _ in told], [100 * right / count for _, count, right in told], color="#0b5e63"
    )
    for place, (_, count, right) in enumerate(told):
        axes.text(
            place, 100 * right / count + 1, f"{100 * right / count:.1f}%\nof {count:,}", ha="center", size=8
        )
    axes.set(xlabel="margin, in bits", ylabel="read right, %", ylim=(0, 118))
    axes.spines[["top", "right"]].set_visible(False)
    figure.savefig(file, format="svg", metadata={"Date": None})


def rows(tiny: bool = False) -> Iterator[Row]:
    """How much of made-up tables is read right."""
    results = [read(made) for made in tables("measuring", 10 if tiny else 1_000)]
    amounts, silent = sum(each.amounts for each in results), sum(len(each.silent) for each in results)
    yield Row("amounts of made-up tables wrong in silence", f"{silent} of {amounts:,}")
    questions_of = sum(len(each.questions) for each in results)
    yield Row("questions", f"{questions_of / len(results):.2f} a table")
    sums, found = sum(each.sums for each in results), sum(each.found for each in results)
    yield Row("sums found", f"{100 * found / max(sums, 1):.1f}%, {sum(len(e.false) for e in results)} false")


def show(result: Read) -> None:
    """Print a table and the cells of it that were wrong in silence."""
    print("\n" + result.made.seed, result.made.style)
    for number, row in enumerate(result.made.table.rows):
        print(number + 1, " | ".join(cell.text for cell in row))
    for place, wanted, have in result.silent[:6]:
        print("  ", result.made.table.sheet_place(*place), "wanted", wanted, "have", have)


if __name__ == "__main__":
    main()
