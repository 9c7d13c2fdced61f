"""Issues kept: numbered for each edition, never changed, and withdrawn at most."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import func, select
from sqlalchemy.orm import Session, undefer

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.issue.issue import Issue
from humble_sum.exchange.imprint import digest_of
from humble_sum.records.pack_rows import now
from humble_sum.records.tables import DeletedIssueRow, IssueRow, PackRow

MOST_NUMBER = 2**63 - 1  # what the database can be asked for


@dataclass(frozen=True)
class KeptIssue:
    """An issue as it is kept: the SHA-256 of its container, and what became of it since."""

    issue: Issue
    digest: str
    withdrawn: str | None
    replaced: int | None
    withdrawn_by: str = ""


def next_number(session: Session, row: PackRow) -> int:
    """The number that the next issue of the row's edition has."""
    last = session.scalar(
        select(func.max(IssueRow.number)).where(IssueRow.pack == row.id, IssueRow.edition == row.edition)
    )
    return (last or 0) + 1


def keep_issue(session: Session, row: PackRow, issue: Issue, container: bytes) -> None:
    """Keep an issue. Raises InputError where its number has been given since."""
    number = next_number(session, row)
    if issue.number != number:
        what = f"The next issue of this edition is number {number}, and not {issue.number}."
        raise InputError("issue-taken", Fault("number", what, "Look at that issue, and issue this again."))
    told = issue.model_dump(mode="json")
    of = {"pack": row.id, "edition": row.edition, "number": number}
    session.add(IssueRow(**of, told=told, container=container, digest=digest_of(container)))


def issues_of(session: Session, row: PackRow) -> list[KeptIssue]:
    """The issues of the row's edition, the newest first."""
    found = session.scalars(
        select(IssueRow)
        .where(IssueRow.pack == row.id, IssueRow.edition == row.edition)
        .order_by(IssueRow.number.desc())
    )
    return [_kept(each) for each in found]


def standing_issues(session: Session, row: PackRow) -> int:
    """How many issues of a pack, of all its editions, went out and were not withdrawn."""
    query = select(func.count()).where(IssueRow.pack == row.id, IssueRow.withdrawn.is_(None))
    return session.scalar(query) or 0


def keep_traces(session: Session, row: PackRow, by: str) -> None:
    """Keep what every issue of a pack was, of all its editions, since the pack is about to be deleted."""
    at = now()
    for each in session.scalars(select(IssueRow).where(IssueRow.pack == row.id).order_by(IssueRow.id)):
        told = Issue.model_validate(each.told)
        session.add(
            DeletedIssueRow(
                pack=row.id,
                entity=told.entity,
                period=told.period,
                edition=told.edition_name,
                number=told.number,
                state=told.state,
                made=told.made,
                prepared_by=told.prepared_by,
                reviewed_by=told.reviewed_by,
                recipients=told.recipients,
                digest=each.digest,
                withdrawn=each.withdrawn,
                withdrawn_by=each.withdrawn_by,
                deleted=at,
                deleted_by=by,
            )
        )


def deleted_issues(session: Session) -> list[DeletedIssueRow]:
    """What is left of issues whose packs were deleted, the last deleted first."""
    return list(session.scalars(select(DeletedIssueRow).order_by(DeletedIssueRow.id.desc())))


def issue_of(session: Session, row: PackRow, number: int) -> tuple[KeptIssue, bytes]:
    """One issue of the row's edition, and its container. Raises InputError where there is none."""
    found = _row(session, row, number)
    return _kept(found), found.container


def withdraw(
    session: Session, row: PackRow, number: int, why: str, replaced: int | None, by: str = ""
) -> KeptIssue:
    """Take an issue back, saying why, by which it is replaced, and who does. Raises InputError."""
    found = _row(session, row, number)
    if found.withdrawn is not None:
        raise InputError("no-such-issue", Fault("number", f"Issue {number} is withdrawn already."))
    if not why.strip():
        raise InputError("bad-issue", Fault("why", "An issue is withdrawn for a reason.", "Say why."))
    if replaced is not None:
        _row(session, row, replaced)
    found.withdrawn, found.withdrawn_by, found.replaced = why.strip(), by, replaced
    return _kept(found)


def _row(session: Session, row: PackRow, number: int) -> IssueRow:
    query = select(IssueRow).where(IssueRow.pack == row.id, IssueRow.edition == row.edition)
    query = query.where(IssueRow.number == number).options(undefer(IssueRow.container))
    found = session.scalar(query) if 0 < number <= MOST_NUMBER else None
    if found is None:
        what = f"This edition has no issue {number}."
        raise InputError("no-such-issue", Fault("number", what, "Take its number from those issued before."))
    return found


def _kept(row: IssueRow) -> KeptIssue:
    return KeptIssue(
        Issue.model_validate(row.told), row.digest, row.withdrawn, row.replaced, row.withdrawn_by
    )
