"""Footing problems of more kinds, by the names of their figures: roll-forwards, four ways of adding,
averages, random signs, problems side by side, and holds taken from another plan. Each is of a seed."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from decimal import Decimal

from humble_sum.core.amounts import amount_text
from humble_sum.core.footing.problem import Problem
from humble_sum.core.footing.problem_json import read_problem

STEP = Decimal("0.00001")
KINDS = ("opening", "additions", "disposals", "depreciation", "closing", "cost", "accumulated")


@dataclass
class Drawn:
    """Exact amounts in hundred-thousandths of a unit, totals with their signed parts, and holds in units."""

    amounts: dict[str, int] = field(default_factory=dict)
    sums: list[tuple[str, list[tuple[str, int]]]] = field(default_factory=list)
    holds: dict[str, int] = field(default_factory=dict)

    def put(self, name: str, amount: int) -> str:
        self.amounts[name] = amount
        return name

    def total(self, name: str, parts: list[tuple[str, int]]) -> str:
        """A figure that is what others come to."""
        self.sums.append((name, parts))
        return self.put(name, sum(sign * self.amounts[part] for part, sign in parts))

    def problem(self) -> Problem:
        return read_problem(
            {
                "figures": {name: amount_text(amount * STEP) for name, amount in self.amounts.items()},
                "relations": [
                    {"total": total, "parts": [list(part) for part in parts]} for total, parts in self.sums
                ],
                "holds": self.holds,
            }
        )


def roll_forward(seed: int, size: int) -> Drawn:
    """Classes of assets by twelve periods: each opens as the last one closed, and all add across classes."""
    draw, made = random.Random(seed), Drawn()
    opening = [draw.randint(10**7, 10**8) for _ in range(size)]
    for period in range(12):
        for n in range(size):
            at = f"{period}.{n}"
            if period:
                made.total(f"{at}.opening", [(f"{period - 1}.{n}.closing", 1)])
            else:
                made.put(f"{at}.opening", opening[n])
            made.put(f"{at}.additions", draw.randint(10**5, 10**7))
            made.put(f"{at}.disposals", -draw.randint(10**4, 10**6))
            made.put(f"{at}.depreciation", -draw.randint(10**5, 10**6))
            closing = made.total(f"{at}.closing", [(f"{at}.{kind}", 1) for kind in KINDS[:4]])
            worn = made.put(f"{at}.accumulated", -draw.randint(10**5, 10**7))
            made.total(f"{at}.cost", [(closing, 1), (worn, -1)])
        for kind in KINDS:
            made.total(f"{period}.all.{kind}", [(f"{period}.{n}.{kind}", 1) for n in range(size)])
    for kind in KINDS[1:4]:
        for n in (*range(size), "all"):
            made.total(f"year.{n}.{kind}", [(f"{period}.{n}.{kind}", 1) for period in range(12)])
    return made


def four_ways(seed: int, size: int) -> Drawn:
    """Products by regions, some of them empty, by quarters and the year to date, over three years."""
    draw, made = random.Random(seed), Drawn()
    for year in range(3):
        cells = [(p, r) for p in range(size) for r in range(8) if draw.random() > 0.35]
        columns = []
        for quarter in range(4):
            for p, r in cells:
                made.put(f"{year}.{p}.{r}.Q{quarter}", draw.randint(10**4, 10**7))
            columns.append(f"Q{quarter}")
        for quarter in range(1, 4):
            for p, r in cells:
                before = f"{year}.{p}.{r}.{'Q0' if quarter == 1 else f'Y{quarter - 1}'}"
                made.total(f"{year}.{p}.{r}.Y{quarter}", [(before, 1), (f"{year}.{p}.{r}.Q{quarter}", 1)])
            columns.append(f"Y{quarter}")
        for column in columns:
            rows = sorted({p for p, _ in cells})
            for p in rows:
                made.total(
                    f"{year}.{p}.all.{column}", [(f"{year}.{p}.{r}.{column}", 1) for q, r in cells if q == p]
                )
            for r in sorted({r for _, r in cells}):
                made.total(
                    f"{year}.all.{r}.{column}", [(f"{year}.{p}.{r}.{column}", 1) for p, s in cells if s == r]
                )
            made.total(f"{year}.all.all.{column}", [(f"{year}.{p}.all.{column}", 1) for p in rows])
    return made


def random_signs(seed: int, size: int) -> Drawn:
    """Totals of twenty-five figures each, added and taken off at random."""
    draw, made = random.Random(seed), Drawn()
    names = [made.put(f"f{n:05d}", draw.randint(-(10**8), 10**8)) for n in range(size)]
    for n in range(max(2, size // 10)):
        chosen = draw.sample(names, min(25, size // 2))
        made.total(f"t{n:05d}", [(name, draw.choice((1, -1))) for name in chosen])
    return made


def side_by_side(seed: int, size: int) -> Drawn:
    """Three problems that have nothing to do with each other: figures in groups of four, in three ways."""
    draw, made = random.Random(seed), Drawn()
    for copy in range(3):
        names = [made.put(f"{copy}.{n}", draw.randint(-(10**8), 10**8)) for n in range(size)]
        tops = []
        for way in range(3):
            order = draw.sample(names, size)
            groups = [
                made.total(f"{copy}.{way}.g{n}", [(name, 1) for name in order[4 * n : 4 * n + 4]])
                for n in range(-(-size // 4))
            ]
            tops.append(made.total(f"{copy}.{way}.all", [(group, 1) for group in groups]))
        made.sums += [(tops[0], [(top, 1)]) for top in tops[1:]]
    return made


def shares(seed: int, size: int) -> Drawn:
    """Amounts by products and regions, and each as a percentage of all: to 100.0 by products, by regions and
    by groups. Shares are cut at the fifth decimal, so that their exact amounts do not quite add."""
    draw, made = random.Random(seed), Drawn()
    for period in range(3):
        cells = [(p, r) for p in range(size) for r in range(6) if draw.random() > 0.2]
        sides = {"p": sorted({p for p, _ in cells}), "r": sorted({r for _, r in cells})}
        for p, r in cells:
            made.put(f"{period}.a.{p}.{r}", draw.randint(10**4, 10**8))
        for kind in "ap":
            if kind == "p":
                whole = made.amounts[f"{period}.a.all"]
                for name in [name for name in made.amounts if name.startswith(f"{period}.a.")]:
                    share = made.amounts[name] * 10**8 // whole
                    made.put(name.replace(".a.", ".p."), share)
            _crossed(made, f"{period}.{kind}", cells, sides)
        made.holds[f"{period}.p.all"] = 1_000
        # The same shares again on another page, by groups of ten products.
        for p in sides["p"]:
            made.amounts[f"{period}.again.{p}"] = made.amounts[f"{period}.p.p{p}"]
            made.sums.append((f"{period}.again.{p}", [(f"{period}.p.p{p}", 1)]))
        tens = sorted({p // 10 for p in sides["p"]})
        for ten in tens:
            parts = [(f"{period}.again.{p}", 1) for p in sides["p"] if p // 10 == ten]
            made.total(f"{period}.again.g{ten}", parts)
        made.sums.append((f"{period}.p.all", [(f"{period}.again.g{ten}", 1) for ten in tens]))
    return made


def _crossed(made: Drawn, at: str, cells: list[tuple[int, int]], sides: dict[str, list[int]]) -> None:
    """Totals of cells by products and by regions, and of all; a total that has its amount keeps it."""
    for place, side in enumerate("pr"):
        for n in sides[side]:
            parts = [(f"{at}.{p}.{r}", 1) for p, r in cells if (p, r)[place] == n]
            _total_of(made, f"{at}.{side}{n}", parts)
        _total_of(made, f"{at}.all", [(f"{at}.{side}{n}", 1) for n in sides[side]])


def _total_of(made: Drawn, name: str, parts: list[tuple[str, int]]) -> None:
    made.sums.append((name, parts))
    if name not in made.amounts:
        made.amounts[name] = sum(sign * made.amounts[part] for part, sign in parts)


def averages(seed: int, size: int) -> Drawn:
    """A chain of averages, 2a = b + c, in which two figures eight apart are held as no plan has both."""
    draw, made = random.Random(seed), Drawn()
    for n in range(size):
        made.put(f"x{n:05d}", 2 * draw.randint(10**5, 10**8) + 1)
    for n in range(size - 1):
        one, other = f"x{n:05d}", f"x{n + 1:05d}"
        half = made.put(f"y{n:05d}", (made.amounts[one] + made.amounts[other]) // 2)
        made.sums.append((one, [(half, 1), (half, 1), (other, -1)]))
    first = size // 3
    low, high = (made.amounts[f"x{n:05d}"] // 10**5 for n in (first, first + 8))
    made.holds = {f"x{first:05d}": low, f"x{first + 8:05d}": high + 1 - (low + high) % 2}
    return made


def held_elsewhere(problem: Problem, printed: dict[str, int], seed: int) -> Problem:
    """A problem with three of ten figures held at what a plan printed, four of a hundred of these at the
    other number of their window."""
    draw = random.Random(seed)
    entries = []
    for entry in problem.entries:
        held = printed[entry.id] if draw.random() < 0.3 else None
        if held is not None and len(entry.window) == 2 and draw.random() < 0.04:
            held = sum(entry.window) - held
        entries.append(replace(entry, held=held))
    return replace(problem, entries=tuple(entries))


Maker = Callable[[int, int], Drawn]
PROBLEMS: dict[str, tuple[Maker, int]] = {
    "roll-forwards": (roll_forward, 80),
    "four ways": (four_ways, 30),
    "random signs": (random_signs, 600),
    "side by side": (side_by_side, 450),
    "shares": (shares, 60),
}
