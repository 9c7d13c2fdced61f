"""Opening the database: WAL, foreign keys, and every migration applied."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.orm import Session


class Database:
    """One SQLite file. `reading` and `writing` give sessions; writing is one transaction."""

    def __init__(self, file: Path):
        file.parent.mkdir(parents=True, exist_ok=True)
        self.engine = create_engine(f"sqlite:///{file}", connect_args={"timeout": 10})
        _prepare(self.engine)
        migrate(self.engine)

    @contextmanager
    def reading(self) -> Iterator[Session]:
        with Session(self.engine) as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """Commits at the end, or leaves nothing behind when an error passes through."""
        immediate = self.engine.execution_options(write=True)
        with Session(immediate) as session, session.begin():
            yield session

    def close(self) -> None:
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
