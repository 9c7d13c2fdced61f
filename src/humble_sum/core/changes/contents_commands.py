"""The changes to what a pack holds: whose it is, its statements, lines, columns, and single amounts."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.amounts import amount_text
from humble_sum.core.changes import structure
from humble_sum.core.changes.command import OnPack, OnStatement
from humble_sum.core.changes.ordering import put_before
from humble_sum.core.changes.structure_commands import without
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.printing.clause_checks import Currency
from humble_sum.core.rules.headings import PeriodDate
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.names import Called, Label, Reason
from humble_sum.core.statements.pack import Column, Language, Line, Pack, Statement

NewKind = Literal["line", "memo", "heading", "count", "per_unit", "percent"]


WHOSE = ("entity", "period", "currency", "language")


class EditPack(OnPack):
    """Say whose the pack is, what period it covers, what its currency is, and in which language its labels
    are; what is left out stays."""

    kind: Literal["edit_pack"]
    entity: Called | None = None
    period: Called | None = None
    currency: Currency = None
    language: Language | None = None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        said = {name: value for name in WHOSE if (value := getattr(self, name))}
        words = ", ".join(f"{name} {value}" for name, value in said.items())
        return pack.model_copy(
            update=said
        ), f"The pack is now of {words}" if said else "The pack stays as it is"


class EditStatement(OnPack, OnStatement):
    """Call a statement otherwise, or give its page another title; what is left out stays."""

    kind: Literal["edit_statement"]
    name: Called | None = None
    title: Called | None = None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        said = {name: value for name in ("name", "title") if (value := getattr(self, name))}
        shown = said.get("name") or said.get("title") or "as it was"
        return _put(pack, statement.model_copy(update=said)), f"{statement.name} now {shown}"


class MoveStatement(OnPack, OnStatement):
    """Put a statement right before another, or last."""

    kind: Literal["move_statement"]
    before: Id | None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        order = put_before(pack.statements, statement, self.before, "bad-structure")
        where = f"before {self.before}" if self.before else "last"
        return pack.model_copy(update={"statements": order}), f"{statement.name} moved {where}"


class AddStatement(OnPack):
    """Add a statement with these columns and lines, whose amounts are still missing."""

    kind: Literal["add_statement"]
    name: Called
    columns: Annotated[list[Label], Field(min_length=1, max_length=60)]
    lines: Annotated[list[Label], Field(min_length=1, max_length=400)]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        lines: set[str] = set()
        columns: set[str] = set()
        made = Statement(
            id=new_id(self.name, {each.id.lower() for each in pack.statements}),
            name=self.name,
            title=self.name,
            columns=tuple(Column(id=new_id(label, columns), label=label) for label in self.columns),
            lines=tuple(Line(id=new_id(label, lines), label=label) for label in self.lines),
        )
        return pack.model_copy(update={"statements": (*pack.statements, made)}), f"Added {self.name}"


class RemoveStatement(OnPack, OnStatement):
    """Take a statement out, with its rules, holds and nudges."""

    kind: Literal["remove_statement"]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        if len(pack.statements) == 1:
            what = "It is the only statement of the pack."
            raise InputError("bad-structure", Fault("statement", what, "Add another before this one goes."))
        lines = {line.id for line in statement.lines}
        left = without(pack, statement.id, lines, {column.id for column in statement.columns})
        rules = tuple(rule for rule in left.rulebook.rules if rule.reach.owners != (statement.id,))
        editions = tuple(
            each.model_copy(
                update={
                    "apart": {id: policy for id, policy in each.apart.items() if id != statement.id},
                    "rates": tuple(rate for rate in each.rates if rate.statement != statement.id),
                }
            )
            for each in left.editions
        )
        changed = {
            "statements": tuple(each for each in left.statements if each.id != statement.id),
            "rulebook": left.rulebook.model_copy(update={"rules": rules}),
            "editions": editions,
        }
        return left.model_copy(update=changed), f"Removed {statement.name}"


class AddLine(OnPack, OnStatement):
    """Add a line right before another, or last; as a part of a total or of none."""

    kind: Literal["add_line"]
    label: Called
    line_kind: NewKind = "line"
    before: Id | None = None
    total: Id | None = None
    amounts: dict[Id, Amount | None] = Field(default_factory=dict)

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        taken = {each.id.lower() for each in statement.lines}
        amounts = {} if self.line_kind == "heading" else dict(self.amounts)
        for id in amounts:
            if _column(statement, id).derived:
                what = f"The amounts of {_column(statement, id).label} follow from other columns."
                raise InputError("bad-structure", Fault(f"amounts.{id}", what, "Leave it out."))
        made = Line(id=new_id(self.label, taken), label=self.label, kind=self.line_kind, amounts=amounts)
        lines = put_before((*statement.lines, made), made, self.before, "bad-structure")
        new = statement.model_copy(update={"lines": lines})
        new = structure.make_part(new, made.id, self.total) if self.total else new
        return _put(pack, new), f"Added {self.label} to {statement.name}"


class RemoveLine(OnPack, OnStatement):
    """Take a line out, with its amounts. A subtotal is dissolved instead, and its parts stay."""

    kind: Literal["remove_line"]
    line: Id

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        id = self.line
        line = _line(statement, id)
        if line.parts:
            what = f"{line.label} adds other lines."
            raise InputError("bad-structure", Fault("line", what, "Dissolve it instead: its parts stay."))
        if any(column.share and column.share[1] == id for column in statement.columns):
            what = f"A column of shares is of {line.label}."
            raise InputError("bad-structure", Fault("line", what, "Take that column out first."))
        emptied = [t.label for t in statement.lines if t.parts and all(part == id for part, _ in t.parts)]
        if emptied:
            what = f"It is the only part of {emptied[0]}."
            raise InputError("bad-structure", Fault("line", what, "Give that another part first."))
        if len(statement.lines) == 1:
            what = "It is the only line of the statement."
            raise InputError("bad-structure", Fault("line", what, "Add another before this one goes."))
        lines = tuple(
            each.model_copy(update={"parts": tuple(part for part in each.parts if part[0] != id)})
            if any(part == id for part, _ in each.parts)
            else each
            for each in statement.lines
            if each.id != id
        )
        new = structure.answers_left(statement.model_copy(update={"lines": lines}))
        return without(
            _put(pack, new), statement.id, {id}, set()
        ), f"Removed {line.label} from {statement.name}"


class AddColumn(OnPack, OnStatement):
    """Add a column of given amounts right before another, or last; its amounts are still missing."""

    kind: Literal["add_column"]
    label: Called
    date: PeriodDate | None = None
    before: Id | None = None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        made = Column(
            id=new_id(self.label, {each.id.lower() for each in statement.columns}),
            label=self.label,
            date=self.date,
        )
        columns = put_before((*statement.columns, made), made, self.before, "bad-structure")
        new = statement.model_copy(update={"columns": columns})
        return _put(pack, new), f"Added the column {self.label} to {statement.name}"


class RemoveColumn(OnPack, OnStatement):
    """Take a column out, with its amounts."""

    kind: Literal["remove_column"]
    column: Id

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        id = self.column
        column = _column(statement, id)
        made_of = [
            each.label
            for each in statement.columns
            if id in {term for term, _ in each.terms} or (each.share and each.share[0] == id)
        ]
        if made_of:
            what = f"{made_of[0]} is made of {column.label}."
            raise InputError("bad-structure", Fault("column", what, "Take that one out first."))
        columns = tuple(each for each in statement.columns if each.id != id)
        if not any(not each.derived for each in columns):
            what = "It is the only column of given amounts."
            raise InputError("bad-structure", Fault("column", what, "Add another before this one goes."))
        lines = tuple(
            line.model_copy(update={"amounts": {c: a for c, a in line.amounts.items() if c != id}})
            if id in line.amounts
            else line
            for line in statement.lines
        )
        new = structure.answers_left(statement.model_copy(update={"columns": columns, "lines": lines}))
        says = f"Removed the column {column.label} from {statement.name}"
        return without(_put(pack, new), statement.id, set(), {id}), says


class MoveColumn(OnPack, OnStatement):
    """Put a column right before another, or last."""

    kind: Literal["move_column"]
    column: Id
    before: Id | None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        column = _column(statement, self.column)
        columns = put_before(statement.columns, column, self.before, "bad-structure")
        where = f"before {self.before}" if self.before else "last"
        return _put(pack, statement.model_copy(update={"columns": columns})), f"{column.label} moved {where}"


class CorrectAmount(OnPack, OnStatement):
    """Correct one amount, in ones, for a reason; null says that it is missing."""

    kind: Literal["correct_amount"]
    line: Id
    column: Id
    amount: Amount | None
    reason: Annotated[Reason, Field(pattern=r"\S")]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        line, column = _line(statement, self.line), _column(statement, self.column)
        if column.derived and column.id not in line.amounts:
            what = f"The amounts of {column.label} follow from other columns."
            raise InputError("bad-structure", Fault("column", what, "Correct one of those."))
        if line.kind == "heading" or (line.parts and line.amounts.get(column.id) is None):
            what = (
                f"{line.label} is a heading."
                if line.kind == "heading"
                else f"{line.label} follows from its parts."
            )
            raise InputError("bad-structure", Fault("line", what, "Correct one of the lines it adds."))
        was = line.amounts.get(column.id)
        new = line.model_copy(update={"amounts": line.amounts | {column.id: self.amount}})
        lines = tuple(new if each.id == line.id else each for each in statement.lines)
        before, after = (
            "missing" if amount is None else amount_text(amount) for amount in (was, self.amount)
        )
        says = f"{line.label}, {column.label} corrected from {before} to {after}: {self.reason.strip()}"
        return _put(pack, statement.model_copy(update={"lines": lines})), says


def _put(pack: Pack, statement: Statement) -> Pack:
    every = tuple(statement if each.id == statement.id else each for each in pack.statements)
    return pack.model_copy(update={"statements": every})


def _column(statement: Statement, id: str) -> Column:
    found = statement.column(id)
    if found is None:
        raise InputError("no-such-column", Fault("column", f'There is no column "{id}".'))
    return found


def _line(statement: Statement, id: str) -> Line:
    found = statement.line(id)
    if found is None:
        raise InputError("no-such-line", Fault("line", f'There is no line "{id}".'))
    return found
