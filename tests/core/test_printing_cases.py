"""The solved cases: every one whose clauses are held here has to print to the letter."""

import re
import unittest
from decimal import Decimal
from typing import Any

from humble_sum.core.clauses import InForce, read_clauses
from humble_sum.core.faults import Refused
from humble_sum.core.locales import TAGS
from humble_sum.core.printing import print_amount
from tests.making import cases

MINUS = re.compile(r"^\(?-")
NOT_HELD = {"step", "plus", "ladder"}
KINDS: dict[str, dict[str, Any]] = {
    "number": {"form": "number"},
    "percent": {"form": "percent"},
    "currency": {"decimals": "currency"},
    "accounting": {"decimals": "currency", "negative": "brackets"},
    "code": {"decimals": "currency", "money_sign": "code"},
    "narrow": {"decimals": "currency", "money_sign": "short"},
    "name": {"decimals": "currency", "money_sign": "name"},
}


def held(rule: dict[str, Any]) -> bool:
    decimals = rule.get("decimals", {"fixed": 0})
    return not NOT_HELD & set(rule) and (decimals == "currency" or "fixed" in decimals)


class PrintingCasesTest(unittest.TestCase):
    def test_printing_cases(self) -> None:
        tried = 0
        for case in cases("printing"):
            if not held(case["rule"]):
                continue
            tried += 1
            value = None if case["value"] is None else Decimal(case["value"])
            with self.subTest(**case):
                clauses = InForce.model_validate(case["rule"])
                self.assertEqual(print_amount(value, clauses).text, case["text"])
        self.assertEqual(tried, 95)

    def test_a_case_not_held_yet_is_refused_by_name_and_not_printed_wrongly(self) -> None:
        for case in cases("printing"):
            if held(case["rule"]):
                continue
            with self.subTest(**case), self.assertRaises(Refused) as caught:
                read_clauses(case["rule"])
            self.assertRegex(str(caught.exception), "step|plus|ladder|scale|decimals")

    def test_locale_cases(self) -> None:
        tried = 0
        for case in cases("locales"):
            kind = case["kind"]
            # German accounting has no brackets of its own; with us brackets are the rule's choice.
            if (
                kind not in KINDS
                or case["locale"] not in TAGS
                or (kind, case["locale"]) == ("accounting", "de-DE")
            ):
                continue
            tried += 1
            rule = {"locale": case["locale"], "currency": case.get("currency")} | KINDS[kind]
            if "decimals" in case:
                rule["decimals"] = {"fixed": case["decimals"]}
            with self.subTest(**case):
                printed = print_amount(Decimal(case["value"]), InForce.model_validate(rule))
                # Where the locale has a hyphen-minus, print has a minus.
                self.assertEqual(
                    printed.text,
                    case["text"].replace("-", "−") if MINUS.match(case["text"]) else case["text"],
                )
        self.assertGreaterEqual(tried, 80)
