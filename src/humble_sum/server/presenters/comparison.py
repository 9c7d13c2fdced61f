"""A pack rolled forward, compared with the last period, as the Figures screen shows it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.renamed import renamed
from humble_sum.core.changes.roll_forward import Comparison, Rolled
from humble_sum.core.intake.draft import Draft
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.statements.pack import Statement


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


class RenamedView(BaseModel):
    """A new line that may be one of the pack under another name, and the decision that calls it so."""

    says: str
    evidence: str
    decide: dict[str, Any]


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
    renamed: list[RenamedView]


class ComparisonView(BaseModel):
    """What new figures bring to a pack's layout."""

    statements: list[StatementCompared]
    left_out: list[str] = Field(description="Statements with no new figures, which the new pack leaves out.")
    turned: list[int] = Field(
        description="Tables whose costs have the other sign than in the pack, and are kept as the pack does."
    )


@dataclass(frozen=True)
class Gone:
    """Where a table went: its statement in the pack, its draft, and the statement it is by itself."""

    statement: str
    draft: Draft
    brought: Statement
    turned: bool


def comparison_view(rolled: Rolled, gone: Mapping[int, Gone]) -> ComparisonView:
    """The comparison, by where each table went."""
    currency = rolled.pack.currency
    plain = ResolvedClauses(locale="en-IN" if currency == "INR" else "en-US")
    tables = {each.statement: table for table, each in gone.items()}
    return ComparisonView(
        statements=[
            _statement(rolled, each, tables[each.statement], plain, gone[tables[each.statement]])
            for each in rolled.comparisons
        ],
        left_out=list(rolled.left_out),
        turned=[table for table, each in gone.items() if each.turned],
    )


def _statement(
    rolled: Rolled, compared: Comparison, table: int, plain: ResolvedClauses, gone: Gone
) -> StatementCompared:
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
        renamed=[
            RenamedView(
                says=f"{each.new} may be {each.old}",
                evidence=each.evidence,
                decide={"rows": {line.key: {"label": each.old}}},
            )
            for each in renamed(compared.lines, gone.brought)
            for line in gone.draft.lines
            if line.label == each.new
        ],
    )
