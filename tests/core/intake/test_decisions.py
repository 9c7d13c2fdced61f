"""Decisions of how a table is read: each choice that is offered does what it says, and null takes it back."""

from __future__ import annotations

import unittest
from collections.abc import Iterator, Mapping
from decimal import Decimal
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.errors import InputError
from humble_sum.core.intake.decisions import UNDECIDED, Decisions, merged, read_decisions
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.found_ties import found_ties
from humble_sum.core.intake.packing import Kept, pack_of
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.intake.table import Table, cell_place, column_index, column_letters
from humble_sum.core.intake.table_sentence import Open, Told, column_sentence, row_sentence, table_sentence
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.exchange.sources.opening import open_source
from tests.soak import some

CASES = Path(__file__).parents[2] / "cases/intake"


def tables() -> Iterator[Table]:
    """Every table of the given sources that can be read."""
    for path in sorted(CASES.iterdir()):
        if not path.name.endswith(".truth.json"):
            try:
                yield from open_source(path.name, path.read_bytes())
            except InputError:
                continue


def made(csv: str, **decided: Any) -> Draft:
    (table,) = open_source("made.csv", csv.encode())
    return draft(table, merged(UNDECIDED, decided))


def amounts(of: Draft) -> list[list[str]]:
    return [[str(amount) for amount in line.amounts] for line in of.lines if not line.heading]


def picks(told: Told) -> Iterator[tuple[str, int, Mapping[str, Any]]]:
    for word in told:
        if isinstance(word, Open):
            for place, pick in enumerate(word.picks):
                yield word.name, place, pick.decide


class OfferedTest(unittest.TestCase):
    def test_every_choice_on_every_given_source_can_be_taken_and_taken_back(self) -> None:
        tried = 0
        for table in tables():
            start = draft(table)
            sentences = [
                table_sentence(start),
                *(column_sentence(start, c) for c in start.layout.columns[:3]),
            ]
            sentences += [row_sentence(start, line.row) for line in start.lines[1:3]]
            offered = [pick for told in sentences for pick in picks(told)]
            offered += [("answer", 0, a.decide) for q in questions(start) for a in q.answers]
            for name, _, patch in some(offered, 4):
                with self.subTest(table.source, word=name, patch=patch):
                    decided = merged(UNDECIDED, patch)
                    found = draft(table, decided)
                    list(settled(found))
                    table_sentence(found)
                    if found.has_figures:
                        statement_of(found, "s", "S")
                    undone = merged(decided, dict.fromkeys(patch))
                    self.assertEqual(undone, UNDECIDED)
                    tried += 1
        self.assertGreater(tried, 80)

    def test_an_answer_is_asked_no_more(self) -> None:
        for table in tables():
            start = draft(table)
            for question in questions(start):
                for answer in question.answers:
                    with self.subTest(table.source, asks=question.asks, answer=answer.label):
                        after = questions(draft(table, merged(UNDECIDED, answer.decide)))
                        self.assertNotIn(question.asks, [each.asks for each in after])

    def test_the_first_answer_is_what_was_read(self) -> None:
        for table in tables():
            start = draft(table)
            for question in questions(start):
                with self.subTest(table.source, asks=question.asks):
                    again = draft(table, merged(UNDECIDED, question.answers[0].decide))
                    self.assertEqual(amounts(again), amounts(start))


class ReadingTest(unittest.TestCase):
    CSV = "Close of books,,\nLine,Note,2026\nFares,1,100\nFuel,2,-40\nTips,3,tbc\nAll,,60\nOld,,7\n"

    def test_rows_columns_and_cells(self) -> None:
        start = made(self.CSV)
        self.assertEqual([line.label for line in start.lines], ["Fares", "Fuel", "Tips", "All", "Old"])
        left = made(self.CSV, rows={"Old": {"role": "left_out"}, "Fares": {"label": "Tickets"}})
        self.assertEqual([line.label for line in left.lines], ["Tickets", "Fuel", "Tips", "All"])
        tips = made(self.CSV, cells={"C5": {"text": "tbc", "read": "12.5"}})
        self.assertEqual(tips.lines[2].amounts, (Decimal("12.5"),))
        other = made(self.CSV, cells={"C5": {"text": "n/a", "read": "12.5"}})
        self.assertEqual(other.lines[2].amounts, (None,), "the cell says something else by now")
        self.assertIn("cell C5 with “n/a”", [doubt.text for doubt in other.doubts])
        for letters in ("ZZZZ", "D", "b"):
            beyond = made(self.CSV, columns={letters: {"role": "figures"}})
            self.assertIn(f"column {letters}", [doubt.text for doubt in beyond.doubts])
        blank = made(self.CSV, rows={"Fares": {"label": "  "}})
        self.assertEqual(blank.lines[0].label, "Fares", "a name of blanks is none")
        notes = made(self.CSV, columns={"B": {"role": "figures", "heading": "Notes"}})
        self.assertEqual([column.label for column in notes.columns], ["Notes", "2026"])
        later = made(self.CSV, first_row=4)
        self.assertEqual(later.lines[0].label, "Fuel")
        heading = made(self.CSV, rows={"Old": {"role": "heading"}})
        self.assertTrue(heading.lines[4].heading)
        memo = made(self.CSV, rows={"Old": {"kind": "count"}}, unit="thousands")
        self.assertEqual(
            [line.amounts[0] for line in memo.lines],
            [100_000, -40_000, None, 60_000, 7],
            "a count is in ones",
        )

    def test_costs_shown_positive_become_negative_through_every_total(self) -> None:
        csv = (
            "Line,2026,2025\nSales,500,400\nWages,120,100\nRent,80,60\nTotal costs,200,160\nProfit,300,240\n"
        )
        for costs in (None, "negative"):
            found = made(csv, **({"costs": costs} if costs else {}))
            pack = pack_of([Kept(found, "Income")], "E", "P")
            proof = prove_pack(pack).proofs["income"]
            self.assertEqual({check.status for check in proof.checks}, {"foots"}, costs)
            wages = pack.statements[0].lines[1].amounts["2026"]
            self.assertEqual(wages, Decimal(-120 if costs else 120))

    def test_numbers_that_could_be_either_are_read_so_that_they_add(self) -> None:
        for csv, first in (
            ("Line;2026\nErlöse;1.234\nKosten;(567)\nErgebnis;667\n", 1234),
            ("Line;2026\nA;1,234\nB;0,5\nTotal;1,734\n", Decimal("1.234")),
            ("Line;2026;2025\nA;1,234;2,345\nB;500;400\nAll;1,734;2,745\n", 1234),
        ):
            found = made(csv)
            self.assertEqual(found.lines[0].amounts[0], first, csv)
            self.assertNotIn("How are the numbers written?", [each.asks for each in questions(found)])
            self.assertEqual(found.decided, UNDECIDED)
        both = made("Line;2026\nA;1,234\nB;1,111\nTotal;2,345\n")
        self.assertIn("How are the numbers written?", [each.asks for each in questions(both)])
        told = made("Line;2026\nA;1.234\nB;(567)\nC;667\n", columns={"B": {"convention": "point"}})
        self.assertEqual(told.lines[0].amounts[0], Decimal("1.234"), "what was decided stands")

    def test_what_leaves_no_figure_is_refused_when_it_is_kept(self) -> None:
        bare = made(self.CSV, columns={"C": {"role": "other"}})
        self.assertFalse(bare.has_figures)
        with self.assertRaises(InputError):
            pack_of([Kept(bare, "Income")], "E", "P")


