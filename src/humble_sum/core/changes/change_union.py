"""Changes as data: every kind with its fields, and one read from parsed JSON."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, get_args

from pydantic import BaseModel, TypeAdapter, ValidationError

from humble_sum.core.changes.commands import Applied, Change, apply
from humble_sum.core.errors import HALF, InputError, faults_of
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.pack import Pack

READER: TypeAdapter[Change] = TypeAdapter(Change)


def read_change(data: object) -> Change:
    """One change from parsed JSON. Raises InputError, naming each place that is wrong."""
    try:
        return READER.validate_python(data)
    except ValidationError as error:
        raise InputError("bad-request", faults_of(error)) from None
    except UnicodeEncodeError:
        raise InputError("bad-request", HALF) from None


def apply_change(pack: Pack, change: Change, author: str = "", made: str = "") -> Applied:
    """A pack after one change, and what it did in words. Raises InputError; the pack is then as it was."""
    return apply(prove_pack(pack), change, author, made=made)


def kinds() -> dict[str, type[BaseModel]]:
    """Every kind of change by its name, in alphabetical order."""
    found = {str(model.model_fields["kind"].annotation.__args__[0]): model for model in _models(Change)}  # type: ignore[union-attr]
    return dict(sorted(found.items()))


def _models(union: Any) -> Iterator[type[BaseModel]]:
    if isinstance(union, type) and issubclass(union, BaseModel):
        yield union
        return
    for part in get_args(union):
        if isinstance(part, type) or get_args(part):
            yield from _models(part)
