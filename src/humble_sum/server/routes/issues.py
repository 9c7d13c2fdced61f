"""Issues over HTTP: the last checks, issuing, what went out, and how it differs from the desk."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Query, Request, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.changes.change_union import Change
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.issue.differences import Difference, differences, same
from humble_sum.core.issue.issue import CheckRecord, Issue, IssuedFile, State
from humble_sum.core.issue.last_check import Check, Open
from humble_sum.core.issue.review_checks import reviewers
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.exchange.containers.container import read_container
from humble_sum.exchange.containers.issue_files import as_issued
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.formats import OF_ISSUES, USUAL
from humble_sum.exchange.imprint import digest_of
from humble_sum.exchange.sources.progress import Progress, unheard
from humble_sum.records.issue_rows import KeptIssue, issue_of, issues_of, keep_issue, next_number, withdraw
from humble_sum.records.pack_rows import pack_row
from humble_sum.records.revisions import at_revision
from humble_sum.server.authentication import PERSON
from humble_sum.server.downloads import attached, file_name
from humble_sum.server.ndjson import streamed
from humble_sum.server.proof_cache import Desk
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.documents import documents_record
from humble_sum.server.routes.packs import author_of, desk_of

router = addresses("issues", "/packs/{pack}")
MOST_OPEN, MOST_DIFFERENCES = 12, 60
ZIP = "application/zip"
TYPES = {
    "html": "text/html; charset=utf-8",
    "csv": "text/csv; charset=utf-8",
    "json": "application/json",
    "pdf": "application/pdf",
    "xhtml": "application/xhtml+xml",
    "xsd": "application/xml",
    "xml": "application/xml",
    "svg": "image/svg+xml",
    "md": "text/markdown; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}
OTHER = "application/octet-stream"
CONTAINER: dict[int | str, dict[str, object]] = {200: {"description": "The file.", "content": {ZIP: {}}}}
FILE: dict[int | str, dict[str, object]] = {
    200: {
        "description": "The file, of the type that its name has.",
        "content": {each.partition(";")[0]: {} for each in (*TYPES.values(), OTHER)},
    }
}
STREAM: dict[int | str, dict[str, object]] = {
    200: {
        "description": "Lines of JSON.",
        "content": {
            "application/x-ndjson": {
                "schema": {"type": "string"},
                "example": '{"done": 1, "total": 3, "says": "PDF"}\n{"issued": {"number": 1}}\n',
            }
        },
    }
}


class OpenView(BaseModel):
    """What a check leaves open, and where to go for it."""

    says: str
    statement: str | None
    figure: FigureRef | None
    dashboard: str | None


class LastCheckView(BaseModel):
    """One of the last checks; `more` counts what is open past those that are told, `settle` is a command."""

    id: str
    says: str
    evidence: str
    open: list[OpenView]
    more: int
    settle: Change | None


class FileChoice(BaseModel):
    """A file that may go out; `usual` ones are chosen to begin with."""

    id: str
    says: str
    kind: str
    usual: bool


class IssuedView(BaseModel):
    """An issue that went out."""

    number: int
    made: str
    prepared_by: str
    reviewed_by: str
    recipients: str
    state: State
    withdrawn: str | None
    withdrawn_by: str
    replaced: int | None
    digest: str = Field(description="The SHA-256 of its container.")
    checks: list[CheckRecord]
    files: list[IssuedFile]


class DifferenceView(BaseModel):
    """A figure that prints otherwise, and why."""

    figure: FigureRef
    name: str
    says: str
    cause: str


class SinceView(BaseModel):
    """What prints differently from an issue: the first figures, how many, and how many are the same."""

    number: int
    made: str
    differences: list[DifferenceView]
    changed: int
    same: int
    rules_changed: bool


class IssuePageView(BaseModel):
    """Everything the screen shows of an edition that is to go out."""

    revision: int
    edition: str
    edition_name: str
    unit: str
    number: int
    reviewed_by: str = Field(description="Who signed what is shown as reviewed.")
    checks: list[LastCheckView]
    choices: list[FileChoice]
    issued: list[IssuedView]
    since: SinceView | None


class IssueRequest(BaseModel):
    """What is issued: on which revision, as which number, by and to whom, which files, and why what is open
    goes out so."""

    model_config = ConfigDict(
        extra="forbid",
        json_schema_extra={
            "examples": [
                {
                    "revision": 3,
                    "number": 1,
                    "prepared_by": "Asha",
                    "recipients": "the auditors",
                    "state": "draft",
                    "files": ["html", "exact"],
                    "reasons": {"whole": "The storm claim is not yet known."},
                }
            ]
        },
    )
    revision: int
    number: Annotated[int, Field(ge=1)]
    prepared_by: Annotated[str, Field(max_length=200)]
    reviewed_by: Annotated[str, Field(max_length=200)] = ""
    recipients: Annotated[str, Field(max_length=500)]
    state: State = "draft"
    files: Annotated[list[str], Field(max_length=20)] = list(USUAL)
    reasons: dict[str, Annotated[str, Field(max_length=500)]] = Field(default_factory=dict)


class WithdrawRequest(BaseModel):
    """Why an issue is taken back, and by which number it is replaced, if any."""

    model_config = ConfigDict(
        extra="forbid", json_schema_extra={"examples": [{"why": "Tax was wrong.", "replaced": None}]}
    )
    why: Annotated[str, Field(max_length=500)]
    replaced: int | None = None


@router.get("/issue")
def see_issue(request: Request, pack: str) -> IssuePageView:
    """The last checks of the edition, what may go out, and what went out before."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof = desk.proved(session, row)
        before = issues_of(session, row)
        last = _last(desk, pack, before)
        number, revision = next_number(session, row), row.revision
    return issue_page(pack_proof, revision, number, before, last, documents_record(desk, pack))


