"""An issue in one file: a ZIP with a manifest that names every other file with its digest (docs/formats).

The same issue is the same file, byte by byte: entries are in order, with one date and one way of packing.
"""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
import zlib
from collections.abc import Mapping, Sequence
from functools import partial
from typing import Any, Literal

from pydantic import ConfigDict, Field, ValidationError

from humble_sum.core.amounts import amount_text
from humble_sum.core.errors import Fault, InputError, faults_of
from humble_sum.core.issue.issued import Issue, IssuedFile
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.in_edition import base_of
from humble_sum.exchange.archive import is_as_written, write_archive
from humble_sum.exchange.delimited import write_csv
from humble_sum.exchange.edition_workbook import MODES, write_workbook
from humble_sum.exchange.exact_json import parse_json
from humble_sum.exchange.html import write_edition
from humble_sum.exchange.inline.page import write_inline
from humble_sum.exchange.nudges_csv import write_nudges
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.paper import being_set
from humble_sum.exchange.record_page import write_record_page
from humble_sum.exchange.sources.progress import Progress, unheard

KIND, VERSION = "humble-sum/issue", 1
MANIFEST, PACK, FIGURES, CERTIFICATE = "manifest.json", "pack.json", "figures.csv", "certificate.json"
MOST_BYTES, MOST_FILES = 512 * 1024 * 1024, 400  # of all files unpacked
BAD = "bad-container"
UNREADABLE = (NotImplementedError, EOFError, OSError, RuntimeError, ValueError)
HEAD = ("statement", "line", "column", "exact", "printed", "units", "exponent", "moved")
CHOICES: dict[str, str] = {
    "html": "Web page of the edition",
    "pdf": "PDF of the edition",
    "xbrl": "Tagged page (Inline XBRL) and its taxonomy",
    "exact": f"Workbook, {MODES['exact']}",
    "unit": f"Workbook, {MODES['unit']}",
    "printed": f"Workbook, {MODES['printed']}",
    "csv": "Figures as printed",
    "record": "Record of nudges and holds",
}


class Manifest(Issue):
    """What is in a container."""

    model_config = ConfigDict(extra="forbid", frozen=True, title="Humble Sum issue")
    kind: Literal["humble-sum/issue"] = Field(description="Says what this container is.")
    format: Literal[1] = Field(description="The version of this format.")


def issued_files(
    whole: PackProof,
    choices: Sequence[str],
    certificate: Mapping[str, Any] | None = None,
    progress: Progress = unheard,
) -> dict[str, tuple[str, bytes]]:
    """The files of an issue, by name, each with what it is. The pack and its figures are always among
    them. `progress` is told of each before it is made. Raises InputError where a choice is none."""
    for choice in choices:
        if choice not in CHOICES:
            raise InputError(
                "no-such-format", Fault("files", f'There is no "{choice}".', f"Use {', '.join(CHOICES)}.")
            )
    made: dict[str, tuple[str, bytes]] = {
        PACK: ("Pack file: amounts, rules, nudges and holds", write_pack(base_of(whole.pack))),
        FIGURES: ("Every figure, exact and as printed", write_figures(whole)),
    }
    if certificate is not None:
        text = json.dumps(certificate, ensure_ascii=False, sort_keys=True, indent=1) + "\n"
        made[CERTIFICATE] = ("Certificate that no plan is less", text.encode())
    wanted = [choice for choice in CHOICES if choice in choices]
    papers = _papers(whole, wanted)
    steps = [*(choice for choice in wanted if choice != "pdf"), *papers]
    with being_set({name: page for name, (_, page) in papers.items()}) as awaited:
        for number, step in enumerate(steps):
            says = papers[step][0] if step in papers else CHOICES[step]
            beat = partial(progress, number, len(steps), says)
            beat()
            made |= {step: (says, awaited(step, beat))} if step in papers else _made(whole, step)
    return made


def _papers(whole: PackProof, wanted: Sequence[str]) -> dict[str, tuple[str, bytes]]:
    """What is set on paper, by file: what it is, and its page. It takes longest, so it is begun with."""
    papers: dict[str, tuple[str, bytes]] = {}
    if "pdf" in wanted:
        papers["edition.pdf"] = (CHOICES["pdf"], write_edition(whole, paper=True))
    if {"pdf", "record"} <= {*wanted}:
        papers["record.pdf"] = (f"{CHOICES['record']}, on paper", write_record_page(whole))
    return papers


def _made(whole: PackProof, choice: str) -> dict[str, tuple[str, bytes]]:
    """The files of one choice."""
    says = CHOICES[choice]
    if choice == "html":
        return {"edition.html": (says, write_edition(whole))}
    if choice == "xbrl":
        return {name: (says, data) for name, data in write_inline(whole).items()}
    if choice == "csv":
        return {
            f"statement-{number}.csv": (f"{proof.statement.name} as printed", write_csv(whole.pack, proof))
            for number, proof in enumerate(whole.proofs.values(), 1)
        }
    if choice == "record":
        page = (f"{says}, to be read", write_record_page(whole))
        return {"record.csv": (says, write_nudges(whole)), "record.html": page}
    mode = next(mode for mode in MODES if mode == choice)
    return {f"workbook-{mode}.xlsx": (says, write_workbook(whole, mode))}


