"""What is wrong with a folder of records, said plainly: one sentence, and what to do."""

from __future__ import annotations

import sqlite3
from pathlib import Path

from sqlalchemy.exc import DBAPIError

from humble_sum.core.errors import Fault, InputError

NO_RECORDS, DISK_FULL, BUSY = "no-records", "disk-full", "records-busy"
OWN_TABLE = "alembic_version"
# What SQLite says, in the order in which it is looked for; which kind of problem, and what to do.
SAID: tuple[tuple[tuple[str, ...], str, str, str], ...] = (
    (
        ("disk is full", "disk i/o error"),
        DISK_FULL,
        "The disk is full, so nothing was kept.",
        "Free some space on it, and try again.",
    ),
    (
        ("readonly", "read-only", "attempt to write"),
        NO_RECORDS,
        "The records can only be read.",
        "Let this program write to their folder, and start it again.",
    ),
    (
        ("malformed", "not a database", "corrupt"),
        NO_RECORDS,
        "The records are damaged.",
        "Keep the file as it is, and put a copy in its place: humble-sum doctor says what is still sound.",
    ),
    (("locked", "busy"), BUSY, "Another program is writing to the records.", "Try again in a moment."),
    (
        ("unable to open", "no such table", "no such column"),
        NO_RECORDS,
        "The records are not there any more.",
        "Put their file back, or start the program on another folder.",
    ),
)


def fault_of(error: BaseException, file: Path) -> InputError | None:
    """What a failure of the database or of its file means; None for any other error."""
    if isinstance(error, NotADirectoryError | FileExistsError):
        what = "The folder for records is a file."
        return InputError(NO_RECORDS, Fault(str(file.parent), what, "Name another folder with --data."))
    if isinstance(error, OSError):
        what = f"The folder for records cannot be used: {error.strerror or error}."
        return InputError(NO_RECORDS, Fault(str(file.parent), what, "Name another folder with --data."))
    if isinstance(error, DBAPIError | sqlite3.Error):
        text = str(error.orig if isinstance(error, DBAPIError) else error).lower()
        for words, kind, what, remedy in SAID:
            if any(word in text for word in words):
                return _refusal(kind, Fault(str(file), what, remedy))
    return None


def _refusal(kind: str, fault: Fault) -> InputError:
    if kind == DISK_FULL:
        return InputError(DISK_FULL, fault)
    return InputError(BUSY, fault) if kind == BUSY else InputError(NO_RECORDS, fault)


def _cut_short(file: Path) -> bool:
    """Whether a file has fewer pages than its head says (SQLite database file format, 1.3)."""
    with file.open("rb") as opened:
        head = opened.read(32)
    if len(head) < 32 or not head.startswith(b"SQLite format 3\x00"):
        return False
    size = int.from_bytes(head[16:18], "big")
    pages = int.from_bytes(head[28:32], "big")
    return file.stat().st_size < pages * (65_536 if size == 1 else size)


def refuse_others(file: Path) -> None:
    """Refuse a database that another program made, or a newer version, before anything touches it. Raises
    InputError."""
    if not file.exists() or file.stat().st_size == 0:
        return
    if _cut_short(file):
        what = "The records are cut short: their file is smaller than it says it is."
        remedy = "Keep the file as it is, and put a copy in its place: humble-sum restore."
        raise InputError(NO_RECORDS, Fault(str(file), what, remedy))
    with sqlite3.connect(f"file:{file}?mode=ro", uri=True) as connection:
        names = {
            name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        }
        written = connection.execute(f"SELECT version_num FROM {OWN_TABLE}") if OWN_TABLE in names else ()
        versions = [version for (version,) in written]
    connection.close()
    if names and OWN_TABLE not in names:
        what = "This is the database of another program."
        raise InputError(NO_RECORDS, Fault(str(file), what, "Name another folder with --data."))
    if any(version > newest() for version in versions):
        what = "The records were written by a newer version of Humble Sum."
        raise InputError(NO_RECORDS, Fault(str(file), what, "Start that version, or name another folder."))


def has_records(file: Path) -> bool:
    """Whether a sound database has the tables of records."""
    with sqlite3.connect(f"file:{file}?mode=ro", uri=True) as connection:
        found = connection.execute("SELECT count(*) FROM sqlite_master WHERE name = ?", (OWN_TABLE,))
        (count,) = found.fetchone()
    connection.close()
    return bool(count)


def newest() -> str:
    """The newest version of the tables that this program knows."""
    return max(each.name[:4] for each in (Path(__file__).parent / "migrations/versions").glob("[0-9]*.py"))
