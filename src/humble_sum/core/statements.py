"""Packs, statements, lines and columns, and the checks that make a pack whole."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from graphlib import CycleError, TopologicalSorter
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amounts import Amount
from humble_sum.core.clauses import Currency
from humble_sum.core.faults import Fault, Refused
from humble_sum.core.rules import Id, Rulebook

LineKind = Literal["heading", "line", "subtotal", "total"]
Label = Annotated[str, Field(min_length=1, max_length=200)]
Part = tuple[Id, Literal[1, -1]]


class Column(BaseModel):
    """A period given by the figures' owner, or derived: the difference or the sum of others."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    label: Label
    difference: tuple[Id, Id] | None = Field(
        default=None, description="Derived: the first column minus the second."
    )
    sum: tuple[Id, ...] | None = Field(
        default=None, min_length=2, description="Derived: these columns added, as quarters make a year."
    )

    @property
    def terms(self) -> tuple[tuple[str, int], ...]:
        """The columns a derived one is made of, with signs; none for a given one."""
        if self.difference:
            return ((self.difference[0], 1), (self.difference[1], -1))
        return tuple((id, 1) for id in self.sum or ())


class Line(BaseModel):
    """One row. A total's parts are the signed lines it adds; its amounts follow from them.

    An amount left out or null is missing, which is not zero. A total may state amounts of its
    own; where they are not the sum of its parts the statement has a source break.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    label: Label
    kind: LineKind = "line"
    parts: tuple[Part, ...] = ()
    amounts: dict[Id, Amount | None] = Field(default_factory=dict)

    @property
    def adds(self) -> bool:
        return self.kind in ("subtotal", "total")


class Statement(BaseModel):
    """Lines by columns under a title; `name` is the short one."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    name: Label
    title: Label
    columns: tuple[Column, ...] = Field(min_length=1)
    lines: tuple[Line, ...] = Field(min_length=1)

    @property
    def figured(self) -> list[Line]:
        """The lines that have figures."""
        return [line for line in self.lines if line.kind != "heading"]

    def line(self, id: str) -> Line | None:
        return next((line for line in self.lines if line.id == id), None)

    def column(self, id: str) -> Column | None:
        return next((column for column in self.columns if column.id == id), None)


class Hold(BaseModel):
    """A figure that may not be nudged.

    `printed` is the amount it has to print, exact; null holds it at its own rounding. At
    another unit a held amount prints rounded to that unit.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    statement: Id
    line: Id
    column: Id
    printed: Amount | None = None
    reason: Annotated[str, Field(max_length=500)] = ""


class Nudge(BaseModel):
    """A figure that prints the neighbouring step, made at the unit 10**`exponent`.

    At another unit it rests: it says nothing about a step it was not chosen for.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    statement: Id
    line: Id
    column: Id
    units: int
    exponent: int
    natural: int
    reason: Annotated[str, Field(max_length=500)] = ""
    plan: Annotated[str, Field(max_length=500)] = ""
    made: Annotated[str, Field(max_length=40)] = ""


