"""The command that proofreads documents against a pack. What it does is imported when it runs."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from humble_sum.cli.exit_codes import FOUND
from humble_sum.cli.files import MOST_CONTAINER, read_file, write_file
from humble_sum.core.errors import Fault, InputError

if TYPE_CHECKING:
    from humble_sum.core.documents.version_changes import NumberChange
    from humble_sum.core.proof.pack_proof import PackProof

AUTHOR = "Humble Sum"


def proofread(
    files: Annotated[
        list[Path], typer.Argument(help="Documents: DOCX, PPTX, XLSX, PDF, HTML, Markdown, text.")
    ],
    pack: Annotated[
        Path | None, typer.Option("--pack", help="The pack file that they have to agree with.")
    ] = None,
    edition: Annotated[str | None, typer.Option(help="The edition; otherwise the one that fits.")] = None,
    issue: Annotated[
        Path | None, typer.Option("--issue", help="The container of an issue, in place of a pack.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Answer in JSON.")] = False,
    out: Annotated[
        Path | None, typer.Option("--out", help="Write a corrected copy to this file; of one document.")
    ] = None,
    before: Annotated[
        Path | None, typer.Option("--before", help="The version before; of one document. Says what changed.")
    ] = None,
    record: Annotated[
        Path | None, typer.Option("--record", help="Write every judged number to this table (CSV).")
    ] = None,
    by: Annotated[str, typer.Option("--by", help="Whose tracked changes the corrections are.")] = AUTHOR,
) -> None:
    """Proofread documents: say of every number whether it is a figure of the pack, and whether it agrees.

    Tables are added up as printed. With --out, a corrected copy: tracked changes in DOCX, notes in PDF,
    changes in place elsewhere. Exit code 1 says that something disagrees.
    """
    from humble_sum.core.documents.fitting_edition import Readers
    from humble_sum.core.documents.proofreading import Reader
    from humble_sum.core.documents.recorded_numbers import RecordedNumber, recorded_numbers
    from humble_sum.core.documents.version_changes import number_changes
    from humble_sum.exchange.documents.corrections import corrections_of
    from humble_sum.exchange.documents.proofread_json import as_json as told
    from humble_sum.exchange.documents.proofread_json import as_lines
    from humble_sum.exchange.documents.reading import MOST_BYTES, corrected, read_document
    from humble_sum.exchange.documents.record_csv import write_record
    from humble_sum.exchange.imprint import digest_of

    for option, given, what in (
        ("--out", out, "A corrected copy is of one document."),
        ("--before", before, "A version before is of one document."),
    ):
        if given is not None and len(files) > 1:
            raise InputError("bad-document", Fault(option, what, "Name one file."))
    own = Reader(proved(pack, edition, issue))
    reader = own if edition or issue else Readers(own)
    answers: list[dict[str, Any]] = []
    recorded: list[RecordedNumber] = []
    found = False
    for file in files:
        data = read_file(file, MOST_BYTES)
        read = reader.proofread(read_document(file.name, data))
        found = found or read.count("disagrees") > 0 or any(not each.holds for each in read.sums)
        recorded += recorded_numbers(read, digest_of(data))
        changes: list[NumberChange] = []
        if before is not None:
            old = reader.proofread(read_document(before.name, read_file(before, MOST_BYTES)))
            changes = list(number_changes(old, read))
        if as_json:
            since = {"since": [asdict(each) for each in changes]} if before is not None else {}
            answers.append(told(read) | since)
        else:
            print("\n".join(as_lines(read)))
            if before is not None:
                print("\n".join(_since(changes)))
        if out is not None:
            at = datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
            write_file(out, corrected(file.name, data, corrections_of(read), by, at))
    if record is not None:
        write_file(record, write_record(recorded))
    if as_json:
        print(json.dumps(answers[0] if len(answers) == 1 else answers, ensure_ascii=False, indent=1))
    if found:
        raise typer.Exit(FOUND)


def proved(pack: Path | None, edition: str | None, issue: Path | None) -> PackProof:
    """The pack that documents are read against. Raises InputError."""
    from humble_sum.core.statements.edition import OWN
    from humble_sum.exchange.containers.container import read_container
    from humble_sum.exchange.containers.issue_files import as_issued, proved_in
    from humble_sum.exchange.pack_json import read_pack

    if (pack is None) == (issue is None):
        what = "Documents are read against a pack or an issue."
        raise InputError("bad-document", Fault("--pack", what, "Name one of them: --pack or --issue."))
    if issue is not None:
        return as_issued(read_container(read_file(issue, MOST_CONTAINER)))
    assert pack is not None
    return proved_in(read_pack(read_file(pack)), edition or OWN)


def _since(changes: Sequence[NumberChange]) -> list[str]:
    """What changed since the version before, to be read."""
    if not changes:
        return ["Since the version before no number changed."]
    return ["Since the version before:", *(f"  {each.says}" for each in changes)]
