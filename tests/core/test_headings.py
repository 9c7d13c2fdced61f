"""Column headings: dates that follow the locale, and labels that stay."""

import unittest
from typing import Any

from pydantic import ValidationError

from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.rules.rulebook import Reach, with_clauses
from humble_sum.core.statements.pack import Column
from humble_sum.records.demo import demo_pack
from tests.making import pack, rule, statement


def heads(statement: str, **clauses: Any) -> tuple[str, ...]:
    """What stands over the demo statement's columns under another rule for it."""
    pack = demo_pack()
    book = with_clauses(pack.rulebook, Reach(statement=statement), "Test", read_clauses(clauses))
    changed = pack.model_copy(update={"rulebook": book})
    found = changed.statement(statement)
    assert found is not None
    return prove(changed, found).heads


class HeadingTest(unittest.TestCase):
    def test_days_are_written_out_as_the_locale_does(self) -> None:
        for tag, first in (
            ("en-IN", "31 March 2026"),
            ("en-US", "March 31, 2026"),
            ("mr-IN", "३१ मार्च, २०२६"),
            ("de-DE", "31. März 2026"),
            ("ar-EG", "٣١ مارس ٢٠٢٦"),
        ):
            with self.subTest(tag):
                self.assertEqual(
                    (heads("position", locale=tag)[0], heads("position", locale=tag)[2]), (first, "Change")
                )
        self.assertEqual(heads("position", locale="mr-IN", digits="latin")[0], "31 मार्च, 2026")

    def test_months_are_named_and_labels_stay(self) -> None:
        found = heads("routes", locale="fr-FR")
        self.assertEqual((found[0], found[1]), ("avr.", "mai"))
        labels = {column.label for column in demo_pack().statements[3].columns if column.date is None}
        self.assertLessEqual(labels, set(found))

    def test_months_of_several_years_say_which(self) -> None:
        for months, first, last in (
            (["2025-04", "2026-03"], "Apr", "Mar"),
            (["2025-03", "2026-03"], "Mar 2025", "Mar 2026"),
            ([f"{2025 + n // 12}-{n % 12 + 1:02}" for n in range(30)], "Jan 2025", "Jun 2027"),
        ):
            ids = tuple(f"m{n}" for n in range(len(months)))
            of = statement({"a": ["1"] * len(ids)}, {}, columns=ids)
            dated = zip(of.columns, months, strict=True)
            of = of.model_copy(update={"columns": tuple(c.model_copy(update={"date": d}) for c, d in dated)})
            for tag in ("en-IN", "ja-JP", "ar-EG", "mr-IN"):
                found = prove(pack(of, rule("house", {"locale": tag})), of).heads
                with self.subTest(months=len(months), tag=tag):
                    self.assertEqual(len(set(found)), len(months))
                    if tag == "en-IN":
                        self.assertEqual((found[0], found[-1]), (first, last))

    def test_a_date_has_to_be_in_the_calendar(self) -> None:
        self.assertEqual(Column(id="a", label="A", date="2024-02-29").date, "2024-02-29")
        for text, said in (
            ("2026-02-30", "not in the calendar"),
            ("2026-13", "not in the calendar"),
            ("31 March 2026", "neither a day nor a month"),
            ("٢٠٢٦-٠٣", "neither a day nor a month"),
        ):
            with self.subTest(text), self.assertRaisesRegex(ValidationError, said):
                Column(id="a", label="A", date=text)
