import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.intake.amount_reading import (
    ARABIC,
    COMMA,
    CONVENTIONS,
    POINT,
    Convention,
    of_double,
    read,
    read_amounts,
)
from humble_sum.core.intake.conventions import decided_by, infer
from humble_sum.core.locales import locale
from humble_sum.core.locales.data import tags
from humble_sum.core.printing.figure import print_amount
from tests.making import cases, resolved

NBSP, THIN, NARROW = "\u00a0", "\u2009", "\u202f"


class SpellingsTest(unittest.TestCase):
    """Spellings of one number each, as the trade writes them."""

    def test_with_a_decimal_point(self) -> None:
        self.check(
            POINT,
            {
                "1234.5": "1234.5",
                "1,234.50": "1234.50",
                "12,34,567.89": "1234567.89",
                "123,4567": "1234567",
                "1'234.50": "1234.50",
                "1’234.50": "1234.50",
                f"1{NBSP}234.5": "1234.5",
                "(1,234)": "-1234",
                "( 1,234 )": "-1234",
                "1,234-": "-1234",
                "−1,234": "-1234",
                "–5": "-5",
                "△1,234": "-1234",
                "▲1,234": "-1234",
                "1,234.5 CR": "-1234.5",
                "1,234.5 DR": "1234.5",
                "+5": "5",
                "₹ 5,000": "5000",
                "Rs. 5,000": "5000",
                "USD 5": "5",
                "5 USD": "5",
                "$5": "5",
                "-$5": "-5",
                "$-5": "-5",
                "($5)": "-5",
                "$(5)": "-5",
                "(₹2,64,075.00)": "-264075.00",
                "¥1,234": "1234",
                "2,640.75 US dollars": "2640.75",
                "5 %": "0.05",
                "5%": "0.05",
                "(5.5%)": "-0.055",
                "12.5 bps": "0.00125",
                "1.8×": "1.8",
                "2x": "2",
                "1.2m": "1200000",
                "3.4 cr": "34000000",
                "3.4Cr": "34000000",
                "5 lakh": "500000",
                "5L": "500000",
                "−₹2.64L": "-264000",
                "₹1.5LCr": "1500000000000",
                "2.5 lakh crore": "2500000000000",
                "7.5bn": "7500000000",
                "1.2 million": "1200000",
                "３万": "30000",
                "1.5億": "150000000",
                "１，２３４": "1234",
                "（１２３）": "-123",
                "१,२३४.५": "1234.5",
                "১২,৩৪,৫৬৭": "1234567",
                "\u200e-\u200e5": "-5",
                ".5": "0.5",
                "5.": "5",
            },
        )

    def test_with_a_decimal_comma(self) -> None:
        self.check(
            COMMA,
            {
                "1234,5": "1234.5",
                "1.234,50": "1234.50",
                "-1.234,56": "-1234.56",
                "1 234,5": "1234.5",
                f"1{THIN}234,5": "1234.5",
                f"1{NARROW}234{NARROW}567,5": "1234567.5",
                "1'234,50": "1234.50",
                "2.640,75 €": "2640.75",
                "2 640,75 kr": "2640.75",
                "R 640,75": "640.75",
                "R640,75": "640.75",
                "18,7 %": "0.187",
                f"1,5{NBSP}Mio.{NBSP}€": "1500000",
                "3 Mrd.": "3000000000",
                "2 Tsd.": "2000",
            },
        )

    def test_every_locale_of_cldr_is_read_as_it_writes(self) -> None:
        head, *rows = cases("locale_numbers")
        expected = [Decimal(value) for value in head[2:]]
        for tag, system, *texts in rows:
            if tag == "tok":  # groups in twos, which would make numbers of two numbers side by side
                continue
            with self.subTest(tag=tag, system=system):
                convention = infer(texts).convention
                self.assertEqual([read(text, convention).amount for text in texts], expected, texts)

    def test_columns_as_people_spell_them(self) -> None:
        for case in cases("spellings"):
            texts, expected = zip(*case["cells"], strict=True)
            convention = infer(texts).convention
            for text, amount in zip(texts, expected, strict=True):
                with self.subTest(locale=case["locale"], text=text):
                    reading = read(text, convention)
                    self.assertEqual(reading.amount, Decimal(amount), reading.why)

    def test_digits_and_marks_that_are_rarely_met(self) -> None:
        self.check(
            POINT,
            {
                "一,二三四.五": "1234.5",
                "5\u2030": "0.005",
                "\U00010d41\U00010d42": "12",
                "1\u060c234.5": "1234.5",
            },
        )
        self.assertEqual(read("三").kind, "text")  # one Han digit is a word

    def test_with_arabic_marks_and_digits(self) -> None:
        self.check(ARABIC, {"٣٬٤٥٦٫٧": "3456.7", "\u061c-٥": "-5", "۱۲٫۵": "12.5"})

    def check(self, convention: Convention, spellings: dict[str, str]) -> None:
        for text, value in spellings.items():
            with self.subTest(text=text):
                reading = read(text, convention)
                self.assertEqual((reading.kind, reading.amount), ("amount", Decimal(value)), reading.why)

    def test_what_came_with_the_number_is_kept(self) -> None:
        reading = read("(₹2.64L)")
        self.assertEqual(
            (reading.currency, reading.power, reading.sign, reading.decimals), ("INR", 5, "brackets", 2)
        )
        self.assertEqual(read("12.5 bps").form, "basis_points")
        self.assertTrue(read("12,34,567").grouped)


