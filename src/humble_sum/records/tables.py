"""The tables. Amounts are kept as text, since SQLite's numbers are doubles."""

from __future__ import annotations

from decimal import Decimal
from typing import Any, ClassVar

from sqlalchemy import (
    JSON,
    Boolean,
    Dialect,
    ForeignKey,
    Integer,
    LargeBinary,
    Text,
    TypeDecorator,
    UniqueConstraint,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, declared_attr, mapped_column

from humble_sum.core.amounts import amount_text, read_amount
from humble_sum.core.statements.edition import OWN


class ExactDecimal(TypeDecorator[Decimal]):
    """A decimal kept digit for digit as text."""

    impl = Text
    cache_ok = True

    def process_bind_param(self, value: Decimal | None, dialect: Dialect) -> str | None:
        return None if value is None else amount_text(value)

    def process_result_value(self, value: str | None, dialect: Dialect) -> Decimal | None:
        return None if value is None else read_amount(value)


class Base(DeclarativeBase):
    type_annotation_map: ClassVar = {str: Text, Decimal: ExactDecimal, dict[str, Any]: JSON}


def owned_by(table: str) -> Any:
    """A foreign key whose rows go when their owner goes."""
    return mapped_column(ForeignKey(f"{table}.id", ondelete="CASCADE"), index=True)


class PackRow(Base):
    """A pack. `revision` counts every change, undo and redo. `edition` is not kept: it is the one in which
    whoever asked for the pack wants to have it."""

    __tablename__ = "packs"
    id: Mapped[str] = mapped_column(primary_key=True)
    entity: Mapped[str]
    period: Mapped[str]
    currency: Mapped[str | None]
    revision: Mapped[int] = mapped_column(Integer, default=1)
    created: Mapped[str]
    specimens: Mapped[list[str]] = mapped_column(JSON, default=list)
    policy: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    own_edition: Mapped[str] = mapped_column(default="Statutory")
    shared: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    standing: Mapped[str] = mapped_column(default="in_use")
    edition = OWN


class StatementRow(Base):
    __tablename__ = "statements"
    __table_args__ = (UniqueConstraint("pack", "code"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    position: Mapped[int]
    code: Mapped[str]
    name: Mapped[str]
    title: Mapped[str]
    members: Mapped[list[Any]] = mapped_column(JSON, default=list)
    policy: Mapped[dict[str, Any] | None] = mapped_column(JSON(none_as_null=True))


class ColumnRow(Base):
    """A column, with what is not usual of it in footing. `first` and `second` are set in a difference,
    `adds` in a sum, `share` in shares."""

    __tablename__ = "columns"
    __table_args__ = (UniqueConstraint("statement", "code"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    statement: Mapped[int] = owned_by("statements")
    position: Mapped[int]
    code: Mapped[str]
    label: Mapped[str]
    date: Mapped[str | None]
    first: Mapped[str | None]
    second: Mapped[str | None]
    adds: Mapped[list[str] | None] = mapped_column(JSON(none_as_null=True))
    share: Mapped[list[str] | None] = mapped_column(JSON(none_as_null=True))
    absent: Mapped[bool] = mapped_column(Boolean, default=False)
    footing: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)


class LineRow(Base):
    __tablename__ = "lines"
    __table_args__ = (UniqueConstraint("statement", "code"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    statement: Mapped[int] = owned_by("statements")
    position: Mapped[int]
    code: Mapped[str]
    label: Mapped[str]
    kind: Mapped[str]
    natural: Mapped[str] = mapped_column(default="either")
    currency: Mapped[str | None]
    indent: Mapped[int | None] = mapped_column(Integer)
    absent: Mapped[bool] = mapped_column(Boolean, default=False)
    footing: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)


class PartRow(Base):
    __tablename__ = "parts"
    id: Mapped[int] = mapped_column(primary_key=True)
    line: Mapped[int] = owned_by("lines")
    position: Mapped[int]
    code: Mapped[str]
    sign: Mapped[int]


class AmountRow(Base):
    """An exact amount, or null where it is said to be missing."""

    __tablename__ = "amounts"
    __table_args__ = (UniqueConstraint("line", "column"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    line: Mapped[int] = owned_by("lines")
    column: Mapped[str]
    amount: Mapped[Decimal | None]


class TieRow(Base):
    """Figures that are one and the same, each a statement, a line and a column."""

    __tablename__ = "ties"
    __table_args__ = (UniqueConstraint("pack", "code"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    position: Mapped[int]
    code: Mapped[str]
    figures: Mapped[list[Any]] = mapped_column(JSON)


class RuleRow(Base):
    __tablename__ = "rules"
    __table_args__ = (UniqueConstraint("pack", "code"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    position: Mapped[int]
    code: Mapped[str]
    name: Mapped[str]
    statement: Mapped[str | None]
    column: Mapped[str | None]
    line: Mapped[str | None]
    kind: Mapped[str | None]
    statements: Mapped[list[Any]] = mapped_column(JSON, default=list)
    lines: Mapped[list[Any]] = mapped_column(JSON, default=list)
    places: Mapped[list[Any]] = mapped_column(JSON, default=list)
    editions: Mapped[list[Any]] = mapped_column(JSON, default=list)
    off: Mapped[bool] = mapped_column(Boolean, default=False)
    clauses: Mapped[dict[str, Any]]


class HoldRow(Base):
    __tablename__ = "holds"
    __table_args__ = (UniqueConstraint("pack", "statement", "line", "column"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    statement: Mapped[str]
    line: Mapped[str]
    column: Mapped[str]
    printed: Mapped[Decimal | None]
    reason: Mapped[str]
    author: Mapped[str] = mapped_column(default="")
    made: Mapped[str] = mapped_column(default="")


class NudgeRow(Base):
    """A nudge. Units are text because they may be longer than SQLite's integers."""

    __tablename__ = "nudges"
    __table_args__ = (UniqueConstraint("pack", "statement", "line", "column"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    statement: Mapped[str]
    line: Mapped[str]
    column: Mapped[str]
    units: Mapped[str]
    exponent: Mapped[int]
    natural: Mapped[str]
    reason: Mapped[str]
    plan: Mapped[str]
    made: Mapped[str]
    author: Mapped[str] = mapped_column(default="")


class Placed:
    """Something of a pack, known by its `code`, in its place among its kind, as pack files spell it."""

    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    position: Mapped[int]
    code: Mapped[str]
    said: Mapped[dict[str, Any]]

    @declared_attr.directive
    def __table_args__(cls) -> tuple[UniqueConstraint]:
        return (UniqueConstraint("pack", "code"),)


class EditionRow(Placed, Base):
    """An edition: what it is, and its plan, holds and nudges, as pack files spell them."""

    __tablename__ = "editions"


class DashboardRow(Placed, Base):
    """A dashboard with its items, as pack files spell them."""

    __tablename__ = "dashboards"


class PointRow(Placed, Base):
    """A reviewer's point with its answers, as pack files spell them."""

    __tablename__ = "points"


class SignatureRow(Placed, Base):
    """A signature with what was printed when it was given, as pack files spell it."""

    __tablename__ = "signatures"


class DocumentAnswerRow(Placed, Base):
    """What was said of a number in a document, as pack files spell it."""

    __tablename__ = "document_answers"


class StandingRow(Base):
    """How a pack stood in an edition when it was looked at last, at which revision, by which version."""

    __tablename__ = "standings"
    __table_args__ = (UniqueConstraint("pack", "edition"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    edition: Mapped[str]
    revision: Mapped[int]
    version: Mapped[str]
    said: Mapped[dict[str, Any]]


class DocumentRow(Base):
    """A document made elsewhere, as it was taken in last, and the version `before`; `at` is when, `author` by
    whom."""

    __tablename__ = "documents"
    __table_args__ = (UniqueConstraint("pack", "name"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    name: Mapped[str]
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    before: Mapped[bytes | None] = mapped_column(LargeBinary, deferred=True)
    digest: Mapped[str]
    at: Mapped[str]
    author: Mapped[str] = mapped_column(default="")


class ChangeRow(Base):
    """One change: what it replaced and what it put there, so that it can be undone and redone.

    `number` counts up within a pack and is never reused. `steps` say when, and by whom, it was undone and put
    back. An undone change that a newer one
    made unreachable is `abandoned` and stays on record.
    """

    __tablename__ = "changes"
    __table_args__ = (UniqueConstraint("pack", "number"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    number: Mapped[int]
    at: Mapped[str]
    kind: Mapped[str]
    summary: Mapped[str]
    author: Mapped[str] = mapped_column(default="")
    before: Mapped[dict[str, Any]]
    after: Mapped[dict[str, Any]]
    undone: Mapped[bool] = mapped_column(Boolean, default=False)
    abandoned: Mapped[bool] = mapped_column(Boolean, default=False)
    steps: Mapped[list[dict[str, str]]] = mapped_column(JSON, default=list)


class IssueRow(Base):
    """An issue: what is said of it, and its container. Neither is ever changed; `withdrawn` says when and why
    it was taken back, `withdrawn_by` by whom, and `replaced` by which number."""

    __tablename__ = "issues"
    __table_args__ = (UniqueConstraint("pack", "edition", "number"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str] = owned_by("packs")
    edition: Mapped[str]
    number: Mapped[int]
    told: Mapped[dict[str, Any]] = mapped_column(JSON)
    container: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    digest: Mapped[str] = mapped_column(default="")
    withdrawn: Mapped[str | None]
    withdrawn_by: Mapped[str] = mapped_column(default="")
    replaced: Mapped[int | None]


class DeletedIssueRow(Base):
    """What stays of an issue that went out when its pack is deleted: what it was, its digest, who made it,
    took it back and deleted it, and when."""

    __tablename__ = "deleted_issues"
    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[str]
    entity: Mapped[str]
    period: Mapped[str]
    edition: Mapped[str]
    number: Mapped[int]
    state: Mapped[str]
    made: Mapped[str]
    prepared_by: Mapped[str]
    reviewed_by: Mapped[str]
    recipients: Mapped[str]
    digest: Mapped[str]
    withdrawn: Mapped[str | None]
    withdrawn_by: Mapped[str]
    deleted: Mapped[str]
    deleted_by: Mapped[str]


class TokenRow(Base):
    """A token, by the SHA-256 digest of its text: whose it is, what it allows, and from when until when."""

    __tablename__ = "tokens"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    role: Mapped[str]
    digest: Mapped[str] = mapped_column(unique=True)
    made: Mapped[str]
    expires: Mapped[str | None]
    revoked: Mapped[str | None] = mapped_column(default=None)
