"""Items on dashboards: placed, moved, sized, worded, written, followed; and what cannot be."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.errors import InputError
from humble_sum.core.places.agreement import agreement
from humble_sum.core.places.passage_text import Mark, read_passage, write_passage
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Chart, Dashboard, Passage, Shows, Tile
from humble_sum.core.statements.validation import check
from humble_sum.exchange.pack_json import read_pack, write_pack
from tests.making import pack, rule, statement

FARES = ("s", "a", "now")


def tile(id: str, **more: Any) -> dict[str, Any]:
    return {"kind": "tile", "id": id, "label": id.title(), "shows": {"figure": FARES} | more}


def made(*items: dict[str, Any]) -> Pack:
    """A pack of two lines and a total with one dashboard of these items."""
    of = statement({"a": ["10.40", "8"], "b": ["20.40", None]}, {"t": ["a", "b"]})
    start = pack(of, rule("all", {"decimals": {"fixed": 0}}), currency="INR")
    start = change(start, kind="add_dashboard", name="Board")
    for item in items:
        start = change(start, kind="place_item", dashboard="Board", item=item)
    return start


def change(of: Pack, **said: Any) -> Pack:
    return apply(prove_pack(of), read_change(said)).pack


def on(of: Pack) -> Dashboard:
    (dashboard,) = of.dashboards
    return dashboard


def ids(of: Pack) -> list[str]:
    return [item.id for item in on(of).items]


class OrderTest(unittest.TestCase):
    def setUp(self) -> None:
        self.start = made(*(tile(id) for id in "xyz"))

    def move(self, item: str, before: str | None) -> list[str]:
        return ids(change(self.start, kind="move_item", dashboard="Board", item=item, before=before))

    def test_an_item_goes_right_before_another_or_last(self) -> None:
        self.assertEqual(self.move("z", "x"), ["z", "x", "y"])
        self.assertEqual(self.move("x", "z"), ["y", "x", "z"])
        self.assertEqual(self.move("x", None), ["y", "z", "x"])

    def test_before_itself_it_stays(self) -> None:
        self.assertEqual(self.move("x", "x"), ["x", "y", "z"])

    def test_before_what_is_not_there_it_goes_nowhere(self) -> None:
        with self.assertRaises(InputError) as caught:
            self.move("x", "gone")
        self.assertEqual(caught.exception.faults[0].where, "before")
        with self.assertRaises(InputError):
            change(self.start, kind="place_item", dashboard="Board", item=tile("w"), before="gone")

    def test_one_with_its_id_is_replaced_where_it_stands(self) -> None:
        other = tile("y") | {"label": "Otherwise", "width": 12}
        new = change(self.start, kind="place_item", dashboard="Board", item=other, before="x")
        self.assertEqual(ids(new), ["x", "y", "z"])
        self.assertEqual((on(new).items[1].label, on(new).items[1].width), ("Otherwise", 12))

    @settings(max_examples=30, deadline=None)
    @given(st.data())
    def test_whatever_is_done_no_item_is_lost_or_there_twice_and_the_file_reads_back(
        self, data: st.DataObject
    ) -> None:
        now, expected = self.start, {"x", "y", "z"}
        for number in range(data.draw(st.integers(1, 8))):
            item = data.draw(st.sampled_from(sorted(expected)))
            others = st.sampled_from([None, *sorted(expected)])
            where = {"dashboard": "Board", "item": item}
            match data.draw(st.sampled_from(["move", "size", "remove", "place"])):
                case "move":
                    now = change(now, kind="move_item", **where, before=data.draw(others))
                case "size":
                    width = data.draw(st.integers(2, 12))
                    now = change(now, kind="size_item", **where, width=width)
                    sized = on(now).item(item)
                    assert sized is not None
                    self.assertEqual(sized.width, width)
                case "remove" if len(expected) > 1:
                    now = change(now, kind="remove_item", **where)
                    expected = expected - {item}
                case _:
                    new, before = tile(f"n{number}"), data.draw(others)
                    now = change(now, kind="place_item", dashboard="Board", item=new, before=before)
                    expected = expected | {f"n{number}"}
            self.assertEqual(sorted(ids(now)), sorted(expected))
        check(now)
        self.assertEqual(read_pack(write_pack(now)).dashboards, now.dashboards)


class DashboardTest(unittest.TestCase):
    def test_names_may_be_alike_and_ids_are_not(self) -> None:
        twice = change(made(), kind="add_dashboard", name="Board")
        self.assertEqual(len({each.id for each in twice.dashboards}), 2)
        self.assertEqual([each.name for each in twice.dashboards], ["Board", "Board"])

    def test_it_is_called_otherwise_shown_to_others_and_taken_out(self) -> None:
        start = change(made(tile("x")), kind="add_edition", name="Far")
        named = change(start, kind="edit_dashboard", dashboard="Board", name="Directors", edition="Far")
        self.assertEqual((on(named).id, on(named).name, on(named).edition), ("Board", "Directors", "Far"))
        self.assertEqual(on(named).items, on(start).items)
        self.assertEqual(change(named, kind="remove_dashboard", dashboard="Board").dashboards, ())

    def test_what_is_not_there_is_refused_by_name(self) -> None:
        start = made(tile("x"))
        for said, kind in (
            ({"kind": "edit_dashboard", "dashboard": "gone", "name": "A"}, "no-such-dashboard"),
            ({"kind": "remove_item", "dashboard": "Board", "item": "gone"}, "no-such-item"),
            ({"kind": "edit_dashboard", "dashboard": "Board", "edition": "gone"}, None),
            ({"kind": "add_dashboard", "name": "A", "edition": "gone"}, None),
            ({"kind": "size_item", "dashboard": "Board", "item": "x", "width": 13}, None),
            ({"kind": "write_passage", "dashboard": "Board", "item": "x", "text": "a"}, "bad-structure"),
        ):
            with self.subTest(said), self.assertRaises(InputError) as caught:
                change(start, **said)
            if kind:
                self.assertEqual(caught.exception.kind, kind)


class WordsTest(unittest.TestCase):
    """An item's own clauses win over every rule, and nothing but the item prints by them."""

    def say(self, of: Pack, item: str, clause: str, value: Any) -> Pack:
        said = {"kind": "set_item_clause", "dashboard": "Board", "item": item}
        return change(of, **said, clause=clause, value=value)

    def text(self, of: Pack, item: str = "x") -> str:
        found = on(of).item(item)
        assert isinstance(found, Tile)
        return Placer(prove_pack(of), "tile").shown(found.shows).text

    def test_a_clause_is_said_said_again_and_left_to_the_rules(self) -> None:
        start = made(tile("x"), tile("y"))
        self.assertEqual(self.text(start), "10")
        finer = self.say(start, "x", "decimals", {"fixed": 2})
        self.assertEqual((self.text(finer), self.text(finer, "y")), ("10.40", "10"))
        self.assertEqual(prove_pack(finer).proofs["s"].figures["a", "now"].printed.text, "10")
        again = self.say(self.say(finer, "x", "scale", "thousands"), "x", "decimals", {"fixed": 1})
        self.assertEqual(self.text(again), "0.0")
        left = self.say(self.say(again, "x", "scale", None), "x", "decimals", None)
        self.assertEqual(on(left), on(start))

    def test_a_chart_has_clauses_too_and_a_passage_prints_by_rules(self) -> None:
        chart = {"kind": "chart", "id": "c", "label": "C", "style": "bars", "statement": "s"}
        start = made(
            chart | {"lines": ["a"], "columns": ["now", "then"]},
            {"kind": "passage", "id": "p", "label": "P", "text": "Words."},
        )
        said = self.say(start, "c", "negative", "brackets")
        found = on(said).item("c")
        assert isinstance(found, Chart)
        self.assertEqual(found.clauses, {"negative": "brackets"})
        with self.assertRaises(InputError):
            self.say(start, "p", "negative", "brackets")

    def test_what_no_rule_could_say_no_item_can(self) -> None:
        start = made(tile("x"))
        for clause, value in (("decimals", {"fixed": 99}), ("colour", "red"), ("scale", "dozens")):
            with self.subTest(clause), self.assertRaises(InputError):
                self.say(start, "x", clause, value)