class LookAlikesTest(unittest.TestCase):
    def test_zeros_and_missing(self) -> None:
        for text in ("–", "-", "—", "nil", "NIL", "0", "0.00", "(0)", "₹0"):
            self.assertEqual((read(text).kind, read(text).amount), ("zero", Decimal(0)), text)
        for text in ("", "  ", NBSP, "n/a", "N/A", "n.m.", "…"):
            self.assertEqual((read(text).kind, read(text).amount), ("missing", None), text)

    def test_identifiers_and_other_text_never_become_numbers(self) -> None:
        for text in (
            "0012",
            "00",
            "+44 20 7946 0958",
            "+442079460958",
            "12-34-56",
            "31/03/2026",
            "14:30",
            "A12",
            "12A",
            "Q1",
            "R2",
            "K5",
            "1e5",
            "1,2,3",
            "1,23,4",
            "1,,234",
            "1.2.3",
            "--5",
            "(5",
            "((5))",
            "-(5)-",
            "5 5",
            "₹",
            "%",
            "Fuel",
            "NaN",
            "Infinity",
            "1 234 5",
        ):
            with self.subTest(text=text):
                self.assertEqual(read(text).kind, "text")

    def test_errors_of_a_workbook_are_named(self) -> None:
        for text in ("#REF!", "#DIV/0!", "#N/A", "#VALUE!", "#NAME?"):
            self.assertIn("error of the workbook", read(text).why[0])

    def test_text_that_looks_like_a_number_says_why_it_is_not(self) -> None:
        self.assertIn("leading zero", read("0012").why[0])
        self.assertIn("plus sign", read("+442079460958").why[0])
        self.assertIn("not grouped as a number with a decimal point", read("1,23,4").why[0])

    @given(st.text(max_size=12))
    def test_any_text_at_all_is_read_as_something(self, text: str) -> None:
        self.assertIn(read(text).kind, ("amount", "zero", "missing", "text"))


class RoundTripTest(unittest.TestCase):
    """What core prints at full precision in any locale, it reads back."""

    @settings(max_examples=400)
    @given(
        st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**18), max_value=10**18, places=4),
        st.fixed_dictionaries(
            {
                "locale": st.sampled_from(["en-IN", "en-US", "de-DE"]),
                "form": st.sampled_from(["amount", "number", "percent"]),
                "currency": st.sampled_from([None, "INR", "EUR", "USD", "KWD", "JPY"]),
                "money_sign": st.sampled_from(["symbol", "code", "name", "none"]),
                "scale": st.sampled_from(
                    ["ones", "thousands", "lakhs", "millions", "crores", "billions", "lakh_crores"]
                ),
                "scale_word": st.sampled_from(["short", "full"]),
                "grouping": st.sampled_from(["locale", "threes", "lakhs", "fours", "none"]),
                "negative": st.sampled_from(["minus", "trailing_minus", "brackets", "cr", "triangle"]),
                "zero": st.sampled_from(["figure", "dash", {"word": "nil"}]),
                "decimals": st.just({"fixed": 16}),
            }
        ),
    )
    def test_printed_text_reads_back_exactly(self, amount: Decimal, clauses: dict[str, Any]) -> None:
        rule = resolved(clauses)
        mark = locale(rule.locale).decimal
        own = next(each for each in CONVENTIONS if each.decimal == mark)
        reading = read(print_amount(amount, rule).text, own)
        self.assertEqual(reading.amount, amount, reading)

    @settings(max_examples=400)
    @given(
        st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**18), max_value=10**18, places=4),
        st.sampled_from(sorted(tags())),
        st.sampled_from(["locale", "latin", "native"]),
        st.sampled_from(["number", "percent", "amount"]),
        st.sampled_from(["minus", "brackets"]),
    )
    def test_every_locale_of_cldr_is_read_back(
        self, amount: Decimal, tag: str, digits: Any, form: str, negative: str
    ) -> None:
        if tag == "tok":  # groups in twos, which would make numbers of two numbers side by side
            return
        clauses = {"locale": tag, "digits": digits, "form": form, "negative": negative, "currency": "EUR"}
        rule = resolved(clauses | {"money_sign": "code", "decimals": {"fixed": 8}})
        of = locale(tag, digits)
        # French in Switzerland writes money with a point, and other numbers with a comma.
        mark = of.money_decimal if form == "amount" else of.decimal
        marks = {".": POINT, ",": COMMA}.get(mark, ARABIC)
        printed = print_amount(amount, rule).text
        self.assertEqual(read(printed, marks).amount, amount, printed)


