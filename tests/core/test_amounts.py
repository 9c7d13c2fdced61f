import unittest
from decimal import Decimal, getcontext
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.amounts import amount_text, of_units, read_amount, scaled, signed, total

decimals = st.decimals(
    allow_nan=False, allow_infinity=False, min_value=Decimal("-1e40"), max_value=Decimal("1e40"), places=8
)


class ReadingTest(unittest.TestCase):
    def test_takes_plain_and_exponent_notation(self) -> None:
        for text, value in {
            "12.50": "12.50",
            "-0.01": "-0.01",
            "+7": "7",
            ".5": "0.5",
            "5.": "5",
            "1e3": "1000",
            " 42 ": "42",
        }.items():
            with self.subTest(text=text):
                self.assertEqual(read_amount(text), Decimal(value))

    def test_refuses_what_is_not_a_decimal_and_says_what_it_was(self) -> None:
        for value in ("NaN", "Infinity", "1,234", "12 000", "", "abc", "1e400000", "٣", "0x10", "1_000"):
            with self.subTest(value=value), self.assertRaises(ValueError) as caught:
                read_amount(value)
            self.assertIn(value, str(caught.exception))

    def test_refuses_binary_numbers_and_booleans(self) -> None:
        values: tuple[object, ...] = (0.1, float("nan"), True, None, [], {})
        for value in values:
            with self.subTest(value=value), self.assertRaises(ValueError):
                read_amount(value)

    def test_refuses_more_digits_than_it_holds_rather_than_rounding(self) -> None:
        self.assertEqual(read_amount("9" * 60), Decimal("9" * 60))
        for text in ("9" * 61, "0." + "1" * 61, "1e60", "1e-61"):
            with self.subTest(text=text), self.assertRaises(ValueError):
                read_amount(text)

    def test_a_negative_zero_is_zero(self) -> None:
        self.assertEqual(amount_text(read_amount("-0.00")), "0")

    @given(decimals)
    def test_text_reads_back_equal(self, amount: Decimal) -> None:
        self.assertEqual(read_amount(amount_text(amount)), amount)


class ArithmeticTest(unittest.TestCase):
    def test_sums_beyond_the_default_context_are_exact(self) -> None:
        big = read_amount("123456789012345678901234567890.01")
        self.assertGreater(len(big.as_tuple().digits), getcontext().prec)
        self.assertEqual(
            amount_text(total([big, read_amount("0.001")])), "123456789012345678901234567890.011"
        )

    @given(st.lists(decimals, max_size=8))
    def test_totals_equal_the_sum_of_fractions(self, amounts: list[Decimal]) -> None:
        self.assertEqual(Fraction(total(amounts)), sum(map(Fraction, amounts), Fraction()))

    @given(decimals, st.sampled_from([1, -1]))
    def test_signing_loses_no_digit(self, amount: Decimal, sign: int) -> None:
        self.assertEqual(Fraction(signed(sign, amount)), sign * Fraction(amount))

    @given(st.integers(-(10**45), 10**45), st.integers(-12, 12))
    def test_units_and_scaling_are_exact(self, units: int, exponent: int) -> None:
        amount = of_units(units, exponent)
        self.assertEqual(Fraction(amount), units * Fraction(10) ** exponent)
        self.assertEqual(Fraction(scaled(amount, -exponent)), units)
