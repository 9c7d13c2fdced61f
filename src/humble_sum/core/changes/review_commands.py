"""The changes of reviewers: points put, answered and settled, and signatures given and taken back."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BeforeValidator, Field

from humble_sum.core.changes.command import OnPack
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.review.points import describe_subject
from humble_sum.core.review.signatures import sign
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.names import Reason, cleaned, shortened
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.review_marks import Answer, Point, Role, Signature, Subject, Words

MOST_SAID = 60  # characters of a point in history
MOST_POINTS = 2_000


class PutPoint(OnPack):
    """Put a point on a figure, a line, a statement, an item of a dashboard, a dashboard or the pack."""

    of_review = True
    kind: Literal["put_point"]
    on: Subject
    edition: Id = OWN
    words: Words

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        what = describe_subject(pack, self.on)
        if what is None:
            fault = Fault("on", "What this point is on is not in the pack.", "Choose what is there.")
            raise InputError("no-such-subject", fault)
        if len(pack.points) >= MOST_POINTS:
            fault = Fault("points", f"A pack has at most {MOST_POINTS:,} points.", "Take out some of them.")
            raise InputError("too-many-points", fault)
        id = new_id("point", {point.id for point in pack.points})
        point = Point(id=id, on=self.on, edition=self.edition, words=self.words)
        said = shortened(self.words, MOST_SAID)
        return pack.model_copy(update={"points": (*pack.points, point)}), f"Point on {what}: {said}"


class AnswerPoint(OnPack):
    """Answer a point: in words, or by a change, whose number in history it gives."""

    of_review = True
    kind: Literal["answer_point"]
    point: Id
    words: Annotated[str, Field(max_length=2_000), BeforeValidator(cleaned)] = ""
    change: Annotated[int, Field(ge=1)] | None = None
    did: Reason = ""

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        point = _point(pack, self.point)
        if not self.words.strip() and self.change is None:
            raise InputError("bad-request", Fault("words", "An answer needs words.", "Write what it is."))
        answer = Answer(words=self.words, change=self.change, did=self.did)
        changed = {"answers": (*point.answers, answer), "standing": "answered"}
        said = shortened(self.words or self.did or f"by change {self.change}", MOST_SAID)
        return _with_point(pack, point.model_copy(update=changed)), f"Point answered: {said}"


class SettlePoint(OnPack):
    """Settle a point, or open it again."""

    of_review = True
    kind: Literal["settle_point"]
    point: Id
    settled: bool = True

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        point = _point(pack, self.point)
        standing = "settled" if self.settled else "open"
        said = f"Point {'settled' if self.settled else 'open again'}: {shortened(point.words, MOST_SAID)}"
        return _with_point(pack, point.model_copy(update={"standing": standing})), said


class RemovePoint(OnPack):
    """Take a point out, with its answers; history keeps it."""

    kind: Literal["remove_point"]
    point: Id

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        point = _point(pack, self.point)
        left = tuple(each for each in pack.points if each.id != point.id)
        return pack.model_copy(update={"points": left}), f"Point out: {shortened(point.words, MOST_SAID)}"


class Sign(OnPack):
    """Sign statements and dashboards of an edition as they print now: as who prepared or reviewed them."""

    of_review = True
    kind: Literal["sign"]
    role: Role
    edition: Id = OWN
    statements: Annotated[tuple[Id, ...], Field(max_length=200)] = ()
    dashboards: Annotated[tuple[Id, ...], Field(max_length=60)] = ()

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        given = [sign(pack, self.role, self.edition, id, None) for id in dict.fromkeys(self.statements)]
        given += [sign(pack, self.role, self.edition, None, id) for id in dict.fromkeys(self.dashboards)]
        if not given:
            fault = Fault("statements", "Nothing to sign is named.", "Name a statement or a dashboard.")
            raise InputError("bad-request", fault)
        under = {each.under for each in given}
        # What was lifted or came with a file gives way; others who signed what stands stay.
        left = [
            each
            for each in pack.signatures
            if each.role != self.role or each.under not in under or not (each.lifted or each.brought)
        ]
        named = ", ".join(name_of(pack, each) for each in given[:3])
        more = f" and {len(given) - 3} more" if len(given) > 3 else ""
        signed = pack.model_copy(update={"signatures": (*left, *given)})
        return signed, f"Signed as {self.role}: {named}{more}"


class Unsign(OnPack):
    """Take signatures in a role back, under a statement or a dashboard of an edition."""

    of_review = True
    kind: Literal["unsign"]
    role: Role
    edition: Id = OWN
    statement: Id | None = None
    dashboard: Id | None = None
    author: Annotated[str, Field(max_length=80)]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        under = (self.statement, self.dashboard, self.edition)
        gone = [
            each
            for each in pack.signatures
            if (each.role, each.under, each.author) == (self.role, under, self.author)
        ]
        if not gone:
            raise InputError("no-such-signature", Fault("author", "There is no such signature."))
        left = tuple(each for each in pack.signatures if each not in gone)
        said = f"Signature taken back: {name_of(pack, gone[0])}, {self.role} by {self.author}"
        return pack.model_copy(update={"signatures": left}), said


def name_of(pack: Pack, signature: Signature) -> str:
    """What a signature is under, in words."""
    if signature.statement is not None:
        statement = pack.statement(signature.statement)
        return statement.name if statement else signature.statement
    dashboard = pack.dashboard(signature.dashboard or "")
    return dashboard.name if dashboard else str(signature.dashboard)


def _point(pack: Pack, id: str) -> Point:
    found = next((point for point in pack.points if point.id == id), None)
    if found is None:
        raise InputError("no-such-point", Fault("point", f'There is no point "{id}".'))
    return found


def _with_point(pack: Pack, point: Point) -> Pack:
    points = tuple(point if each.id == point.id else each for each in pack.points)
    return pack.model_copy(update={"points": points})
