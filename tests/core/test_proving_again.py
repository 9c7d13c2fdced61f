"""Proving a pack again from the last proof gives what proving it afresh does; and texts printed together."""

import contextlib
import unittest
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.errors import InputError
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Reach, Rulebook, with_clauses
from humble_sum.core.statements.marks import Hold
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.policy import Policy
from humble_sum.records.demo import demo_pack

DEMO = demo_pack()
NUDGES = apply(prove_pack(DEMO), Foot(kind="foot", statement="income")).pack.nudges
REACHES = st.sampled_from(
    [
        Reach(),
        Reach(statement="income"),
        Reach(statement="position", column="y26"),
        Reach(kind="total"),
        Reach(statement="income", line="costs"),
        Reach(statement="cash", line="closing", column="y26")
        if DEMO.statements[2].line("closing")
        else Reach(),
    ]
)
CLAUSES = st.sampled_from(
    [
        {"decimals": {"fixed": 1}},
        {"scale": "crores", "decimals": {"fixed": 2}},
        {"scale": "fit", "scale_word": "short"},
        {"negative": "unsigned"},
        {"money_shown": "first_and_totals", "locale": "sv-SE"},
        {"decimals": {"significant": 3}},
        {"rounding": "down", "step": "5"},
        {"bands": [{"when": {"below": "0"}, "mark": "▼", "tone": "rust"}]},
        {"width": {"most": 6, "gives_way": "decimals"}, "decimals": {"fixed": 3}},
        {"currency": "record", "after": "net"},
    ]
)


@st.composite
def changed(draw: st.DrawFn) -> Pack:
    """The demo pack with a rule, perhaps a hold, a policy and another currency."""
    book: Rulebook = DEMO.rulebook
    for _ in range(draw(st.integers(0, 2))):
        clauses = Clauses.model_validate(draw(CLAUSES))
        with contextlib.suppress(InputError):  # some contradict what a rule says already
            book = with_clauses(book, draw(REACHES), "Drawn", clauses)
    holds = (Hold(statement="income", line="net", column="y26", printed=Decimal("41300000")),)
    return DEMO.model_copy(
        update={
            "rulebook": book,
            "holds": holds if draw(st.booleans()) else (),
            "nudges": NUDGES if draw(st.booleans()) else (),
            "policy": Policy(at_most=draw(st.sampled_from([1, 2]))),
            "currency": draw(st.sampled_from(["INR", "JPY"])),
        }
    )


def shown(proof: Proof) -> tuple[object, ...]:
    """All that a reader sees of a statement."""
    figures = [
        (each.printed, each.drift, each.clauses, each.held, each.nudge, each.resting, each.money)
        for each in proof.figures.values()
    ]
    return figures, proof.checks, proof.caption, proof.exceptions, proof.heads


class ProvingAgainTest(unittest.TestCase):
    @settings(max_examples=40)
    @given(changed(), changed())
    def test_from_the_last_proof_or_afresh_is_the_same(self, before: Pack, after: Pack) -> None:
        first = prove_pack(before)
        for proof in first.proofs.values():
            shown(proof)  # its figures are made when they are looked at, and those may be taken over
        again, afresh = prove_pack(after, first), prove_pack(after)
        for id, proof in afresh.proofs.items():
            self.assertEqual(shown(again.proofs[id]), shown(proof), id)
        self.assertEqual(again.ties, afresh.ties)

    @settings(max_examples=40)
    @given(changed())
    def test_texts_printed_together_are_those_printed_one_by_one(self, pack: Pack) -> None:
        for proof in prove_pack(pack).proofs.values():
            self.assertEqual(
                proof.figures.texts, [figure.printed.full_text for figure in proof.figures.values()]
            )

    def test_what_a_change_leaves_alone_is_not_proved_again(self) -> None:
        pack_proof = prove_pack(DEMO)
        book = with_clauses(DEMO.rulebook, Reach(statement="cash"), "Cash", Clauses(plus="always"))
        again = prove_pack(DEMO.model_copy(update={"rulebook": book}), pack_proof)
        same = [id for id, proof in again.proofs.items() if proof is pack_proof.proofs[id]]
        self.assertEqual(same, ["income", "position", "routes", "operations"])
        self.assertIs(again.proofs["cash"].grid, pack_proof.proofs["cash"].grid)

    def test_figures_that_a_rule_leaves_alone_are_not_printed_again(self) -> None:
        pack_proof = prove_pack(DEMO)
        before = dict(pack_proof.proofs["income"].figures)
        book = with_clauses(
            DEMO.rulebook, Reach(statement="income", line="costs"), "Costs", Clauses(plus="always")
        )
        again = prove_pack(DEMO.model_copy(update={"rulebook": book}), pack_proof).proofs["income"].figures
        self.assertEqual({cell[0] for cell, figure in again.items() if figure is not before[cell]}, {"costs"})
