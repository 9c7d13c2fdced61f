"""Footing by the doors that users have, beside plain solvers, alone and with the processors busy elsewhere:
python -m bench searches."""

from __future__ import annotations

import json
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from decimal import Decimal
from functools import partial

import numpy as np
import pyarrow as pa
from numpy.typing import NDArray
from scipy.sparse import csr_array

import humble_sum
from bench.families import Sums
from bench.footing import default_lp, plain_milp, seconds, tree
from bench.problems import PROBLEMS, averages, held_elsewhere
from bench.rows import Row, print_part
from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.objective import Objective
from humble_sum.core.footing.problem import Problem
from humble_sum.core.footing.problem_json import read_arrays
from humble_sum.core.footing.solve import foot
from humble_sum.core.footing.solver.deadline import OutOfTime, until
from humble_sum.core.footing.system import program_for
from humble_sum.exchange.exact_json import parse_json

Relations = list[tuple[str, list[tuple[str, int]]]]

LIMIT = 20.0  # seconds of each search
SHORT = 2.0  # the same, of those that show whether there is a plan soon
MOST_IN_JSON = 500_000  # figures that a file of JSON may hold
BUSY = [sys.executable, "-c", "import time\nend = time.time() + 600\nwhile time.time() < end: pass"]


@contextmanager
def busy_loops(count: int) -> Iterator[None]:
    """So many processes that do nothing but keep a processor busy, ended afterwards."""
    loops = [subprocess.Popen(BUSY) for _ in range(count)]
    try:
        yield
    finally:
        for loop in loops:
            loop.kill()
            loop.wait()


def rows(tiny: bool = False) -> Iterator[Row]:
    """A large tree through `humble_sum.foot`; kinds of problems beside a plain MILP; what cannot foot."""
    yield from _large_tree(2_000 if tiny else 90_000)
    if not tiny:
        yield from _large_tree(900_000)
    for loops in (0,) if tiny else (0, 2):
        with busy_loops(loops):
            beside = f", beside {loops} busy loops" if loops else ""
            for name, (make, size) in PROBLEMS.items():
                problem = make(1, 8 if tiny else size).problem()
                for limit in (SHORT,) if tiny else (SHORT, LIMIT):
                    yield _against_plain(f"{name}{beside}", problem, limit)
            yield from _impossible(tiny, beside)


def _large_tree(lines: int) -> Iterator[Row]:
    """The same tree by names, by arrays and by tables, against a default LP; and reading it from JSON."""
    made = tree(lines)
    digits = len(str(made.parts)) - 1
    names = [f"f{n:07d}" for n in range(len(made.exact))]
    figures = {name: _text(int(amount), made.parts) for name, amount in zip(names, made.exact, strict=True)}
    relations = [
        (names[total], [(names[part], sign) for part, sign in zip(parts, signs, strict=True)])
        for total, parts, signs in made.sums
    ]
    amounts, matrix = np.array(made.exact, dtype=np.int64), _matrix(made)
    tables = _tables(names, amounts, digits, relations)
    theirs = seconds(partial(default_lp, made.program()), rounds=1)[0]
    for way, work in (
        ("names", partial(humble_sum.foot, figures, relations)),
        ("arrays", partial(humble_sum.foot, amounts, matrix, power=digits)),
        ("tables", partial(humble_sum.foot_tables, *tables)),
    ):
        ours = seconds(work, rounds=1)[0]
        what = f"a tree of {len(names):,} through humble_sum.foot by {way}, against a default LP"
        yield Row(what, f"{ours:.2f} s, {ours / theirs:.2f} times the LP's {theirs:.2f} s")
    if len(names) > MOST_IN_JSON:
        return
    stated = [{"total": total, "parts": parts} for total, parts in relations]
    data = json.dumps({"figures": figures, "relations": stated}).encode()
    ours, plain = seconds(partial(_read, data), partial(_plainly, data), rounds=1)
    what = f"JSON of {len(names):,} figures read, against json.load and a Decimal each"
    yield Row(what, f"{ours:.2f} s, {ours / plain:.2f} times")


