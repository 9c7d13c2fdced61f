"""Sentences whose words open: what a word says now, and what choosing another would change."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal, Protocol

from pydantic import BaseModel

from humble_sum.core.rules.rulebook import Level, Rule


@dataclass(frozen=True)
class Choice:
    """One value a word can take: its JSON, what it is called, a figure printed by it, and the ready
    command that would choose it; None where the word cannot change so."""

    value: Any
    label: str
    example: str = ""
    change: BaseModel | None = None


@dataclass(frozen=True)
class Typed:
    """A value that can be typed: what the menu calls it, the field's name, an example, and the command,
    which lacks the `text` alone."""

    menu: str
    name: str
    example: str
    change: BaseModel


@dataclass(frozen=True)
class Way:
    """A ready command and what it is called."""

    label: str
    change: BaseModel


@dataclass(frozen=True)
class Word:
    """A word of a sentence that opens: what it decides, its value now, and where that was decided.

    `chosen` is the place of the value among the choices, -1 where it is none of them.
    """

    clause: str
    name: str
    label: str
    value: Any
    choices: tuple[Choice, ...]
    chosen: int
    adds: str = ""
    typed: Typed | None = None
    drop: Way | None = None
    level: Literal["default"] | Level = "default"
    rule: str | None = None
    rule_name: str = ""


Sentence = list[str | Word]


class Offers(Protocol):
    """Where a word's changes go: to the rule that decides a figure, or to one rule."""

    def value(self, clause: str, value: Any) -> BaseModel:
        """The command that would give the clause this value."""

    def text(self, clause: str) -> BaseModel:
        """The command that would give it what is typed; its `text` is still empty."""

    def drop(self, clause: str, rule: Rule | None) -> Way | None:
        """The command that would leave it unsaid, where it can be."""


def plain_word(
    clause: str,
    value: Any,
    labels: Mapping[Any, str] | Sequence[tuple[Any, str]],
    change: Mapping[Any, BaseModel | None] | None = None,
    label: str | None = None,
) -> Word:
    """A word that no rule decides: labels by value, and the command for each value that has one."""
    pairs = tuple(labels.items() if isinstance(labels, Mapping) else labels)
    values = [each for each, _ in pairs]
    changes = change or {}
    choices = tuple(Choice(each, said, "", changes.get(each)) for each, said in pairs)
    chosen = values.index(value) if value in values else -1
    said = label if label is not None else pairs[chosen][1]
    return Word(clause, clause.replace("_", " "), said, value, choices, chosen)
