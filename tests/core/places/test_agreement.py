"""What is placed agrees with its page, or is said not to, in the sense of the words in docs/places.md."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.amounts import of_units
from humble_sum.core.places.agreement import agreement
from humble_sum.core.places.placed_figure import Placed, Placer, unit_of
from humble_sum.core.places.places_report import placed_on
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.rounding import position, round_units
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.core.statements.marks import Nudge
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Measure, Shows
from humble_sum.records.demo import demo_pack
from tests.making import pack, rule, statement

DEMO = demo_pack()
NET = ("income", "net", "y26")


def two(now: str | None, then: str | None, **clauses: Any) -> PackProof:
    return prove_pack(pack(statement({"a": [now, then]}, {}), rule("all", clauses)))


def placed(pack_proof: PackProof, measure: Measure = "figure", **more: Any) -> Placed:
    against = None if measure == "figure" else ("s", "a", "then")
    return Placer(pack_proof, "tile").shown(
        Shows(figure=("s", "a", "now"), measure=measure, against=against, **more)
    )


def nudged(of: Pack, line: str, column: str, by: int) -> Pack:
    figure = prove_pack(of).proofs["income"].figures[line, column]
    assert figure.own_rounding is not None
    nudge = Nudge(
        statement="income",
        line=line,
        column=column,
        units=figure.own_rounding + by,
        exponent=figure.exponent,
        own_rounding=figure.own_rounding,
    )
    return of.model_copy(update={"nudges": (*of.nudges, nudge)})


class FigureTest(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(
        st.decimals(-(10**9), 10**9, places=2),
        st.sampled_from(["ones", "thousands", "lakhs", "crores"]),
        st.integers(0, 3),
    )
    def test_what_follows_is_the_rounding_of_the_exact_amount(
        self, amount: Decimal, scale: str, decimals: int
    ) -> None:
        pack_proof = two(str(amount), "0", scale="lakhs", decimals={"fixed": 1})
        found = placed(pack_proof, clauses={"scale": scale, "decimals": {"fixed": decimals}})
        page = found.page
        assert page is not None and found.clauses is not None and found.printed is not None
        self.assertEqual(found.text, print_amount(amount, found.clauses).full_text)
        stands = agreement(found)
        unit = unit_of(amount, found.clauses)
        if unit == page.exponent:
            self.assertEqual((stands.standing, found.printed.units), ("agrees", page.units))
        elif unit > page.exponent:
            self.assertEqual(stands.standing, "agrees")
        else:
            assert found.printed.units is not None
            back = round_units(position(of_units(found.printed.units, unit), page.exponent), "half_up")
            self.assertEqual(stands.standing == "agrees", back == page.units)

    def test_at_the_pages_unit_it_prints_the_nudge(self) -> None:
        freight = ("income", "freight", "y26")
        moved = prove_pack(nudged(DEMO, "freight", "y26", 1))
        at_unit = Placer(moved, "tile").shown(Shows(figure=freight))
        self.assertEqual((at_unit.text, agreement(at_unit).standing), ("412", "agrees"))
        finer = Placer(moved, "tile").shown(Shows(figure=freight, clauses={"decimals": {"fixed": 2}}))
        stands = agreement(finer)
        self.assertEqual((finer.text, stands.standing), ("411.46", "shows_nudge"))
        self.assertEqual(stands.ways, ("page_unit", "release", "accept"))
        accepted = Shows(
            figure=freight, clauses={"decimals": {"fixed": 2}}, accepted="the board asked for it"
        )
        self.assertEqual(agreement(Placer(moved, "tile").shown(accepted)).standing, "agrees")

    def test_what_a_reader_who_rounds_the_page_gets_is_said(self) -> None:
        # 14.46 prints as 14.5 on the page and as 14 in whole; who rounds the page gets 15.
        pack_proof = two("14.46", "0", decimals={"fixed": 1})
        found = placed(pack_proof, clauses={"decimals": {"fixed": 0}})
        self.assertEqual(found.text, "14")
        self.assertIn("A reader who rounds the page’s 14.5 gets 15", agreement(found).says)

    def test_what_is_gone_is_said_and_not_raised(self) -> None:
        for ref, what in (
            (("none", "a", "now"), 'no statement "none"'),
            (("income", "none", "y26"), 'no line "none"'),
            (("income", "net", "none"), 'no column "none"'),
            (("income", "h1", "y26"), "is a heading"),
        ):
            found = Placer(prove_pack(DEMO), "tile").shown(Shows(figure=ref))
            self.assertIn(what, found.gone)
            self.assertEqual(agreement(found).standing, "disagrees")


class MeasureTest(unittest.TestCase):
    def test_measures_print_as_they_mean(self) -> None:
        pack_proof = two("150", "120", currency="INR", money_shown="every", locale="en-IN")
        texts = {
            "change": "₹30",
            "change_percent": "25.0%",
            "ratio": "1.25",
            "share": "125.0%",
        }
        for measure, text in texts.items():
            self.assertEqual(placed(pack_proof, measure).text, text)  # type: ignore[arg-type]
        percents = two("0.946", "0.954", form="percent", decimals={"fixed": 1})
        self.assertEqual(placed(percents, "change_points").text, "−0.8\u00a0pp")
        added = Shows(figure=("s", "a", "now"), measure="sum", columns=("now", "then"))
        self.assertEqual(Placer(pack_proof, "tile").shown(added).text, "₹270")

    def test_where_a_measure_has_no_meaning_it_says_so(self) -> None:
        for now, then in (("5", "0"), ("5", "-4"), ("-5", "4")):
            found = placed(two(now, then), "change_percent")
            self.assertEqual((found.text, bool(found.no_meaning)), ("n.m.", True))
            self.assertEqual(agreement(found).standing, "agrees")
        word = placed(two("5", "0"), "share", clauses={"missing": {"word": "none"}})
        self.assertEqual(word.text, "none")
        self.assertEqual(placed(two(None, "3"), "change_percent", clauses={"missing": "dash"}).text, "–")
        # Costs of −277 after −273 grew.
        self.assertEqual(placed(two("-277", "-273"), "change_percent").text, "1.5%")

    def test_from_printed_and_from_exact_amounts_may_differ_and_it_is_said(self) -> None:
        pack_proof = two("10.4", "9.6", decimals={"fixed": 0})
        exact, printed = placed(pack_proof, "change"), placed(pack_proof, "change", printed=True)
        self.assertEqual((exact.text, printed.text), ("1", "0"))
        self.assertIn("From printed ones it would print 0", agreement(exact).says)
        self.assertIn("From exact ones it would print 1", agreement(printed).says)

    def test_a_measure_that_lacks_its_other_figure_says_what_it_needs(self) -> None:
        found = Placer(prove_pack(DEMO), "tile").shown(Shows(figure=NET, measure="ratio"))
        self.assertIn("needs a figure", found.gone)


class DemoTest(unittest.TestCase):
    def test_the_demo_has_a_disagreement_of_each_sort_and_no_nudge_yet(self) -> None:
        found = [
            each
            for dashboard in DEMO.dashboards
            for each in placed_on(dashboard, prove_pack(in_edition(DEMO, dashboard.edition)))
            if each.agrees.standing != "agrees"
        ]
        off = [(each.dashboard.id, each.text, each.agrees.off) for each in found]
        self.assertEqual(
            off,
            [
                ("board", "₹4.14 crore", "off by 0.01"),  # typed by hand
                ("operations", "95.4%", "off by 0.8"),  # kept from last year
                ("operations", "₹12 lakh", "gone"),
                ("parent", "", "not 100"),
            ],
        )

    def test_every_tile_and_chart_of_the_demo_is_of_figures_that_are_there(self) -> None:
        for dashboard in DEMO.dashboards:
            pack_proof = prove_pack(in_edition(DEMO, dashboard.edition))
            placed = [each for each in placed_on(dashboard, pack_proof) if each.item.kind != "passage"]
            self.assertTrue(all(each.agrees.off != "gone" for each in placed))
