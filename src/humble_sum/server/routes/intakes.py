"""Figures: sources taken in, shown as they were read, and kept only when accepted."""

from __future__ import annotations

from dataclasses import replace
from importlib.resources import files
from typing import Annotated, Any, NamedTuple

from fastapi import Body, Query, Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from humble_sum.core.changes.cost_signs import in_signs_of
from humble_sum.core.changes.roll_forward import Rolled, best_statement, roll_forward
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.decisions import Decisions
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.table_sentence import row_sentence
from humble_sum.core.printing.clause_checks import Currency
from humble_sum.core.rules.house_style import HouseStyle
from humble_sum.core.statements.names import Label, cleaned
from humble_sum.core.statements.pack import Statement
from humble_sum.exchange.sources.opening import asks, open_source
from humble_sum.exchange.sources.pasted import read_pasted
from humble_sum.exchange.sources.progress import Progress, unheard
from humble_sum.exchange.sources.sql_source import allowed_databases, read_database, shown_address
from humble_sum.records.pack_rows import pack_row
from humble_sum.server.disconnects import unless, while_there
from humble_sum.server.intake_store import Intake, Intakes
from humble_sum.server.ndjson import streamed
from humble_sum.server.origins import of_type
from humble_sum.server.presenters.comparison import ComparisonView, Gone, comparison_view
from humble_sum.server.presenters.draft_page import (
    IntakeView,
    SourceView,
    ToldView,
    draft_view,
    tie_views,
    told_view,
)
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.house_styles import begun_with, styles_of
from humble_sum.server.routes.packs import desk_of
from humble_sum.server.schemas import PackView

router = addresses("figures", "/intakes")

SOURCE_BODY = {
    "requestBody": {
        "required": True,
        "description": "The file as it is: a workbook (XLSX), OpenDocument, text, a web page, JSON "
        "records, Parquet, Arrow or SQLite.",
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}

Named = Annotated[
    str,
    Query(min_length=1, max_length=400, pattern=r"\S", description="What the file is called."),
    BeforeValidator(cleaned),
]
Asked = Annotated[str, Query(max_length=10_000, description="Of an SQLite file, the result of this SELECT.")]

Again = Annotated[
    bool,
    Query(description="In the place of what was taken of the source of this name, read as was decided."),
]

SAMPLES = files("humble_sum") / "demo" / "samples"
EXAMPLE = {"unit": "lakhs", "columns": {"C": {"role": "other"}}, "rows": {"Fares": {"kind": "memo"}}}
STREAM: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "Lines of JSON.",
        "content": {
            "application/x-ndjson": {
                "schema": {"type": "string"},
                "example": '{"done": 4096, "total": 9120, "says": "Income"}\n{"intake": {"id": "…"}}\n',
            }
        },
    }
}


class DatabaseName(BaseModel):
    """A database that may be read: what it is called here, and its address as it may be shown."""

    name: str
    address: str


class DatabaseQuery(BaseModel):
    """What is asked of a database: one SELECT, or the name of a table; `again` takes it in the place of what
    the same database gave before."""

    model_config = ConfigDict(
        extra="forbid", json_schema_extra={"examples": [{"query": "SELECT line, amount FROM close"}]}
    )
    query: Annotated[str, Field(min_length=1, max_length=20_000)]
    into: str | None = None
    again: bool = False


class Pasted(BaseModel):
    """A table from the clipboard: HTML, or text with tabs."""

    text: Annotated[str, Field(min_length=1, max_length=8_000_000)]
    into: str | None = None


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
    without_ties: list[str] = Field(default=[], description="Ties that were found and are not wanted.")
    house_style: HouseStyle | None = Field(default=None, description="The house style it begins with.")


