"""Points and signatures of a pack, as the desk shows them."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.review_commands import Sign, Unsign
from humble_sum.core.issue.review_checks import Signed, signed_pages
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.review.points import awaits, describe_subject
from humble_sum.core.review.signatures import Since
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.review_marks import Answer, Point, PointStanding, Role, Signature
from humble_sum.server.presenters.times import shown_time
from humble_sum.server.schemas import Ready

MOST_CHANGED = 8  # figures named of those that print otherwise since a signature


class AnswerView(BaseModel):
    """What was said to a point; `change` is the number in history of a change made for it."""

    words: str
    did: str
    change: int | None
    author: str
    when: str


class ReviewPointView(BaseModel):
    """A point: what it is on, who put it, its answers, and whether it waits for who asks."""

    id: str
    on: str = Field(description="What it is on, in words; empty where that is gone.")
    statement: str | None
    line: str | None
    column: str | None
    dashboard: str | None
    item: str | None
    edition: str
    words: str
    author: str
    when: str
    answers: list[AnswerView]
    standing: PointStanding
    waits: bool = Field(description="Whether it waits for whoever asks.")


class SignatureView(BaseModel):
    """A signature, and what prints otherwise since it was given."""

    author: str
    when: str
    standing: Literal["stands", "lifted", "brought"]
    says: str = Field(description='Since when and how much prints otherwise: "3 figures since 09:41".')
    changed: list[str] = Field(description="The first figures that print otherwise, with what they printed.")
    more: int = Field(description="How many more there are.")
    take_back: Ready | None = Field(description="Takes it back, where it is the one of whoever asks.")


class PageSignedView(BaseModel):
    """A statement or a dashboard with its signatures, and the commands that sign it."""

    name: str
    statement: str | None
    dashboard: str | None
    prepared: list[SignatureView]
    reviewed: list[SignatureView]


class SignAllView(BaseModel):
    """Signs every page of the edition that has no signature that stands; null where all have."""

    prepared: Ready | None
    reviewed: Ready | None


class ReviewView(BaseModel):
    """The points of a pack, and who signed which page of the edition."""

    revision: int
    edition: str
    me: str = Field(description="The name that points and signatures of whoever asks have.")
    points: list[ReviewPointView]
    waiting: int = Field(description="How many points wait for whoever asks.")
    pages: list[PageSignedView]
    sign: SignAllView


def review_view(pack_proof: PackProof, revision: int, me: str) -> ReviewView:
    """Points and signatures for somebody, in the edition that the pack is proved in."""
    pack = base_of(pack_proof.pack)
    points = [_point(pack_proof, each, me) for each in pack.points]
    prepared, reviewed = (list(signed_pages(pack_proof, role)) for role in ("prepared", "reviewed"))
    pages = [
        PageSignedView(
            name=one.name,
            statement=one.statement,
            dashboard=one.dashboard,
            prepared=[_signature(pack_proof, one, *each, me) for each in one.signatures],
            reviewed=[_signature(pack_proof, other, *each, me) for each in other.signatures],
        )
        for one, other in zip(prepared, reviewed, strict=True)
    ]
    edition = pack_proof.pack.shown
    return ReviewView(
        revision=revision,
        edition=edition,
        me=me,
        points=points,
        waiting=sum(point.waits for point in points),
        pages=pages,
        sign=SignAllView(
            prepared=_sign("prepared", edition, prepared), reviewed=_sign("reviewed", edition, reviewed)
        ),
    )


def _sign(role: Role, edition: str, pages: list[Signed]) -> Sign | None:
    left = [page for page in pages if not page.standing]
    if not left:
        return None
    statements = tuple(page.statement for page in left if page.statement)
    dashboards = tuple(page.dashboard for page in left if page.dashboard)
    return Sign(kind="sign", role=role, edition=edition, statements=statements, dashboards=dashboards)


def _point(pack_proof: PackProof, of: Point, me: str) -> ReviewPointView:
    return ReviewPointView(
        id=of.id,
        on=describe_subject(base_of(pack_proof.pack), of.on) or "",
        **of.on.model_dump(),
        edition=of.edition,
        words=of.words,
        author=of.author,
        when=shown_time(of.made),
        answers=[_answer(each) for each in of.answers],
        standing=of.standing,
        waits=awaits(of, me),
    )


def _answer(of: Answer) -> AnswerView:
    return AnswerView(
        words=of.words, did=of.did, change=of.change, author=of.author, when=shown_time(of.made)
    )


def _signature(
    pack_proof: PackProof, page: Signed, of: Signature, changed: Since | None, me: str
) -> SignatureView:
    standing: Literal["stands", "lifted", "brought"] = "stands" if changed is None else "lifted"
    if of.brought:
        standing = "brought"
    says = "came with a file" if of.brought else ""
    if changed is not None:
        says = f"{changed.says} {shown_time(of.lifted)}".strip()
    own = of.author == me and not of.brought
    take_back = Unsign(
        kind="unsign",
        role=of.role,
        edition=of.edition,
        statement=of.statement,
        dashboard=of.dashboard,
        author=of.author,
    )
    return SignatureView(
        author=of.author,
        when=shown_time(of.made),
        standing=standing,
        says=says,
        changed=_changed(pack_proof, page, changed) if changed else [],
        more=max(0, len(changed.figures) - MOST_CHANGED) if changed else 0,
        take_back=take_back if own else None,
    )


def _changed(pack_proof: PackProof, page: Signed, changed: Since) -> list[str]:
    """The first figures that print otherwise: "Crew, 2025–26: 649, was 648"."""
    said = []
    grid = pack_proof.proofs[page.statement].grid if page.statement else None
    for line, column, was, now in changed.figures[:MOST_CHANGED]:
        name = f"{grid.labels.get(line, line)}, {grid.heads.get(column, column)}: " if grid else ""
        said.append(f"{name}{now or 'a blank'}, was {was or 'a blank'}")
    return said
