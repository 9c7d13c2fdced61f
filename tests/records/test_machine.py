"""Commands with undo and redo, in any order and over restarts, against a list of the packs there have been."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.pack import Pack
from humble_sum.records.database import Database
from humble_sum.records.pack_rows import add_pack, load_pack, pack_row, with_state
from humble_sum.records.revisions import history, pack_after, record, redo, standing_of, undo
from tests.every_change import COAST, GOOD
from tests.making import demo_income

AWAY = ("cash", "routes", "position", "operations")  # statements that this pack has not
CHANGES = [
    *(each for each in GOOD if not any(name in str(each) for name in AWAY)),
    {"kind": "set_taxonomies", "taxonomies": [COAST | {"prefix": "shore"}]},
    {"kind": "leave_style", "statement": "income"},
]


class Records(RuleBasedStateMachine):
    """A pack on record, and beside it `states` as they were and `at` which of them it is."""

    def __init__(self) -> None:
        super().__init__()
        self.folder = tempfile.TemporaryDirectory()
        self.file = Path(self.folder.name) / "records.sqlite"
        self.database = Database(self.file)

    def teardown(self) -> None:
        self.database.close()
        self.folder.cleanup()

    @initialize()
    def keep(self) -> None:
        self.states: list[Pack] = [demo_income()]
        self.at = 0
        with self.database.writing() as session:
            self.id = add_pack(session, self.states[0]).id

    @rule(said=st.sampled_from(CHANGES))
    def change(self, said: dict[str, object]) -> None:
        now = self.states[self.at]
        try:
            new = apply(prove_pack(now), read_change(said)).pack
        except InputError:
            return  # what cannot be done changes nothing, which is looked at below
        with self.database.writing() as session:
            changed = record(session, pack_row(session, self.id), now, new, str(said["kind"]), "made")
        assert changed == (new != now), said
        if changed:
            self.states = [*self.states[: self.at + 1], new]
            self.at += 1

    @rule()
    def undone(self) -> None:
        self.step(-1)

    @rule()
    def put_back(self) -> None:
        self.step(1)

    def step(self, by: int) -> None:
        there = 0 <= self.at + by < len(self.states)
        try:
            with self.database.writing() as session:
                made = (undo if by < 0 else redo)(session, pack_row(session, self.id))
        except InputError:
            assert not there
            return
        assert there
        told = with_state(self.states[self.at], made.becomes)
        self.at += by
        assert told == self.states[self.at], "it is told from what it was, without reading it again"

    @rule()
    def restart(self) -> None:
        self.database.close()
        self.database = Database(self.file)

    @invariant()
    def is_as_it_was_meant(self) -> None:
        with self.database.reading() as session:
            row = pack_row(session, self.id)
            found = load_pack(session, row)
            assert found == self.states[self.at]
            applied = [each for each in history(session, row) if standing_of(each) == "applied"]
            assert len(applied) == self.at
            assert pack_after(session, row, found, 0) == self.states[0]


MachineTest = Records.TestCase
MachineTest.settings = settings(max_examples=12, stateful_step_count=12, deadline=None)


if __name__ == "__main__":
    unittest.main()
