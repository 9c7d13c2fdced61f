"""Numbers of documents: which are figures of a pack, whether they agree, and what they should say."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal

from bench.documents import measured
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.documents.document import Document, Paragraph, Place, Table
from humble_sum.core.documents.judgement import written_like
from humble_sum.core.documents.numbers import convention_of, numbers_in
from humble_sum.core.documents.proofreading import Judgment, Reader, said_in_two_ways
from humble_sum.core.intake.amount_reading import COMMA, POINT
from humble_sum.core.proof.pack_proof import prove_pack
from tests.every_change import DEMO

READER = Reader(prove_pack(DEMO))


def judged(*texts: str) -> dict[str, Judgment]:
    """The numbers of some paragraphs, by their texts."""
    blocks = tuple(Paragraph(n, text) for n, text in enumerate(texts))
    return {each.text: each for each in READER.proofread(Document("a.txt", "text", blocks)).numbers}


class NumbersTest(unittest.TestCase):
    def test_amounts_are_told_from_days_years_pages_and_codes(self) -> None:
        text = "See note 12 and page 48. On 31 March 2026 at 10:30, in 2024–25, CO2 A4, the 3rd of 5."
        self.assertEqual([n.text for n in numbers_in(text) if not n.other], ["5"])
        found = {
            n.text: (n.amount, n.exponent)
            for n in numbers_in("₹31.37 crore, USD 1,250.40, −5.2m and (1,234).")
        }
        self.assertEqual(found["₹31.37 crore"], (Decimal("313700000"), 5))
        self.assertEqual(found["USD 1,250.40"], (Decimal("1250.40"), -2))
        self.assertEqual(found["−5.2m"], (Decimal("-5200000"), 5))
        self.assertEqual(found["(1,234)"], (Decimal(-1234), 0))

    def test_a_document_has_one_convention_and_its_spaces_group(self) -> None:
        texts = ["Die Erlöse stiegen um 6,4 % auf 33,38 Mio. €.", "12 345 Euro und 1.234.567 Gäste"]
        self.assertEqual(convention_of(texts), COMMA)
        found = [n.amount for text in texts for n in numbers_in(text, COMMA)]
        self.assertEqual(found, [Decimal("0.064"), Decimal(33_380_000), Decimal(12_345), Decimal(1_234_567)])

    @settings(max_examples=200, deadline=None)
    @given(
        st.decimals(min_value=1, max_value=99_999_999, places=2),
        st.decimals(min_value=1, max_value=99_999_999, places=2),
        st.sampled_from(("₹{} crore", "{}", "({})", "€{}m", "{}%", "about {}.")),
    )
    def test_an_amount_is_written_as_the_number_it_takes_the_place_of(
        self, one: Decimal, other: Decimal, form: str
    ) -> None:
        (number,) = numbers_in(form.format(f"{one:,.2f}"), POINT, in_cell=True)
        power = number.exponent + 2
        new = written_like(number, other.scaleb(power), POINT)
        (again,) = numbers_in(new, POINT, in_cell=True)
        self.assertEqual((again.amount.copy_abs(), again.form), (other.scaleb(power), number.form))
        self.assertEqual(
            [c for c in new if not (c.isdigit() or c == ",")],
            [c for c in number.text if not (c.isdigit() or c == ",")],
        )


class JudgementTest(unittest.TestCase):
    def test_a_figure_its_rounding_and_its_change_agree(self) -> None:
        found = judged("Revenue from crossings rose by 6.4% to ₹33.38 crore (2024–25: ₹31.37 crore).")
        self.assertEqual(found["₹33.38 crore"].judged.judgement, "agrees")
        self.assertEqual(found["₹31.37 crore"].figure, ("income", "rev", "y25"))
        self.assertEqual(
            (found["6.4%"].measure, found["6.4%"].judged.judgement), ("change_percent", "rounds")
        )
        found = judged("Mooring and berth fees came to ₹87.5 lakh.")
        self.assertEqual(found["₹87.5 lakh"].judged.judgement, "rounds")

    def test_a_figure_that_is_said_in_two_ways_is_told(self) -> None:
        (one,) = judged("Mooring and berth fees came to ₹87.5 lakh.").values()
        number = replace(one.number, amount=one.number.amount + 10_000)
        other = replace(one, text="₹87.6 lakh", number=number, place=Place(4, paragraph=6))
        first, second, _ = said_in_two_ways((one, other, one))
        self.assertEqual(first.because[-1], "Elsewhere it is ₹87.6 lakh (paragraph 7).")
        self.assertEqual(second.because[-1], "Elsewhere it is ₹87.5 lakh (paragraph 1).")
        self.assertEqual(said_in_two_ways((one, one))[0].because, one.because)

    def test_slips_and_last_years_number_disagree_with_what_to_write(self) -> None:
        for text, number, should in (
            ("Revenue from crossings came to ₹33.83 crore.", "₹33.83 crore", "₹33.38 crore"),
            ("Revenue from crossings came to ₹31.37 crore.", "₹31.37 crore", "₹33.38 crore"),
            ("In 2024–25 revenue from crossings was ₹33.38 crore.", "₹33.38 crore", "₹31.37 crore"),
            ("Depreciation was ₹3,145 lakh.", "₹3,145 lakh", "₹314 lakh"),
        ):
            with self.subTest(text):
                found = judged(text)[number]
                self.assertEqual((found.judged.judgement, found.should_print), ("disagrees", should))

    def test_a_change_told_the_wrong_way_disagrees(self) -> None:
        self.assertEqual(judged("Fuel and lubricants rose by 6.5%.")["6.5%"].judged.judgement, "disagrees")
        self.assertEqual(judged("Fuel and lubricants fell by 6.5%.")["6.5%"].judged.judgement, "rounds")

    def test_what_nothing_names_is_none_of_ours(self) -> None:
        found = judged(
            "Some ₹85 lakh was set aside for the new pier at Kelp Point. We employ 212 people on 7 ships."
        )
        self.assertEqual({each.judged.judgement for each in found.values()}, {"other"})

    def test_a_table_is_read_by_rows_and_columns_and_added_up_as_printed(self) -> None:
        rows = (
            ("", "2024–25", "2025–26"),
            ("Fuel and lubricants", "949", "886"),
            ("Crew and shore wages", "978", "1,025"),
            ("Vessel upkeep", "362", "395"),
            ("Harbour dues", "143", "184"),
            ("Depreciation", "298", "314"),
            ("Total costs", "2,730", "2,770"),
        )
        read = READER.proofread(Document("a", "docx", (Paragraph(0, "₹ lakhs"), Table(0, rows))))
        wrong = [each for each in read.numbers if each.judged.judgement == "disagrees"]
        self.assertEqual(
            [(e.text, e.should_print, e.figure) for e in wrong], [("184", "148", ("income", "dues", "y26"))]
        )
        sums = {each.column: each for each in read.sums}
        self.assertTrue(sums[1].holds)
        self.assertFalse(sums[2].holds)

    def test_planted_faults_are_found_on_styles_that_no_weight_was_set_on(self) -> None:
        total = measured(15, 77, True)
        self.assertGreaterEqual(total["found"], 0.98 * total["planted"])
        self.assertGreaterEqual(total["rightly"], 0.97 * total["called"])
        self.assertGreaterEqual(total["matched"], 0.95 * total["figures"])
        self.assertLessEqual(total["doubt"], 0.02 * total["figures"])
