"""What can be done to a pack: every kind of change, in words."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, Field

from humble_sum.core.changes.change_union import COMMANDS
from humble_sum.server.routes.addresses import addresses

router: APIRouter = addresses("changes")


class CommandView(BaseModel):
    """A kind of change: its name, what it does, and its fields."""

    kind: str
    says: str
    required: list[str]
    optional: list[str]
    can_be_tried: bool = Field(description="Whether it can be tried with others before they are kept.")


@router.get("/commands")
def see_commands() -> list[CommandView]:
    """Every kind of change that a pack can undergo, in alphabetical order."""
    found = []
    for kind, model in COMMANDS.items():
        fields = {name: field for name, field in model.model_fields.items() if name != "kind"}
        found.append(
            CommandView(
                kind=kind,
                says=" ".join((model.__doc__ or "").split()),
                required=[name for name, field in fields.items() if field.is_required()],
                optional=[name for name, field in fields.items() if not field.is_required()],
                can_be_tried=model.can_be_tried,
            )
        )
    return found
