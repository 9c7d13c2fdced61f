"""Journals and lists of transactions, added up by account and month."""

from __future__ import annotations

import random
import unittest
from collections import defaultdict
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.intake.reading_report import settled
from humble_sum.core.intake.source_breaks import source_breaks
from tests.making import drafted

HEADS = ["Posting date", "Document", "Account", "Account name", "Cost centre", "Debit", "Credit"]
ACCOUNTS = [("4000", "Fares"), ("4100", "Freight"), ("6000", "Wages"), ("6100", "Fuel"), ("1200", "Bank")]


def entries(seed: int, count: int, form: str = "{y}-{m:02d}-{d:02d}") -> list[list[str]]:
    """So many entries of a year, debits and credits in columns of their own."""
    draw = random.Random(seed)
    rows = []
    for number in range(count):
        account, name = draw.choice(ACCOUNTS)
        day = form.format(y=2026, m=draw.randint(1, 3), d=draw.randint(13, 28))
        amount = f"{draw.randint(100, 999_999) / 100:.2f}"
        sides = [amount, ""] if draw.random() < 0.5 else ["", amount]
        rows.append([day, f"D{number:05d}", account, name, draw.choice("NS"), *sides])
    return rows


def wanted_by_thirds() -> list[Decimal]:
    """Of 24 amounts 1.25, 2.25, … every third a debit: what those at even and at odd places come to."""
    signed = [Decimal(f"{n + 1}.25") * (-1 if n % 3 else 1) for n in range(24)]
    return [sum(signed[0::2], Decimal(0)), sum(signed[1::2], Decimal(0))]


