"""Copies of a folder of records, and whether they are sound."""

from __future__ import annotations

import shutil
from pathlib import Path

from humble_sum.cli.files import is_there
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.statements.validation import check
from humble_sum.records.backup import NAME, copy_records, restore_records, unsound
from humble_sum.records.database import Database
from humble_sum.records.faults import NO_RECORDS
from humble_sum.records.folder_lock import alone
from humble_sum.records.pack_rows import load_pack, pack_rows
from humble_sum.records.revisions import history, pack_after

LEAST_SPACE = 100 * 1024 * 1024


def _records(folder: Path) -> Path:
    file = folder / NAME
    if not is_there(file):
        what = "There are no records in this folder."
        raise InputError(NO_RECORDS, Fault(str(folder), what, "Name the folder with --data."))
    return file


def back_up(folder: Path, file: Path) -> str:
    """Copy the records to a file; what was done. Raises InputError."""
    copy_records(_records(folder), file)
    return f"Copied to {file}, {file.stat().st_size:,} bytes, and looked at: it is sound."


def put_back(folder: Path, file: Path) -> str:
    """Put a copy in the place of the records; what was done. Raises InputError."""
    if not is_there(file):
        raise InputError("no-backup", Fault(str(file), "There is no such file."))
    with alone(folder):
        restore_records(file, folder / NAME)
    return f"{file} is in place; what was there is kept beside it."


def examine(folder: Path) -> tuple[list[str], bool]:
    """What is found of a folder of records, and whether all of it is sound. Raises InputError where there are
    none, or they cannot be opened."""
    file = _records(folder)
    if wrong := unsound(file):
        said = [f"wrong: {each}" for each in wrong]
        return [*said, "Keep this file, and put back a copy: humble-sum restore FILE."], False
    said, sound = ["The database is sound, and every row belongs to something."], True
    database = Database(file)
    try:
        with database.reading() as session:
            for row in pack_rows(session):
                try:
                    pack = load_pack(session, row)
                    check(pack)
                    # Every change taken back, one after another, comes to the pack as it was taken in.
                    check(pack_after(session, row, pack, 0))
                    count = len(history(session, row, contents=False))
                    said.append(f"{pack.entity}, {pack.period}: sound, {count} changes on record.")
                except Exception as error:
                    sound = False
                    said.append(f"wrong: pack {row.id} ({row.entity}): {error}")
    finally:
        database.close()
    left = shutil.disk_usage(folder).free
    said.append(f"{left // 1024 // 1024:,} MiB are free on its disk.")
    if left < LEAST_SPACE:
        sound = False
        said.append("wrong: that is little. Free some space, or move the folder.")
    return said, sound
