"""The solved cases: every one has to print to the letter."""

import unittest
from datetime import date, time
from decimal import Decimal
from typing import Any

from humble_sum.core.locales.dates import date_text, time_text
from humble_sum.core.printing.figure import print_amount
from tests.making import cases, resolved

KINDS: dict[str, dict[str, Any]] = {
    "number": {"form": "number"},
    "percent": {"form": "percent"},
    "currency": {"decimals": "currency"},
    "accounting": {"decimals": "currency", "negative": "brackets"},
    "code": {"decimals": "currency", "money_sign": "code"},
    "narrow": {"decimals": "currency", "money_sign": "short"},
    "name": {"decimals": "currency", "money_sign": "name"},
    "compact-short": {"form": "number", "scale": "fit", "scale_word": "short", "decimals": {"fixed": 1}},
    "compact-long": {"form": "number", "scale": "fit", "scale_word": "full", "decimals": {"fixed": 1}},
}


def in_print(text: str) -> str:
    """A case's text as we print it: a minus for a hyphen-minus, no-break spaces."""
    sign = next((n for n, character in enumerate(text) if character.isdigit()), 0)
    return (text[:sign].replace("-", "\u2212") + text[sign:]).replace(" ", "\u00a0")


class PrintingCasesTest(unittest.TestCase):
    def test_printing_cases(self) -> None:
        for case in cases("printing"):
            value = None if case["value"] is None else Decimal(case["value"])
            with self.subTest(**case):
                clauses = resolved(case["rule"])
                self.assertEqual(print_amount(value, clauses).text, case["text"].replace(" ", "\u00a0"))

    def test_locale_cases(self) -> None:
        for case in cases("locales"):
            kind = case["kind"]
            # Where a locale's accounting has no brackets of its own: with us they are the rule's choice.
            if kind not in KINDS or (kind == "accounting" and "(" not in case["text"]):
                continue
            rule = {"locale": case["locale"], "currency": case.get("currency")} | KINDS[kind]
            if "decimals" in case:
                rule["decimals"] = {"fixed": case["decimals"]}
            with self.subTest(**case):
                printed = print_amount(Decimal(case["value"]), resolved(rule))
                self.assertEqual(printed.text, in_print(case["text"]))

    def test_date_and_time_cases(self) -> None:
        for case in cases("locales"):
            kind, _, length = case["kind"].partition("-")
            if kind == "date":
                text = date_text(date.fromisoformat(case["value"]), case["locale"], length=length)
            elif kind == "time":
                text = time_text(time.fromisoformat(case["value"]), case["locale"], length=length)
            else:
                continue
            with self.subTest(**case):
                self.assertEqual(text.replace("\u202f", " "), case["text"].replace("\u202f", " "))
