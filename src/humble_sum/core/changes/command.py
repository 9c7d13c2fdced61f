"""What a command is: one kind of change to a pack, with its fields, its words and what it does.

A command is one class in a module named `…_commands`; `registry` finds it there, and the union of all
changes, their list, the API's schema and the tests follow from that.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, ClassVar

from pydantic import BaseModel, ConfigDict

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.plan import NoPlan, Plan
from humble_sum.core.proof.pack_proof import PackProof, proof_of
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.core.statements.validation import check

Planner = Callable[[PackProof], Plan | NoPlan]


class Command(BaseModel):
    """A change to a pack, as data. Its docstring says what it does, its `kind` is its name.

    `in_one_edition`: made in an edition, it is for that edition alone. `can_be_tried`: it can be tried
    with others before they are kept together. `of_review`: who only reviews may make it too.
    """

    model_config = ConfigDict(extra="forbid")
    in_one_edition: ClassVar[bool] = False
    can_be_tried: ClassVar[bool] = False
    of_review: ClassVar[bool] = False
    if TYPE_CHECKING:
        kind: str

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        """The pack after the change, and what it did in words. Raises InputError."""
        raise NotImplementedError


class OnStatement(Command):
    """A command made on one statement."""

    statement: Id

    def proof(self, pack_proof: PackProof) -> Proof:
        """The statement proved. Raises InputError where there is no such statement."""
        return proof_of(pack_proof, self.statement)

    def owner(self, pack: Pack) -> Statement:
        """The statement. Raises InputError where there is none."""
        found = pack.statement(self.statement)
        if found is None:
            what = f'There is no statement "{self.statement}".'
            raise InputError("no-such-statement", Fault("statement", what))
        return found


class OnPack(Command):
    """A command that needs the pack alone, and nothing of what prints."""

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        """The changed pack, checked."""
        changed, says = self.changed(pack_proof.pack)
        check(changed)
        return changed, says

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        """The pack changed, and what that did. Raises InputError."""
        raise NotImplementedError
