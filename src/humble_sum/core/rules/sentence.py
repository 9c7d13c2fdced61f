"""A rule said as a sentence whose words are its controls."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

from humble_sum.core.printing.clauses import spelled
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses
from humble_sum.core.rules.clause_registry import (
    ENTRIES,
    SENTENCES,
    clause_name,
    decides,
    describe_clause,
    example,
)
from humble_sum.core.rules.rulebook import Decided
from humble_sum.core.rules.words import Choice, Offers, Sentence, Typed, Word


@lru_cache(maxsize=4_096)
def _examples(clause: str, clauses: ResolvedClauses) -> tuple[str, ...]:
    """What each value of a clause would print. A page asks for hundreds that no change has touched."""
    return tuple(example(clause, each, clauses) for each, _ in ENTRIES[clause].values(clauses))


def sentence(decided: Decided, offers: Offers) -> Sentence:
    """The clauses of one figure as text and words. Clauses that decide nothing are left unsaid."""

    def said(clause: str) -> bool:
        entry = ENTRIES[clause]
        return decides(clause, decided.clauses) if entry.adds else entry.applies(decided.clauses)

    return _composed(decided, offers, said)


def rule_sentence(decided: Decided, offers: Offers, named: frozenset[str]) -> Sentence:
    """The clauses that one rule names, as text and words."""
    return _composed(decided, offers, named.__contains__)


def more_words(decided: Decided, offers: Offers) -> list[Word]:
    """The words a figure's sentence does not have yet, each to be added with one of its choices."""
    more = [clause for clause, entry in ENTRIES.items() if entry.adds]
    return [word_of(clause, decided, offers) for clause in more if not decides(clause, decided.clauses)]


def unsaid_words(decided: Decided, offers: Offers, named: frozenset[str]) -> list[Word]:
    """The words that a rule does not have yet."""
    return [word_of(clause, decided, offers) for clause in NAMES if clause not in named]


def _composed(decided: Decided, offers: Offers, said: Callable[[str], bool]) -> Sentence:
    found: Sentence = []
    for group in SENTENCES:
        before = None
        for clause in filter(said, group):
            entry = ENTRIES[clause]
            # "in ₹ lakhs", and not "in ₹ in lakhs".
            joined = "" if (before, clause) == ("currency", "scale") else entry.joined
            lead = entry.lead if before is None else joined
            found += [lead] if lead else []
            found.append(word_of(clause, decided, offers))
            before = clause
        found += ["."] if before else []
    return found


def word_of(clause: str, decided: Decided, offers: Offers) -> Word:
    """One clause of a figure as a word that opens."""
    entry, rule, clauses = ENTRIES[clause], decided.origins[clause], decided.clauses
    value = spelled(clauses, (clause,))[clause]
    values = entry.values(clauses)
    return Word(
        clause=clause,
        name=clause_name(clause),
        label=describe_clause(clause, clauses),
        value=value,
        choices=tuple(
            Choice(each, said, printed, offers.value(clause, each))
            for (each, said), printed in zip(values, _examples(clause, clauses), strict=True)
        ),
        chosen=next((place for place, (each, _) in enumerate(values) if each == value), -1),
        adds=entry.adds or clause_name(clause),
        typed=Typed(entry.free.menu, entry.free.name, entry.free.example, offers.text(clause))
        if entry.free
        else None,
        drop=offers.drop(clause, rule),
        level=rule.reach.level if rule else "default",
        rule=rule.id if rule else None,
        rule_name=rule.name if rule else "Default",
    )
