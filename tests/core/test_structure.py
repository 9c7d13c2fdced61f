"""Changing what adds up to what, and placeholders for members that are absent."""

import unittest
from collections.abc import Callable
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.changes import structure
from humble_sum.core.changes.members import choose
from humble_sum.core.errors import InputError
from humble_sum.core.statements.pack import Column, Line, Members, Statement
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.core.statements.validation import check
from humble_sum.records.demo import demo_pack
from tests.making import pack, statement

DEMO = demo_pack().statements[0]


def parts(of: Statement, line: str) -> list[tuple[str, int]]:
    found = of.line(line)
    assert found is not None
    return list(found.parts)


class StructureTest(unittest.TestCase):
    def sound(self, of: Statement) -> Statement:
        check(pack(of))
        return of

    def test_a_line_leaves_one_total_for_another_in_page_order(self) -> None:
        made = self.sound(structure.make_part(DEMO, "moor", "rev", -1))
        self.assertEqual(parts(made, "rev")[-1], ("moor", -1))
        self.assertNotIn("moor", [id for id, _ in parts(made, "tot")])
        made = self.sound(structure.make_part(made, "moor", None))
        self.assertEqual(structure.totals_of(made, "moor"), [])

    def test_a_sign_is_turned_and_turned_back(self) -> None:
        once = structure.flip_sign(DEMO, "fuel")
        self.assertEqual(parts(once, "costs")[0], ("fuel", -1))
        self.assertEqual(structure.flip_sign(once, "fuel"), DEMO)

    @given(st.sets(st.sampled_from(["fuel", "crew", "keep", "dues", "dep"]), min_size=2), st.data())
    def test_a_subtotal_put_in_and_taken_out_leaves_every_total_as_it_was(
        self, lines: set[str], data: st.DataObject
    ) -> None:
        start = DEMO
        for line in data.draw(st.sets(st.sampled_from(sorted(lines)))):
            start = structure.flip_sign(start, line)
        made = self.sound(structure.group(start, sorted(lines), "fleet", "Fleet"))
        before, after = exact_amounts(start), exact_amounts(made)
        self.assertEqual({cell: after[cell] for cell in before}, before)
        again = self.sound(structure.dissolve(made, "fleet"))
        self.assertEqual(exact_amounts(again), before)
        self.assertEqual(set(parts(again, "costs")), set(parts(start, "costs")))

    def test_only_lines_that_totals_count_can_join_one(self) -> None:
        of = statement({"a": ["1", "1"], "b": ["2", "2"], "c": ["3", "3"]}, {"t": ["a"], "u": ["t", "b"]})
        lines = (
            *of.lines,
            Line(id="h", label="Heading", kind="heading"),
            Line(id="m", label="M", kind="memo"),
        )
        of = of.model_copy(update={"lines": lines})
        for line, joins in (("c", ["t", "u"]), ("t", ["u"]), ("u", []), ("h", []), ("m", []), ("gone", [])):
            self.assertEqual([each.id for each in structure.could_join(of, line)], joins, line)

    def test_a_subtotal_stands_below_the_last_of_its_lines(self) -> None:
        of = statement({"a": ["1", "1"], "b": ["2", "2"], "c": ["3", "3"]}, {"t": ["-a", "b", "-c"]})
        mixed = structure.group(of, ["b", "a"], "g", "G")
        self.assertEqual([line.id for line in mixed.lines], ["a", "b", "g", "c", "t"])
        self.assertEqual(
            (parts(mixed, "g"), parts(mixed, "t")), ([("a", -1), ("b", 1)], [("g", 1), ("c", -1)])
        )
        away = structure.group(of, ["a", "c"], "g", "G")
        self.assertEqual([line.id for line in away.lines], ["a", "b", "c", "g", "t"])
        self.assertEqual((parts(away, "g"), parts(away, "t")), ([("a", 1), ("c", 1)], [("g", -1), ("b", 1)]))

    def test_a_line_gets_another_usual_sign(self) -> None:
        made = structure.set_line(DEMO, "fuel", usual_sign="negative", label="Fuel")
        line = made.line("fuel")
        assert line is not None
        self.assertEqual((line.usual_sign, line.label), ("negative", "Fuel"))

    def test_a_total_takes_one_rounding_line(self) -> None:
        of = statement({"a": ["1", "1"]}, {"t": ["a"]})
        a, total = of.lines
        self.assertEqual([structure.takes_rounding(of, line) for line in (a, total)], [False, True])
        made = structure.add_rounding(of, "t", "Rounding")
        self.assertFalse(structure.takes_rounding(made, made.lines[-1]))
        with self.assertRaisesRegex(InputError, "has a rounding line already"):
            structure.add_rounding(made, "t", "Rounding")

    def test_a_line_becomes_a_heading_where_no_figure_is_lost(self) -> None:
        of = statement({"a": ["1", "1"], "b": ["2", "2"]}, {"t": ["a"]})
        empty = Line(id="e", label="Empty")
        made = structure.set_kind(of.model_copy(update={"lines": (*of.lines, empty)}), "e", "heading")
        self.assertEqual(made.lines[-1].kind, "heading")
        counted = of.model_copy(
            update={"lines": (empty, *of.lines[1:-1], of.lines[-1].model_copy(update={"parts": (("e", 1),)}))}
        )
        for one, line in ((of, "b"), (counted, "e")):
            with self.assertRaisesRegex(InputError, "has figures"):
                structure.set_kind(one, line, "heading")

    def test_answers_to_lines_and_columns_that_are_gone_go(self) -> None:
        of = statement({"a": ["1", "1"]}, {"t": ["a"]})
        total = of.lines[-1].model_copy(update={"answers": {"now": "note"}})
        kept = of.model_copy(update={"lines": (*of.lines[:-1], total)})
        self.assertIs(structure.answers_left(kept), kept)
        stale = total.model_copy(update={"answers": {"now": "note", "gone": "note"}})
        self.assertEqual(
            structure.answers_left(kept.model_copy(update={"lines": (*of.lines[:-1], stale)})), kept
        )
        column = of.columns[0].model_copy(update={"answers": {"gone": "note"}})
        self.assertEqual(
            structure.answers_left(of.model_copy(update={"columns": (column, *of.columns[1:])})), of
        )

    def test_a_line_moves_and_what_it_is_part_of_stays(self) -> None:
        made = structure.move(DEMO, "dep", "fuel")
        ids = [line.id for line in made.lines]
        self.assertEqual(ids.index("dep") + 1, ids.index("fuel"))
        self.assertEqual(exact_amounts(made), exact_amounts(DEMO))
        self.assertEqual(structure.move(DEMO, "dep", None).lines[-1].id, "dep")

    def test_a_line_that_comes_to_stand_apart_leaves_its_totals(self) -> None:
        made = self.sound(structure.set_kind(DEMO, "int", "memo"))
        self.assertNotIn("int", [id for id, _ in parts(made, "tot")])
        self.assertEqual(structure.could_join(made, "int"), [])

    def test_what_cannot_be_is_refused_with_the_reason(self) -> None:
        one = statement({"a": ["1", "1"]}, {"t": ["a"]})
        wrongs: list[tuple[Callable[[], Statement], str]] = [
            (lambda: structure.make_part(DEMO, "tot", "rev"), "made of"),
            (lambda: structure.make_part(DEMO, "h1", "tot"), "no total counts"),
            (lambda: structure.make_part(DEMO, "fuel", "crew"), "not a total"),
            (lambda: structure.make_part(one, "a", None), "nothing left to add"),
            (lambda: structure.flip_sign(DEMO, "net"), "no part of a total"),
            (lambda: structure.group(DEMO, ["fuel", "fares"], "x", "X"), "different totals"),
            (lambda: structure.group(DEMO, ["fuel"], "x", "X"), "needs two lines"),
            (lambda: structure.dissolve(DEMO, "net"), "nowhere to go"),
            (lambda: structure.set_kind(DEMO, "fuel", "total"), "no parts to add"),
            (lambda: structure.set_kind(DEMO, "fuel", "heading"), "has figures"),
            (lambda: structure.move(DEMO, "none", None), "no line"),
        ]
        for wrong, said in wrongs:
            with self.subTest(said), self.assertRaisesRegex(InputError, said):
                wrong()

    def test_no_offer_would_go_round_in_a_circle(self) -> None:
        for line in DEMO.figured:
            for total in structure.could_join(DEMO, line.id):
                try:
                    check(pack(structure.make_part(DEMO, line.id, total.id)))
                except InputError as refusal:  # only because the total it leaves would be empty
                    self.assertEqual(refusal.kind, "bad-structure")


