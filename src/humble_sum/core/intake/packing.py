"""Accepted drafts as a pack, with a first house rule to print it by."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import PurePath

from humble_sum.core.clauses import Clauses
from humble_sum.core.intake.draft import Draft, new_id, statement_of
from humble_sum.core.rules import Rule, Rulebook
from humble_sum.core.statements import Pack, check


def name_of(made: Draft) -> str:
    """What to call a draft's statement until its owner says: the sheet, or the file."""
    return made.table.name or PurePath(made.table.source).stem or "Statement"


def pack_of(
    drafts: Sequence[tuple[Draft, str]], entity: str, period: str, currency: str | None = None
) -> Pack:
    """A pack of the drafts under these names.

    The currency is the one given, or the only one the drafts found. Raises Refused where the
    statements do not hold together, such as sums that go round in a circle.
    """
    found = {made.currency for made, _ in drafts if made.currency}
    chosen = currency or (found.pop() if len(found) == 1 else None)
    taken: set[str] = set()
    statements = tuple(statement_of(made, new_id(name, taken).lower(), name) for made, name in drafts)
    rulebook = Rulebook(rules=(house_rule(chosen),))
    pack = Pack(entity=entity, period=period, currency=chosen, statements=statements, rulebook=rulebook)
    check(pack)
    return pack


def house_rule(currency: str | None) -> Rule:
    """Whole units with the unit in the caption: what a statement prints by before anything is chosen."""
    clauses = {
        "form": "amount",
        "currency": currency,
        "money_shown": "caption",
        "scale": "ones",
        "scale_word": "caption",
        "decimals": {"fixed": 0},
        "locale": "en-IN" if currency == "INR" else "en-US",
        "negative": "brackets",
        "zero": "dash",
        "missing": {"word": "n/a"},
    }
    return Rule(id="house", name="House rule", clauses=Clauses.model_validate(clauses))
