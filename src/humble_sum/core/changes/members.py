"""Members that should be there, and placeholders for those the figures do not have."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.statements.pack import Column, Line, Members, Statement


def choose(statement: Statement, id: str, listed: Members | None) -> Statement:
    """The statement with a list of members chosen, changed, or (None) taken back.

    A member is known by a line's (or column's) label or id, whatever its case. One that is not
    there gets a placeholder beside its neighbours in the list, as much a part of their total as
    they are. Placeholders that no list asks for any more go.
    """
    lists = [each for each in statement.members if each.id != id]
    if listed is not None:
        lists.append(listed)
    bare = _without_placeholders(statement.model_copy(update={"members": tuple(lists)}))
    for each in lists:
        bare = _with_lines(bare, each) if each.axis == "lines" else _with_columns(bare, each)
    return bare


def _without_placeholders(statement: Statement) -> Statement:
    gone = {line.id for line in statement.lines if line.absent}
    gone_columns = {column.id for column in statement.columns if column.absent}
    lines = []
    for line in statement.lines:
        if line.id in gone:
            continue
        parts = tuple(part for part in line.parts if part[0] not in gone)
        lines.append(line.model_copy(update={"parts": parts}) if parts != line.parts else line)
    columns = []
    for column in statement.columns:
        if column.id in gone_columns:
            continue
        adds = column.sum and tuple(id for id in column.sum if id not in gone_columns)
        columns.append(column.model_copy(update={"sum": adds}) if adds != column.sum else column)
    return statement.model_copy(update={"lines": tuple(lines), "columns": tuple(columns)})


@dataclass(frozen=True)
class _Placeholder:
    """A member that is not there: its id and label, the neighbour it stands beside, and 1 for after
    it or 0 for before."""

    id: str
    label: str
    beside: str
    after: int


def _placeholders(statement: Statement, listed: Members) -> Iterator[_Placeholder]:
    there: Sequence[Line | Column] = statement.lines if listed.axis == "lines" else statement.columns
    found = {name: each.id for each in there for name in (each.label.casefold(), each.id.casefold())}
    known = [found.get(label.casefold()) for label in listed.members]
    if not any(known):
        one = listed.axis.removesuffix("s")
        what = f"None of the {len(known)} members is a {one} of {statement.name}."
        raise InputError(
            "bad-members", Fault("members", what, f"Write them as the {one}s' labels are written.")
        )
    taken = {each.id.lower() for each in there}
    for place, label in enumerate(listed.members):
        if known[place] is None:
            beside, after = _neighbour(known, place)
            known[place] = id = new_id(label, taken)
            yield _Placeholder(id, label, beside, after)


def _neighbour(known: Sequence[str | None], place: int) -> tuple[str, int]:
    """The nearest member that is there, and 1 to stand after it or 0 before."""
    for n in reversed(range(place)):
        if (id := known[n]) is not None:
            return id, 1
    return next(id for id in known[place:] if id is not None), 0


def _with_lines(statement: Statement, listed: Members) -> Statement:
    lines = list(statement.lines)
    for made in _placeholders(statement, listed):
        at = next(n for n, line in enumerate(lines) if line.id == made.beside)
        lines.insert(at + made.after, Line(id=made.id, label=made.label, absent=True))
        lines = [_joined(line, made) for line in lines]
    return statement.model_copy(update={"lines": tuple(lines)})


def _with_columns(statement: Statement, listed: Members) -> Statement:
    columns = list(statement.columns)
    for made in _placeholders(statement, listed):
        at = next(n for n, column in enumerate(columns) if column.id == made.beside)
        columns.insert(at + made.after, Column(id=made.id, label=made.label, absent=True))
        for n, column in enumerate(columns):
            if column.sum and made.beside in column.sum:
                at = column.sum.index(made.beside) + made.after
                columns[n] = column.model_copy(update={"sum": (*column.sum[:at], made.id, *column.sum[at:])})
    return statement.model_copy(update={"columns": tuple(columns)})


def _joined(line: Line, made: _Placeholder) -> Line:
    """A total that counts the neighbour counts the placeholder too."""
    for at, (part, sign) in enumerate(line.parts):
        if part == made.beside:
            at += made.after
            return line.model_copy(update={"parts": (*line.parts[:at], (made.id, sign), *line.parts[at:])})
    return line
