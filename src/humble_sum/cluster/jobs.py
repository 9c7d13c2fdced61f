"""One piece of work on one pack: it takes bytes and gives bytes, so that any engine can run it anywhere, and
again with the same result."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, field
from typing import Any, Literal

from humble_sum import __version__
from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.documents.proofreading import Reader
from humble_sum.core.documents.recorded_numbers import recorded_numbers
from humble_sum.core.errors import InputError
from humble_sum.core.footing.certificate import Rejected
from humble_sum.core.issue.document_check import document_check
from humble_sum.core.places.places_report import placed_on
from humble_sum.core.proof.findings import findings_of
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.in_edition import base_of
from humble_sum.exchange.containers.edition_files import DOCUMENTS
from humble_sum.exchange.containers.issue_files import made_of, proved_in
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.containers.verification import verify
from humble_sum.exchange.documents.reading import read_document
from humble_sum.exchange.documents.record_csv import read_record, write_record
from humble_sum.exchange.formats import chosen_formats
from humble_sum.exchange.imprint import digest_of
from humble_sum.exchange.pack_json import read_pack, write_pack

Work = Literal["check", "foot", "render", "issue", "verify", "proofread"]
MOST_SAID = 40  # things that are open, named in a result


@dataclass(frozen=True)
class Job:
    """What is to be done with one pack, or one container, in one edition. `options` are those of the work;
    `documents` are what it is proofread against, by name."""

    name: str
    work: Work
    edition: str
    data: bytes
    options: Mapping[str, Any] = field(default_factory=dict)
    documents: Mapping[str, bytes] = field(default_factory=dict)

    @property
    def digest(self) -> str:
        """What its result follows from: the same digest, the same result, whenever it is made."""
        options = {name: said for name, said in self.options.items() if name != "made"}
        said = [self.work, self.edition, options, __version__]
        found = hashlib.sha256(json.dumps(said, sort_keys=True).encode())
        for part in (self.data, *(each for pair in sorted(self.documents.items()) for each in pair)):
            raw = part.encode() if isinstance(part, str) else part
            found.update(len(raw).to_bytes(8, "big") + raw)
        return found.hexdigest()


@dataclass(frozen=True)
class Result:
    """What came of a job: what it is of, how much is open with the first of it, the files that were made by
    their names, and why it failed where it did."""

    entity: str = ""
    figures: int = 0
    open: int = 0
    says: tuple[str, ...] = ()
    files: Mapping[str, bytes] = field(default_factory=dict)
    failed: str = ""
    version: str = __version__
    kept: tuple[str, ...] = ()  # names of files that were made before

    @property
    def names(self) -> list[str]:
        """The names of its files."""
        return sorted(self.files) or sorted(self.kept)

    def told(self) -> dict[str, Any]:
        """The result without its files, as JSON has it."""
        return {name: said for name, said in asdict(self).items() if name not in ("files", "kept")}


def run_job(job: Job) -> Result:
    """Do one job. What a pack is refused for is told in the result: one that fails stops no other."""
    try:
        return WORKS[job.work](job)
    except (InputError, Rejected) as error:
        return Result(failed=str(error))
    except MemoryError:
        return Result(failed="It needs more memory than a worker has.")
    except Exception as error:
        return Result(failed=f"This is our fault: {type(error).__name__}: {error}")


def _check(job: Job) -> Result:
    return _found(proved_in(read_pack(job.data), job.edition))


def _found(pack_proof: PackProof, files: Mapping[str, bytes] | None = None) -> Result:
    """What is open in a pack: sums, ties and breaks, and places that do not agree."""
    pack = pack_proof.pack
    says = [found.says for id in pack_proof.proofs for found in findings_of(pack_proof, id)]
    for board in pack.dashboards:
        if board.edition == pack.shown:
            placed = placed_on(board, pack_proof)
            says += [
                f"{each.item.label} on {board.name} does not agree"
                for each in placed
                if each.agrees.standing != "agrees"
            ]
    return _result(pack_proof, says, files)


def _result(pack_proof: PackProof, says: list[str], files: Mapping[str, bytes] | None = None) -> Result:
    figures = sum(len(proof.figures) for proof in pack_proof.proofs.values())
    return Result(pack_proof.pack.entity, figures, len(says), tuple(says[:MOST_SAID]), files or {})


def _foot(job: Job) -> Result:
    pack_proof = proved_in(read_pack(job.data), job.edition)
    command = Foot(kind="foot", statement=pack_proof.pack.statements[0].id)
    footed, _ = apply(pack_proof, command, made=str(job.options.get("made", "")))
    return _found(prove_pack(footed, pack_proof), {"pack.json": write_pack(base_of(footed))})


def _render(job: Job) -> Result:
    pack_proof = proved_in(read_pack(job.data), job.edition)
    made, _ = made_of(pack_proof, chosen_formats(job.options["formats"]), None)
    return _result(pack_proof, [], {name: data for name, (_, data) in made.items()})


def _issue(job: Job) -> Result:
    pack_proof = proved_in(read_pack(job.data), job.edition)
    told = dict(job.options)
    made, number = told.pop("made"), told.pop("number")
    issued, container = issue(pack_proof, number, made, Wanted(**told))
    says = [f"{check.says}: {check.reason}" for check in issued.checks if check.open]
    return _result(pack_proof, says, {f"issue-{number}.zip": container})


def _verify(job: Job) -> Result:
    found = verify(job.data)
    says = [str(fault) for fault in found.faults]
    if not says and found.unchecked:
        says = ["A file could not be looked at on this machine."]
    return Result(found.issue.entity, 0, len(says), tuple(says[:MOST_SAID]))


def _proofread(job: Job) -> Result:
    pack_proof = proved_in(read_pack(job.data), job.edition)
    reader = Reader(pack_proof)
    numbers = [
        number
        for name, data in sorted(job.documents.items())
        for number in recorded_numbers(reader.proofread(read_document(name, data)), digest_of(data))
    ]
    record = write_record(numbers)
    says = [each.says for each in document_check(read_record(record)).open]
    return _result(pack_proof, says, {DOCUMENTS: record})


WORKS: dict[Work, Callable[[Job], Result]] = {
    "check": _check,
    "foot": _foot,
    "render": _render,
    "issue": _issue,
    "verify": _verify,
    "proofread": _proofread,
}
