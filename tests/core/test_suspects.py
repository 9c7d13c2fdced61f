"""Slips that explain a source break."""

import unittest
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.proof.break_causes import suspects
from humble_sum.core.proof.statement_proof import prove
from tests.making import pack, statement


def said(amounts: dict[str, list[str | None]], parts: list[str], total: str) -> list[str]:
    """The suspects of one total that states an amount of its own."""
    of = statement(amounts, {"t": parts}, columns=("now",), stated={"t": [total]})
    proof = prove(pack(of), of)
    (check,) = proof.breaks
    return suspects(proof, check)


AMOUNTS: dict[str, list[str | None]] = {"a": ["1250.40"], "b": ["300.25"], "c": ["75.10"]}


class SuspectsTest(unittest.TestCase):
    def test_a_turned_sign(self) -> None:
        found = said(AMOUNTS, ["a", "b", "c"], "1025.25")
        self.assertEqual(found, ["the sign of B, Now (300.25) may be turned"])

    def test_a_line_left_out_or_one_too_many(self) -> None:
        self.assertEqual(said(AMOUNTS, ["a", "b"], "1625.75"), ["C, Now (75.10) may have to be counted here"])
        self.assertEqual(
            said(AMOUNTS, ["a", "b"], "1475.55"), ["C, Now (75.10) may have to be taken away here"]
        )
        self.assertIn(
            "C, Now (75.10) may not belong here, or be counted twice",
            said(AMOUNTS, ["a", "b", "c"], "1550.65"),
        )

    def test_digits_that_changed_places_and_a_point_that_slipped(self) -> None:
        self.assertIn(
            "two digits of A, Now may have changed places: 1,250.40 for 1,520.40",
            said(AMOUNTS, ["a", "b", "c"], "1895.75"),
        )
        self.assertIn(
            "the decimal point of B, Now may have slipped: 300.25 for 3,002.50",
            said(AMOUNTS, ["a", "b", "c"], "4328.00"),
        )

    @settings(max_examples=100)
    @given(
        st.lists(st.integers(1_000, 99_999), min_size=2, max_size=5, unique=True),
        st.sampled_from(["turned", "left out", "swapped", "slipped"]),
        st.data(),
    )
    def test_a_slip_that_was_made_is_among_those_suspected(
        self, cents: list[int], slip: str, data: st.DataObject
    ) -> None:
        right = [Decimal(n) / 100 for n in cents]
        total = sum(right, Decimal(0))
        place = data.draw(st.integers(0, len(right) - 1), "place")
        wrong, parts = list(right), [f"l{n}" for n in range(len(right))]
        if slip == "turned":
            wrong[place] = -right[place]
        elif slip == "left out":
            parts.pop(place)
        elif slip == "slipped":
            wrong[place] = right[place] * 10
        else:
            digits = str(cents[place])
            wrong[place] = Decimal(int(digits[0] + digits[2] + digits[1] + digits[3:])) / 100
        amounts: dict[str, list[str | None]] = {f"l{n}": [str(amount)] for n, amount in enumerate(wrong)}
        if wrong == right and slip != "left out":
            return  # two equal digits that changed places
        found = said(amounts, parts, str(total))
        words = {"turned": "turned", "left out": "counted", "swapped": "changed places", "slipped": "slipped"}
        self.assertTrue(any(f"L{place}, Now" in each and words[slip] in each for each in found), found)

    def test_what_no_slip_explains_is_left_alone(self) -> None:
        self.assertEqual(said(AMOUNTS, ["a", "b", "c"], "1625.76"), [])
