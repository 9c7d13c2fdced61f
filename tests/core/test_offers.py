"""Ready commands: whatever is offered does what it says, and nothing that is offered is refused."""

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.changes.offers import FigureOffers, RuleOffers, hold_offer, steps
from humble_sum.core.changes.plan_sentence import plan_sentence
from humble_sum.core.changes.structure_sentence import column_sentence, line_sentence
from humble_sum.core.errors import InputError
from humble_sum.core.printing.clause_values import RECORD
from humble_sum.core.printing.clauses import Clauses, spelled
from humble_sum.core.printing.resolved_clauses import NAMES
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.trial_changes import WIDE, trial_changes
from humble_sum.core.rules.clause_registry import ENTRIES, SENTENCES, read_typed
from humble_sum.core.rules.rulebook import Decided
from humble_sum.core.rules.sentence import more_words, rule_sentence, sentence
from humble_sum.core.rules.words import Sentence, Word
from humble_sum.core.statements.policy import Policy
from humble_sum.records.demo import demo_pack
from tests.core.drawing import VALUES
from tests.making import resolved

WHOLE = prove_pack(demo_pack())
INCOME = WHOLE.proofs["income"]
CELLS = list(INCOME.grid.cells)


def words(of: Sentence) -> dict[str, Word]:
    return {part.clause: part for part in of if isinstance(part, Word)}


class RegistryTest(unittest.TestCase):
    def test_every_clause_has_an_entry_and_one_place_in_the_sentence(self) -> None:
        self.assertEqual(set(ENTRIES), set(NAMES))
        placed = [clause for group in SENTENCES for clause in group]
        self.assertEqual(sorted(placed), sorted(NAMES))

    def test_what_is_typed_is_read_or_refused_with_a_reason(self) -> None:
        self.assertEqual(read_typed("words", " litre,  litres "), {"one": "litre", "many": "litres"})
        self.assertEqual(read_typed("width", "8")["most"], 8)
        self.assertEqual(read_typed("currency", "chf"), "CHF")
        for clause, text in (("words", "litre"), ("width", "8.5"), ("width", "٤"), ("form", "percent")):
            with self.subTest(clause, text=text), self.assertRaises(InputError) as refused:
                read_typed(clause, text)
            self.assertEqual(refused.exception.faults[0].where, f"clauses.{clause}")

    @given(st.data())
    def test_a_rule_is_said_by_one_sentence_that_names_what_it_decides(self, data: st.DataObject) -> None:
        names = data.draw(st.sets(st.sampled_from(NAMES), min_size=1, max_size=6))
        clauses = resolved({name: data.draw(VALUES[name]) for name in sorted(names)})
        decided = Decided(clauses, dict.fromkeys(NAMES))
        rule = WHOLE.pack.rulebook.rules[0]
        said = rule_sentence(decided, RuleOffers("income", rule), frozenset(names))
        self.assertEqual(set(words(said)), names)
        # Text and words take turns between one stop and the next, and no two texts stand together.
        texts = [isinstance(part, str) for part in said]
        self.assertFalse(
            any(a and b for a, b, part in zip(texts, texts[1:], said, strict=False) if part != ".")
        )


