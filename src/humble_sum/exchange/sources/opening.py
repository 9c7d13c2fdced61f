"""Opening any source by its name and its first bytes."""

from __future__ import annotations

from dataclasses import replace

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.linked_units import with_linked_units
from humble_sum.core.intake.regions import has_figures, regions
from humble_sum.core.intake.table import Table, without_controls
from humble_sum.exchange.exact_json import MOST_BYTES
from humble_sum.exchange.sources.columnar import is_columnar, read_columnar
from humble_sum.exchange.sources.keyed_rows import read_records
from humble_sum.exchange.sources.open_document import is_open_document, read_open_document
from humble_sum.exchange.sources.progress import Progress, unheard
from humble_sum.exchange.sources.sheets import OLE, read_sheets
from humble_sum.exchange.sources.sqlite_file import MAGIC, read_sqlite
from humble_sum.exchange.sources.text import decoded, read_text
from humble_sum.exchange.sources.web_page import read_web_page

# How an archive begins: with a file, or, where it is empty or in several parts, with its end (APPNOTE 4.3).
ARCHIVES = (b"PK\x03\x04", b"PK\x05\x06", b"PK\x07\x08")


def open_source(name: str, data: bytes, progress: Progress = unheard, query: str = "") -> list[Table]:
    """Every table of a source that has figures; a sheet that holds several gives several. What was left out
    is noted with the others. A query is asked of an SQLite file.

    Raises InputError with the file, and the sheet or row where it matters.
    """
    opened = [without_controls(table) for table in _opened(name, data, progress, query)]
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
    return data.startswith(MAGIC)


def _opened(name: str, data: bytes, progress: Progress, query: str) -> list[Table]:
    if len(data) > MOST_BYTES:
        raise InputError("too-large", Fault(name, f"It is larger than {MOST_BYTES // 1024 // 1024} MiB."))
    if not data.strip():
        raise InputError("no-table", Fault(name, "The file is empty."))
    if asks(data):
        return read_sqlite(name, data, query)
    if query:
        what = "A query is asked of an SQLite file, and this is none."
        raise InputError("broken-file", Fault(name, what, "Leave the query out."))
    if is_open_document(data):
        return read_open_document(name, data)
    if is_columnar(data):
        return [read_columnar(name, data)]
    if data.startswith((*ARCHIVES, OLE)) or name.lower().endswith((".xlsx", ".xlsm")):
        return read_sheets(name, data, progress)
    if name.lower().endswith(".json"):
        return [read_records(name, data)]
    if name.lower().endswith((".html", ".htm")) or b"<table" in data[:4096].lower():
        return read_web_page(name, decoded(name, data)[0])
    return [read_text(name, data, progress)]
