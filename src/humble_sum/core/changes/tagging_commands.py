"""The changes to what lines are tagged with: taxonomies of others, and their concepts."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.taxonomy import Concept, Taxonomy
from humble_sum.core.statements.validation import check


class SetTaxonomies(BaseModel):
    """Say which taxonomies of others the lines are tagged from; lines tagged from one that goes have their
    own concepts again."""

    model_config = ConfigDict(extra="forbid")
    kind: Literal["set_taxonomies"]
    taxonomies: Annotated[tuple[Taxonomy, ...], Field(max_length=12)]


class SetConcept(BaseModel):
    """Tag a line with a concept of another taxonomy, stated with the other sign where `negated`; null has it
    tagged with its own again."""

    model_config = ConfigDict(extra="forbid")
    kind: Literal["set_concept"]
    statement: Id
    line: Id
    concept: Concept
    negated: bool = False


Tagging = SetTaxonomies | SetConcept


def tag(pack: Pack, change: Any) -> tuple[Pack, str]:
    """The pack tagged otherwise, and what that did. Raises InputError."""
    new, says = _taxonomies(pack, change) if isinstance(change, SetTaxonomies) else _concept(pack, change)
    check(new)
    return new, says


def _taxonomies(pack: Pack, change: SetTaxonomies) -> tuple[Pack, str]:
    left = {taxonomy.prefix for taxonomy in change.taxonomies}
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
    named = ", ".join(taxonomy.prefix for taxonomy in change.taxonomies) or "none but its own"
    changed = {"taxonomies": change.taxonomies, "statements": tuple(statements)}
    return pack.model_copy(update=changed), f"Tagged from {named}"


def _concept(pack: Pack, change: SetConcept) -> tuple[Pack, str]:
    statement = pack.statement(change.statement)
    line = None if statement is None else statement.line(change.line)
    if statement is None or line is None:
        raise InputError("no-such-line", Fault("line", f'There is no line "{change.line}".'))
    negated = change.negated and change.concept is not None
    tagged = line.model_copy(update={"concept": change.concept, "concept_negated": negated})
    lines = tuple(tagged if each is line else each for each in statement.lines)
    new = statement.model_copy(update={"lines": lines})
    statements = tuple(new if each is statement else each for each in pack.statements)
    says = f"{line.label} tagged as {change.concept or 'its own concept'}"
    says += ", with the other sign" if negated else ""
    return pack.model_copy(update={"statements": statements}), says
