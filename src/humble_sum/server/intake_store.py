"""Intakes: tables taken in and not yet kept, with what was decided of them by hand."""

from __future__ import annotations

import threading
import uuid
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, TypeVar

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.amounts import ARABIC, COMMA, POINT, Convention
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.units import POWERS_BY_NAME

MOST_INTAKES = 8
ConventionId = Literal["point", "comma", "arabic"]
CONVENTIONS: dict[ConventionId, Convention] = {"point": POINT, "comma": COMMA, "arabic": ARABIC}
SAID: dict[ConventionId, str] = {
    "point": "decimal point, as in 1,234.5",
    "comma": "decimal comma, as in 1.234,5",
    "arabic": "Arabic marks, as in 1٬234٫5",
}


@dataclass
class Intake:
    """Tables taken in, with what was chosen and decided of them by hand, and their drafts."""

    tables: list[Table]
    chosen: dict[tuple[int, int], ConventionId] = field(default_factory=dict)
    decided: dict[tuple[int, int], bool] = field(default_factory=dict)

    units: dict[int, str] = field(default_factory=dict)

    made: dict[int, Draft] = field(default_factory=dict)

    def draft(self, number: int) -> Draft:
        """One table's draft, made once until a choice changes it."""
        if number not in self.made:
            chosen = {
                column: CONVENTIONS[id] for (table, column), id in self.chosen.items() if table == number
            }
            decided = {line: take for (table, line), take in self.decided.items() if table == number}
            self.made[number] = draft(self.tables[number], chosen, decided, self._power(number))
        return self.made[number]

    def _power(self, number: int) -> int | None:
        return POWERS_BY_NAME[self.units[number]] if number in self.units else None

    def in_unit(self, table: int, unit: str | None) -> None:
        """Read a table's amounts by a unit chosen for it, or by what the source says."""
        if unit is None:
            self.units.pop(table, None)
        else:
            self.units[table] = unit
        self.made.pop(table, None)

    def choose(self, table: int, column: int, convention: ConventionId | None) -> None:
        """Read a column by a convention chosen for it, or by what its cells show."""
        _put(self.chosen, (table, column), convention)
        self.made.pop(table, None)

    def decide(self, table: int, line: int, take: bool | None) -> None:
        """Say of a line that it is a total or is not, or leave it to the evidence."""
        _put(self.decided, (table, line), take)
        self.made.pop(table, None)


Value = TypeVar("Value")


def _put(choices: dict[tuple[int, int], Value], key: tuple[int, int], value: Value | None) -> None:
    if value is None:
        choices.pop(key, None)
    else:
        choices[key] = value


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
