"""Every kind of source, each once: how it is known and what reads it.

A source is known by how its bytes begin, or else by how its name ends. The first kind in the list that
knows it reads it; text is the last, and takes whatever is left.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from humble_sum.core.intake.table import Table
from humble_sum.exchange.sources.columnar import is_columnar, read_columnar
from humble_sum.exchange.sources.keyed_rows import read_records
from humble_sum.exchange.sources.open_document import is_open_document, read_open_document
from humble_sum.exchange.sources.progress import Progress
from humble_sum.exchange.sources.sheets import OLE, read_sheets
from humble_sum.exchange.sources.sqlite_file import MAGIC, read_sqlite
from humble_sum.exchange.sources.text import decoded, read_text
from humble_sum.exchange.sources.web_page import read_web_page

# How an archive begins: with a file, or, where it is empty or in several parts, with its end (APPNOTE 4.3).
ARCHIVES = (b"PK\x03\x04", b"PK\x05\x06", b"PK\x07\x08")


@dataclass(frozen=True)
class SourceKind:
    """A kind of source: what it is called, how its files' names may end, what its bytes show it by, and what
    reads its tables from name, bytes, progress and query. Where `named` it is also known by its endings.
    """

    label: str
    endings: tuple[str, ...]
    shows: Callable[[bytes], bool]
    read: Callable[[str, bytes, Progress, str], list[Table]]
    named: bool = False
    queried: bool = False

    def knows(self, name: str, data: bytes) -> bool:
        """Whether a source of this name and with these bytes is of this kind."""
        return self.shows(data) or (self.named and name.lower().endswith(self.endings))


SOURCES = (
    SourceKind(
        "SQLite",
        (".sqlite", ".db"),
        lambda data: data.startswith(MAGIC),
        lambda name, data, _, query: read_sqlite(name, data, query),
        queried=True,
    ),
    SourceKind(
        "OpenDocument sheet",
        (".ods",),
        is_open_document,
        lambda name, data, *_: read_open_document(name, data),
    ),
    SourceKind(
        "Parquet or Arrow",
        (".parquet", ".arrow"),
        is_columnar,
        lambda name, data, *_: [read_columnar(name, data)],
    ),
    SourceKind(
        "Workbook",
        (".xlsx", ".xlsm"),
        lambda data: data.startswith((*ARCHIVES, OLE)),
        lambda name, data, progress, _: read_sheets(name, data, progress),
        named=True,
    ),
    SourceKind(
        "JSON records",
        (".json",),
        lambda _: False,
        lambda name, data, *_: [read_records(name, data)],
        named=True,
    ),
    SourceKind(
        "Web page",
        (".html", ".htm"),
        lambda data: b"<table" in data[:4096].lower(),
        lambda name, data, *_: read_web_page(name, decoded(name, data)[0]),
        named=True,
    ),
    SourceKind(
        "Text",
        (".csv", ".tsv", ".psv", ".txt"),
        lambda _: True,
        lambda name, data, progress, _: [read_text(name, data, progress)],
    ),
)


def kind_of(name: str, data: bytes) -> SourceKind:
    """The kind of a source; text where nothing else knows it."""
    return next(each for each in SOURCES if each.knows(name, data))
