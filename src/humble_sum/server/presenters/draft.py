"""Drafts as the Figures screen shows them."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from decimal import Decimal
from typing import Literal

from pydantic import BaseModel, Field

from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.draft import Draft, stated_units, statement_of
from humble_sum.core.intake.found_sums import Parts
from humble_sum.core.intake.found_ties import found_ties
from humble_sum.core.intake.kinds import KINDS
from humble_sum.core.intake.packing import Kept, column_said, look_said, name_of, statements_of
from humble_sum.core.intake.units import SCALE_NAMES
from humble_sum.core.printing.clauses import ResolvedClauses
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.proof.findings import describe_tie
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.relations import Cell, exact_amounts
from humble_sum.core.statements.validation import sound
from humble_sum.server.intake_store import CONVENTIONS, ConventionId

MOST_LINES = 400  # lines shown of a draft; all are kept
MOST_DOUBTS = 200


class SourceColumnView(BaseModel):
    """A column as it was read. `agree` of `numbers` cells are numbers under the convention."""

    index: int
    heading: str
    role: Literal["label", "code", "figures", "other"]
    convention: ConventionId | None
    chosen: bool = Field(description="The convention was chosen and not found.")
    reasons: list[str]
    agree: int
    numbers: int
    sample: str


class DraftLineView(BaseModel):
    """A line as it was read. `sum` says what it adds, where it is a total; `refused` that it was
    said not to be one."""

    line: int
    refused: bool
    label: str
    heading: bool
    kind: str = Field(description="What it is, where it stands apart from every total.")
    indent: int
    hidden: bool = Field(description="The source hides its row.")
    amounts: list[str]
    sum: str
    evidence: str


class DoubtView(BaseModel):
    """A cell that needs a look."""

    place: str
    text: str
    why: str


class OfferView(BaseModel):
    """A sum that was found and not taken."""

    line: int
    says: str


class DraftView(BaseModel):
    """The statement a table could be."""

    source: str
    sheet: str
    name: str
    notes: list[str]
    columns: list[SourceColumnView]
    lines: list[DraftLineView]
    line_count: int
    derived: list[str] = Field(description="Columns found to be made of others.")
    offers: list[OfferView] = Field(description="Sums that may be chance, and were not taken.")
    look: str = Field(description="What the workbook's number codes say about printing.")
    unheld: list[str] = Field(description="What they say that no clause can hold.")
    doubts: list[DoubtView]
    doubt_count: int
    currency: str | None
    unit: str = Field(description="The unit that the amounts are stated in: ones, or a scale.")
    unit_said: str = Field(description="The text of the source that says so; empty where none does.")
    unit_chosen: bool = Field(description="The unit was chosen and not found.")


class TieView(BaseModel):
    """Figures of two tables that are the same, and what speaks for it."""

    id: str
    says: str
    evidence: str


class ConventionView(BaseModel):
    id: ConventionId
    label: str


class IntakeView(BaseModel):
    """Sources taken in, not yet kept."""

    id: str
    drafts: list[DraftView]
    conventions: list[ConventionView]
    ties: list[TieView] = []


def tie_views(drafts: Sequence[Draft]) -> list[TieView]:
    """The ties found between drafts, under the names they would be kept by."""
    kept = [Kept(draft, name_of(draft)) for draft in drafts]
    statements = statements_of(kept)
    pack = Pack(entity="Draft", period="Draft", statements=tuple(statements))
    return [
        TieView(id=found.tie.id, says=describe_tie(pack, found.tie), evidence=found.evidence)
        for found in found_ties(list(zip(drafts, statements, strict=True)))
    ]


def draft_view(
    made: Draft, chosen: Collection[int] = (), refused: Collection[int] = (), unit_chosen: bool = False
) -> DraftView:
    """A draft as the Figures screen shows it."""
    units = stated_units(made)
    scales = {SCALE_NAMES.get(unit.power or 0, "ones") for unit in units} or {"ones"}
    return DraftView(
        unit=scales.pop() if len(scales) == 1 else "several",
        unit_said="; ".join(dict.fromkeys(unit.said for unit in units if unit.said)),
        unit_chosen=unit_chosen,
        source=made.table.source,
        sheet=made.table.name,
        name=name_of(made),
        notes=[f"{note.what} {note.remedy}".strip() for note in made.table.notes],
        columns=[_column(column, column.index in chosen) for column in made.layout.columns],
        lines=list(_lines(made, refused)),
        line_count=len(made.lines),
        derived=[column_said(made, column) for column in made.columns if column.derived],
        offers=[
            OfferView(
                line=offer.total,
                says=f"{made.lines[offer.total].label} = {_adding(made, offer.parts)} ({offer.evidence})",
            )
            for offer in made.offers
        ],
        look=look_said(made) if made.look.clauses else "",
        unheld=list(made.look.unheld),
        doubts=[DoubtView(place=d.place, text=d.text, why=d.why) for d in made.doubts[:MOST_DOUBTS]],
        doubt_count=len(made.doubts),
        currency=made.currency,
    )


def _column(column: ColumnRead, chosen: bool) -> SourceColumnView:
    inferred = column.inferred
    ids = {convention: id for id, convention in CONVENTIONS.items()}
    return SourceColumnView(
        index=column.index,
        heading=column.heading,
        role=column.role,
        convention=ids[inferred.convention] if inferred else None,
        chosen=chosen,
        reasons=list(inferred.reasons) if inferred else [],
        agree=inferred.agree if inferred else 0,
        numbers=inferred.numbers if inferred else 0,
        sample=inferred.sample if inferred else "",
    )


def _lines(made: Draft, refused: Collection[int]) -> Iterator[DraftLineView]:
    plain = ResolvedClauses(locale="en-IN" if made.currency == "INR" else "en-US")
    worked_out = _worked_out(made)
    for number, line in enumerate(made.lines[:MOST_LINES]):
        amounts = zip(made.columns, line.amounts, strict=True)
        exact = [worked_out.get((line.id, column.id), amount) for column, amount in amounts]
        yield DraftLineView(
            line=number,
            refused=number in refused,
            label=line.label,
            heading=line.heading,
            kind=KINDS[line.kind] if line.kind else "",
            indent=line.indent or 0,
            hidden=line.hidden,
            amounts=[] if line.heading else [exact_text(amount, plain) for amount in exact],
            sum=_adding(made, line.parts),
            evidence=line.evidence,
        )


def _worked_out(made: Draft) -> dict[Cell, Decimal | None]:
    """Every amount of the statement the draft would be, totals that the source leaves open too.

    Empty where the draft's sums do not hold together; accepting it says why.
    """
    statement = statement_of(made, "draft", "Draft")
    return exact_amounts(statement) if sound(statement) else {}


def _adding(made: Draft, parts: Parts) -> str:
    """Signed parts in words: "Fares + Freight − Fuel"."""
    words: list[str] = []
    for part, sign in parts:
        words.append("−" if sign < 0 else "+" if words else "")
        words.append(made.lines[part].label)
    return " ".join(word for word in words if word)
