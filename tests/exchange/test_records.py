"""Figures as tables and records: exact ones read back as they are, and every fact is there."""

import csv
import io
import json
import unittest
from decimal import Decimal

from humble_sum.core.proof.statement_proof import Proof, prove
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.delimited import write_both_csv, write_csv, write_exact_csv, write_tidy_csv
from humble_sum.exchange.figure_records import RECORD_FIELDS, write_records
from tests.making import demo_income, pack, rule, statement


def read(data: bytes) -> list[list[str]]:
    return list(csv.reader(io.StringIO(data.decode("utf-8-sig"), newline="")))


def proved(made: Pack) -> Proof:
    return prove(made, made.statements[0])


class TablesTest(unittest.TestCase):
    def setUp(self) -> None:
        self.pack = demo_income()
        self.proof = proved(self.pack)

    def test_exact_amounts_are_numbers_whatever_their_sign(self) -> None:
        of = statement({"a": ["-5.50", None], "b": ["2", "0"]}, {})
        lines = (of.lines[0].model_copy(update={"label": "=1+1"}), of.lines[1])
        made = pack(of.model_copy(update={"lines": lines}))
        *_, first, second = read(write_exact_csv(made, proved(made)))
        self.assertEqual(first, ["'=1+1", "-5.50", ""])
        self.assertEqual(second[1:], ["2", "0"])

    def test_both_stand_side_by_side(self) -> None:
        printed, exact, both = (
            read(write(self.pack, self.proof)) for write in (write_csv, write_exact_csv, write_both_csv)
        )
        self.assertEqual(len(printed), len(both))
        for one, other, row in zip(printed[5:], exact[5:], both[5:], strict=True):
            self.assertEqual(row[1::2], one[1:])
            self.assertEqual(row[2::2], other[1:])

    def test_a_record_has_what_the_figure_has(self) -> None:
        records = json.loads(write_records(self.pack, self.proof))
        self.assertEqual(len(records), len(self.proof.figures))
        for record, (cell, figure) in zip(records, self.proof.figures.items(), strict=True):
            self.assertEqual(tuple(record), RECORD_FIELDS)
            self.assertEqual((record["line"], record["column"]), cell)
            self.assertEqual(record["printed"], figure.printed.full_text)
            if figure.exact is None:
                self.assertEqual((record["exact"], record["units"]), ("", ""))
                continue
            self.assertEqual(Decimal(record["exact"]), figure.exact)
            where = Decimal(record["units"]) - Decimal(record["drift"])
            self.assertEqual(where * 10 ** int(record["exponent"]), figure.exact)
            self.assertIn(record["printed"], record["trace"])

    def test_tidy_rows_are_the_records(self) -> None:
        head, *rows = read(write_tidy_csv(self.pack, self.proof))
        self.assertEqual(tuple(head), RECORD_FIELDS)
        for row, record in zip(rows, json.loads(write_records(self.pack, self.proof)), strict=True):
            said = dict(zip(head, row, strict=True))
            self.assertEqual(
                {k: v.lstrip("'") for k, v in said.items()}, {k: v.lstrip("'") for k, v in record.items()}
            )

    def test_what_would_run_as_a_formula_does_not(self) -> None:
        made = pack(
            statement({"a": ["-1"]}, {}, columns=("now",)),
            rule("r", {"negative": "minus"}),
        )
        for write in (write_csv, write_both_csv, write_tidy_csv):
            for row in read(write(made.model_copy(update={"entity": "=2+3"}), proved(made))):
                for cell in row:
                    self.assertFalse(cell.startswith(("=", "@", "+")), cell)
