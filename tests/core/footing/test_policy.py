"""Plans by policy, against trying every plan; guards, and nearness to the kept plan."""

import itertools
import unittest
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from humble_sum.core.footing.alternatives import settlings
from humble_sum.core.footing.explain import explain
from humble_sum.core.footing.objective import DIRECTED, Objective
from humble_sum.core.footing.plan import NoPlan, Plan, plan
from humble_sum.core.footing.problem import Entry, Equation, Problem, window_of
from humble_sum.core.footing.solve import foot
from humble_sum.core.printing.rounding import Mode, position, round_units
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.marks import Hold
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.policy import AT_MOST, CHOOSING, Policy, describe_policy
from tests.making import demo_income

POLICIES = st.builds(
    Policy,
    at_most=st.sampled_from(list(AT_MOST)),
    keep_amounts=st.booleans(),
    keep_signs=st.booleans(),
    most_change=st.sampled_from([None, Decimal("0.5"), Decimal(1)]),
)
TENTHS = st.integers(-45, 45).map(lambda n: Decimal(n) / 10)


@st.composite
def problems(draw: st.DrawFn) -> Problem:
    """A total of two to four lines, of which some make a subtotal, each figure under a manner
    of its own; perhaps a hold."""
    policy = draw(POLICIES)
    exact = {f"l{n}": draw(TENTHS) for n in range(draw(st.integers(2, 4)))}
    lines = list(exact)
    cut = draw(st.integers(1, len(lines)))
    exact["s"] = sum((exact[id] for id in lines[:cut]), Decimal(0))
    exact["t"] = exact["s"] + sum((exact[id] for id in lines[cut:]), Decimal(0))
    held = draw(st.sampled_from([None, *exact]))
    entries = []
    for id, amount in exact.items():
        where = position(amount, 0)
        own_rounding = round_units(where, "half_up")
        window = window_of(where, own_rounding, policy)
        kept = draw(st.sampled_from([None, *window]))
        own = own_rounding if id == held else None
        rank, choosing = draw(st.integers(0, 2)), draw(st.sampled_from(list(CHOOSING)))
        entries.append(Entry(id, where, own_rounding, "half_up", own, window, rank, kept, choosing))
    adds = (
        Equation("s", tuple((id, 1) for id in lines[:cut])),
        Equation("t", (("s", 1), *((id, 1) for id in lines[cut:]))),
    )
    return Problem(tuple(entries), adds)


def measure(problem: Problem, printed: dict[str, int]) -> tuple[Fraction, ...]:
    """What the policy makes least, tier by tier, in exact fractions."""
    tiers = [Fraction(0)] * 5
    lowest = min(entry.rank for entry in problem.entries)  # moves like any other
    for entry in problem.entries:
        units, where = printed[entry.id], entry.where
        exact = Fraction(where.floor * where.parts + where.over, where.parts)
        moved = abs(units - entry.own_rounding)
        tiers[0] += moved * (entry.rank == 2 > lowest)
        tiers[1] += moved * (entry.rank >= 1 > lowest)
        if entry.choosing == "fewest":
            tiers[2] += moved * 10**9
        elif entry.choosing == "largest" and moved:
            # Shares are told apart to a thousand-millionth.
            share = min(10**9, max(1, int(10**9 / abs(exact)))) if exact else 10**9
            tiers[2] += moved * share
        tiers[3] += abs(units - exact) - abs(entry.own_rounding - exact)
        tiers[4] += abs(units - (entry.own_rounding if entry.kept is None else entry.kept))
    return tuple(tiers)


def every_plan(problem: Problem) -> list[dict[str, int]]:
    windows = [[e.held] if e.held is not None else list(e.window) for e in problem.entries]
    found = []
    for units in itertools.product(*windows):
        printed = {e.id: u for e, u in zip(problem.entries, units, strict=True)}
        if all(printed[q.total] == sum(s * printed[p] for p, s in q.parts) for q in problem.equations):
            found.append(printed)
    return found


