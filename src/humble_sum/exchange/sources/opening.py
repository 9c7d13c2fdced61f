"""Opening any source by its name and its first bytes."""

from __future__ import annotations

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import Table
from humble_sum.exchange.exact_json import MOST_BYTES
from humble_sum.exchange.sources.progress import Progress, unheard
from humble_sum.exchange.sources.records import read_records
from humble_sum.exchange.sources.sheets import OLE, read_sheets
from humble_sum.exchange.sources.text import read_text


def open_source(name: str, data: bytes, progress: Progress = unheard) -> list[Table]:
    """Every table of a source. Raises InputError with the file, and the sheet or row where it matters."""
    if len(data) > MOST_BYTES:
        raise InputError("too-large", Fault(name, f"It is larger than {MOST_BYTES // 1024 // 1024} MiB."))
    if not data.strip():
        raise InputError("no-table", Fault(name, "The file is empty."))
    if data.startswith((b"PK", OLE)) or name.lower().endswith((".xlsx", ".xlsm")):
        return read_sheets(name, data, progress)
    if name.lower().endswith(".json"):
        return [read_records(name, data)]
    return [read_text(name, data, progress)]
