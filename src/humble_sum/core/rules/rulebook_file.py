"""A rulebook as a file says it, kind "humble-sum/rulebook", version 1."""

from __future__ import annotations

from typing import Literal

from pydantic import ConfigDict, Field, ValidationError

from humble_sum.core.errors import Fault, InputError, faults_of
from humble_sum.core.rules.house_style import HouseStyle
from humble_sum.core.rules.rulebook import Rulebook

KIND = "humble-sum/rulebook"
VERSION = 1


class RulebookFile(Rulebook):
    """A rulebook file: rules in order, with the file's kind and version."""

    model_config = ConfigDict(extra="forbid", frozen=True, title="Humble Sum rulebook")
    kind: Literal["humble-sum/rulebook"] = "humble-sum/rulebook"
    version: Literal[1] = 1
    house_style: HouseStyle | None = Field(
        default=None, description="Which house style these rules are a version of."
    )


def rulebook_of(data: object) -> Rulebook:
    """The rulebook in parsed JSON: a file of its own, or the part of a pack file. Raises InputError."""
    return Rulebook(rules=_file_of(data).rules)


def house_style_of(data: object) -> tuple[HouseStyle, Rulebook]:
    """The house style in parsed JSON, and its rules. Raises InputError where it is none."""
    file = _file_of(data)
    if file.house_style is None:
        what = "This rulebook does not say which house style it is."
        remedy = 'A version of one has "house_style": {"name": "…", "version": 1} beside its rules.'
        raise InputError("not-a-house-style", Fault("house_style", what, remedy))
    return file.house_style, Rulebook(rules=file.rules)


def _file_of(data: object) -> RulebookFile:
    if isinstance(data, dict) and "rulebook" in data and "rules" not in data:
        data = data["rulebook"]
    if not isinstance(data, dict) or "rules" not in data:
        raise InputError(
            "not-a-rulebook", Fault("rules", "This is not a rulebook.", 'It has {"rules": [...]}.')
        )
    if data.get("kind", KIND) != KIND or data.get("version", VERSION) != VERSION:
        raise InputError(
            "not-a-rulebook", Fault("kind", f'A rulebook file says "{KIND}", version {VERSION}.')
        )
    try:
        return RulebookFile.model_validate(data)
    except ValidationError as error:
        raise InputError("bad-rulebook", faults_of(error)) from None
