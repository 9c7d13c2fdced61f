"""The history of changes: each one transaction, each undone and redone from its record."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import Select, func, select
from sqlalchemy.orm import Session

from humble_sum.core.errors import Fault, Refused
from humble_sum.core.statements.pack import Pack
from humble_sum.records.packs import now, pack_row, state_of, write_state
from humble_sum.records.tables import ChangeRow, PackRow


def at_revision(session: Session, pack_id: str, revision: int) -> PackRow:
    """The pack's row, if it is still at this revision.

    Raises Refused("stale-revision") when someone else has changed it since: their change is
    shown to the sender instead of being written over.
    """
    row = pack_row(session, pack_id)
    if row.revision != revision:
        raise Refused(
            "stale-revision",
            Fault(
                "revision",
                f"The pack is at revision {row.revision}, and this change was made on {revision}.",
                "Load the pack again and repeat the change.",
            ),
        )
    return row


def record(
    session: Session, row: PackRow, old: Pack, new: Pack, kind: str, summary: str, author: str = ""
) -> bool:
    """Make the pack be `new`, with the change on record. False when nothing differs."""
    was, becomes = state_of(old), state_of(new)
    changed = [(a, b) for a, b in zip(old.statements, new.statements, strict=True) if a is not b and a != b]
    if changed:
        was["statements"] = [before.model_dump(mode="json") for before, _ in changed]
        becomes["statements"] = [after.model_dump(mode="json") for _, after in changed]
    parts = [name for name in was if was[name] != becomes[name]]
    if not parts:
        return False
    before, after = {name: was[name] for name in parts}, {name: becomes[name] for name in parts}
    for undone in session.scalars(_query(row, ChangeRow.undone, ~ChangeRow.abandoned)):
        undone.abandoned = True
    last = session.scalar(select(func.max(ChangeRow.number)).where(ChangeRow.pack == row.id)) or 0
    session.add(
        ChangeRow(
            pack=row.id,
            number=last + 1,
            at=now(),
            kind=kind,
            summary=summary,
            author=author,
            before=before,
            after=after,
            undone=False,
            abandoned=False,
        )
    )
    _apply(session, row, after)
    return True


def next_undo(session: Session, row: PackRow) -> ChangeRow | None:
    """The change that undo would take back."""
    return session.scalar(_query(row, ~ChangeRow.undone).order_by(ChangeRow.number.desc()).limit(1))


def next_redo(session: Session, row: PackRow) -> ChangeRow | None:
    """The change that redo would put back."""
    waiting = _query(row, ChangeRow.undone, ~ChangeRow.abandoned)
    return session.scalar(waiting.order_by(ChangeRow.number).limit(1))


def undo(session: Session, row: PackRow) -> ChangeRow:
    """Take back the last change. Raises Refused when there is none."""
    change = next_undo(session, row)
    if change is None:
        raise Refused("nothing-to-undo", Fault("", "There is no change to undo."))
    change.undone = True
    _apply(session, row, change.before)
    return change


def redo(session: Session, row: PackRow) -> ChangeRow:
    """Put back the change that was undone last. Raises Refused when there is none."""
    change = next_redo(session, row)
    if change is None:
        raise Refused("nothing-to-redo", Fault("", "There is no change to redo."))
    change.undone = False
    _apply(session, row, change.after)
    return change


def history(session: Session, row: PackRow) -> Sequence[ChangeRow]:
    """Every change, newest first, undone and abandoned ones too."""
    return session.scalars(_query(row).order_by(ChangeRow.number.desc())).all()


def changes_on(session: Session, row: PackRow, day: str) -> int:
    """How many changes were made on a day, written as RFC 3339 has it."""
    return (
        session.scalar(select(func.count()).where(ChangeRow.pack == row.id, ChangeRow.at.startswith(day)))
        or 0
    )


def _apply(session: Session, row: PackRow, state: dict[str, Any]) -> None:
    write_state(session, row.id, state)
    row.revision += 1
    session.flush()


def _query(row: PackRow, *conditions: Any) -> Select[ChangeRow]:
    return select(ChangeRow).where(ChangeRow.pack == row.id, *conditions)
