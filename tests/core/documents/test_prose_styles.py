"""Sentences as reports write them: right ones agree, and each number is found when it slips."""

from __future__ import annotations

import json
import random
import unittest

from bench.documents import spoilt

from humble_sum.core.documents.document import Document, Paragraph
from humble_sum.core.documents.proofreading import Judgment, Reader
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.exchange.pack_json import read_pack

LINES = [
    ("i0", "Ticket sales", 79040518, 70111222),
    ("i1", "Freight", 51939620, 46211000),
    ("i2", "Other income", 6452986, 5120400),
    ("c0", "Depreciation", -17162740, -16004000),
    ("c1", "Staff costs", -40868399, -38120000),
    ("c2", "Fuel", -22861849, -25400100),
]
TOTALS = [
    ("rev", "Revenue", ["i0", "i1", "i2"]),
    ("costs", "Operating costs", ["c0", "c1", "c2"]),
    ("op", "Operating profit", ["rev", "costs"]),
]
RIGHT = (
    "Revenue of £137.4m (2024: £121.4m) was up 13.2%.",
    "Operating profit rose 34.9% to £56.5m from £41.9m.",
    "Revenue increased by £16.0 million, or 13.2%, to £137.4 million.",
    "Staff costs and fuel were £40.9m and £22.9m respectively.",
    "Fuel costs fell to £22.9m (2024: £25.4m), a decrease of 10.0%.",
    "• Ticket sales: £79.0m\n• Freight: £51.9m\n• Other income: £6.5m",
    "Revenue was £137.4m in 2025 and £121.4m in 2024.",
    "We earned £79.0m from ticket sales, 57.5% of revenue.",
    "Depreciation charges totalled £17,163k, compared to £16,004k.",
    "Freight grew strongly, by 12.4%, and reached £51.9m.",
    "Revenue growth of 13.2% was driven by ticket sales (+12.7%) and freight (+12.4%).",
    "Operating costs rose from £79.5m to £80.9m.",
    "Costs of £80.9m were £1.4m higher than last year's £79.5m.",
)
OTHERS = (
    "Cash of £3.2m was paid to suppliers and the loan of £12.5m was repaid in March 2025.",
    "The average fare was £12.50 and 6.3 million passengers travelled.",
    "We have 412 staff in 7 ports; the oldest ship is 31 years old.",
)


def reader() -> Reader:
    lines: list[dict[str, object]] = [
        {"id": id, "label": label, "kind": "line", "amounts": {"now": str(now), "was": str(was)}}
        for id, label, now, was in LINES
    ]
    for id, label, parts in TOTALS:
        lines.append({"id": id, "label": label, "kind": "subtotal", "parts": [[part, 1] for part in parts]})
    columns = [{"id": "now", "label": "2025"}, {"id": "was", "label": "2024"}]
    statement = {"id": "s", "name": "Income", "title": "Income", "columns": columns, "lines": lines}
    clauses = {"scale": "thousands", "decimals": {"fixed": 0}, "currency": "GBP"}
    pack = {
        "kind": "humble-sum/pack",
        "version": 1,
        "entity": "Lanternfish",
        "period": "2025",
        "currency": "GBP",
    }
    rules = [{"id": "house", "name": "House", "clauses": clauses}]
    return Reader(
        prove_pack(
            read_pack(json.dumps(pack | {"statements": [statement], "rulebook": {"rules": rules}}).encode())
        )
    )


READER = reader()


def numbers(text: str) -> list[Judgment]:
    found = READER.proofread(Document("a.txt", "text", (Paragraph(0, text),))).numbers
    return [each for each in found if not each.number.other]


class ProseStylesTest(unittest.TestCase):
    def test_what_is_right_agrees_and_what_is_none_of_ours_is_left_alone(self) -> None:
        for text in RIGHT:
            for each in numbers(text):
                self.assertIn(each.judged.judgement, ("agrees", "rounds"), (text, each.text))
        for text in OTHERS:
            for each in numbers(text):
                self.assertEqual(each.judged.judgement, "other", (text, each.text))

    def test_each_number_that_slips_is_found_with_what_it_should_be(self) -> None:
        pick = random.Random(11)
        for text in RIGHT:
            for right in numbers(text):
                start, end = right.number.start, right.number.end
                for kind in ("digit", "exchanged", "last"):
                    wrong = spoilt(pick, right.text, kind)
                    if wrong == right.text:
                        continue
                    with self.subTest(text=text, wrong=wrong):
                        found = {e.number.start: e for e in numbers(text[:start] + wrong + text[end:])}[start]
                        self.assertEqual(
                            (found.judged.judgement, found.should_print), ("disagrees", right.text)
                        )
