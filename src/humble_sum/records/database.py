"""Opening the database: WAL, foreign keys, and every migration applied."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from time import monotonic
from typing import Any
from urllib.parse import quote

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from humble_sum.core.errors import Fault, InputError
from humble_sum.records.backup import copy_before_migration
from humble_sum.records.faults import NO_RECORDS, fault_of, refuse_others


class Database:
    """One SQLite file. `reading` and `writing` give sessions; writing is one transaction."""

    def __init__(self, file: Path):
        self.file = file
        self._opened: int | None = None
        self._written: float | None = None  # when something was, which is not in the file itself yet
        try:
            file.parent.mkdir(parents=True, exist_ok=True)
            refuse_others(file)
            self.engine = create_engine(f"sqlite:///{file}", creator=self._connect)
            _prepare(self.engine)
            copy_before_migration(self.engine, file)
            migrate(self.engine)
        except (OSError, DBAPIError, sqlite3.Error) as error:
            raise fault_of(error, file) or error from None
        self._opened = file.stat().st_ino
        self._quick: sqlite3.Connection | None = None

    def _connect(self, waits: float = 10) -> sqlite3.Connection:
        """A connection to the file, which is made at the first one only: where it is gone, an empty one in
        its place would hide that. It waits so many seconds for others that write."""
        mode = "rwc" if self._opened is None else "rw"
        where = f"file:{quote(str(self.file.absolute()))}?mode={mode}"
        return sqlite3.connect(where, uri=True, timeout=waits, check_same_thread=False)

    def revision(self, pack: str) -> int | None:
        """The revision of a pack, by a connection of its own that waits for nobody: some microseconds. One
        thread may ask for it. Raises sqlite3.Error where it cannot be had at once."""
        if self._quick is None:
            self._quick = self._connect(waits=0)
        found = self._quick.execute("SELECT revision FROM packs WHERE id = ?", (pack,)).fetchall()
        return int(found[0][0]) if found else None

    @contextmanager
    def reading(self) -> Iterator[Session]:
        with Session(self.engine) as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """Commits at the end, or leaves nothing behind when an error passes through. Raises InputError where
        the file has been deleted or another has taken its place: what is then written would be lost."""
        self._still_there()
        immediate = self.engine.execution_options(write=True)
        with Session(immediate) as session, session.begin():
            yield session
        self._written = monotonic()

    def _still_there(self) -> None:
        try:
            same = self.file.stat().st_ino == self._opened
        except OSError:
            same = False
        if not same:
            what = "The records were deleted or replaced while the program ran, so nothing was kept."
            raise InputError(
                NO_RECORDS, Fault(str(self.file), what, "Put their file back, and start the program again.")
            )

    def idle_for(self) -> float:
        """Seconds since the last change that is not in the file itself yet; 0 where there is none."""
        return 0.0 if self._written is None else monotonic() - self._written

    def checkpoint(self) -> bool:
        """Bring what stands in the write-ahead log into the file itself; whether all of it is there. Where
        somebody reads just then, the rest stays in the log for another time."""
        written = self._written
        try:
            connection = self.engine.raw_connection()
            try:
                cursor = connection.cursor()
                busy = cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchone()[0]
            finally:
                connection.close()
        except (DBAPIError, sqlite3.Error):
            return False
        if not busy and self._written == written:  # and nothing has come meanwhile
            self._written = None
        return not busy

    def close(self) -> None:
        """Leave the records in one file, where nobody else has them open, and let go of it."""
        if self._quick is not None:
            self._quick.close()
        self.checkpoint()
        self.engine.dispose()


def migrate(engine: Engine) -> None:
    """Bring the file's tables to the newest version."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with engine.execution_options(write=True).connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
        connection.commit()


def _prepare(engine: Engine) -> None:
    # SQLAlchemy's recipe for SQLite: take transactions out of the driver's hands, so that a
    # write begins at once and two writers queue instead of failing half way.
    @event.listens_for(engine, "connect")
    def on_connect(connection: Any, _: Any) -> None:
        connection.isolation_level = None
        connection.execute("PRAGMA journal_mode=WAL")
        connection.execute("PRAGMA foreign_keys=ON")
        connection.execute("PRAGMA synchronous=FULL")

    @event.listens_for(engine, "begin")
    def on_begin(connection: Connection) -> None:
        write = connection.get_execution_options().get("write", False)
        connection.exec_driver_sql("BEGIN IMMEDIATE" if write else "BEGIN")