class MembersTest(unittest.TestCase):
    def listed(self, *members: str, axis: str = "lines") -> Members:
        return Members.model_validate({"id": "m", "label": "Routes", "axis": axis, "members": members})

    def test_an_absent_member_is_placed_beside_its_neighbours_and_is_no_zero(self) -> None:
        of = statement({"north": ["1", "2"], "west": ["3", "4"]}, {"t": ["north", "west"]})
        made = choose(of, "m", self.listed("East", "North", "South", "West"))
        self.assertEqual([line.label for line in made.lines], ["East", "North", "South", "West", "T"])
        self.assertEqual([line.absent for line in made.lines], [True, False, True, False, False])
        self.assertEqual([id for id, _ in parts(made, "t")], ["East", "north", "South", "west"])
        exact = exact_amounts(made)
        self.assertIsNone(exact["South", "now"])
        self.assertEqual(exact["t", "now"], Decimal(4))
        check(pack(made))

    def test_a_list_taken_back_takes_its_placeholders_along(self) -> None:
        of = statement({"north": ["1", "2"], "west": ["3", "4"]}, {"t": ["north", "west"]})
        made = choose(of, "m", self.listed("North", "South", "West"))
        self.assertEqual(choose(made, "m", None), of)
        fewer = choose(made, "m", self.listed("North", "West"))
        self.assertEqual([line.id for line in fewer.lines], ["north", "west", "t"])

    def test_absent_months_are_columns_that_the_year_counts(self) -> None:
        columns = (
            Column(id="apr", label="April"),
            Column(id="jun", label="June"),
            Column(id="q", label="Quarter", sum=("apr", "jun")),
        )
        of = Statement(
            id="s", name="S", title="S", columns=columns, lines=(Line(id="a", label="A", amounts={"apr": 1}),)
        )
        made = choose(of, "m", self.listed("April", "May", "June", axis="columns"))
        self.assertEqual([column.label for column in made.columns], ["April", "May", "June", "Quarter"])
        self.assertEqual(made.columns[-1].sum, ("apr", "May", "jun"))
        self.assertEqual(exact_amounts(made)["a", "q"], Decimal(1))
        self.assertEqual(choose(made, "m", None), of)

    def test_a_list_of_strangers_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "None of the 2 members is a line"):
            choose(DEMO, "m", self.listed("Nowhere", "Elsewhere"))
