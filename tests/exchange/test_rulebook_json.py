"""Rulebook files: what is written reads back equal, fits its schema, and what is no rulebook is told."""

import json
import unittest
from typing import Any

import jsonschema
from hypothesis import given, settings
from hypothesis import strategies as st
from tools.write_formats import FORMATS, formats

from humble_sum.core.errors import InputError
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.core.rules.rulebook_file import rulebook_of
from humble_sum.exchange.rulebook_json import write_rulebook

SCHEMA = jsonschema.Draft202012Validator(formats()[FORMATS / "rulebook.schema.json"])
NAMES = st.text(st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1, max_size=20)
BOUNDS = st.dictionaries(
    st.sampled_from(["below", "above", "from", "to"]),
    st.decimals(-10, 10, places=3).map(lambda bound: format(bound, "f")),
    min_size=1,
    max_size=2,
)
VALUES: dict[str, st.SearchStrategy[Any]] = {
    "form": st.sampled_from(["amount", "number", "percent", "date", "yes_no"]),
    "currency": st.sampled_from([None, "INR", "record"]),
    "scale": st.sampled_from(["ones", "lakhs", "millions"]),
    "decimals": st.sampled_from([{"fixed": 2}, {"up_to": 3}, "currency"]),
    "negative": st.sampled_from(["brackets", "cr", "unsigned"]),
    "zero": st.one_of(st.just("dash"), st.builds(lambda word: {"word": word}, NAMES)),
    "before": NAMES,
    "bands": st.lists(st.fixed_dictionaries({"when": BOUNDS, "mark": st.just("▼")}), max_size=3),
    "words": st.sampled_from([None, {"one": "litre", "many": "litres"}, {"yes": "on", "no": "off"}]),
    "line_up": st.booleans(),
    "shown": st.booleans(),
    "width": st.sampled_from([None, {"most": 8, "gives_way": "scale"}]),
    "locale": st.sampled_from(["en-IN", "mr-IN", "gsw-LI"]),
}


@st.composite
def rulebooks(draw: st.DrawFn) -> Rulebook:
    """A few rules of any reach, with some clauses each."""
    rules = []
    for number in range(draw(st.integers(0, 4))):
        named = draw(st.sets(st.sampled_from(sorted(VALUES)), max_size=5))
        reach = Reach(
            statement=draw(st.sampled_from([None, "income"])),
            kind=draw(st.sampled_from([None, "per_unit"])),
            column=draw(st.sampled_from([None, "y26"])),
            line=draw(st.sampled_from([None, "costs"])),
            places=draw(st.sampled_from([(), ("tile",), ("page", "chart")])),
            editions=draw(st.sampled_from([(), ("board",)])),
        )
        clauses = Clauses.model_validate({name: draw(VALUES[name]) for name in sorted(named)})
        rules.append(
            Rule(id=f"r{number}", name=draw(NAMES), reach=reach, clauses=clauses, off=draw(st.booleans()))
        )
    return Rulebook(rules=tuple(rules))


class RulebookFileTest(unittest.TestCase):
    @settings(max_examples=100)
    @given(rulebooks())
    def test_what_is_written_reads_back_equal_and_fits_its_schema(self, book: Rulebook) -> None:
        written = json.loads(write_rulebook(book))
        SCHEMA.validate(written)
        back = rulebook_of(written)
        self.assertEqual(back, book)
        # Equal clauses may yet name others: what is not named decides nothing.
        self.assertEqual([r.clauses.named() for r in back.rules], [r.clauses.named() for r in book.rules])

    def test_what_is_no_rulebook_is_told(self) -> None:
        rule = {"id": "a", "name": "A", "clauses": {"scale": "lakhs"}}
        for data, kind, said in (
            ([], "not-a-rulebook", "not a rulebook"),
            ({"rules": [], "version": 2}, "not-a-rulebook", "version 1"),
            ({"rules": [], "kind": "humble-sum/pack"}, "not-a-rulebook", "humble-sum/rulebook"),
            ({"rules": [rule | {"clauses": {"scale": "dozens"}}]}, "bad-rulebook", "rules[0].clauses.scale"),
            ({"rules": [rule | {"reach": {"row": "a"}}]}, "bad-rulebook", "row"),
            (
                {"rules": [rule | {"clauses": {"step": "0.05", "decimals": {"fixed": 0}}}]},
                "bad-rulebook",
                "finer",
            ),
        ):
            with self.subTest(data), self.assertRaises(InputError) as refused:
                rulebook_of(data)
            self.assertEqual(refused.exception.kind, kind)
            self.assertIn(said, str(refused.exception))
