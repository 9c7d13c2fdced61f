"""Copies of the records, and whether records are sound."""

from __future__ import annotations

import shutil
import sqlite3
from pathlib import Path

from alembic.runtime.migration import MigrationContext
from sqlalchemy import Engine

from humble_sum.core.errors import Fault, InputError
from humble_sum.records.faults import has_records, newest, refuse_others

NAME = "records.sqlite"
AT_ONCE = 2_000  # pages copied before other writers get their turn


def clear_unfinished(file: Path) -> None:
    """Take away copies beside records that a program which was ended had not finished."""
    for part in file.parent.glob(f"{file.name}*.part"):
        part.unlink(missing_ok=True)


def copy_records(file: Path, target: Path) -> None:
    """Copy records at one moment, while others may write to them; checked, and put in place when whole.
    Raises InputError."""
    if target.exists():
        what = "There is a file of this name already."
        raise InputError("no-backup", Fault(str(target), what, "Name another one."))
    part = target.with_name(f"{target.name}.part")
    try:
        source, copy = sqlite3.connect(file), sqlite3.connect(part)
        try:
            source.backup(copy, pages=AT_ONCE)
            copy.execute("PRAGMA journal_mode=DELETE")  # one file, with nothing beside it
        finally:
            source.close()
            copy.close()
        if wrong := unsound(part):
            raise InputError("no-backup", Fault(str(file), f"The copy would be broken: {wrong[0]}."))
        part.replace(target)
    except (OSError, sqlite3.Error) as error:
        what = f"The copy could not be written: {error}."
        raise InputError("no-backup", Fault(str(target), what, "Name another place.")) from None
    finally:
        part.unlink(missing_ok=True)


def restore_records(copy: Path, file: Path) -> None:
    """Put a copy in the place of records, which are kept beside it. Raises InputError; nothing then
    changes."""
    if wrong := unsound(copy):
        raise InputError("no-backup", Fault(str(copy), f"This copy is not sound: {wrong[0]}."))
    refuse_others(copy)
    if not has_records(copy):
        raise InputError(
            "no-backup", Fault(str(copy), "There are no records in this file.", "Name another one.")
        )
    file.parent.mkdir(parents=True, exist_ok=True)
    part = file.with_name(f"{file.name}.part")
    shutil.copyfile(copy, part)
    if file.exists():
        _keep(file, _free(file.with_name(f"{file.name}.before-restore")))
    for beside in ("-wal", "-shm"):
        file.with_name(file.name + beside).unlink(missing_ok=True)
    part.replace(file)


def _keep(file: Path, before: Path) -> None:
    """Records kept beside themselves: a sound copy, or where they are damaged each file as it is."""
    try:
        copy_records(file, before)
    except InputError:
        for beside in ("", "-wal", "-shm"):
            part = file.with_name(file.name + beside)
            if part.exists():
                shutil.copyfile(part, before.with_name(before.name + beside))


def unsound(file: Path) -> list[str]:
    """What is wrong with records as SQLite sees them; nothing where they are sound."""
    try:
        connection = sqlite3.connect(f"file:{file}?mode=ro", uri=True)
        try:
            found = [text for (text,) in connection.execute("PRAGMA integrity_check(5)") if text != "ok"]
            found += [
                f"a row of {table} belongs to nothing"
                for table, *_ in connection.execute("PRAGMA foreign_key_check").fetchmany(5)
            ]
        finally:
            connection.close()
        return found
    except sqlite3.Error as error:
        return [str(error)]


def copy_before_migration(engine: Engine, file: Path) -> None:
    """One copy beside the records before their tables are brought to a newer version."""
    if not file.exists() or file.stat().st_size == 0:
        return
    with engine.connect() as connection:
        now = MigrationContext.configure(connection).get_current_revision()
    if now is None or now >= newest():
        return
    copy_records(file, _free(file.with_name(f"{file.name}.before-{newest()}")))


def _free(wanted: Path) -> Path:
    """A name that no file has: the one wanted, or with a number behind it."""
    number, found = 1, wanted
    while found.exists():
        number += 1
        found = wanted.with_name(f"{wanted.name}-{number}")
    return found
