"""Figures: sources taken in, shown as they were read, and kept only when accepted."""

from __future__ import annotations

import threading
import uuid
from collections import OrderedDict
from collections.abc import Collection, Iterator
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.clauses import Currency, InForce
from humble_sum.core.faults import Fault, Refused
from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.draft import Draft, draft, statement_of
from humble_sum.core.intake.found_sums import Parts
from humble_sum.core.intake.packing import Kept, look_said, name_of, pack_of
from humble_sum.core.intake.table import Table
from humble_sum.core.printing import exact_text
from humble_sum.core.reading import ARABIC, COMMA, POINT, Convention
from humble_sum.core.relations import Cell, exact_amounts
from humble_sum.core.statements import Label, Pack, check
from humble_sum.exchange.sources.opening import open_source
from humble_sum.exchange.sources.pasted import read_pasted
from humble_sum.records.packs import add_pack
from humble_sum.server.packs import desk_of
from humble_sum.server.views import PackView

router = APIRouter(prefix="/intakes", tags=["figures"])

MOST_INTAKES = 8
MOST_LINES = 400  # lines shown of a draft; all are kept
MOST_DOUBTS = 200
ConventionId = Literal["point", "comma", "arabic"]
CONVENTIONS: dict[ConventionId, Convention] = {"point": POINT, "comma": COMMA, "arabic": ARABIC}
SAID: dict[ConventionId, str] = {
    "point": "decimal point, as in 1,234.5",
    "comma": "decimal comma, as in 1.234,5",
    "arabic": "Arabic marks, as in 1٬234٫5",
}
SOURCE_BODY = {
    "requestBody": {
        "required": True,
        "description": "The file as it is: a workbook (XLSX), CSV or TSV, or JSON records.",
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


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
    derived: list[str] = Field(description="Columns found to be the difference of two others.")
    offers: list[OfferView] = Field(description="Sums that may be chance, and were not taken.")
    look: str = Field(description="What the workbook's number codes say about printing.")
    unheld: list[str] = Field(description="What they say that no clause can hold.")
    doubts: list[DoubtView]
    doubt_count: int
    currency: str | None


class ConventionView(BaseModel):
    id: ConventionId
    label: str


class IntakeView(BaseModel):
    """Sources taken in, not yet kept."""

    id: str
    drafts: list[DraftView]
    conventions: list[ConventionView]


class Pasted(BaseModel):
    """A table from the clipboard: HTML, or text with tabs."""

    text: Annotated[str, Field(min_length=1, max_length=8_000_000)]
    into: str | None = None


class ConventionChoice(BaseModel):
    """Read a column by another convention; null goes back to what its cells show."""

    table: int
    column: int
    convention: ConventionId | None


class SumChoice(BaseModel):
    """Say of a line that it is a total, or that it is not; null leaves it to the evidence."""

    table: int
    line: int
    take: bool | None


class NamedTable(BaseModel):
    """A table to keep as a statement, what to call it, and whether to print it as its codes say."""

    table: int
    name: Label
    look: bool = True


class Acceptance(BaseModel):
    """What to keep, and whose it is."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "entity": "Lanternfish Ferries",
                    "period": "Year to 31 March 2026",
                    "currency": "INR",
                    "statements": [{"table": 0, "name": "Income"}],
                }
            ]
        }
    )
    entity: Label
    period: Label
    currency: Currency = None
    statements: Annotated[list[NamedTable], Field(min_length=1)]


@dataclass
class Intake:
    """Tables taken in, and the conventions chosen by hand for some of their columns."""

    tables: list[Table]
    chosen: dict[tuple[int, int], ConventionId] = field(default_factory=dict)
    decided: dict[tuple[int, int], bool] = field(default_factory=dict)

    def draft(self, number: int) -> Draft:
        chosen = {column: CONVENTIONS[id] for (table, column), id in self.chosen.items() if table == number}
        decided = {line: take for (table, line), take in self.decided.items() if table == number}
        return draft(self.tables[number], chosen, decided)


class Intakes:
    """The intakes at hand. They live in memory, and the oldest makes way."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, Intake] = OrderedDict()
        self._lock = threading.Lock()

    def add(self, tables: list[Table], into: str | None) -> str:
        if into is not None:
            self.get(into).tables.extend(tables)
            return into
        id = uuid.uuid4().hex[:12]
        with self._lock:
            self._kept[id] = Intake(tables)
            while len(self._kept) > MOST_INTAKES:
                self._kept.popitem(last=False)
        return id

    def get(self, id: str) -> Intake:
        intake = self._kept.get(id)
        if intake is None:
            what = "These figures are not at hand any more."
            raise Refused("no-such-intake", Fault("intake", what, "Take the files in again."))
        return intake

    def drop(self, id: str) -> None:
        with self._lock:
            self._kept.pop(id, None)


def intakes_of(request: Request) -> Intakes:
    intakes = request.app.state.intakes
    assert isinstance(intakes, Intakes)
    return intakes


@router.post("", status_code=201, openapi_extra=SOURCE_BODY)
async def take_in(request: Request, name: str, into: str | None = None) -> IntakeView:
    """Take in a file and say how it was read. Nothing is kept until it is accepted."""
    id = intakes_of(request).add(open_source(name, await request.body()), into)
    return _view(intakes_of(request), id)


@router.post("/pasted", status_code=201)
def take_pasted(request: Request, body: Pasted) -> IntakeView:
    """Take in a pasted table."""
    id = intakes_of(request).add([read_pasted(body.text)], body.into)
    return _view(intakes_of(request), id)


@router.get("/{intake}")
def see(request: Request, intake: str) -> IntakeView:
    """What was taken in, as it is now read."""
    return _view(intakes_of(request), intake)


@router.put("/{intake}/convention")
def choose(request: Request, intake: str, body: ConventionChoice) -> IntakeView:
    """Read one column again under a convention of one's own choice."""
    kept = intakes_of(request).get(intake)
    _check_place(kept, body.table, body.column)
    if body.convention is None:
        kept.chosen.pop((body.table, body.column), None)
    else:
        kept.chosen[body.table, body.column] = body.convention
    return _view(intakes_of(request), intake)


@router.put("/{intake}/sum")
def decide_sum(request: Request, intake: str, body: SumChoice) -> IntakeView:
    """Take a sum that was offered, or refuse one that was found."""
    kept = intakes_of(request).get(intake)
    _check_place(kept, body.table, 0)
    if body.take is None:
        kept.decided.pop((body.table, body.line), None)
    else:
        kept.decided[body.table, body.line] = body.take
    return _view(intakes_of(request), intake)


@router.post("/{intake}/accept", status_code=201)
def accept(request: Request, intake: str, body: Acceptance) -> PackView:
    """Keep the chosen tables as the statements of a new pack."""
    kept = intakes_of(request).get(intake)
    for named in body.statements:
        _check_place(kept, named.table, 0)
    drafts = [Kept(kept.draft(named.table), named.name, named.look) for named in body.statements]
    pack = pack_of(drafts, body.entity, body.period, body.currency)
    desk = desk_of(request)
    with desk.database.writing() as session:
        view = desk.view(session, add_pack(session, pack))
    intakes_of(request).drop(intake)
    return view


def _check_place(kept: Intake, table: int, column: int) -> None:
    if not 0 <= table < len(kept.tables):
        raise Refused("no-such-table", Fault("table", f"There is no table {table}."))
    if not 0 <= column < max(kept.tables[table].width, 1):
        raise Refused("no-such-table", Fault("column", f"There is no column {column}."))


def _view(intakes: Intakes, id: str) -> IntakeView:
    kept = intakes.get(id)
    drafts = []
    for number in range(len(kept.tables)):
        chosen = {column for table, column in kept.chosen if table == number}
        refused = {line for (table, line), take in kept.decided.items() if table == number and not take}
        drafts.append(draft_view(kept.draft(number), chosen, refused))
    conventions = [ConventionView(id=id, label=label) for id, label in SAID.items()]
    return IntakeView(id=id, drafts=drafts, conventions=conventions)


def draft_view(made: Draft, chosen: Collection[int] = (), refused: Collection[int] = ()) -> DraftView:
    """A draft as the Figures screen shows it."""
    labels = {column.id: column.label for column in made.columns}
    return DraftView(
        source=made.table.source,
        sheet=made.table.name,
        name=name_of(made),
        notes=[f"{note.what} {note.remedy}".strip() for note in made.table.notes],
        columns=[_column(column, column.index in chosen) for column in made.layout.columns],
        lines=list(_lines(made, refused)),
        line_count=len(made.lines),
        derived=[
            f"{column.label} = {labels[column.difference[0]]} − {labels[column.difference[1]]}"
            for column in made.columns
            if column.difference
        ],
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
    plain = InForce(locale="en-IN" if made.currency == "INR" else "en-US")
    worked_out = _worked_out(made)
    for number, line in enumerate(made.lines[:MOST_LINES]):
        amounts = zip(made.columns, line.amounts, strict=True)
        exact = [worked_out.get((line.id, column.id), amount) for column, amount in amounts]
        yield DraftLineView(
            line=number,
            refused=number in refused,
            label=line.label,
            heading=line.heading,
            amounts=[] if line.heading else [exact_text(amount, plain) for amount in exact],
            sum=_adding(made, line.parts),
            evidence=line.evidence,
        )


def _worked_out(made: Draft) -> dict[Cell, Decimal | None]:
    """Every amount of the statement the draft would be, totals that the source leaves open too.

    Empty where the draft's sums do not hold together; accepting it says why.
    """
    statement = statement_of(made, "draft", "Draft")
    try:
        check(Pack(entity="Draft", period="Draft", statements=(statement,)))
    except Refused:
        return {}
    return exact_amounts(statement)


def _adding(made: Draft, parts: Parts) -> str:
    """Signed parts in words: "Fares + Freight − Fuel"."""
    words: list[str] = []
    for part, sign in parts:
        words.append("−" if sign < 0 else "+" if words else "")
        words.append(made.lines[part].label)
    return " ".join(word for word in words if word)
