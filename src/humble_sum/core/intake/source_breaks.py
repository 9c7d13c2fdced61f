"""Totals that their source states as something else than what its own lines come to."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT, signed
from humble_sum.core.amounts import total as total_of
from humble_sum.core.intake.draft import Draft
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.printing.resolved_clauses import ResolvedClauses


@dataclass(frozen=True)
class SourceBreak:
    """One total that does not foot in its source: where it stands, what it states, what its parts come to,
    and how many of these have no figure."""

    place: str
    line: str
    column: str
    stated: Decimal
    comes_to: Decimal
    missing: int

    @property
    def off(self) -> Decimal:
        """By how much more it states."""
        return EXACT.subtract(self.stated, self.comes_to)

    def __str__(self) -> str:
        more = "more" if self.off > 0 else "less"
        by = exact_text(self.off.copy_abs(), ResolvedClauses())
        known = {0: "", 1: ", one of which has no figure"}
        missing = known.get(self.missing, f", {self.missing} of which have none")
        return f"{self.place} {self.line}, {self.column}: states {by} {more} than its parts come to{missing}"


def source_breaks(made: Draft) -> Iterator[SourceBreak]:
    """Every total of a draft that its parts do not come to, in the order of its rows."""
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
