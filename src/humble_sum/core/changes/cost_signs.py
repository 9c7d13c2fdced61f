"""Whether new figures show costs with another sign than their pack: positive and taken off, or negative."""

from __future__ import annotations

from typing import Literal

from humble_sum.core.statements.pack import Line, Statement


def costs_in(old: Statement, new: Statement) -> Literal["positive", "negative"] | None:
    """How the pack keeps what the new figures keep the other way; None where both do alike."""
    before = {line.label.casefold(): line for line in old.figured}
    ways = [
        (_taken_off(old, twin), _taken_off(new, line))
        for line in new.figured
        if not line.parts and (twin := before.get(line.label.casefold())) is not None
    ]
    if any(was == "negative" and now == "positive" for was, now in ways):
        return "negative"
    return "positive" if any(was == "positive" and now == "negative" for was, now in ways) else None


def _taken_off(statement: Statement, line: Line) -> Literal["positive", "negative"] | None:
    """How a cost is kept: as a positive amount that its total takes off, or as a negative one that it adds,
    through every total above it; None of what is no cost."""
    sign = 1
    below = line.id
    for _ in range(len(statement.lines)):
        above = next(
            ((total.id, s) for total in statement.lines for part, s in total.parts if part == below), None
        )
        if above is None:
            break
        below, sign = above[0], sign * above[1]
    amounts = [amount for amount in line.amounts.values() if amount]
    if not amounts or below == line.id:
        return None
    if sign < 0 and all(amount > 0 for amount in amounts):
        return "positive"
    return "negative" if sign > 0 and all(amount < 0 for amount in amounts) else None
