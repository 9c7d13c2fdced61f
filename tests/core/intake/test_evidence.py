"""Evidence in bits: what arithmetic says, what words say against it, and tables made up with their truth."""

from __future__ import annotations

import random
import unittest
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.intake.arithmetic import across, down, groups, products
from humble_sum.core.intake.reasons import reasons
from humble_sum.core.intake.signals import Signal, rising, settle
from humble_sum.core.intake.source_breaks import source_breaks
from tests.making import drafted
from tests.tables.compared import read
from tests.tables.written import tables

TABLES = 150


class SignalTest(unittest.TestCase):
    def test_the_reading_with_most_bits_is_settled_and_the_margin_is_to_the_next(self) -> None:
        signals = [
            Signal("a", 8, "named"),
            Signal("b", 3, "like"),
            Signal("b", 3, "usual"),
            Signal("c", -4, "no"),
        ]
        verdict = settle("column A", signals, ("a", "b", "c"), "b")
        self.assertEqual((verdict.reading, verdict.margin), ("a", 2))
        self.assertEqual(verdict.strongest[0].because, "named")
        self.assertEqual(settle("x", [], ("a", "b"), "b").reading, "b")

    def test_amounts_rise_by_chance_once_in_all_their_orders(self) -> None:
        self.assertEqual(rising(1), 0)
        self.assertAlmostEqual(rising(4), 4.585, 3)  # of 24 orders one


class RelationTest(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 10**6))
    def test_chance_sums_of_small_figures_say_nothing(self, seed: int) -> None:
        draw = random.Random(seed)
        rows = [[Decimal(draw.randint(10, 99))] for _ in range(6)]
        self.assertTrue(all(relation.bits < 10 for relation in down(rows)))

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(
            st.lists(st.integers(100, 9_999).map(lambda n: 10 * n + 3), min_size=3, max_size=3),
            min_size=3,
            max_size=8,
        )
    )
    def test_columns_that_add_in_every_row_are_found_with_many_bits(self, parts: list[list[int]]) -> None:
        rows = [[*map(Decimal, row), Decimal(sum(row))] for row in parts]
        best = across(rows)[0]
        self.assertEqual((best.total, best.holds, best.fails), (3, len(rows), 0))
        self.assertGreater(best.bits, 20)
        self.assertEqual(groups([best], 6), dict.fromkeys(range(4), 0))

    def test_a_row_that_does_not_add_speaks_against(self) -> None:
        rows = [[Decimal(a), Decimal(b), Decimal(a + b)] for a, b in ((123, 456), (789, 12), (345, 678))]
        whole = next(r for r in across(rows) if r.total == 2 and len(r.parts) == 2)
        rows[1][2] += 50
        broken = next(r for r in across(rows) if r.total == 2 and len(r.parts) == 2)
        self.assertLess(broken.bits, whole.bits - 4)
        self.assertEqual(broken.fails, 1)

    def test_counts_times_prices_are_told_by_what_they_come_to_in_thousands(self) -> None:
        pairs = ((2_142, "72.10"), (3_908, "84.07"), (6_637, "89.55"))
        rows = [
            [Decimal(count), Decimal(price), round(count * Decimal(price) / 1_000, 2)]
            for count, price in pairs
        ]
        (found,) = products(rows)
        self.assertEqual((found.of, found.factors, found.power), (2, (0, 1), 3))
        self.assertGreater(found.bits, 30)
        rows[1][2] += 5
        self.assertLess(products(rows)[0].bits, found.bits - 10)
        rows[2][2] += 5
        self.assertEqual(products(rows), [])
        table = [["£'000", "Calls", "Fee", "Dues"]]
        table += [[f"Pier {n}", *map(str, row)] for n, row in enumerate(rows[:1] + rows[:1])]
        table[2][1:] = ["3908", "84.07", "328.55"]
        self.assertEqual(drafted(table).lines[0].amounts, (2_142, Decimal("72.10"), 154_440))

    def test_a_total_less_its_own_parts_is_no_relation(self) -> None:
        rows = [[Decimal(n)] for n in (18_813, 1_012, 19_825, 2_247, 2_247)]
        self.assertEqual([(r.total, len(r.parts)) for r in down(rows)], [(2, 2)])


