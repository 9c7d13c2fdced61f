"""Who has a folder of records: servers share it, and what puts other records there has to have it alone."""

from __future__ import annotations

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from humble_sum.core.errors import Fault, InputError

NAME = "records.lock"


@contextmanager
def shared(folder: Path) -> Iterator[None]:
    """The folder held while a server uses it. The system lets go of it whatever ends the program. Raises
    InputError where other records are just being put there."""
    with _held(folder, fcntl.LOCK_SH, "Other records are being put in this folder.", "Start again soon."):
        yield


@contextmanager
def alone(folder: Path) -> Iterator[None]:
    """The folder held by nobody else. Raises InputError where a server has it."""
    with _held(folder, fcntl.LOCK_EX, "A server is using this folder.", "Stop it first, then do this again."):
        yield


@contextmanager
def _held(folder: Path, kind: int, what: str, remedy: str) -> Iterator[None]:
    try:
        folder.mkdir(parents=True, exist_ok=True)
        file = os.open(folder / NAME, os.O_RDWR | os.O_CREAT, 0o600)
    except OSError as error:
        raise InputError("no-records", Fault(str(folder), f"{error.strerror or error}.")) from None
    try:
        try:
            fcntl.flock(file, kind | fcntl.LOCK_NB)
        except BlockingIOError:
            raise InputError("no-records", Fault(str(folder), what, remedy)) from None
        except OSError as error:
            said = f"Nobody can hold this folder: {error.strerror or error}."
            remedy = "Keep the records on a disk of this machine."
            raise InputError("no-records", Fault(str(folder), said, remedy)) from None
        yield
    finally:
        os.close(file)
