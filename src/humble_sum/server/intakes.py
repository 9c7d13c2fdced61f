"""Intakes: tables taken in and not yet kept, with what was decided of them by hand."""

from __future__ import annotations

import threading
import uuid
from collections import OrderedDict
from dataclasses import dataclass, field
from typing import Literal

from humble_sum.core.faults import Fault, Refused
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.table import Table
from humble_sum.core.reading import ARABIC, COMMA, POINT, Convention

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
    """Tables taken in, and the conventions chosen by hand for some of their columns."""

    tables: list[Table]
    chosen: dict[tuple[int, int], ConventionId] = field(default_factory=dict)
    decided: dict[tuple[int, int], bool] = field(default_factory=dict)

    def draft(self, number: int) -> Draft:
        chosen = {column: CONVENTIONS[id] for (table, column), id in self.chosen.items() if table == number}
        decided = {line: take for (table, line), take in self.decided.items() if table == number}
        return draft(self.tables[number], chosen, decided)


class Intakes:
    """The intakes at hand. They live in memory, and the oldest makes way."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, Intake] = OrderedDict()
        self._lock = threading.Lock()

    def add(self, tables: list[Table], into: str | None) -> str:
        if into is not None:
            self.get(into).tables.extend(tables)
            return into
        id = uuid.uuid4().hex[:12]
        with self._lock:
            self._kept[id] = Intake(tables)
            while len(self._kept) > MOST_INTAKES:
                self._kept.popitem(last=False)
        return id

    def get(self, id: str) -> Intake:
        intake = self._kept.get(id)
        if intake is None:
            what = "These figures are not at hand any more."
            raise Refused("no-such-intake", Fault("intake", what, "Take the files in again."))
        return intake

    def drop(self, id: str) -> None:
        with self._lock:
            self._kept.pop(id, None)
