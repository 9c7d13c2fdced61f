"""The record of documents that were proofread, as a table (RFC 4180): written, and read back."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from humble_sum.core.documents.recorded_numbers import RecordedNumber
from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.table_csv import table_csv

HEAD = RecordedNumber._fields
PLAIN = tuple(HEAD.index(name) for name in ("amount", "exponent"))


def write_record(numbers: Iterable[RecordedNumber]) -> bytes:
    """Every judged number, a row for each."""
    return table_csv(HEAD, numbers, plain=PLAIN)


def read_record(data: bytes) -> list[RecordedNumber]:
    """The rows of a record, with what keeps a spreadsheet from running them. Raises InputError."""
    try:
        rows = list(csv.reader(io.StringIO(data.decode("utf-8-sig"), newline=""), strict=True))
    except (UnicodeDecodeError, csv.Error) as error:
        raise _no_record() from error
    if not rows or tuple(rows[0]) != HEAD or any(len(row) != len(HEAD) for row in rows):
        raise _no_record()
    return [RecordedNumber(*row) for row in rows[1:]]


def _no_record() -> InputError:
    return InputError("bad-document", Fault("documents.csv", "It is no record of documents."))