class ColumnTest(unittest.TestCase):
    CELLS = st.one_of(
        st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**9), max_value=10**9, places=2).map(
            "{:,f}".format
        ),
        st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**9), max_value=10**9, places=3).map(
            str
        ),
        st.text(alphabet="0123456789.,-() '₹%", max_size=10),
        st.sampled_from(["(1,234)", "12,34,567.89", "0", "", "–", "0012", "1,23,4", "5 lakh", "0,5"]),
    )

    @settings(max_examples=200)
    @given(st.lists(CELLS, max_size=20), st.sampled_from([POINT, COMMA]))
    def test_reading_a_column_is_reading_each_cell(self, cells: list[str], convention: Convention) -> None:
        amounts, others = read_amounts(cells, convention)
        for place, cell in enumerate(cells):
            alone = read(cell, convention)
            self.assertEqual(amounts[place], alone.amount, cell)
            if place in others:
                self.assertEqual(others[place], alone)
            else:
                self.assertEqual(alone.kind, "amount", cell)


class InferringTest(unittest.TestCase):
    def test_one_cell_decides_where_its_marks_do(self) -> None:
        for text, convention in {
            "1,234.5": POINT,
            "1.234,5": COMMA,
            "1.234.567": COMMA,
            "1,234,567": POINT,
            "12,34,567": POINT,
            "1234,567": COMMA,
            "0,123": COMMA,
            "1,5": COMMA,
            "1.50": POINT,
            "(1.234,5)": COMMA,
            "1 234,5": COMMA,
            "٣٫٧": ARABIC,
            "1,234": None,
            "1.234": None,
            "1234": None,
            "Fuel": None,
        }.items():
            with self.subTest(text=text):
                self.assertEqual(decided_by(text), convention)

    def test_the_column_settles_an_ambiguous_cell_and_says_why(self) -> None:
        found = infer(["1,234", "2,5", "17", "–", "Fuel"])
        self.assertEqual((found.convention, found.ambiguous), (COMMA, ()))
        self.assertEqual(found.reasons, ("1 cell has a decimal comma, such as 2,5",))
        self.assertEqual(read("1,234", found.convention).amount, Decimal("1.234"))
        self.assertEqual((found.agree, found.numbers), (4, 4))

    def test_a_column_that_settles_nothing_names_the_cells(self) -> None:
        found = infer(["1,234", "5", "7,890"])
        self.assertEqual((found.convention, found.ambiguous), (POINT, (0, 2)))
        self.assertIn("2 cells could be either", found.reasons[0])
        self.assertEqual(infer(["1,234"], hint=COMMA).convention, COMMA)

    def test_dissent_is_reported_and_dissenting_cells_need_a_look(self) -> None:
        found = infer(["1,234.5", "2,345.5", "1.234,5", "0012"])
        self.assertEqual((found.convention, found.agree, found.numbers), (POINT, 2, 4))
        self.assertIn("1 cell has a decimal comma instead", found.reasons)
        self.assertEqual(found.doubtful, (2, 3))

    def test_labels_are_not_figures(self) -> None:
        self.assertFalse(infer(["Fuel", "Crew", "Note 3", "Route 12"]).numeric)
        self.assertTrue(infer(["1", "2", "n/a", ""]).numeric)
        self.assertFalse(infer([]).numeric)


class DoubleTest(unittest.TestCase):
    def test_doubles_become_their_shortest_decimal_or_are_snapped_and_flagged(self) -> None:
        self.assertEqual(of_double(0.1), (Decimal("0.1"), False))
        self.assertEqual(of_double(0.1 + 0.2), (Decimal("0.3"), True))
        self.assertEqual(of_double(277037049.75), (Decimal("277037049.75"), False))
        self.assertEqual(of_double(1e22), (Decimal("1e22"), False))
        for value in (float("nan"), float("inf")):
            with self.assertRaises(ValueError):
                of_double(value)

    @given(st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**9), max_value=10**9, places=4))
    def test_decimals_of_up_to_fifteen_digits_survive_a_double(self, amount: Decimal) -> None:
        self.assertEqual(of_double(float(amount)), (amount, False))
