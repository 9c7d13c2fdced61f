"""The packs in hand: loaded from records, proved once per revision."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from typing import Any, TypeVar, cast

from sqlalchemy.orm import Session

from humble_sum.core.faults import Fault, Refused
from humble_sum.core.proofs import Figure, Proof, prove
from humble_sum.core.statements import Pack, Statement
from humble_sum.records.database import Database
from humble_sum.records.history import at_revision, changes_on, next_redo, next_undo
from humble_sum.records.packs import load_pack, pack_row
from humble_sum.records.tables import PackRow
from humble_sum.server.views import PackView, StatementView

MOST_KEPT = 64
Made = TypeVar("Made")


class Desk:
    """Packs and proofs by revision. A revision never changes, so what is kept stays true."""

    def __init__(self, database: Database):
        self.database = database
        self._kept: OrderedDict[tuple[str | int, ...], Any] = OrderedDict()
        self._lock = threading.Lock()

    def pack(self, session: Session, row: PackRow) -> Pack:
        return self._once(("pack", row.id, row.revision), lambda: load_pack(session, row))

    def proof(self, session: Session, row: PackRow, statement_id: str) -> Proof:
        pack = self.pack(session, row)
        statement = statement_of(pack, statement_id)
        return self._once(("proof", row.id, row.revision, statement_id), lambda: prove(pack, statement))

    def open(self, session: Session, pack_id: str, statement_id: str) -> tuple[PackRow, Pack, Proof]:
        """A pack's row, the pack, and the proof of one of its statements."""
        row = pack_row(session, pack_id)
        return row, self.pack(session, row), self.proof(session, row, statement_id)

    @contextmanager
    def changing(self, pack_id: str, revision: int) -> Iterator[tuple[Session, PackRow]]:
        """One transaction on a pack that is still at this revision.

        If it fails, what was made of the revision it would have become is forgotten: another
        change may yet become that revision.
        """
        try:
            with self.database.writing() as session:
                yield session, at_revision(session, pack_id, revision)
        except BaseException:
            with self._lock:
                for key in [key for key in self._kept if key[1] == pack_id]:
                    del self._kept[key]
            raise

    def remember(self, row: PackRow, pack: Pack) -> None:
        """Spare a reload of a revision that was just made."""
        self._once(("pack", row.id, row.revision), lambda: pack)

    def view(self, session: Session, row: PackRow) -> PackView:
        """The pack as the spine shows it."""
        pack = self.pack(session, row)
        undo, redo = next_undo(session, row), next_redo(session, row)
        today = datetime.now(UTC).date().isoformat()
        proofs = [self.proof(session, row, statement.id) for statement in pack.statements]
        return PackView(
            id=row.id,
            entity=pack.entity,
            period=pack.period,
            revision=row.revision,
            statements=[
                StatementView(
                    id=proof.statement.id,
                    name=proof.statement.name,
                    title=proof.statement.title,
                    gaps=len(proof.gaps),
                    breaks=len(proof.breaks),
                )
                for proof in proofs
            ],
            undo=undo.summary if undo else None,
            redo=redo.summary if redo else None,
            changes_today=changes_on(session, row, today),
        )

    def _once(self, key: tuple[str | int, ...], make: Callable[[], Made]) -> Made:
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return cast(Made, self._kept[key])
        made = make()
        with self._lock:
            self._kept[key] = made
            while len(self._kept) > MOST_KEPT:
                self._kept.popitem(last=False)
        return made


def statement_of(pack: Pack, id: str) -> Statement:
    """The statement, or Refused."""
    statement = pack.statement(id)
    if statement is None:
        raise Refused("no-such-statement", Fault("statement", f'There is no statement "{id}".'))
    return statement


def figure_of(proof: Proof, line: str, column: str) -> Figure:
    """The figure at a line and column, or Refused."""
    figure = proof.figures.get((line, column))
    if figure is None:
        raise Refused(
            "no-such-figure", Fault("figure", f'There is no figure at line "{line}", column "{column}".')
        )
    return figure
