"""Making an issue: the last checks, what goes out, and all of it in one container."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from humble_sum import __version__
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.certificate import Rejected, certify
from humble_sum.core.footing.kept_plan import verify_kept
from humble_sum.core.footing.plan import problem_of
from humble_sum.core.footing.solver.deadline import OutOfTime, until
from humble_sum.core.footing.standalone import foot_in_time
from humble_sum.core.issue.checklist import Check, checklist
from humble_sum.core.issue.issued import Issue, State, recorded
from humble_sum.core.locales.data import data_version
from humble_sum.core.places.report import placed_on
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.container import PACK, issued_files, with_files, write_container
from humble_sum.exchange.pack_json import read_pack
from humble_sum.exchange.sources.progress import Progress, unheard

CERTIFYING = 5.0  # seconds that are given to a certificate


@dataclass(frozen=True)
class Wanted:
    """What whoever issues says of it."""

    prepared_by: str
    recipients: str
    state: State = "draft"
    reviewed_by: str = ""
    files: Sequence[str] = ("html", "exact", "csv", "record")
    reasons: dict[str, str] = field(default_factory=dict)


def checks_of(whole: PackProof, before: PackProof | None = None) -> tuple[Check, ...]:
    """The checklist of an edition; `before` is the pack as it went out last."""
    pack = whole.pack
    placed = [
        found for board in pack.dashboards if board.edition == pack.shown for found in placed_on(board, whole)
    ]
    return checklist(whole, placed, published(whole, before) if before else {})


def published(whole: PackProof, before: PackProof) -> dict[FigureRef, str]:
    """What figures of published columns printed when they went out."""
    found: dict[FigureRef, str] = {}
    for id, proof in before.proofs.items():
        now = whole.proofs.get(id)
        marked = {column.id for column in now.statement.columns if column.published} if now else set()
        for (line, column), figure in proof.figures.items():
            if column in marked:
                found[id, line, column] = figure.printed.whole
    return found


def issue(
    whole: PackProof,
    number: int,
    made: str,
    wanted: Wanted,
    before: PackProof | None = None,
    progress: Progress = unheard,
) -> tuple[Issue, bytes]:
    """An edition issued: what is said of it, and its container. Raises InputError where it has no recipient
    or preparer, or a check is open and nobody says why. `progress` is told of each file."""
    missing = [
        Fault(name, what, "Say who.")
        for name, said, what in (
            ("recipients", wanted.recipients, "An issue goes to somebody."),
            ("prepared_by", wanted.prepared_by, "An issue is prepared by somebody."),
        )
        if not said.strip()
    ]
    if missing:
        raise InputError("bad-issue", missing)
    pack = whole.pack
    checks = recorded(checks_of(whole, before), wanted.reasons)  # what is refused is refused at once
    progress(0, 1, "Certificate that no plan is less")
    files = issued_files(whole, wanted.files, certificate_of(whole), progress)
    told = Issue(
        number=number,
        edition=pack.shown,
        edition_name=pack.edition_name(pack.shown),
        entity=pack.entity,
        period=pack.period,
        made=made,
        prepared_by=wanted.prepared_by.strip(),
        reviewed_by=wanted.reviewed_by.strip(),
        recipients=wanted.recipients.strip(),
        state=wanted.state,
        checks=checks,
        version=__version__,
        locale_data=data_version(),
    )
    told = with_files(told, files)
    return told, write_container(told, {name: data for name, (_, data) in files.items()})


def certificate_of(whole: PackProof) -> Mapping[str, Any] | None:
    """The certificate of the plan that a pack keeps; none where it keeps none, or none was found in time."""
    if not whole.pack.nudges:
        return None
    problem = problem_of(whole, list(whole.proofs.values())).problem
    try:
        footed = foot_in_time(problem, until(CERTIFYING), certify=True)
        if footed is None:
            return None
        found = certify(problem, footed)
        verify_kept(whole, found)  # another plan may be as good as the one that is kept
        return found
    except (InputError, OutOfTime, Rejected):
        return None


def as_issued(issue: Issue, files: Mapping[str, bytes]) -> PackProof:
    """The pack of an issue as it went out."""
    return prove_pack(in_edition(read_pack(files[PACK]), issue.edition))


def proved_in(pack: Pack, edition: str = OWN) -> PackProof:
    """A pack as the readers of an edition get it."""
    return prove_pack(in_edition(pack, edition))
