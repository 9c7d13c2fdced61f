"""The packs in hand: loaded from records, proved once per revision."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from time import monotonic
from typing import TypeVar, cast

from cachetools import LRUCache
from sqlalchemy.orm import Session

from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import PackProof, proof_of, prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.review.points import unsettled
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import editions_of, in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.review_marks import Role
from humble_sum.records.database import Database
from humble_sum.records.pack_rows import add_pack, load_pack, pack_row
from humble_sum.records.revisions import at_revision, pack_after, waiting
from humble_sum.records.tables import PackRow
from humble_sum.server.lanes import Lanes
from humble_sum.server.memory import give_up, in_hand
from humble_sum.server.plan_cache import Plans
from humble_sum.server.presence import Presence
from humble_sum.server.schemas import DashboardName, EditionName, PackView, StatementView
from humble_sum.server.searches import Searches

AT = "at:"  # before the number of a change: the pack as it was right after it
MOST_LAST = 10_000  # packs and editions of which it is known at which revision they were proved last
MOST_TRIALS = 8
RESTS_AFTER, NOT_AGAIN = 60.0, 600.0  # seconds without a request, and until it is looked at again
ROLES: tuple[Role, ...] = ("prepared", "reviewed")
Made = TypeVar("Made")


class Desk:
    """Packs and proofs by revision. A revision never changes, so what is kept stays true."""

    def __init__(self, database: Database):
        self.database = database
        self._kept = in_hand()
        self._last: LRUCache[tuple[str, str], int] = LRUCache(MOST_LAST)
        self._trials: LRUCache[tuple[str, str, str], tuple[PackProof, PackProof]] = LRUCache(MOST_TRIALS)
        self._lock = threading.Lock()
        self._used = monotonic()
        self._making: dict[tuple[str | int, ...], threading.RLock] = {}
        self.lanes = Lanes()
        self.plans = Plans(self.lanes.planning)
        self.searches = Searches()
        self.presence = Presence()

    def pack(self, session: Session, row: PackRow) -> Pack:
        """The pack as it is kept, whatever the edition it is asked for in."""
        return self._once(("pack", row.id, row.revision), lambda: load_pack(session, row))

    def proved(self, session: Session, row: PackRow, edition: str | None = None) -> PackProof:
        """The pack proved at its revision, in an edition: the one named, or the row's. Statements that a
        change left alone are not proved again."""
        shown = edition or row.edition
        key = (row.id, shown)

        def prove_whole() -> PackProof:
            with self._lock:
                last = self._kept.get(("proof", row.id, self._last.get(key, 0), shown))
                self._last[key] = row.revision
            return prove_pack(in_edition(self.pack(session, row), shown), last)

        return self._once(("proof", row.id, row.revision, shown), prove_whole)

    def seen(self, session: Session, row: PackRow, view: str | None) -> PackProof:
        """The pack as it is, as a trial would have it, or as it was after the change that `at:7` names.
        Raises InputError where there is no such trial or change."""
        if view is None:
            return self.proved(session, row)
        if not view.startswith(AT):
            return self.trial(row, view)[1]
        number = view.removeprefix(AT)

        def prove_past() -> PackProof:
            after = int(number) if number.isascii() and number.isdigit() and len(number) < 10 else -1
            then = pack_after(session, row, self.pack(session, row), after)
            return prove_pack(in_edition(then, row.edition))

        return self._once(("past", row.id, row.revision, row.edition, number), prove_past)

    def trial(self, row: PackRow, trial: str) -> tuple[PackProof, PackProof]:
        """The pack that a trial was made on, and as the trial would have it. Raises InputError."""
        with self._lock:
            found: tuple[PackProof, PackProof] | None = self._trials.get((row.id, row.edition, trial))
        if found is None:
            what = "This trial is over."
            raise InputError("no-such-trial", Fault("trial", what, "Try the change again."))
        return found

    def try_out(self, row: PackRow, trial: str, base: PackProof, make: Callable[[], PackProof]) -> PackProof:
        """Keep a trial in hand under its name, for its pages and figures to be looked at."""
        key = (row.id, row.edition, trial)
        with self._lock:
            found = self._trials.get(key)
        made = found[1] if found else make()
        with self._lock:
            self._trials[key] = (base, made)
        return made

    def open(
        self, session: Session, pack_id: str, statement_id: str, trial: str | None = None
    ) -> tuple[PackRow, PackProof, Proof]:
        """A pack's row, the pack proved as it is or on trial, and the proof of one of its statements."""
        row = pack_row(session, pack_id)
        pack_proof = self.seen(session, row, trial)
        return row, pack_proof, proof_of(pack_proof, statement_id)

    @contextmanager
    def changing(self, pack_id: str, revision: int) -> Iterator[tuple[Session, PackRow]]:
        """One short transaction on a pack that is still at this revision. What is to be written is worked
        out before, and shown after: nothing is kept in hand of a revision that may not come to be."""
        with self.database.writing() as session:
            yield session, at_revision(session, pack_id, revision)

    def earlier(self, row: PackRow, revision: int) -> PackProof | None:
        """The pack at an earlier revision in the row's edition, where it is still in hand."""
        with self._lock:
            found = self._kept.get(("proof", row.id, revision, row.edition))
            pack = self._kept.get(("pack", row.id, revision))
        if found is not None:
            return cast(PackProof, found)
        return None if pack is None else prove_pack(in_edition(cast(Pack, pack), row.edition))

    def remember(self, row_id: str, revision: int, pack: Pack) -> None:
        """Spare a reload of a revision that was just written."""
        self._once(("pack", row_id, revision), lambda: pack)

    def take_in(self, pack: Pack) -> PackView:
        """Keep a new pack, and show it: it is proved once it is kept, so that no other change waits."""
        with self.database.writing() as session:
            row = add_pack(session, pack)
            code, revision = row.id, row.revision
        self.remember(code, revision, pack)
        with self.database.reading() as session:
            return self.view(session, pack_row(session, code))

    def issued(self, row_id: str, edition: str, number: int, make: Callable[[], PackProof]) -> PackProof:
        """The pack of an issue as it went out, which never changes."""
        return self._once(("issued", row_id, edition, number), make)

    def kept(self, key: tuple[str | int, ...], make: Callable[[], Made]) -> Made:
        """What else is made of packs, kept in hand with them."""
        return self._once(key, make)

    def view(self, session: Session, row: PackRow) -> PackView:
        """The pack as the spine shows it."""
        pack_proof = self.proved(session, row)
        pack = pack_proof.pack
        left = unsettled(pack)
        signed = {
            (each.role, each.statement)
            for each in pack.signatures
            if each.edition == row.edition and not each.lifted and not each.brought
        }
        undo, redo, changes_today, last = waiting(session, row, datetime.now(UTC).date().isoformat())
        return PackView(
            id=row.id if row.edition == OWN else f"{row.id}@{row.edition}",
            code=row.id,
            edition=row.edition,
            editions=[EditionName(id=id, name=pack.edition_name(id)) for id in editions_of(pack)],
            dashboards=[
                DashboardName(id=each.id, name=each.name, edition=each.edition) for each in pack.dashboards
            ],
            entity=pack.entity,
            period=pack.period,
            revision=row.revision,
            statements=[
                StatementView(
                    id=statement.id,
                    name=statement.name,
                    title=statement.title,
                    gaps=pack_proof.count(statement.id, "gap"),
                    breaks=pack_proof.count(statement.id, "break"),
                    points=sum(point.on.statement == statement.id for point in left),
                    signed=[role for role in ROLES if (role, statement.id) in signed],
                )
                for statement in pack.statements
            ],
            in_review=bool(pack.points or pack.signatures),
            undo=undo,
            redo=redo,
            last_change=last,
            changes_today=changes_today,
            foot=Foot(kind="foot", statement=pack.statements[0].id),
        )

    def rest(self) -> None:
        """Give up most of what is in hand, where nobody has asked for anything for a while."""
        with self._lock:
            if monotonic() - self._used > RESTS_AFTER and len(self._kept) > 0:
                give_up(self._kept)
                self._used = monotonic() + NOT_AGAIN

    def _once(self, key: tuple[str | int, ...], make: Callable[[], Made]) -> Made:
        """What is kept under a key, or is made now: by one thread, which others that want it wait for."""
        with self._lock:
            self._used = monotonic()
            if key in self._kept:
                return cast(Made, self._kept[key])
            making = self._making.setdefault(key, threading.RLock())
        with making:
            with self._lock:
                if key in self._kept:
                    return cast(Made, self._kept[key])
            try:
                made = make()
                with self._lock:
                    self._kept[key] = made
            finally:
                with self._lock:
                    self._making.pop(key, None)
        return made