class OffersTest(unittest.TestCase):
    def applied(self, change: Any) -> Any:
        return prove_pack(apply(WHOLE, change).pack, WHOLE)

    @settings(max_examples=60)
    @given(st.sampled_from(CELLS), st.data())
    def test_a_choice_makes_the_word_say_it(self, cell: tuple[str, str], data: st.DataObject) -> None:
        offers = FigureOffers("income", *cell)
        figure = INCOME.figures[cell]
        offered = [*words(sentence(figure.decided, offers)).values(), *more_words(figure.decided, offers)]
        word = data.draw(st.sampled_from(offered))
        place = data.draw(st.integers(0, len(word.choices) - 1))
        choice = word.choices[place]
        if choice.value == RECORD:
            return  # a figure says the currency of its line
        try:
            after = self.applied(choice.change)
        except InputError as refused:
            # Only clauses that no rule can hold together are refused, and the way out is said.
            self.assertEqual(refused.kind, "bad-rule")
            return
        now = after.proofs["income"].figures[cell]
        said = spelled(now.clauses)[word.clause]
        self.assertEqual(said, choice.value)

    def test_steps_go_round_through_every_choice_that_can_be(self) -> None:
        pack_proof, cell, seen = WHOLE, ("costs", "y26"), []
        for _ in range(9):
            figure = pack_proof.proofs["income"].figures[cell]
            step = steps(figure, FigureOffers("income", *cell))["next_scale"]
            assert step is not None
            seen.append(step.value)
            pack_proof = prove_pack(apply(pack_proof, step).pack, pack_proof)
        self.assertEqual(len(set(seen)), 9)
        self.assertNotIn("fit", seen)  # its word is in the caption, which cannot stand beside it
        self.assertEqual(pack_proof.proofs["income"].figures[cell].clauses.scale, "lakhs")

    def test_decimals_stop_at_their_ends(self) -> None:
        figure = INCOME.figures["costs", "y26"]
        offered = steps(figure, FigureOffers("income", "costs", "y26"))
        self.assertIsNone(offered["fewer_decimals"])
        more = offered["more_decimals"]
        assert more is not None
        self.assertEqual(more.value, {"fixed": 1})

    def test_a_figure_is_held_and_released_by_what_is_offered(self) -> None:
        ref = ("income", "costs", "y26")
        hold = hold_offer(INCOME.figures["costs", "y26"], ref)
        held = self.applied(hold)
        release = hold_offer(held.proofs["income"].figures["costs", "y26"], ref)
        assert release is not None
        self.assertEqual(apply(held, release).pack, WHOLE.pack)
        self.assertIsNone(hold_offer(INCOME.figures["claims", "y26"], ("income", "claims", "y26")))

    @given(st.sampled_from(CELLS), st.data())
    def test_structure_does_what_its_words_say(self, cell: tuple[str, str], data: st.DataObject) -> None:
        statement = INCOME.statement
        line, column = statement.line(cell[0]), statement.column(cell[1])
        assert line is not None and column is not None
        said = words(line_sentence(statement, line, column)) | words(
            column_sentence(INCOME.grid, column, line)
        )
        word = data.draw(st.sampled_from(list(said.values())))
        for place, choice in enumerate(word.choices):
            if choice.change is None:
                self.assertEqual(place, word.chosen)
                continue
            try:
                after = self.applied(choice.change)
            except InputError:
                continue  # a total that would have nothing left to add, say
            new = after.proofs["income"].statement
            row, head = new.line(line.id), new.column(column.id)
            assert row is not None and head is not None
            now = words(line_sentence(new, row, head)) | words(
                column_sentence(after.proofs["income"].grid, head, row)
            )
            if word.clause in now and choice.value != "rounding":
                self.assertEqual(now[word.clause].value, choice.value)

    def test_the_plan_carries_the_plan_that_each_word_would_make(self) -> None:
        def footed(policy: Policy) -> Foot:
            return Foot(kind="foot", statement="income", policy=policy)

        for word in words(plan_sentence(Policy(), footed)).values():
            for choice in word.choices:
                assert isinstance(choice.change, Foot) and choice.change.policy is not None
                told = choice.change.policy.model_dump(mode="json")
                self.assertEqual(told[word.clause], choice.value)
                others = {name: value for name, value in told.items() if name != word.clause}
                own = Policy().model_dump(mode="json")
                self.assertEqual(others, {name: own[name] for name in others})


class TrialTest(unittest.TestCase):
    def tried(self, clauses: dict[str, Any]) -> Any:
        rules = WHOLE.pack.rulebook.rules
        named = rules[0].clauses.spelled() | clauses
        house = rules[0].model_copy(update={"clauses": Clauses.model_validate(named)})
        book = WHOLE.pack.rulebook.model_copy(update={"rules": (house, *rules[1:])})
        return prove_pack(WHOLE.pack.model_copy(update={"rulebook": book}), WHOLE)

    def test_every_figure_that_prints_otherwise_is_in_one_group(self) -> None:
        for clauses in ({"scale": "crores"}, {"decimals": {"fixed": 1}}, {"negative": "unsigned"}):
            with self.subTest(clauses):
                after = self.tried(clauses)
                found = trial_changes(WHOLE, after)
                differ = {
                    (id, *cell)
                    for id, proof in after.proofs.items()
                    for cell, was, now in zip(
                        proof.grid.cells, WHOLE.proofs[id].figures.texts, proof.figures.texts, strict=True
                    )
                    if was != now
                }
                groups = [*(g for g in found.matters if "foot" not in g.says), *found.rest]
                listed = [each.ref for group in groups for each in group.figures if each.was != each.now]
                self.assertEqual(len(listed), len(set(listed)))
                self.assertEqual(set(listed), differ)
                self.assertEqual(found.figures, len(differ))

    def test_what_matters_comes_first(self) -> None:
        says = [group.says for group in trial_changes(WHOLE, self.tried({"scale": "crores"})).matters]
        self.assertEqual(says, ["Would no longer foot", "Now round away to nothing"])
        narrow = trial_changes(WHOLE, self.tried({"width": {"most": 5}}))
        self.assertEqual((narrow.figures, [g.says for g in narrow.matters]), (0, [WIDE]))
        (wide,) = narrow.matters
        self.assertTrue(all(len(each.now) > 5 for each in wide.figures))
        unsigned = FigureOffers("income", "costs", "y26").value("negative", "unsigned")
        lost = trial_changes(WHOLE, prove_pack(apply(WHOLE, unsigned).pack, WHOLE))
        self.assertIn("No longer show their sign", [g.says for g in lost.matters])
