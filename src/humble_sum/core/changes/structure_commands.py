"""The changes to a statement's structure, and what each leaves of the rest of the pack."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, Literal

from pydantic import ConfigDict, Field

from humble_sum.core.changes import members, structure
from humble_sum.core.changes.command import OnStatement, Planner
from humble_sum.core.changes.derivation import derive, describe_terms, with_totals_stated
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.rules.headings import PeriodDate
from humble_sum.core.rules.rulebook import Id, LineKind, Rule, Rulebook
from humble_sum.core.statements.edition import Edition
from humble_sum.core.statements.names import Called, Label
from humble_sum.core.statements.pack import (
    ANSWERS,
    READINESS,
    Answer,
    Members,
    Pack,
    Readiness,
    Statement,
    UsualSign,
)
from humble_sum.core.statements.validation import check


class StructureCommand(OnStatement):
    """A command that changes the structure of one statement."""

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        """The pack with its statement changed, and without what was said of lines and columns that go."""
        pack, statement = pack_proof.pack, self.proof(pack_proof).statement
        new, says = self.restructured(statement)
        new = structure.answers_left(new)
        gone = {line.id for line in statement.lines} - {line.id for line in new.lines}
        gone_columns = {column.id for column in statement.columns} - {column.id for column in new.columns}
        statements = tuple(new if each.id == statement.id else each for each in pack.statements)
        pack = pack.model_copy(update={"statements": statements})
        changed = without(pack, statement.id, gone, gone_columns)
        check(changed)
        return changed, says

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        """The statement changed, and what that did. Raises InputError."""
        raise NotImplementedError


class MakePart(StructureCommand):
    """Make a line a part of a total, and of no other; null makes it a part of none."""

    kind: Literal["make_part"]
    line: Id
    total: Id | None
    sign: Literal[1, -1] = 1

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        new = structure.make_part(statement, self.line, self.total, self.sign)
        where = f"part of {_name(statement, self.total)}" if self.total else "part of no total"
        return new, f"{_name(statement, self.line)} made {where}"


class FlipSign(StructureCommand):
    """Take away a line where it was added, and add it where it was taken away."""

    kind: Literal["flip_sign"]
    line: Id

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        new = structure.flip_sign(statement, self.line)
        taken = structure.totals_of(new, self.line)[0][1] < 0
        return new, f"{_name(statement, self.line)} now {'taken away' if taken else 'added'}"


class GroupLines(StructureCommand):
    """Put lines under a new subtotal, in their place in the total they were parts of."""

    kind: Literal["group"]
    lines: Annotated[list[Id], Field(min_length=1)]
    label: Called

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        id = new_id(self.label, {line.id.lower() for line in statement.lines})
        new = structure.group(statement, self.lines, id, self.label)
        return new, f"{len(self.lines)} lines put under {self.label}"


class DissolveTotal(StructureCommand):
    """Take a subtotal out; its parts join the total that counted it."""

    kind: Literal["dissolve"]
    line: Id

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        name = _name(statement, self.line)
        return structure.dissolve(statement, self.line), f"{name} removed, its parts kept"


class MoveLine(StructureCommand):
    """Put a line in another place on the page: right before another line, or last."""

    kind: Literal["move_line"]
    line: Id
    before: Id | None

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        before = f"before {_name(statement, self.before)}" if self.before else "to the end"
        return structure.move(
            statement, self.line, self.before
        ), f"{_name(statement, self.line)} moved {before}"


class SetLine(StructureCommand):
    """Change what is said of a line: its label, kind, natural sign or indent."""

    model_config = ConfigDict(populate_by_name=True, serialize_by_alias=True)
    kind: Literal["set_line"]
    line: Id
    label: Called | None = None
    line_kind: LineKind | None = None
    usual_sign: UsualSign | None = Field(default=None, alias="natural")
    indent: Annotated[int, Field(ge=0, le=8)] | None = None
    readiness: Readiness | None = None
    answer: Answer | None = None

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        new, says = statement, []
        if self.line_kind is not None:
            new = structure.set_kind(new, self.line, self.line_kind)
            says.append(f"a {self.line_kind.replace('_', ' ')}")
        words = {
            word: value
            for word in ("label", "usual_sign", "indent")
            if (value := getattr(self, word)) is not None
        }
        footing = {
            word: value for word in ("readiness", "answer") if (value := getattr(self, word)) is not None
        }
        if footing:
            new = structure.set_line(new, self.line, **footing)
            for word, value in footing.items():
                says.append(ANSWERS[value] if word == "answer" else READINESS[value])
        if words:
            new = structure.set_line(new, self.line, **words)
        if self.usual_sign is not None:
            says.append("of either sign" if self.usual_sign == "either" else f"usually {self.usual_sign}")
        if self.label is not None:
            says.append(f"called {self.label}")
        if self.indent is not None:
            says.append(f"indented {self.indent}")
        return new, f"{_name(statement, self.line)} now {', '.join(says) or 'as it was'}"


class SetColumn(StructureCommand):
    """Change what a column is called, and the day or month that heads it; null has the label head it.
    Also whether its figures stand apart or add down, whether it is published already, and what is done
    about its gaps where it is derived."""

    kind: Literal["set_column"]
    column: Id
    label: Called
    date: PeriodDate | None = None
    apart: bool | None = None
    published: bool | None = None
    answer: Answer | None = None

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        old = statement.column(self.column)
        if old is None:
            raise InputError("no-such-column", Fault("column", f'There is no column "{self.column}".'))
        words: dict[str, Any] = {"label": self.label, "date": self.date}
        for word in ("apart", "published", "answer"):
            if (value := getattr(self, word)) is not None:
                words[word] = value
        new = old.model_copy(update=words)
        columns = tuple(new if column is old else column for column in statement.columns)
        says = f"{old.label} headed by {'its date' if self.date else self.label}"
        if new.apart and not old.apart:
            statement = with_totals_stated(statement, old)
        if new.apart != old.apart:
            says = f"{old.label} {'stands apart' if new.apart else 'added down'}"
        if new.published != old.published:
            says = f"{old.label} {'published' if new.published else 'not published'}"
        if new.answer != old.answer:
            says = f"{old.label}: {ANSWERS[new.answer]}"
        return statement.model_copy(update={"columns": columns}), says


class DeriveColumn(StructureCommand):
    """Derive a column from others whose amounts come to its own: the first less the second, or all
    added. No terms make it a column of given amounts."""

    kind: Literal["derive_column"]
    column: Id
    terms: Annotated[list[tuple[Id, Literal[1, -1]]], Field(max_length=60)]

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        new = derive(statement, self.column, tuple(self.terms))
        column = new.column(self.column)
        assert column is not None
        return new, f"{column.label} is {describe_terms(new, column.terms) if column.terms else 'given'}"


class AnswerRelation(StructureCommand):
    """Say what is done about the gap of one sum alone: a total's in one column, or a line's across to a
    derived column. Null leaves it to what is said of the whole total or column."""

    kind: Literal["answer_relation"]
    way: Literal["down", "across"]
    line: Id
    column: Id
    answer: Answer | None

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        line, column = statement.line(self.line), statement.column(self.column)
        down = self.way == "down"
        if line is None or column is None or not (line.adds if down else column.terms):
            what = "There is no such sum." if down else "There is no such difference or cross-sum."
            raise InputError(
                "bad-structure", Fault("line", what, "Name a total, or a column that others make.")
            )
        of: Any = line if down else column
        key = column.id if down else line.id
        answers = {id: answer for id, answer in of.answers.items() if id != key}
        if self.answer is not None:
            answers[key] = self.answer
        new = of.model_copy(update={"answers": answers})
        name = f"{line.label}, {column.label}" if down else f"{line.label} across to {column.label}"
        says = f"{name}: {ANSWERS[self.answer]}" if self.answer else f"{name} answered like the others"
        if down:
            lines = tuple(new if each is of else each for each in statement.lines)
            return statement.model_copy(update={"lines": lines}), says
        columns = tuple(new if each is of else each for each in statement.columns)
        return statement.model_copy(update={"columns": columns}), says


class AddRounding(StructureCommand):
    """Add a line to a total that prints what its other parts miss by rounding."""

    kind: Literal["add_rounding"]
    total: Id
    label: Label = "Rounding"

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        total = _name(statement, self.total)
        new = structure.add_rounding(statement, self.total, self.label)
        return new, f"{self.label} line added to {total}"


class SetMembers(StructureCommand):
    """Choose who should be there: absent members get placeholders. An empty list takes the choice back."""

    kind: Literal["set_members"]
    id: Id = "members"
    label: Label = "Members"
    axis: Literal["lines", "columns"] = "lines"
    members: Annotated[list[Label], Field(max_length=2_000)]

    def restructured(self, statement: Statement) -> tuple[Statement, str]:
        chosen = tuple(label.strip() for label in self.members if label.strip())
        listed = Members(id=self.id, label=self.label, axis=self.axis, members=chosen) if chosen else None
        new = members.choose(statement, self.id, listed)
        absent = sum(line.absent for line in new.lines) + sum(column.absent for column in new.columns)
        return new, f"{self.label}: {len(chosen)} chosen, {absent} absent"


def _edition_left(edition: Edition, lost: Callable[[str, str | None, str | None], bool]) -> Edition:
    changed = {
        "holds": tuple(h for h in edition.holds if not lost(h.statement, h.line, h.column)),
        "nudges": tuple(n for n in edition.nudges if not lost(n.statement, n.line, n.column)),
        "rates": tuple(
            rate for rate in edition.rates if not lost(rate.statement or "", rate.line, rate.column)
        ),
    }
    return edition.model_copy(update=changed)


def _left(rule: Rule, statement: str, lines: set[str], columns: set[str]) -> Rule | None:
    """A rule without the lines that are no more; None where it was for these or for such a column alone."""
    reach = rule.reach
    if reach.owners != (statement,):
        return rule
    rows = tuple(id for id in reach.rows if id not in lines)
    if reach.column in columns or (reach.rows and not rows):
        return None
    if rows == reach.rows:
        return rule
    return rule.model_copy(update={"reach": reach.model_copy(update={"lines": rows})})


def without(pack: Pack, statement: str, lines: set[str], columns: set[str]) -> Pack:
    """The pack without the rules, holds, nudges and taken figures of lines and columns that are no more.

    Raises InputError where a tie needs one of them.
    """
    if not lines and not columns:
        return pack

    def lost(owner: str | None, line: str | None, column: str | None) -> bool:
        return owner == statement and (line in lines or column in columns)

    for tie in pack.ties:
        if any(lost(*ref) for ref in tie.figures):
            what = "It is tied to another figure."
            raise InputError("bad-structure", Fault("line", what, "Untie that first."))
    rules = tuple(rule for each in pack.rulebook.rules if (rule := _left(each, statement, lines, columns)))
    return pack.model_copy(
        update={
            "rulebook": Rulebook(rules=rules),
            "holds": tuple(h for h in pack.holds if not lost(h.statement, h.line, h.column)),
            "taken": tuple(each for each in pack.taken if not lost(*each.figure)),
            "nudges": tuple(n for n in pack.nudges if not lost(n.statement, n.line, n.column)),
            "editions": tuple(_edition_left(each, lost) for each in pack.editions),
        }
    )


def _name(statement: Statement, line: str) -> str:
    found = statement.line(line)
    return found.label if found else line