def with_files(issue: Issue, files: Mapping[str, tuple[str, bytes]]) -> Issue:
    """The issue with its files on record."""
    listed = tuple(
        IssuedFile(name=name, says=says, sha256=hashlib.sha256(data).hexdigest(), size=len(data))
        for name, (says, data) in sorted(files.items())
    )
    return issue.model_copy(update={"files": listed})


def write_container(issue: Issue, files: Mapping[str, bytes]) -> bytes:
    """The container of an issue whose files are on record."""
    told = {"kind": KIND, "format": VERSION} | issue.model_dump(mode="json")
    manifest = json.dumps(told, ensure_ascii=False, sort_keys=True, indent=1) + "\n"
    return write_archive([(MANIFEST, manifest.encode()), *sorted(files.items())])


def read_container(data: bytes) -> tuple[Issue, dict[str, bytes]]:
    """The issue of a container and its files, each as its digest says. Raises InputError, naming everything
    that is not as it was issued; nothing is unpacked past the sizes that the manifest states."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            found = _opened(packed)
            if not is_as_written(data, packed):
                what = "Its files are as they were issued, and the archive around them was changed."
                raise InputError(BAD, Fault("container", what))
            return found
    except (zlib.error, zipfile.BadZipFile, *UNREADABLE) as error:
        if isinstance(error, InputError):
            raise
        raise InputError(BAD, Fault("container", f"It cannot be unpacked: {error}.")) from None


def _opened(packed: zipfile.ZipFile) -> tuple[Issue, dict[str, bytes]]:
    names = [entry.filename for entry in packed.infolist()]
    if len(names) > MOST_FILES:
        raise InputError(BAD, Fault("container", f"It has more than {MOST_FILES} files."))
    if MANIFEST not in names:
        raise InputError(BAD, Fault(MANIFEST, "It is missing.", "Ask for the container as it was issued."))
    issue = read_manifest(_bounded(packed, MANIFEST, 16 * 1024 * 1024))
    listed = {each.name: each for each in issue.files}
    faults = [Fault(name, "It is in the container twice.") for name in {*names} if names.count(name) > 1]
    faults += [
        Fault(name, "It is in the container, and was not issued.")
        for name in sorted({*names} - {*listed, MANIFEST})
    ]
    faults += [
        Fault(name, "It was issued, and is missing from the container.")
        for name in sorted({*listed} - {*names})
    ]
    if sum(each.size for each in issue.files) > MOST_BYTES:
        raise InputError(BAD, Fault(MANIFEST, f"It states more than {MOST_BYTES // 1024 // 1024} MiB."))
    files = {}
    for name, each in listed.items():
        if name not in names:
            continue
        inside = _bounded(packed, name, each.size)
        if len(inside) != each.size or hashlib.sha256(inside).hexdigest() != each.sha256:
            faults.append(Fault(name, "It is not what was issued: its digest is another."))
        files[name] = inside
    if faults:
        raise InputError(BAD, faults)
    return issue, files


def read_manifest(data: bytes) -> Issue:
    """The issue that a manifest tells of. Raises InputError."""
    parsed = parse_json(data, "manifest")
    if not isinstance(parsed, dict) or parsed.get("kind") != KIND:
        raise InputError(BAD, Fault(MANIFEST, f'It does not say that it is "{KIND}".'))
    if parsed.get("format") != VERSION:
        what = f"It is of version {json.dumps(parsed.get('format'), default=str)[:40]}."
        raise InputError("other-version", Fault(MANIFEST, what, f"Only version {VERSION} can be read."))
    try:
        found = Manifest.model_validate(parsed)
    except ValidationError as error:
        raise InputError(BAD, faults_of(error)) from None
    return Issue(**{name: getattr(found, name) for name in Issue.model_fields})


def _bounded(packed: zipfile.ZipFile, name: str, most: int) -> bytes:
    """A file's bytes, and one more where it is longer than it may be."""
    with packed.open(name) as file:
        return file.read(most + 1)


def write_figures(whole: PackProof) -> bytes:
    """Every figure of every statement, by its ids: exact, as printed, and in whole units (RFC 4180)."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(HEAD)
    writer.writerows(figure_rows(whole))
    return out.getvalue().encode()


def figure_rows(whole: PackProof) -> list[list[str]]:
    """The rows of that file."""
    return [
        [
            id,
            line,
            column,
            "" if figure.exact is None else amount_text(figure.exact),
            figure.printed.whole,
            "" if figure.units is None else str(figure.units),
            "" if figure.units is None else str(figure.printed.exponent),
            "yes" if figure.moved else "",
        ]
        for id, proof in whole.proofs.items()
        for (line, column), figure in proof.figures.items()
    ]
