"""The changes to what rules say of one figure, and to the pack's own specimens."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.changes.rule_commands import TypedText, chosen_value
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.proof.pack_proof import PackProof, figure_of
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.clause_registry import clause_name, describe_clause
from humble_sum.core.rules.rulebook import Apply, Decided, Id, Place, Reach, with_clauses, without_clause
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.pack import Pack


class _Said(BaseModel):
    model_config = ConfigDict(extra="forbid")
    statement: Id


class SetClause(_Said):
    """Decide one clause of the figure's rule: where it was decided, or at another reach."""

    kind: Literal["set_clause"]
    line: Id
    column: Id
    clause: str
    value: Any = Field(default=None, description="The clause's value, as rulebook files spell it.")
    text: TypedText = None
    apply: Apply = "origin"
    place: Place = Field(default="page", description="Where it is to print so; on the page, everywhere.")


class DropClause(_Said):
    """Take one clause out of one rule, so that the broader rule decides."""

    kind: Literal["drop_clause"]
    rule: Id
    clause: str


class SetSpecimens(_Said):
    """Keep these amounts as the pack's own specimens, in place of those it had."""

    kind: Literal["set_specimens"]
    amounts: Annotated[list[Amount], Field(max_length=24)]


Saying = SetClause | DropClause | SetSpecimens


def say(pack_proof: PackProof, change: Saying, proof: Proof) -> tuple[Pack, str]:
    """The pack with a clause said or left to the broader rule, or with specimens of its own, and what that
    did. Raises InputError."""
    match change:
        case SetClause():
            return _set_clause(pack_proof, change, proof)
        case DropClause():
            return _drop_clause(pack_proof.pack, change)
        case SetSpecimens():
            return _set_specimens(pack_proof.pack, change)


def _set_clause(pack_proof: PackProof, change: SetClause, proof: Proof) -> tuple[Pack, str]:
    pack = pack_proof.pack
    clauses = read_clauses({change.clause: chosen_value(change)})
    decided = _decided(pack_proof, change, proof)
    origin = decided.origins[change.clause]
    line, column = proof.statement.line(change.line), proof.statement.column(change.column)
    assert line is not None and column is not None
    reach = {
        "origin": origin.reach if origin else Reach(),
        "everywhere": Reach(),
        "statement": Reach(statement=change.statement),
        "column": Reach(statement=change.statement, column=change.column),
        "line": Reach(statement=change.statement, line=change.line),
        "figure": Reach(statement=change.statement, line=change.line, column=change.column),
        "kind": Reach(statement=change.statement, kind=line.kind),
    }[change.apply]
    name = {
        "everywhere": "House rule",
        "statement": proof.statement.name,
        "column": f"Column {column.label}",
        "line": f"Line {line.label}",
        "figure": f"{line.label}, {column.label}",
        "kind": f"Lines of kind {line.kind.replace('_', ' ')}",
    }[reach.level]
    if origin is not None and reach == origin.reach:
        name = origin.name
    # What is said in another edition, or for another place than the page, is said for it alone.
    if pack.shown != OWN and not reach.editions:
        reach = reach.model_copy(update={"editions": (pack.shown,)})
    if change.place != "page" and not reach.places:
        reach = reach.model_copy(update={"places": (change.place,)})
    if origin is None or reach != origin.reach:
        name = _only(pack, reach, name)[:120]
    rulebook = with_clauses(pack.rulebook, reach, name, clauses)
    said = describe_clause(change.clause, decided.clauses.at(**clauses.named()))
    return (
        pack.model_copy(update={"rulebook": rulebook}),
        f"{name}: {clause_name(change.clause)} {said}",
    )


def _decided(pack_proof: PackProof, change: SetClause, proof: Proof) -> Decided:
    """What decides a figure in the place of the change."""
    figure = figure_of(proof, change.line, change.column)
    if change.place == "page":
        return figure.decided
    return Placer(pack_proof, change.place).decided((change.statement, change.line, change.column))


def _only(pack: Pack, reach: Reach, name: str) -> str:
    """What a rule is called that says something only in some editions or places."""
    editions = [pack.edition_name(id) for id in reach.editions]
    where = [*editions, *(f"{place}s" for place in reach.places)]
    if not where:
        return name
    return ", ".join(where if reach.level == "everywhere" else [*where, name])


def _drop_clause(pack: Pack, change: DropClause) -> tuple[Pack, str]:
    rule = next((rule for rule in pack.rulebook.rules if rule.id == change.rule), None)
    if rule is None or change.clause not in rule.clauses.named():
        raise InputError(
            "no-such-rule", Fault("rule", f'There is no rule "{change.rule}" deciding {change.clause}.')
        )
    rulebook = without_clause(pack.rulebook, change.rule, change.clause)
    return (
        pack.model_copy(update={"rulebook": rulebook}),
        f"{rule.name}: {clause_name(change.clause)} left to the broader rule",
    )


def _set_specimens(pack: Pack, change: SetSpecimens) -> tuple[Pack, str]:
    amounts = tuple(dict.fromkeys(change.amounts))
    count = "1 specimen" if len(amounts) == 1 else f"{len(amounts)} specimens"
    return pack.model_copy(update={"specimens": amounts}), f"{count} of your own kept"
