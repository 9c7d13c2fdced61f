import unittest
from decimal import Decimal
from fractions import Fraction
from math import ceil, floor
from typing import get_args

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.printing.rounding import Mode, position, round_many, round_units, rounded

amounts = st.decimals(
    allow_nan=False, allow_infinity=False, min_value=Decimal("-1e33"), max_value=Decimal("1e33"), places=6
)
near_ties = st.integers(-500, 500).map(lambda n: Decimal(n) / 4)


def reference(x: Fraction, mode: Mode) -> int:
    """Each mode from its definition, with fractions."""
    low, high = floor(x), ceil(x)
    nearer_zero, farther = (low, high) if x > 0 else (high, low)
    match mode:
        case "up":
            return high
        case "down":
            return low
        case "toward_zero":
            return nearer_zero
        case "away":
            return farther
    if x - low != high - x:
        return low if x - low < high - x else high
    even = low if low % 2 == 0 else high
    return {"half_up": farther, "half_down": nearer_zero, "half_even": even}[mode]


class RoundingTest(unittest.TestCase):
    @given(st.one_of(amounts, near_ties), st.integers(-6, 12), st.sampled_from(get_args(Mode)))
    def test_every_mode_agrees_with_its_definition(self, amount: Decimal, exponent: int, mode: Mode) -> None:
        scaled = Fraction(amount) / Fraction(10) ** exponent
        self.assertEqual(round_units(position(amount, exponent), mode), reference(scaled, mode))

    @given(amounts, st.integers(-6, 12))
    def test_a_position_is_the_amount_again(self, amount: Decimal, exponent: int) -> None:
        where = position(amount, exponent)
        self.assertTrue(0 <= where.over < where.parts)
        units = where.floor + Fraction(where.over, where.parts)
        self.assertEqual(units * Fraction(10) ** exponent, Fraction(amount))

    @given(
        st.lists(st.none() | st.integers(-(10**9), 10**9) | st.integers(-25, 25)),
        st.integers(-2, 4),
        st.sampled_from(get_args(Mode)),
        st.sampled_from([1, 5, 25]),
    )
    def test_many_round_as_each_does(
        self, parts: list[int | None], shift: int, mode: Mode, multiple: int
    ) -> None:
        self.assertEqual(
            list(round_many(parts, shift, mode, multiple)),
            [None if n is None else rounded(position(Decimal(n), shift), mode, multiple) for n in parts],
        )

    @given(amounts, st.integers(-6, 12), st.integers(-3, 3))
    def test_drift_is_printed_less_exact(self, amount: Decimal, exponent: int, off: int) -> None:
        where = position(amount, exponent)
        expected = where.floor + off - Fraction(amount) / Fraction(10) ** exponent
        self.assertEqual(Fraction(where.drift(where.floor + off)), expected)

    def test_rounds_once_from_the_exact_amount(self) -> None:
        # 2.449 to one decimal is 2.4; through two decimals it would have become 2.5.
        self.assertEqual(round_units(position(Decimal("2.449"), -1), "half_up"), 24)
