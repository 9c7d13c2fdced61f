"""Labels in several columns: steps of an outline, and groups named beside their lines."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.intake.decisions import TableDecided
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.intake.table_sentence import Open, column_sentence
from tests.making import drafted

GROUPS = ("Ferries", "Hotels", "Harbours", "Head office")
LINES = ("Fares", "Freight", "Kiosks", "Fuel", "Wages")


def outline(made: Draft) -> list[tuple[str, int | None]]:
    """Every line by its label and first amount, None for a heading."""
    return [(line.label, None if line.heading else int(line.amounts[0] or 0)) for line in made.lines]


class LabelStepsTest(unittest.TestCase):
    @given(
        st.lists(st.sampled_from(GROUPS), min_size=1, max_size=4, unique=True),
        st.sampled_from(["own row", "own row and a gap", "first line", "every line"]),
        st.booleans(),
        st.randoms(use_true_random=False),
    )
    def test_groups_are_headings_wherever_they_are_named(
        self, groups: list[str], named: str, headed: bool, draw: Any
    ) -> None:
        rows = [["Division", "Line", "2026", "2025"] if headed else ["", "", "2026", "2025"]]
        expected: list[tuple[str, int | None]] = []
        for group in groups:
            expected.append((group, None))
            if named.startswith("own row"):
                rows.append([group, "", "", ""])
            if named.endswith("gap"):
                rows.append(["", "", "", ""])
            lines = draw.sample(LINES, draw.randint(2, 4))
            for n, line in enumerate(lines):
                label = f"{line} of {group}"
                amount = draw.randint(
                    2_201, 9_999
                )  # no years: whether a row of them is a heading is asked below
                beside = group if named == "every line" or (named == "first line" and n == 0) else ""
                rows.append([beside, label, str(amount), str(amount + 7 * n + 1)])
                expected.append((label, amount))
        made = drafted(rows)
        self.assertEqual(outline(made), expected)
        self.assertIn("labels of columns A and B read as one", list(settled(made)))
        indents = {line.heading: line.indent for line in made.lines}
        self.assertLess(indents[True] or 0, indents[False] or 0)

    def test_headings_apart_from_the_first_line_are_kept_and_titles_are_not(self) -> None:
        rows = [["Lanternfish Ferries", "", ""], ["", "", ""], ["", "2026", "2025"], ["ASSETS", "", ""]]
        rows += [["", "", ""], ["Current assets", "", ""], ["Cash", "10", "9"], ["Stores", "4", "5"]]
        expected = [("ASSETS", None), ("Current assets", None), ("Cash", 10), ("Stores", 4)]
        self.assertEqual(outline(drafted(rows)), expected)
        self.assertEqual(
            outline(drafted([*rows[:2], *rows[6:]])), expected[2:]
        )  # with nothing over the years
        unit = [*rows[:3], ["\u00a3m", "", ""], ["", "", ""], *rows[6:]]
        self.assertEqual(outline(drafted(unit)), [("Cash", 10_000_000), ("Stores", 4_000_000)])

    def test_a_column_says_what_it_is_of_its_lines(self) -> None:
        made = drafted(
            [
                ["Division", "Line", "Currency", "2026"],
                ["Ferries", "Fares", "EUR", "7"],
                ["", "Fuel", "EUR", "5"],
            ]
        )
        said = [column_sentence(made, column)[1] for column in made.layout.columns]
        self.assertEqual(
            [word.label for word in said if isinstance(word, Open)],
            ["labels, read as one with the others", "labels", "the currency of each line", "figures"],
        )

    def test_totals_that_stand_further_out_keep_their_names(self) -> None:
        rows = [
            ["Assets", "", "", "2026", "2025"],
            ["Current assets", "", "", "", ""],
            ["", "Cash", "", "10", "9"],
        ]
        rows += [["", "Debtors", "", "", ""], ["", "", "Trade", "15", "16"], ["", "", "Other", "5", "3"]]
        rows += [["", "Total debtors", "", "20", "19"], ["Total current assets", "", "", "30", "28"]]
        made = drafted(rows)
        self.assertEqual(
            outline(made),
            [
                ("Current assets", None),
                ("Cash", 10),
                ("Debtors", None),
                ("Trade", 15),
                ("Other", 5),
                ("Total debtors", 20),
                ("Total current assets", 30),
            ],
        )
        parts = {line.label: [made.lines[part].label for part, _ in line.parts] for line in made.lines}
        self.assertEqual(parts["Total current assets"], ["Cash", "Total debtors"])

    def test_places_stay_those_of_the_source(self) -> None:
        rows = [["", "", "2026", "2025"], ["Ferries", "Fares", "1,204.5", "1.5"], ["", "Fuel", "tbc", "3.25"]]
        rows += [["Hotels", "Rooms", "7.5", "8.5"], ["", "Food", "2.5", "6.5"]]
        made = drafted(rows)
        (asked,) = questions(made)
        self.assertEqual(asked.places, ("C3",))
        again = draft(made.table, TableDecided.model_validate({"rows": {"Ferries": {"role": "left_out"}}}))
        self.assertNotIn("Ferries", [line.label for line in again.lines])
        decided = drafted(rows, cells={"C3": {"text": "tbc", "read": "4.5"}}, rows={"Fuel": {"label": "Oil"}})
        self.assertEqual(str(next(line for line in decided.lines if line.label == "Oil").amounts[0]), "4.5")

    def test_amounts_that_could_be_years_are_a_line_below_years(self) -> None:
        for heads in (["2026", "2025"], ["FY26", "FY25"], ["31 March 2026", "31 March 2025"]):
            with self.subTest(heads):
                rows = [["£", *heads], ["Fares", "1900", "1901"], ["Fuel", "20", "30"]]
                self.assertEqual(outline(drafted(rows)), [("Fares", 1900), ("Fuel", 20)])
        spanned = [["", "Year to 31 March", ""], ["£", "2026", "2025"], ["Fares", "19", "30"]]
        self.assertEqual(
            [column.heading[-4:] for column in drafted(spanned).layout.figures], ["2026", "2025"]
        )

    def test_a_named_row_of_amounts_is_no_heading_of_years(self) -> None:
        below = [["Cash", "1000", "990"], ["Plant", "1015", "997"]]
        total = ["Total assets", "2015", "1987"]
        for heads in ([["\u00a3m", "This year", "Last year"]], [["", "2026", "2025"]], []):
            with self.subTest(heads=heads):
                self.assertEqual(
                    next(name for name, _ in outline(drafted([*heads, total, *below]))), "Total assets"
                )
        for heads in (
            [["Total", "2026", "2025"]],
            [["", "Actual", "Budget"], ["Line", "2026", "2026"]],
            [["", "This year", "Last year"], ["\u00a3m", "2015", "1987"]],
        ):
            with self.subTest(heads=heads):
                self.assertEqual([name for name, _ in outline(drafted([*heads, *below]))], ["Cash", "Plant"])

    def test_a_heading_of_one_column_beside_wider_ones_is_kept(self) -> None:
        made = drafted(
            [["", "Group", "Group", "Company"], ["Line", "2026", "2025", "2026"], ["Cash", "1", "2", "3"]]
        )
        self.assertEqual(
            [column.heading for column in made.layout.figures],
            ["Group, 2026", "Group, 2025", "Company, 2026"],
        )

    def test_numbers_that_head_columns_beside_a_total_are_no_line(self) -> None:
        rows = [["Customer", "30", "60", "90", "120+", "Total"], ["North Quay", "100", "20", "5", "1", "126"]]
        made = drafted([*rows, ["South Pier", "50", "10", "0", "0", "60"]])
        self.assertEqual(outline(made), [("North Quay", 100), ("South Pier", 50)])
        self.assertEqual([column.heading for column in made.layout.figures], rows[0][1:])

    def test_numbers_codes_notes_and_comments_are_no_labels(self) -> None:
        for column in (
            ["I", "II", "", "IV"],
            ["12", "", "14", ""],
            ["R&D note", "see board paper", "late", "x"],
        ):
            with self.subTest(column):
                rows = [["No", "Particulars", "2026", "2025"]]
                rows += [[n, line, "15", "16"] for n, line in zip(column, LINES, strict=False)]
                if column[0] == "R&D note":
                    rows = [[line, n, one, two] for n, line, one, two in rows]
                self.assertEqual([label for label, _ in outline(drafted(rows))], list(LINES[:4]))

    def test_a_group_that_goes_on_after_a_line_without_it_is_one_heading(self) -> None:
        rows = [["Division", "Line", "2026"], ["Ferries", "Fares", "15"], ["", "Of that by night", "6"]]
        rows += [["Ferries", "Fuel", "16"], ["Hotels", "Rooms", "7"], ["Hotels", "Food", "8"]]
        labels = [label for label, amount in outline(drafted(rows)) if amount is None]
        self.assertEqual(labels, ["Ferries", "Hotels"])

    def test_a_column_that_was_decided_to_be_left_out_has_no_labels(self) -> None:
        rows = [
            ["Division", "Line", "2026"],
            ["Ferries", "Fares", "15"],
            ["", "Fuel", "16"],
            ["Hotels", "Rooms", "7"],
        ]
        rows += [["", "Food", "8"]]
        self.assertEqual(outline(drafted(rows))[0], ("Ferries", None))
        left = drafted(rows, columns={"A": {"role": "other"}})
        self.assertEqual([label for label, _ in outline(left)], ["Fares", "Fuel", "Rooms", "Food"])
        self.assertIn("column A, Division, left out", list(settled(left)))

    def test_groups_with_the_same_lines_are_asked_about(self) -> None:
        rows = [["Division", "Line", "Amount"]]
        rows += [[group, line, str(n + 7)] for group in GROUPS[:2] for n, line in enumerate(LINES[:3])]
        made = drafted(rows)
        self.assertEqual([each.asks for each in questions(made)][:1], ["Is each of its rows a line?"])


if __name__ == "__main__":
    unittest.main()
