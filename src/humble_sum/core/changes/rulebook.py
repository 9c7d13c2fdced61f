"""Rulebooks as a whole: their rules added, ordered and switched; house styles; and what each decides."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.clauses import NAMES, Clauses
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook, new_rule_id
from humble_sum.core.statements.pack import Statement

Standing = Literal["decides", "overruled", "idle", "off"]

# House styles to start from: what a rulebook's first rule says.
STYLES: Mapping[str, tuple[str, dict[str, Any]]] = {
    "statutory-lakhs": (
        "Statutory, in lakhs",
        {"scale": "lakhs", "locale": "en-IN", "currency": "INR", "decimals": {"fixed": 2}},
    ),
    "statutory-thousands": (
        "Statutory, in thousands",
        {"scale": "thousands", "locale": "en-GB", "decimals": {"fixed": 0}},
    ),
    "board-crores": (
        "Board, in crores",
        {"scale": "crores", "locale": "en-IN", "currency": "INR", "decimals": {"fixed": 2}},
    ),
    "parent-millions": (
        "Parent, in millions",
        {"scale": "millions", "locale": "en-GB", "decimals": {"fixed": 1}},
    ),
    "dashboard": (
        "Dashboard, to fit",
        {"scale": "fit", "scale_word": "short", "decimals": {"significant": 3}, "negative": "minus"},
    ),
}
STATUTORY = {"money_shown": "caption", "negative": "brackets", "zero": "dash", "missing": {"word": "n/a"}}


@dataclass(frozen=True)
class RuleStanding:
    """How many figures a rule reaches, of how many it decides anything, and how many each of its clauses
    decides."""

    reaches: int
    figures: int
    decides: Mapping[str, int]

    def of(self, rule: Rule) -> Standing:
        if rule.off:
            return "off"
        if not self.reaches:
            return "idle"
        return "decides" if any(self.decides.values()) else "overruled"


def standings(whole: PackProof) -> dict[str, RuleStanding]:
    """For every rule of the pack, by id: the figures of the page it reaches and decides."""
    decides: Counter[tuple[str, str]] = Counter()
    figures: Counter[str] = Counter()
    for proof in whole.proofs.values():
        alike = Counter(map(id, proof.figures.decided))
        by_id = {id(each): each for each in proof.figures.decided}
        for key, count in alike.items():
            for clause, rule in by_id[key].origins.items():
                if rule is not None:
                    decides[rule.id, clause] += count
            for deciding in {rule.id for rule in by_id[key].origins.values() if rule is not None}:
                figures[deciding] += count
    found = {}
    for rule in whole.pack.rulebook.rules:
        reaches = sum(_reached(rule.reach, statement) for statement in whole.pack.statements)
        named = rule.clauses.named()
        found[rule.id] = RuleStanding(
            0 if rule.off else reaches,
            figures[rule.id],
            {name: decides[rule.id, name] for name in NAMES if name in named},
        )
    return found


def _reached(reach: Reach, statement: Statement) -> int:
    if not reach.within(statement.id, "page", None):
        return 0
    lines = [
        line
        for line in statement.figured
        if reach.line in (None, line.id) and reach.kind in (None, line.kind)
    ]
    return len(lines) * sum(reach.column in (None, column.id) for column in statement.columns)


def rule_of(rulebook: Rulebook, id: str) -> Rule:
    """One rule, or InputError."""
    rule = next((rule for rule in rulebook.rules if rule.id == id), None)
    if rule is None:
        raise InputError("no-such-rule", Fault("rule", f'There is no rule "{id}".'))
    return rule


def with_rule(rulebook: Rulebook, rule: Rule) -> Rulebook:
    """The rulebook with this rule in place of the one of its id, or at the end."""
    if any(each.id == rule.id for each in rulebook.rules):
        return Rulebook(rules=tuple(rule if each.id == rule.id else each for each in rulebook.rules))
    return Rulebook(rules=(*rulebook.rules, rule))


def without_rule(rulebook: Rulebook, id: str) -> Rulebook:
    """The rulebook without one rule."""
    rule_of(rulebook, id)
    return Rulebook(rules=tuple(rule for rule in rulebook.rules if rule.id != id))


def moved(rulebook: Rulebook, id: str, before: str | None) -> Rulebook:
    """The rulebook with one rule right before another, or last."""
    rule = rule_of(rulebook, id)
    others = [each for each in rulebook.rules if each.id != id]
    at = next((n for n, each in enumerate(others) if each.id == before), len(others))
    return Rulebook(rules=(*others[:at], rule, *others[at:]))


def duplicated(rulebook: Rulebook, id: str) -> Rulebook:
    """The rulebook with a rule twice, the second right after the first."""
    rule = rule_of(rulebook, id)
    copy = rule.model_copy(update={"id": new_rule_id(rulebook), "name": f"{rule.name} again"[:120]})
    at = rulebook.rules.index(rule) + 1
    return Rulebook(rules=(*rulebook.rules[:at], copy, *rulebook.rules[at:]))


def styled(rulebook: Rulebook, style: str, currency: str | None) -> Rulebook:
    """The rulebook with a house style as its rule for everywhere, first in order; others stay."""
    if style not in STYLES:
        what = f'There is no style "{style}".'
        raise InputError("no-such-style", Fault("style", what, f"There are {', '.join(STYLES)}."))
    name, clauses = STYLES[style]
    base = {} if style == "dashboard" else STATUTORY
    data = {"form": "amount", "currency": currency} | base | clauses
    if currency and currency != data["currency"]:
        data["currency"] = currency
    everywhere = [rule for rule in rulebook.rules if rule.reach == Reach()]
    rule = Rule(
        id=everywhere[0].id if everywhere else new_rule_id(rulebook),
        name=name,
        clauses=Clauses.model_validate(data),
    )
    others = tuple(each for each in rulebook.rules if each.reach != Reach())
    return Rulebook(rules=(rule, *others))
