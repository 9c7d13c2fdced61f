"""What a check before an issue is: what holds, what is open, and where to go for it."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.changes.change_union import Change
from humble_sum.core.statements.names import FigureRef


@dataclass(frozen=True)
class Open:
    """Something that a check leaves open: what it is, and the figure, statement or dashboard to go to."""

    says: str
    statement: str | None = None
    figure: FigureRef | None = None
    dashboard: str | None = None


@dataclass(frozen=True)
class Check:
    """One check: what has to hold, what it was made of, what is open, and a command that settles it where
    there is one."""

    id: str
    says: str
    evidence: str
    open: tuple[Open, ...] = ()
    settle: Change | None = None

    @property
    def holds(self) -> bool:
        return not self.open
