"""The last checks of what reviewers put to an edition: its points, and who signed what it prints.

They are asked of a pack that has a point or a signature: who works alone signs with the issue itself.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from humble_sum.core.changes.review_commands import Sign
from humble_sum.core.issue.last_check import Check, Open
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.review.points import describe_subject, unsettled
from humble_sum.core.review.printed_state import printed_dashboard, printed_statement
from humble_sum.core.review.signatures import Since, since
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.names import shortened
from humble_sum.core.statements.review_marks import Role, Signature

MOST_WORDS = 80  # characters of a point


@dataclass(frozen=True)
class Signed:
    """A page of an edition with its signatures in one role; each with what prints otherwise since."""

    name: str
    statement: str | None
    dashboard: str | None
    signatures: tuple[tuple[Signature, Since | None], ...]

    @property
    def standing(self) -> list[Signature]:
        """Those under what prints as it was signed, given here."""
        return [each for each, changed in self.signatures if changed is None and not each.brought]


def review_checks(pack_proof: PackProof) -> Iterator[Check]:
    """The checks of points and signatures; none of a pack that has neither."""
    pack = pack_proof.pack
    if not pack.points and not pack.signatures:
        return
    left = unsettled(pack)
    open_ = tuple(
        Open(
            f"{describe_subject(base_of(pack), point.on) or 'What is gone'}: "
            f"{shortened(point.words, MOST_WORDS)} ({point.standing})",
            point.on.statement,
            (point.on.statement, point.on.line, point.on.column)
            if point.on.statement and point.on.line and point.on.column
            else None,
            point.on.dashboard,
        )
        for point in left
    )
    evidence = f"{len(pack.points)} put, {len(pack.points) - len(left)} settled"
    yield Check("points", "No point is open", evidence, open_)
    prepared = list(signed_pages(pack_proof, "prepared"))
    reviewed = list(signed_pages(pack_proof, "reviewed"))
    yield _signatures(pack_proof, "prepared", prepared)
    names = [{each.author for each in page.standing} for page in prepared]
    alone = tuple(
        Open(f"{page.name} is prepared and reviewed by {min(by)} alone", page.statement, None, page.dashboard)
        for page, by in zip(reviewed, names, strict=True)
        if len(by) == 1 and {each.author for each in page.standing} == by
    )
    check = _signatures(pack_proof, "reviewed", reviewed)
    yield Check(check.id, check.says, check.evidence, (*check.open, *alone), check.settle)


def signed_pages(pack_proof: PackProof, role: Role) -> Iterator[Signed]:
    """Every statement and dashboard of the edition, with its signatures in a role."""
    pack = pack_proof.pack
    given = [each for each in pack.signatures if each.role == role and each.edition == pack.shown]
    for id, proof in pack_proof.proofs.items():
        own = [each for each in given if each.statement == id]
        now = printed_statement(pack, proof) if own else None
        signatures = tuple((each, since(each, now)) for each in own if now is not None)
        yield Signed(proof.statement.name, id, None, signatures)
    for board in pack.dashboards:
        if board.edition == pack.shown:
            own = [each for each in given if each.dashboard == board.id]
            now = printed_dashboard(pack_proof, board) if own else None
            signatures = tuple((each, since(each, now)) for each in own if now is not None)
            yield Signed(board.name, None, board.id, signatures)


def reviewers(pack_proof: PackProof) -> str:
    """Who signed the edition as reviewed, on any page, by name; only signatures that stand count."""
    pages = signed_pages(pack_proof, "reviewed")
    return ", ".join(sorted({each.author for page in pages for each in page.standing}))


def _signatures(pack_proof: PackProof, role: Role, pages: list[Signed]) -> Check:
    missing = [page for page in pages if not page.standing]
    open_ = tuple(Open(_why(page, role), page.statement, None, page.dashboard) for page in missing)
    names = sorted({each.author for page in pages for each in page.standing})
    by = f" by {', '.join(names)}" if names else ""
    evidence = f"{len(pages) - len(missing)} of {len(pages)} signed{by}"
    settle = None
    if missing:
        settle = Sign(
            kind="sign",
            role=role,
            edition=pack_proof.pack.shown,
            statements=tuple(page.statement for page in missing if page.statement),
            dashboards=tuple(page.dashboard for page in missing if page.dashboard),
        )
    return Check(role, f"Every page is signed by who {role} it", evidence, open_, settle)


def _why(page: Signed, role: Role) -> str:
    """Why a page has no signature that stands."""
    for each, changed in reversed(page.signatures):
        if changed is not None:
            return f"{page.name}: signed by {each.author}, {changed.says}"
        return f"{page.name}: the signature of {each.author} came with a file"
    return f"{page.name} is not signed as {role}"
