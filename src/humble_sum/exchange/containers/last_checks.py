"""The last checks of an edition, with what its dashboards place and what was published before."""

from __future__ import annotations

from humble_sum.core.issue.checklist import checklist
from humble_sum.core.issue.document_check import document_check
from humble_sum.core.issue.last_check import Check
from humble_sum.core.places.places_report import placed_on
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.exchange.documents.record_csv import read_record


def checks_of(
    pack_proof: PackProof, before: PackProof | None = None, documents: bytes | None = None
) -> tuple[Check, ...]:
    """The checklist of an edition. `before` is the pack as it went out last, `documents` the record of the
    documents that have to agree with it, where there are any."""
    pack = pack_proof.pack
    placed = [
        found
        for board in pack.dashboards
        if board.edition == pack.shown
        for found in placed_on(board, pack_proof)
    ]
    found = checklist(pack_proof, placed, published(pack_proof, before) if before else {})
    return found if documents is None else (*found, document_check(read_record(documents)))


def published(pack_proof: PackProof, before: PackProof) -> dict[FigureRef, str]:
    """What figures of published columns printed when they went out."""
    found: dict[FigureRef, str] = {}
    for id, proof in before.proofs.items():
        now = pack_proof.proofs.get(id)
        marked = {column.id for column in now.statement.columns if column.published} if now else set()
        for (line, column), figure in proof.figures.items():
            if column in marked:
                found[id, line, column] = figure.printed.full_text
    return found