class PolicyTest(unittest.TestCase):
    @settings(max_examples=300)
    @given(problems())
    def test_no_plan_is_less_by_the_policy(self, problem: Problem) -> None:
        plans = every_plan(problem)
        found = foot(problem)
        if found is None:
            self.assertEqual(plans, [])
            return
        self.assertTrue(found.proved)
        best = min(measure(problem, printed) for printed in plans)
        self.assertEqual(measure(problem, found.printed), best)

    @settings(max_examples=100)
    @given(TENTHS, POLICIES)
    def test_a_window_keeps_its_guards(self, amount: Decimal, policy: Policy) -> None:
        where = position(amount, 0)
        own_rounding = round_units(where, "half_up")
        window = window_of(where, own_rounding, policy)
        self.assertIn(own_rounding, window)
        self.assertEqual(list(window), list(range(window[0], window[-1] + 1)))
        for units in window:
            self.assertLess(abs(units - amount), policy.at_most)
            if policy.keep_amounts and own_rounding:
                self.assertNotEqual(units, 0)
            if policy.keep_signs:
                self.assertGreaterEqual(units * amount, 0)
            if policy.most_change is not None:
                self.assertLessEqual(abs(units - own_rounding), policy.most_change * abs(own_rounding))

    def test_a_policy_is_said_and_refuses_what_makes_no_sense(self) -> None:
        self.assertEqual(
            describe_policy(Policy(gives_way="lines_first", most_change=Decimal("0.05"))),
            "Move lines before totals, choosing the closest calls, at most one unit each. Keep held figures and published columns. "
            "Never turn an amount into zero. Move no figure by more than 0.05 of itself.",
        )
        for wrong in ({"at_most": 3}, {"most_change": "0"}, {"most_change": 0.5}, {"choosing": "luck"}):
            with self.subTest(wrong), self.assertRaises(ValidationError):
                Policy.model_validate(wrong)


class DemoTest(unittest.TestCase):
    def footed(self, pack: Pack, **policy: Any) -> Plan:
        found = plan(prove_pack(pack.model_copy(update={"policy": Policy(**policy)})))
        assert isinstance(found, Plan)
        self.assertTrue(found.proved)
        return found

    def test_each_word_of_the_sentence_changes_what_moves(self) -> None:
        pack = demo_income()
        totals = {line.id for line in pack.statements[0].lines if line.adds}

        def moved(found: Plan) -> tuple[int, int]:
            return len(found.nudges), sum(nudge.line in totals for nudge in found.nudges)

        alike = self.footed(pack)
        self.assertLessEqual(moved(self.footed(pack, gives_way="lines_first"))[1], moved(alike)[1])
        few_lines = self.footed(pack, gives_way="totals_first")
        self.assertLess(moved(few_lines)[0] - moved(few_lines)[1], moved(alike)[0] - moved(alike)[1])
        self.assertLess(moved(self.footed(pack, choosing="fewest"))[0], moved(alike)[0])
        largest = self.footed(pack, choosing="largest", gives_way="lines_first")
        self.assertIn("by least relative change", largest.nudges[0].reason)
        self.assertTrue(largest.nudges[0].plan.startswith("Move lines before totals, choosing the largest"))
        for found in (alike, largest):
            proof = prove(pack.model_copy(update={"nudges": found.nudges}), pack.statements[0])
            self.assertEqual(proof.gaps, [])
        self.assertLess(alike.added_drift, largest.added_drift)

    def test_two_units_settle_what_one_cannot(self) -> None:
        pack = demo_income()
        off = Hold(statement="income", line="net", column="y26", printed=Decimal("41500000"))
        pack = pack.model_copy(update={"holds": (off,)})
        pack_proof = prove_pack(pack)
        none = plan(pack_proof)
        assert isinstance(none, NoPlan)
        (wider,) = settlings(pack_proof, none)
        self.assertEqual((wider.release, wider.policy), (None, Policy(at_most=2)))
        found = self.footed(pack, at_most=2)
        self.assertEqual(wider.plan.added_drift, found.added_drift)
        made = pack.model_copy(update={"nudges": found.nudges, "policy": Policy(at_most=2)})
        proof = prove(made, made.statements[0])
        self.assertEqual((proof.gaps, proof.figures["net", "y26"].printed.text), ([], "415"))

    def test_after_a_change_only_what_must_move_moves(self) -> None:
        pack = demo_income()
        first = self.footed(pack)
        kept = pack.model_copy(update={"nudges": first.nudges})
        statement = kept.statements[0]
        lines = []
        for line in statement.lines:
            amount = line.amounts.get("y26")
            if line.id == "moor" and amount is not None:
                line = line.model_copy(update={"amounts": line.amounts | {"y26": amount + 100_000}})
            lines.append(line)
        changed = kept.model_copy(
            update={"statements": (statement.model_copy(update={"lines": tuple(lines)}),)}
        )
        again = self.footed(changed)
        fresh = self.footed(changed.model_copy(update={"nudges": ()}))
        self.assertEqual(again.added_drift, fresh.added_drift)

        def refs(found: Plan) -> set[tuple[str, str, int]]:
            return {(nudge.line, nudge.column, nudge.units - nudge.own_rounding) for nudge in found.nudges}

        self.assertLessEqual(len(refs(again) ^ refs(first)), len(refs(fresh) ^ refs(first)))

    def test_among_equal_calls_the_kept_one_stays(self) -> None:
        where = position(Decimal("1.4"), 0)
        entries = tuple(Entry(id, where, 1, window=(1, 2)) for id in ("a", "b", "c"))
        total = Entry("t", position(Decimal("4.2"), 0), 4, held=4, window=(4, 5), rank=2)
        adds = (Equation("t", (("a", 1), ("b", 1), ("c", 1))),)
        for kept in ("a", "b", "c"):
            near = tuple(replace(entry, kept=2 if entry.id == kept else 1) for entry in entries)
            found = foot(Problem((*near, total), adds))
            assert found is not None
            self.assertEqual(found.moved, (kept,))


