"""Changing what adds up to what: each from one statement to the next, amounts untouched.

Every function raises InputError where the change would leave nothing to add, go round in a circle
or name what is not there.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from decimal import Decimal
from typing import TypeVar

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.rules.rulebook import LineKind
from humble_sum.core.statements.pack import APART, Column, Line, Part, Statement


def totals_of(statement: Statement, line: str) -> list[tuple[Line, int]]:
    """The totals that count a line, with its sign in each, in page order."""
    return [
        (total, sign)
        for total in statement.lines
        for part, sign in total.parts
        if part == line and total.adds
    ]


def could_join(statement: Statement, line: str) -> list[Line]:
    """The totals a line could be a part of: every one that is not it and that it is not made of."""
    own = statement.line(line)
    if own is None or own.kind == "heading" or own.kind in APART:
        return []
    below = {line, *_below(statement, line)}
    return [total for total in statement.lines if total.adds and total.id not in below]


def _below(statement: Statement, line: str) -> Iterator[str]:
    """Ids of every line that `line` is made of, at any depth: joining one of them would be a circle."""
    own = statement.line(line)
    for part, _ in own.parts if own else ():
        yield part
        yield from _below(statement, part)


def make_part(statement: Statement, line: str, total: str | None, sign: int = 1) -> Statement:
    """The line a part of this total and of no other; None makes it a part of none."""
    own = _line(statement, line)
    if own.kind == "heading" or own.kind in APART:
        what = f'"{own.label}" is a {own.kind.replace("_", " ")}, which no total counts.'
        raise InputError("bad-structure", Fault("line", what, "Make it a line first."))
    if total is not None and total in {line, *_below(statement, line)}:
        what = f'"{own.label}" is made of "{_line(statement, total).label}" and cannot be a part of it.'
        raise InputError("bad-structure", Fault("total", what))
    if total is not None and not _line(statement, total).adds:
        raise InputError(
            "bad-structure", Fault("total", f'"{_line(statement, total).label}" is not a total.')
        )
    changed = []
    for each in statement.lines:
        parts = tuple(part for part in each.parts if part[0] != line)
        if each.id == total:
            parts = _in_page_order(statement, (*parts, (line, 1 if sign > 0 else -1)))
        changed.append(each if parts == each.parts else each.model_copy(update={"parts": parts}))
    return _whole(statement, changed)


def flip_sign(statement: Statement, line: str) -> Statement:
    """The line taken away where it was added, and added where it was taken away."""
    if not totals_of(statement, line):
        what = f'"{_line(statement, line).label}" is no part of a total, so it has no sign to change.'
        raise InputError("bad-structure", Fault("line", what, "Make it a part of one first."))
    changed = [
        each.model_copy(update={"parts": tuple((id, -s if id == line else s) for id, s in each.parts)})
        if any(id == line for id, _ in each.parts)
        else each
        for each in statement.lines
    ]
    return _whole(statement, changed)


def group(statement: Statement, lines: Sequence[str], id: str, label: str) -> Statement:
    """A new subtotal of these lines below the last of them, in their place in the total they were in.

    Inside it they are added; where all of them were taken away, the subtotal is taken away.
    """
    chosen = [_line(statement, line) for line in statement_order(statement, lines)]
    chosen = [line for line in chosen if line.kind != "heading"]
    if any(line.kind in APART for line in chosen) or len(chosen) < 2:
        what = "A subtotal needs two lines that totals count."
        raise InputError("bad-structure", Fault("lines", what, "Choose more with shift and the arrows."))
    owners = {tuple(total.id for total, _ in totals_of(statement, line.id)) for line in chosen}
    if len(owners) > 1:
        what = "These lines are parts of different totals."
        raise InputError("bad-structure", Fault("lines", what, "Make them parts of one first."))
    ids = {line.id for line in chosen}
    changed: list[Line] = []
    signs_within: dict[str, int] = {}
    for each in statement.lines:
        inside = [(part, sign) for part, sign in each.parts if part in ids]
        if inside:
            outer = -1 if all(sign < 0 for _, sign in inside) else 1
            signs_within = {part: sign * outer for part, sign in inside}
            kept = [part for part in each.parts if part[0] not in ids]
            at = each.parts.index(inside[0])
            parts = (*kept[:at], (id, outer), *kept[at:])
            each = each.model_copy(update={"parts": parts})
        changed.append(each)
    parts_in: list[Part] = [(line.id, 1 if signs_within.get(line.id, 1) > 0 else -1) for line in chosen]
    made = Line(id=id, label=label, kind="subtotal", parts=tuple(parts_in))
    at = max(n for n, line in enumerate(changed) if line.id in ids) + 1
    return _whole(statement, [*changed[:at], made, *changed[at:]])


def dissolve(statement: Statement, total: str) -> Statement:
    """A subtotal taken out: its parts join the totals that counted it, with signs multiplied."""
    own = _line(statement, total)
    if not own.adds or not totals_of(statement, total):
        what = f'"{own.label}" is not a subtotal within another total, so its parts have nowhere to go.'
        raise InputError("bad-structure", Fault("line", what))
    changed = []
    for each in statement.lines:
        if each.id == total:
            continue
        parts: list[Part] = []
        for id, sign in each.parts:
            if id == total:
                parts += [(part, 1 if s * sign > 0 else -1) for part, s in own.parts]
            else:
                parts.append((id, sign))
        if len({id for id, _ in parts}) < len(parts):
            raise InputError(
                "bad-structure", Fault("line", f'"{each.label}" counts some of its parts already.')
            )
        changed.append(
            each.model_copy(update={"parts": tuple(parts)}) if tuple(parts) != each.parts else each
        )
    return _whole(statement, changed)


def move(statement: Statement, line: str, before: str | None) -> Statement:
    """The line in another place on the page: right before another, or at the end."""
    own = _line(statement, line)
    others = [each for each in statement.lines if each.id != line]
    if before is None:
        return _whole(statement, [*others, own])
    _line(statement, before)
    at = next((n for n, each in enumerate(others) if each.id == before), len(others))
    if before == line:
        return statement
    return _whole(statement, [*others[:at], own, *others[at:]])


def set_kind(statement: Statement, line: str, kind: LineKind) -> Statement:
    """Another kind of line. One that stands apart leaves the totals that counted it."""
    own = _line(statement, line)
    if own.adds != (kind in ("subtotal", "total")):
        what = f'"{own.label}" {"adds its parts" if own.adds else "has no parts to add"}.'
        raise InputError(
            "bad-structure", Fault("kind", what, f"It cannot become a {kind.replace('_', ' ')}.")
        )
    if kind == "heading" and (own.amounts or totals_of(statement, line)):
        raise InputError(
            "bad-structure", Fault("kind", f'"{own.label}" has figures, so it is not a heading.')
        )
    stands_apart = kind in APART
    changed = []
    for each in statement.lines:
        if each.id == line:
            each = each.model_copy(update={"kind": kind})
        elif stands_apart and any(part == line for part, _ in each.parts):
            each = each.model_copy(update={"parts": tuple(p for p in each.parts if p[0] != line)})
        changed.append(each)
    return _whole(statement, changed)


def set_line(statement: Statement, line: str, **words: object) -> Statement:
    """The line with another label, natural sign or indent."""
    own = _line(statement, line)
    changed = Line.model_validate(own.model_dump(by_alias=False) | words)
    return _whole(statement, [changed if each.id == line else each for each in statement.lines])


def statement_order(statement: Statement, lines: Sequence[str]) -> list[str]:
    """Line ids as the page has them, each once."""
    wanted = set(lines)
    for line in wanted:
        _line(statement, line)
    return [line.id for line in statement.lines if line.id in wanted]


def _in_page_order(statement: Statement, parts: Sequence[Part]) -> tuple[Part, ...]:
    place = {line.id: n for n, line in enumerate(statement.lines)}
    return tuple(sorted(parts, key=lambda part: place[part[0]]))


def _line(statement: Statement, id: str) -> Line:
    line = statement.line(id)
    if line is None:
        raise InputError("no-such-line", Fault("line", f'There is no line "{id}".'))
    return line


def _whole(statement: Statement, lines: Sequence[Line]) -> Statement:
    for line in lines:
        if line.adds and not line.parts:
            what = f'"{line.label}" would have nothing left to add.'
            raise InputError(
                "bad-structure", Fault("lines", what, "Let its parts join another total instead.")
            )
    return statement.model_copy(update={"lines": tuple(lines)})


def takes_rounding(statement: Statement, total: Line) -> bool:
    """Whether a line is a total without a rounding line of its own."""
    rounding = {line.id for line in statement.lines if line.rounding}
    return total.adds and not any(id in rounding for id, _ in total.parts)


def add_rounding(statement: Statement, total: str, label: str) -> Statement:
    """The statement with a line above a total that prints what its other parts miss by rounding."""
    own = _line(statement, total)
    if not own.adds:
        raise InputError(
            "bad-structure", Fault("total", f'"{own.label}" is not a total.', "Name one that adds.")
        )
    if not takes_rounding(statement, own):
        raise InputError("bad-structure", Fault("total", f"{own.label} has a rounding line already."))
    amounts = {column.id: Decimal(0) for column in statement.columns if not column.derived}
    id = new_id(label, {line.id.lower() for line in statement.lines})
    line = Line(id=id, label=label, amounts=amounts, rounding=True)
    # A rounding line is the answer now, in place of any other.
    grown = own.model_copy(update={"parts": (*own.parts, (id, 1)), "answer": "nudge", "answers": {}})
    lines: list[Line] = []
    for each in statement.lines:
        lines += [line, grown] if each is own else [each]
    return statement.model_copy(update={"lines": tuple(lines)})


def answers_left(statement: Statement) -> Statement:
    """The statement without what was answered of lines and columns that are no more."""
    lines, columns = ({each.id for each in some} for some in (statement.lines, statement.columns))
    if all(line.answers.keys() <= columns for line in statement.lines) and all(
        column.answers.keys() <= lines for column in statement.columns
    ):
        return statement

    return statement.model_copy(
        update={
            "lines": tuple(_answers_of(line, columns) for line in statement.lines),
            "columns": tuple(_answers_of(column, lines) for column in statement.columns),
        }
    )


Answering = TypeVar("Answering", Line, Column)


def _answers_of(each: Answering, known: set[str]) -> Answering:
    left = {id: answer for id, answer in each.answers.items() if id in known}
    return each if left == each.answers else each.model_copy(update={"answers": left})
