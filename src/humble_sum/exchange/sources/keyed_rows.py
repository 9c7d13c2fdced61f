"""JSON records: a list of objects, one a row, their names as the first row."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from humble_sum.core.amounts import read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import MOST_CELLS, SheetCell, Table, squared
from humble_sum.exchange.exact_json import NumberText, parse_json


def read_records(name: str, data: bytes) -> Table:
    """A table from JSON records. Raises InputError, naming the record that is none."""
    parsed = parse_json(data, name)
    if not isinstance(parsed, list) or not parsed:
        what = "It is not a list of records."
        raise InputError(
            "not-records", Fault(name, what, 'Write [{"line": "Fares", "2025-26": "1250.40"}, …].')
        )
    names: dict[str, None] = {}
    for number, record in enumerate(parsed):
        if not isinstance(record, dict):
            raise InputError("not-records", Fault(f"{name}, record {number + 1}", "It is not an object."))
        names |= dict.fromkeys(record)
    if len(names) * (len(parsed) + 1) > MOST_CELLS:
        what = f"Its {len(parsed)} records have {len(names)} names between them."
        raise InputError("too-long", Fault(name, what, "Give every record the same few names."))
    rows = [[SheetCell(key) for key in names]]
    rows += [
        [_cell(record.get(key), f"{name}, record {n + 1}, {key}") for key in names]
        for n, record in enumerate(parsed)
    ]
    square, _ = squared(rows)
    return Table(name, "", square)


def _cell(value: Any, where: str) -> SheetCell:
    if value is None or isinstance(value, bool):
        return SheetCell(value)
    if isinstance(value, int | NumberText):
        try:
            # A JSON number's own digits are exact, whatever a double would make of them.
            return SheetCell(Decimal(read_amount(value if isinstance(value, int) else str(value))))
        except ValueError as error:
            raise InputError("bad-amount", Fault(where, f"{error}.")) from None
    if isinstance(value, str):
        return SheetCell(value)
    raise InputError("not-records", Fault(where, "A record holds texts and numbers, not lists or objects."))
