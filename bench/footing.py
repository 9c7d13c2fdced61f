"""Footing measured against SciPy's own default solvers, side by side in one run: python -m bench footing.

Every answer of ours is proved least before its time counts.
"""

from __future__ import annotations

import math
import resource
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from decimal import Decimal
from functools import partial

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, linprog, milp
from scipy.sparse import csr_array, hstack

from bench.families import FAMILIES, Sums
from bench.packs import tied_pack
from bench.rows import Row, print_part
from humble_sum.core.footing.explain import smallest_release
from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.footing.problem import Entry, Equation, Problem, window_of
from humble_sum.core.footing.solver.deadline import until
from humble_sum.core.footing.solver.forest import Forest, least_in_forest
from humble_sum.core.footing.solver.program import Program, least
from humble_sum.core.footing.solver.search import minimise
from humble_sum.core.footing.system import asked, over_figures, over_steps
from humble_sum.core.printing.rounding import Position
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.core.statements.policy import DEFAULT
from humble_sum.records.demo import demo_pack

SUB_UNITS = 100
ROUNDS = 3
LIMIT = 30.0  # seconds for each problem of a fractional family


def line_tree(lines: int, group: int = 10) -> tuple[int, list[tuple[int, list[int]]]]:
    """Lines in tens under subtotals under a total: how many rows, and what adds to what."""
    level, rows, sums = list(range(lines)), lines, []
    while len(level) > 1:
        above = []
        for start in range(0, len(level), group):
            sums.append((rows, level[start : start + group]))
            above.append(rows)
            rows += 1
        level = above
    return rows, sums


def tree(lines: int) -> Sums:
    """One column of lines under subtotals."""
    rows, sums = line_tree(lines)
    exact = np.zeros(rows, dtype=np.int64)
    exact[:lines] = np.random.default_rng(7).integers(-(10**7), 10**7, lines)
    for total, parts in sums:
        exact[total] = exact[parts].sum()
    return Sums(exact, [(total, parts, [1] * len(parts)) for total, parts in sums], SUB_UNITS)


def table(lines: int) -> Sums:
    """The same by twelve months, four quarters, the year, last year and the change."""
    made = np.random.default_rng(3)
    rows, sums = line_tree(lines)
    exact = np.zeros((rows, 19), dtype=np.int64)
    exact[:lines, :12] = made.integers(-(10**6), 10**7, (lines, 12))
    exact[:lines, 17] = made.integers(-(10**7), 10**8, lines)
    for total, parts in sums:
        exact[total] = exact[parts].sum(0)
    for quarter in range(4):
        exact[:, 12 + quarter] = exact[:, 3 * quarter : 3 * quarter + 3].sum(1)
    exact[:, 16] = exact[:, 12:16].sum(1)
    exact[:, 18] = exact[:, 16] - exact[:, 17]
    at = np.arange(rows * 19).reshape(rows, 19)
    found = []
    for total, parts in sums:
        found += [(int(at[total, c]), at[parts, c].tolist(), [1] * len(parts)) for c in range(19)]
    for row in at.tolist():
        found += [(row[12 + q], row[3 * q : 3 * q + 3], [1] * 3) for q in range(4)]
        found += [(row[16], row[12:16], [1] * 4), (row[18], [row[16], row[17]], [1, -1])]
    return Sums(exact.ravel(), found, SUB_UNITS)


def tied(lines: int) -> Sums:
    """Two statements of the same lines in another order, tied one to one."""
    made = np.random.default_rng(5)
    rows, sums = line_tree(lines)
    leaf, order = made.integers(-(10**6), 10**7, lines), made.permutation(lines)
    exact = np.zeros(2 * rows, dtype=np.int64)
    found = []
    for base, amounts in ((0, leaf), (rows, leaf[order])):
        exact[base : base + lines] = amounts
        for total, parts in sums:
            own = [base + part for part in parts]
            exact[base + total] = exact[own].sum()
            found.append((base + total, own, [1] * len(own)))
    found += [(int(order[n]), [rows + n], [1]) for n in range(lines)]
    return Sums(exact, found, SUB_UNITS)


def held(lines: int) -> Problem:
    """The table as a problem of entries whose held totals cannot all add."""
    made = table(lines)
    entries = []
    totals = {total for total, _, _ in made.sums}
    for n, amount in enumerate(made.exact.tolist()):
        floor, over = divmod(amount, SUB_UNITS)
        where = Position(floor, over, SUB_UNITS)
        own_rounding = floor + (2 * over >= SUB_UNITS)
        inside = floor + (over > 0 and n % 3 == 0)
        hold = inside if n in totals and n % 2 == 0 else None
        entries.append(
            Entry(str(n), where, own_rounding, held=hold, window=window_of(where, own_rounding, DEFAULT))
        )
    equations = [
        Equation(str(total), tuple((str(part), sign) for part, sign in zip(parts, signs, strict=True)))
        for total, parts, signs in made.sums
    ]
    return Problem(tuple(entries), tuple(equations))


