"""The changes to how lines are tagged: taxonomies of others, their concepts, and whether amounts are at a day
or over a time."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from humble_sum.core.changes.command import OnPack, OnStatement
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.pack import Line, Pack, PeriodType, Statement
from humble_sum.core.statements.taxonomy import Concept, Taxonomy


class SetTaxonomies(OnPack):
    """Say which taxonomies of others the lines are tagged from; lines tagged from one that goes have their
    own concepts again."""

    kind: Literal["set_taxonomies"]
    taxonomies: Annotated[tuple[Taxonomy, ...], Field(max_length=12)]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        left = {taxonomy.prefix for taxonomy in self.taxonomies}
        statements = []
        for statement in pack.statements:
            lines = tuple(
                line.model_copy(update={"concept": None, "concept_negated": False})
                if line.concept and line.concept.partition(":")[0] not in left
                else line
                for line in statement.lines
            )
            same = all(new is old for new, old in zip(lines, statement.lines, strict=True))
            statements.append(statement if same else statement.model_copy(update={"lines": lines}))
        named = ", ".join(taxonomy.prefix for taxonomy in self.taxonomies) or "none but its own"
        changed = {"taxonomies": self.taxonomies, "statements": tuple(statements)}
        return pack.model_copy(update=changed), f"Tagged from {named}"


class SetConcept(OnPack, OnStatement):
    """Tag a line with a concept of another taxonomy, stated with the other sign where `negated`; null has it
    tagged with its own again."""

    kind: Literal["set_concept"]
    line: Id
    concept: Concept
    negated: bool = False

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement, line = _line(pack, self.statement, self.line)
        negated = self.negated and self.concept is not None
        tagged = line.model_copy(update={"concept": self.concept, "concept_negated": negated})
        says = f"{line.label} tagged as {self.concept or 'its own concept'}"
        says += ", with the other sign" if negated else ""
        return _with_lines(pack, statement, {line.id: tagged}), says


class SetPeriodType(OnPack, OnStatement):
    """Say whether a line's amounts are at a day or over a time, or without a line those of a whole statement;
    null leaves it to the dates of its columns."""

    kind: Literal["set_period_type"]
    line: Id | None = None
    period_type: PeriodType | None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement = self.owner(pack)
        lines = statement.figured if self.line is None else [_line(pack, self.statement, self.line)[1]]
        made = {line.id: line.model_copy(update={"period_type": self.period_type}) for line in lines}
        whose = statement.name if self.line is None else lines[0].label
        return _with_lines(pack, statement, made), f"{whose}: {PERIOD_TYPES[self.period_type]}"


PERIOD_TYPES = {
    "instant": "amounts at a day",
    "duration": "amounts over a time",
    None: "as its columns' dates say",
}


def _line(pack: Pack, statement_id: str, line_id: str) -> tuple[Statement, Line]:
    statement = pack.statement(statement_id)
    line = None if statement is None else statement.line(line_id)
    if statement is None or line is None:
        raise InputError("no-such-line", Fault("line", f'There is no line "{line_id}".'))
    return statement, line


def _with_lines(pack: Pack, statement: Statement, made: Mapping[str, Line]) -> Pack:
    lines = tuple(made.get(line.id, line) for line in statement.lines)
    new = statement.model_copy(update={"lines": lines})
    statements = tuple(new if each is statement else each for each in pack.statements)
    return pack.model_copy(update={"statements": statements})
