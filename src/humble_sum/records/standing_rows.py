"""How packs stand, kept as they were looked at last, so that a group is seen without proving them anew."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import ValidationError
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from humble_sum import __version__
from humble_sum.core.issue.pack_standing import PackStanding
from humble_sum.records.tables import IssueRow, PackRow, StandingRow


@dataclass(frozen=True)
class LastIssue:
    """The newest issue of a pack: its number and state, and whether it was taken back."""

    number: int
    state: str
    withdrawn: bool


def standings(session: Session, edition: str) -> dict[str, PackStanding]:
    """The standings of packs that are as they were when they were looked at, by pack."""
    rows = session.execute(
        select(StandingRow.pack, StandingRow.said)
        .join(PackRow, PackRow.id == StandingRow.pack)
        .where(
            StandingRow.edition == edition,
            StandingRow.revision == PackRow.revision,
            StandingRow.version == __version__,
        )
    )
    found = {}
    for pack, said in rows:
        try:
            found[pack] = PackStanding.model_validate(said)
        except ValidationError:
            continue  # written by a program that said less or more; it is looked at again
    return found


def keep_standings(session: Session, edition: str, found: Sequence[tuple[str, int, PackStanding]]) -> None:
    """Keep how packs stand at their revisions."""
    for pack, revision, standing in found:
        row = session.scalar(
            select(StandingRow).where(StandingRow.pack == pack, StandingRow.edition == edition)
        )
        if row is None:
            row = StandingRow(pack=pack, edition=edition, revision=revision, version="", said={})
            session.add(row)
        row.revision, row.version, row.said = revision, __version__, standing.model_dump(mode="json")


def last_issues(session: Session, edition: str) -> dict[str, LastIssue]:
    """The newest issue of each pack, in an edition."""
    newest = (
        select(IssueRow.pack, func.max(IssueRow.number).label("number"))
        .where(IssueRow.edition == edition)
        .group_by(IssueRow.pack)
        .subquery()
    )
    rows = session.execute(
        select(IssueRow.pack, IssueRow.number, IssueRow.told["state"].as_string(), IssueRow.withdrawn)
        .join(newest, (newest.c.pack == IssueRow.pack) & (newest.c.number == IssueRow.number))
        .where(IssueRow.edition == edition)
    )
    return {pack: LastIssue(number, state, withdrawn is not None) for pack, number, state, withdrawn in rows}
