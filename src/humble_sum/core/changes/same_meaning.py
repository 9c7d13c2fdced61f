"""Whether a change that was made on an earlier state of a pack means the same on the pack as it is now."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from humble_sum.core.changes.apply import Applied, apply
from humble_sum.core.changes.command import Command, Planner
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.pack import Pack

Part = tuple[str, ...]
MARKED = ("holds", "nudges")


def carried_over(
    then: PackProof, now: PackProof, change: Command, author: str, planner: Planner, made: str
) -> Applied | None:
    """The change made on the pack as it is now, where it does there what it did on the pack as it was `then`:
    it replaces the same parts by the same, and says the same. None where others changed what it is about."""
    try:
        meant = apply(then, change, author, planner, made)
        done = apply(now, change, author, planner, made)
    except InputError:
        return None
    before = _replaced(base_of(then.pack), base_of(meant.pack))
    after = _replaced(base_of(now.pack), base_of(done.pack))
    return done if meant.says == done.says and before == after else None


def _replaced(old: Pack, new: Pack) -> list[tuple[Any, Any]]:
    """The parts that differ, each as it was and is, in order. New ones have no names of their own: a name is
    the first that is free."""
    was, becomes = dict(_parts(old)), dict(_parts(new))
    gone = [((key, said), None) for key, said in was.items() if key not in becomes]
    put = [(None, (key[0], _unnamed(said))) for key, said in becomes.items() if key not in was]
    other = [
        ((key, said), becomes[key]) for key, said in was.items() if key in becomes and becomes[key] != said
    ]
    return [*gone, *put, *other]


def _unnamed(said: Any) -> Any:
    return said.model_copy(update={"id": "new"}) if hasattr(said, "id") else said


def _parts(pack: Pack) -> Iterator[tuple[Part, Any]]:
    """A pack in parts, each of which one change can be about."""
    for statement in pack.statements:
        yield (
            ("statement", statement.id),
            (statement.name, statement.title, statement.members, statement.policy),
        )
        for line in statement.lines:
            yield ("line", statement.id, line.id), line
        for column in statement.columns:
            yield ("column", statement.id, column.id), column
    for name in MARKED:
        for mark in getattr(pack, name):
            yield (name, mark.statement, mark.line, mark.column), mark
    for rule in pack.rulebook.rules:
        yield ("rule", rule.id), rule
    for dashboard in pack.dashboards:
        yield ("dashboard", dashboard.id), (dashboard.name, dashboard.edition)
        for item in dashboard.items:
            yield ("item", dashboard.id, item.id), item
    for edition in pack.editions:
        yield ("edition", edition.id), edition
    for tie in pack.ties:
        yield ("tie", tie.id), tie
    for point in pack.points:
        yield ("point", point.id), point
    for answer in pack.document_answers:
        yield ("answer", answer.around, str(answer.alike)), answer
    for signature in pack.signatures:
        # That a signature is lifted follows from what prints, and is not what a change is about.
        yield ("signature", signature.own_key), signature.model_copy(update={"lifted": ""})
    others = (pack.entity, pack.period, pack.currency, pack.policy, pack.specimens, pack.follows)
    yield ("pack",), (*others, pack.taxonomies, pack.language, pack.own_edition, pack.taken)
