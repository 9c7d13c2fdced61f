"""Figures in words, read back by a reader of our own."""

import unittest
from decimal import Decimal
from typing import Literal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.locales.number_words import SMALL, TENS, in_words

SIZES = {
    "hundred": 10**2,
    "thousand": 10**3,
    "lakh": 10**5,
    "million": 10**6,
    "crore": 10**7,
    "billion": 10**9,
    "trillion": 10**12,
}


def heard(words: str) -> Decimal:
    """The number that somebody who hears these words writes down."""
    sign = -1 if words.startswith("minus ") else 1
    whole, _, decimals = words.removeprefix("minus ").partition(" point ")
    digits = "".join(str(SMALL.index(word)) for word in decimals.split())
    return sign * Decimal(f"{heard_whole(whole.replace(' and ', ' ').split())}.{digits or 0}")


def heard_whole(words: list[str]) -> int:
    """The largest size splits what it multiplies from what is added to it."""
    sizes = [(SIZES[word], n) for n, word in enumerate(words) if word in SIZES]
    if not sizes:
        return sum(heard_small(word) for word in words)
    size = max(size for size, _ in sizes)
    place = max(n for each, n in sizes if each == size)
    if words[place - 1 : place + 1] == ["lakh", "crore"]:
        return heard_whole(words[: place - 1]) * 10**12 + heard_whole(words[place + 1 :])
    return heard_whole(words[:place]) * size + heard_whole(words[place + 1 :])


def heard_small(word: str) -> int:
    ten, _, one = word.partition("-")
    if ten in SMALL:
        return SMALL.index(ten)
    return TENS.index(ten) * 10 + (SMALL.index(one) if one else 0)


class WordsTest(unittest.TestCase):
    @settings(max_examples=400)
    @given(
        st.decimals(min_value=-(10**11), max_value=10**11, places=3),
        st.sampled_from(["international", "indian"]),
    )
    def test_what_is_said_is_heard_as_the_amount(
        self, amount: Decimal, system: Literal["international", "indian"]
    ) -> None:
        self.assertEqual(heard(in_words(amount, system)), amount)

    def test_sizes_are_those_of_the_scale_asked_for(self) -> None:
        for amount, indian, international in (
            ("100000", "one lakh", "one hundred thousand"),
            (
                "12500000.5",
                "one crore twenty-five lakh point five",
                "twelve million five hundred thousand point five",
            ),
            ("-4000000000000", "minus four lakh crore", "minus four trillion"),
            ("0", "zero", "zero"),
            ("99", "ninety-nine", "ninety-nine"),
            ("100", "one hundred", "one hundred"),
            ("101", "one hundred and one", "one hundred and one"),
            ("1001", "one thousand and one", "one thousand and one"),
            ("1099", "one thousand and ninety-nine", "one thousand and ninety-nine"),
            ("1100", "one thousand one hundred", "one thousand one hundred"),  # from a hundred on, no "and"
        ):
            self.assertEqual(in_words(Decimal(amount), "indian"), indian)
            self.assertEqual(in_words(Decimal(amount), "international"), international)
