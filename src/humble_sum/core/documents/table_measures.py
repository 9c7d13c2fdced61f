"""Columns of a table that are worked out of a pack's figures: changes, percentages of change, shares.

The pack has no such column. Most of its cells say what it is: each comes to the same measure of the line that
its row is called by.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.documents.measures import Meaning, Meanings
from humble_sum.core.documents.naming import stems
from humble_sum.core.documents.numbers import Number
from humble_sum.core.documents.table_figures import Cell, Matched, ReadTable

LEAST, MOST_OF = 2, 0.6  # cells, and the part of a column's cells, that come to one measure of their lines
NAMED = 0.9  # share of a label that names a line where no other cell of the row does
WORKED_OUT = ("change", "change_percent", "share")
Line = tuple[str, str]
Kind = tuple[str, str, str]  # a measure, the column that it is of, and what it is against


def worked_out(
    read: ReadTable, every: Sequence[Matched], meanings: Meanings
) -> Mapping[tuple[int, int], tuple[Number, Meaning]]:
    """The cells that are changes or shares, by row and column: the number of each with its measure."""
    lines = _lines(read, every, meanings)
    by_column: dict[int, list[Cell]] = defaultdict(list)
    for each in every:
        if each.figure is None and each.cell.row in lines:
            by_column[each.cell.column].append(each.cell)
    found: dict[tuple[int, int], tuple[Number, Meaning]] = {}
    for column, cells in by_column.items():
        numbers = {cell.row: _in_percent(cell, read.heads.get(column, "")) for cell in cells}
        kind = _kind_of(numbers, lines, meanings)
        for row, number in numbers.items():
            meaning = None if kind is None else _of_kind(lines[row], kind, meanings)
            if meaning is not None:
                found[row, column] = number, meaning
    return found


def _lines(read: ReadTable, every: Sequence[Matched], meanings: Meanings) -> dict[int, Line]:
    """The line that each row is of: by its other cells, or by a name that is said in full."""
    found = {each.cell.row: each.figure[:2] for each in every if each.figure is not None}
    for row in {each.cell.row for each in every} - {*found}:
        named = meanings.names.named(stems(read.labels[row]), least=NAMED)
        best = max(named, key=lambda each: each[1], default=None)
        if best is not None:
            found[row] = best[0].statement, best[0].id
    return found


def _in_percent(cell: Cell, head: str) -> Number:
    """The number of a cell; of a column that is headed by a percent sign it is a percentage as it stands."""
    if "%" not in head or cell.plain.form != "amount":
        return cell.number
    amount, exponent = EXACT.scaleb(cell.plain.amount, -2), cell.plain.exponent - 2
    return replace(cell.plain, amount=amount, exponent=exponent, form="percent")


def _kind_of(numbers: Mapping[int, Number], lines: Mapping[int, Line], meanings: Meanings) -> Kind | None:
    """The measure to which most numbers of a column come, each of its own line."""
    hits: Counter[Kind] = Counter()
    for row, number in numbers.items():
        hits.update(
            {kind for kind, meaning in _meanings(lines[row], number, meanings) if _is(number, meaning)}
        )
    best = max(hits, key=lambda kind: hits[kind], default=None)
    if best is None:
        return None
    asked = sum(_of_kind(lines[row], best, meanings) is not None for row in numbers)
    return best if hits[best] >= max(LEAST, MOST_OF * asked) else None


def _meanings(line: Line, number: Number, meanings: Meanings) -> Iterator[tuple[Kind, Meaning]]:
    relative = number.form == "percent"
    for meaning in meanings.by_line[line]:
        if meaning.measure in WORKED_OUT and relative == (meaning.measure != "change"):
            yield _kind(meaning), meaning


def _kind(meaning: Meaning) -> Kind:
    against = meaning.against or ("", "", "")
    return meaning.measure, meaning.figure[2], against[1] if meaning.measure == "share" else against[2]


def _of_kind(line: Line, kind: Kind, meanings: Meanings) -> Meaning | None:
    return next((m for m in meanings.by_line[line] if m.measure in WORKED_OUT and _kind(m) == kind), None)


def _is(number: Number, meaning: Meaning) -> bool:
    said: Decimal = number.amount.copy_abs()
    return any(at_unit(amount, number.exponent) == said for amount in meaning.amounts)
