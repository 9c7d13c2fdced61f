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
from humble_sum.core.ties import PackProof, check_ties
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
        self._last: dict[str, PackProof] = {}
        self._lock = threading.Lock()

    def pack(self, session: Session, row: PackRow) -> Pack:
        return self._once(("pack", row.id, row.revision), lambda: load_pack(session, row))

    def proved(self, session: Session, row: PackRow) -> PackProof:
        """The pack proved at its revision. Statements that a change left alone are not proved again."""

        def prove_whole() -> PackProof:
            pack = self.pack(session, row)
            last = self._last.get(row.id)
            proofs = {s.id: self._proof(pack, s, last) for s in pack.statements}
            whole = PackProof(pack, proofs, check_ties(pack, proofs))
            self._last[row.id] = whole
            return whole

        return self._once(("proof", row.id, row.revision), prove_whole)

    def tried(self, whole: PackProof, pack: Pack) -> PackProof:
        """A pack that is not kept, proved from one that is."""
        proofs = {s.id: self._proof(pack, s, whole) for s in pack.statements}
        return PackProof(pack, proofs, check_ties(pack, proofs))

    def _proof(self, pack: Pack, statement: Statement, last: PackProof | None) -> Proof:
        if last is not None and (before := last.proofs.get(statement.id)) is not None:
            same = before.statement is statement or before.statement == statement
            if same and bearing_on(last.pack, statement.id) == bearing_on(pack, statement.id):
                return before
            if same:
                return prove(pack, statement, before.grid)
        return prove(pack, statement)

    def open(self, session: Session, pack_id: str, statement_id: str) -> tuple[PackRow, PackProof, Proof]:
        """A pack's row, the pack proved, and the proof of one of its statements."""
        row = pack_row(session, pack_id)
        whole = self.proved(session, row)
        return row, whole, proof_of(whole, statement_id)

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
                self._last.pop(pack_id, None)
            raise

    def remember(self, row: PackRow, pack: Pack) -> None:
        """Spare a reload of a revision that was just made."""
        self._once(("pack", row.id, row.revision), lambda: pack)

    def view(self, session: Session, row: PackRow) -> PackView:
        """The pack as the spine shows it."""
        whole = self.proved(session, row)
        pack = whole.pack
        undo, redo = next_undo(session, row), next_redo(session, row)
        today = datetime.now(UTC).date().isoformat()
        return PackView(
            id=row.id,
            entity=pack.entity,
            period=pack.period,
            revision=row.revision,
            statements=[
                StatementView(
                    id=statement.id,
                    name=statement.name,
                    title=statement.title,
                    gaps=whole.count(statement.id, "gap"),
                    breaks=whole.count(statement.id, "break"),
                )
                for statement in pack.statements
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


def bearing_on(pack: Pack, statement: str) -> tuple[object, ...]:
    """What of a pack decides how a statement prints, besides the statement itself."""
    return (
        [rule for rule in pack.rulebook.rules if rule.reach.statement in (None, statement)],
        [hold for hold in pack.holds if hold.statement == statement],
        [nudge for nudge in pack.nudges if nudge.statement == statement],
    )


def proof_of(whole: PackProof, id: str) -> Proof:
    """The proof of one statement, or Refused."""
    proof = whole.proofs.get(id)
    if proof is None:
        raise Refused("no-such-statement", Fault("statement", f'There is no statement "{id}".'))
    return proof


def figure_of(proof: Proof, line: str, column: str) -> Figure:
    """The figure at a line and column, or Refused."""
    figure = proof.figures.get((line, column))
    if figure is None:
        raise Refused(
            "no-such-figure", Fault("figure", f'There is no figure at line "{line}", column "{column}".')
        )
    return figure
