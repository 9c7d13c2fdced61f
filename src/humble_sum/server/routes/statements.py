"""Statements: the proof, a figure's margin, the nudges on record, and files to take away."""

from __future__ import annotations

from functools import partial
from typing import Annotated, Any

from fastapi import Query, Request, Response

from humble_sum.core.changes.relation_commands import TieFigure
from humble_sum.core.changes.ties import tieable
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import figure_of
from humble_sum.exchange.formats import OF_STATEMENTS
from humble_sum.records.pack_rows import pack_row
from humble_sum.server.downloads import attached, file_name
from humble_sum.server.figure_schemas import FigureView, TiedView
from humble_sum.server.presenters.statement_page import (
    figure_view,
    footing_view,
    proof_view,
    rows_view,
    tied_view,
)
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import Trial, answered, desk_of
from humble_sum.server.schemas import FootingView, ProofView, RowsView

router = addresses("statements", "/packs/{pack}")

MOST_ROWS = 400
MOST_TIEABLE = 30
FILE: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "The file, named for the entity and statement.",
        "content": {output.media_type.split(";")[0]: {} for output in OF_STATEMENTS.values()},
    }
}


Row = Annotated[int, Query(ge=0, le=10_000_000, description="A row of the page, from 0.")]


@router.get("/statements/{statement}/proof", response_model=ProofView)
def proof_of(
    request: Request,
    pack: str,
    statement: str,
    first: Row | None = None,
    last: Row | None = None,
    trial: Trial = None,
) -> Response:
    """The statement as its readers will see it, with every relation checked. A large one is sent
    with the figures of its rows from `first` to before `last`."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row, pack_proof, proof = desk.open(session, pack, statement, trial)
        wanted = None if first is None or last is None else (first, last)
        return answered(proof_view(pack_proof, proof, row.revision, wanted))


@router.get("/statements/{statement}/rows", response_model=RowsView)
def rows_of(
    request: Request, pack: str, statement: str, first: Row, last: Row, trial: Trial = None
) -> Response:
    """Rows of the page from `first` to before `last`, with their figures."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row, _, proof = desk.open(session, pack, statement, trial)
        return answered(rows_view(proof, row.revision, first, min(last, first + MOST_ROWS)))


@router.get("/statements/{statement}/figures/{line}/{column}")
def figure(
    request: Request, pack: str, statement: str, line: str, column: str, trial: Trial = None
) -> FigureView:
    """One figure: its trace, its rule as a sentence, specimens, and ways to close its gap."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row, pack_proof, proof = desk.open(session, pack, statement, trial)
        return figure_view(pack_proof, proof, figure_of(proof, line, column), row.revision)


@router.get("/statements/{statement}/figures/{line}/{column}/tieable")
def tieable_to(
    request: Request,
    pack: str,
    statement: str,
    line: str,
    column: str,
    typed: Annotated[str, Query(max_length=200, description="Words their names must have.")] = "",
) -> list[TiedView]:
    """Figures this one could be tied to: those of the same exact amount, then others by name."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        _, pack_proof, proof = desk.open(session, pack, statement)
        figure = figure_of(proof, line, column)
        found = tieable(pack_proof, (statement, line, column), typed)[:MOST_TIEABLE]
        offered = partial(TieFigure, kind="tie", statement=statement, line=line, column=column)
        return [tied_view(pack_proof, each.ref, figure, offered(to=each.ref)) for each in found]


@router.get("/figures/{line}/{column}")
def find_figure(
    request: Request,
    pack: str,
    line: str,
    column: str,
    statement: Annotated[str | None, Query(description="Where several have the line.")] = None,
) -> FigureView:
    """One figure, by line and column alone where one statement has them: how it came to print, step
    by step, and which rule decided each of its clauses."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof = desk.proved(session, row)
        having = [
            id
            for id, proof in pack_proof.proofs.items()
            if (line, column) in proof.figures and statement in (None, id)
        ]
        if not having:
            what = f'There is no figure at line "{line}", column "{column}".'
            raise InputError("no-such-figure", Fault("figure", what))
        if len(having) > 1:
            what = f"Several statements have this figure: {', '.join(having)}."
            raise InputError("several-figures", Fault("figure", what, "Name one with ?statement=."))
        proof = pack_proof.proofs[having[0]]
        return figure_view(pack_proof, proof, proof.figures[line, column], row.revision)


@router.get("/statements/{statement}/nudges")
def nudges(request: Request, pack: str, statement: str, trial: Trial = None) -> FootingView:
    """Every figure moved: exact, rounded, printed, and why."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row, _, proof = desk.open(session, pack, statement, trial)
        return footing_view(proof, row.revision)


@router.get("/statements/{statement}/files/{format}", response_class=Response, responses=FILE)
def take_away(request: Request, pack: str, statement: str, format: str) -> Response:
    """The statement as a file: xlsx, pdf, html, csv as printed, exact, both or tidy, records, md, txt, or the
    pack as json."""
    output = OF_STATEMENTS.get(format)
    if output is None:
        raise InputError(
            "no-such-format",
            Fault("format", f'There is no format "{format}".', f"Use one of {', '.join(OF_STATEMENTS)}."),
        )
    desk = desk_of(request)
    with desk.database.reading() as session:
        _, pack_proof, proof = desk.open(session, pack, statement)
    with desk.lanes.files.taken():
        data = output.write_statement(pack_proof.pack, proof)
    _, _, kind = format.partition("-")
    name = file_name(pack_proof.pack.entity, f"{proof.statement.name} {kind}", output.extension)
    return Response(data, media_type=output.media_type, headers=attached(name))
