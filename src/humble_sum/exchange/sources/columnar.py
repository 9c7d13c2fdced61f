"""Parquet and Arrow files, read by pyarrow where it is installed: the extra `humble-sum[arrow]`."""

from __future__ import annotations

import io
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import MOST_CELLS, Table
from humble_sum.exchange.sources.typed import typed_cell, typed_table

PARQUET, ARROW, STREAM = b"PAR1", b"ARROW1\0\0", b"\xff\xff\xff\xff"


def is_columnar(data: bytes) -> bool:
    """Whether the bytes begin as a Parquet file, an Arrow file or an Arrow stream does."""
    if data.startswith(PARQUET):  # so may a text begin, which ends otherwise and has no such byte
        return data.endswith(PARQUET) or b"\0" in data[:4096]
    return data.startswith(ARROW) or (data.startswith(STREAM) and data[4:8] != STREAM)


def read_columnar(name: str, data: bytes) -> Table:
    """The table of such a file: decimals and whole numbers exactly. Raises InputError where it is broken, too
    long, or nothing here can read it."""
    found = open_columnar(name, data)
    with _said(name):
        columns = [column.to_pylist() for column in found.columns]
    rows = [[typed_cell(value) for value in row] for row in zip(*columns, strict=True)]
    return typed_table(name, "", list(found.column_names), rows)


def open_columnar(name: str, data: bytes, most: int = MOST_CELLS) -> Any:
    """The same as a table of pyarrow, of so many cells at most."""
    try:
        import pyarrow
        import pyarrow.parquet
    except ImportError:
        what = "Parquet and Arrow files need pyarrow, which is not installed."
        raise InputError("no-reader", Fault(name, what, "Install humble-sum[arrow].")) from None
    with _said(name):
        return _opened(pyarrow, data, name, most)


@contextmanager
def _said(name: str) -> Iterator[None]:
    """What pyarrow cannot read, said in our words."""
    from pyarrow import ArrowException

    try:
        yield
    except InputError:
        raise
    except (ArrowException, OSError, ValueError, OverflowError) as error:
        first = str(error).splitlines()[0] if str(error) else type(error).__name__
        raise InputError("broken-file", Fault(name, f"It cannot be read: {first[:200]}.")) from None


def _opened(pyarrow: Any, data: bytes, name: str, most: int) -> Any:
    if data.startswith(PARQUET):
        file = pyarrow.parquet.ParquetFile(io.BytesIO(data))
        _bounded(name, file.metadata.num_rows, file.metadata.num_columns, most)
        return file.read()
    open_ = pyarrow.ipc.open_file if data.startswith(ARROW) else pyarrow.ipc.open_stream
    with open_(pyarrow.py_buffer(data)) as reader:
        found = reader.read_all()
    _bounded(name, found.num_rows, found.num_columns, most)
    return found


def _bounded(name: str, rows: int, columns: int, most: int) -> None:
    """Refuse what is too long before it is unpacked: a small file can state many equal rows."""
    if rows * columns > most:
        what = f"It has {rows} rows of {columns} columns."
        raise InputError("too-long", Fault(name, what, "Take in the part that the statements need."))
