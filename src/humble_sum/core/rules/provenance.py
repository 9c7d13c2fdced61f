"""Which rule decided each clause of a figure."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.printing.resolved_clauses import NAMES
from humble_sum.core.rules.clause_registry import describe_clause
from humble_sum.core.rules.rulebook import Decided, Rule


@dataclass(frozen=True)
class Decision:
    """A rule, None for the defaults, and the clauses it decided: names with what they now say."""

    rule: Rule | None
    clauses: tuple[tuple[str, str], ...]


def decisions(decided: Decided) -> list[Decision]:
    """Every clause under the rule that decided it: the narrowest rule first, the defaults last."""
    by_rule: dict[str, tuple[Rule | None, list[tuple[str, str]]]] = {}
    for name in NAMES:
        rule = decided.origins[name]
        _, said = by_rule.setdefault(rule.id if rule else "", (rule, []))
        said.append((name, describe_clause(name, decided.clauses)))
    found = [Decision(rule, tuple(said)) for rule, said in by_rule.values()]
    return sorted(found, key=lambda each: each.rule.reach.narrowness if each.rule else (-1, 0), reverse=True)
