"""House rules over Arrow batches, alone and on a local cluster of worker processes: python -m bench cluster.

Any engine that maps record batches does the same: hand it `print_batch` and the rules.
"""

import time
from collections.abc import Callable, Iterator
from decimal import Decimal
from functools import partial

import numpy as np
import pyarrow as pa
from distributed import Client, LocalCluster

from bench.rows import Row, print_part
from humble_sum.arrow import print_batch
from humble_sum.core.printing.batch import print_texts
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.resolved_clauses import ResolvedClauses

RULE = {"scale": "lakhs", "negative": "brackets", "locale": "en-IN", "currency": "INR"}
ROWS, BATCHES = 250_000, 40  # ten million texts


def made(seed: int, many: int = ROWS) -> pa.RecordBatch:
    """A batch of amounts, made where it is printed, as one that is read from a shared store is."""
    cents = np.random.default_rng(seed).integers(-(10**12), 10**12, many)
    return pa.record_batch({"amount": pa.array([Decimal(int(each)).scaleb(-2) for each in cents])})


def count(seed: int, many: int = ROWS) -> int:
    """How many letters one batch prints; what a job would write away stays with it."""
    printed = print_batch(made(seed, many), {"amount": RULE})
    return sum(map(len, printed.column("amount as printed").to_pylist()))


def rows(tiny: bool = False) -> Iterator[Row]:
    """The ratio to `print_texts`, and ten million texts on a cluster of two workers."""
    many, batches, rounds = (100, 2, 1) if tiny else (ROWS, BATCHES, 5)
    batch = made(0, many)
    amounts = batch.column("amount").to_pylist()
    clauses = ResolvedClauses(**read_clauses(RULE).named())
    ours = min(timed(partial(print_batch, batch, {"amount": RULE})) for _ in range(rounds))
    plain = min(timed(partial(print_texts, amounts, clauses)) for _ in range(rounds))
    yield Row(f"Arrow printing of {many:,}, against print_texts", f"{ours / plain:.2f}×")
    with (
        LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None) as cluster,  # type: ignore[no-untyped-call]
        Client(cluster) as client,  # type: ignore[no-untyped-call]
    ):
        start = time.perf_counter()
        letters = sum(client.gather(client.map(partial(count, many=many), range(batches))))
        took = time.perf_counter() - start
        used = client.run(resident)
    most = max(used.values())
    what = f"{many * batches:,} texts ({letters:,} letters) on two workers"
    yield Row(what, f"{took:.1f} s, at most {most} MB in a worker")


def resident() -> int:
    """The most memory that this process has had, in MB."""
    import resource

    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024


def timed(work: Callable[[], object]) -> float:
    """Seconds that it takes."""
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


if __name__ == "__main__":
    print_part("cluster", rows)
