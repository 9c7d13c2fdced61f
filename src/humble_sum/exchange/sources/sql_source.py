"""Databases as sources: the result of a query, or of a table, read in a transaction that cannot write.

An address is a URL as SQLAlchemy has it: postgresql://host/name, duckdb:///file, sqlite:///file. It never
has a password: PostgreSQL's own library takes that from the environment (PGPASSWORD), a password file or a
service file, and it stays there.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

from sqlalchemy.engine import URL, make_url
from sqlalchemy.exc import ArgumentError

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import MOST_CELLS, Table
from humble_sum.exchange.sources.opening import with_figures
from humble_sum.exchange.sources.sqlite_file import read_sqlite
from humble_sum.exchange.sources.typed import typed_cell, typed_table

SECONDS = 30  # that a query may take
AT_ONCE = 10_000  # rows fetched
ALLOWED, MOST_ALLOWED = "databases.txt", 1_000_000  # bytes
REMEDY = "Write one SELECT over its tables."
NAME = re.compile(r"[A-Za-z_][\w$]*(\.[A-Za-z_][\w$]*)?")
# PostgreSQL's types (pg_type.oid) that are no exact amounts, by what they are called.
INEXACT = {700: "real", 701: "double precision"}
WORDED = {790: "money", 1186: "interval"}
Column = tuple[str, object]  # its name and type


def is_address(text: str) -> bool:
    """Whether a text is the address of a database, and not the name of a file."""
    return bool(re.match(r"[A-Za-z][A-Za-z0-9+]+://", text))


def shown_address(address: str) -> str:
    """An address as it may be shown and kept: without a user and without what stands behind the name."""
    url = _url(address)
    host = (
        f"//{url.host}{f':{url.port}' if url.port else ''}/" if url.host else "///" if url.database else "//"
    )
    return f"{url.get_backend_name()}:{host}{url.database or ''}"


def allowed_databases(folder: Path) -> dict[str, str]:
    """The databases that whoever runs a server allows to be read, by their names: a line "name = address" for
    each in the file databases.txt beside the records. Lines that are no such are left out."""
    file = folder / ALLOWED
    if not file.is_file() or file.stat().st_size > MOST_ALLOWED:
        return {}
    lines = (line.partition("=") for line in file.read_text(encoding="utf-8", errors="replace").splitlines())
    named = {name.strip(): address.strip() for name, _, address in lines}
    return {
        name: address for name, address in named.items() if name and name[0] != "#" and is_address(address)
    }


def read_database(address: str, query: str = "", seconds: float = SECONDS) -> list[Table]:
    """The tables of figures in the result of a query, or of a table that is named in its place.

    Raises InputError where there is no such database, the query is no single SELECT, takes too long or has
    too long a result, or a column has values that are no exact amounts: it is named, with what to do.
    """
    url, name = _url(address), shown_address(address)
    if url.password:
        what = "This address has a password in it."
        raise InputError("bad-address", Fault(name, what, "Give it by the environment, such as PGPASSWORD."))
    if not query.strip():
        raise InputError("bad-query", Fault(name, "A query or a table has to be named.", REMEDY))
    asked = f"SELECT * FROM {query.strip()}" if NAME.fullmatch(query.strip()) else query
    kinds: dict[str, Callable[[URL, str, str, float], Table]] = {
        "postgresql": _postgresql,
        "duckdb": _duckdb,
        "sqlite": _sqlite,
    }
    return with_figures(name, [kinds[url.get_backend_name()](url, name, asked, seconds)])


def _url(address: str) -> URL:
    try:
        url = make_url(address)
    except (ArgumentError, ValueError):
        url = None
    if url is None or url.get_backend_name() not in ("postgresql", "duckdb", "sqlite"):
        what = "This is no address of a database that is read."
        remedy = "Such as postgresql://host/name, duckdb:///file or sqlite:///file."
        raise InputError("bad-address", Fault("the address", what, remedy))
    return url


def _sqlite(url: URL, name: str, query: str, _: float) -> Table:
    return read_sqlite(name, _file_of(url, name).read_bytes(), query)[0]


def _file_of(url: URL, name: str) -> Path:
    file = Path(url.database or "")
    if not file.is_file():
        raise InputError("no-database", Fault(name, "There is no such file.", "Name one that is there."))
    return file


def _postgresql(url: URL, name: str, query: str, seconds: float) -> Table:
    try:
        import psycopg
    except ImportError:
        what = "PostgreSQL is read by psycopg, which is not installed."
        raise InputError("no-reader", Fault(name, what, 'pip install "humble-sum[databases]"')) from None
    where = {"host": url.host, "port": url.port, "user": url.username, "dbname": url.database}
    said = {key: str(value) for key, value in {**where, **dict(url.query)}.items() if value}
    try:
        with psycopg.connect(**said, connect_timeout=10) as connection:  # type: ignore[arg-type]
            connection.read_only = True
            connection.execute(f"SET statement_timeout = {int(seconds * 1000)}")
            with connection.cursor(name="humble_sum") as cursor:
                cursor.itersize = AT_ONCE
                cursor.execute(query)
                columns = [(each.name, each.type_code) for each in cursor.description or ()]
                _amounts_only(name, columns, INEXACT | WORDED)
                return _table(name, columns, cursor)
    except psycopg.Error as error:
        raise _refused(name, str(error), seconds) from None


def _duckdb(url: URL, name: str, query: str, seconds: float) -> Table:
    try:
        import duckdb
    except ImportError:
        what = "DuckDB is read by its own library, which is not installed."
        raise InputError("no-reader", Fault(name, what, 'pip install "humble-sum[databases]"')) from None
    file = _file_of(url, name)
    try:
        with closing(duckdb.connect(str(file), read_only=True)) as connection, _in_time(connection, seconds):
            connection.execute("SET enable_external_access = false")
            connection.execute("SET lock_configuration = true")
            statements = duckdb.extract_statements(query)
            if len(statements) != 1:
                raise InputError("bad-query", Fault(name, "There are several statements in it.", REMEDY))
            result = connection.execute(statements[0])
            columns = [(str(each[0]), str(each[1])) for each in result.description or ()]
            _amounts_only(name, columns, {"FLOAT": "FLOAT", "DOUBLE": "DOUBLE", "INTERVAL": "INTERVAL"})
            return _table(name, columns, _fetched(result))
    except duckdb.Error as error:
        raise _refused(name, str(error), seconds) from None


@contextmanager
def _in_time(connection: Any, seconds: float) -> Iterator[None]:
    """Have a query of DuckDB interrupted when its time is over."""
    from threading import Timer

    timer = Timer(seconds, connection.interrupt)
    timer.start()
    try:
        yield
    finally:
        timer.cancel()


def _fetched(result: Any) -> Iterator[Sequence[object]]:
    while rows := result.fetchmany(AT_ONCE):
        yield from rows


def _amounts_only(name: str, columns: Sequence[Column], inexact: dict[Any, str]) -> None:
    """Raise InputError for every column whose values are no exact amounts."""
    faults = [
        Fault(
            f"{name}, {column}", f"Its values are {inexact[of]}, which are no exact amounts.", _cast(column)
        )
        for column, of in columns
        if of in inexact
    ]
    if faults:
        raise InputError("bad-query", faults)


def _cast(column: str) -> str:
    return f"Cast it as its owner means it, such as {column}::numeric(20, 2)."


def _table(name: str, columns: Sequence[Column], rows: Iterable[Sequence[object]]) -> Table:
    heads = [column for column, _ in columns]
    most, found = MOST_CELLS // max(len(heads), 1), []
    for row in rows:
        found.append([typed_cell(value) for value in row])
        if len(found) > most:
            what = f"The result is longer than {most:,} rows."
            raise InputError("too-long", Fault(name, what, "Ask for the part that the statements need."))
    return typed_table(name, "query", heads, found)


def _refused(name: str, said: str, seconds: float) -> InputError:
    first = said.strip().splitlines()[0] if said.strip() else "no answer"
    lower = said.lower()
    if "timeout" in lower or "interrupt" in lower:
        what = f"The query took more than {seconds:g} seconds."
        return InputError("bad-query", Fault(name, what, "Ask for less, or sum in the query."))
    if "read-only" in lower or "read only" in lower:
        return InputError("bad-query", Fault(name, "The query writes.", REMEDY))
    return InputError("bad-query", Fault(name, f"It was refused: {first}.", REMEDY))
