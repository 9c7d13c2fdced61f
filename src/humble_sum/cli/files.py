"""Files that commands read and write."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.exact_json import MOST_BYTES, parse_json

MOST_CONTAINER = 512 * 1024 * 1024


def read_file(file: Path, most: int = MOST_BYTES) -> bytes:
    try:
        if file.stat().st_size > most:
            what = f"The file is larger than {most // 1024 // 1024} MiB."
            raise InputError("too-large", Fault(str(file), what, "Split it into several."))
        return file.read_bytes()
    except OSError as error:
        raise InputError("no-file", Fault(str(file), f"{error.strerror or error}.")) from None


def write_file(file: Path, data: bytes) -> None:
    """Whole or not at all: written beside the file, then put in its place."""
    beside = file.with_name(f".humble-sum.{os.getpid()}")  # short, however long the name of the file
    try:
        beside.write_bytes(data)
        beside.replace(file)
    except OSError as error:
        beside.unlink(missing_ok=True)
        raise InputError("no-file", Fault(str(file), f"{error.strerror or error}.")) from None


def is_there(file: Path) -> bool:
    """Whether a file or folder of this name exists. A name that cannot be looked up (too long, say) is an
    InputError."""
    try:
        file.stat()
    except (FileNotFoundError, NotADirectoryError):
        return False
    except OSError as error:
        raise InputError("no-file", Fault(str(file), f"{error.strerror or error}.")) from None
    return True


def says_what_it_is(parsed: Any) -> bool:
    """Whether a file is more than a bare footing problem."""
    return isinstance(parsed, dict) and "kind" in parsed


def json_or_file(text: str) -> Any:
    if text.lstrip().startswith(("{", "[")):
        return parse_json(text.encode(), "rule")
    return parse_json(read_file(Path(text)), "rule file")
