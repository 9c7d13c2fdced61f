import random
import unittest
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.intake.found_sums import found_columns, found_sums

Rows = list[list[Decimal | None]]


def rows(*texts: str) -> Rows:
    return [[None if t == "." else Decimal(t) for t in text.split()] for text in texts]


def parts(lines: Rows) -> dict[int, list[tuple[int, int]]]:
    return {found.total: list(found.parts) for found in found_sums(lines) if found.sure}


@st.composite
def statements(draw: st.DrawFn) -> tuple[Rows, dict[int, list[tuple[int, int]]]]:
    """Lines in groups under subtotals under a total, of amounts that add by design alone."""
    # Amounts come from a seed, so that looking for the simplest failure cannot make two of them meet.
    seeded = random.Random(draw(st.integers(0, 10**6)))
    amount = st.builds(lambda: Decimal(seeded.randint(-(10**12), 10**12)) / 100)
    width = draw(st.integers(2, 4))
    lines: Rows = []
    expected: dict[int, list[tuple[int, int]]] = {}
    subtotals = []
    for _ in range(draw(st.integers(2, 4))):
        size = draw(st.integers(2, 5))
        group = list(range(len(lines), len(lines) + size))
        lines += [[draw(amount) for _ in range(width)] for _ in group]
        expected[len(lines)] = [(line, 1) for line in group]
        subtotals.append(len(lines))
        lines.append(
            [sum((lines[line][c] or Decimal(0) for line in group), Decimal(0)) for c in range(width)]
        )
    expected[len(lines)] = [(line, 1) for line in subtotals]
    lines.append(
        [sum((lines[line][c] or Decimal(0) for line in subtotals), Decimal(0)) for c in range(width)]
    )
    return lines, expected


class FoundSumsTest(unittest.TestCase):
    @settings(max_examples=60)
    @given(statements())
    def test_nested_sums_are_found_and_no_others(
        self, made: tuple[Rows, dict[int, list[tuple[int, int]]]]
    ) -> None:
        lines, expected = made
        self.assertEqual(parts(lines), expected)

    @settings(max_examples=60)
    @given(st.lists(st.lists(st.integers(-(10**9), 10**9).map(Decimal), min_size=3, max_size=3), max_size=25))
    def test_every_sum_offered_holds_exactly_in_every_column(self, lines: Rows) -> None:
        for found in found_sums(lines):
            for column in range(3):
                added = sum(sign * (lines[part][column] or 0) for part, sign in found.parts)
                self.assertEqual(added, lines[found.total][column])

    def test_costs_shown_positive_are_taken_from_the_first(self) -> None:
        self.assertEqual(parts(rows("100 90", "60 55", "10 5", "30 30")), {3: [(0, 1), (1, -1), (2, -1)]})

    def test_a_zero_line_right_above_is_a_part_too(self) -> None:
        self.assertEqual(parts(rows("0 0", "5 7", "6 9", "11 16")), {3: [(0, 1), (1, 1), (2, 1)]})

    def test_a_false_friend_in_one_column_is_kept_out(self) -> None:
        # 5 + 6 = 11 in the first column only.
        self.assertEqual(parts(rows("5 1", "6 2", "11 9")), {})

    def test_a_coincidence_in_a_single_column_is_offered_and_not_taken(self) -> None:
        (found,) = found_sums(rows("5", "6", "11"))
        self.assertFalse(found.sure)
        self.assertEqual(found.evidence, "2 lines add to it exactly in 1 column")

    def test_a_line_repeated_or_all_zero_is_no_sum(self) -> None:
        self.assertEqual(found_sums(rows("5 5", "5 5", "0 0", "0 0")), [])
        self.assertEqual(found_sums([]), [])

    def test_missing_adds_nothing(self) -> None:
        self.assertEqual(parts(rows("5 7", ". .", "6 9", "11 16")), {3: [(0, 1), (1, 1), (2, 1)]})

    def test_amounts_longer_than_a_double_are_compared_exactly(self) -> None:
        tail = "0" * 30
        lines = rows(f"1{tail}.1 1", f"2{tail}.1 1", f"3{tail}.9 2")
        self.assertEqual(parts(lines), {})
        lines[2][0] = Decimal(f"3{tail}.2")
        self.assertEqual(parts(lines), {2: [(0, 1), (1, 1)]})


class FoundColumnsTest(unittest.TestCase):
    def test_a_change_column_is_found_to_the_right_of_its_two(self) -> None:
        lines = rows("90 40 50", "87 60 27", "30 51 -21", ". 10 .")
        self.assertEqual(found_columns(lines), {2: ((0, 1), (1, -1))})

    def test_months_make_quarters_and_quarters_a_half(self) -> None:
        lines = rows(
            "1 2 3 6 4 5 6 15 21", "7 1 1 9 2 2 3 7 16", "3 0 5 8 1 9 9 19 27", "2 2 8 12 0 4 1 5 17"
        )
        plus = {3: (0, 1, 2), 7: (4, 5, 6), 8: (3, 7)}
        expected = {total: tuple((part, 1) for part in parts) for total, parts in plus.items()}
        self.assertEqual(found_columns(lines), expected)

    def test_two_lines_are_not_enough_and_one_contrary_line_is_too_many(self) -> None:
        self.assertEqual(found_columns(rows("90 40 50", "87 60 27")), {})
        self.assertEqual(found_columns(rows("90 40 50", "87 60 27", "30 51 -21", "10 10 11")), {})
