"""Intakes: tables taken in and not yet kept, with what was decided of them by hand."""

from __future__ import annotations

import threading
import uuid
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.decisions import UNDECIDED, Decisions, NamedTable, TableDecided, merged
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.taking_again import in_place_of, kept_decisions, read_otherwise

MOST_INTAKES = 8


@dataclass
class Intake:
    """Tables taken in, with what was decided of each by hand, and their drafts."""

    tables: list[Table]
    decided: dict[int, TableDecided] = field(default_factory=dict)
    made: dict[int, Draft] = field(default_factory=dict)
    entity: str | None = None
    currency: str | None = None
    # The files taken in, by name, each with what was asked of it; None where nothing can be asked.
    files: dict[str, str | None] = field(default_factory=dict)

    def draft(self, number: int) -> Draft:
        """One table's draft, made once until a decision changes it."""
        if number not in self.made:
            self.made[number] = draft(self.tables[number], self.of(number))
        return self.made[number]

    def of(self, number: int) -> TableDecided:
        """What was decided of a table."""
        return self.decided.get(number, UNDECIDED)

    def decide(self, number: int, patch: Mapping[str, Any]) -> None:
        """Decide more of a table, by a merge patch. Raises InputError, and nothing is decided then."""
        decided = merged(self.of(number), patch)
        made = draft(self.tables[number], decided)
        self.decided[number], self.made[number] = decided, made

    def take_again(self, source: str, new: Sequence[Table], query: str) -> list[str]:
        """Put what a source has now in the place of what was taken of it, read as was decided; what that
        changed, in words. What answers another query is another table. Raises InputError, and all stays
        as it was then."""
        brought = in_place_of(self.tables, source, new, query != (self.files.get(source) or ""))
        decided = kept_decisions(self.decided, brought)
        before = {n: self.draft(n) for n in range(len(self.tables))}
        made, said = {}, []
        for place, number in enumerate(brought.came_from):
            was = None if number is None else before[number]
            if place not in brought.fresh and was is not None:
                made[place] = was
                continue
            made[place] = draft(brought.tables[place], decided.get(place, UNDECIDED))
            name = brought.tables[place].name or source
            said += [f"{name} is new"] if was is None else read_otherwise(was, made[place])
        kept = set(brought.came_from)
        said += [f"{each.name or source} is gone" for n, each in enumerate(self.tables) if n not in kept]
        self.tables, self.decided, self.made = brought.tables, decided, made
        return said

    def decisions(self) -> Decisions:
        """All that was decided, as a file."""
        tables = tuple(
            NamedTable(table=self.tables[number].name or str(number + 1), decided=decided)
            for number, decided in sorted(self.decided.items())
            if decided != UNDECIDED
        )
        return Decisions(entity=self.entity, currency=self.currency, tables=tables)

    def decide_as(self, decisions: Decisions) -> None:
        """Decide every table as a file of decisions says."""
        told = {number: decisions.of(table, number) for number, table in enumerate(self.tables)}
        made = {n: draft(self.tables[n], each) for n, each in told.items() if each != self.of(n)}
        self.decided, self.made = told, self.made | made
        self.entity, self.currency = decisions.entity, decisions.currency


class Intakes:
    """The intakes at hand. They live in memory, and the oldest makes way."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, Intake] = OrderedDict()
        self._lock = threading.Lock()

    def add(self, tables: list[Table], into: str | None, made: Sequence[Draft] = ()) -> str:
        """Take tables in, with the drafts already made of them: into an intake at hand, or a new one."""
        if into is not None:
            kept = self.get(into)
            kept.made |= dict(enumerate(made, len(kept.tables)))
            kept.tables.extend(tables)
            return into
        id = uuid.uuid4().hex[:12]
        with self._lock:
            self._kept[id] = Intake(tables, made=dict(enumerate(made)))
            while len(self._kept) > MOST_INTAKES:
                self._kept.popitem(last=False)
        return id

    def get(self, id: str) -> Intake:
        intake = self._kept.get(id)
        if intake is None:
            what = "These figures are not at hand any more."
            raise InputError("no-such-intake", Fault("intake", what, "Take the files in again."))
        return intake

    def drop(self, id: str) -> None:
        with self._lock:
            self._kept.pop(id, None)
