"""Rules, the rulebook, and the cascade that decides each clause of each figure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.clauses import NAMES, Clauses, InForce

Id = Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$")]


class Reach(BaseModel):
    """Where a rule applies. Nothing named is everywhere; names together all have to match."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    statement: Id | None = None
    column: Id | None = None
    line: Id | None = None

    @property
    def narrowness(self) -> int:
        """Orders reaches from broad to narrow: everywhere, statement, column, line."""
        return (self.line is not None) * 4 + (self.column is not None) * 2 + (self.statement is not None)

    @property
    def level(self) -> str:
        """The narrowest thing named."""
        if self.line is not None:
            return "line"
        if self.column is not None:
            return "column"
        return "statement" if self.statement is not None else "everywhere"


class Rule(BaseModel):
    """A reach and some clauses."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    name: Annotated[str, Field(min_length=1, max_length=120)]
    reach: Reach = Reach()
    clauses: Clauses


class Rulebook(BaseModel):
    """Rules in order. Narrower reach wins, then the later rule, clause by clause."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    rules: tuple[Rule, ...] = ()


@dataclass(frozen=True)
class Decided:
    """The clauses in force for one figure, and the rule each came from (None: the default)."""

    clauses: InForce
    origins: dict[str, Rule | None]


def decide(rulebook: Rulebook, statement: str, line: str, column: str) -> Decided:
    """Every clause of the figure at `line` × `column`, with its origin."""
    return decide_all(rulebook, statement, [line], [column])[0]


def decide_all(
    rulebook: Rulebook, statement: str, lines: Sequence[str], columns: Sequence[str]
) -> list[Decided]:
    """`decide` for every line × column, line by line; figures under the same rules share one answer."""
    rules = sorted(
        (rule for rule in rulebook.rules if rule.reach.statement in (None, statement)),
        key=lambda rule: rule.reach.narrowness,
    )
    known: dict[tuple[str, ...], Decided] = {}

    def row(line: str | None) -> list[Decided]:
        decided = []
        for column in columns:
            covering = tuple(
                r for r in rules if r.reach.line in (None, line) and r.reach.column in (None, column)
            )
            key = tuple(rule.id for rule in covering)
            if key not in known:
                known[key] = _combine(covering)
            decided.append(known[key])
        return decided

    # Most lines have no rule of their own, and are decided alike.
    named = {rule.reach.line for rule in rules}
    usual = row(None)
    return [each for line in lines for each in (row(line) if line in named else usual)]


def _combine(broad_to_narrow: tuple[Rule, ...]) -> Decided:
    values: dict[str, Any] = {}
    origins: dict[str, Rule | None] = dict.fromkeys(NAMES)
    for rule in broad_to_narrow:
        for name, value in rule.clauses.named().items():
            values[name] = value
            origins[name] = rule
    return Decided(InForce(**values), origins)


def with_clauses(rulebook: Rulebook, reach: Reach, name: str, clauses: Clauses) -> Rulebook:
    """The rulebook with these clauses decided at this reach.

    They join the last rule of that reach, or a new rule called `name` at the end.
    """
    rules = list(rulebook.rules)
    for place in reversed(range(len(rules))):
        rule = rules[place]
        if rule.reach == reach:
            merged = Clauses(**(rule.clauses.named() | clauses.named()))
            rules[place] = rule.model_copy(update={"clauses": merged})
            return Rulebook(rules=tuple(rules))
    rules.append(Rule(id=_new_id(rulebook), name=name, reach=reach, clauses=clauses))
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


def _new_id(rulebook: Rulebook) -> str:
    taken = {rule.id for rule in rulebook.rules}
    number = len(taken) + 1
    while f"rule-{number}" in taken:
        number += 1
    return f"rule-{number}"