class FileTest(unittest.TestCase):
    def test_merge_patches_are_those_of_the_standard(self) -> None:
        """RFC 7396: members are replaced or added, null removes, all else stays."""
        one = merged(UNDECIDED, {"unit": "lakhs", "columns": {"C": {"role": "other"}}})
        two = merged(one, {"columns": {"C": {"role": None, "heading": "Now"}, "D": {"role": "code"}}})
        self.assertEqual(
            two.model_dump(exclude_defaults=True),
            {"unit": "lakhs", "columns": {"C": {"heading": "Now"}, "D": {"role": "code"}}},
        )
        self.assertEqual(merged(two, {"columns": None, "unit": None}), UNDECIDED)

    JSON = st.recursive(
        st.none() | st.booleans() | st.integers(-9, 99) | st.text(max_size=6),
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(
                st.sampled_from(
                    ["unit", "columns", "rows", "cells", "C", "Fares", "role", "C3", "text", "x"]
                ),
                inner,
                max_size=4,
            )
        ),
        max_leaves=8,
    )

    @settings(max_examples=150, deadline=None)
    @given(st.dictionaries(st.sampled_from([*UNDECIDED.__class__.model_fields, "z"]), JSON, max_size=4))
    def test_any_patch_is_taken_or_refused_in_words(self, patch: dict[str, Any]) -> None:
        try:
            decided = merged(UNDECIDED, patch)
        except InputError as refused:
            self.assertTrue(refused.faults and all(fault.what for fault in refused.faults))
            return
        (table,) = open_source("made.csv", ReadingTest.CSV.encode())
        found = draft(table, decided)
        table_sentence(found)
        questions(found)
        if found.has_figures:
            statement_of(found, "s", "S")

    def test_a_file_reads_back_and_others_are_refused(self) -> None:
        file = Decisions.model_validate(
            {"entity": "E", "tables": [{"table": "Profit", "decided": {"unit": "lakhs"}}]}
        )
        self.assertEqual(read_decisions(file.model_dump(mode="json")), file)
        several: list[Any] = [[], {"version": 2}, {"kind": "x"}, {"tables": [{"table": "a"}]}, None]
        for bad in several:
            with self.assertRaises(InputError):
                read_decisions(bad)

    @given(st.integers(0, 16_383), st.integers(0, 1_048_575))
    def test_places_read_back(self, column: int, row: int) -> None:
        letters = column_letters(column)
        self.assertEqual(column_index(letters), column)
        self.assertEqual(cell_place(f"{letters}{row + 1}"), (row, column))

    def test_what_is_no_place_is_none(self) -> None:
        for text in ("", "C", "7", "C0", "c7", "ABCD1", "C7 ", "C-7"):
            self.assertIsNone(cell_place(text), text)


class TiesByPeriodTest(unittest.TestCase):
    def test_openings_are_tied_to_what_the_period_before_closed_with(self) -> None:
        position = made(
            "Line,31 March 2027,31 March 2026\nStock,50500,41250\nCash and bank,33025.5,22077.5\n"
        )
        moves = made(
            "Line,Year ended 31 March 2027\nNet change in cash,10948\nOpening cash,22077.5\nCash and bank,33025.5\n"
        )
        kept = [(position, "position"), (moves, "cash")]
        found = found_ties([(each, statement_of(each, id, id)) for each, id in kept])
        spots = {frozenset(tie.tie.figures) for tie in found}
        self.assertIn(
            frozenset(
                {
                    ("cash", "Opening-cash", "Year-ended-31-March-2027"),
                    ("position", "Cash-and-bank", "31-March-2026"),
                }
            ),
            spots,
        )
        self.assertEqual(len(spots), 2)


if __name__ == "__main__":
    unittest.main()
