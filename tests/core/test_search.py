"""Figures found by part of their names, over every statement."""

import unittest

from humble_sum.core.proof.figure_search import find_figures
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.records.demo import demo_pack

WHOLE = prove_pack(demo_pack())


class FindTest(unittest.TestCase):
    def test_every_word_has_to_be_there_in_any_order_and_case(self) -> None:
        found = find_figures(WHOLE, "2026 BANK", 40)
        self.assertTrue(found)
        for each in found:
            self.assertIn("bank", each.name.lower())
            self.assertIn("2026", each.name)

    def test_figures_of_other_statements_and_by_the_statements_name(self) -> None:
        owners = {each.ref[0] for each in find_figures(WHOLE, "", 10_000)}
        self.assertEqual(owners, set(WHOLE.proofs))
        named = find_figures(WHOLE, "position assets", 40)
        self.assertEqual({each.ref[0] for each in named}, {"position"})

    def test_no_more_than_asked_for_and_none_twice(self) -> None:
        found = find_figures(WHOLE, "in", 7)
        self.assertEqual(len(found), 7)
        self.assertEqual(len({each.ref for each in found}), 7)
        self.assertEqual(find_figures(WHOLE, "no such name", 7), [])
