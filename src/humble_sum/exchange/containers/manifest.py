"""The manifest of a container: what is said of an issue, and each of its files with its digest."""

from __future__ import annotations

import json
from typing import Literal

from pydantic import ConfigDict, Field, ValidationError

from humble_sum.core.errors import Fault, InputError, faults_of
from humble_sum.core.issue.issue import Issue
from humble_sum.exchange.exact_json import parse_json

KIND, VERSION = "humble-sum/issue", 2
MANIFEST = "manifest.json"
BAD = "bad-container"
# What the first version did not say.
SINCE_THE_SECOND = {"kinds", "libraries"}


class Manifest(Issue):
    """What is in a container."""

    model_config = ConfigDict(extra="forbid", frozen=True, title="Humble Sum issue")
    kind: Literal["humble-sum/issue"] = Field(description="Says what this container is.")
    format: Literal[1, 2] = Field(description="The version of this format.")


def write_manifest(issue: Issue, version: int = VERSION) -> bytes:
    """The manifest of an issue: the same issue is the same file."""
    told = {"kind": KIND, "format": version} | issue.model_dump(mode="json")
    if version == 1:
        told = {name: value for name, value in told.items() if name not in SINCE_THE_SECOND}
    return (json.dumps(told, ensure_ascii=False, sort_keys=True, indent=1) + "\n").encode()


def read_manifest(data: bytes) -> tuple[Issue, int]:
    """The issue that a manifest tells of, and the version of its format. Raises InputError, also where a byte
    of it is not as this program writes it."""
    parsed = parse_json(data, "manifest")
    if not isinstance(parsed, dict) or parsed.get("kind") != KIND:
        raise InputError(BAD, Fault(MANIFEST, f'It does not say that it is "{KIND}".'))
    version = parsed.get("format")
    if version not in (1, VERSION):
        later = isinstance(version, int) and not isinstance(version, bool) and version > VERSION
        what = f"It is of version {json.dumps(version, default=str)[:40]}"
        what += ", made by a later version of Humble Sum." if later else "."
        raise InputError("other-version", Fault(MANIFEST, what, f"Versions 1 to {VERSION} can be read."))
    try:
        found = Manifest.model_validate(parsed)
    except ValidationError as error:
        raise InputError(BAD, faults_of(error)) from None
    issue = Issue(**{name: getattr(found, name) for name in Issue.model_fields})
    if data != write_manifest(issue, found.format):
        what = "It says the same in other bytes than it was issued with."
        raise InputError(BAD, Fault(MANIFEST, what, "Ask for the container as it was issued."))
    return issue, found.format
