"""Changes as data: one of any kind, or several made as one, read from parsed JSON."""

from __future__ import annotations

from functools import reduce
from operator import or_
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field, TypeAdapter, ValidationError

from humble_sum.core.changes import registry
from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.command import Command, OnStatement, Planner
from humble_sum.core.errors import HALF, InputError, faults_of
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.pack import Pack

if TYPE_CHECKING:
    Tried = Command
    Change = Command
else:
    Tried = Annotated[
        reduce(or_, (each for each in registry.COMMANDS.values() if each.can_be_tried)),
        Field(discriminator="kind"),
    ]


class Together(OnStatement):
    """Several changes of rules or footing, made as one: kept together and undone together."""

    in_one_edition = True
    kind: Literal["together"]
    changes: Annotated[list[Tried], Field(min_length=1, max_length=60)]

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        """The pack after each of them in turn, and what they did."""
        said = []
        for each in self.changes:
            new, says = apply(pack_proof, each, planner=planner)
            said.append(says)
            pack_proof = prove_pack(new, pack_proof)
        return pack_proof.pack, "; ".join(said)


COMMANDS: dict[str, type[Command]] = dict(sorted((registry.COMMANDS | {"together": Together}).items()))

if not TYPE_CHECKING:
    Change = Annotated[reduce(or_, COMMANDS.values()), Field(discriminator="kind")]

READER: TypeAdapter[Change] = TypeAdapter(Change)


def read_change(data: object) -> Change:
    """One change from parsed JSON. Raises InputError, naming each place that is wrong."""
    try:
        return READER.validate_python(data)
    except ValidationError as error:
        raise InputError("bad-request", faults_of(error)) from None
    except UnicodeEncodeError:
        raise InputError("bad-request", HALF) from None