class FollowTest(unittest.TestCase):
    def written(self, text: str) -> Pack:
        return made({"kind": "passage", "id": "p", "label": "P", "text": text})

    def text(self, of: Pack) -> str:
        passage = on(of).item("p")
        assert isinstance(passage, Passage)
        return passage.text

    def follow(self, of: Pack, **where: Any) -> Pack:
        said = {"kind": "follow_figure", "dashboard": "Board", "item": "p"}
        return change(of, **(said | {"paragraph": 0, "run": 0} | where))

    def test_typed_text_becomes_a_mark_and_what_stands_around_it_stays(self) -> None:
        followed = self.follow(self.written("Fares of 10 rose."), within=(9, 11), figure=FARES)
        ((before, mark, after),) = read_passage(self.text(followed))
        self.assertEqual((before, after), ("Fares of ", " rose."))
        assert isinstance(mark, Mark) and mark.shows is not None
        self.assertEqual((mark.last, mark.shows.figure), ("10", FARES))

    def test_a_typed_mark_that_disagrees_prints_its_figure_from_then_on(self) -> None:
        typed = Mark("figure", Shows(figure=FARES), "12", typed=True)
        start = self.written(write_passage([[typed, " in all"]]))
        ((mark, after),) = read_passage(self.text(self.follow(start)))
        assert isinstance(mark, Mark)
        self.assertEqual((mark.last, mark.typed, after), ("10", False, " in all"))

    def test_a_place_that_has_no_typed_figure_is_refused(self) -> None:
        start = self.written("Ten and 10.")
        for where in (
            {"paragraph": 1},
            {"run": 4},
            {"within": (8, 99), "figure": FARES},
            {"within": (5, 5), "figure": FARES},
            {"within": (8, 10)},
            {"paragraph": -1, "within": (8, 10), "figure": FARES},
            {"run": -1, "within": (8, 10), "figure": FARES},
        ):
            with self.subTest(where), self.assertRaises(InputError):
                self.follow(start, **where)

    def test_a_nudge_is_accepted_for_a_reason_and_no_other_way(self) -> None:
        start = made(tile("x", clauses={"decimals": {"fixed": 2}}))
        said = {"kind": "accept_nudge", "dashboard": "Board", "item": "x"}
        with self.assertRaises(InputError):
            change(start, **said, reason=" ")
        accepted = on(change(start, **said, reason="asked for")).item("x")
        assert isinstance(accepted, Tile)
        self.assertEqual(accepted.shows.accepted, "asked for")
        found = Placer(prove_pack(start), "tile").shown(accepted.shows)
        self.assertEqual(agreement(found).standing, "agrees")
