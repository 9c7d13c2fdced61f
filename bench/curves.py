"""How drift falls while a search goes on, ours beside a plain MILP: python -m bench.curves FILE."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import numpy as np
from matplotlib import pyplot

from bench.families import FAMILIES, Sums
from bench.footing import plain_milp
from humble_sum.core.footing.solver.deadline import OutOfTime, until
from humble_sum.core.footing.solver.program import least

LIMIT = 30.0  # seconds
ASKED = (1.0, 2.0, 4.0, 8.0, 15.0, 30.0)  # limits that the plain solver is given, each a run of its own
SEED = 5
Points = list[tuple[float, float]]


def hard() -> list[tuple[str, Sums]]:
    """The larger size of each family, and the largest there is once more from another seed."""
    made = [(name, make(SEED, sizes[-1])) for name, (make, sizes) in FAMILIES.items()]
    name, (make, sizes) = list(FAMILIES.items())[-1]
    return [*made, (f"{name}, another", make(SEED + 1, sizes[-1]))]


def ours(made: Sums) -> Points:
    """The best cost so far, each time there is a better one."""
    found: Points = []
    began = time.perf_counter()

    def heard(cost: int | None, bound: int) -> None:
        if cost is not None and (not found or cost < found[-1][1]):
            found.append((time.perf_counter() - began, float(cost)))

    program = made.program()
    with suppress(OutOfTime):
        done = least(program, replace(until(LIMIT), found=heard))
        if done.choice is not None:
            heard(int(program.stages[0][done.choice == 1].sum()), 0)
    return found


def plain(made: Sums) -> Points:
    """The cost that a plain MILP ends with, by the limit it is given."""
    found = []
    for limit in ASKED:
        _, cost, closed = plain_milp(made.program(), limit)
        if cost is not None:
            found.append((limit, cost))
        if closed:
            break
    return found


def draw(file: Path, instances: list[tuple[str, Sums]]) -> None:
    """A chart for each problem: how far above the least cost that anybody found, in percent."""
    pyplot.switch_backend("svg")
    pyplot.rcParams |= {"svg.fonttype": "none", "svg.hashsalt": "curves", "font.family": "sans-serif"}
    figure, charts = pyplot.subplots(
        1, len(instances), figsize=(3.2 * len(instances), 3), layout="constrained"
    )
    for chart, (name, made) in zip(np.atleast_1d(charts), instances, strict=True):
        lines: list[tuple[str, str, Callable[[Sums], Points]]] = [
            ("Humble Sum", "#0b5e63", ours),
            ("plain MILP", "#a5432a", plain),
        ]
        measured = [(said, colour, work(made)) for said, colour, work in lines]
        base = int(np.minimum(made.program().stages[0], 0).sum())
        best = min(cost for _, _, points in measured for _, cost in points)
        for said, colour, points in measured:
            above = [(seconds, 100 * (cost - best) / (best - base)) for seconds, cost in points]
            above.append((LIMIT, above[-1][1])) if above else None
            steps = [each for one, other in pairwise(above) for each in (one, (other[0], one[1]))]
            chart.plot(*zip(*(steps or [(LIMIT, 0.0)]), strict=True), color=colour, label=said)
            print(name, said, [(round(s, 1), round(c, 3)) for s, c in above], flush=True)
        chart.set(
            title=f"{name}, {len(made.exact):,}",
            xlabel="seconds",
            xscale="log",
            yscale="symlog",
            ylim=(0, None),
        )
        chart.spines[["top", "right"]].set_visible(False)
    np.atleast_1d(charts)[0].set_ylabel("% above the least found")
    np.atleast_1d(charts)[0].legend(frameon=False)
    figure.savefig(file, format="svg", metadata={"Date": None})


if __name__ == "__main__":
    draw(Path(sys.argv[1]), hard())
