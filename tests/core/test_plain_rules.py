"""Rules told without the models: only what the models take, and as they take it."""

from __future__ import annotations

import unittest
from types import MappingProxyType
from typing import Any, Literal, get_args, get_origin

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.errors import InputError
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.plain_rule import TYPES, plainly_named
from humble_sum.core.printing.printer import Printer
from humble_sum.core.printing.resolved_clauses import NAMES
from tests.core.drawing import VALUES

ANYTHING = st.recursive(
    st.one_of(
        st.none(),
        st.booleans(),
        st.integers(-3, 25),
        st.floats(),
        st.text(max_size=3),
        st.sampled_from(
            ["currency", "record", "INR", "inr", "XXX", "en-IN", "en_IN", "dash", "fit", "lakhs", "none"]
        ),
    ),
    lambda inner: st.one_of(
        st.lists(inner, max_size=2),
        st.dictionaries(
            st.sampled_from(["fixed", "up_to", "significant", "word", "most"]), inner, max_size=2
        ),
    ),
    max_leaves=3,
)
WILD = st.dictionaries(
    st.one_of(st.sampled_from(NAMES), st.sampled_from(["", "Scale", "fitted", "kind"])), ANYTHING, max_size=3
)
MEANT = st.sets(st.sampled_from(NAMES), max_size=5).flatmap(
    lambda names: st.fixed_dictionaries({name: VALUES[name] for name in sorted(names)})
)


class PlainRuleTest(unittest.TestCase):
    def agrees(self, rule: dict[str, Any]) -> bool:
        """Whether a rule was told at once; that it was told as the models do is asserted."""
        named = plainly_named(rule)
        if named is not None:
            self.assertEqual(named, read_clauses(rule).named())
        return named is not None

    @given(WILD)
    @settings(max_examples=400)
    def test_whatever_is_said_is_taken_only_where_the_models_take_it(self, rule: dict[str, Any]) -> None:
        self.agrees(rule)

    @given(MEANT)
    @settings(max_examples=200)
    def test_rules_that_are_meant_are_told_as_the_models_tell_them(self, rule: dict[str, Any]) -> None:
        self.agrees(rule)

    def test_the_usual_rules_need_no_models(self) -> None:
        for name, of in TYPES.items():
            for value in get_args(of) if get_origin(of) is Literal else ():
                self.assertTrue(self.agrees({name: value}), (name, value))
        for rule in (
            {"decimals": {"fixed": 2}, "currency": "INR", "locale": "en-IN", "scale": "lakhs"},
            {"decimals": {"significant": 3}, "currency": None, "line_up": False},
            {"scale": "fit", "scale_word": "short", "ladder": "indian", "decimals": {"up_to": 1}},
        ):
            self.assertTrue(self.agrees(rule), rule)

    def test_any_mapping_is_a_rule(self) -> None:
        for rule in ({"zero": {"word": "nil"}}, {"zero": "dash"}):
            self.assertEqual(
                Printer(MappingProxyType(rule)).many([0]), ["nil" if "word" in rule["zero"] else "–"]
            )

    def test_a_contradiction_is_left_to_the_models_which_say_it(self) -> None:
        rule = {"scale": "lakhs", "ladder": "indian"}
        self.assertIsNone(plainly_named(rule))
        with self.assertRaises(InputError):
            read_clauses(rule)
