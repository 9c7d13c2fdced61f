"""The results of many jobs as a table: to be read, and as Parquet."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from humble_sum.cluster.jobs import Job, Result

MOST_WIDE = 60  # characters of what is said last


def as_row(job: Job, result: Result, before: bool) -> dict[str, Any]:
    """A job with its result; `before` says that it was done before and is unchanged."""
    return {
        "pack": job.name,
        "edition": job.edition,
        "entity": result.entity,
        "figures": result.figures,
        "open": result.open,
        "says": list(result.says),
        "files": result.names,
        "failed": result.failed,
        "done": "before" if before else "now",
        "digest": job.digest,
    }


def as_lines(rows: Sequence[dict[str, Any]]) -> Iterator[str]:
    """The table in fixed widths, and a line that sums it up."""
    wide = max([4, *(len(row["pack"]) for row in rows)])
    wider = max([7, *(len(row["edition"]) for row in rows)])
    yield f"{'pack':<{wide}}  {'edition':<{wider}}  {'figures':>9}  open"
    for row in rows:
        said = row["failed"] or next(iter(row["says"]), "")
        said = said if len(said) <= MOST_WIDE else said[: MOST_WIDE - 1] + "…"
        stands = "failed" if row["failed"] else str(row["open"])
        name = f"{row['pack']:<{wide}}  {row['edition']:<{wider}}"
        yield f"{name}  {row['figures']:>9,}  {stands:>6}  {said}".rstrip()
    failed = sum(bool(row["failed"]) for row in rows)
    open_ = sum(bool(row["open"]) for row in rows)
    before = sum(row["done"] == "before" for row in rows)
    unchanged = f", {before} of them before and unchanged" if before else ""
    yield f"{len(rows)} done{unchanged}; {open_} have something open, {failed} failed."


def write_parquet(rows: Sequence[dict[str, Any]], path: Path) -> bool:
    """Write the table as Parquet; False where this machine has nothing that writes it."""
    try:
        import pyarrow as pa
        import pyarrow.parquet as pq
    except ImportError:
        return False
    texts = pa.list_(pa.string())
    schema = pa.schema(
        [
            *((name, pa.string()) for name in ("pack", "edition", "entity")),
            *((name, pa.int64()) for name in ("figures", "open")),
            *((name, texts) for name in ("says", "files")),
            *((name, pa.string()) for name in ("failed", "done", "digest")),
        ]
    )
    pq.write_table(pa.Table.from_pylist(list(rows), schema), path)
    return True
