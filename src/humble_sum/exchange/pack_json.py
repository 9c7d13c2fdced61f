"""Packs as JSON files, kind "humble-sum/pack", version 1. See docs/formats/README.md."""

from __future__ import annotations

import json
from typing import Any, Literal

from pydantic import ConfigDict, Field, ValidationError

from humble_sum.core.errors import Fault, InputError, faults_of
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.validation import check
from humble_sum.exchange.exact_json import NumberText, parse_json
from humble_sum.exchange.rulebook_json import spelled

KIND = "humble-sum/pack"
VERSION = 1


class PackFile(Pack):
    """A pack file: the pack with the file's kind and version."""

    model_config = ConfigDict(extra="forbid", frozen=True, title="Humble Sum pack")
    kind: Literal["humble-sum/pack"] = Field(description="Says what this file is.")
    version: Literal[1] = Field(description="The version of this format.")


def read_pack(data: bytes) -> Pack:
    """The pack in a file's bytes. Raises InputError, naming every place that is wrong."""
    parsed = parse_json(data, "pack file")
    if not isinstance(parsed, dict) or parsed.get("kind") != KIND:
        found = parsed.get("kind") if isinstance(parsed, dict) else None
        said = f'says it is "{found}"' if isinstance(found, str) else "does not say what it is"
        raise InputError("not-a-pack", Fault("kind", f"This file {said}.", f'A pack file says "{KIND}".'))
    if parsed.get("version") != VERSION:
        shown = json.dumps(parsed.get("version"))[:40]
        raise InputError(
            "other-version",
            Fault(
                "version", f"This pack file is of version {shown}.", f"Only version {VERSION} can be read."
            ),
        )
    _refuse_numbers_as_amounts(parsed)
    try:
        file = PackFile.model_validate(parsed)
    except ValidationError as error:
        raise InputError("bad-pack", faults_of(error)) from None
    pack = Pack(**{name: getattr(file, name) for name in Pack.model_fields})
    check(pack)
    return pack


def _refuse_numbers_as_amounts(parsed: dict[str, Any]) -> None:
    """Amounts written as JSON numbers would have passed through a double elsewhere: refuse them."""
    faults = []
    statements = parsed.get("statements")
    for s, statement in enumerate(statements if isinstance(statements, list) else []):
        lines = statement.get("lines") if isinstance(statement, dict) else None
        for n, line in enumerate(lines if isinstance(lines, list) else []):
            amounts = line.get("amounts") if isinstance(line, dict) else None
            for column, value in amounts.items() if isinstance(amounts, dict) else ():
                if isinstance(value, NumberText | int) and not isinstance(value, bool):
                    faults.append(
                        Fault(
                            f"statements[{s}].lines[{n}].amounts.{column}",
                            f"{str(value)[:40]} is a JSON number.",
                            "Write amounts as text, in quotes, so that no digit is lost.",
                        )
                    )
    if faults:
        raise InputError("bad-pack", faults)


def write_pack(pack: Pack) -> bytes:
    """The pack as a file. What is written reads back equal."""
    data: dict[str, Any] = {"kind": KIND, "version": VERSION}
    data |= pack.model_dump(mode="json", exclude_defaults=True, exclude={"rulebook"})
    data["rulebook"] = {"rules": spelled(pack.rulebook)}
    return (json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode()


def write_pack_of(pack: Pack, _: Proof) -> bytes:
    """The file of the whole pack that a statement is of, whichever edition it is shown in."""
    return write_pack(base_of(pack))


def pack_schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of a pack file."""
    schema = PackFile.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema}
