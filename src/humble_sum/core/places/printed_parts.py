"""Parts that print to their whole: shares that come to 100, and bridges whose steps add as printed."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal
from functools import lru_cache

from humble_sum.core.footing.problem import Entry, Equation, Problem, window_of
from humble_sum.core.footing.solve import foot
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import Mode, position, rounded
from humble_sum.core.statements.policy import Policy

FREE = Policy(keep_amounts=False, keep_signs=False)
WHOLE = "whole"


def footed_parts(
    parts: Sequence[Decimal], total: int, exponent: int, clauses: ResolvedClauses
) -> list[int] | None:
    """The units that parts print so that they add to `whole`, moved as little as can be; None where one
    step up or down is not enough."""
    found = _footed(tuple(parts), total, exponent, clauses.rounding, clauses.multiple)
    return None if found is None else list(found)


# A chart is drawn, and looked through for what does not agree, far more often than its parts change.
@lru_cache(maxsize=256)
def _footed(
    parts: tuple[Decimal, ...], total: int, exponent: int, rounding: Mode, multiple: int
) -> tuple[int, ...] | None:
    entries = []
    for number, amount in enumerate(parts):
        where = position(amount, exponent)
        own = rounded(where, rounding, multiple)
        window = window_of(where, own, FREE)
        entries.append(Entry(str(number), where, own, rounding, window=window))
    at = position(Decimal(total), 0)
    entries.append(Entry(WHOLE, at, total, held=total, window=(total,)))
    adds = Equation(WHOLE, tuple((str(number), 1) for number in range(len(parts))))
    found = foot(Problem(tuple(entries), (adds,)))
    return None if found is None else tuple(found.printed[str(number)] for number in range(len(parts)))
