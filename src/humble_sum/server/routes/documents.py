"""Documents over HTTP: taken in, proofread against the pack, and written back corrected."""

from __future__ import annotations

from datetime import UTC, datetime
from importlib.resources import files
from typing import Annotated, Any

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from humble_sum.core.documents.document import Document
from humble_sum.core.documents.proofreading import Proofread, Reader
from humble_sum.core.documents.recorded_numbers import RecordedNumber, recorded_numbers, unread
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.review.signatures import prints_alike
from humble_sum.core.statements.in_edition import base_of
from humble_sum.exchange.documents.corrections import corrections_of
from humble_sum.exchange.documents.follow import following
from humble_sum.exchange.documents.reading import corrected, read_document
from humble_sum.exchange.documents.record_csv import write_record
from humble_sum.exchange.imprint import digest_of
from humble_sum.records.demo import demo_pack
from humble_sum.records.document_rows import document_of, documents_of, keep_document, remove_document
from humble_sum.records.pack_rows import pack_row
from humble_sum.server.downloads import attached, bare_name
from humble_sum.server.origins import of_type
from humble_sum.server.presenters.document_page import (
    DocumentName,
    DocumentView,
    document_name,
    document_view,
)
from humble_sum.server.presenters.times import shown_time
from humble_sum.server.proof_cache import Desk
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import author_of, desk_of

router = addresses("documents", "/packs/{pack}")
SAMPLES = files("humble_sum") / "demo" / "documents"
BODY = {
    "requestBody": {
        "required": True,
        "description": "The document as it is.",
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}
FILE: dict[int | str, dict[str, Any]] = {
    200: {"description": "The corrected copy.", "content": {"application/octet-stream": {}}}
}
RECORD: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "The table.",
        "content": {"text/csv": {"schema": {"type": "string"}, "example": ",".join(RecordedNumber._fields)}},
    }
}


@router.get("/documents")
def see_documents(request: Request, pack: str) -> list[DocumentName]:
    """The documents of a pack, with how many of their numbers disagree or are in doubt."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        rows = [
            (row.id, row.name, row.at, row.author) for row in documents_of(session, pack_row(session, pack))
        ]
    found = []
    for id, name, at, author in rows:
        try:
            read, problem = _read(desk, pack, id)[0], ""
        except InputError as error:
            read, problem = None, str(error.faults[0]) if error.faults else "It cannot be read."
        found.append(document_name(id, name, shown_time(at), author, read, problem))
    return found


@router.post("/documents", status_code=201, openapi_extra=BODY)
async def take_document(
    request: Request,
    pack: str,
    name: Annotated[str, Query(min_length=1, max_length=300, description="The name of its file.")],
) -> DocumentView:
    """Take in a document, or the next version of one of the same name, and proofread it."""
    of_type(request, "application/octet-stream")
    data, name = await request.body(), bare_name(name)
    desk, author = desk_of(request), author_of(request)

    def keep() -> DocumentView:
        read_document(name, data)  # what cannot be read is not kept
        with desk.database.writing() as session:
            id = keep_document(session, pack_row(session, pack), name, data, author).id
        return _view(desk, pack, id)

    return await run_in_threadpool(keep)


@router.get("/documents/record", response_class=Response, responses=RECORD)
def take_record(request: Request, pack: str) -> Response:
    """Every judged number of the documents of a pack, as a table (CSV)."""
    data = documents_record(desk_of(request), pack)
    return Response(data or write_record(()), media_type="text/csv", headers=attached("documents.csv"))


@router.get("/documents/samples")
def document_samples(request: Request, pack: str) -> list[str]:
    """The names of the demo's own documents, to try; none for other packs."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        of_demo = (row.entity, row.period) == (demo_pack().entity, demo_pack().period)
    return sorted(file.name for file in SAMPLES.iterdir()) if of_demo else []


@router.post("/documents/samples/{name}", status_code=201)
def take_document_sample(request: Request, pack: str, name: str) -> DocumentView:
    """Take in one of the demo's own documents."""
    if name not in document_samples(request, pack):
        raise InputError("no-such-sample", Fault("name", f'There is no file "{name}".'))
    desk, data = desk_of(request), (SAMPLES / name).read_bytes()
    with desk.database.writing() as session:
        id = keep_document(session, pack_row(session, pack), name, data, author_of(request)).id
    return _view(desk, pack, id)


