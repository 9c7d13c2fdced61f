"""An issue: one edition of a pack as it went out, frozen, numbered and signed."""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.issue.last_check import Check
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.names import Label, Reason

State = Literal["draft", "final"]
Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
FileName = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9.-]{0,120}$")]


class CheckRecord(BaseModel):
    """A check as it stood: what was open, and why it went out all the same."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    says: str
    evidence: str
    open: tuple[str, ...] = ()
    reason: Reason = ""


class IssuedFile(BaseModel):
    """A file of an issue, with its SHA-256 and its length in bytes."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    name: FileName
    says: str
    sha256: Digest
    size: Annotated[int, Field(ge=0)]


class Issue(BaseModel):
    """What is said of an issue. `number` counts those of one edition; `made` is its time (RFC 3339)."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    number: Annotated[int, Field(ge=1)]
    edition: Id
    edition_name: Label
    entity: Label
    period: Label
    made: str
    prepared_by: Label
    reviewed_by: Annotated[str, Field(max_length=200)] = ""
    recipients: Label
    state: State
    checks: tuple[CheckRecord, ...]
    version: str = Field(description="Of the program that made it.")
    locale_data: str = Field(description="Version of the Unicode CLDR data it printed by.")
    files: tuple[IssuedFile, ...] = ()
    kinds: tuple[Id, ...] = Field(default=(), description="The kinds of files that were chosen.")
    libraries: dict[str, str] = Field(
        default_factory=dict,
        description="Versions of the libraries, and of the fonts, that its files were made with.",
    )


def recorded(checks: Sequence[Check], reasons: dict[str, str]) -> tuple[CheckRecord, ...]:
    """The checks as they go on record. Raises InputError where one is open and nobody says why."""
    faults = []
    made = []
    for check in checks:
        reason = unicodedata.normalize("NFC", reasons.get(check.id, "")).strip()
        if check.open and not reason:
            first = check.open[0].says
            more = f", and {len(check.open) - 1} more" if len(check.open) > 1 else ""
            faults.append(
                Fault(
                    f"reasons.{check.id}",
                    f"{check.says}: {first.rstrip('.')}{more}.",
                    "Settle it, or say why not.",
                )
            )
        made.append(
            CheckRecord(
                id=check.id,
                says=check.says,
                evidence=check.evidence,
                open=tuple(each.says for each in check.open),
                reason=reason if check.open else "",
            )
        )
    if faults:
        raise InputError("open-checks", faults)
    return tuple(made)
