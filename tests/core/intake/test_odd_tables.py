"""Tables of odd cells in any order: each is drafted, asked of and explained, or refused, and never breaks."""

from __future__ import annotations

import unittest
from datetime import date
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.intake.decisions import merged
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.questions import questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.intake.reasons import reasons
from humble_sum.core.intake.regions import has_figures, regions
from humble_sum.core.intake.source_breaks import source_breaks
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.intake.table_sentence import column_sentence, row_sentence, table_sentence

WORDS = """Total|Note|Code|Unit|£m|%|D|C|Dr|Cr|-|+|n/a|see note 4|2026|2025|Mar-26|Q1|Fares|合计|of which x|per share
|Vessels|EUR|USD|Currency|Date|Amount|Account|2026-01-03|31.12.2026|1,234|1.234|12.5%|(45)|45-|12 Cr|9,120.10 Cr|$|€
|1e400|=|'|and|000s|in millions, except share data|Soll|Haben|-0|3(a)|1–5 years|5.5% notes|30 days|Budget|Actual
|Variance|\u202e|😀😀😀|Balance|Debit|Credit""".replace("\n", "").split("|")
CODES = ("0.0%", "#,##0,", '"FY"00', '0 "Cr";0 "Dr"')
CELLS = st.one_of(
    st.sampled_from(WORDS).map(SheetCell),
    st.decimals(-(10**7), 10**7, places=2).map(SheetCell),
    st.integers(-99, 9_999).map(lambda number: SheetCell(Decimal(number))),
    st.dates(date(2025, 1, 1), date(2026, 12, 31)).map(SheetCell),
    st.sampled_from(("=B2+B3", "=SUM(B2:B4)", "=A1/A2")).map(lambda text: SheetCell(None, formula=text)),
    st.tuples(st.integers(1, 50), st.sampled_from(CODES)).map(
        lambda of: SheetCell(Decimal(of[0]), code=of[1])
    ),
    st.just(SheetCell()),
)


class OddTableTest(unittest.TestCase):
    @settings(max_examples=120, deadline=None)
    @given(
        st.integers(1, 6).flatmap(
            lambda width: st.lists(
                st.lists(CELLS, min_size=width, max_size=width).map(tuple), min_size=1, max_size=12
            )
        ),
        st.sampled_from(("", "Sheet1", "£m")),
    )
    def test_each_is_read_asked_of_and_explained(self, rows: list[tuple[SheetCell, ...]], name: str) -> None:
        for table in regions(Table("odd.csv", name, tuple(rows))):
            if not has_figures(table):
                continue
            made = draft(table)
            asked = questions(made)
            for said in (*settled(made), *map(str, source_breaks(made))):
                self.assertTrue(said.strip())
            self.assertTrue(all(each.reasons for each in reasons(made)))
            told = [table_sentence(made), *(column_sentence(made, column) for column in made.layout.columns)]
            told += [row_sentence(made, row) for row in range(len(table.rows))]
            self.assertTrue(all(told))
            for question in asked[:3]:
                for answer in question.answers[:3]:
                    draft(table, merged(made.decided, answer.decide))
            if made.has_figures:
                self.assertEqual(len(statement_of(made, "odd", "Odd").lines), len(made.lines))


if __name__ == "__main__":
    unittest.main()
