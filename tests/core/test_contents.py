"""What a pack holds, changed after the fact, and figures of the next period: what is whole, what is refused."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.changes.cost_signs import costs_in, in_signs_of
from humble_sum.core.changes.renamed import renamed
from humble_sum.core.changes.roll_forward import Compared
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.core.statements.relations import exact_amounts
from tests.every_change import DEMO

WHOLE = prove_pack(DEMO)


def changed(kind: str, statement: str = "income", **said: Any) -> Pack:
    return apply(WHOLE, read_change({"kind": kind, "statement": statement} | said)).pack


def exact(pack_proof: PackProof, line: str) -> Decimal:
    amount = pack_proof.proofs["income"].figures[line, "y26"].exact
    assert amount is not None
    return amount


def statement(*lines: dict[str, Any]) -> Statement:
    columns = [{"id": "now", "label": "Now"}, {"id": "then", "label": "Then"}]
    return Statement.model_validate(
        {"id": "s", "name": "S", "title": "S", "columns": columns, "lines": lines}
    )


def line(id: str, now: Any = None, then: Any = None, **more: Any) -> dict[str, Any]:
    amounts = {name: amount for name, amount in (("now", now), ("then", then)) if amount is not None}
    return {"id": id, "label": id.capitalize(), "amounts": amounts} | more


class ContentsTest(unittest.TestCase):
    def test_an_amount_is_corrected_exactly_and_its_totals_follow(self) -> None:
        after = prove_pack(
            changed("correct_amount", line="fuel", column="y26", amount="-88646650.151", reason="late")
        )
        for name in ("fuel", "costs", "op", "net"):
            self.assertEqual(exact(after, name) - exact(WHOLE, name), Decimal("-0.001"), name)

    def test_what_follows_from_others_is_not_corrected(self) -> None:
        for row, column in (("net", "y26"), ("fuel", "change")):
            with self.subTest(row), self.assertRaises(InputError) as raised:
                changed("correct_amount", line=row, column=column, amount="1", reason="so")
            self.assertIn("Correct one of", raised.exception.faults[0].remedy)

    def test_a_reason_is_needed_and_blanks_are_none(self) -> None:
        for reason in ("", "  ", "\u00a0"):
            with self.assertRaises(InputError):
                changed("correct_amount", line="fuel", column="y26", amount="1", reason=reason)

    def test_a_line_that_goes_leaves_its_totals_without_it(self) -> None:
        after = prove_pack(changed("remove_line", line="mail"))
        self.assertEqual(exact(WHOLE, "net") - exact(after, "net"), exact(WHOLE, "mail"))

    def test_what_others_stand_on_does_not_go(self) -> None:
        for said, needs in (
            ({"kind": "remove_line", "line": "costs"}, "Dissolve it"),
            ({"kind": "remove_column", "column": "y25"}, "Take that one out first"),
            ({"kind": "remove_line", "statement": "cash", "line": "opening"}, "Untie that first"),
            ({"kind": "remove_statement", "statement": "position"}, "Untie that first"),
            ({"kind": "move_column", "column": "y26", "before": "gone"}, "Leave it out to put it last"),
        ):
            with self.subTest(said), self.assertRaises(InputError) as raised:
                changed(**said)
            self.assertIn(needs, raised.exception.faults[0].remedy)

    def test_the_last_statement_line_and_column_stay(self) -> None:
        columns = [{"id": "a", "label": "A"}]
        only = {
            "id": "s",
            "name": "S",
            "title": "S",
            "columns": columns,
            "lines": [{"id": "x", "label": "X"}],
        }
        one = prove_pack(Pack.model_validate({"entity": "E", "period": "P", "statements": [only]}))
        for said in (
            {"kind": "remove_statement"},
            {"kind": "remove_line", "line": "x"},
            {"kind": "remove_column", "column": "a"},
        ):
            with self.subTest(said), self.assertRaises(InputError) as raised:
                apply(one, read_change(said | {"statement": "s"}))
            self.assertIn("Add another before", raised.exception.faults[0].remedy)

    def test_columns_and_statements_keep_their_figures_when_they_move(self) -> None:
        moved = changed("move_column", column="change", before="y26")
        for new in (moved, changed("move_statement", before=None)):
            for id, proof in prove_pack(new).proofs.items():
                then = {ref: figure.exact for ref, figure in WHOLE.proofs[id].figures.items()}
                self.assertEqual({ref: figure.exact for ref, figure in proof.figures.items()}, then)


class NextPeriodTest(unittest.TestCase):
    def likely(self, gone: dict[str, int], new: dict[str, tuple[int, int]]) -> list[tuple[str, str]]:
        """What each new line, with its newest amount and the one before, is offered as."""
        lines = [Compared(label, label, "gone", Decimal(was), None) for label, was in gone.items()]
        lines += [Compared(label, label, "new", None, Decimal(now)) for label, (now, _) in new.items()]
        rows = [line(f"l{n}", *amounts, label=label) for n, (label, amounts) in enumerate(new.items())]
        return [(each.new, each.old) for each in renamed(lines, statement(*rows))]

    def test_by_words_in_any_order_or_by_last_period_s_amount(self) -> None:
        fees = self.likely({"Mooring and berth fees": 87}, {"Berth and mooring fees": (86, 10)})
        self.assertEqual(fees, [("Berth and mooring fees", "Mooring and berth fees")])
        freight = self.likely({"Haulage": 411_462}, {"Night freight": (460, 411_461)})
        self.assertEqual(freight, [("Night freight", "Haulage")])

    def test_neither_is_no_likeness_and_each_is_offered_once(self) -> None:
        self.assertEqual(self.likely({"Haulage": 0}, {"Night freight": (460, 0)}), [], "zeros tell nothing")
        self.assertEqual(self.likely({"Tax": 5}, {"Interest": (4, 3)}), [])
        offered = self.likely({"Port fees": 9}, {"Port fees paid": (5, 9), "Fees of the port": (6, 8)})
        self.assertEqual(len(offered), 1)

    def test_costs_of_another_sign_are_told_through_every_total(self) -> None:
        positive = statement(
            line("sales", 9, 8),
            line("wages", 4, 3),
            line("costs", kind="subtotal", parts=[["wages", 1]]),
            line("net", kind="total", parts=[["sales", 1], ["costs", -1]]),
        )
        net = line("net", kind="total", parts=[["sales", 1], ["wages", 1]])
        negative = statement(line("sales", 9, 8), line("wages", -4, -3), net)
        self.assertEqual(costs_in(negative, positive), "negative")
        self.assertEqual(costs_in(positive, negative), "positive")
        self.assertIsNone(costs_in(positive, positive))
        alone = statement(line("wages", 4, 3))
        self.assertIsNone(costs_in(negative, alone), "what no total takes off is no cost")
        # Compared as the pack keeps them, no cost moves by twice its amount, and every sum is the same.
        for old, new in ((negative, positive), (positive, negative)):
            turned = in_signs_of(old, new)
            self.assertIsNone(costs_in(old, turned))
            self.assertEqual(in_signs_of(old, turned), turned)
            before, after = exact_amounts(new), exact_amounts(turned)
            self.assertEqual(after["wages", "now"], -(before["wages", "now"] or 0))
            self.assertEqual(after["net", "now"], before["net", "now"])
            self.assertEqual(after["sales", "now"], before["sales", "now"])


if __name__ == "__main__":
    unittest.main()
