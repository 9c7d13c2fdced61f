"""The changes to what rules say of one figure, and to the pack's own specimens."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.changes.command import OnStatement, Planner
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


class SetClause(OnStatement):
    """Decide one clause of the figure's rule: where it was decided, or at another reach."""

    in_one_edition = True
    can_be_tried = True
    kind: Literal["set_clause"]
    line: Id
    column: Id
    clause: str
    value: Any = Field(default=None, description="The clause's value, as rulebook files spell it.")
    text: TypedText = None
    apply: Apply = "origin"
    place: Place = Field(default="page", description="Where it is to print so; on the page, everywhere.")

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack, proof = pack_proof.pack, self.proof(pack_proof)
        clauses = read_clauses({self.clause: chosen_value(self)})
        decided = self._decided(pack_proof, proof)
        origin = decided.origins[self.clause]
        line, column = proof.statement.line(self.line), proof.statement.column(self.column)
        assert line is not None and column is not None
        reach = {
            "origin": origin.reach if origin else Reach(),
            "everywhere": Reach(),
            "statement": Reach(statement=self.statement),
            "column": Reach(statement=self.statement, column=self.column),
            "line": Reach(statement=self.statement, line=self.line),
            "figure": Reach(statement=self.statement, line=self.line, column=self.column),
            "kind": Reach(statement=self.statement, kind=line.kind),
        }[self.apply]
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
        if self.place != "page" and not reach.places:
            reach = reach.model_copy(update={"places": (self.place,)})
        if origin is None or reach != origin.reach:
            name = _only(pack, reach, name)[:120]
        rulebook = with_clauses(pack.rulebook, reach, name, clauses)
        said = describe_clause(self.clause, decided.clauses.at(**clauses.named()))
        return (
            pack.model_copy(update={"rulebook": rulebook}),
            f"{name}: {clause_name(self.clause)} {said}",
        )

    def _decided(self, pack_proof: PackProof, proof: Proof) -> Decided:
        """What decides a figure in the place of the self."""
        figure = figure_of(proof, self.line, self.column)
        if self.place == "page":
            return figure.decided
        return Placer(pack_proof, self.place).decided((self.statement, self.line, self.column))


class DropClause(OnStatement):
    """Take one clause out of one rule, so that the broader rule decides."""

    in_one_edition = True
    can_be_tried = True
    kind: Literal["drop_clause"]
    rule: Id
    clause: str

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack = pack_proof.pack
        rule = next((rule for rule in pack.rulebook.rules if rule.id == self.rule), None)
        if rule is None or self.clause not in rule.clauses.named():
            raise InputError(
                "no-such-rule", Fault("rule", f'There is no rule "{self.rule}" deciding {self.clause}.')
            )
        rulebook = without_clause(pack.rulebook, self.rule, self.clause)
        return (
            pack.model_copy(update={"rulebook": rulebook}),
            f"{rule.name}: {clause_name(self.clause)} left to the broader rule",
        )


class SetSpecimens(OnStatement):
    """Keep these amounts as the pack's own specimens, in place of those it had."""

    kind: Literal["set_specimens"]
    amounts: Annotated[list[Amount], Field(max_length=24)]

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack = pack_proof.pack
        amounts = tuple(dict.fromkeys(self.amounts))
        count = "1 specimen" if len(amounts) == 1 else f"{len(amounts)} specimens"
        return pack.model_copy(update={"specimens": amounts}), f"{count} of your own kept"


def _only(pack: Pack, reach: Reach, name: str) -> str:
    """What a rule is called that says something only in some editions or places."""
    editions = [pack.edition_name(id) for id in reach.editions]
    where = [*editions, *(f"{place}s" for place in reach.places)]
    if not where:
        return name
    return ", ".join(where if reach.level == "everywhere" else [*where, name])