def issue_page(
    pack_proof: PackProof,
    revision: int,
    number: int,
    before: Sequence[KeptIssue] = (),
    last: tuple[Issue, PackProof] | None = None,
    documents: bytes | None = None,
) -> IssuePageView:
    """The screen of an edition: `number` is its next one, `last` what went out last and still stands, and
    `documents` the record of the documents that have to agree with it."""
    edition = pack_proof.pack.shown
    return IssuePageView(
        revision=revision,
        edition=edition,
        edition_name=pack_proof.pack.edition_name(edition),
        unit=", ".join(dict.fromkeys(p.caption for p in pack_proof.proofs.values() if p.caption)),
        number=number,
        reviewed_by=reviewers(pack_proof),
        checks=[_check(each) for each in checks_of(pack_proof, last[1] if last else None, documents)],
        choices=[
            FileChoice(id=id, says=each.label, kind=each.extension.upper(), usual=each.usual)
            for id, each in OF_ISSUES.items()
        ],
        issued=[issued_view(each) for each in before],
        since=since_view(last[0], last[1], pack_proof) if last else None,
    )


@router.post("/issues", status_code=201)
def issue_it(request: Request, pack: str, body: IssueRequest) -> IssuedView:
    """Issue the edition: freeze it, with its files, under its next number. All of it is kept, or nothing."""
    return _issued(desk_of(request), pack, _by_name(request, body), unheard, _has_names(request))


@router.post("/issues/streamed", response_class=StreamingResponse, responses=STREAM)
def issue_streamed(request: Request, pack: str, body: IssueRequest) -> StreamingResponse:
    """The same with its progress: a line of JSON for each file made, the last of them the issue or the
    problem. Closing the connection stops it after that file, and nothing is kept."""
    desk, body, named = desk_of(request), _by_name(request, body), _has_names(request)
    desk.lanes.files.refuse_if_full()
    return streamed(request, lambda progress: _issued(desk, pack, body, progress, named), "issued")


def _has_names(request: Request) -> bool:
    """Whether names here are those of tokens, which nobody else can claim."""
    return bool(getattr(request.state, PERSON, ""))


def _by_name(request: Request, body: IssueRequest) -> IssueRequest:
    """What is issued, prepared by whom the token names, where it names anybody."""
    person = getattr(request.state, PERSON, "")
    return body.model_copy(update={"prepared_by": person}) if person else body


def _reviewed_by(pack_proof: PackProof, said: str, named: bool) -> str:
    """Who reviewed: where names are those of tokens, those who signed as reviewed what is issued, and nobody
    else. Raises InputError where another is named."""
    if not named:
        return said
    signed = reviewers(pack_proof)
    if said.strip() and said.strip() != signed:
        what = f"Signed as reviewed by {signed}." if signed else "Nobody has signed this as reviewed."
        raise InputError("bad-issue", Fault("reviewed_by", what, "Leave it empty, or have them sign."))
    return signed


def _issued(desk: Desk, pack: str, body: IssueRequest, progress: Progress, named: bool) -> IssuedView:
    with desk.database.reading() as session:
        row = at_revision(session, pack, body.revision)
        pack_proof = desk.proved(session, row)
        last = _last(desk, pack, issues_of(session, row))
    reviewed_by = _reviewed_by(pack_proof, body.reviewed_by, named)
    wanted = Wanted(
        body.prepared_by,
        body.recipients,
        body.state,
        reviewed_by,
        body.files,
        body.reasons,
        documents_record(desk, pack),
    )
    made = datetime.now(UTC).isoformat(timespec="seconds")
    with desk.lanes.files.taken():
        told, container = issue(pack_proof, body.number, made, wanted, last[1] if last else None, progress)
    progress(1, 1, "Keeping it")
    with desk.changing(pack, body.revision) as (session, row):
        keep_issue(session, row, told, container)
    return issued_view(KeptIssue(told, digest_of(container), None, None))


