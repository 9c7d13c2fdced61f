"""A database with the demo pack in it, made once and copied for every test that wants its own."""

from __future__ import annotations

import atexit
import shutil
import tempfile
from functools import cache
from pathlib import Path

from humble_sum.records.database import Database
from humble_sum.records.demo import ensure_demo

JSON = {"Content-Type": "application/json"}
BYTES = {"Content-Type": "application/octet-stream"}


@cache
def _template() -> Path:
    folder = tempfile.TemporaryDirectory()
    atexit.register(folder.cleanup)
    file = Path(folder.name) / "records.sqlite"
    database = Database(file)
    ensure_demo(database)
    with database.engine.connect() as connection:
        # All of it in one file, so that the file alone can be copied.
        connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    database.close()
    return file


def demo_database(file: Path) -> Database:
    """A database at `file` with the demo pack, as a new one would have it."""
    shutil.copyfile(_template(), file)
    return Database(file)
