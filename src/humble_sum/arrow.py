"""House rules over Arrow record batches: any engine that maps batches prints by them where the data is.

    batches = (print_batch(batch, {"amount": {"scale": "lakhs", "negative": "brackets"}}) for batch in reader)

Needs the extra `humble-sum[arrow]`. Nothing is kept from one batch to the next, so memory does not grow.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Iterable, Iterator, Mapping
from decimal import Decimal
from functools import lru_cache
from typing import Any

import numpy as np
import pyarrow as pa
from numpy.typing import NDArray

from humble_sum.core.amounts import read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.batch import Texts
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.resolved_clauses import ResolvedClauses

Rule = dict[str, Any]
MOST_RULES = 256
AT_ONCE = 4_096  # rows


def print_batch(
    batch: pa.RecordBatch, rules: Mapping[str, Rule], suffix: str = " as printed"
) -> pa.RecordBatch:
    """A batch with a column of text behind it for each column that a rule is given for, called by its name
    and the suffix.

    Amounts are decimals of any width, whole numbers, or text in plain notation; null prints as missing.
    Raises InputError where a column is not there, is of binary numbers (their decimal digits are not their
    owner's), or holds what is no amount, and where a rule cannot be read.
    """
    made, names = list(batch.columns), list(batch.schema.names)
    for name, rule in rules.items():
        if name not in batch.schema.names:
            what = f'There is no column "{name}".'
            raise InputError("bad-batch", Fault(name, what, f"There are {', '.join(names)}."))
        column = batch.column(batch.schema.get_field_index(name))
        made.append(_printed(name, column, json.dumps(rule, sort_keys=True)))
        names.append(f"{name}{suffix}")
    return pa.RecordBatch.from_arrays(made, names=names)


def print_batches(
    batches: Iterable[pa.RecordBatch], rules: Mapping[str, Rule], suffix: str = " as printed"
) -> Iterator[pa.RecordBatch]:
    """`print_batch` over a stream of them, each gone when the next is asked for."""
    for batch in batches:
        yield print_batch(batch, rules, suffix)


def _printed(name: str, column: pa.Array, rule: str) -> pa.Array:
    """The texts of a column, so many rows at a time that what is made of them stays near the processor."""
    parts = []
    for start in range(0, len(column), AT_ONCE) or (0,):
        part = column.slice(start, AT_ONCE)
        units = units_of_last_digit(part)
        if units is None:
            texts = _texts(rule).many(_amounts(name, part, start))
        else:
            texts = _texts(rule, -column.type.scale).many(map(Decimal, units.tolist()))
        parts.append(pa.array(texts, pa.string()))
    return pa.concat_arrays(parts)


def units_of_last_digit(column: pa.Array) -> NDArray[np.int64] | None:
    """Decimals of 128 bits in units of their last digit, as Arrow has them (its columnar format, *Fixed-size
    primitive layout*); None where one is null or past 64 bits, or they are others."""
    if not pa.types.is_decimal128(column.type) or column.null_count or sys.byteorder != "little":
        return None
    halves = np.frombuffer(column.buffers()[1], np.int64).reshape(-1, 2)
    low, high = halves[column.offset : column.offset + len(column)].T
    return low if bool((high == low >> 63).all()) else None


def _amounts(name: str, column: pa.Array, start: int) -> Iterable[Decimal | None]:
    """The amounts of rows of a column, the first of them by that number."""
    of = column.type
    if pa.types.is_decimal(of) or pa.types.is_integer(of):
        # Arrow writes them out exactly, and sooner than it makes Decimals.
        texts = column.cast(pa.string()).to_pylist()
        if not column.null_count:
            return map(Decimal, texts)
        return (None if text is None else Decimal(text) for text in texts)
    if pa.types.is_null(of):
        return [None] * len(column)
    if not (pa.types.is_string(of) or pa.types.is_large_string(of)):
        what = f"Its values are {of}, which are not amounts of so many digits."
        raise InputError("bad-batch", Fault(name, what, "Cast it to a decimal, as its owner means it."))
    found: list[Decimal | None] = []
    for place, value in enumerate(column.to_pylist(), start + 1):
        try:
            found.append(None if value is None else read_amount(value))
        except ValueError as error:
            raise InputError("bad-amount", Fault(f"{name}, row {place}", f"{error}.")) from None
    return found


@lru_cache(maxsize=MOST_RULES)
def _texts(said: str, exponent: int = 0) -> Texts:
    """A rule, as JSON, made ready once in a process: workers get batch after batch under the same few."""
    return Texts(ResolvedClauses.of(read_clauses(json.loads(said)).named()), exponent)
