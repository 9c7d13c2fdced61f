import unittest
from decimal import Decimal
from typing import Any, get_args

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.amounts import EXACT
from humble_sum.core.locales import locale
from humble_sum.core.printing.batch import Texts, print_texts
from humble_sum.core.printing.clause_values import Grouping, Negative, RoundsAway, Scale
from humble_sum.core.printing.dressing import dressed
from humble_sum.core.printing.figure import exact_text, plain_digits, print_amount, scaled_text
from humble_sum.core.printing.frame import frame_of
from humble_sum.core.printing.printer import Printer
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import Mode
from tests.core.drawing import any_rule, anything
from tests.making import resolved

amounts = st.decimals(
    allow_nan=False, allow_infinity=False, min_value=Decimal("-1e20"), max_value=Decimal("1e20"), places=4
)
MARKS = {"en-IN": (",", "."), "en-US": (",", "."), "de-DE": (".", ",")}


@st.composite
def rules(draw: st.DrawFn) -> ResolvedClauses:
    return resolved(
        {
            "currency": draw(st.sampled_from([None, "INR", "JPY", "KWD"])),
            "money_shown": draw(st.sampled_from(["every", "caption"])),
            "scale": draw(st.sampled_from(get_args(Scale)[:-1])),
            "scale_word": draw(st.sampled_from(["caption", "short", "full", "none"])),
            "decimals": draw(st.one_of(st.just("currency"), st.integers(0, 6).map(lambda n: {"fixed": n}))),
            "rounding": draw(st.sampled_from(get_args(Mode))),
            "grouping": draw(st.sampled_from(get_args(Grouping))),
            "negative": draw(st.sampled_from(get_args(Negative))),
            "rounds_away": draw(st.sampled_from(get_args(RoundsAway))),
            "locale": draw(st.sampled_from(list(MARKS))),
        }
    )


def digits_of(text: str, rule: ResolvedClauses) -> Decimal:
    """The size of a printed figure, read back with nothing but its digits and decimal mark."""
    _, decimal = MARKS[rule.locale]
    kept = [c for c in text if c.isdigit() or c == decimal]
    return Decimal("".join(kept).replace(decimal, ".").strip("."))


class PropertyTest(unittest.TestCase):
    @given(amounts, rules())
    def test_what_is_printed_reads_back_as_the_units(self, amount: Decimal, rule: ResolvedClauses) -> None:
        bare = rule.at(scale_word="none", money_shown="caption")
        printed = print_amount(amount, bare)
        assert printed.units is not None
        if printed.kind == "amount":
            self.assertEqual(
                digits_of(printed.text, bare), Decimal(abs(printed.units)).scaleb(-bare.decimal_places)
            )

    @given(amounts, rules())
    def test_printed_is_within_a_unit_of_exact(self, amount: Decimal, rule: ResolvedClauses) -> None:
        printed = print_amount(amount, rule)
        assert printed.units is not None
        self.assertLess(
            abs(Decimal(printed.units).scaleb(printed.exponent) - amount), Decimal(10) ** printed.exponent
        )

    @given(amounts, rules())
    def test_a_negative_can_always_be_told_from_a_positive(
        self, amount: Decimal, rule: ResolvedClauses
    ) -> None:
        printed, opposite = print_amount(amount, rule), print_amount(-amount, rule)
        symmetric = rule.rounding not in ("up", "down")
        if printed.kind == "amount" and symmetric and rule.negative != "unsigned":
            self.assertNotEqual(printed.text, opposite.text)

    @given(amounts, rules())
    def test_the_hanging_part_is_the_end_of_the_text(self, amount: Decimal, rule: ResolvedClauses) -> None:
        printed = print_amount(amount, rule)
        self.assertTrue(printed.text.endswith(printed.hang))

    @given(amounts, rules())
    def test_revealing_and_less_than_never_print_a_zero(self, amount: Decimal, rule: ResolvedClauses) -> None:
        printed = print_amount(amount, rule)
        if printed.kind == "rounds_away" and rule.rounds_away in ("reveal", "less_than"):
            self.assertTrue(any(mark in printed.text for mark in "123456789"))

    @given(amounts)
    def test_exact_text_keeps_every_digit(self, amount: Decimal) -> None:
        rule = ResolvedClauses(
            currency="INR", scale="crores", locale="en-IN", zero="dash", negative="brackets"
        )
        self.assertEqual(digits_of(exact_text(amount, rule), rule), abs(amount))

    @given(amounts, st.sampled_from(get_args(Scale)[:-1]))
    def test_the_scaled_amount_is_not_rounded(self, amount: Decimal, scale: Any) -> None:
        rule = ResolvedClauses(scale=scale)
        self.assertEqual(digits_of(scaled_text(amount, rule), rule), abs(amount.scaleb(-rule.power)))

    def test_what_is_revealed_keeps_its_plus(self) -> None:
        clauses = ResolvedClauses(rounds_away="reveal", plus="always")
        self.assertEqual(print_amount(Decimal("0.001"), clauses).text, "+0.001")
        self.assertEqual(print_amount(Decimal("-0.001"), clauses).text, "\u22120.001")
        self.assertEqual(print_amount(Decimal("0"), clauses).text, "0")