@router.get("/documents/{document}")
def see_document(request: Request, pack: str, document: int) -> DocumentView:
    """A document with every number marked by how it stands to the pack."""
    return _view(desk_of(request), pack, document)


@router.get("/documents/{document}/corrected", response_class=Response, responses=FILE)
def take_corrected(
    request: Request,
    pack: str,
    document: int,
    follow: Annotated[
        bool, Query(description="Put numbers that agree into controls that follow their figures (Word only).")
    ] = False,
) -> Response:
    """The document with every number that disagrees corrected, and nothing else changed."""
    desk = desk_of(request)
    read, _, _, pack_proof = _read(desk, pack, document)
    with desk.database.reading() as session:
        data = document_of(session, pack_row(session, pack), document).data
    at = datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
    name = read.document.name
    made = corrected(name, data, corrections_of(read), author_of(request) or "Humble Sum", at)
    if follow:
        made, _ = following(name, made, Reader(pack_proof).proofread(read_document(name, made)))
    stem, _, ending = name.rpartition(".")
    headers = attached(f"{stem} corrected.{ending}")
    return Response(made, media_type="application/octet-stream", headers=headers)


@router.delete("/documents/{document}")
def take_document_out(request: Request, pack: str, document: int) -> list[DocumentName]:
    """Take a document out. What was said of its numbers stays with the pack."""
    desk = desk_of(request)
    with desk.database.writing() as session:
        remove_document(session, pack_row(session, pack), document)
    return see_documents(request, pack)


def documents_record(desk: Desk, pack: str) -> bytes | None:
    """The record of the documents of a pack, in the edition shown; None where it has none. One that cannot
    be read any more stands in it as such."""
    with desk.database.reading() as session:
        rows = [(row.id, row.name, row.digest) for row in documents_of(session, pack_row(session, pack))]
    found: list[RecordedNumber] = []
    for id, name, digest in rows:
        try:
            found += recorded_numbers(_read(desk, pack, id)[0], digest)
        except InputError as error:
            found.append(unread(name, digest, str(error.faults[0]) if error.faults else ""))
    return write_record(found) if rows else None


def _view(desk: Desk, pack: str, id: int) -> DocumentView:
    read, at, revision, pack_proof = _read(desk, pack, id)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        data, code, edition = document_of(session, row, id).before, row.id, row.edition
    before = None
    if data is not None:
        key = ("proofread", code, revision, edition, digest_of(data), read.document.name)
        name, old = read.document.name, data
        before = desk.kept(
            key,
            lambda: _reader(desk, code, edition, pack_proof).proofread(read_document(name, old)),
        )
    return document_view(id, shown_time(at), revision, read, pack_proof, before)


def _reader(desk: Desk, code: str, edition: str, pack_proof: PackProof) -> Reader:
    """The reader of a pack; where nothing prints otherwise than before, with all that it judged."""
    held: list[Reader] = desk.kept(("readers", code, edition), list)
    last = held[0] if held else None
    if last is not None and last.pack_proof is pack_proof:
        return last
    if last is not None and prints_alike(base_of(last.pack_proof.pack), base_of(pack_proof.pack)):
        made = last.after(pack_proof)
    else:
        made = Reader(pack_proof)
    held[:] = [made]
    return made


def _read(desk: Desk, pack: str, id: int) -> tuple[Proofread, str, int, PackProof]:
    """A document proofread against the pack as it is, read once for each revision."""
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof, revision, code, edition = desk.proved(session, row), row.revision, row.id, row.edition
        kept = document_of(session, row, id, contents=False)
        name, digest, at = kept.name, kept.digest, kept.at

    def document() -> Document:
        with desk.database.reading() as session:
            return read_document(name, document_of(session, pack_row(session, pack), id).data)

    def made() -> Proofread:
        reader = _reader(desk, code, edition, pack_proof)
        return reader.proofread(desk.kept(("document", digest, name), document))

    return desk.kept(("proofread", code, revision, edition, digest, name), made), at, revision, pack_proof
