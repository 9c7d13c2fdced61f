"""Rulebooks as JSON files, kind "humble-sum/rulebook", version 1."""

from __future__ import annotations

import json
from typing import Any

from humble_sum.core.rules.house_style import HouseStyle
from humble_sum.core.rules.rulebook import Rulebook
from humble_sum.core.rules.rulebook_file import KIND, VERSION


def spelled(rulebook: Rulebook) -> list[dict[str, Any]]:
    """The rules as JSON, with only what each says."""
    return [
        rule.model_dump(mode="json", exclude_none=True, exclude_defaults=True, exclude={"clauses"})
        | {"clauses": rule.clauses.spelled()}
        for rule in rulebook.rules
    ]


def write_rulebook(rulebook: Rulebook, style: HouseStyle | None = None) -> bytes:
    """The rulebook as a file, as a version of a house style where it is one. What is written reads back
    equal."""
    data: dict[str, Any] = {"kind": KIND, "version": VERSION}
    if style is not None:
        data["house_style"] = {"name": style.name, "version": style.version}
    data["rules"] = spelled(rulebook)
    return (json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode()
