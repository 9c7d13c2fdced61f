"""Clauses beyond scale and sign: forms, steps, bands, words, widths, and what hangs on the column."""

import unittest
from decimal import Decimal
from typing import Any

from humble_sum.core.locales import OFFERED, locale, name_of, resolve
from humble_sum.core.locales.plurals import plural
from humble_sum.core.printing.clause_values import LADDERS, Ladder
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.scaling import fitting_scale
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.rules.rulebook import Reach
from humble_sum.core.statements.pack import Column as StatementColumn
from humble_sum.core.statements.pack import Line, Statement
from tests.making import pack, resolved, rule, statement

NB = "\u00a0"


def printed(amount: str, **clauses: Any) -> str:
    return print_amount(Decimal(amount), resolved(clauses)).full_text


class FormTest(unittest.TestCase):
    def test_each_form_prints_its_own_way(self) -> None:
        for form, amount, text in (
            ("basis_points", "0.00125", f"12.5{NB}bps"),
            ("points", "-0.0123", f"−1.2{NB}pp"),
            ("multiple", "1.84", "1.8×"),
            ("percent", "0.18749", "18.7%"),
        ):
            self.assertEqual(printed(amount, form=form, decimals={"fixed": 1}), text)
        self.assertEqual(printed("20260331", form="date", locale="en-GB"), "31 March 2026")
        self.assertEqual(printed("20260331", form="date", locale="mr-IN"), "३१ मार्च, २०२६")
        self.assertEqual(printed("1430", form="time", locale="de-DE"), "14:30")
        self.assertEqual(printed("20261331", form="date"), "20261331")  # no such day: as it is
        self.assertEqual(printed("0", form="yes_no", words={"yes": "on", "no": "off"}), "off")
        self.assertEqual(printed("007", form="text"), "7")

    def test_counts_have_units_in_the_singular_and_plural(self) -> None:
        words = {"one": "litre", "many": "litres"}
        self.assertEqual(printed("1", form="number", words=words), f"1{NB}litre")
        self.assertEqual(printed("1200", form="number", words=words), f"1,200{NB}litres")

    def test_bands_mark_and_the_first_that_holds_wins(self) -> None:
        bands = [
            {"when": {"below": "-0.10"}, "mark": "▼", "tone": "rust"},
            {"when": {"below": "0"}, "mark": "▼"},
            {"when": {"from": "0.5", "to": "1"}, "mark": "✓"},
        ]
        rule = resolved({"form": "percent", "bands": bands})
        for amount, text, tone in (
            ("-0.2", f"▼{NB}−20%", "rust"),
            ("-0.10", f"▼{NB}−10%", "plain"),
            ("0", "0%", "plain"),
            ("1", f"✓{NB}100%", "plain"),
        ):
            made = print_amount(Decimal(amount), rule)
            self.assertEqual((made.full_text, made.tone), (text, tone))

    def test_what_stands_beside_is_kept_apart(self) -> None:
        self.assertEqual(printed("-5", before="ca.", after="net", negative="brackets"), f"ca.{NB}(5){NB}net")

    def test_a_figure_too_wide_gives_way_or_says_so_and_is_never_cut(self) -> None:
        wide = {"decimals": {"fixed": 4}, "width": {"most": 7, "gives_way": "decimals"}}
        self.assertEqual(printed("12345.6789", **wide), "12,345.7".replace("12,345.7", "12,346"))
        self.assertEqual(printed("12345678", width={"most": 6, "gives_way": "scale"}), "12M")
        made = print_amount(Decimal(12345678), resolved({"width": {"most": 6}}))
        self.assertEqual((made.text, made.too_wide), ("12,345,678", True))

    def test_unsigned_costs_show_the_unusual_sign(self) -> None:
        rule = resolved({"negative": "unsigned"})
        self.assertEqual(print_amount(Decimal(-5), rule, usual_sign="negative").text, "5")
        self.assertEqual(print_amount(Decimal(5), rule, usual_sign="negative").text, "(5)")
        self.assertEqual(print_amount(Decimal(-5), rule).text, "5")

    def test_steps_and_tones(self) -> None:
        self.assertEqual(printed("-12.32", step="0.05", decimals={"fixed": 2}), "−12.30")
        self.assertEqual(printed("24", step="50"), "0")
        made = print_amount(Decimal(-3), resolved({"negative_tone": "rust"}))
        self.assertEqual((made.text, made.tone), ("−3", "rust"))
        stands_in = resolved({"negative_tone": "rust", "zero": "dash", "rounds_away": "dash"})
        for amount in ("0", "-0.2"):  # a dash is no negative figure
            self.assertEqual(print_amount(Decimal(amount), stands_in).tone, "plain")

    def test_a_scale_that_fits_has_the_name_its_locale_counts_by(self) -> None:
        ways: tuple[tuple[str, Ladder | None, str], ...] = (
            *(("en-IN", None, "lakh_crores"), ("en-US", None, "trillions")),
            *(("en-IN", "western", "trillions"), ("en-US", "indian", "lakh_crores")),
        )
        for tag, ladder, name in ways:
            self.assertEqual(fitting_scale(12, tag, ladder), name)
        self.assertEqual([fitting_scale(power, "en-US", None) for power in (0, 6, 10)], ["", "millions", ""])