class DirectedTest(unittest.TestCase):
    @settings(max_examples=120)
    @given(st.integers(-4500, 4500), st.sampled_from(DIRECTED), st.integers(1, 2))
    def test_a_directed_rounding_is_never_corrected(self, amount: int, mode: Mode, at_most: int) -> None:
        where = position(Decimal(amount) / 100, 0)
        own_rounding = round_units(where, mode)
        policy = Policy(at_most=at_most, keep_signs=False, keep_amounts=False)
        window = window_of(where, own_rounding, policy)
        entry = Entry("a", where, own_rounding, mode, window=window)
        drift = Objective(Problem((entry,), ())).drift
        costs = [drift(entry, units) for units in window]
        self.assertEqual(min(costs), drift(entry, own_rounding))
        self.assertEqual(drift(entry, own_rounding), 0)
        steps = [after - before for before, after in itertools.pairwise(costs)]
        self.assertEqual(steps, sorted(steps))
        for units in window:
            if abs(units - own_rounding) == 1:
                # Twice as far as the amount would have to be from where it is to print so by itself.
                nearest = next(
                    d
                    for d in range(202)
                    for sign in (1, -1)
                    if round_units(position(Decimal(amount + sign * d) / 100, 0), mode) == units
                )
                self.assertIn(drift(entry, units) * 100 // where.parts, (2 * nearest, 2 * nearest - 2))


class ReleaseTest(unittest.TestCase):
    @settings(max_examples=80)
    @given(problems(), st.data())
    def test_the_release_is_a_smallest_one_under_every_policy(
        self, problem: Problem, data: st.DataObject
    ) -> None:
        held = {entry.id: data.draw(st.integers(-2, 2), entry.id) for entry in problem.entries}
        some = data.draw(st.sets(st.sampled_from(sorted(held)), min_size=1, max_size=3))
        entries = tuple(
            replace(entry, held=entry.own_rounding + held[entry.id] if entry.id in some else None)
            for entry in problem.entries
        )
        problem = replace(problem, entries=entries)
        if foot(problem) is not None:
            return
        why = explain(problem)
        self.assertTrue(why.proved)

        def without(released: tuple[str, ...]) -> Problem:
            kept = (replace(entry, held=None) if entry.id in released else entry for entry in problem.entries)
            return replace(problem, entries=tuple(kept))

        smaller = len(some) + 1 if why.release is None else len(why.release)
        for count in range(min(smaller, len(some) + 1)):
            for released in itertools.combinations(sorted(some), count):
                self.assertIsNone(foot(without(released)))
        if why.release is not None:
            self.assertIsNotNone(foot(without(why.release)))
