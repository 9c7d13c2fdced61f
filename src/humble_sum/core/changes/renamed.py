"""Lines of new figures that may be old ones under another name: by the words they share, and by last
period's amounts where the new figures state these too."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.changes.roll_forward import Compared
from humble_sum.core.statements.pack import Statement

WORD = re.compile(r"[^\W\d_]{3,}")
FILLING = frozenset({"and", "the", "for", "from", "und", "les", "des"})
LIKE = Decimal("0.5")  # of the words of two names that are the same, at which they are alike
NEAR = Decimal("0.001")  # by which two amounts may differ that were rounded otherwise


@dataclass(frozen=True)
class Renamed:
    """A new line that may be an old one, and what speaks for it."""

    new: str
    old: str
    evidence: str


def renamed(lines: Sequence[Compared], brought: Statement) -> list[Renamed]:
    """The likeliest old line for each new one, each offered once."""
    gone = [line for line in lines if line.fate == "gone"]
    found: list[Renamed] = []
    for line in (each for each in lines if each.fate == "new"):
        given = _amounts(brought, line.label, line.now)
        rated = [
            (_alike(line.label, old.label), _stated(given, old.was), old)
            for old in gone
            if old.label not in {each.old for each in found}
        ]
        likely = [(alike + (1 if stated else 0), alike, stated, old) for alike, stated, old in rated]
        best = max(likely, key=lambda each: each[0], default=None)
        if best is None or best[0] < LIKE:
            continue
        _, alike, stated, old = best
        ways = ["their names share words"] if alike >= LIKE else []
        ways += ["its comparative is that line’s figure"] if stated else []
        found.append(Renamed(line.label, old.label, " and ".join(ways)))
    return found


def _amounts(brought: Statement, label: str, now: Decimal | None) -> list[Decimal]:
    """What a new line states besides its newest figure."""
    line = next((each for each in brought.figured if each.label == label), None)
    amounts = line.amounts.values() if line is not None else ()
    return [amount for amount in amounts if amount and amount != now]


def _alike(one: str, other: str) -> Decimal:
    words, others = (
        {word for word in WORD.findall(label.casefold()) if word not in FILLING} for label in (one, other)
    )
    return Decimal(len(words & others)) / len(words | others) if words | others else Decimal(0)


def _stated(amounts: Sequence[Decimal], was: Decimal | None) -> bool:
    if not was:
        return False
    size = abs(was)
    return any(EXACT.subtract(abs(amount), size).copy_abs() <= size * NEAR for amount in amounts)
