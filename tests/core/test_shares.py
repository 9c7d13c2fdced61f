"""Columns that others make: shares, sums across and differences, with lines that have amounts of their own."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from humble_sum.core.rules.rulebook import Reach, Rule
from humble_sum.core.statements.grid import grid_of
from humble_sum.core.statements.pack import Statement
from humble_sum.core.statements.relations import exact_amounts, exact_miss, relations
from humble_sum.core.statements.validation import has_place, in_place, sound
from tests.making import pack


def of(columns: list[dict[str, Any]], lines: list[dict[str, Any]]) -> Statement:
    named = [{"label": each["id"].title(), **each} for each in columns]
    made = [{"label": each["id"].title(), **each} for each in lines]
    said = {"id": "s", "name": "S", "title": "Statement", "columns": named, "lines": made}
    return Statement.model_validate(said)


def amount(of_statement: Statement, line: str, column: str) -> Decimal | None:
    return exact_amounts(of_statement)[line, column]


H1, H2 = {"id": "h1"}, {"id": "h2"}
YEAR = {"id": "year", "sum": ["h1", "h2"]}
SHARE = {"id": "share", "share": ["year", "all"]}


class SharesTest(unittest.TestCase):
    MADE = of(
        [H1, H2, YEAR, SHARE],
        [
            {"id": "fares", "amounts": {"h1": "10", "h2": "20"}},
            {"id": "freight", "amounts": {"h1": "5", "h2": None}},
            {"id": "none", "amounts": {"h1": "0", "h2": "0"}},
            {"id": "blank", "amounts": {"h1": None, "h2": None}},
            {"id": "trips", "kind": "count", "amounts": {"h1": "3", "h2": "4"}},
            {
                "id": "all",
                "kind": "total",
                "parts": [["fares", 1], ["freight", 1], ["none", 1], ["blank", 1]],
            },
        ],
    )

    def test_a_share_is_of_its_column_over_its_line(self) -> None:
        self.assertEqual(amount(self.MADE, "all", "year"), Decimal(35))
        share = amount(self.MADE, "fares", "share")
        assert share is not None
        self.assertEqual(round(share, 6), Decimal("0.857143"))
        self.assertEqual(amount(self.MADE, "all", "share"), Decimal(1))
        self.assertEqual(str(amount(self.MADE, "none", "share")), "0")

    def test_there_is_none_where_there_is_nothing_to_share(self) -> None:
        self.assertIsNone(amount(self.MADE, "blank", "share"))
        self.assertIsNone(amount(self.MADE, "trips", "share"), "counts have no share of money")
        empty = of([H1, {"id": "share", "share": ["h1", "a"]}], [{"id": "a", "amounts": {"h1": "0"}}])
        self.assertIsNone(amount(empty, "a", "share"))

    def test_shares_add_where_what_they_are_shares_of_does(self) -> None:
        (down,) = [each for each in relations(self.MADE) if each.total == ("all", "share")]
        amounts = exact_amounts(self.MADE)
        self.assertEqual(exact_miss(down, amounts, {"share": "year"}), 0)
        grid = grid_of(self.MADE)
        self.assertTrue(all(each.miss in (0, None) for each in grid.relations))
        self.assertEqual(grid.decimal_places, 34, "as many as a quotient is cut to")


class AcrossTest(unittest.TestCase):
    def test_a_sum_across_takes_what_is_there_and_a_difference_needs_both(self) -> None:
        change = {"id": "change", "difference": ["h2", "h1"]}
        made = of([H1, H2, YEAR, change], [{"id": "a", "amounts": {"h1": "5", "h2": None}}])
        self.assertEqual(amount(made, "a", "year"), Decimal(5))
        self.assertIsNone(amount(made, "a", "change"))
        self.assertIsNone(amount(of([H1, H2, YEAR], [{"id": "a", "amounts": {}}]), "a", "year"))

    def test_lines_that_stand_apart_may_have_their_own_amount(self) -> None:
        made = of(
            [H1, H2, YEAR],
            [
                {"id": "rate", "kind": "percent", "amounts": {"h1": "0.5", "h2": "0.7", "year": "0.6"}},
                {"id": "blank", "kind": "percent", "amounts": {"h1": "0.5", "h2": "0.7"}},
                {"id": "fleet", "kind": "count", "amounts": {"h1": "9", "h2": "11", "year": "11"}},
                {"id": "trips", "kind": "count", "amounts": {"h1": "3", "h2": "4"}},
                {"id": "money", "amounts": {"h1": "1", "h2": "2", "year": "9"}},
            ],
        )
        year = {line.id: amount(made, line.id, "year") for line in made.lines}
        wanted = {"rate": "0.6", "blank": None, "fleet": "11", "trips": "7", "money": "3"}
        self.assertEqual(year, {id: each and Decimal(each) for id, each in wanted.items()})
        across = {each.total[0] for each in relations(made) if each.way == "across"}
        self.assertEqual(across, {"trips", "money"}, "the others add to nothing")

    def test_a_total_may_state_its_own_amount_and_a_column_may_stand_apart(self) -> None:
        parts = {"kind": "total", "parts": [["a", 1], ["b", -1]]}
        lines = [
            {"id": "a", "amounts": {"h1": "5", "h2": "1"}},
            {"id": "b", "amounts": {"h1": "2", "h2": "1"}},
        ]
        added = of([H1, H2], [*lines, {"id": "t", **parts}])
        self.assertEqual(amount(added, "t", "h1"), Decimal(3))
        stated = of([H1, H2], [*lines, {"id": "t", **parts, "amounts": {"h1": "4"}}])
        self.assertEqual((amount(stated, "t", "h1"), amount(stated, "t", "h2")), (Decimal(4), Decimal(0)))
        apart = of([H1, {"id": "h2", "apart": True}], [*lines, {"id": "t", **parts}])
        self.assertEqual((amount(apart, "t", "h1"), amount(apart, "t", "h2")), (Decimal(3), None))
        self.assertEqual([each.total for each in relations(apart)], [("t", "h1")])

    def test_whole_amounts_need_no_decimal_places(self) -> None:
        for text, places in (("100", 0), ("1.50", 2), (None, 0)):
            grid = grid_of(of([H1], [{"id": "a", "amounts": {"h1": text}}]))
            self.assertEqual(grid.decimal_places, places)


class PlaceTest(unittest.TestCase):
    """Which rules have a place in a pack, and what of them."""

    PACK = pack(of([H1, H2], [{"id": "a", "amounts": {"h1": "1"}}, {"id": "b", "amounts": {}}]))

    def test_a_reach_has_its_place_where_the_pack_has_what_it_names(self) -> None:
        for reach, there in (
            ({}, True),
            ({"statement": "s"}, True),
            ({"statement": "x"}, False),
            ({"statement": "s", "line": "a"}, True),
            ({"statement": "s", "line": "x"}, False),
            ({"statement": "s", "column": "h1"}, True),
            ({"statement": "s", "column": "x"}, False),
        ):
            with self.subTest(reach):
                self.assertEqual(has_place(self.PACK, Reach.model_validate(reach)), there)

    def test_a_rule_keeps_what_is_here(self) -> None:
        for reach, left in (
            ({"statements": ["s", "x"]}, {"statements": ("s",)}),
            ({"statements": ["x", "y"]}, None),
            ({"statement": "s", "lines": ["a", "x"]}, {"lines": ("a",)}),
            ({"statement": "s", "lines": ["x", "y"]}, None),
            ({}, {}),
        ):
            with self.subTest(reach):
                rule = Rule.model_validate({"id": "r", "name": "R", "reach": reach, "clauses": {}})
                found = in_place(self.PACK, rule)
                self.assertEqual(found is None, left is None)
                if found is not None and left is not None:
                    self.assertEqual({name: getattr(found.reach, name) for name in left}, left)

    def test_a_statement_is_sound_or_not(self) -> None:
        self.assertTrue(sound(self.PACK.statements[0]))
        good = {"id": "share", "share": ["h1", "a"]}
        lines: list[dict[str, Any]] = [{"id": "a", "amounts": {"h1": "1"}}, {"id": "h", "kind": "heading"}]
        self.assertTrue(sound(of([H1, good], lines)))
        for wrong in (["x", "a"], ["h1", "x"], ["h1", "h"], ["share", "a"]):
            with self.subTest(wrong):
                self.assertFalse(sound(of([H1, {"id": "share", "share": wrong}], lines)))
        round_about = [{"id": "x", "sum": ["y", "h1"]}, {"id": "y", "sum": ["x", "h1"]}]
        self.assertFalse(sound(of([H1, *round_about], lines)))
