import unittest
from itertools import product
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses
from humble_sum.core.rules.rulebook import (
    Reach,
    Rule,
    Rulebook,
    decide,
    decide_all,
    with_clauses,
    without_clause,
)
from tests.making import rule

IDS = st.sampled_from([None, "a", "b"])
VALUES = st.fixed_dictionaries(
    {},
    optional={
        "scale": st.sampled_from(["ones", "lakhs", "crores"]),
        "negative": st.sampled_from(["minus", "brackets", "cr"]),
        "decimals": st.integers(0, 3).map(lambda n: {"fixed": n}),
        "currency": st.sampled_from([None, "INR"]),
    },
)


@st.composite
def rulebooks(draw: st.DrawFn) -> Rulebook:
    rules = []
    for number in range(draw(st.integers(0, 7))):
        reach = Reach(statement=draw(IDS), column=draw(IDS), line=draw(IDS))
        clauses = Clauses.model_validate(draw(VALUES))
        rules.append(Rule(id=f"r{number}", name="r", reach=reach, clauses=clauses))
    return Rulebook(rules=tuple(rules))


class CascadeTest(unittest.TestCase):
    @given(rulebooks(), st.sampled_from("ab"), st.sampled_from("ab"), st.sampled_from("ab"))
    def test_each_clause_is_decided_by_the_narrowest_then_latest(
        self, book: Rulebook, statement: str, line: str, column: str
    ) -> None:
        decided = decide(book, statement, line, column)
        for name in NAMES:
            deciders = [
                (r.reach.line is not None, r.reach.column is not None, r.reach.statement is not None, n)
                for n, r in enumerate(book.rules)
                if name in r.clauses.named()
                and r.reach.statement in (None, statement)
                and r.reach.line in (None, line)
                and r.reach.column in (None, column)
            ]
            if not deciders:
                self.assertIsNone(decided.origins[name])
                self.assertEqual(getattr(decided.clauses, name), getattr(ResolvedClauses(), name))
            else:
                winner = book.rules[max(deciders)[-1]]
                self.assertEqual(decided.origins[name], winner)
                self.assertEqual(getattr(decided.clauses, name), getattr(winner.clauses, name))

    @given(rulebooks())
    def test_deciding_all_at_once_is_deciding_each(self, book: Rulebook) -> None:
        places = product("ab", "ab")
        for (line, column), decided in zip(
            places, decide_all(book, "a", [("a", "line"), ("b", "line")], "ab"), strict=True
        ):
            self.assertEqual(decided, decide(book, "a", line, column))

    def test_a_rule_with_one_clause_leaves_the_rest_to_broader_rules(self) -> None:
        book = Rulebook(
            rules=(
                rule("line", {"decimals": {"fixed": 2}}, line="x"),
                rule("house", {"scale": "lakhs", "decimals": {"fixed": 0}}),
            )
        )
        decided = decide(book, "s", "x", "now")
        self.assertEqual((decided.clauses.scale, decided.clauses.decimal_places), ("lakhs", 2))


class EditingTest(unittest.TestCase):
    def test_clauses_join_the_rule_of_their_reach(self) -> None:
        book = Rulebook(rules=(rule("house", {"scale": "lakhs"}),))
        clauses = Clauses.model_validate({"decimals": {"fixed": 1}})
        changed = with_clauses(book, Reach(), "House", clauses)
        self.assertEqual(len(changed.rules), 1)
        self.assertEqual(changed.rules[0].clauses.spelled(), {"scale": "lakhs", "decimals": {"fixed": 1}})

    def test_a_new_reach_gets_a_new_rule_with_an_id_of_its_own(self) -> None:
        book = Rulebook(rules=(rule("rule-2", {"scale": "lakhs"}),))
        changed = with_clauses(book, Reach(line="x"), "Line X", Clauses.model_validate({"zero": "dash"}))
        self.assertEqual([r.reach.level for r in changed.rules], ["everywhere", "line"])
        self.assertEqual(len({r.id for r in changed.rules}), 2)

    def test_taking_out_the_last_clause_takes_the_rule_with_it(self) -> None:
        book = Rulebook(rules=(rule("a", {"zero": "dash", "negative": "cr"}), rule("b", {"zero": "blank"})))
        self.assertEqual(without_clause(book, "a", "zero").rules[0].clauses.named(), {"negative": "cr"})
        self.assertEqual([r.id for r in without_clause(book, "b", "zero").rules], ["a"])

    @given(rulebooks(), VALUES)
    def test_what_is_set_everywhere_is_decided_unless_narrower_rules_speak(
        self, book: Rulebook, values: dict[str, Any]
    ) -> None:
        clauses = Clauses.model_validate(values)
        decided = decide(with_clauses(book, Reach(), "House", clauses), "zz", "zz", "zz")
        for name, value in clauses.named().items():
            self.assertEqual(getattr(decided.clauses, name), value)