class Pack(BaseModel):
    """One entity and period: its statements, rulebook, holds and nudges."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    entity: Label
    period: Label
    currency: Currency = None
    statements: tuple[Statement, ...] = Field(min_length=1)
    rulebook: Rulebook = Rulebook()
    holds: tuple[Hold, ...] = ()
    nudges: tuple[Nudge, ...] = ()

    def statement(self, id: str) -> Statement | None:
        return next((statement for statement in self.statements if statement.id == id), None)


def check(pack: Pack) -> None:
    """Raise Refused with every duplicate, unknown or circular id in the pack."""
    faults = list(_twice([s.id for s in pack.statements], "statements"))
    for number, statement in enumerate(pack.statements):
        faults += _statement_faults(statement, f"statements[{number}]")
    faults += _twice([rule.id for rule in pack.rulebook.rules], "rulebook.rules")
    for number, rule in enumerate(pack.rulebook.rules):
        reach = rule.reach
        faults += _place_faults(
            pack, reach.statement, reach.line, reach.column, f"rulebook.rules[{number}].reach"
        )
    holds = [(hold.statement, hold.line, hold.column) for hold in pack.holds]
    nudges = [(nudge.statement, nudge.line, nudge.column) for nudge in pack.nudges]
    for name, marks in (("holds", holds), ("nudges", nudges)):
        for number, mark in enumerate(marks):
            faults += _mark_faults(pack, *mark, f"{name}[{number}]")
        faults += _twice(["/".join(mark) for mark in marks], name)
    if faults:
        raise Refused("bad-pack", faults)


def _twice(ids: Sequence[str], where: str) -> Iterator[Fault]:
    seen: set[str] = set()
    for number, id in enumerate(ids):
        if id in seen:
            yield Fault(f"{where}[{number}]", f'"{id}" is there twice.', "Give each one an id of its own.")
        seen.add(id)


def _place_faults(
    pack: Pack, statement: str | None, line: str | None, column: str | None, where: str
) -> Iterator[Fault]:
    among = [s for s in pack.statements if statement in (None, s.id)]
    if not among:
        yield Fault(f"{where}.statement", f'There is no statement "{statement}".')
        return
    if line is not None and not any(s.line(line) for s in among):
        yield Fault(f"{where}.line", f'There is no line "{line}".')
    if column is not None and not any(s.column(column) for s in among):
        yield Fault(f"{where}.column", f'There is no column "{column}".')


def _mark_faults(pack: Pack, statement: str, line: str, column: str, where: str) -> Iterator[Fault]:
    """Faults of a hold's or a nudge's figure."""
    found = list(_place_faults(pack, statement, line, column, where))
    yield from found
    owner = pack.statement(statement)
    row = owner.line(line) if owner else None
    if row is not None and row.kind == "heading":
        yield Fault(f"{where}.line", f'"{line}" is a heading and has no figure.')


def _statement_faults(statement: Statement, where: str) -> Iterator[Fault]:
    yield from _twice([line.id for line in statement.lines], f"{where}.lines")
    yield from _twice([column.id for column in statement.columns], f"{where}.columns")
    columns = {column.id: column for column in statement.columns}
    lines = {line.id: line for line in statement.lines}
    for number, column in enumerate(statement.columns):
        place = f"{where}.columns[{number}]"
        if column.difference and column.sum:
            yield Fault(place, f'The column "{column.id}" is a difference and a sum.', "Make it one of them.")
        for id, _ in column.terms:
            if id not in columns:
                named = "difference" if column.difference else "sum"
                yield Fault(f"{place}.{named}", f'There is no column "{id}".')
        yield from _twice([id for id, _ in column.terms], place)
    for number, line in enumerate(statement.lines):
        yield from _line_faults(line, lines, columns, f"{where}.lines[{number}]")
    derived = {c.id: [id for id, _ in c.terms if id in columns] for c in statement.columns}
    summed = {line.id: [id for id, _ in line.parts if id in lines] for line in statement.lines}
    yield from _circle(derived, f"{where}.columns", "The derived columns go round in a circle")
    yield from _circle(summed, f"{where}.lines", "The sums go round in a circle")


def _line_faults(
    line: Line, lines: Mapping[str, Line], columns: Mapping[str, Column], where: str
) -> Iterator[Fault]:
    if line.kind == "heading" and (line.amounts or line.parts):
        yield Fault(where, f'The heading "{line.id}" has amounts or parts.', 'Make it a "line" or a "total".')
    if line.kind == "line" and line.parts:
        yield Fault(
            f"{where}.parts", f'The line "{line.id}" has parts.', 'Make it a "subtotal" or a "total".'
        )
    if line.adds and not line.parts:
        yield Fault(f"{where}.parts", f'The {line.kind} "{line.id}" has no parts.', "Say what it adds.")
    for number, (id, _) in enumerate(line.parts):
        if id not in lines:
            yield Fault(f"{where}.parts[{number}]", f'There is no line "{id}".')
        elif lines[id].kind == "heading":
            yield Fault(f"{where}.parts[{number}]", f'"{id}" is a heading and adds nothing.')
    yield from _twice([id for id, _ in line.parts], f"{where}.parts")
    for id in line.amounts:
        if id not in columns:
            yield Fault(f"{where}.amounts", f'There is no column "{id}".')
        elif columns[id].terms:
            yield Fault(
                f"{where}.amounts.{id}",
                f'The column "{id}" is derived, so its amounts follow from others.',
                "Leave the amount out.",
            )


def _circle(needs: Mapping[str, Sequence[str]], where: str, what: str) -> Iterator[Fault]:
    try:
        TopologicalSorter(needs).prepare()
    except CycleError as error:
        yield Fault(where, f"{what}: {' → '.join(reversed(error.args[1]))}.", "Take one of them out.")
