"""A total that its source states as something else than what its parts come to."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT
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
