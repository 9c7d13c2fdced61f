"""Drafts as the Figures screen shows them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from decimal import Decimal
from typing import Any, Literal

from pydantic import BaseModel, Field

from humble_sum.core.intake.decisions import Decisions
from humble_sum.core.intake.draft import Draft, stated_units
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.found_ties import found_ties
from humble_sum.core.intake.kinds import KINDS
from humble_sum.core.intake.packing import Kept, look_said, name_of, statements_of
from humble_sum.core.intake.questions import Question, questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.intake.reasons import Reasoned, column_reasons, line_reasons
from humble_sum.core.intake.scale_words import SCALE_NAMES
from humble_sum.core.intake.signals import HINTED, STATED
from humble_sum.core.intake.source_breaks import source_breaks
from humble_sum.core.intake.table import column_letters
from humble_sum.core.intake.table_sentence import Open, Told, adding, column_sentence, table_sentence
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.findings import describe_tie
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.relations import LineColumn, exact_amounts
from humble_sum.core.statements.validation import sound

MOST_ROWS = 400  # rows shown of a table; all are kept
MOST_SAID = 60
LEFT_OUT = "left out"


class PickView(BaseModel):
    """One way a word can be, or one answer, and the merge patch of decisions that makes it so."""

    label: str
    decide: dict[str, Any]


class OpenView(BaseModel):
    """A word that opens."""

    name: str
    label: str
    picks: list[PickView]
    chosen: int = Field(description="Which of the picks it says; -1 where it says none of them.")
    typed: list[str] = Field(description="Where in the patch a typed text goes; empty where none is typed.")
    example: str


ToldView = list[str | OpenView]


class ReasonView(BaseModel):
    """One piece of evidence for or against what was read."""

    speaks: Literal["for", "against"]
    strength: str = Field(description="How strongly, in words: hardly, somewhat, strongly.")
    because: str
    cells: list[str]


class ReasonedView(BaseModel):
    """What something was read as, and why."""

    read_as: str
    reasons: list[ReasonView]


class SourceColumnView(BaseModel):
    """A column as it was read."""

    index: int
    letters: str
    heading: str
    role: Literal["label", "code", "figures", "other"]
    sentence: ToldView
    why: list[ReasonedView]


class ReadCellView(BaseModel):
    """A figure as it stands in the source, and what was read."""

    place: str
    stands: str
    read: str
    decided: bool


class SourceRowView(BaseModel):
    """A row as it was read. `sum` says what it adds, where it is a total."""

    row: int
    label: str
    role: Literal["line", "heading", "left_out"]
    total: bool
    kind: str = Field(description="What it is, where it stands apart from every total.")
    indent: int
    hidden: bool = Field(description="The source hides its row.")
    cells: list[ReadCellView]
    sum: str
    evidence: str
    why: list[ReasonedView] = Field(description="Why it was read so; empty where only what is usual says so.")


class QuestionView(BaseModel):
    """What there is to ask, the evidence, and the answers; the first is what was read for the time being."""

    asks: str
    says: str
    places: list[str]
    answers: list[PickView]


class DraftView(BaseModel):
    """The statement a table could be."""

    source: str
    sheet: str
    name: str
    left_out: bool
    sentence: ToldView
    columns: list[SourceColumnView]
    rows: list[SourceRowView]
    row_count: int
    questions: list[QuestionView]
    decided: list[QuestionView] = Field(description="What was decided of single cells, and the way back.")
    read: list[str] = Field(description="What was read without a question.")
    breaks: list[str] = Field(
        description="Totals that their source states as something else than their parts."
    )
    look: str = Field(description="What the workbook's number codes say about printing.")
    look_kept: bool
    unheld: list[str] = Field(description="What they say that no clause can hold.")
    currency: str | None
    unit: str = Field(description="The unit that the amounts are stated in: ones, or a scale.")


class TieView(BaseModel):
    """Figures of two tables that are the same, and what speaks for it."""

    id: str
    says: str
    evidence: str


class SourceView(BaseModel):
    """A source that was taken in."""

    name: str
    query: str | None = Field(description="What was asked of it; null where nothing can be.")


class IntakeView(BaseModel):
    """Sources taken in, not yet kept."""

    id: str
    drafts: list[DraftView]
    ties: list[TieView] = []
    decisions: Decisions
    sources: list[SourceView] = []
    changed: list[str] | None = Field(
        default=None, description="What is read differently, where a source was just read again."
    )


def tie_views(drafts: Sequence[Draft]) -> list[TieView]:
    """The ties found between drafts, under the names they would be kept by."""
    drafts = [draft for draft in drafts if draft.has_figures and not draft.decided.left_out]
    kept = [Kept(draft, name_of(draft)) for draft in drafts]
    if not kept:
        return []
    statements = statements_of(kept)
    pack = Pack(entity="Draft", period="Draft", statements=tuple(statements))
    found = found_ties([(each.draft, of) for each, of in zip(kept, statements, strict=True)])
    return [
        TieView(id=each.tie.id, says=describe_tie(pack, each.tie), evidence=each.evidence) for each in found
    ]


def draft_view(made: Draft, beside: Sequence[Draft] = ()) -> DraftView:
    """A draft as the Figures screen shows it; `beside` are the other tables taken in with it."""
    scales = {SCALE_NAMES.get(unit.power or 0, "ones") for unit in stated_units(made)} or {"ones"}
    return DraftView(
        source=made.table.source,
        sheet=made.table.name,
        name=made.decided.name or name_of(made),
        left_out=made.decided.left_out,
        sentence=told_view(table_sentence(made)),
        columns=[
            SourceColumnView(
                index=column.index,
                letters=column_letters(column.index),
                heading=column.heading,
                role=column.role,
                sentence=told_view(column_sentence(made, column)),
                why=[_why(each) for each in column_reasons(made, column)],
            )
            for column in made.layout.columns
        ],
        rows=list(_rows(made)),
        row_count=sum(any(cell.says for cell in row) for row in made.table.rows[made.layout.first_row :]),
        questions=[] if made.decided.left_out else [_question(each) for each in questions(made, beside)],
        decided=list(_decided(made)),
        read=list(settled(made))[:MOST_SAID],
        breaks=[str(each) for each in source_breaks(made)][:MOST_SAID],
        look=look_said(made),
        look_kept=made.decided.look,
        unheld=list(made.look.unheld),
        currency=made.currency,
        unit=scales.pop() if len(scales) == 1 else "several",
    )


def told_view(told: Told) -> ToldView:
    """A sentence with its words."""
    return [_open(part) if isinstance(part, Open) else part for part in told]


def _open(word: Open) -> OpenView:
    return OpenView(
        name=word.name,
        label=word.label,
        picks=[PickView(label=each.label, decide=dict(each.decide)) for each in word.picks],
        chosen=word.chosen,
        typed=list(word.typed),
        example=word.example,
    )


def _why(reasoned: Reasoned) -> ReasonedView:
    """Evidence as a person weighs it: bits are for programs."""
    return ReasonedView(
        read_as=reasoned.read_as,
        reasons=[
            ReasonView(
                speaks="for" if each.speaks == "for" else "against",
                strength=_strength(each.bits),
                because=each.because,
                cells=list(each.cells),
            )
            for each in reasoned.reasons
        ],
    )


def _strength(bits: float) -> str:
    """How strongly evidence speaks; nothing where it was not weighed."""
    if not bits:
        return ""
    return "hardly" if bits < HINTED else "somewhat" if bits < STATED else "strongly"


def _question(question: Question) -> QuestionView:
    return QuestionView(
        asks=question.asks,
        says=question.says,
        places=list(question.places),
        answers=[PickView(label=each.label, decide=dict(each.decide)) for each in question.answers],
    )


def _decided(made: Draft) -> Iterator[QuestionView]:
    for place, cell in made.decided.cells.items():
        yield QuestionView(
            asks=f"{place} “{cell.text}” is {cell.read}",
            says="You said so.",
            places=[place],
            answers=[PickView(label="Ask again", decide={"cells": {place: None}})],
        )


def _called(made: Draft, row: int, line: DraftLine | None) -> str:
    """What a row is called: as its line, by its label, or by its number in the source."""
    label = made.layout.label
    said = made.table.rows[row][label.index].text.strip() if label else ""
    return (line.label if line else said) or f"Row {made.table.sheet_row(row) + 1}"


def _rows(made: Draft) -> Iterator[SourceRowView]:
    """The rows from the first line on: lines, headings, and those that were left out."""
    plain = ResolvedClauses(locale="en-IN" if made.currency == "INR" else "en-US")
    worked_out = _worked_out(made)
    lines = {line.row: line for line in made.lines}
    figures = [column.index for column in made.layout.figures]
    shown = range(made.layout.first_row, min(len(made.table.rows), made.layout.first_row + MOST_ROWS))
    for row in shown:
        cells = made.table.rows[row]
        line = lines.get(row)
        if line is None and not any(cell.text.strip() for cell in cells):
            continue
        read = [""] * len(figures) if line is None or line.heading else _read(made, line, worked_out, plain)
        places = [made.table.sheet_place(row, index) for index in figures]
        yield SourceRowView(
            row=row,
            label=_called(made, row, line),
            role="left_out" if line is None else "heading" if line.heading else "line",
            total=bool(line and line.parts),
            kind=KINDS[line.kind] if line and line.kind else "",
            indent=(line.indent or 0) if line else 0,
            hidden=row in made.table.hidden,
            cells=[
                ReadCellView(
                    place=place,
                    stands=cells[index].formula or cells[index].text,
                    read=text,
                    decided=place in made.decided.cells,
                )
                for place, index, text in zip(places, figures, read, strict=True)
            ],
            sum=adding(made, line.parts) if line else "",
            evidence=line.evidence if line else "",
            why=[_why(each) for each in line_reasons(made, line)] if line else [],
        )


def _read(
    made: Draft, line: DraftLine, worked_out: dict[LineColumn, Decimal | None], plain: ResolvedClauses
) -> list[str]:
    amounts = zip(made.columns, line.amounts, strict=True)
    exact = [worked_out.get((line.id, column.id), amount) for column, amount in amounts]
    return [exact_text(amount, plain) for amount in exact]


def _worked_out(made: Draft) -> dict[LineColumn, Decimal | None]:
    """Every amount of the statement the draft would be, totals that the source leaves open too.

    Empty where the draft's sums do not hold together; accepting it says why.
    """
    if not made.has_figures:
        return {}
    statement = statement_of(made, "draft", "Draft")
    return exact_amounts(statement) if sound(statement) else {}
