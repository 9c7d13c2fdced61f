"""Whether new figures show costs with another sign than their pack: positive and taken off, or negative."""

from __future__ import annotations

from collections.abc import Collection
from typing import Literal

from humble_sum.core.amounts import EXACT
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


def in_signs_of(old: Statement, new: Statement) -> Statement:
    """New figures with their costs as the pack keeps them: positive and taken off, or negative and added.
    Every sum comes to the same; where both do alike the figures are as they came."""
    way = costs_in(old, new)
    if way is None:
        return new
    theirs = "positive" if way == "negative" else "negative"
    turned = {line.id for line in new.figured if not line.parts and _taken_off(new, line) == theirs}
    # A total of nothing but costs is turned with them.
    for _ in range(len(new.lines)):
        more = {line.id for line in new.lines if line.parts and {part for part, _ in line.parts} <= turned}
        if more <= turned:
            break
        turned |= more
    return new.model_copy(update={"lines": tuple(_turned(line, turned) for line in new.lines)})


def _turned(line: Line, turned: Collection[str]) -> Line:
    """A line with its amounts, and its parts' signs, as they are once some lines have the other sign."""

    def sign_of(id: str) -> int:
        return -1 if id in turned else 1

    parts = tuple((part, sign * sign_of(line.id) * sign_of(part)) for part, sign in line.parts)
    amounts = dict(line.amounts)
    if line.id in turned:
        amounts = {column: EXACT.minus(amount) if amount else amount for column, amount in amounts.items()}
    return line.model_copy(update={"parts": parts, "amounts": amounts})


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
