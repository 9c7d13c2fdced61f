"""Every locale of CLDR, not only those with solved cases: what has to hold whatever its marks are."""

import unicodedata
import unittest
from datetime import date, time
from decimal import Decimal
from typing import Any, Literal

from humble_sum.core.locales import locale, resolve
from humble_sum.core.locales.data import tags
from humble_sum.core.locales.dates import date_text, month_text, time_text
from humble_sum.core.printing.batch import print_texts
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.scaling import caption_word, sizes
from tests.making import resolved

AMOUNT = Decimal("1234567.891")
DAY = date(2026, 3, 31)
WORDS: tuple[Literal["short", "full"], ...] = ("short", "full")
LENGTHS: tuple[Literal["full", "long", "medium", "short"], ...] = ("full", "long", "medium", "short")


def printed(amount: Decimal, tag: str, **clauses: Any) -> str:
    return print_amount(amount, resolved({"locale": tag} | clauses)).text


def digits_of(text: str) -> str:
    """The digits of a text, of whatever script, as plain ones; Chinese ones are letters by category."""
    values = (unicodedata.numeric(character, -1) for character in text)
    return "".join(str(int(value)) for value in values if 0 <= value <= 9 and value == int(value))


class EveryLocaleTest(unittest.TestCase):
    def each(self) -> list[str]:
        found = sorted(tags())
        self.assertGreater(len(found), 700)
        return found

    def test_digits_are_all_there_and_in_order(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                self.assertEqual(digits_of(printed(AMOUNT, tag, decimals={"fixed": 3})), "1234567891")
                percent = printed(Decimal("0.1234"), tag, form="percent", decimals={"fixed": 1})
                self.assertEqual(digits_of(percent), "123")
                plain = printed(Decimal("12.34"), tag, form="number", decimals={"fixed": 1})
                self.assertNotEqual(percent, plain)

    def test_words_for_sizes_are_of_the_size_they_say(self) -> None:
        """A pattern's half for negatives counts for nothing: 1,500 is elfu 1.5 in Swahili, not elfu 15."""
        for tag in self.each():
            with self.subTest(tag):
                for length in WORDS:
                    for size in sizes(tag, length):
                        self.assertGreaterEqual(size.power, 3)
                        for text in size.patterns.values():
                            self.assertTrue(text.count("{}") == 1 and not set(";0") & set(text), text)
                    word = {"scale": "fit", "scale_word": length, "decimals": {"up_to": 1}}
                    large = sizes(tag, length)[-1].first
                    self.assertEqual(digits_of(printed(Decimal(15).scaleb(large - 1), tag, **word)), "15")

    def test_money_has_the_group_mark_of_money_and_numbers_that_of_numbers(self) -> None:
        for tag in ("de-AT", "fr-CH"):
            of = locale(tag)
            self.assertNotEqual((of.money_group, of.money_decimal), (of.group, of.decimal))
            money = resolved(
                {"locale": tag, "currency": "EUR", "money_shown": "every", "decimals": {"fixed": 1}}
            )
            number = resolved({"locale": tag, "form": "number", "decimals": {"fixed": 1}})
            for clauses, group, point in (
                (money, of.money_group, of.money_decimal),
                (number, of.group, of.decimal),
            ):
                text = f"1{group}234{group}567{point}9"
                self.assertIn(text, print_amount(AMOUNT, clauses).full_text)
                self.assertIn(text, print_texts([AMOUNT], clauses)[0])

    def test_an_amount_that_rounds_up_to_the_largest_size_is_said_in_it(self) -> None:
        fit = {"scale": "fit", "scale_word": "short", "decimals": {"fixed": 1}}
        self.assertEqual(
            printed(Decimal("999960000000"), "en", **fit), printed(Decimal(10) ** 12, "en", **fit)
        )

    def test_a_lettered_currency_stands_off_from_the_digits(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                for amount in (AMOUNT, -AMOUNT):
                    text = printed(amount, tag, currency="KWD", money_sign="code", decimals={"fixed": 2})
                    place = text.index("KWD")
                    beside = text[max(place - 1, 0) : place] + text[place + 3 : place + 4]
                    self.assertFalse(any(unicodedata.category(each) == "Nd" for each in beside), text)

    def test_dates_lack_nothing_of_their_patterns(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                for length in LENGTHS:
                    text = date_text(DAY, tag, length=length)
                    self.assertNotRegex(text, r"\s\s")
                    self.assertIn("31", digits_of(text))

    def test_a_minus_is_one_that_typesetters_would_use(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                text = printed(-AMOUNT, tag)
                self.assertNotIn("-", text)
                self.assertTrue(locale(tag).minus in text and len(text) > len(printed(AMOUNT, tag)), text)

    def test_brackets_hold_the_positive_print(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                clauses = {"currency": "EUR", "negative": "brackets"}
                self.assertEqual(printed(-AMOUNT, tag, **clauses), f"({printed(AMOUNT, tag, **clauses)})")

    def test_native_and_latin_digits_say_the_same(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                latin = printed(AMOUNT, tag, digits="latin", decimals={"fixed": 2})
                native = printed(AMOUNT, tag, digits="native", decimals={"fixed": 2})
                self.assertEqual(digits_of(latin), digits_of(native))
                self.assertTrue(all(c.isascii() for c in latin if c.isdigit()), latin)

    def test_groups_are_even_but_for_the_first(self) -> None:
        for tag in self.each():
            of = locale(tag, "latin")
            if not of.grouping:
                continue
            with self.subTest(tag):
                text = printed(Decimal("123456789012"), tag, digits="latin")
                if of.group not in text:
                    continue
                *others, last = [len(group) for group in text.split(of.group)]
                self.assertEqual(last, of.grouping[0])
                self.assertEqual(set(others[1:]), {of.grouping[-1]})
                self.assertLessEqual(others[0], of.grouping[-1])

    def test_a_currency_stands_by_its_sign_once(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                code = printed(AMOUNT, tag, currency="CHF", money_sign="code")
                self.assertEqual(code.count("CHF"), 1, code)
                bare = printed(AMOUNT, tag, currency="CHF", money_sign="none")
                self.assertNotIn("CHF", bare)
                self.assertEqual(digits_of(bare), digits_of(code))

    def test_dates_have_their_day_and_year_and_times_their_minutes(self) -> None:
        for tag in self.each():
            with self.subTest(tag):
                text = date_text(DAY, tag)
                self.assertIn("31", digits_of(text), text)
                self.assertIn("2026", digits_of(text), text)
                self.assertTrue(digits_of(time_text(time(14, 5), tag)).endswith("5"))
                months = [month_text(month, tag) for month in range(1, 13)]
                self.assertEqual((len(set(months)), "" in months), (12, False))

    def test_a_clock_of_twelve_hours_says_twelve_at_midnight_and_at_noon(self) -> None:
        moments = (time(0, 0), time(0, 1), time(11, 59), time(12, 0), time(12, 1), time(23, 59))
        for tag, space in (("en-US", "\u202f"), ("hi-IN", " ")):
            texts = [time_text(moment, tag).lower() for moment in moments]
            self.assertEqual(
                texts,
                [
                    f"{text}{space}{half}"
                    for text, half in (
                        *(("12:00", "am"), ("12:01", "am"), ("11:59", "am")),
                        *(("12:00", "pm"), ("12:01", "pm"), ("11:59", "pm")),
                    )
                ],
            )

    def test_a_clock_of_twentyfour_hours_begins_with_nought(self) -> None:
        for tag, text in (("en-GB", "00:00"), ("ja-JP", "0:00"), ("de-DE", "00:00")):
            self.assertEqual(time_text(time(0, 0), tag), text)

    def test_a_caption_has_a_word_for_every_scale(self) -> None:
        for tag in self.each():
            for scale in ("thousands", "lakhs", "millions", "crores", "billions"):
                self.assertTrue(caption_word(tag, scale), (tag, scale))

    def test_a_region_of_no_data_falls_back_to_its_language(self) -> None:
        for language in ("de", "fr", "hi", "ar", "sv"):
            found = resolve(f"{language}-XZ")
            self.assertEqual((found.data.split("-")[0], found.exact), (language, False))
            self.assertEqual(
                digits_of(printed(AMOUNT, f"{language}-XZ", decimals={"fixed": 3})), "1234567891"
            )
