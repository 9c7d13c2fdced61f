"""Rules, the rulebook, and the cascade that decides each clause of each figure."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from humble_sum.core.once import ByIdentity
from humble_sum.core.printing.clauses import Clauses, over
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses

Id = Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$")]


LineKind = Literal["heading", "line", "subtotal", "total", "memo", "per_unit", "count", "percent"]
Place = Literal["page", "tile", "chart", "passage"]
Level = Literal["everywhere", "statement", "kind", "column", "line", "figure"]


# Where a clause is decided: where it was, or at another reach.
Apply = Literal["origin", "everywhere", "statement", "kind", "column", "line", "figure"]


class Reach(BaseModel):
    """Where a rule applies. Nothing named is everywhere; names together all have to match.

    A line and a column together are one figure. Several statements or lines are named by `statements` and
    `lines`. Places and editions left out are all of them.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    statement: Id | None = None
    kind: LineKind | None = Field(default=None, description="Lines of this kind.")
    column: Id | None = None
    line: Id | None = None
    statements: tuple[Id, ...] = Field(default=(), description="Several statements at once.")
    lines: tuple[Id, ...] = Field(default=(), description="Several lines at once.")
    places: tuple[Place, ...] = ()
    editions: tuple[Id, ...] = ()

    @property
    def narrowness(self) -> tuple[int, int]:
        """Orders reaches from broad to narrow: everywhere, statement, kind, column, line, figure; and
        at one level, those only in some places or editions after the others."""
        level = (
            (self.line is not None or bool(self.lines)) * 8
            + (self.column is not None) * 4
            + (self.kind is not None) * 2
            + (self.statement is not None or bool(self.statements))
        )
        return level, bool(self.editions) * 2 + bool(self.places)

    @property
    def level(self) -> Level:
        """The narrowest thing named."""
        if self.line is not None or self.lines:
            return "line" if self.column is None else "figure"
        if self.column is not None:
            return "column"
        if self.kind is not None:
            return "kind"
        return "statement" if self.statement is not None or self.statements else "everywhere"

    @model_validator(mode="after")
    def one_or_several(self) -> Reach:
        for name, one, several in (
            ("statement", self.statement, self.statements),
            ("line", self.line, self.lines),
        ):
            if one is not None and several:
                raise ValueError(f"say either one {name} or several")
        return self

    @property
    def owners(self) -> tuple[Id, ...]:
        """The statements it names."""
        return self.statements if self.statement is None else (self.statement,)

    @property
    def rows(self) -> tuple[Id, ...]:
        """The lines it names."""
        return self.lines if self.line is None else (self.line,)

    def in_statement(self, id: str) -> bool:
        return not self.owners or id in self.owners

    def on_line(self, id: str | None) -> bool:
        return not self.rows or id in self.rows

    def within(self, statement: str, place: Place, edition: str | None) -> bool:
        """Whether the reach touches a statement in a place and an edition at all."""
        return (
            self.in_statement(statement)
            and (not self.places or place in self.places)
            and (not self.editions or edition in self.editions)
        )


class Rule(BaseModel):
    """A reach and some clauses. One that is switched off decides nothing and keeps its place."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    name: Annotated[str, Field(min_length=1, max_length=120)]
    reach: Reach = Reach()
    clauses: Clauses
    off: bool = False


class Rulebook(BaseModel):
    """Rules in order. Narrower reach wins, then the later rule, clause by clause."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    rules: tuple[Rule, ...] = ()


@dataclass(frozen=True)
class Decided:
    """The clauses in force for one figure, and the rule each came from (None: the default)."""

    clauses: ResolvedClauses
    origins: dict[str, Rule | None]

    @cached_property
    def narrowest(self) -> Rule | None:
        """The rule of narrowest reach that decides anything."""
        rules = [rule for rule in self.origins.values() if rule is not None]
        return max(rules, key=lambda rule: rule.reach.narrowness, default=None)


Lines = Sequence[tuple[str, LineKind]]  # ids and kinds


def decide(rulebook: Rulebook, statement: str, line: str, column: str, kind: LineKind = "line") -> Decided:
    """Every clause of the figure at `line` × `column` on the page, with its origin."""
    return decide_all(rulebook, statement, [(line, kind)], [column])[0]


