"""Opening any source by its name and its first bytes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from humble_sum.core.collecting import uncollected
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.linked_units import with_linked_units
from humble_sum.core.intake.regions import has_figures, regions
from humble_sum.core.intake.table import Table, without_controls
from humble_sum.exchange.exact_json import MOST_BYTES
from humble_sum.exchange.sources.progress import Progress, unheard
from humble_sum.exchange.sources.source_kinds import kind_of


@uncollected()
def open_source(name: str, data: bytes, progress: Progress = unheard, query: str = "") -> list[Table]:
    """Every table of a source that has figures; a sheet that holds several gives several. What was left out
    is noted with the others. A query is asked of an SQLite file.

    Raises InputError with the file, and the sheet or row where it matters.
    """
    return with_figures(name, _opened(name, data, progress, query))


def with_figures(name: str, read: Sequence[Table]) -> list[Table]:
    """The tables with figures of what was read, and notes of what was left out. Raises InputError where there
    are none."""
    opened = [without_controls(table) for table in read]
    found = [region for table in opened for region in regions(table)]
    tables = [table for table in found if has_figures(table)]
    if not tables:
        what = "There is no table of figures in it."
        raise InputError(
            "no-table", Fault(name, what, "Take in a file whose lines have amounts beside them.")
        )
    left = [table.name or name for table in found if not has_figures(table)]
    if left:
        note = Fault(name, f"Left out, as there are no figures in it: {', '.join(left[:8])}.")
        tables[0] = replace(tables[0], notes=(*tables[0].notes, note))
    return with_linked_units(tables)


def asks(data: bytes) -> bool:
    """Whether a query can be asked of a source."""
    return kind_of("", data).queried


def _opened(name: str, data: bytes, progress: Progress, query: str) -> list[Table]:
    if len(data) > MOST_BYTES:
        raise InputError("too-large", Fault(name, f"It is larger than {MOST_BYTES // 1024 // 1024} MiB."))
    if not data.strip():
        raise InputError("no-table", Fault(name, "The file is empty."))
    kind = kind_of(name, data)
    if query and not kind.queried:
        what = "A query is asked of an SQLite file, and this is none."
        raise InputError("broken-file", Fault(name, what, "Leave the query out."))
    return kind.read(name, data, progress, query)
