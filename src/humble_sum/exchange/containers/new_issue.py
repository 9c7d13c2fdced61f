"""Making an issue: the last checks, what goes out, all of it in one container, and the container verified."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from humble_sum import __version__
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.issue.issue import Issue, State, recorded
from humble_sum.core.locales.data import data_version
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange.containers.container import read_container, with_files, write_container
from humble_sum.exchange.containers.edition_files import (
    CERTIFICATE,
    CERTIFICATE_SAYS,
    DOCUMENTS,
    DOCUMENTS_SAYS,
    PACK,
    own_files,
)
from humble_sum.exchange.containers.issue_files import certificate_of, made_of, write_certificate
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.verification import verify_made
from humble_sum.exchange.formats import USUAL, chosen_formats
from humble_sum.exchange.imprint import Imprint, digest_of
from humble_sum.exchange.paper import Presses
from humble_sum.exchange.sources.progress import Progress, unheard


@dataclass(frozen=True)
class Wanted:
    """What whoever issues says of it; `documents` is the record of documents that have to agree with it."""

    prepared_by: str
    recipients: str
    state: State = "draft"
    reviewed_by: str = ""
    files: Sequence[str] = USUAL
    reasons: dict[str, str] = field(default_factory=dict)
    documents: bytes | None = None


def issue(
    pack_proof: PackProof,
    number: int,
    made: str,
    wanted: Wanted,
    before: PackProof | None = None,
    progress: Progress = unheard,
    press: Presses | None = None,
) -> tuple[Issue, bytes]:
    """An edition issued: what is said of it, and its container. Raises InputError where it has no recipient
    or preparer, or a check is open and nobody says why. `progress` is told of each file; `press` has
    presses for its `papers_of`, where they are ready."""
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
    checks = recorded(
        checks_of(pack_proof, before, wanted.documents), wanted.reasons
    )  # what is refused is refused at once
    kinds = chosen_formats(wanted.files)
    pack, own = pack_proof.pack, own_files(pack_proof)
    edition = pack.edition_name(pack.shown)
    imprint = Imprint(edition, number, wanted.state, digest_of(own[PACK][1]))
    progress(0, 1, CERTIFICATE_SAYS)
    if (certificate := certificate_of(pack_proof)) is not None:
        own[CERTIFICATE] = (CERTIFICATE_SAYS, write_certificate(certificate))
    if wanted.documents is not None:
        own[DOCUMENTS] = (DOCUMENTS_SAYS, wanted.documents)
    made_files, libraries = made_of(pack_proof, kinds, imprint, progress, press)
    told = Issue(
        number=number,
        edition=pack.shown,
        edition_name=edition,
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
        kinds=tuple(kinds),
        libraries=libraries,
    )
    files = own | made_files
    told = with_files(told, files)
    container = write_container(told, {name: data for name, (_, data) in files.items()})
    progress(1, 1, "Verifying what was made")
    if faults := verify_made(read_container(container), before):
        raise InputError("does-not-verify", faults)
    return told, container
