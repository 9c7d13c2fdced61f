"""Printing values by themselves; the examples in the documentation run."""

import doctest
import unittest
from decimal import Decimal

from humble_sum import show
from humble_sum.core.errors import InputError
from humble_sum.core.printing import printer as showing
from humble_sum.core.printing.clauses import read_clauses


class ShowTest(unittest.TestCase):
    def test_the_documented_examples_are_true(self) -> None:
        failed, tried = doctest.testmod(showing)
        self.assertGreater(tried, 5)
        self.assertEqual(failed, 0)

    def test_values_of_every_sort_under_rules_read_already(self) -> None:
        clauses = read_clauses({"decimals": {"fixed": 1}, "negative": "brackets"})
        shown = show([Decimal("-2.25"), 3, "4.04", None], clauses)
        self.assertEqual([s.text for s in shown], ["(2.3)", "3.0", "4.0", ""])
        self.assertEqual([s.hang for s in shown], [")", "", "", ""])
        self.assertEqual([s.units for s in shown], [-23, 30, 40, None])

    def test_a_figure_too_wide_says_so_and_is_not_cut(self) -> None:
        (shown,) = show(["1234567"], {"width": {"most": 5, "gives_way": "nothing"}})
        self.assertEqual((shown.text, shown.too_wide), ("1,234,567", True))

    def test_floats_text_and_unknown_clauses_are_refused_by_name(self) -> None:
        for values, rule, said in (
            ([1.5], {}, "value 1: 1.5 is a binary number"),
            (["1", "about ten"], {}, 'value 2: "about ten" is not a decimal'),
            (["1"], {"scale": "dozens"}, "scale"),
            (["1"], {"colour": "red"}, "colour"),
        ):
            with self.subTest(said), self.assertRaises(InputError) as refused:
                show(values, rule)  # type: ignore[arg-type]
            self.assertIn(said, "; ".join(str(fault) for fault in refused.exception.faults))
