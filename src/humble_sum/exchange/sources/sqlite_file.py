"""SQLite files: the result of a query, or every table and view, read from the bytes and never written."""

from __future__ import annotations

import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import replace

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import MOST_CELLS, Table
from humble_sum.exchange.sources.typed import typed_cell, typed_table

MAGIC = b"SQLite format 3\0"
SECONDS, STEPS = 10.0, 10_000  # that a query may take; of SQLite's own, between looks at the clock
MOST_TABLES, MOST_LETTERS = 100, 20_000_000  # of a file; of one result, and of one value a twentieth
LISTED = "SELECT name FROM sqlite_schema WHERE type IN ('table', 'view') ORDER BY rowid"
READING = {sqlite3.SQLITE_SELECT, sqlite3.SQLITE_READ, sqlite3.SQLITE_FUNCTION, sqlite3.SQLITE_RECURSIVE}
# Where a file says that it is written ahead to another (https://www.sqlite.org/fileformat.html, 1.3.3).
JOURNAL = slice(18, 20)
REMEDY = "Write one SELECT over its tables."


def read_sqlite(name: str, data: bytes, query: str = "") -> list[Table]:
    """The result of a query as one table; without one, every table and view as one of its own.

    Raises InputError where the file is none, or the query is no single SELECT, takes more than ten seconds or
    has too long a result.
    """
    with _opened(name, data) as connection:
        if query.strip():
            return [_result(connection, name, "query", query)]
        names = [row[0] for row in connection.execute(LISTED) if not row[0].startswith("sqlite_")]
        if len(names) > MOST_TABLES:
            what = f"It has {len(names)} tables."
            raise InputError("too-long", Fault(name, what, "Say with a query which figures are wanted."))
        tables, notes = [], []
        for each in names:
            quoted = each.replace('"', '""')
            try:
                tables.append(_result(connection, name, each, f'SELECT * FROM "{quoted}"'))
            except sqlite3.OperationalError as error:  # such as a view of a table that is gone
                notes.append(Fault(f"{name}, {each}", f"It was left out, as it cannot be read: {error}."))
        if not tables:
            raise InputError("no-table", notes or Fault(name, "There is no table in it."))
        return [replace(tables[0], notes=(*tables[0].notes, *notes)), *tables[1:]]


@contextmanager
def _opened(name: str, data: bytes) -> Iterator[sqlite3.Connection]:
    held = bytearray(data)
    held[JOURNAL] = b"\1\1"  # in memory there is no other file to look into
    with closing(sqlite3.connect(":memory:")) as connection:
        ends = time.monotonic() + SECONDS
        try:
            connection.text_factory = lambda text: text.decode("utf-8", "replace")
            connection.deserialize(bytes(held))
            connection.execute("PRAGMA trusted_schema = OFF")
            connection.execute("PRAGMA query_only = ON")
            connection.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, MOST_LETTERS // 20)
            connection.set_authorizer(
                lambda action, *_: sqlite3.SQLITE_OK if action in READING else sqlite3.SQLITE_DENY
            )
            connection.set_progress_handler(lambda: time.monotonic() > ends, STEPS)
            yield connection
        except sqlite3.DatabaseError as error:
            said = f"{error}.".replace("interrupted", f"its query took more than {SECONDS:g} seconds")
            raise InputError("broken-file", Fault(name, f"It cannot be read: {said}", REMEDY)) from None


def _result(connection: sqlite3.Connection, source: str, name: str, query: str) -> Table:
    try:
        cursor = connection.execute(query)
    except (sqlite3.ProgrammingError, sqlite3.Warning) as error:  # several statements, or parameters
        raise InputError("broken-file", Fault(source, f"{error}", REMEDY)) from None
    if cursor.description is None:
        raise InputError("broken-file", Fault(source, "The query has no result.", REMEDY))
    heads = [str(column[0]) for column in cursor.description]
    most = MOST_CELLS // max(len(heads), 1)
    rows, letters = [], 0
    for row in cursor:
        rows.append([typed_cell(value) for value in row])
        letters += sum(len(value) for value in row if isinstance(value, str))
        if len(rows) > most or letters > MOST_LETTERS:
            what = f"The result of {name} is longer than {most} rows or {MOST_LETTERS} letters."
            raise InputError("too-long", Fault(source, what, "Ask for the part that the statements need."))
    return typed_table(source, name, heads, rows)
