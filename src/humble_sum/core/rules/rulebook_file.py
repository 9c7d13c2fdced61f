"""A rulebook as a file says it, kind "humble-sum/rulebook", version 1."""

from __future__ import annotations

from typing import Literal

from pydantic import ConfigDict, ValidationError

from humble_sum.core.errors import Fault, InputError, faults_of
from humble_sum.core.rules.rulebook import Rulebook

KIND = "humble-sum/rulebook"
VERSION = 1


class RulebookFile(Rulebook):
    """A rulebook file: rules in order, with the file's kind and version."""

    model_config = ConfigDict(extra="forbid", frozen=True, title="Humble Sum rulebook")
    kind: Literal["humble-sum/rulebook"] = "humble-sum/rulebook"
    version: Literal[1] = 1


def rulebook_of(data: object) -> Rulebook:
    """The rulebook in parsed JSON: a file of its own, or the part of a pack file. Raises InputError."""
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
        return Rulebook(rules=RulebookFile.model_validate(data).rules)
    except ValidationError as error:
        raise InputError("bad-rulebook", faults_of(error)) from None