class MadeUpTest(unittest.TestCase):
    def test_tables_of_styles_that_set_no_weights_are_read_right(self) -> None:
        found = [read(made) for made in tables("measuring", TABLES, seed=7)]
        amounts = sum(each.amounts for each in found)
        silent = [each.made.seed for each in found if each.silent]
        self.assertLessEqual(len(silent), 1, silent)
        self.assertGreater(amounts, 10 * TABLES)
        sums, right = sum(each.sums for each in found), sum(each.found for each in found)
        self.assertGreaterEqual(right, 0.98 * sums)
        self.assertLessEqual(sum(len(each.false) for each in found), sums / 200)
        self.assertLess(sum(len(each.questions) for each in found), TABLES)

    def test_no_word_decides_what_a_sum_contradicts(self) -> None:
        rows = [["£'000", "Current", "30 days", "60 days", "Total"]]
        rows += [["A", "1,200", "300", "100", "1,600"], ["B", "800", "250", "75", "1,125"]]
        made = drafted(rows)
        self.assertEqual([line.amounts[1] for line in made.lines], [Decimal(300_000), Decimal(250_000)])
        dividends = [["£m", "2026", "2025"], ["Final dividend per share", "12.5", "11.0"]]
        dividends += [["Interim dividend per share", "4.5", "4.0"], ["Total dividends", "17.0", "15.0"]]
        alone = [["£m", "2026", "2025"], ["Revenue", "120.5", "110.0"], ["Dividend per share", "4.5", "4.1"]]
        self.assertEqual(drafted(alone).lines[1].amounts[0], Decimal("4.5"))
        self.assertEqual(drafted(dividends).lines[0].amounts[0], Decimal("12.5"))  # all say so

    def test_each_decision_says_why_with_what_speaks_against_it(self) -> None:
        rows = [["£m", "2026", "2025"], ["Final dividend per share", "12.5", "11.0"]]
        rows += [["Special dividend", "4.5", "4.0"], ["Scrip dividend", "2.5", "2.0"]]
        rows += [["Total dividends", "19.5", "17.0"]]
        told = {each.of: each for each in reasons(drafted(rows)) if each.read_as == "amounts of money"}
        line = told["Final dividend per share"]
        self.assertEqual([reason.speaks for reason in line.reasons], ["for", "for", "against"])
        self.assertIn("adds up with", line.reasons[0].because)
        self.assertIn("per share", line.reasons[-1].because)
        self.assertEqual(line.reasons[-1].cells, ("A2",))


class SourceBreakTest(unittest.TestCase):
    def test_a_total_that_is_off_is_named_with_its_cell_and_by_how_much(self) -> None:
        head = ["£m", "2026", "2025"]
        made = drafted([head, ["Fares", "100", "90"], ["Freight", "50", "45"], ["Total", "151", "135"]])
        (broken,) = source_breaks(made)
        self.assertEqual((broken.place, broken.off), ("B4", Decimal(1_000_000)))
        self.assertEqual(str(broken), "B4 Total, 2026: states 1,000,000 more than its parts come to")
        whole = drafted([head, ["Fares", "100", "90"], ["Freight", "50", "45"], ["Total", "150", "135"]])
        self.assertEqual(list(source_breaks(whole)), [])

    def test_a_total_whose_part_has_no_figure_says_so(self) -> None:
        rows = [["Line", "2026", "2025"], ["Fares", "n/a", "90"], ["Freight", "50", "45"], ["Hire", "7", "6"]]
        made = drafted([*rows, ["Total", "157", "141"]])
        (broken,) = source_breaks(made)
        self.assertIn("one of which has no figure", str(broken))


class LedgerTest(unittest.TestCase):
    def first(self, *rows: list[str]) -> Decimal | None:
        return drafted([*rows]).lines[0].amounts[0]

    def test_cr_is_a_credit_or_crores_by_what_speaks_for_each(self) -> None:
        balances = (["Account", "Balance"], ["Sales", "9,120.10 Cr"], ["Cash", "9,120.10"])
        self.assertEqual(self.first(*balances), Decimal("-9120.1"))
        crores = (["Particulars", "FY27 (Rs. in crore)"], ["Order book", "1.25 Cr"], ["Revenue", "1,234.56"])
        self.assertEqual(self.first(*crores), Decimal(12_500_000))
        grouped = (["₹", "2026"], ["Order book", "12,34,567 Cr"], ["Other", "1,00,000 Cr"])
        self.assertEqual(self.first(*grouped), Decimal(12_345_670_000_000))

    def test_what_is_not_sure_is_noted(self) -> None:
        made = drafted([["₹", "Balance"], ["Sales", "120 Cr"], ["Other", "7 Cr"]])
        self.assertTrue(any("it could be" in doubt.why for doubt in made.doubts))

    def test_a_column_of_sides_gives_its_amounts_their_signs(self) -> None:
        for debit, credit in (("D", "C"), ("S", "H"), ("Dr", "Cr"), ("+", "-"), ("Soll", "Haben")):
            rows = [["Account", "Amount", "Side"], ["Cash", "120.50", debit], ["Sales", "120.50", credit]]
            made = drafted(rows)
            self.assertEqual([line.amounts[0] for line in made.lines], [Decimal("120.5"), Decimal("-120.5")])


if __name__ == "__main__":
    unittest.main()