class BulkTest(unittest.TestCase):
    @given(st.lists(st.one_of(st.none(), amounts)), rules())
    def test_many_at_once_print_as_each_does(self, many: list[Decimal | None], rule: ResolvedClauses) -> None:
        self.assertEqual(print_texts(many, rule), [print_amount(amount, rule).full_text for amount in many])

    @settings(max_examples=400)
    @given(st.lists(anything, max_size=6), any_rule())
    def test_every_clause_prints_alike_at_once_one_by_one_and_by_a_printer(
        self, many: list[Decimal | None], rule: ResolvedClauses
    ) -> None:
        each = [print_amount(amount, rule).full_text for amount in many]
        self.assertEqual(print_texts(many, rule), each)
        for exponent in (-3, 2):
            counts = [None if amount is None else EXACT.scaleb(amount, -exponent) for amount in many]
            self.assertEqual(Texts(rule, exponent).many(counts), each)
        printer = Printer(rule)
        self.assertEqual([printer(amount) for amount in many], each)
        self.assertEqual([shown.text for shown in printer.show(many)], each)

    @given(any_rule(), st.integers(-(10**12), 10**12), st.integers(0, 6))
    @settings(max_examples=300)
    def test_a_frame_stands_around_digits_as_they_are_dressed_one_by_one(
        self, rule: ResolvedClauses, units: int, short: int
    ) -> None:
        frame = frame_of(rule)
        units //= 10**short
        if frame is None or not units:
            return
        digits = plain_digits(abs(units), rule.exponent, rule)
        signed = "minus" if units < 0 else "plus" if rule.plus == "always" else ""
        text, hang = dressed(digits, "", signed, rule, locale(rule.locale, rule.digits), True, "either")
        around = frame.minus if units < 0 else frame.plain
        self.assertEqual((around.before + frame.write(abs(units)) + around.after, around.hang), (text, hang))

    @given(amounts, st.sampled_from(["mr-IN", "es-ES", "de-CH", "nl-NL", "ar-EG", "sv-SE", "tr-TR"]))
    def test_in_other_locales_too(self, amount: Decimal, tag: str) -> None:
        others: tuple[dict[str, Any], ...] = ({}, {"form": "percent"}, {"currency": "EUR"})
        for more in others:
            rule = resolved({"locale": tag, "zero": "dash", "decimals": {"fixed": 2}} | more)
            self.assertEqual(print_texts([amount], rule), [print_amount(amount, rule).full_text])


