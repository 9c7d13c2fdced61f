"""Issuing a pack file, checking a container, and telling two states of a pack apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from humble_sum.cli.files import is_there, read_file, write_file
from humble_sum.cli.terminal_progress import on_terminal
from humble_sum.core.documents.proofreading import Reader
from humble_sum.core.documents.recorded_numbers import RecordedNumber, recorded_numbers
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.issue.differences import differences, same
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.rules.rule_changes import rule_changes
from humble_sum.core.rules.rulebook_file import KIND, rulebook_of
from humble_sum.core.statements.edition import OWN
from humble_sum.exchange.containers.container import read_container
from humble_sum.exchange.containers.issue_files import as_issued, proved_in
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.documents.reading import MOST_BYTES, read_document
from humble_sum.exchange.documents.record_csv import write_record
from humble_sum.exchange.exact_json import parse_json
from humble_sum.exchange.imprint import digest_of
from humble_sum.exchange.pack_json import read_pack
from humble_sum.exchange.paper import Presses

ZIP = b"PK\x03\x04"


def issue_pack(
    pack: bytes,
    edition: str,
    number: int,
    wanted: Wanted,
    out: Path,
    press: Presses | None = None,
    documents: Sequence[Path] = (),
) -> str:
    """Issue an edition of a pack file into a container; what was done, in words. Raises InputError."""
    if is_there(out):
        raise InputError("bad-issue", Fault(str(out), "It exists already.", "Name another one."))
    made = datetime.now(UTC).isoformat(timespec="seconds")
    pack_proof = proved_in(read_pack(pack), edition)
    wanted = replace(wanted, documents=_recorded(pack_proof, documents))
    told, container = issue(pack_proof, number, made, wanted, progress=on_terminal, press=press)
    write_file(out, container)
    open_ = [check for check in told.checks if check.open]
    said = [f"{told.edition_name}, issue {number}, {told.state}, to {told.recipients}: {out}"]
    said.append(f"  SHA-256 of the container: {digest_of(container)}")
    said += [f"  {each.name}  {each.sha256}  {each.says}" for each in told.files]
    said += [f"  open: {check.says} ({len(check.open)}): {check.reason}" for check in open_]
    return "\n".join(said)


def _recorded(pack_proof: PackProof, files: Sequence[Path]) -> bytes | None:
    """The record of documents that have to agree with a pack; None where there are none."""
    if not files:
        return None
    reader = Reader(pack_proof)
    found: list[RecordedNumber] = []
    for file in files:
        data = read_file(file, MOST_BYTES)
        found += recorded_numbers(reader.proofread(read_document(file.name, data)), digest_of(data))
    return write_record(found)


def opened(data: bytes, edition: str) -> PackProof:
    """A pack file in an edition, or an issue as it went out. Raises InputError."""
    if data.startswith(ZIP):
        return as_issued(read_container(data))
    return proved_in(read_pack(data), edition)


def tell_apart(before: bytes, after: bytes, edition: str = OWN) -> tuple[list[str], int]:
    """What prints otherwise in the second of two packs or issues, and how many figures print as before."""
    first, second = opened(before, edition), opened(after, edition)
    found = differences(first, second)
    lines = [f"{each.name}: {each.says}" for each in found]
    return lines, same(first, second)


def rulebooks_told_apart(before: bytes, after: bytes) -> list[str] | None:
    """What the second of two rulebook files says otherwise; None where either is something else. Raises
    InputError where one cannot be read."""
    books = [parse_json(data, "rulebook") if data.lstrip()[:1] == b"{" else None for data in (before, after)]
    if not all(isinstance(book, dict) and book.get("kind") == KIND for book in books):
        return None
    return rule_changes(*map(rulebook_of, books))
