"""Changing a pack file: the same changes as on the screen and over HTTP."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from humble_sum.core.changes.apply import apply_change
from humble_sum.core.changes.change_union import COMMANDS, read_change
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import base_of, in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.records.pack_rows import now


def changed(
    pack: Pack, given: Sequence[Any], author: str, edition: str | None = None
) -> tuple[Pack, list[str]]:
    """The pack after these changes, each parsed JSON of one or of several, one after another, and what each
    did. Raises InputError at the first that cannot be made; nothing of the others is then kept either.

    Made in an `edition`, what is held, nudged, planned and said of printing is that edition's own."""
    pack = in_edition(pack, edition or OWN)
    said = []
    for data in (change for each in given for change in (each if isinstance(each, list) else [each])):
        applied = apply_change(pack, read_change(data), author, now())
        pack = applied.pack
        said.append(applied.says)
    return base_of(pack), said


def listed() -> str:
    """Every kind of change: what it does, and its fields, those in brackets with a value of their own."""
    lines = []
    for kind, model in COMMANDS.items():
        fields = [
            name if field.is_required() else f"[{name}]"
            for name, field in model.model_fields.items()
            if name != "kind"
        ]
        first = (model.__doc__ or "").split("\n\n")[0].replace("\n    ", " ")
        lines.append(f"{kind} ({', '.join(fields)})\n    {first}")
    return "\n".join(lines)
