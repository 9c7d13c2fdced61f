"""Rulebooks as a whole: their rules added, ordered and switched; house styles; and what each decides."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.once import ByIdentity, ByKey
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.printing.resolved_clauses import NAMES
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.rules.rulebook import (
    Deciding,
    LineKind,
    Place,
    Reach,
    Rule,
    Rulebook,
    decide_all,
    deciding,
    new_rule_id,
)
from humble_sum.core.statements.pack import Pack, Statement

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


Scope = tuple[Place, str]  # a sort of place, in an edition


def standings(pack_proof: PackProof) -> dict[str, RuleStanding]:
    """For every rule of the pack, by id: the figures it reaches and decides, on the page in the edition
    in hand, or where it is said for others alone, in the first of its places and editions."""
    pack = pack_proof.pack
    scopes = {rule.id: _scope(rule.reach, pack.shown) for rule in pack.rulebook.rules}
    counted = {scope: _counted(pack, scope) for scope in set(scopes.values())}
    found = {}
    for rule in pack.rulebook.rules:
        scope = scopes[rule.id]
        figures, decides = counted[scope]
        reaches = sum(_reached(rule.reach, statement, scope) for statement in pack.statements)
        named = rule.clauses.named()
        found[rule.id] = RuleStanding(
            0 if rule.off else reaches,
            figures[rule.id],
            {name: decides[rule.id, name] for name in NAMES if name in named},
        )
    return found


def _scope(reach: Reach, shown: str) -> Scope:
    place = "page" if not reach.places or "page" in reach.places else reach.places[0]
    edition = shown if not reach.editions or shown in reach.editions else reach.editions[0]
    return place, edition


def _counted(pack: Pack, scope: Scope) -> Deciding:
    """How many figures each rule decides in a scope, and how many each of its clauses does."""
    rulebook = pack.rulebook
    told = [f"{r.id} {r.off} {r.reach.model_dump_json()} {list(r.clauses.named())}" for r in rulebook.rules]
    same = ByKey(rulebook, "\n".join(told))
    figures: Counter[str] = Counter()
    clauses: Counter[tuple[str, str]] = Counter()
    for statement in pack.statements:
        lines = tuple((line.id, line.kind) for line in statement.figured)
        columns = tuple(column.id for column in statement.columns)
        of_statement = _count(same, statement.id, lines, columns, scope)
        figures.update(of_statement[0])
        clauses.update(of_statement[1])
    return figures, clauses


# Who decides hangs on what rules reach and name. Most changes give a clause another value, and no more.
@lru_cache(maxsize=128)
def _count(
    same: ByKey[Rulebook],
    statement: str,
    lines: tuple[tuple[str, LineKind], ...],
    columns: tuple[str, ...],
    scope: Scope,
) -> Deciding:
    """The counts of one statement."""
    alike = Counter(map(ByIdentity, decide_all(same.one, statement, lines, columns, *scope)))
    return deciding((each.one, count) for each, count in alike.items())


def _reached(reach: Reach, statement: Statement, scope: Scope) -> int:
    if not reach.within(statement.id, *scope):
        return 0
    lines = [line for line in statement.figured if reach.on_line(line.id) and reach.kind in (None, line.kind)]
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


def alike(rulebook: Rulebook) -> list[list[str]]:
    """Rules that say the same, of different statements or of different lines of one: the ids of each such
    group, which can be said once."""
    groups: dict[str, list[str]] = {}
    for rule in rulebook.rules:
        for key in _keys(rule):
            groups.setdefault(key, []).append(rule.id)
    found: list[list[str]] = []
    for ids in groups.values():
        left = [id for id in ids if not any(id in group for group in found)]
        if len(left) > 1:
            found.append(left)
    return found


def _keys(rule: Rule) -> list[str]:
    """What a rule has in common with those that it could be said together with: all but its statements, or
    all but its lines."""
    if not rule.clauses.named():
        return []
    reach = rule.reach.model_dump(mode="json")
    said = {"clauses": rule.clauses.spelled(), "off": rule.off}
    keys = []
    if rule.reach.owners and not rule.reach.rows and rule.reach.column is None:
        keys.append(said | {"of": "statements"} | reach | {"statement": None, "statements": []})
    if rule.reach.rows:
        keys.append(said | {"of": "lines"} | reach | {"line": None, "lines": []})
    return [json.dumps(key, sort_keys=True) for key in keys]


def merged(rulebook: Rulebook, ids: Sequence[str]) -> Rulebook:
    """The rulebook with these rules said once, in the place of the last of them. Raises InputError where
    they do not say the same."""
    rules = [rule_of(rulebook, id) for id in ids]
    if not any(set(ids) <= set(group) for group in alike(rulebook)):
        what = "These rules do not say the same."
        raise InputError(
            "bad-structure", Fault("rules", what, "Choose rules that differ in where they apply.")
        )
    first, last = rules[0].reach, rules[-1]
    changed: dict[str, Any] = {}
    if first.rows:
        changed = {
            "line": None,
            "lines": tuple(dict.fromkeys(id for rule in rules for id in rule.reach.rows)),
        }
    else:
        owners = tuple(dict.fromkeys(id for rule in rules for id in rule.reach.owners))
        changed = {"statement": None, "statements": owners}
    names = list(dict.fromkeys(rule.name for rule in rules))
    name = (", ".join(names[:-1]) + " and " + names[-1])[:120] if len(names) > 1 else names[0]
    one = last.model_copy(update={"reach": last.reach.model_copy(update=changed), "name": name})
    kept = [one if rule.id == last.id else rule for rule in rulebook.rules]
    return Rulebook(rules=tuple(rule for rule in kept if rule.id == one.id or rule.id not in ids))


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
