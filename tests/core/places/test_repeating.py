"""Passages that stand once for each of several lines or columns."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.changes.item_sentence import chart_sentence
from humble_sum.core.changes.passage_sentence import passage_sentence
from humble_sum.core.changes.place_offers import ways_to_agree
from humble_sum.core.changes.places_forward import dashboard_forward
from humble_sum.core.errors import InputError
from humble_sum.core.places.offered_marks import offered_marks, other_column
from humble_sum.core.places.passages import Piece, printed_passage
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.places_report import placed_on
from humble_sum.core.places.repeating import repeated_over
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.rules.words import Word
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Chart, Passage
from humble_sum.records.demo import demo_pack

DEMO = demo_pack()
ROUTES = ("outer", "sound", "kelp", "heron", "salt", "winter")


def passage(text: str, over: tuple[str, ...] = ()) -> Passage:
    return Passage(kind="passage", id="words", label="Words", text=text, over=over)


def with_passage(text: str) -> Pack:
    item = {"kind": "passage", "id": "words", "label": "Words", "text": text}
    change = read_change({"kind": "place_item", "dashboard": "operations", "item": item})
    return apply(prove_pack(DEMO), change).pack


def printed(pack: Pack) -> list[str]:
    """Each paragraph of the passage, as it prints."""
    board = pack.dashboard("operations")
    assert board is not None
    found = board.item("words")
    assert isinstance(found, Passage)
    pack_proof = prove_pack(pack)
    blocks = printed_passage(found, pack_proof, Placer(pack_proof, "passage"))
    return ["".join(piece.text for piece in block) for block in blocks if isinstance(block, list)]


class RepeatingTest(unittest.TestCase):
    def offered(self, pack: Pack) -> dict[str, Word]:
        board = pack.dashboard("operations")
        assert board is not None
        found = board.item("words")
        assert isinstance(found, Passage)
        return {word.clause: word for word in passage_sentence(board, found, pack) if isinstance(word, Word)}

    def choose(self, pack: Pack, word: str, label: str) -> Pack:
        (change,) = (each.change for each in self.offered(pack)[word].choices if each.label == label)
        assert change is not None
        return apply(prove_pack(pack), read_change(change.model_dump(mode="json"))).pack

    def test_it_is_offered_for_the_lines_beside_its_own_and_each_has_its_own_figures(self) -> None:
        start = with_passage("{label routes:sound:year} took {routes:sound:year}.")
        self.assertEqual(printed(start), ["Lantern Sound took ₹465\u202flakh."])
        self.assertEqual(self.offered(start)["repeated"].label, "once")
        each = self.choose(start, "repeated", "once for each part of Passenger fares")
        texts = printed(each)
        self.assertGreaterEqual(len(texts), len(ROUTES))
        self.assertIn("Lantern Sound took ₹465\u202flakh.", texts)
        self.assertEqual(len(set(texts)), len(texts), "each of its own line")
        fewer = self.choose(each, "left out", "without Outer Isles")
        self.assertEqual(printed(fewer), texts[1:])
        again = self.choose(fewer, "repeated", "once")
        self.assertEqual(printed(again), ["Lantern Sound took ₹465\u202flakh."])

    def test_over_columns(self) -> None:
        start = with_passage("{column routes:routes:apr}: {routes:routes:apr}.")
        each = self.choose(start, "repeated", "once for each of its periods")
        self.assertEqual(len(printed(each)), 12)
        self.assertTrue(printed(each)[0].startswith("Apr: "))

    def test_what_none_of_its_figures_is_on_is_refused_with_what_to_do(self) -> None:
        for text, over in (
            ("Plain words of 4.14.", ("outer",)),
            ("{routes:sound:year}", ("outer", "kelp")),
            ("{routes:sound:year}", ("sound", "sound")),
        ):
            with self.subTest(text), self.assertRaises(InputError) as raised:
                repeated_over(passage(text), over)
            self.assertTrue(raised.exception.faults[0].what)

    def test_text_typed_for_a_figure_stays_typed(self) -> None:
        made = repeated_over(passage("{routes:sound:year ! 464} and {routes:sound:year | 465}"), ROUTES)
        self.assertEqual(made.text, "{routes:*:year ! 464} and {routes:*:year}")

    @given(st.lists(st.sampled_from(ROUTES), min_size=1, unique=True), st.sampled_from(ROUTES))
    def test_once_again_is_as_it_was_before_on_the_first(self, over: list[str], line: str) -> None:
        text = f"A {{{{b}}}} {{share routes:{line}:year routes:routes:year}} {{label routes:{line}:year}}"
        start = passage(text)
        chosen = (line, *(each for each in over if each != line))
        self.assertEqual(repeated_over(repeated_over(start, chosen), ()), start)

    def test_columns_it_is_repeated_over_move_with_the_period(self) -> None:
        board = DEMO.dashboards[1]
        item = passage("{income:net:*}", ("y26", "y25"))
        moved = dashboard_forward(
            board.model_copy(update={"items": (item,)}), {"income": {"y26": "y27", "y25": "y26"}}
        )
        found = moved.items[0]
        assert isinstance(found, Passage)
        self.assertEqual(found.over, ("y27", "y26"))


class OfferedMarksTest(unittest.TestCase):
    """What is offered behind an @."""

    def offered(self, typed: str, over: tuple[str, ...] = ()) -> dict[str, str]:
        found = offered_marks(prove_pack(DEMO), passage("", over), typed, 8)
        return {mark.source: mark.text for mark in found}

    def test_a_figure_its_measures_words_and_names(self) -> None:
        found = self.offered("surplus for the year 2025–26 income")
        self.assertEqual(next(iter(found)), "{income:net:y26 | ₹413\u202flakh}")
        self.assertIn("{change_percent income:net:y26 income:net:y25 | 37.8%}", found)
        self.assertIn("{word rose/fell/was unchanged income:net:y26 income:net:y25 | rose}", found)
        self.assertIn("{label income:net:y26 | Surplus for the year}", found)

    def test_words_of_a_measure_need_not_be_in_the_figure_s_name(self) -> None:
        self.assertIn(
            "{change_percent income:fuel:y26 income:fuel:y25", next(iter(self.offered("fuel percent")))
        )
        self.assertEqual(self.offered("no such line percent"), {})

    def test_months_are_held_against_the_month_before_and_quarters_against_the_quarter(self) -> None:
        for column, other in {"mar": "feb", "apr": "apr", "q3": "q2", "share": "share"}.items():
            statement = DEMO.statement("routes")
            assert statement is not None
            self.assertEqual(other_column(statement, column), other)

    def test_every_mark_that_is_offered_reads_back_as_one_that_agrees(self) -> None:
        for typed in ("outer isles", "on time", "crew", "assets", "2024"):
            for source in self.offered(typed):
                pack = with_passage(source)
                board = pack.dashboard("operations")
                assert board is not None
                found = [each for each in placed_on(board, prove_pack(pack)) if each.item.id == "words"]
                self.assertTrue(all(each.agrees.standing == "agrees" for each in found), source)

    def test_where_it_is_repeated_each_has_its_own(self) -> None:
        self.assertIn("{routes:*:mar}", self.offered("Outer Isles Mar", ("sound", "outer")))


class WaysOutTest(unittest.TestCase):
    """Each planted disagreement has a command that settles it."""

    def test_every_disagreement_of_the_demo_is_settled_by_the_first_way_offered(self) -> None:
        for board in DEMO.dashboards:
            pack = DEMO
            while True:
                now = pack.dashboard(board.id)
                assert now is not None
                pack_proof = prove_pack(pack)
                off = [each for each in placed_on(now, pack_proof) if each.agrees.standing == "disagrees"]
                if not off:
                    break
                way = ways_to_agree(off[0])[0]
                assert way.change is not None
                pack = apply(pack_proof, read_change(way.change.model_dump(mode="json"))).pack
                after = pack.dashboard(board.id)
                assert after is not None
                left = [each for each in placed_on(after, prove_pack(pack)) if each.agrees.off]
                self.assertLess(len(left), len(off), way.label)

    def test_what_is_gone_stays_as_text_where_it_stood(self) -> None:
        pack = with_passage("Before {income:kiosks:y26 | ₹12 lakh}, and {{after}}.")
        board = pack.dashboard("operations")
        assert board is not None
        gone = next(
            each
            for each in placed_on(board, prove_pack(pack))
            if each.item.id == "words" and each.agrees.off == "gone"
        )
        self.assertIsInstance(gone.piece, Piece)
        (way,) = ways_to_agree(gone)
        assert way.change is not None
        after = apply(prove_pack(pack), read_change(way.change.model_dump(mode="json"))).pack
        self.assertEqual(printed(after), ["Before ₹12 lakh, and {after}."])

    def test_a_chart_is_offered_the_parts_of_each_total_one_line_more_and_one_fewer(self) -> None:
        board = DEMO.dashboard("parent")
        assert board is not None
        chart = board.item("costs")
        assert isinstance(chart, Chart)
        words = {w.clause: w for w in chart_sentence(board, chart, DEMO) if isinstance(w, Word)}
        labels = [choice.label for choice in words["lines"].choices]
        self.assertIn("the parts of Total costs", labels)
        self.assertIn("without Fuel and lubricants", labels)
        self.assertIn("and Finance costs", labels)
        values = [choice.value for choice in words["lines"].choices]
        self.assertEqual(len(values), len(set(values)))


if __name__ == "__main__":
    unittest.main()