@router.get("/issues/{number}")
def see_issued(request: Request, pack: str, number: int) -> IssuedView:
    """One issue of the edition."""
    return issued_view(_kept(desk_of(request), pack, number)[0])


@router.get("/issues/{number}/container", response_class=Response, responses=CONTAINER)
def take_container(request: Request, pack: str, number: int) -> Response:
    """The container of an issue, as it went out."""
    kept, data = _kept(desk_of(request), pack, number)
    name = file_name(kept.issue.entity, f"{kept.issue.edition_name} issue {number}", "zip")
    return Response(data, media_type=ZIP, headers=attached(name))


@router.get("/issues/{number}/files/{name}", response_class=Response, responses=FILE)
def take_file(request: Request, pack: str, number: int, name: str) -> Response:
    """One file of an issue, as its readers got it; a web page opens as one."""
    _, data = _kept(desk_of(request), pack, number)
    files = read_container(data).files
    if name not in files:
        raise InputError("no-such-format", Fault("name", f'This issue has no file "{name}".'))
    kind = TYPES.get(name.rpartition(".")[2], OTHER)
    opens = name.endswith((".html", ".xhtml", ".pdf"))
    headers = {"Content-Disposition": "inline"} if opens else attached(name)
    return Response(files[name], media_type=kind, headers=headers)


@router.get("/issues/{number}/differences")
def see_differences(
    request: Request,
    pack: str,
    number: int,
    other: Annotated[int | None, Query(description="Another issue; left out, the desk as it is.")] = None,
) -> SinceView:
    """What the desk, or another issue, prints differently from an issue."""
    desk = desk_of(request)
    issue = _kept(desk, pack, number)[0].issue
    if other is not None:
        after = _as_issued(desk, pack, _kept(desk, pack, other)[0].issue)
    else:
        with desk.database.reading() as session:
            after = desk.proved(session, pack_row(session, pack))
    return since_view(issue, _as_issued(desk, pack, issue), after)


@router.post("/issues/{number}/withdraw")
def withdraw_issue(request: Request, pack: str, number: int, body: WithdrawRequest) -> IssuedView:
    """Take an issue back. It stays as it was, and says so."""
    with desk_of(request).database.writing() as session:
        row = pack_row(session, pack)
        taken_back = withdraw(session, row, number, body.why, body.replaced, author_of(request))
        return issued_view(taken_back)


def _kept(desk: Desk, pack: str, number: int) -> tuple[KeptIssue, bytes]:
    with desk.database.reading() as session:
        return issue_of(session, pack_row(session, pack), number)


def _last(desk: Desk, pack: str, before: list[KeptIssue]) -> tuple[Issue, PackProof] | None:
    """The last issue that stands, and the pack as it went out."""
    standing = next((each.issue for each in before if each.withdrawn is None), None)
    return None if standing is None else (standing, _as_issued(desk, pack, standing))


def _as_issued(desk: Desk, pack: str, issue: Issue) -> PackProof:
    def opened() -> PackProof:
        return as_issued(read_container(_kept(desk, pack, issue.number)[1]))

    return desk.issued(pack.partition("@")[0], issue.edition, issue.number, opened)


def since_view(issue: Issue, before: PackProof, after: PackProof) -> SinceView:
    found = differences(before, after)
    return SinceView(
        number=issue.number,
        made=issue.made,
        differences=[_difference(each) for each in found[:MOST_DIFFERENCES]],
        changed=len(found),
        same=same(before, after),
        rules_changed=before.pack.rulebook != after.pack.rulebook,
    )


def _difference(of: Difference) -> DifferenceView:
    return DifferenceView(figure=of.figure, name=of.name, says=of.says, cause=of.cause)


def _check(of: Check) -> LastCheckView:
    return LastCheckView(
        id=of.id,
        says=of.says,
        evidence=of.evidence,
        open=[_open(each) for each in of.open[:MOST_OPEN]],
        more=max(0, len(of.open) - MOST_OPEN),
        settle=of.settle,
    )


def _open(of: Open) -> OpenView:
    return OpenView(says=of.says, statement=of.statement, figure=of.figure, dashboard=of.dashboard)


def issued_view(kept: KeptIssue) -> IssuedView:
    of = kept.issue
    return IssuedView(
        number=of.number,
        made=of.made,
        prepared_by=of.prepared_by,
        reviewed_by=of.reviewed_by,
        recipients=of.recipients,
        state=of.state,
        withdrawn=kept.withdrawn,
        withdrawn_by=kept.withdrawn_by,
        replaced=kept.replaced,
        digest=kept.digest,
        checks=list(of.checks),
        files=list(of.files),
    )
