"""A change made to a pack: in the edition it is made in, or in the pack behind it, and signed."""

from __future__ import annotations

from typing import NamedTuple

from pydantic import BaseModel

from humble_sum.core.changes.command import Command, Planner
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.plan import plan
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.review.signatures import relifted
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import EditionPack, in_edition, put_back
from humble_sum.core.statements.pack import Pack


class Applied(NamedTuple):
    """A pack after a change, and what the change did in words."""

    pack: Pack
    says: str


def apply(
    pack_proof: PackProof, change: Command, author: str = "", planner: Planner = plan, made: str = ""
) -> Applied:
    """The pack after the change, and what it did; the holds and nudges it makes carry the author's
    name and the time it is `made`. Plans come from the `planner`. Raises InputError.

    A pack in one of its editions stays in it: what is held, nudged, planned and said there is the
    edition's own, and everything else is changed in the pack.
    """
    pack = pack_proof.pack
    if isinstance(pack, EditionPack) and not change.in_one_edition:
        made_in_pack = apply(prove_pack(pack.base), change, author, planner, made)
        there = made_in_pack.pack.edition(pack.shown)
        return Applied(in_edition(made_in_pack.pack, pack.shown if there else OWN), made_in_pack.says)
    new, says = change.make(pack_proof, planner)
    signed = _signed(pack, new, author, made)
    if isinstance(signed, EditionPack):
        signed = in_edition(put_back(signed), signed.shown)
    return Applied(relifted(pack_proof, signed, made), says)


def apply_change(pack: Pack, change: Command, author: str = "", made: str = "") -> Applied:
    """A pack after one change, and what it did in words. Raises InputError; the pack is then as it was."""
    return apply(prove_pack(pack), change, author, made=made)


def page_of(pack: Pack, change: BaseModel) -> str:
    """The statement a change is made on; the first one for a change that is on none."""
    return str(getattr(change, "statement", None) or pack.statements[0].id)


def _signed(old: Pack, new: Pack, author: str, at: str) -> Pack:
    """The pack with its new holds and nudges signed."""
    new = _named(old, new, author, at)
    holds, nudges = set(old.holds), set(old.nudges)
    if all(hold in holds for hold in new.holds) and all(nudge in nudges for nudge in new.nudges):
        return new
    made = {"author": author, "made": at}
    return new.model_copy(
        update={
            "holds": tuple(h if h in holds else h.model_copy(update=made) for h in new.holds),
            "nudges": tuple(n if n in nudges else n.model_copy(update=made) for n in new.nudges),
        }
    )


def _named(old: Pack, new: Pack, author: str, at: str) -> Pack:
    """The pack with its new points, answers and signatures under the author's name. Raises InputError for a
    signature of nobody."""
    by = {"author": author, "made": at}
    if new.document_answers is not old.document_answers:
        known_answers = {id(each) for each in old.document_answers}
        answers = tuple(
            each if id(each) in known_answers else each.model_copy(update=by) for each in new.document_answers
        )
        new = new.model_copy(update={"document_answers": answers})
    if new.points is old.points and new.signatures is old.signatures:
        return new
    were = {point.id: point for point in old.points}
    points = []
    for point in new.points:
        before = were.get(point.id)
        if before is None:
            point = point.model_copy(update=by)
        elif len(point.answers) > len(before.answers):
            last = point.answers[-1].model_copy(update=by)
            point = point.model_copy(update={"answers": (*point.answers[:-1], last)})
        points.append(point)
    known = {id(each) for each in old.signatures}
    given = [each for each in new.signatures if id(each) not in known]
    if given and not author.strip():
        raise InputError("no-name", Fault("author", "A signature needs a name.", "Say who you are first."))
    again = {(each.role, each.under, author) for each in given}
    signatures = [
        each
        for each in new.signatures
        if id(each) in known and (each.role, each.under, each.author) not in again
    ]
    signatures += [each.model_copy(update=by) for each in given]
    return new.model_copy(update={"points": tuple(points), "signatures": tuple(signatures)})