class EntriesTest(unittest.TestCase):
    @settings(max_examples=25, deadline=None)
    @given(
        st.integers(0, 10**6),
        st.integers(80, 300),
        st.sampled_from(("{y}-{m:02d}-{d:02d}", "{d}.{m}.{y}", "{d}/{m}/{y}")),
    )
    def test_they_are_added_up_exactly_by_account_and_month(self, seed: int, count: int, form: str) -> None:
        rows = entries(seed, count, form)
        made = drafted([HEADS, *rows])
        wanted: dict[tuple[str, int], Decimal] = defaultdict(Decimal)
        for day, _, account, _, _, debit, credit in rows:
            month = int(day.replace("/", "-").replace(".", "-").split("-")[1])
            wanted[account, month] += Decimal(debit or "0") - Decimal(credit or "0")
        have = {
            (line.id, int(column.label[-2:])): amount
            for line in made.lines
            for column, amount in zip(made.columns, line.amounts, strict=True)
            if amount is not None
        }
        self.assertEqual(have, dict(wanted))
        self.assertEqual({line.label for line in made.lines}, {name for _, name in ACCOUNTS})

    def test_it_is_said_with_counts_and_both_sides_and_rows_can_be_kept(self) -> None:
        rows = entries(5, 120)
        made = drafted([HEADS, *rows])
        debits = sum((Decimal(row[5] or "0") for row in rows), Decimal(0))
        (note,) = made.table.notes
        self.assertIn("120 entries are added up to 5 lines", note.what)
        self.assertIn(f"debits of {debits:,.2f}".rstrip("0").rstrip("."), note.what)
        self.assertIn("entry, set out with", " ".join(settled(made)))
        kept = drafted([HEADS, *rows], across="rows")
        self.assertEqual(len(kept.lines), 120)

    def test_codes_in_even_steps_are_no_amounts_and_days_need_no_noughts(self) -> None:
        heads = ["Posting date", "Document", "Account", "Account name", "Amount"]
        rows = [
            [f"2026-{n % 3 + 1}-{n % 19 + 1}", f"D{n}", f"40{n % 4}", f"Account {n % 4}", f"{n}.50"]
            for n in range(1, 61)
        ]
        made = drafted([heads, *rows])
        self.assertEqual([column.label for column in made.columns], ["2026-01", "2026-02", "2026-03"])
        self.assertEqual({line.id for line in made.lines}, {"400", "401", "402", "403"})

    def test_one_side_alone_is_added_up_too(self) -> None:
        for heads, sign in (
            (("Debit", "Credit"), 1),
            (("Soll", "Haben"), 1),
            (("Haben", "Soll"), -1),
            (("Credit",), -1),
        ):
            rows = [["Date", "Account", "Text", *heads]]
            for n, (account, amount) in enumerate([("4000", "1200.00"), ("5000", "340.50")] * 4):
                rows.append([f"2026-01-{n + 13}", account, f"Paid {n}", amount, *[""] * (len(heads) - 1)])
            with self.subTest(heads=heads):
                lines = drafted(rows).lines
                self.assertEqual(
                    [line.amounts[0] for line in lines],
                    [sign * Decimal("4800.00"), sign * Decimal("1362.00")],
                )

    def test_a_second_key_can_be_the_columns(self) -> None:
        made = drafted([HEADS, *entries(6, 120)], across="E")
        self.assertEqual({column.label for column in made.columns}, {"N", "S"})

    def test_currencies_are_never_added_together(self) -> None:
        rows = [[*row, "EUR" if n % 2 else "USD"] for n, row in enumerate(entries(7, 160))]
        made = drafted([[*HEADS, "Currency"], *rows])
        self.assertTrue(all(line.label.endswith((", EUR", ", USD")) for line in made.lines))

    def test_each_currency_is_said_by_itself(self) -> None:
        rows = [[*row, "EUR" if n % 2 else "USD"] for n, row in enumerate(entries(7, 160))]
        (note,) = drafted([[*HEADS, "Currency"], *rows]).table.notes
        self.assertIn("in EUR debits of", note.what)
        self.assertIn("in USD debits of", note.what)

    def test_a_column_or_a_mark_that_says_the_side_gives_the_sign(self) -> None:
        for debit, credit, heading in (("Dr", "Cr", "Dr/Cr"), ("S", "H", "S/H"), ("D", "C", "")):
            rows = [["Date", "Account", "Voucher", "Amount", heading]]
            for n in range(24):
                side = credit if n % 3 else debit
                rows.append([f"2026-01-{n + 1:02d}", f"Account {n % 2}", f"V{n}", f"{n + 1}.25", side])
            with self.subTest(debit=debit):
                self.assertEqual([line.amounts[0] for line in drafted(rows).lines], wanted_by_thirds())
        rows = [["Date", "Account", "Voucher", "Amount"]]
        for n in range(24):
            amount = f"{n + 1}.25 {'Cr' if n % 3 else 'Dr'}"
            rows.append([f"2026-01-{n + 1:02d}", f"Account {n % 2}", f"V{n}", amount])
        self.assertEqual([line.amounts[0] for line in drafted(rows).lines], wanted_by_thirds())

    def test_totals_among_entries_are_no_entries_and_are_held_against_them(self) -> None:
        whole = entries(8, 60)
        sides = [sum(Decimal(row[n] or "0") for row in whole) for n in (5, 6)]
        half = [sum(Decimal(row[n] or "0") for row in whole[:30]) for n in (5, 6)]
        rows = [
            *whole[:30],
            ["", "", "", "Subtotal", "", *map(str, half)],
            *whole[30:],
            ["Total", "", "", "", "", *map(str, sides)],
        ]
        made = drafted([HEADS, *rows])
        self.assertIn("60 entries", made.table.notes[0].what)
        self.assertEqual(list(source_breaks(made)), [])
        rows[-1][6] = str(sides[1] + 1)
        (broken,) = source_breaks(drafted([HEADS, *rows]))
        self.assertEqual((broken.place, broken.off), ("G63", Decimal(1)))

    def test_a_day_goes_on_for_the_rows_of_its_document(self) -> None:
        rows = [["Date", "Voucher", "Account", "Debit", "Credit"]]
        for n in range(20):
            rows.append([f"2026-0{n % 2 + 1}-{n + 1:02d}", f"V{n}", "Bank", f"{n + 1}.75", ""])
            rows.append(["", "", "Fares", "", f"{n + 1}.50"])
            rows.append(["", "", "Net fees", "", "0.25"])
        made = drafted([*rows, ["", "", "Total", "225.00", "225.00"]])
        self.assertEqual(list(source_breaks(made)), [])
        self.assertEqual([column.label for column in made.columns], ["2026-01", "2026-02"])
        amounts = {line.label: line.amounts for line in made.lines}
        self.assertEqual(amounts["Net fees"], (Decimal("-2.50"), Decimal("-2.50")))

    def test_headings_over_entries_name_their_accounts_and_what_is_left_out_is_named(self) -> None:
        rows = [["General ledger", "", "", "", "Page 1", ""]]
        rows += [["Date", "Ref", "Description", "Debit", "Credit", "Balance"]]
        for account in ("1000 Bank", "4000 Fares"):
            rows += [[account, *[""] * 5], ["", "", "Opening balance", "", "", "77.10"]]
            rows += [["General ledger", "", "", "", "Page 2", ""], rows[1]]
            rows += [
                [f"{n + 13}/01/2026", f"R{n}", f"Paid {n % 3}", "10.50", "", f"{n}.10"] for n in range(9)
            ]
            rows += [["20/01/2026", "R9", "Paid 0", "soon", "", "1.10"]]
        made = drafted(rows)
        self.assertEqual(
            {line.label: line.amounts for line in made.lines},
            {"1000 Bank": (Decimal("94.50"),), "4000 Fares": (Decimal("94.50"),)},
        )
        said = " ".join(note.what for note in made.table.notes)
        for each in ("Opening balance", "D16 “soon”", "“Balance” is not added up"):
            self.assertIn(each, said)

    def test_a_heading_may_state_the_balance_that_its_account_begins_with(self) -> None:
        rows = [["Date", "Ref", "Description", "Debit", "Credit", "Balance"]]
        for account in ("1000 Bank", "4000 Fares"):
            rows += [[account, "", "Opening balance", "", "", "77.10"]]
            rows += [
                [f"{n + 13}/01/2026", f"R{n}", f"Paid {n % 3}", "10.50", "", f"{n}.10"] for n in range(9)
            ]
        self.assertEqual(
            {line.label: line.amounts for line in drafted(rows).lines},
            {"1000 Bank": (Decimal("94.50"),), "4000 Fares": (Decimal("94.50"),)},
        )

    def test_several_amounts_of_an_entry_are_columns_of_their_own_and_prices_are_not_added(self) -> None:
        rows = [["Invoice", "Date", "Customer", "Qty", "Unit price", "Net", "VAT 20%", "Gross"]]
        for n in range(40):
            net = (n % 7 + 1) * 125 * (n + 3)
            cells = [n % 7 + 1, f"{1.25 * (n + 3):.2f}", f"{net / 100:.2f}", f"{net / 500:.2f}"]
            row = [
                f"I{n}",
                f"2026-01-{n % 28 + 1:02d}",
                f"Customer {n % 4}",
                *cells,
                f"{net * 1.2 / 100:.2f}",
            ]
            rows.append([*map(str, row)])
        made = drafted(rows)
        self.assertEqual([column.label for column in made.columns], ["Net", "VAT 20%", "Gross"])
        self.assertEqual(len(made.lines), 4)
        self.assertIn("“Qty”, “Unit price” are not added up", " ".join(n.what for n in made.table.notes))

    def test_journals_are_known_in_other_languages(self) -> None:
        for heads in (
            "Data|Lançamento|Conta|Débito|Crédito",
            "Дата|Документ|Счет|Дебет|Кредит",
            "日期|凭证号|科目|借方|贷方",
            "日付|伝票番号|勘定科目|借方|貸方",
            "Datum|Doklad|Účet|Má dáti|Dal",
            "Dátum|Bizonylat|Főkönyvi számla|Tartozik|Követel",
            "Tarih|Fiş no|Hesap|Borç|Alacak",
            "Datum|Verifikation|Konto|Debet|Kredit",
            "التاريخ|المستند|الحساب|مدين|دائن",
            "일자|전표번호|계정과목|차변|대변",
            "दिनांक|वाउचर|खाता|नामे|जमा",
        ):
            rows = [heads.split("|")]
            for n in range(12):
                rows.append([f"2026-01-{n + 1:02d}", f"J{n}", "A1", f"{n + 1}.25", ""])
                rows.append([f"2026-01-{n + 1:02d}", f"J{n}", "A2", "", f"{n + 1}.25"])
            with self.subTest(heads=heads):
                self.assertEqual(
                    [line.amounts for line in drafted(rows).lines], [(Decimal(81),), (Decimal(-81),)]
                )

    def test_the_unit_over_the_amounts_or_over_the_table_is_theirs(self) -> None:
        rows = [[f"2026-01-{n % 28 + 1:02d}", f"Account {n % 3}", f"V{n}", f"{n}.5"] for n in range(30)]
        in_head = drafted([["Date", "Account", "Voucher", "Amount (£000)"], *rows])
        above = drafted(
            [["Amounts in thousands of pounds", "", "", ""], ["Date", "Account", "Voucher", "Amount"], *rows]
        )
        for made in (in_head, above):
            self.assertEqual(made.lines[0].amounts, (Decimal(140_000),))

    def test_currencies_of_cells_are_kept_apart_or_are_that_of_all(self) -> None:
        for signs, wanted in ((("$", "€"), {"USD", "EUR"}), (("$", "$"), set())):
            rows = [["Date", "Account", "Voucher", "Amount"]]
            rows += [
                [f"2026-01-{n % 28 + 1:02d}", f"Account {n % 3}", f"V{n}", f"{signs[n % 2]}{n}.25"]
                for n in range(30)
            ]
            made = drafted(rows)
            self.assertEqual({line.currency for line in made.lines} - {None}, wanted)
            self.assertEqual(made.currency, None if wanted else "USD")

    def test_postings_of_months_are_entries_and_a_register_of_assets_is_none(self) -> None:
        rows = [["Period", "Account", "Account name", "Amount"]]
        rows += [[f"2026-{n % 3 + 1:02d}", f"400{n % 4}", f"Name {n % 4}", f"{n}.25"] for n in range(48)]
        made = drafted(rows)
        self.assertEqual([column.label for column in made.columns], ["2026-01", "2026-02", "2026-03"])
        self.assertEqual(len(made.lines), 4)
        rows = [["Date", "Payee", "Amount"]]
        rows += [[f"2026-01-{n % 28 + 1:02d}", f"Payee {n % 5}", f"{n}.25"] for n in range(40)]
        self.assertEqual(len(drafted(rows).lines), 5)
        rows = [["Asset", "Class", "Acquired", "Cost"]]
        rows += [[f"Vessel {n}", f"Class {n % 2}", f"2026-01-{n + 1:02d}", f"{n}00.50"] for n in range(24)]
        self.assertEqual(len(drafted(rows).lines), 24)

    def test_a_statement_with_a_date_in_each_row_stays_one(self) -> None:
        names = [f"Vessel {n}" for n in range(30)]
        rows = [
            [name, f"2026-03-{n % 28 + 1:02d}", "EUR", str(1_000 + 7 * n)] for n, name in enumerate(names)
        ]
        made = drafted([["Vessel", "Delivered", "Currency", "Price paid"], *rows])
        self.assertIsNone(made.across)
        self.assertEqual(len(made.lines), 30)


if __name__ == "__main__":
    unittest.main()
