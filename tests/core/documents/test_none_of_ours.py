"""Right numbers in sentences that tell of more than figures: none of them is called wrong."""

from __future__ import annotations

import unittest

from humble_sum.core.documents.document import Document, Paragraph
from humble_sum.core.documents.proofreading import Judgment, Reader
from humble_sum.core.proof.pack_proof import prove_pack
from tests.every_change import DEMO

READER = Reader(prove_pack(DEMO))
RIGHT = (
    "Passenger fares contributed 55% of revenue from crossings (2024–25: 55%).",
    "Vehicle carriage (₹962 lakhs) and night freight (₹411 lakhs) made up 41% of revenue from crossings.",
    "Of our total costs, 37% were crew and shore wages.",
    "Crew and shore wages were 37 per cent of total costs, up from 36 per cent.",
    "Total costs were 81 per cent of total income.",
    "We employ 412 people at 14 piers.",
    "On average, revenue from crossings was ₹2.78 crore a month.",
    "Our operating surplus margin was 19.6%, up 3.0 percentage points from 16.6%.",
    "Revenue from crossings beat the budget of ₹33.00 crore.",
    "Harbour dues of ₹148 lakhs include ₹12 lakhs paid in advance.",
    "Crew and shore wages (₹1,025 lakhs), fuel and lubricants (₹886 lakhs) and vessel upkeep (₹395 lakhs), came to"
    " ₹2,306 lakhs, or 83% of total costs.",
    "Between 2021 and 2026 revenue from crossings grew at a compound annual rate of 7.2%.",
    "If fuel prices rose by 10%, costs would rise by ₹89 lakhs.",
    "Vessel upkeep (₹3.95 crore) should stay below ₹4.2 crore next year.",
    "Our largest customer accounts for 12% of night freight.",
)
WRONG = {
    "Night freight was 14% of revenue from crossings.": "12%",
    "Revenue from crossings rose by 7.4% to ₹33.38 crore.": "6.4%",
    "Harbour dues were ₹184 lakhs.": "₹148 lakhs",
    # The parts add to this, and the page prints another total.
    "Passenger fares (₹1,844 lakhs), vehicle carriage (₹962 lakhs), night freight (₹411 lakhs) and the island mail"
    " contract (₹120 lakhs) made revenue from crossings of ₹3,337 lakhs.": "₹3,338 lakhs",
    "Passengers carried came to 3,074,372 people.": "3,074,732",
    "Passenger fares: ₹1,844 lakhs; vehicle carriage: ₹962 lakhs; night freight: ₹441 lakhs.": "₹411 lakhs",
}


def numbers(text: str) -> tuple[Judgment, ...]:
    return READER.proofread(Document("a.txt", "text", (Paragraph(0, text),))).numbers


class NoneOfOursTest(unittest.TestCase):
    def test_right_numbers_are_not_called_wrong(self) -> None:
        for text in RIGHT:
            with self.subTest(text):
                self.assertEqual([each.text for each in numbers(text) if each.says == "disagrees"], [])

    def test_wrong_ones_in_sentences_like_them_are(self) -> None:
        for text, should in WRONG.items():
            with self.subTest(text):
                self.assertEqual([n.should_print for n in numbers(text) if n.says == "disagrees"], [should])

    def test_a_ratio_of_two_lines_that_are_named_is_known(self) -> None:
        (share,) = numbers("Total costs were 81 per cent of total income.")
        self.assertEqual((share.measure, share.says), ("ratio", "rounds"))
        (first, second) = numbers("Finance costs came down by ₹14 lakhs, to ₹98 lakhs.")
        self.assertEqual((first.measure, second.measure, second.says), ("change", "figure", "agrees"))


if __name__ == "__main__":
    unittest.main()
