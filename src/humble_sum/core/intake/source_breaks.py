"""Totals that their source states as something else than what its own lines come to."""

from __future__ import annotations

from collections.abc import Iterator

from humble_sum.core.amounts import signed
from humble_sum.core.amounts import total as total_of
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.stated_totals import SourceBreak


def source_breaks(made: Draft) -> Iterator[SourceBreak]:
    """Every total of a draft that its parts do not come to, in the order of its rows; those of entries, which
    are no lines of it, first."""
    yield from made.entry_breaks
    for line in made.lines:
        if not line.parts:
            continue
        for place, (column, stated) in enumerate(zip(made.columns, line.amounts, strict=True)):
            parts = [(sign, made.lines[part].amounts[place]) for part, sign in line.parts]
            there = [signed(sign, amount) for sign, amount in parts if amount is not None]
            if stated is None or not there or column.derived or column.apart:
                continue
            comes_to = total_of(there)
            if comes_to != stated:
                where = made.table.sheet_place(line.row, made.layout.figures[place].index)
                missing = len(parts) - len(there)
                yield SourceBreak(where, line.label, column.label, stated, comes_to, missing)
