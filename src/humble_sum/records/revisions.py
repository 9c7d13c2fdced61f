"""The history of changes: each one transaction, each undone and redone from its record."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any, Literal, NamedTuple, cast

from sqlalchemy import Select, Table, bindparam, func, insert, select, update
from sqlalchemy.orm import Session, defer

from humble_sum.core.changes.registry import COMMANDS
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.records.pack_rows import now, pack_row, state_of, with_state, write_state
from humble_sum.records.tables import ChangeRow, PackRow

# Those that follow every change are built once: to build one takes longer than SQLite takes to answer it.
OF_PACK = ChangeRow.pack == bindparam("of_pack")
REDOABLE = (OF_PACK, ChangeRow.undone, ~ChangeRow.abandoned)
NEXT_UNDO = select(ChangeRow).where(OF_PACK, ~ChangeRow.undone).order_by(ChangeRow.number.desc()).limit(1)
NEXT_REDO = select(ChangeRow).where(*REDOABLE).order_by(ChangeRow.number).limit(1)
LAST_NUMBER = select(func.max(ChangeRow.number)).where(OF_PACK)
CHANGES = cast(Table, ChangeRow.__table__)
ABANDON = update(CHANGES).where(*REDOABLE).values(abandoned=True)
OF_REVIEW = {kind for kind, command in COMMANDS.items() if command.of_review}
WAITING = select(
    NEXT_UNDO.with_only_columns(ChangeRow.summary).scalar_subquery(),
    NEXT_REDO.with_only_columns(ChangeRow.summary).scalar_subquery(),
    select(func.count()).where(OF_PACK, ChangeRow.at.startswith(bindparam("day"))).scalar_subquery(),
    NEXT_UNDO.with_only_columns(ChangeRow.number).scalar_subquery(),
)


def at_revision(session: Session, pack_id: str, revision: int) -> PackRow:
    """The pack's row, if it is still at this revision.

    Raises InputError("stale-revision") when someone else has changed it since: their change is
    shown to the sender instead of being written over.
    """
    row = pack_row(session, pack_id)
    if row.revision != revision:
        raise InputError(
            "stale-revision",
            Fault(
                "revision",
                f"The pack is at revision {row.revision}, and this change was made on {revision}.",
                "Reload the pack and repeat the change.",
            ),
        )
    return row


def record(
    session: Session, row: PackRow, old: Pack, new: Pack, kind: str, summary: str, author: str = ""
) -> bool:
    """Make the pack be `new`, with the change on record. False when nothing differs."""
    was, becomes = state_of(old), state_of(new)
    for here, there, state in ((old, new, was), (new, old, becomes)):
        others = {each.id: each for each in there.statements}
        own = [each for each in here.statements if (o := others.get(each.id)) is not each and o != each]
        state["statements"] = [each.model_dump(mode="json") for each in own]
        state["order"] = [each.id for each in here.statements]
    parts = [name for name in was if was[name] != becomes[name]]
    if not parts:
        return False
    before, after = {name: was[name] for name in parts}, {name: becomes[name] for name in parts}
    session.execute(ABANDON, {"of_pack": row.id})
    last = session.scalar(LAST_NUMBER, {"of_pack": row.id}) or 0
    _apply(session, row, after, before)
    made = {"number": last + 1, "at": now(), "kind": kind, "summary": summary, "author": author}
    session.execute(insert(CHANGES), made | {"pack": row.id, "before": before, "after": after})
    return True


def last_change(session: Session, row: PackRow) -> tuple[int, str, str] | None:
    """The last change in force: its number, what it did, and whose it is."""
    columns = (ChangeRow.number, ChangeRow.summary, ChangeRow.author)
    found = session.execute(NEXT_UNDO.with_only_columns(*columns), {"of_pack": row.id}).first()
    return None if found is None else (found[0], found[1], found[2])


def summary_of(session: Session, row: PackRow, number: int) -> str | None:
    """What a change in force did, in words; None where there is none of this number, or it was undone."""
    query = select(ChangeRow.summary).where(ChangeRow.pack == row.id, ChangeRow.number == number)
    return session.scalar(query.where(~ChangeRow.undone)) if number < 2**62 else None


class Waiting(NamedTuple):
    """What undo would take back and redo put back, in words, None where there is nothing; how many changes
    were made on the day asked for; and the number of what undo would take back."""

    undo: str | None
    redo: str | None
    on_day: int
    last: int | None


def waiting(session: Session, row: PackRow, day: str) -> Waiting:
    """What a pack's changes leave to be said on a day, written as RFC 3339 has it: in one query, since it
    follows every change, and without what was replaced, which can be large."""
    return Waiting(*session.execute(WAITING, {"of_pack": row.id, "day": day}).one())


class Stepped(NamedTuple):
    """A change undone or redone: what it did, and the parts of the state that it left."""

    summary: str
    becomes: dict[str, Any]


def undo(session: Session, row: PackRow, author: str = "", own_review: bool = False) -> Stepped:
    """Take back the last change; who does is on record. Where `own_review`, only the author's own point,
    answer or signature. Raises InputError when there is none."""
    change = session.scalar(NEXT_UNDO, {"of_pack": row.id})
    if change is None or (own_review and not _own_review(change, author)):
        whose = "of yours " if own_review else ""
        raise InputError("nothing-to-undo", Fault("", f"There is no change {whose}to undo."))
    change.undone = True
    _step(change, "undone", author)
    _apply(session, row, change.before, change.after)
    return Stepped(change.summary, change.before)


def redo(session: Session, row: PackRow, author: str = "", own_review: bool = False) -> Stepped:
    """Put back the change undone last; who does is on record. Where `own_review`, only the author's own
    point, answer or signature. Raises InputError when there is none."""
    change = session.scalar(NEXT_REDO, {"of_pack": row.id})
    if change is None or (own_review and not _own_review(change, author)):
        whose = "of yours " if own_review else ""
        raise InputError("nothing-to-redo", Fault("", f"There is no change {whose}to redo."))
    change.undone = False
    _step(change, "put back", author)
    _apply(session, row, change.after, change.before)
    return Stepped(change.summary, change.after)


def _own_review(change: ChangeRow, author: str) -> bool:
    return change.author == author and change.kind in OF_REVIEW


def _step(change: ChangeRow, what: str, author: str) -> None:
    """Keep that a change was undone or put back, when and by whom."""
    at = datetime.now(UTC).isoformat(timespec="seconds")
    change.steps = [*change.steps, {"what": what, "at": at, "author": author}]


def history(session: Session, row: PackRow, contents: bool = True) -> Sequence[ChangeRow]:
    """Every change, newest first, undone and abandoned ones too; without `contents` what each replaced is
    left where it is until it is asked for."""
    found = _query(row).order_by(ChangeRow.number.desc())
    if not contents:
        found = found.options(defer(ChangeRow.before), defer(ChangeRow.after))
    return session.scalars(found).all()


def standing_of(change: ChangeRow) -> Literal["applied", "undone", "abandoned"]:
    """Whether a change is in force; one undone that others were made after can not be put back."""
    return "abandoned" if change.abandoned else "undone" if change.undone else "applied"


def pack_after(session: Session, row: PackRow, pack: Pack, number: int) -> Pack:
    """The pack as it was right after one of its changes, 0 being as it was taken in; `pack` is as it is now.

    Raises InputError where there is no such change, or where it has been undone.
    """
    applied = session.scalars(_query(row, ~ChangeRow.undone).order_by(ChangeRow.number.desc())).all()
    if number != 0 and all(change.number != number for change in applied):
        what = "There is no such change among those in force."
        raise InputError("no-such-change", Fault("change", what, "Choose one from the history."))
    for change in applied:
        if change.number <= number:
            break
        pack = with_state(pack, change.before)
    return pack


def concerns_figure(change: ChangeRow, figure: FigureRef) -> bool:
    """Whether a change touched a figure: what it is, a rule that reaches it, its hold, nudge or tie."""
    return any(_touched(name, change.before[name], change.after[name], figure) for name in change.before)


def concerns_rule(change: ChangeRow, rule: str) -> bool:
    """Whether a change made, altered, moved or took out a rule."""
    before, after = (_of_rule(state.get("rules", []), rule) for state in (change.before, change.after))
    return bool(before != after)


def _of_rule(rules: Sequence[dict[str, Any]], id: str) -> Any:
    return next(((place, rule) for place, rule in enumerate(rules) if rule["id"] == id), None)


def _touched(part: str, before: Any, after: Any, figure: FigureRef) -> bool:
    statement, line, column = figure
    match part:
        case "holds" | "nudges":
            marks = [
                [m for m in marks if (m["statement"], m["line"], m["column"]) == figure]
                for marks in (before, after)
            ]
            return marks[0] != marks[1]
        case "ties":
            ties = [[t["figures"] for t in some if list(figure) in t["figures"]] for some in (before, after)]
            return ties[0] != ties[1]
        case "statements":
            was, now = (
                next((_figure_of(each, line, column) for each in some if each["id"] == statement), None)
                for some in (before, after)
            )
            return was != now
        case "rules":
            changed = [rule for rule in (*before, *after) if (rule in before) != (rule in after)]
            return any(_reaches(rule["reach"], figure) for rule in changed)
        case _:
            return False


def _figure_of(statement: dict[str, Any], line: str, column: str) -> tuple[Any, Any]:
    """A line with its amount in one column, and the column, as a statement has them."""
    found = next((each for each in statement["lines"] if each["id"] == line), None)
    own = found and {**found, "amounts": found["amounts"].get(column)}
    return own, next((each for each in statement["columns"] if each["id"] == column), None)


def _reaches(reach: dict[str, Any], figure: FigureRef) -> bool:
    """Whether a rule may reach a figure; of rules for a kind of line, every line may be of it."""
    statement, line, column = figure
    named = (("statement", statement), ("line", line), ("column", column))
    several = (("statements", statement), ("lines", line))
    return all(reach.get(name) in (None, own) for name, own in named) and all(
        not reach.get(name) or own in reach[name] for name, own in several
    )


def _apply(session: Session, row: PackRow, state: dict[str, Any], was: dict[str, Any]) -> None:
    row.revision += 1
    write_state(session, row.id, state, was)


def _query(row: PackRow, *conditions: Any) -> Select[ChangeRow]:
    return select(ChangeRow).where(ChangeRow.pack == row.id, *conditions)