def table_pack(lines: int) -> Pack:
    """The table as a pack, whose derived columns are its own to add."""
    made = np.random.default_rng(3)
    rows, sums = line_tree(lines)
    months = [f"m{n}" for n in range(12)]
    columns = [Column(id=month, label=month) for month in months]
    columns += [Column(id=f"q{q}", label=f"q{q}", sum=tuple(months[3 * q : 3 * q + 3])) for q in range(4)]
    columns.append(Column(id="year", label="year", sum=("q0", "q1", "q2", "q3")))
    columns.append(Column(id="last", label="last"))
    columns.append(Column(id="change", label="change", difference=("year", "last")))
    given = [*months, "last"]
    exact = np.zeros((rows, len(given)), dtype=np.int64)
    exact[:lines] = made.integers(-(10**6), 10**7, (lines, len(given)))
    parts_of = dict(sums)
    for total, parts in sums:
        exact[total] = exact[parts].sum(0)
    found = []
    for row, amounts in enumerate(exact.tolist()):
        found.append(
            Line(
                id=f"l{row}",
                label=f"Line {row}",
                kind="subtotal" if row in parts_of else "line",
                parts=tuple((f"l{part}", 1) for part in parts_of.get(row, ())),
                amounts={id: Decimal(amount) / SUB_UNITS for id, amount in zip(given, amounts, strict=True)},
            )
        )
    statement = Statement(id="s", name="Table", title="Table", columns=tuple(columns), lines=tuple(found))
    return Pack(entity="Long Island", period="2026", statements=(statement,))


def default_lp(program: Program) -> None:
    linprog(
        program.stages[0].astype(float),
        A_eq=program.matrix.astype(float),
        b_eq=program.right.astype(float),
        bounds=(0, 1),
    )


def plain_release(problem: Problem) -> int:
    """The fewest holds to release as a mixed-integer program, as one would write it for SciPy: a held
    figure prints its hold, or a number of its window where its release is paid for."""
    entries = problem.entries
    counts = [len(entry.window) - 1 for entry in entries]
    starts, count = np.cumsum([0, *counts]), sum(counts)
    holds = [n for n, entry in enumerate(entries) if entry.held is not None]
    figures = over_figures(problem)
    base = np.array([entry.window[0] if entry.held is None else entry.held for entry in entries])
    off = np.array([entries[n].window[0] - (entries[n].held or 0) for n in holds])
    matrix = hstack([figures @ over_steps(counts), figures[:, holds] * off])
    right = asked(figures, base)
    below = [(v, r) for r, n in enumerate(holds) for v in range(starts[n], starts[n + 1])]
    rows, width = np.arange(len(below)), count + len(holds)
    taken = csr_array((np.ones(len(below)), (rows, [v for v, _ in below])), shape=(len(below), width))
    paid = csr_array((np.ones(len(below)), (rows, [count + r for _, r in below])), shape=(len(below), width))
    result = milp(
        np.concatenate([np.zeros(count), np.ones(len(holds))]),
        integrality=np.ones(width, dtype=np.int64),
        bounds=Bounds(0, 1),
        constraints=[
            LinearConstraint(matrix.astype(float), right, right),
            LinearConstraint(taken - paid, -np.inf, np.zeros(len(below))),
        ],
    )
    return -1 if result.x is None else round(result.fun)


def plain_milp(program: Program, limit: float = LIMIT) -> tuple[float, float | None, bool]:
    """Seconds, cost and whether it is closed, of SciPy's mixed-integer program with presolve on."""
    start = time.perf_counter()
    rows = program.right.astype(float)
    result = milp(
        program.stages[0].astype(float),
        integrality=np.ones(len(program.preference), dtype=np.int64),
        bounds=Bounds(0, 1),
        constraints=LinearConstraint(program.matrix.astype(float), rows, rows),
        options={"time_limit": limit, "mip_rel_gap": 0.0},
    )
    cost = None if result.x is None else float(result.fun)
    return time.perf_counter() - start, cost, result.status == 0


def against_plain(tiny: bool) -> Iterator[Row]:
    """The four families: added drift, word and seconds, ours with equals told apart and plain's without."""
    for name, (make, sizes) in FAMILIES.items():
        for size in (8,) if tiny else sizes:
            for seed in (1,) if tiny else (1, 2, 3):
                made = make(seed, size)
                program = made.program()
                base = int(np.minimum(program.stages[0], 0).sum())
                ours, own, word, proving = _ours(program)
                theirs, cost, closed = plain_milp(program)
                other = math.inf if cost is None else cost
                figures = f"{len(made.exact):,} figures"
                told = f"{(own - base) / made.parts:.5f} {word} in {proving:.2f} s, {ours:.2f} s in all"
                end = "closed" if closed else "open"
                plain = f"plain {(other - base) / made.parts:.5f} {end}, {theirs:.2f} s"
                dearer = "  DEARER" if own > other + 0.5 else ""
                what = f"{name} {seed}, {figures}, {LIMIT:.0f} s, against a plain MILP"
                yield Row(what, f"{told}; {plain}: {proving / theirs:.2f}×{dearer}")