def decide_all(
    rulebook: Rulebook,
    statement: str,
    lines: Lines,
    columns: Sequence[str],
    place: Place = "page",
    edition: str | None = None,
) -> list[Decided]:
    """`decide` for every line × column, line by line; figures under the same rules share one answer."""
    rules = sorted(
        (rule for rule in rulebook.rules if not rule.off and rule.reach.within(statement, place, edition)),
        key=lambda rule: rule.reach.narrowness,
    )

    def combined(covering: Sequence[Rule]) -> Decided:
        return _combine(tuple(map(ByIdentity, covering)))

    def row(line: str | None, kind: LineKind) -> list[Decided]:
        here = [rule for rule in rules if rule.reach.on_line(line) and rule.reach.kind in (None, kind)]
        alone = {rule.reach.column for rule in here} - {None}
        usual = combined([rule for rule in here if rule.reach.column is None])
        return [
            combined([rule for rule in here if rule.reach.column in (None, column)])
            if column in alone
            else usual
            for column in columns
        ]

    # Most lines have no rule of their own, and those of one kind are decided alike.
    named = {id for rule in rules for id in rule.reach.rows}
    usual = {kind: row(None, kind) for kind in {kind for _, kind in lines}}
    return [each for id, kind in lines for each in (row(id, kind) if id in named else usual[kind])]


# Most changes leave most rules as they are, and so what those decide together: one answer for all states of a
# pack, which the figures that are decided by it can be told by.
@lru_cache(maxsize=4_096)
def _combine(broad_to_narrow: tuple[ByIdentity[Rule], ...]) -> Decided:
    values: dict[str, Any] = {}
    origins: dict[str, Rule | None] = dict.fromkeys(NAMES)
    for rule in (each.one for each in broad_to_narrow):
        for name, value in rule.clauses.named().items():
            values[name] = value
            origins[name] = rule
    return Decided(ResolvedClauses.of(values), origins)


Deciding = tuple[Counter[str], Counter[tuple[str, str]]]


def deciding(decided: Iterable[tuple[Decided, int]]) -> Deciding:
    """How many figures each rule decides, by id, and how many each of its clauses does."""
    figures: Counter[str] = Counter()
    clauses: Counter[tuple[str, str]] = Counter()
    for each, count in decided:
        for clause, rule in each.origins.items():
            if rule is not None:
                clauses[rule.id, clause] += count
        for id in {rule.id for rule in each.origins.values() if rule is not None}:
            figures[id] += count
    return figures, clauses


def with_clauses(rulebook: Rulebook, reach: Reach, name: str, clauses: Clauses) -> Rulebook:
    """The rulebook with these clauses decided at this reach.

    They join the last rule of that reach, or a new rule called `name` at the end. Raises InputError
    where they contradict the rule's own.
    """
    rules = list(rulebook.rules)
    for place in reversed(range(len(rules))):
        rule = rules[place]
        if rule.reach == reach:
            rules[place] = rule.model_copy(update={"clauses": over(rule.clauses, clauses)})
            return Rulebook(rules=tuple(rules))
    rules.append(Rule(id=new_rule_id(rulebook), name=name, reach=reach, clauses=clauses))
    return Rulebook(rules=tuple(rules))


def without_clause(rulebook: Rulebook, rule_id: str, clause: str) -> Rulebook:
    """The rulebook with one clause taken out of one rule; a rule left empty goes with it."""
    rules = []
    for rule in rulebook.rules:
        if rule.id == rule_id:
            left = {name: value for name, value in rule.clauses.named().items() if name != clause}
            if not left:
                continue
            rule = rule.model_copy(update={"clauses": Clauses(**left)})
        rules.append(rule)
    return Rulebook(rules=tuple(rules))


def new_rule_id(rulebook: Rulebook) -> str:
    """An id that no rule has."""
    taken = {rule.id for rule in rulebook.rules}
    number = len(taken) + 1
    while f"rule-{number}" in taken:
        number += 1
    return f"rule-{number}"