class Forward(BaseModel):
    """Figures brought into the layout of a pack. `into` says which statement a table goes to, null
    for none; tables that are not named go where most of their lines are."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [{"pack": "3f9a1c5e7b20", "period": "Year to 31 March 2027", "into": {"0": "income"}}]
        }
    )
    pack: str
    period: Label
    into: dict[int, str | None] = {}
    restate: bool = Field(default=False, description="Take restated comparatives instead of published ones.")


def intakes_of(request: Request) -> Intakes:
    intakes = request.app.state.intakes
    assert isinstance(intakes, Intakes)
    return intakes


@router.post("", status_code=201, openapi_extra=SOURCE_BODY)
async def take_in(
    request: Request, name: Named, into: str | None = None, query: Asked = "", again: Again = False
) -> IntakeView:
    """Take in a file and say how it was read. Nothing is kept until it is accepted."""
    of_type(request, "application/octet-stream")
    source = Source(name, await request.body(), into, query, again)
    return await while_there(request, lambda gone: _take_in(request, source, unless(gone)))


@router.post("/streamed", response_class=StreamingResponse, openapi_extra=SOURCE_BODY, responses=STREAM)
async def take_in_streamed(
    request: Request, name: Named, into: str | None = None, query: Asked = "", again: Again = False
) -> StreamingResponse:
    """The same with its progress: a line of JSON for each step, the last of them the intake or the
    problem. Closing the connection stops the reading, and nothing is kept."""
    of_type(request, "application/octet-stream")
    source = Source(name, await request.body(), into, query, again)
    desk_of(request).lanes.intakes.refuse_if_full()
    return streamed(request, lambda progress: _take_in(request, source, progress))


@router.get("/databases")
def databases(request: Request) -> list[DatabaseName]:
    """The databases that whoever runs the server allows to be read."""
    known = allowed_databases(desk_of(request).database.file.parent)
    return [DatabaseName(name=name, address=shown_address(address)) for name, address in known.items()]


@router.post("/databases/{name}", status_code=201)
def take_database(request: Request, name: str, body: DatabaseQuery) -> IntakeView:
    """Take in the result of a query, or a table that is named in its place. It is asked in a transaction that
    cannot write, of a database that is allowed."""
    address = allowed_databases(desk_of(request).database.file.parent).get(name)
    if address is None:
        raise InputError("no-database", Fault("name", f'No database "{name}" is allowed here.'))
    with desk_of(request).lanes.intakes.taken():
        tables = [replace(table, source=name) for table in read_database(address, body.query)]
        source = Source(name, b"", body.into, body.query, body.again)
        return _taken(request, source, tables, unheard)


@router.get("/samples")
def samples() -> list[str]:
    """The names of the demo's own files, to try."""
    return sorted(file.name for file in SAMPLES.iterdir() if file.name.endswith(".csv"))


@router.post("/samples/{name}", status_code=201)
def take_sample(request: Request, name: str, into: str | None = None) -> IntakeView:
    """Take in one of the demo's own files."""
    if name not in samples():
        raise InputError("no-such-sample", Fault("name", f'There is no file "{name}".'))
    data = (SAMPLES / name).read_bytes()
    return _take_in(request, Source(name, data, into, changes=False), unheard)


class Source(NamedTuple):
    """A file as it came: into which intake, the query that is asked of it, whether it is taken again, and
    whether it can have changed later."""

    name: str
    data: bytes
    into: str | None
    query: str = ""
    again: bool = False
    changes: bool = True

    def note(self, intake: Intake) -> None:
        """Keep with the figures that they are this file's, and what was asked of it where that can be."""
        asked = not self.data or asks(self.data)  # of a database there is nothing but what was asked
        intake.files[self.name] = self.query if asked else None


def _take_in(request: Request, source: Source, progress: Progress) -> IntakeView:
    with desk_of(request).lanes.intakes.taken():
        tables = open_source(source.name, source.data, progress, source.query)
        return _taken(request, source, tables, progress)


def _taken(request: Request, source: Source, tables: list[Table], progress: Progress) -> IntakeView:
    """The tables of a source as part of an intake: new ones, or in the place of those it gave before."""
    intakes, name = intakes_of(request), source.name
    if source.again:
        id = source.into or ""
        said = intakes.get(id).take_again(name, tables, source.query)
        source.note(intakes.get(id))
        return _view(intakes, id, said)
    made = []
    for number, table in enumerate(tables):
        progress(number, len(tables), f"Finding what adds up in {table.name or name}")
        made.append(draft(table))
    progress(len(tables), len(tables), name)
    id = intakes.add(tables, source.into, made)
    if source.changes:
        source.note(intakes.get(id))
    return _view(intakes, id)


@router.post("/pasted", status_code=201)
def take_pasted(request: Request, body: Pasted) -> IntakeView:
    """Take in a pasted table."""
    with desk_of(request).lanes.intakes.taken():
        id = intakes_of(request).add([read_pasted(body.text)], body.into)
        return _view(intakes_of(request), id)


@router.get("/{intake}")
def see(request: Request, intake: str) -> IntakeView:
    """What was taken in, as it is now read."""
    return _view(intakes_of(request), intake)


@router.patch("/{intake}/tables/{table}")
def decide(
    request: Request, intake: str, table: int, body: Annotated[dict[str, Any], Body(examples=[EXAMPLE])]
) -> IntakeView:
    """Decide how a table is read: a merge patch (RFC 7396) of what was decided of it. What is given is
    decided, and null leaves it to the evidence again."""
    kept = intakes_of(request).get(intake)
    _check_table(kept, table)
    kept.decide(table, body)
    return _view(intakes_of(request), intake)


