"""The command foot-tables. What it does is imported when it runs."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any

import typer

from humble_sum.cli.exit_codes import FOUND
from humble_sum.cli.files import MOST_CONTAINER, read_file, write_file
from humble_sum.cli.stopping import say_stopped, stoppable

MOST_CELLS = 100_000_000  # of each table


def foot_tables(
    figures: Annotated[
        Path, typer.Argument(help="Parquet or Arrow: the columns figure and amount, and held if any is.")
    ],
    relations: Annotated[
        Path, typer.Argument(help="The same: a row for each part, with the columns total, part and sign.")
    ],
    out: Annotated[Path | None, typer.Option(help="Write what each figure prints, as Parquet.")] = None,
    seconds: Annotated[
        float | None, typer.Option(min=0.001, help="Take the best plan found by then, with its bound.")
    ] = None,
) -> None:
    """Foot a bare problem of two tables with the least drift; exit 1 when it cannot foot.

    Amounts are decimals, whole numbers or text, in units. A third column of relations, relation, tells apart
    several ways in which one total is made. What was found is printed as JSON.

    humble-sum foot-tables figures.parquet relations.parquet --out printed.parquet
    """
    from humble_sum.arrow_footing import foot_tables as foot
    from humble_sum.exchange.sources.columnar import open_columnar

    named, adding = (
        open_columnar(str(file), read_file(file, MOST_CONTAINER), MOST_CELLS) for file in (figures, relations)
    )
    with stoppable(seconds) as stop:
        found, printed = foot(named, adding, stop.clock)
        if out is not None and printed is not None:
            write_file(out, _parquet(printed))
        said: dict[str, Any] = {"feasible": found.feasible}
        if found.moved is None or found.added_drift is None:
            said |= {"release": _names(named, found.release), "conflict": _rows(found.conflict)}
            said["smallest"] = found.smallest
        else:
            said |= {"figures": len(named), "moved": len(found.moved)}
            said["added_drift"] = format(found.added_drift.normalize(), "f")
        said |= {"proved": found.proved, "solver_proved": found.solver_proved}
        if found.bound is not None:
            said["bound"] = format(found.bound, "f")
        print(json.dumps(said, ensure_ascii=False, indent=1))
        say_stopped(stop)
    if not found.feasible:
        raise typer.Exit(FOUND)


def _names(figures: Any, numbers: Any) -> list[Any] | None:
    """What figures are called, by their rows."""
    return None if numbers is None else figures.column("figure").take(numbers).to_pylist()


def _rows(numbers: Any) -> list[int]:
    """Rows of relations as people count them, from 1."""
    return [number + 1 for number in numbers.tolist()]


def _parquet(table: Any) -> bytes:
    import pyarrow
    import pyarrow.parquet

    kept = pyarrow.BufferOutputStream()
    pyarrow.parquet.write_table(table, kept)
    written: bytes = kept.getvalue().to_pybytes()
    return written
