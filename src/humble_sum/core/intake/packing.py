"""Accepted drafts as a pack, with a first house rule to print it by."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from pathlib import PurePath

from humble_sum.core.clauses import Clauses, InForce
from humble_sum.core.ids import new_id
from humble_sum.core.intake.draft import Draft, statement_of
from humble_sum.core.printing import print_amount
from humble_sum.core.rules import Reach, Rule, Rulebook
from humble_sum.core.sentences import FORMS, GROUPINGS, NEGATIVES, decimals_said
from humble_sum.core.soundness import check
from humble_sum.core.statements import Column, Pack


def name_of(made: Draft) -> str:
    """What to call a draft's statement until its owner says: the sheet, or the file."""
    return made.table.name or PurePath(made.table.source).stem or "Statement"


@dataclass(frozen=True)
class Kept:
    """A draft to keep as a statement: what to call it, and whether to print it as its codes say."""

    draft: Draft
    name: str
    look: bool = True


def pack_of(drafts: Sequence[Kept], entity: str, period: str, currency: str | None = None) -> Pack:
    """A pack of the drafts under their names, with a house rule and a rule for each look kept.

    The currency is the one given, or the only one the drafts found. Raises Refused where the
    statements do not hold together, such as sums that go round in a circle.
    """
    found = {kept.draft.currency for kept in drafts if kept.draft.currency}
    chosen = currency or (found.pop() if len(found) == 1 else None)
    taken: set[str] = set()
    statements, rules = [], [house_rule(chosen)]
    for kept in drafts:
        id = new_id(kept.name, taken).lower()
        statements.append(statement_of(kept.draft, id, kept.name))
        if kept.look and kept.draft.look.clauses:
            clauses = Clauses.model_validate(kept.draft.look.clauses)
            rules.append(
                Rule(id=f"look-{id}"[:64], name=kept.name, reach=Reach(statement=id), clauses=clauses)
            )
    rulebook = Rulebook(rules=tuple(rules))
    pack = Pack(
        entity=entity, period=period, currency=chosen, statements=tuple(statements), rulebook=rulebook
    )
    check(pack)
    return pack


def look_said(made: Draft) -> str:
    """What the number codes of a draft say about printing, in words."""
    clauses = InForce(**Clauses.model_validate(made.look.clauses).named())
    said = {
        "form": FORMS[clauses.form],
        "scale": "" if clauses.scale == "ones" else f"in {clauses.scale}",
        "currency": f"in {clauses.currency}",
        "decimals": decimals_said(clauses.decimals),
        "grouping": f"digits grouped {GROUPINGS[clauses.grouping]}",
        "negative": f"negatives {NEGATIVES[clauses.negative]}",
        "zero": f"zeros as {print_amount(Decimal(0), clauses).text or 'a blank'}",
    }
    return ", ".join(said[name] for name in said if name in made.look.clauses and said[name])


def column_said(made: Draft, column: Column) -> str:
    """What a derived column is made of: "Change = 2025-26 − 2024-25"."""
    labels = {each.id: each.label for each in made.columns}
    words = []
    for id, sign in column.terms:
        words += ["−" if sign < 0 else "+", labels[id]]
    return f"{column.label} = {' '.join(words[1:])}"


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
