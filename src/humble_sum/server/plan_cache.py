"""Plans found lately, so that what was looked at is what is kept, and is not searched for twice."""

from __future__ import annotations

import threading
from collections import deque

from humble_sum.core.footing.plan import NoPlan, Plan, plan
from humble_sum.core.footing.solver.deadline import Clock, OutOfTime, until
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.pack import Pack
from humble_sum.server.lanes import Lane, Lanes, Left

PACK_SECONDS = 20.0  # what a search is given where nobody says
MOST_PLANS = 16


class Plans:
    """The last plans by the pack they were found for, its policies among them, and whether the pack keeps
    them."""

    def __init__(self, lane: Lane | None = None) -> None:
        self.lane = lane or Lanes().planning
        self._found: deque[tuple[Pack, Plan | NoPlan, bool]] = deque(maxlen=MOST_PLANS)
        self._lock = threading.Lock()

    def kept(self, pack: Pack) -> Plan | NoPlan | None:
        """What was found last for this very pack."""
        with self._lock:
            # Packs that are one share their statements, so that comparing them is quick.
            return next((found for known, found, _ in self._found if known == pack), None)

    def keep(self, pack: Pack, found: Plan | NoPlan) -> None:
        """Remember the plan that a pack has been footed by: its own, whatever is known of others."""
        with self._lock:
            self._found.appendleft((pack, found, True))

    def search(self, pack_proof: PackProof, clock: Clock) -> Plan | NoPlan:
        """What was found for the pack to the end, or is found now. Raises OutOfTime, and TooBusy
        where too many search."""
        with self._lock:
            known = [(found, own) for pack, found, own in self._found if pack == pack_proof.pack]
        for found, own in known:
            if own or found.solver_proved:
                return found
        try:
            with self.lane.taken(lambda: clock.over):
                made = plan(pack_proof, clock=clock)
        except Left:
            raise OutOfTime from None
        with self._lock:
            self._found.appendleft((pack_proof.pack, made, False))
        return made

    def taken(self, pack_proof: PackProof) -> Plan | NoPlan:
        """The plan to keep: the one that was looked at, though its search ended early, or one found now.
        Raises OutOfTime."""
        return self.kept(pack_proof.pack) or self.search(pack_proof, until(PACK_SECONDS))