class LookAlikesTest(unittest.TestCase):
    """Exact zero, rounds away and missing look alike and are not."""

    def test_each_prints_by_its_own_clause(self) -> None:
        rule = resolved(
            {"scale": "lakhs", "zero": {"word": "nil"}, "rounds_away": "dash", "missing": {"word": "n/a"}}
        )
        self.assertEqual(print_amount(Decimal("0.00"), rule).text, "nil")
        self.assertEqual(print_amount(Decimal("-21350"), rule).text, "–")
        self.assertEqual(print_amount(None, rule).text, "n/a")

    def test_a_bare_minus_zero_is_printed_only_when_asked_for(self) -> None:
        for choice, text in {"figure": "0", "signed": "−0"}.items():
            rule = resolved({"rounds_away": choice})
            self.assertEqual(print_amount(Decimal("-0.4"), rule).text, text)

    def test_sign_follows_the_exact_amount_after_the_zero_test(self) -> None:
        rule = resolved({"negative": "brackets", "rounds_away": "reveal"})
        self.assertEqual(print_amount(Decimal("-0.004"), rule).text, "(0.004)")

    def test_a_directed_rounding_can_round_a_large_part_away(self) -> None:
        rule = resolved({"rounding": "toward_zero", "rounds_away": "less_than"})
        printed = print_amount(Decimal("0.9"), rule)
        self.assertEqual((printed.text, printed.kind), ("<1", "rounds_away"))


class NudgedTest(unittest.TestCase):
    def test_a_nudge_changes_the_print_and_not_the_natural_rounding(self) -> None:
        rule = resolved({"scale": "lakhs", "negative": "brackets", "locale": "en-IN"})
        printed = print_amount(Decimal("-14849650.20"), rule, nudged=-149)
        self.assertEqual((printed.text, printed.units, printed.own_rounding), ("(149)", -149, -148))

    def test_a_small_amount_nudged_up_prints_as_an_amount(self) -> None:
        printed = print_amount(Decimal("0.4"), ResolvedClauses(rounds_away="dash"), nudged=1)
        self.assertEqual((printed.text, printed.kind), ("1", "amount"))


class MoneyTest(unittest.TestCase):
    def money(self, **clauses: Any) -> str:
        rule = {"currency": "INR", "locale": "en-IN", "decimals": "currency"} | clauses
        return print_amount(Decimal("-264075"), resolved(rule)).text

    def test_the_sign_stands_inside_brackets(self) -> None:
        self.assertEqual(self.money(negative="brackets"), "(₹2,64,075.00)")

    def test_the_scale_word_stands_between_figure_and_sign(self) -> None:
        self.assertEqual(self.money(scale="lakhs", scale_word="short"), "−₹2.64L")
        self.assertEqual(
            self.money(locale="de-DE", currency="EUR", scale="millions", scale_word="short"),
            "−0,26\u00a0Mio.\u00a0€",
        )

    def test_a_sign_kept_for_the_caption_is_not_in_the_figure(self) -> None:
        self.assertEqual(self.money(money_shown="caption"), "−2,64,075.00")

    def test_first_and_totals_leaves_the_others_bare(self) -> None:
        rule = resolved({"currency": "USD", "money_shown": "first_and_totals"})
        self.assertEqual(print_amount(Decimal(5), rule, money=True).text, "$5")
        self.assertEqual(print_amount(Decimal(5), rule, money=False).text, "5")

    def test_numbers_and_percentages_carry_no_money(self) -> None:
        self.assertEqual(self.money(form="number", decimals={"fixed": 0}), "−2,64,075")
        rule = resolved({"form": "percent", "currency": "USD", "decimals": {"fixed": 1}})
        self.assertEqual(print_amount(Decimal("0.1874"), rule).text, "18.7%")

    def test_one_of_a_currency_is_singular(self) -> None:
        rule = resolved({"currency": "USD", "money_sign": "name"})
        self.assertEqual(print_amount(Decimal(1), rule).text, "1\u00a0US\u00a0dollar")
        self.assertEqual(print_amount(Decimal(2), rule).text, "2\u00a0US\u00a0dollars")
