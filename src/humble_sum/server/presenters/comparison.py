"""A pack rolled forward, compared with the last period, as the Figures screen shows it."""

from __future__ import annotations

from decimal import Decimal
from typing import Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.roll_forward import Comparison, Rolled
from humble_sum.core.printing.clauses import ResolvedClauses
from humble_sum.core.printing.figure import exact_text


class ComparedView(BaseModel):
    """A line then and now."""

    label: str
    fate: Literal["kept", "new", "gone"]
    was: str
    now: str
    moved: str


class RestatedView(BaseModel):
    """A published figure that the new figures state differently."""

    label: str
    published: str
    restated: str


class StatementCompared(BaseModel):
    """What new figures bring to one statement."""

    table: int
    statement: str
    name: str
    then: str
    now: str
    new: int
    gone: int
    lines: list[ComparedView]
    restated: list[RestatedView]


class ComparisonView(BaseModel):
    """What new figures bring to a pack's layout."""

    statements: list[StatementCompared]
    left_out: list[str] = Field(description="Statements with no new figures, which the new pack leaves out.")


def comparison_view(rolled: Rolled, into: dict[int, str]) -> ComparisonView:
    """The comparison; `into` says which statement each table went to."""
    currency = rolled.pack.currency
    plain = ResolvedClauses(locale="en-IN" if currency == "INR" else "en-US")
    tables = {id: table for table, id in into.items()}
    return ComparisonView(
        statements=[_statement(rolled, each, tables[each.statement], plain) for each in rolled.comparisons],
        left_out=list(rolled.left_out),
    )


def _statement(rolled: Rolled, compared: Comparison, table: int, plain: ResolvedClauses) -> StatementCompared:
    def said(amount: Decimal | None) -> str:
        return exact_text(amount, plain)

    owner = rolled.pack.statement(compared.statement)
    return StatementCompared(
        table=table,
        statement=compared.statement,
        name=owner.name if owner else compared.statement,
        then=compared.then,
        now=compared.now,
        new=sum(line.fate == "new" for line in compared.lines),
        gone=sum(line.fate == "gone" for line in compared.lines),
        lines=[
            ComparedView(
                label=line.label,
                fate=line.fate,
                was=said(line.was),
                now=said(line.now),
                moved=said(line.moved),
            )
            for line in compared.lines
        ],
        restated=[
            RestatedView(label=each.label, published=said(each.published), restated=said(each.restated))
            for each in compared.restated
        ],
    )