def _ours(program: Program) -> tuple[float, float, str, float]:
    """Seconds in all, cost, word, and seconds until the word was known, before equals were told apart."""
    start = time.perf_counter()
    found = least(program, until(LIMIT))
    ours = time.perf_counter() - start
    alone = replace(program, stages=program.stages[:1], told=np.zeros(len(program.preference), dtype=bool))
    start = time.perf_counter()
    least(alone, until(LIMIT))
    proving = min(ours, time.perf_counter() - start)
    word = "no plan is less" if found.proved else "none found less" if found.solver_proved else "early"
    cost = math.inf if found.choice is None else float(program.stages[0][found.choice == 1].sum())
    return ours, cost, word, proving


def seconds(*works: Callable[[], object], rounds: int = ROUNDS) -> list[float]:
    """Least seconds of each work, taking turns so that all meet the same machine."""
    best = [float("inf")] * len(works)
    for _ in range(rounds):
        for place, work in enumerate(works):
            start = time.perf_counter()
            work()
            best[place] = min(best[place], time.perf_counter() - start)
    return best


def forest_of(made: Sums) -> Forest:
    count = len(made.exact)
    floor = made.exact // SUB_UNITS
    over = made.exact - floor * SUB_UNITS
    total, level = np.full(count, -1), np.zeros(count, dtype=np.int64)
    for of, parts, _ in made.sums:
        total[parts] = of
        level[of] = 1 + level[parts].max()
    return Forest(floor, SUB_UNITS - 2 * over, over != 0, total, np.ones(count, dtype=np.int64), level)


def against(name: str, figures: int, ours: Sequence[float], theirs: float) -> Row:
    told = ", ".join(f"{each / theirs:.2f}×" for each in ours)
    spent = ", ".join(f"{each:.3f}" for each in ours)
    return Row(f"{name}, {figures:,} figures", f"{told} ({spent} s against {theirs:.3f} s)")


def check(proved: bool) -> None:
    if not proved:
        raise SystemExit("an answer was not proved least")


def rows(tiny: bool = False) -> Iterator[Row]:
    """Trees, crossed and tied statements, releases, packs, and families whose relaxation is fractional."""
    timed = partial(seconds, rounds=1 if tiny else ROUNDS)
    made = tree(90 if tiny else 90_000)
    forest, program = forest_of(made), made.program()
    printed = least_in_forest(forest)
    assert printed is not None
    up = (printed - forest.low)[forest.free]
    check(
        int((program.stages[0] * up).sum())
        == minimise(program.matrix, program.right, program.stages[0]).bound
    )
    ours, theirs = timed(lambda: least_in_forest(forest), lambda: default_lp(program))
    yield against("tree against a default LP", len(made.exact), [ours], theirs)
    sizes = (20, 30, 40) if tiny else (950, 5_700, 22_500)
    for name, large in zip(
        ("cross-footed", "cross-footed", "tied"),
        (table(sizes[0]), table(sizes[1]), tied(sizes[2])),
        strict=True,
    ):
        program = large.program()
        check(minimise(program.matrix, program.right, program.stages[0]).proved and least(program).proved)
        plain, chosen, theirs = timed(
            partial(minimise, program.matrix, program.right, program.stages[0]),
            partial(least, program),
            partial(default_lp, program),
        )
        what = f"{name}, proved, then with the choice among equals"
        yield against(what, len(large.exact), [plain, chosen], theirs)
    problem = held(12 if tiny else 240)
    release = smallest_release(problem)
    released = release.holds
    check(release.proved and released is not None and len(released) == plain_release(problem))
    ours, theirs = timed(lambda: smallest_release(problem), lambda: plain_release(problem))
    what = f"fewest holds to release, {len(released or ())}, against a plain MILP"
    yield against(what, len(problem.entries), [ours], theirs)
    packs = (
        ("the demo pack", demo_pack()),
        ("a cross-footed pack", table_pack(20 if tiny else 284)),
        ("a pack of four tied statements", tied_pack(20 if tiny else 240, 4, every=4)),
    )
    for name, pack in packs:
        pack_proof = prove_pack(pack)
        found = plan(pack_proof)
        assert isinstance(found, Plan)
        check(found.proved)
        proving, planning = timed(partial(prove_pack, pack), partial(plan, pack_proof))
        figures = sum(len(proof.figures) for proof in pack_proof.proofs.values())
        spent = f"{1000 * planning:.0f} ms, after {1000 * proving:.0f} ms of printing and checking"
        yield Row(f"{name} of {figures:,} figures foots", spent)
    yield from against_plain(tiny)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024 / 1024
    yield Row("most memory", f"{peak:.2f} GB")


if __name__ == "__main__":
    print_part("footing", rows)
