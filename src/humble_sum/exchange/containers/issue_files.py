"""Making the files of an issue from its frozen pack: the same pack and imprint make the same files."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from contextlib import nullcontext
from functools import partial
from importlib.metadata import version as version_of
from typing import Any

from humble_sum.core.errors import InputError
from humble_sum.core.footing.certificate import Rejected, certify
from humble_sum.core.footing.kept_plan import verify_kept
from humble_sum.core.footing.plan import problem_of
from humble_sum.core.footing.problem_json import foot_in_time
from humble_sum.core.footing.solver.deadline import OutOfTime, until
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.containers.container import Container
from humble_sum.exchange.containers.edition_files import PACK, paper_pages
from humble_sum.exchange.formats import OF_ISSUES, Files
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.pack_json import read_pack
from humble_sum.exchange.paper import Presses, presses
from humble_sum.exchange.sources.progress import Progress, unheard

CERTIFYING = 5.0  # seconds that are given to a certificate


def made_of(
    pack_proof: PackProof,
    kinds: Sequence[str],
    imprint: Imprint | None,
    progress: Progress = unheard,
    press: Presses | None = None,
) -> tuple[Files, dict[str, str]]:
    """The files of some kinds, and what they were made with, by kind, or by the name of a PDF. `progress` is
    told of each before it is made. What is set on paper takes longest, so it is begun with."""
    pages = paper_pages(pack_proof, kinds, imprint)
    files: Files = {}
    libraries = {kind: made_with(kind) for kind in kinds if OF_ISSUES[kind].made_by}
    steps = [*(kind for kind in kinds if kind != "pdf"), *pages]
    with presses(pages) if press is None else nullcontext(press) as ready:
        for name, (_, page) in pages.items():
            ready.give(name, page)
        for number, step in enumerate(steps):
            says = pages[step][0] if step in pages else OF_ISSUES[step].label
            beat = partial(progress, number, len(steps), says)
            beat()
            if step in pages:
                made = ready.awaited(step, beat)
                files[step], libraries[step] = (says, made.data), made.made_with
            else:
                files |= OF_ISSUES[step].edition_files(pack_proof, imprint)
    return files, libraries


def made_with(format: str) -> str:
    """The library, with its version here, that the bytes of a format depend on; empty for none."""
    library = OF_ISSUES[format].made_by
    return f"{library} {version_of(library)}" if library else ""


def write_certificate(certificate: Mapping[str, Any]) -> bytes:
    """A certificate as a file."""
    return (json.dumps(certificate, ensure_ascii=False, sort_keys=True, indent=1) + "\n").encode()


def certificate_of(pack_proof: PackProof) -> Mapping[str, Any] | None:
    """The certificate of the plan that a pack keeps; none where it keeps none, or none was found in time."""
    if not pack_proof.pack.nudges:
        return None
    problem = problem_of(pack_proof, list(pack_proof.proofs.values())).problem
    try:
        footed = foot_in_time(problem, until(CERTIFYING), certify=True)
        if footed is None:
            return None
        found = certify(problem, footed)
        verify_kept(pack_proof, found)  # another plan may be as good as the one that is kept
        return found
    except (InputError, OutOfTime, Rejected):
        return None


def as_issued(container: Container) -> PackProof:
    """The pack of an issue as it went out."""
    return prove_pack(in_edition(read_pack(container.files[PACK]), container.issue.edition))


def proved_in(pack: Pack, edition: str = OWN) -> PackProof:
    """A pack as the readers of an edition get it."""
    return prove_pack(in_edition(pack, edition))
