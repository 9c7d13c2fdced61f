"""Tokens on record: whose each is, what it allows and until when. Only their digests are kept."""

from __future__ import annotations

import secrets
from datetime import UTC, datetime, timedelta
from hashlib import sha256

from sqlalchemy import select
from sqlalchemy.orm import Session

from humble_sum.core.errors import Fault, InputError
from humble_sum.records.tables import TokenRow

MOST_NAME = 80  # letters


def digest_of(token: str) -> str:
    """What is kept of a token."""
    return sha256(token.encode("utf-8", "surrogateescape")).hexdigest()


def add_token(session: Session, name: str, role: str, days: int | None) -> str:
    """A new token for somebody, which is told once. Raises InputError where the name is none."""
    name = " ".join(name.split())
    if not 0 < len(name) <= MOST_NAME:
        what = (
            "A token is somebody's: it needs a name."
            if not name
            else f"The name is over {MOST_NAME} letters."
        )
        raise InputError("bad-token", Fault("--name", what))
    token, now = secrets.token_urlsafe(24), datetime.now(UTC)
    expires = None if days is None else _said(now + timedelta(days=days))
    session.add(TokenRow(name=name, role=role, digest=digest_of(token), made=_said(now), expires=expires))
    return token


def tokens_on_record(session: Session) -> list[TokenRow]:
    """Every token that was ever made, in order."""
    return list(session.scalars(select(TokenRow).order_by(TokenRow.id)))


def revoke_token(session: Session, number: int) -> TokenRow:
    """Let a token open nothing any more. Raises InputError where there is none of this number."""
    row = session.get(TokenRow, number)
    if row is None:
        what = f"There is no token {number}."
        raise InputError("bad-token", Fault("number", what, "List them: humble-sum tokens list."))
    row.revoked = row.revoked or _said(datetime.now(UTC))
    return row


def holder_of(session: Session, token: str) -> TokenRow | None:
    """Whose a token is, where it is neither revoked nor over."""
    row = session.scalar(select(TokenRow).where(TokenRow.digest == digest_of(token)))
    return None if row is None or standing_of(row) != "in use" else row


def standing_of(row: TokenRow) -> str:
    """Whether a token opens anything: in use, revoked, or over."""
    if row.revoked is not None:
        return "revoked"
    over = row.expires is not None and row.expires <= _said(datetime.now(UTC))
    return "over" if over else "in use"


def _said(time: datetime) -> str:
    return time.strftime("%Y-%m-%dT%H:%M:%SZ")
