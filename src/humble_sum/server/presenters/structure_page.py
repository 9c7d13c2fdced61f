"""A line's place in its statement: its sentence, its parts, and ready commands to rearrange them."""

from __future__ import annotations

from humble_sum.core.changes.structure import totals_of
from humble_sum.core.changes.structure_commands import (
    DissolveTotal,
    FlipSign,
    GroupLines,
    MoveLine,
    SetMembers,
)
from humble_sum.core.changes.structure_sentence import line_sentence
from humble_sum.core.statements.pack import Column, Line, Members, Statement
from humble_sum.server.figure_schemas import MembersView, PartView, StructureView
from humble_sum.server.presenters.word_page import sentence_view

NOBODY = Members.model_construct(id="members", label="Members", axis="lines", members=())


def structure_view(statement: Statement, line: Line, column: Column) -> StructureView:
    """What a line is, what counts it and with which sign, and what it adds."""
    lists = statement.members
    if all(each.id != NOBODY.id for each in lists):
        lists = (*lists, NOBODY)
    earlier, later = _moves(statement, line)
    counted = bool(totals_of(statement, line.id))
    own = {"statement": statement.id, "line": line.id}
    return StructureView(
        sentence=sentence_view(line_sentence(statement, line, column)),
        parts=[_part(statement, part, sign) for part, sign in line.parts],
        flip=FlipSign(kind="flip_sign", **own) if counted else None,
        earlier=earlier,
        later=later,
        dissolve=DissolveTotal(kind="dissolve", **own) if line.adds and counted else None,
        group=GroupLines.model_construct(kind="group", statement=statement.id, lines=[line.id], label=""),
        members=[_members(statement, each) for each in lists],
    )


def _part(statement: Statement, part: str, sign: int) -> PartView:
    line = statement.line(part)
    return PartView(
        line=part,
        label=line.label if line else part,
        sign=1 if sign > 0 else -1,
        flip=FlipSign(kind="flip_sign", statement=statement.id, line=part),
    )


def _moves(statement: Statement, line: Line) -> tuple[MoveLine | None, MoveLine | None]:
    """One place up and one place down, where there is one."""
    ids = [each.id for each in statement.lines]
    at = ids.index(line.id)

    def before(id: str | None) -> MoveLine:
        return MoveLine(kind="move_line", statement=statement.id, line=line.id, before=id)

    after_next = ids[at + 2] if at + 2 < len(ids) else None
    return before(ids[at - 1]) if at else None, before(after_next) if at + 1 < len(ids) else None


def _members(statement: Statement, chosen: Members) -> MembersView:
    absent = {line.label for line in statement.lines if line.absent}
    absent |= {column.label for column in statement.columns if column.absent}
    return MembersView(
        id=chosen.id,
        label=chosen.label,
        axis=chosen.axis,
        members=list(chosen.members),
        absent=[label for label in chosen.members if label in absent],
        change=SetMembers(
            kind="set_members",
            statement=statement.id,
            id=chosen.id,
            label=chosen.label,
            axis=chosen.axis,
            members=list(chosen.members),
        ),
    )
