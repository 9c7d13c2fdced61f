"""The plan of footing as a sentence whose words carry the plan they would make."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from humble_sum.core.amounts import amount_text
from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.rules.words import Sentence, Word, plain_word
from humble_sum.core.statements.policy import (
    AT_MOST,
    CHOOSING,
    GIVES_WAY,
    PUBLISHED,
    SIGN,
    ZERO,
    Policy,
)

LIMITS: dict[str | None, str] = {None: "any share", "0.01": "1%", "0.05": "5%"}
Footed = Callable[[Policy], Foot]


def plan_sentence(policy: Policy, footed: Footed) -> Sentence:
    """The policy in words; each choice foots by the policy with that word changed."""

    def word(clause: str, labels: Mapping[Any, str], now: Any = ...) -> Word:
        said = policy.model_dump(mode="json")
        value = said[clause] if now is ... else now
        changes = {each: footed(Policy.model_validate(said | {clause: each})) for each in labels}
        return plain_word(clause, value, labels, changes)

    limit = None if policy.most_change is None else amount_text(policy.most_change)
    limits = LIMITS if limit in LIMITS else {**LIMITS, limit: str(limit)}
    return [
        "Make it foot by moving",
        word("gives_way", GIVES_WAY),
        ", choosing",
        word("choosing", CHOOSING),
        ", at most",
        word("at_most", AT_MOST),
        "and",
        word("most_change", limits, limit),
        "of each figure. Keep held figures and",
        word("keep_published", PUBLISHED),
        ". Never turn an amount into",
        word("keep_amounts", ZERO),
        ",",
        word("keep_signs", SIGN),
        ".",
    ]
