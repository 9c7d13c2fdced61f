"""Rulebooks as JSON files, kind "humble-sum/rulebook", version 1."""

from __future__ import annotations

import json
from typing import Any

from humble_sum.core.rules.rulebook import Rulebook
from humble_sum.core.rules.rulebook_file import KIND, VERSION


def spelled(rulebook: Rulebook) -> list[dict[str, Any]]:
    """The rules as JSON, with only what each says."""
    return [
        rule.model_dump(mode="json", exclude_none=True, exclude_defaults=True, exclude={"clauses"})
        | {"clauses": rule.clauses.spelled()}
        for rule in rulebook.rules
    ]


def write_rulebook(rulebook: Rulebook) -> bytes:
    """The rulebook as a file. What is written reads back equal."""
    data = {"kind": KIND, "version": VERSION, "rules": spelled(rulebook)}
    return (json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode()
