"""Why a figure moved: the plan that leaves it alone is no better, and leaves it alone."""

import unittest
from decimal import Decimal

from humble_sum.core.footing.counterfactual import instead
from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.marks import Hold
from humble_sum.core.statements.policy import Policy
from tests.making import demo_income, pack, statement


class WhyTest(unittest.TestCase):
    def planned(self, **policy: object) -> tuple[PackProof, Plan]:
        made = demo_income().model_copy(update={"policy": Policy.model_validate(policy)})
        pack_proof = prove_pack(made)
        found = plan(pack_proof)
        assert isinstance(found, Plan)
        return pack_proof, found

    def test_leaving_any_moved_figure_alone_costs_no_less(self) -> None:
        pack_proof, found = self.planned()
        for nudge in found.nudges:
            ref = (nudge.statement, nudge.line, nudge.column)
            with self.subTest(ref):
                other = instead(pack_proof, found, ref)
                if other is None:
                    continue
                self.assertGreaterEqual(other.more, 0)
                self.assertGreaterEqual(other.spared, 1)
                self.assertNotIn(ref, [(n.statement, n.line, n.column) for n in other.moved])

    def test_the_plan_that_leaves_it_alone_foots(self) -> None:
        pack_proof, found = self.planned(choosing="fewest")
        ref = next((n.statement, n.line, n.column) for n in found.nudges if n.line == "dues")
        other = instead(pack_proof, found, ref)
        assert other is not None
        hold = Hold(statement=ref[0], line=ref[1], column=ref[2])
        left = pack_proof.pack.model_copy(update={"holds": (hold,)})
        again = plan(prove_pack(left))
        assert isinstance(again, Plan)
        self.assertEqual(again.added_drift - found.added_drift, other.more)
        proof = prove(left.model_copy(update={"nudges": again.nudges}), left.statements[0])
        self.assertEqual(proof.gaps, [])

    def test_a_figure_that_has_no_choice_is_told(self) -> None:
        of = statement({"a": ["1.4"], "b": ["2"]}, {"t": ["a", "b"]}, columns=("now",))
        hold = Hold(statement="s", line="t", column="now", printed=Decimal(4))
        pack_proof = prove_pack(pack(of, holds=(hold,)))
        found = plan(pack_proof)
        assert isinstance(found, Plan)
        self.assertEqual([(n.line, n.units) for n in found.nudges], [("a", 2)])
        self.assertIsNone(instead(pack_proof, found, ("s", "a", "now")))