def _matrix(made: Sums) -> csr_array:
    """Relations × figures: a total has 1, and its parts less their signs."""
    rows = np.repeat(np.arange(len(made.sums)), [len(parts) + 1 for _, parts, _ in made.sums])
    columns = [n for total, parts, _ in made.sums for n in (total, *parts)]
    entries = [n for _, _, signs in made.sums for n in (1, *(-sign for sign in signs))]
    return csr_array((entries, (rows, columns)), shape=(len(made.sums), len(made.exact)), dtype=np.int64)


def _tables(
    names: list[str], amounts: NDArray[np.int64], digits: int, relations: Relations
) -> tuple[pa.Table, pa.Table]:
    whole = pa.array(amounts).cast(pa.decimal128(38, 0))
    decimals = pa.Array.from_buffers(pa.decimal128(38, digits), len(whole), whole.buffers())
    rows = [(total, part, sign) for total, parts in relations for part, sign in parts]
    total, part, sign = map(list, zip(*rows, strict=True))
    return pa.table({"figure": names, "amount": decimals}), pa.table(
        {"total": total, "part": part, "sign": sign}
    )


def _read(data: bytes) -> None:
    if read_arrays(parse_json(data, "file")) is None:
        raise RuntimeError("it is not read in arrays")


def _plainly(data: bytes) -> None:
    for text in json.loads(data)["figures"].values():
        Decimal(text)


def _text(amount: int, parts: int) -> str:
    decimals = len(str(parts)) - 1
    sign, size = "-" if amount < 0 else "", str(abs(amount)).rjust(decimals + 1, "0")
    return f"{sign}{size[:-decimals]}.{size[-decimals:]}"


def _against_plain(name: str, problem: Problem, limit: float) -> Row:
    """The drift that a search comes to and its word, beside SciPy's."""
    began, said = time.perf_counter(), "no plan"
    cost = None
    with suppress(OutOfTime):
        found = foot(problem, until(limit))
        assert found is not None
        cost = found.added_drift
        word = "proved" if found.proved else "none found less" if found.solver_proved else "open"
        said = f"{cost:.4f} {word}"
    took = time.perf_counter() - began
    least_of = Objective(problem)
    base = sum(least_of.drift(entry, entry.base) for entry in problem.entries if entry.held is None)
    theirs, plain, closed = plain_milp(program_for(problem, least_of), limit)
    other = "no plan"
    if plain is not None:
        end = "closed" if closed else "open"
        other = f"{(base + plain) / least_of.parts:.4f} {end}"
    dearer = (
        "  DEARER" if plain is not None and (cost is None or cost * least_of.parts > base + plain + 1) else ""
    )
    what = f"{name}, {len(problem.entries):,} figures, {limit:.0f} s, against a plain MILP"
    return Row(what, f"{said} in {took:.2f} s; {other} in {theirs:.2f} s{dearer}")


def _impossible(tiny: bool, beside: str) -> Iterator[Row]:
    """How soon it is known that a problem cannot foot, and how soon why."""
    make, size = PROBLEMS["roll-forwards"]
    free = make(2, 4 if tiny else size).problem()
    plan = foot(free, until(LIMIT))
    assert plan is not None
    for name, problem in (
        ("averages that cannot be", averages(1, 20 if tiny else 1_000).problem()),
        ("held at another plan", held_elsewhere(free, plan.printed, 2)),
    ):
        began = time.perf_counter()
        if foot(problem, until(LIMIT)) is not None:
            continue
        known = time.perf_counter() - began
        why = explain(problem, until(LIMIT))
        explained = time.perf_counter() - began - known
        theirs, _, _ = plain_milp(program_for(problem, Objective(problem)), LIMIT)
        release = "none is enough" if why.release is None else f"{len(why.release)} holds to release"
        what = f"{name}{beside}, {len(problem.entries):,} figures, impossible"
        told = f"known in {known:.2f} s, plain in {theirs:.2f} s; {release}, {len(why.conflict)} in conflict"
        yield Row(what, f"{told}, in {explained:.2f} s more")


if __name__ == "__main__":
    print_part("searches", rows)
