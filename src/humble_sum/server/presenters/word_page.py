"""Sentences whose words open, as the API sends them."""

from __future__ import annotations

from typing import Any

from humble_sum.core.rules.words import Sentence, Way, Word
from humble_sum.server.figure_schemas import ChoiceView, OfferView, SentenceView, TypedView, WordView


def sentence_view(sentence: Sentence) -> SentenceView:
    """A sentence with its words."""
    return [part if isinstance(part, str) else word_view(part) for part in sentence]


def word_view(word: Word) -> WordView:
    """One word, with the command of each of its choices."""
    typed = word.typed
    return WordView(
        clause=word.clause,
        name=word.name,
        label=word.label,
        value=word.value,
        chosen=word.chosen,
        adds=word.adds,
        level=word.level,
        rule=word.rule,
        rule_name=word.rule_name,
        choices=[
            ChoiceView(value=each.value, label=each.label, example=each.example, change=_ready(each.change))
            for each in word.choices
        ],
        typed=typed
        and TypedView(menu=typed.menu, name=typed.name, example=typed.example, change=_ready(typed.change)),
        drop=offer_view(word.drop) if word.drop else None,
    )


def offer_view(way: Way) -> OfferView:
    """A ready command and what it is called."""
    return OfferView.model_construct(label=way.label, change=_ready(way.change))


def _ready(change: Any) -> Any:
    """Core says that a sentence carries commands, and not which."""
    return change
