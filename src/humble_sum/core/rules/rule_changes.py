"""Changes from one rulebook to another, in words: as from a house style's last version to its new one."""

from __future__ import annotations

from collections.abc import Iterator

from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.rules.clause_registry import clause_name, describe_clause
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook


def rule_changes(before: Rulebook, after: Rulebook) -> list[str]:
    """A line for each rule that is new, gone, or says something else, and one where only their order changed,
    which decides between rules of one reach. A rule is known by its id."""
    old = {rule.id: rule for rule in before.rules}
    new = {rule.id: rule for rule in after.rules}
    said = [line for id, rule in new.items() for line in _changes(old.get(id), rule)]
    said += [f"{rule.name}: removed" for id, rule in old.items() if id not in new]
    kept = [id for id in new if id in old]
    if kept != [id for id in old if id in new]:
        said.append(f"The order is now {', '.join(new[id].name for id in kept)}")
    return said


def _changes(old: Rule | None, new: Rule) -> Iterator[str]:
    if old is None:
        words = [f"{clause_name(name)} {_said(new, name)}" for name in _named(new)]
        yield f"{new.name}: new, {_where(new.reach)}: {'; '.join(words) or 'says nothing yet'}"
        return
    if old.name != new.name:
        yield f"{new.name}: was called {old.name}"
    if old.reach != new.reach:
        yield f"{new.name}: applies {_where(new.reach)}, was {_where(old.reach)}"
    if old.off != new.off:
        yield f"{new.name}: switched {'off' if new.off else 'on'}"
    for name in dict.fromkeys([*_named(old), *_named(new)]):
        was, now = (_said(rule, name) if name in _named(rule) else None for rule in (old, new))
        if was == now and old.clauses.named().get(name) == new.clauses.named().get(name):
            continue
        if now is None:
            yield f"{new.name}: {clause_name(name)} is left to broader rules, was {was}"
        else:
            yield f"{new.name}: {clause_name(name)} {now}, was {was or 'left to broader rules'}"


def _named(rule: Rule) -> list[str]:
    return list(rule.clauses.named())


def _said(rule: Rule, clause: str) -> str:
    return describe_clause(clause, ResolvedClauses.of(rule.clauses.named()))


def _where(reach: Reach) -> str:
    """Where a rule applies, by the ids that a file has."""
    named = reach.model_dump(mode="json", exclude_defaults=True)
    parts = [
        f"{name.removesuffix('s') if isinstance(said, list) and len(said) == 1 else name} "
        f"{', '.join(said) if isinstance(said, list) else said}"
        for name, said in named.items()
    ]
    return f"in {'; '.join(parts)}" if parts else "everywhere"
