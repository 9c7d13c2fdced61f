"""Two versions of a house style told apart in words."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.rules.rule_changes import rule_changes
from humble_sum.core.rules.rulebook import Rule, Rulebook
from tests.making import rule

HOUSE = rule("house", {"scale": "lakhs", "negative": "brackets"})
RULES = st.lists(
    st.builds(
        lambda id, clauses, off, where: rule(id, clauses, **where).model_copy(update={"off": off}),
        st.sampled_from(["a", "b", "c"]),
        st.sampled_from([{}, {"scale": "lakhs"}, {"scale": "crores", "zero": "dash"}, {"currency": None}]),
        st.booleans(),
        st.sampled_from([{}, {"statement": "income"}, {"line": "costs"}]),
    ),
    unique_by=lambda each: each.id,
    max_size=3,
)


def book(*rules: Rule) -> Rulebook:
    return Rulebook(rules=rules)


class RuleChangesTest(unittest.TestCase):
    def test_each_change_is_said(self) -> None:
        costs = rule("costs", {"zero": "dash"}, line="costs")
        said = rule_changes(
            book(HOUSE, costs),
            book(
                rule("house", {"scale": "crores", "decimals": {"fixed": 1}}).model_copy(
                    update={"name": "Board"}
                ),
                rule("new", {"zero": "dash"}, statement="income"),
            ),
        )
        self.assertEqual(
            said,
            [
                "Board: was called house",
                "Board: scale crores, was lakhs",
                "Board: negative is left to broader rules, was in brackets",
                "Board: decimals one decimal, was left to broader rules",
                "new: new, in statement income: zero –",
                "costs: removed",
            ],
        )

    def test_place_reach_and_switch(self) -> None:
        other = rule("other", {"zero": "dash"})
        moved = other.model_copy(update={"off": True, "reach": HOUSE.reach.model_copy(update={"line": "x"})})
        said = rule_changes(book(HOUSE, other), book(moved, HOUSE))
        self.assertEqual(
            said,
            [
                "other: applies in line x, was everywhere",
                "other: switched off",
                "The order is now other, house",
            ],
        )

    @settings(max_examples=150)
    @given(RULES, RULES)
    def test_nothing_is_said_of_the_same_and_something_of_any_other(
        self, one: list[Rule], two: list[Rule]
    ) -> None:
        before, after = book(*one), book(*two)
        self.assertEqual(rule_changes(before, before), [])
        self.assertEqual(bool(rule_changes(before, after)), before != after)
