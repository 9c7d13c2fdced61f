"""How a pack stands in one edition, in a line: what a group's close looks at."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.issue.review_checks import Signed, signed_pages
from humble_sum.core.places.places_report import placed_on
from humble_sum.core.proof.findings import findings_of
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.review.points import unsettled
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.review_marks import Role

Count = Annotated[int, Field(ge=0)]


class PackStanding(BaseModel):
    """What is open in a pack, who signed it, and its first total as printed, with what that is called."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    statement: str = Field(description="Its first statement.")
    headline: str
    headline_name: str
    unit: str
    gaps: Count
    ties: Count
    apart: Count = Field(description="Ties that do not agree as printed.")
    places: Count = Field(description="Placed figures that do not agree with their page.")
    breaks: Count = Field(description="Sums that do not add as exact amounts.")
    takes: Count = Field(description="Figures that are taken from other packs.")
    points: Count = Field(description="Points that are not settled.")
    prepared: str
    reviewed: str
    style: str = Field(description="The house style it follows, with its version.")

    @property
    def open(self) -> int:
        """How much is open."""
        return self.gaps + self.apart + self.places + self.breaks + self.points


def standing_of(pack_proof: PackProof) -> PackStanding:
    """How a pack stands in the edition that it is proved in."""
    pack = pack_proof.pack
    found = [each for id in pack_proof.proofs for each in findings_of(pack_proof, id)]
    tied = [each for each in found if each.relation.startswith("tie:")]
    sums = [each for each in found if not each.relation.startswith("tie:")]
    boards = (board for board in pack.dashboards if board.edition == pack.shown)
    placed = (each for board in boards for each in placed_on(board, pack_proof))
    name, text, unit = _headline(pack_proof)
    return PackStanding(
        statement=pack.statements[0].id,
        headline=text,
        headline_name=name,
        unit=unit,
        gaps=sum(each.status == "gap" for each in sums),
        ties=len(pack_proof.ties),
        apart=len({each.relation for each in tied}),
        places=sum(each.agrees.standing != "agrees" for each in placed),
        breaks=sum(each.status == "break" for each in sums),
        takes=len(pack.taken),
        points=len(unsettled(pack)),
        prepared=_signed(pack_proof, "prepared"),
        reviewed=_signed(pack_proof, "reviewed"),
        style=pack.follows.said if pack.follows else "",
    )


def _headline_ref(pack_proof: PackProof) -> FigureRef | None:
    """The first total of the first statement, in its first column; else its first figure."""
    for id, proof in pack_proof.proofs.items():
        column = proof.statement.columns[0].id
        lines = proof.statement.figured
        total = next((line for line in reversed(lines[: len(lines) // 2]) if line.adds), None)
        line = total or next((line for line in lines if line.adds), lines[0] if lines else None)
        if line is not None:
            return id, line.id, column
    return None


def _headline(pack_proof: PackProof) -> tuple[str, str, str]:
    ref = _headline_ref(pack_proof)
    if ref is None:
        return "", "", ""
    proof = pack_proof.proofs[ref[0]]
    line = proof.statement.line(ref[1])
    figure = proof.figures[ref[1], ref[2]]
    return line.label if line else ref[1], figure.printed.full_text, proof.caption


def _signed(pack_proof: PackProof, role: Role) -> str:
    """Who signed in a role, and how much prints otherwise since; nothing where a page is not signed."""
    pages = list(signed_pages(pack_proof, role))
    names = sorted({each.author or "somebody" for page in pages for each in page.standing})
    since = sum(_changed(page) for page in pages)
    missing = sum(not page.signatures for page in pages)
    if not any(page.signatures for page in pages):
        return ""
    said = ", ".join(names) or "nobody now"
    said += f", {since} since" if since else ""
    return said + (f", {missing} of {len(pages)} pages not" if missing else "")


def _changed(page: Signed) -> int:
    """How many figures of a page print otherwise than its last signature saw."""
    if page.standing or not page.signatures:
        return 0
    changed = page.signatures[-1][1]
    return len(changed.figures) or 1 if changed else 0
