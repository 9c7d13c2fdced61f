"""Figures typed by hand: which texts are figures, and which figures they may be meant for."""

from __future__ import annotations

import unittest
from typing import Any

from humble_sum.core.places.agreement import AGREES, agreement, typed_agreement
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.typed_figures import BEFORE, MOST_OFFERED, meant_by, typed_figure, typed_figures
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.placed import Shows
from tests.core.places.test_agreement import placed, two
from tests.core.test_shares import of
from tests.making import pack, rule, statement

FINER = {"decimals": {"fixed": 2}}


def of_lines(**amounts: str) -> PackProof:
    return prove_pack(
        pack(statement({name: [amount, "0"] for name, amount in amounts.items()}, {}), rule("r", {}))
    )


class TypedTest(unittest.TestCase):
    def test_a_currency_a_scale_a_percent_sign_or_decimals_make_a_figure(self) -> None:
        for text, exponent in (
            ("₹5", 0),
            ("5 crore", 7),
            ("5%", -2),
            ("5.25", -2),
            ("1,250", 0),
            ("₹4.14 crore", 5),
        ):
            found = typed_figure(text)
            assert found is not None, text
            self.assertEqual((found.text, found.exponent), (text, exponent))
        for text in ("5", "2026", "in 2026", "5 ferries", ""):
            self.assertIsNone(typed_figure(text), text)

    def test_it_is_meant_for_what_it_is_the_rounding_of(self) -> None:
        lines = of_lines(fares="100.4", hire="40", other="0")
        (typed,) = typed_figures("₹100")
        self.assertEqual(
            [(each.figure[1], each.prints) for each in meant_by(typed, "", lines)], [("fares", True)]
        )

    def test_what_is_near_has_to_be_named(self) -> None:
        lines = of_lines(fares="100")
        for text, before, found in (
            ("₹98", "fares were ", [("fares", False)]),  # two in a hundred off
            ("₹101", "fares were ", [("fares", False)]),
            ("₹97", "fares were ", []),
            ("₹98", "hire was ", []),
            ("₹98", "fares" + " " * (BEFORE - 5), [("fares", False)]),
            ("₹98", "fares" + " " * (BEFORE - 4), []),
        ):
            with self.subTest(text=text, before=before.strip()):
                (typed,) = typed_figures(text)
                self.assertEqual([(m.figure[1], m.prints) for m in meant_by(typed, before, lines)], found)

    def test_the_named_comes_first_then_the_nearest(self) -> None:
        near = of_lines(revenue="100.4", fares="101")
        (typed,) = typed_figures("₹100")
        self.assertEqual([m.figure[1] for m in meant_by(typed, "fares of ", near)], ["fares", "revenue"])
        named: list[dict[str, Any]] = [
            {"id": "r", "label": "Revenue from crossings", "amounts": {"h1": "101"}},
            {"id": "o", "label": "Other", "amounts": {"h1": "100"}},
        ]
        passing = prove_pack(pack(of([{"id": "h1"}], named)))
        self.assertEqual([m.figure[1] for m in meant_by(typed, "revenue was ", passing)], ["r", "o"])
        months: list[dict[str, Any]] = [
            {"id": "may", "label": "Fares of May", "amounts": {"h1": "101"}},
            {"id": "june", "label": "Fares of June", "amounts": {"h1": "100"}},
        ]
        both = prove_pack(pack(of([{"id": "h1"}], months)))
        self.assertEqual([m.figure[1] for m in meant_by(typed, "fares were ", both)], ["june", "may"])
        alike = of_lines(**{f"l{n}": "100" for n in range(MOST_OFFERED + 1)})
        self.assertEqual(len(meant_by(typed, "", alike)), MOST_OFFERED)


class JudgedTest(unittest.TestCase):
    def test_a_text_that_rounds_the_amount_agrees(self) -> None:
        found = placed(two("4137500", "0", currency="INR", scale="crores", decimals={"fixed": 2}))
        for text, standing in (
            ("₹0.41 crore", "agrees"),
            ("₹4 million", "agrees"),
            ("₹5 million", "disagrees"),
        ):
            with self.subTest(text):
                self.assertEqual(typed_agreement(found, text, typed_figure(text)).standing, standing)
        off = typed_agreement(found, "", typed_figure("₹5 million"))
        self.assertIn("does not round to ₹5 million", off.says)

    def test_spaces_that_do_not_break_are_spaces(self) -> None:
        for locale, space in (("fr-FR", "\u202f"), ("cs-CZ", "\u00a0")):
            found = placed(two("1234567", "0", locale=locale))
            self.assertEqual(found.text, f"1{space}234{space}567")
            judged = typed_agreement(found, "1 234 567", typed_figure("1 234 567"))
            self.assertEqual(
                judged.says, "Typed by hand. It says what the figure prints, and does not follow it."
            )

    def test_what_is_no_figure_or_stands_for_none_is_told_by_its_text(self) -> None:
        found = placed(two("5", "0"))
        self.assertEqual(typed_agreement(found, "a loss", None).off, "typed differently")
        missing = placed(two(None, "0", missing={"word": "n/a"}))
        judged = typed_agreement(missing, "₹5", typed_figure("₹5"))
        self.assertEqual((judged.standing, judged.off), ("disagrees", "typed differently"))
        self.assertEqual(typed_agreement(missing, "n/a", None).standing, "agrees")


class GuardTest(unittest.TestCase):
    """What prints no number, on the page or in its place, has nothing to disagree with."""

    def test_a_page_or_a_place_without_numbers_agrees(self) -> None:
        self.assertIs(agreement(placed(two("14.46", "0", form="text"), clauses={"form": "number"})), AGREES)
        self.assertIs(agreement(placed(two("14.46", "0"), clauses={"form": "text"})), AGREES)
        self.assertIs(agreement(placed(two(None, "0"), clauses=FINER)), AGREES)

    def test_what_is_hidden_in_its_place_agrees(self) -> None:
        """14.496 is 14.50 in its place, which a reader rounds to 15; the page prints 14."""
        seen = placed(two("14.496", "0"), clauses=FINER)
        self.assertEqual(agreement(seen).standing, "shows_nudge")
        self.assertIs(agreement(placed(two("14.496", "0"), clauses=FINER | {"shown": False})), AGREES)

    def test_at_the_same_unit_another_rounding_is_still_of_the_exact_amount(self) -> None:
        found = placed(two("14.6", "0"), clauses={"rounding": "down"})
        self.assertEqual((found.text, agreement(found).standing), ("14", "agrees"))
        steps = placed(two("13.6", "0"), clauses={"step": "5"})
        self.assertEqual((steps.text, agreement(steps).standing), ("15", "agrees"))

    def test_what_is_gone_stays_gone_however_it_is_typed(self) -> None:
        gone = Placer(two("1", "0"), "tile").shown(Shows(figure=("s", "none", "now")))
        self.assertEqual(typed_agreement(gone, "1", None).off, "gone")
