"""What else would settle a pack that cannot foot, besides the smallest release."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass

from humble_sum.core.footing.plan import NoPlan, Plan, plan
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.policy import Policy

MOST_TRIED = 8


@dataclass(frozen=True)
class Settling:
    """A hold to release, or another policy, and the plan there would be then."""

    release: FigureRef | None
    policy: Policy | None
    plan: Plan


def settlings(pack_proof: PackProof, found: NoPlan, clock: Clock = ENDLESS) -> list[Settling]:
    """Other holds that settle it when released by themselves, and a wider step if that does, as many of
    them as the clock lets be tried."""
    ways: list[Settling] = []
    with suppress(OutOfTime):
        for way in _settlings(pack_proof, found, clock):
            ways.append(way)
    return ways


def _settlings(pack_proof: PackProof, found: NoPlan, clock: Clock) -> Iterator[Settling]:
    taken = set(found.release or ())
    refs = [(hold.statement, hold.line, hold.column) for hold in pack_proof.pack.holds]
    for ref in [ref for ref in refs if ref not in taken][:MOST_TRIED]:
        left = tuple(h for h in pack_proof.pack.holds if (h.statement, h.line, h.column) != ref)
        other = plan(prove_pack(pack_proof.pack.model_copy(update={"holds": left}), pack_proof), clock=clock)
        if isinstance(other, Plan):
            yield Settling(ref, None, other)
    if pack_proof.pack.policy.at_most == 1:
        wider = pack_proof.pack.policy.model_copy(update={"at_most": 2})
        again = PackProof(
            pack_proof.pack.model_copy(update={"policy": wider}), pack_proof.proofs, pack_proof.ties
        )
        other = plan(again, clock=clock)
        if isinstance(other, Plan):
            yield Settling(None, wider, other)