@router.get("/{intake}/tables/{table}/rows/{row}/words")
def words(request: Request, intake: str, table: int, row: int) -> ToldView:
    """A row as a sentence: what it is, what it is called, its kind, and whether it is a total."""
    kept = intakes_of(request).get(intake)
    _check_table(kept, table)
    if not 0 <= row < len(kept.tables[table].rows):
        raise InputError("no-such-table", Fault("row", f"There is no row {row}."))
    return told_view(row_sentence(kept.draft(table), row))


@router.get("/{intake}/decisions")
def decisions(request: Request, intake: str) -> Decisions:
    """All that was decided, as a file by which next month's figures are read the same way."""
    return intakes_of(request).get(intake).decisions()


@router.put("/{intake}/decisions")
def decide_as(request: Request, intake: str, body: Decisions) -> IntakeView:
    """Read every table as a file of decisions says."""
    intakes_of(request).get(intake).decide_as(body)
    return _view(intakes_of(request), intake)


@router.post("/{intake}/accept", status_code=201)
def accept(request: Request, intake: str, body: Acceptance) -> PackView:
    """Keep the chosen tables as the statements of a new pack."""
    kept = intakes_of(request).get(intake)
    for named in body.statements:
        _check_table(kept, named.table)
    drafts = [
        Kept(kept.draft(named.table), named.name, named.look and kept.of(named.table).look)
        for named in body.statements
    ]
    pack = pack_of(drafts, body.entity, body.period, body.currency, body.without_ties)
    if body.house_style is not None:
        pack = begun_with(pack, styles_of(request), body.house_style)
    view = desk_of(request).take_in(pack)
    intakes_of(request).drop(intake)
    return view


@router.post("/{intake}/compare")
def compare(request: Request, intake: str, body: Forward) -> ComparisonView:
    """What the figures would bring to the layout of a pack: lines new, gone and moved. Nothing is kept."""
    return comparison_view(*_rolled(request, intake, body))


@router.post("/{intake}/roll", status_code=201)
def roll(request: Request, intake: str, body: Forward) -> PackView:
    """Keep the figures as the next period of a pack, its last figures beside them as published."""
    rolled, _ = _rolled(request, intake, body)
    view = desk_of(request).take_in(rolled.pack)
    intakes_of(request).drop(intake)
    return view


def _rolled(request: Request, intake: str, body: Forward) -> tuple[Rolled, dict[int, Gone]]:
    """The pack rolled forward, and where each table went."""
    kept = intakes_of(request).get(intake)
    desk = desk_of(request)
    with desk.database.reading() as session:
        pack_proof = desk.proved(session, pack_row(session, body.pack))
    drafted = {
        n: statement_of(kept.draft(n), f"draft-{n}", "Draft")
        for n in range(len(kept.tables))
        if kept.draft(n).has_figures and not kept.of(n).left_out
    }
    into: dict[int, str] = {}
    for n, new in drafted.items():
        chosen = body.into.get(n, "") if n in body.into else best_statement(pack_proof.pack, new)
        if chosen and pack_proof.pack.statement(chosen) is None:
            raise InputError("no-such-statement", Fault("into", f'There is no statement "{chosen}".'))
        if chosen and chosen not in into.values():
            into[n] = chosen
    brought: dict[str, Statement] = {}
    gone = {}
    for n, id in into.items():
        old = pack_proof.pack.statement(id)
        # As the pack keeps its costs, unless somebody said otherwise: or each would move by twice its amount.
        undecided = old is not None and kept.of(n).costs is None
        brought[id] = in_signs_of(old, drafted[n]) if old is not None and undecided else drafted[n]
        gone[n] = Gone(id, kept.draft(n), brought[id], brought[id] is not drafted[n])
    return roll_forward(pack_proof, brought, body.period, body.restate), gone


def _check_table(kept: Intake, table: int) -> None:
    if not 0 <= table < len(kept.tables):
        raise InputError("no-such-table", Fault("table", f"There is no table {table}."))


def _view(intakes: Intakes, id: str, said: list[str] | None = None) -> IntakeView:
    kept = intakes.get(id)
    made = [kept.draft(number) for number in range(len(kept.tables))]
    views = [draft_view(each, [*made[:n], *made[n + 1 :]]) for n, each in enumerate(made)]
    return IntakeView(
        id=id,
        drafts=views,
        ties=tie_views(made),
        decisions=kept.decisions(),
        sources=[SourceView(name=name, query=query) for name, query in kept.files.items()],
        changed=said,
    )
