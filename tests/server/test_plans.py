"""Searches over HTTP that go on: the best plan so far told, asked for, and kept as it was looked at."""

import threading
import unittest

from bench.packs import tied_pack

from humble_sum.core.footing.plan import NoPlan
from humble_sum.core.footing.solver.deadline import Clock, until
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.server.plan_cache import Plans
from humble_sum.server.searches import Searches


class PlansTest(unittest.TestCase):
    def test_a_plan_that_ended_early_is_kept_as_it_was_but_searched_for_again(self) -> None:
        pack_proof = prove_pack(tied_pack(12, 3))
        plans = Plans()
        first = plans.search(pack_proof, until(30))
        self.assertTrue(first.solver_proved)
        self.assertIs(plans.search(pack_proof, Clock(lambda: 0.0)), first)
        assert not isinstance(first, NoPlan)
        plans.keep(pack_proof.pack, first)
        self.assertIs(plans.taken(pack_proof), first)
        self.assertIsNone(plans.kept(pack_proof.pack.model_copy(update={"entity": "Another"})))

    def test_a_search_is_ended_by_its_name_with_what_it_has(self) -> None:
        pack_proof = prove_pack(tied_pack(60, 3))
        searches, told = Searches(), list[tuple[int, int]]()
        with searches.going("mine") as wanted:
            in_hand = threading.Event()

            def found(drift: int | None, bound: int) -> None:
                if drift is not None:
                    told.append((drift, bound))
                    in_hand.set()

            def end() -> None:
                in_hand.wait(60)
                searches.end("mine")

            threading.Thread(target=end, daemon=True).start()
            plan = Plans().search(pack_proof, Clock(lambda: 0.0 if wanted.is_set() else 60.0, found=found))
        assert not isinstance(plan, NoPlan)
        self.assertTrue(plan.nudges and told)
        self.assertTrue(all(drift >= bound for drift, bound in told))
