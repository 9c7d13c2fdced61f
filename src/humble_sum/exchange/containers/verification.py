"""Verifying an issue with nothing but its container. Every file that can be made again from the frozen pack
is made again and compared byte for byte; what is not shown here is said.

Where other versions of the program, of a library or of the fonts made a file, its bytes may differ: then it
is read back strictly instead, and that is said.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from functools import partial

from humble_sum import __version__
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.certificate import Rejected
from humble_sum.core.footing.kept_plan import verify_kept
from humble_sum.core.issue.issue import CheckRecord, Issue
from humble_sum.core.locales.data import data_version
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.exchange.containers.container import Container, read_container
from humble_sum.exchange.containers.documents_verified import record_of
from humble_sum.exchange.containers.edition_files import (
    CERTIFICATE,
    CERTIFICATE_SAYS,
    DOCUMENTS,
    DOCUMENTS_SAYS,
    FIGURES,
    PACK,
    formats_named,
    own_files,
    paper_pages,
)
from humble_sum.exchange.containers.issue_files import made_with, write_certificate
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.read_back import difference, read_back, same_parts, says_something_twice
from humble_sum.exchange.containers.seals import PublicKey, SealFound, seals_of
from humble_sum.exchange.formats import OF_ISSUES, chosen_formats
from humble_sum.exchange.html import on_paper
from humble_sum.exchange.imprint import Imprint, digest_of
from humble_sum.exchange.pack_json import read_pack, write_pack
from humble_sum.exchange.paper import OnPaper, Presses, papers_in, presses
from humble_sum.exchange.pdf_reading import not_there, said_on_paper
from humble_sum.exchange.sources.progress import Progress, unheard

NUMBER = re.compile(r"\d+")
MOST_SAID = 20  # faults of one file


@dataclass
class Verified:
    """What an issue was found to be: what is shown, what does not hold as issued, and what nothing here
    shows. `digest` is that of the container as it was issued, before any seal."""

    issue: Issue
    digest: str
    shown: list[str] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    not_shown: list[str] = field(default_factory=list)
    unchecked: bool = False  # a file could not be looked at on this machine
    seals: list[SealFound] = field(default_factory=list)

    @property
    def open(self) -> list[CheckRecord]:
        """The checks that were open when it went out, each with its reason."""
        return [check for check in self.issue.checks if check.open]

    @property
    def holds(self) -> bool:
        """Whether everything was looked at and holds as issued."""
        return not self.faults and not self.unchecked


def verify(
    data: bytes,
    progress: Progress = unheard,
    signed_by: Iterable[PublicKey] = (),
    digest: str | None = None,
    seals: Iterable[bytes] = (),
    now: datetime | None = None,
    press: Presses | None = None,
) -> Verified:
    """Verify a container, telling `progress` of each step. With keys, a seal of each of them has to be there,
    in the container or among `seals`; with a digest, the container has to have it, as it is or as it was
    issued. `press` has presses for its `papers_in`, where they are ready.

    Raises InputError where it is no container of ours or was altered: then nothing of it can be trusted.
    """
    container = read_container(data)
    if press is not None:
        found = _verified(container, None, press, progress)
    else:
        with presses(papers_in(data)) as made_ready:
            found = _verified(container, None, made_ready, progress)
    asked = [*signed_by]
    every = [*container.seals.values(), *seals]
    found.seals = seals_of(container.manifest, every, asked, now or datetime.now(UTC))
    _say_seals(found, asked)
    if digest is not None and digest.lower() not in (digest_of(data), container.digest):
        found.faults.append(Fault("container", f"Its SHA-256 is {container.digest}, and not {digest}."))
    return found


def verify_made(container: Container, before: PackProof | None) -> list[Fault]:
    """What does not hold of a container that was made just now; `before` is the pack as it went out last. Its
    papers are read back and not set again: they were set a moment ago, with what is here."""
    return _verified(container, before, None, unheard).faults


def _verified(
    container: Container, before: PackProof | None, press: Presses | None, progress: Progress
) -> Verified:
    issue, files = container.issue, container.files
    found = Verified(issue, container.digest)
    many = "1 file" if len(files) == 1 else f"{len(files)} files"
    found.shown.append(f"The container is complete: {many}, each with the digest stated, and nothing else.")
    if PACK not in files:
        found.faults.append(Fault(PACK, "It is missing, so no file can be made again."))
        return found
    pack = read_pack(files[PACK])
    if issue.edition != OWN and pack.edition(issue.edition) is None:
        found.faults.append(Fault("manifest.json", f'The pack has no edition "{issue.edition}".'))
        return found
    pack_proof = prove_pack(in_edition(pack, issue.edition))
    _pack_file(found, write_pack(pack), files[PACK])
    first = container.format == 1
    digest = digest_of(files[PACK])
    imprint = None if first else Imprint(issue.edition_name, issue.number, issue.state, digest)
    kinds = formats_named(files) if first else _kinds(issue, found)
    pages = paper_pages(pack_proof, kinds, imprint)
    if press is not None:
        for name, (_, page) in pages.items():
            if name in files:
                press.give(name, page)
    documents = record_of(files, pack_proof, found.faults)
    _manifest(found, pack_proof, before, documents)
    if imprint is None or not any(OF_ISSUES[kind].imprinted for kind in kinds):
        found.not_shown.append("Its number, and whether it is a draft: none of its files says them.")
    wanted = {name: says for name, (says, _) in own_files(pack_proof).items()}
    steps = [kind for kind in kinds if kind != "pdf"]
    relations = sum(len(proof.checks) for proof in pack_proof.proofs.values()) + len(pack_proof.ties)
    if _compare(found, FIGURES, files.get(FIGURES), own_files(pack_proof)[FIGURES][1], "", pack_proof):
        figures = sum(len(proof.figures) for proof in pack_proof.proofs.values())
        found.shown.append(
            f"The frozen pack prints {figures:,} figures as {FIGURES} has them; {relations:,} sums and ties "
            "are as the checks say."
        )
    for number, kind in enumerate(steps):
        progress(number, len(steps) + len(pages), OF_ISSUES[kind].label)
        wanted |= _made_again(found, kind, files, pack_proof, imprint)
    if CERTIFICATE in files:
        wanted[CERTIFICATE] = CERTIFICATE_SAYS
        _certificate(found, pack_proof, files[CERTIFICATE])
    elif pack.nudges and press is not None:
        found.not_shown.append("That no plan is less: the container has no certificate of it.")
    if documents is not None:
        wanted[DOCUMENTS] = DOCUMENTS_SAYS
        found.not_shown.append(f"{DOCUMENTS}: the documents, which are not in the container.")
    for number, (name, (says, _)) in enumerate(pages.items(), len(steps)):
        wanted[name] = says
        beat = partial(progress, number, len(steps) + len(pages), says)
        beat()
        _paper(found, name, says, files.get(name), pack_proof, press, beat)
    _names(found, wanted, files)
    return found


def _made_again(
    found: Verified,
    kind: str,
    files: Mapping[str, bytes],
    pack_proof: PackProof,
    imprint: Imprint | None,
) -> dict[str, str]:
    """Make the files of one format again and compare them; what each is, by name."""
    label = OF_ISSUES[kind].label
    made = OF_ISSUES[kind].edition_files(pack_proof, imprint)
    same = [
        name
        for name, (_, data) in made.items()
        if _compare(found, name, files.get(name), data, kind, pack_proof)
    ]
    if same:
        named = f"{same[0]} to {same[-1]}" if len(same) > 2 else " and ".join(same)
        found.shown.append(f"{label} ({named}): made again from the pack, the same in every byte.")
    return {name: says for name, (says, _) in made.items()}


def _pack_file(found: Verified, made: bytes, issued: bytes) -> None:
    """Hold the frozen pack against the file that is written of it: nothing in it may be hidden."""
    if made == issued:
        return
    if _same_program(found.issue):
        what = "It is not written as this program writes it, so something may be hidden."
        found.faults.append(Fault(PACK, what))
    elif says_something_twice(issued):
        found.faults.append(Fault(PACK, "It says something twice, so one of the two is hidden."))
    else:
        found.not_shown.append(f"{PACK} is written by version {found.issue.version} with different bytes.")


def _kinds(issue: Issue, found: Verified) -> list[str]:
    try:
        return chosen_formats(issue.kinds)
    except InputError as error:
        found.faults += [Fault("manifest.json", f"{fault.what}") for fault in error.faults]
        return []


def _same_program(issue: Issue) -> bool:
    return issue.version == __version__ and issue.locale_data == data_version()


def _is_later(issue: Issue) -> bool:
    """Whether a later version of the program made it: what that writes, this one cannot read back."""
    said, here = ([int(part) for part in NUMBER.findall(each)[:3]] for each in (issue.version, __version__))
    return said > here


def _others(issue: Issue, kind: str) -> str:
    """What made a kind of file other than what is here, in words; empty where nothing did."""
    if not _same_program(issue):
        return f"Humble Sum {issue.version} with {issue.locale_data}"
    said = issue.libraries.get(kind, "")
    return said if said != (made_with(kind) if kind else "") else ""


def _compare(
    found: Verified, name: str, issued: bytes | None, made: bytes, kind: str, pack_proof: PackProof
) -> bool:
    """Hold a file against the one that is made again; whether it is the same in every byte. That one is
    missing is said once, with the names."""
    if issued is None or issued == made:
        return issued is not None
    if name.endswith(".xlsx") and same_parts(issued, made):
        return True
    others = _others(found.issue, kind)
    if not others:
        _fault(found, name, [difference(name, issued, made)])
        return False
    if _is_later(found.issue):
        _say_later(found, name)
        return False
    read = read_back(name, issued, made, pack_proof, _same_program(found.issue))
    _fault(found, name, read.faults)
    if not read.faults and read.compared:
        found.shown.append(f"{name}: made by {others}, so read back. What it says is the same.")
    if not read.faults:
        found.not_shown.append(f"{name}: {read.note}")
    return False


def _say_later(found: Verified, name: str) -> None:
    found.unchecked = True
    found.not_shown.append(f"{name}: a later version made it, {found.issue.version}. Verify it with that.")


def _fault(found: Verified, name: str, whats: Iterable[str]) -> None:
    said = [*whats]
    found.faults += [Fault(name, what) for what in said[:MOST_SAID]]
    if len(said) > MOST_SAID:
        found.faults.append(Fault(name, f"and {len(said) - MOST_SAID} more."))


def _paper(
    found: Verified,
    name: str,
    says: str,
    issued: bytes | None,
    pack_proof: PackProof,
    press: Presses | None,
    beat: partial[None],
) -> None:
    if issued is None:
        return
    made: OnPaper | None = None
    try:
        made = press.awaited(name, beat) if press is not None else None
    except InputError as error:
        found.unchecked = True
        found.not_shown.append(f"{name} could not be made again here: {error.faults[0]}")
    if made is not None and issued == made.data:
        found.shown.append(f"{says} ({name}): set on paper again from the pack, the same in every byte.")
        return
    if made is None:
        if name != "edition.pdf":
            return
        try:
            said = said_on_paper(issued)
        except InputError as error:
            _fault(found, name, [str(error)])
            return
        figures = (
            (f"{id}, {', '.join(figure.cell)}", figure.printed.full_text)
            for id, figure in on_paper(pack_proof)
        )
        missing = not_there(said, figures)
        _fault(found, name, [f"{ref} prints {text}, which does not stand there." for ref, text in missing])
        return
    from humble_sum.exchange.containers.pdf_paint import paint_differences  # read when it is first needed

    if _is_later(found.issue):
        _say_later(found, name)
        return
    # Earlier versions set records out otherwise.
    in_order = _same_program(found.issue) or name != "record.pdf"
    faults, notes = paint_differences(issued, made.data, in_order)
    others = found.issue.libraries.get(name, "")
    if _same_program(found.issue) and others == made.made_with:
        _fault(found, name, faults or ["It was changed: made again from the pack, its bytes differ."])
        return
    _fault(found, name, faults)
    if not faults:
        by = others if _same_program(found.issue) else f"Humble Sum {found.issue.version}"
        found.shown.append(f"{name}: made by {by or 'others'}, so read back. What its pages say is the same.")
        found.not_shown += [f"{name}: {note}" for note in notes]


def _certificate(found: Verified, pack_proof: PackProof, data: bytes) -> None:
    try:
        told = json.loads(data)
        verify_kept(pack_proof, told)
        if write_certificate(told) != data or {*told} != {"format", "version", "problem", "printed", "parts"}:
            raise ValueError("it has more in it than a certificate has")
    except (Rejected, InputError, ValueError, RecursionError) as error:
        found.faults.append(Fault(CERTIFICATE, f"It does not show that no plan is less: {error}"))
        return
    found.shown.append(f"No plan is less: {CERTIFICATE} shows it in whole numbers.")


def _manifest(
    found: Verified, pack_proof: PackProof, before: PackProof | None, documents: bytes | None
) -> None:
    """Hold what the manifest says against the pack: whose it is, its period, edition and checks."""
    issue, pack = found.issue, pack_proof.pack
    told = (
        ("entity", issue.entity, pack.entity),
        ("period", issue.period, pack.period),
        ("edition", issue.edition_name, pack.edition_name(issue.edition)),
    )
    faults = [
        Fault("manifest.json", f"It says the {name} is {said}, and the pack says {own}.")
        for name, said, own in told
        if said != own
    ]
    checks = {check.id: check for check in checks_of(pack_proof, before, documents)}
    recorded = {check.id: check for check in issue.checks}
    same = _same_program(issue)
    for id in [*checks, *(id for id in recorded if id not in checks)]:
        made, said = checks.get(id), recorded.get(id)
        if made is None or said is None:
            what = f'The check "{id}" is {"missing" if made else "none of ours"}.'
            faults.append(Fault("manifest.json", what))
            continue
        opened = tuple(each.says for each in made.open)
        agrees = len(said.open) == len(opened)  # other versions may say it in other words
        if same:
            agrees = (said.open, said.says, said.evidence) == (opened, made.says, made.evidence)
        if id == "published" and before is None and not agrees:
            found.not_shown.append(f"{made.says}: the issue before is not in the container.")
        elif not agrees:
            what = (
                f'Of the check "{made.says}" it says {_stands(said.open)}, and it comes to {_stands(opened)}.'
            )
            if said.open == opened:
                what = f'The check "{made.says}" has other words than it comes to.'
            elif len(said.open) == len(opened):
                what = f'Of the check "{made.says}" it says other things are open than are.'
            faults.append(Fault("manifest.json", what))
        if said.open and not said.reason.strip():
            faults.append(
                Fault("manifest.json", f'The check "{said.says}" was open, and no reason is given.')
            )
        if said.reason and not said.open:
            faults.append(Fault("manifest.json", f'The check "{said.says}" has a reason, and was not open.'))
    found.faults += faults
    if not faults:
        many = f"{len(issue.checks)} checks"
        found.shown.append(f"The manifest says what the pack says: entity, period, edition and {many}.")


def _stands(open_: tuple[str, ...]) -> str:
    return f"{len(open_)} open" if open_ else "that it holds"


def _names(found: Verified, wanted: dict[str, str], files: Iterable[str]) -> None:
    """Hold the names of the files against the kinds that were chosen."""
    there = {*files}
    for name in sorted({*wanted} - there):
        found.faults.append(Fault(name, "It is missing, though its format was chosen."))
    for name in sorted(there - {*wanted}):
        found.faults.append(Fault(name, "It belongs to no format that was chosen."))
    if not _same_program(found.issue):
        return
    for each in found.issue.files:
        if each.name in wanted and each.says != wanted[each.name]:
            found.faults.append(Fault("manifest.json", f"It says that {each.name} is “{each.says}”."))


def _say_seals(found: Verified, asked: list[PublicKey]) -> None:
    issue = found.issue
    found.faults += [Fault("seal", seal.fault) for seal in found.seals if seal.fault]
    good = [seal for seal in found.seals if not seal.fault]
    for seal in good:
        if seal.trusted and not seal.expired:
            found.shown.append(f"Sealed: {seal.says}.")
        elif not seal.trusted:
            found.not_shown.append(
                f"Whose the seal is that was {seal.says}: no key was given to check it with."
            )
    for key in asked:
        own = [seal for seal in good if seal.key == key.id]
        if not own:
            found.faults.append(Fault("seal", f"Nothing is sealed with the key of {key.name} ({key.id})."))
        elif all(seal.expired for seal in own):
            what = f"The key of {key.name} was {own[0].expired}. Nothing shows that its seal was made before."
            found.faults.append(Fault("seal", what))
    reviewed = f", reviewed by {issue.reviewed_by}" if issue.reviewed_by else ""
    who = f"prepared by {issue.prepared_by}{reviewed}, for {issue.recipients}, {issue.made}"
    if any(seal.trusted and not seal.expired for seal in good):
        found.shown.append(f"Those who sealed it vouch for this: {who}.")
    else:
        why = "no seal of it is by a key that was given" if found.seals else "it has no seal"
        found.not_shown.append(f"Who made it and when. It says {who}. Anyone can write that; {why}.")


def shown_lines(found: Verified) -> Iterator[str]:
    """What was found, in lines: what is shown, what does not hold, what is not shown."""
    for title, said in (
        ("Shown", found.shown),
        ("Does not hold", [str(fault) for fault in found.faults]),
        ("Not shown here", found.not_shown),
    ):
        yield f"{title}:" if said else f"{title}: nothing."
        yield from (f"  {each}" for each in said)
    for check in found.open:
        yield f"Open when it went out: {check.says} ({len(check.open)}). {check.reason}"
