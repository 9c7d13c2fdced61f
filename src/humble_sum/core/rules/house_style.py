"""House styles: rulebooks that many packs share, each version of which stays as it is.

A pack that follows one knows its name, its version, and which of its own rules came from it; so a new
version takes the place of those rules and leaves the pack's others alone.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.rules.rule_changes import rule_changes
from humble_sum.core.rules.rulebook import Id, Reach, Rule, Rulebook, new_rule_id

# Nothing that is not printed: no blank at either end, no control character.
STYLE_NAME = r"^[^\s\x00-\x1f\x7f-\x9f]([^\x00-\x1f\x7f-\x9f]*[^\s\x00-\x1f\x7f-\x9f])?$"
StyleName = Annotated[str, Field(min_length=1, max_length=120, pattern=STYLE_NAME)]
StyleVersion = Annotated[int, Field(ge=1, le=9_999)]


class HouseStyle(BaseModel):
    """What a rulebook file says of itself where it is one version of a house style."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    name: StyleName
    version: StyleVersion

    @property
    def said(self) -> str:
        return f"{self.name}, version {self.version}"


class Followed(HouseStyle):
    """The house style a pack follows, and the ids of the rules that came from it."""

    rules: tuple[Id, ...] = ()


def taken_from(
    book: Rulebook, rules: tuple[Rule, ...], style: HouseStyle, before: Followed | None
) -> tuple[Rulebook, Followed]:
    """The rulebook with a house style's `rules` in it, and what it follows then.

    They take the place of those that came from the house style followed `before`, or where none was, of
    those that apply everywhere. The pack's other rules stay behind them, but for those that the style says
    in the same words; one whose id the style has too gets another.
    """
    own = [
        rule
        for rule in book.rules
        if rule not in rules and (rule.reach != Reach() if before is None else rule.id not in before.rules)
    ]
    followed = Followed(name=style.name, version=style.version, rules=tuple(rule.id for rule in rules))
    every = [*rules]
    for rule in own:
        if any(rule.id == each.id for each in every):
            ids = Rulebook(rules=(*every, *own))
            rule = rule.model_copy(update={"id": new_rule_id(ids)})
        every.append(rule)
    return Rulebook(rules=tuple(every)), followed


def own_words(book: Rulebook, followed: Followed, style: Rulebook) -> list[str]:
    """Where a pack's rulebook differs from the house style it follows, in words: its rules changed, and
    those of its own."""
    ids = set(followed.rules)
    from_style = Rulebook(rules=tuple(rule for rule in book.rules if rule.id in ids))
    as_given = Rulebook(rules=tuple(rule for rule in style.rules if rule.id in ids))
    added = Rulebook(rules=tuple(rule for rule in book.rules if rule.id not in ids))
    return rule_changes(as_given, from_style) + rule_changes(Rulebook(), added)