class ColumnTest(unittest.TestCase):
    def test_a_scale_that_fits_is_one_for_a_column(self) -> None:
        of = statement({"a": ["5600000000", "1500"], "b": ["1200", "20"]}, {"t": ["a", "b"]})
        fit = rule("fit", {"scale": "fit", "scale_word": "short", "decimals": {"fixed": 1}})
        figures = prove(pack(of, fit), of).figures
        self.assertEqual([figures[line, "now"].printed.text for line in "abt"], ["5.6B", "0.0B", "5.6B"])
        self.assertEqual([figures[line, "then"].printed.text for line in "abt"], ["1.5K", "0.0K", "1.5K"])

    def test_a_line_prints_in_its_own_currency_where_the_rule_says_so(self) -> None:
        lines = (
            Line(id="a", label="A", amounts={"now": "2640.7555"}, currency="KWD"),
            Line(id="b", label="B", amounts={"now": "2640.7555"}),
        )
        columns = (StatementColumn(id="now", label="Now"),)
        of = Statement(id="s", name="S", title="S", columns=columns, lines=lines)
        record = rule("r", {"currency": "record", "decimals": "currency", "money_sign": "code"})
        figures = prove(pack(of, record, currency="INR"), of).figures
        texts = [figures[line, "now"].printed.text for line in "ab"]
        self.assertEqual(texts, [f"KWD{NB}2,640.756", f"INR{NB}2,640.76"])

    def test_rules_reach_kinds_of_lines_and_single_figures(self) -> None:
        of = statement({"a": ["1.26", "2.26"]}, {"t": ["a"]})
        kind = rule("kind", {"decimals": {"fixed": 1}}, kind="total")
        one = rule("one", {"decimals": {"fixed": 2}}, line="a", column="now")
        off = rule("off", {"decimals": {"fixed": 5}}).model_copy(update={"off": True})
        elsewhere = rule("tile", {"decimals": {"fixed": 5}})
        elsewhere = elsewhere.model_copy(update={"reach": Reach(places=("tile",))})
        figures = prove(pack(of, kind, one, off, elsewhere), of).figures
        texts = {cell: figure.printed.text for cell, figure in figures.items()}
        self.assertEqual(texts["t", "now"], "1.3")
        self.assertEqual((texts["a", "now"], texts["a", "then"]), ("1.26", "2"))

    def test_figures_in_steps_are_checked_and_never_nudged(self) -> None:
        of = statement({"a": ["12", "1"], "b": ["12", "1"]}, {"t": ["a", "b"]})
        made = pack(of, rule("step", {"step": "10"}))
        (gap,) = [check for check in prove(made, of).checks if check.relation.total == ("t", "now")]
        self.assertEqual((gap.status, gap.gap), ("foots", 0))


class LocaleTest(unittest.TestCase):
    def test_tags_fall_back_by_inheritance_and_say_so(self) -> None:
        for tag, data, exact in (
            ("en-US", "en", True),
            ("zh-TW", "zh-Hant", True),
            ("iw_IL", "he", True),
            ("de-XX", "de", False),
            ("xx-YY", "und", False),
            ("pa-PK", "pa-Arab", True),
        ):
            found = resolve(tag)
            self.assertEqual((found.data, found.exact), (data, exact), tag)
        self.assertEqual(name_of("zh-Hant-HK"), "Chinese, Traditional, Hong Kong SAR China")

    def test_plural_forms_follow_each_language(self) -> None:
        said = {digits: plural("pl", digits) for digits in ("1", "2", "5", "12", "22", "1.5")}
        self.assertEqual(list(said.values()), ["one", "few", "many", "many", "few", "other"])
        self.assertEqual(plural("ar", "0"), "zero")
        # Portugal has rules of its own, which look at the decimals printed; Brazil's do not.
        self.assertEqual([plural("pt-PT", each) for each in ("1", "1.0", "0")], ["one", "other", "other"])
        self.assertEqual([plural("pt-BR", each) for each in ("1", "1.0", "0")], ["one", "one", "one"])

    def test_money_marks_of_their_own(self) -> None:
        self.assertEqual((locale("de-AT").group, locale("de-AT").money_group), (NB, "."))
        self.assertEqual(
            printed("1234.5", locale="fr-CH", currency="CHF", decimals="currency"), f"1'234.50{NB}CHF"
        )


class LadderTest(unittest.TestCase):
    def test_a_scale_that_fits_is_said_in_the_ladder_asked_for(self) -> None:
        amount = "2770370497500"
        for tag, ladder, text in (
            ("en-US", None, "2.8T"),
            ("en-IN", None, "2.8LCr"),
            ("en-IN", "western", "2.8T"),
            ("en-US", "indian", "2.8LCr"),
            ("ja-JP", None, "2.8兆"),
            ("en-US", "myriad", f"2.8{NB}×{NB}10¹²"),
            ("de-DE", "western", f"2,8{NB}Bio."),
        ):
            with self.subTest(tag=tag, ladder=ladder):
                made = printed(amount, scale="fit", ladder=ladder, locale=tag, decimals={"fixed": 1})
                self.assertEqual(made, text)

    def test_in_every_locale_offered_a_ladder_leaves_no_size_unsaid(self) -> None:
        for tag in OFFERED:
            for ladder, powers in LADDERS.items():
                for power in powers:
                    made = printed(f"12e{power}", scale="fit", ladder=ladder, locale=tag, digits="latin")
                    with self.subTest(tag=tag, ladder=ladder, power=power):
                        self.assertRegex(made, r"12\D|\D12")
                        self.assertNotRegex(made, r"12[.,\u00a0\u202f]?0{2}")

    def test_less_than_a_unit_is_said_before_the_currency_and_after_the_minus(self) -> None:
        for clauses, text in (
            ({}, "−<$1"),
            ({"negative": "brackets"}, "(<$1)"),
            ({"locale": "de-DE", "currency": "EUR"}, f"−<1{NB}€"),
        ):
            rule = {"rounds_away": "less_than", "currency": "USD"} | clauses
            self.assertEqual(printed("-0.2", **rule), text)
