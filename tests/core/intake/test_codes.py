import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.intake.code_clauses import look_of
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.looks import Looks
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.statement_proof import prove
from tests.making import code_of, one_figure, rule


class LookTest(unittest.TestCase):
    def test_what_a_code_says_becomes_clauses(self) -> None:
        number = {"form": "number", "scale": "ones"}
        for code, clauses in {
            "0": number | {"decimals": {"fixed": 0}, "grouping": "none"},
            "#,##0.00": number | {"decimals": {"fixed": 2}, "grouping": "threes"},
            "#,##0,": number | {"decimals": {"fixed": 0}, "grouping": "threes", "scale": "thousands"},
            "0.0,,": number | {"decimals": {"fixed": 1}, "grouping": "none", "scale": "millions"},
            "0.0%": {"form": "percent", "decimals": {"fixed": 1}, "grouping": "none"},
            "##\\,##\\,##0": number | {"decimals": {"fixed": 0}, "grouping": "lakhs"},
            "#,##0;(#,##0)": number
            | {"decimals": {"fixed": 0}, "grouping": "threes", "negative": "brackets"},
            "#,##0_);(#,##0);\\-": number
            | {"decimals": {"fixed": 0}, "grouping": "threes", "negative": "brackets", "zero": "dash"},
            '#,##0;-#,##0;"nil"': number
            | {"decimals": {"fixed": 0}, "grouping": "threes", "negative": "minus", "zero": {"word": "nil"}},
            "0;0-;": number
            | {"decimals": {"fixed": 0}, "grouping": "none", "negative": "trailing_minus", "zero": "blank"},
            "[$₹-4009]#,##0.00": {
                "form": "amount",
                "scale": "ones",
                "currency": "INR",
                "money_shown": "every",
                "decimals": {"fixed": 2},
                "grouping": "threes",
            },
            '"€"#,##0': {
                "form": "amount",
                "scale": "ones",
                "currency": "EUR",
                "money_shown": "every",
                "decimals": {"fixed": 0},
                "grouping": "threes",
            },
        }.items():
            with self.subTest(code=code):
                look = look_of(code)
                self.assertEqual((look.clauses, look.unheld), (clauses, ()))
                read_clauses(look.clauses)

    def test_what_no_clause_holds_is_named(self) -> None:
        for code, said in (
            ("#,##0;[Red]-#,##0", "negatives in red"),
            ("[>=1000]#,##0;0", "a condition"),
            ("0.0#", "left out when they are zero"),
            ("0000", "zeros in front"),
        ):
            with self.subTest(code=code):
                self.assertIn(said, " ".join(look_of(code).unheld))

    def test_codes_for_dates_and_text_say_nothing(self) -> None:
        for code in ("General", "", "@", "dd/mm/yyyy", "h:mm", "[$-409]d mmm yyyy", '"text"'):
            with self.subTest(code=code):
                self.assertEqual(look_of(code).clauses, {})

    def test_the_look_of_most_cells_is_taken(self) -> None:
        def looks(*rows: tuple[str, ...]) -> Looks:
            cells = [[SheetCell("Line"), *(SheetCell(f"M{n}") for n in range(len(rows[0])))]]
            for n, codes in enumerate(rows):
                figures = [SheetCell(Decimal(100 + 7 * n + m), code=code) for m, code in enumerate(codes)]
                cells.append([SheetCell(f"Line {n}"), *figures])
            return draft(Table("x.xlsx", "", tuple(map(tuple, cells)))).looks

        most = looks(("#,##0",) * 2, ("#,##0",) * 2, ("0.00",) * 2)
        self.assertEqual(most.common.clauses["grouping"], "threes")
        self.assertEqual(list(most.lines), [2], "a line otherwise is the exception")
        self.assertEqual(most.own(most.lines[2]), {"decimals": {"fixed": 2}, "grouping": "none"})
        column = looks(*[("#,##0", "#,##0", "0.0%")] * 3)
        self.assertEqual((list(column.columns), list(column.lines)), ([2], []))
        none = looks(("0",), ("0.0",), ("0.00",))
        self.assertEqual((none.common.clauses, list(none.lines)), ({}, [0, 1, 2]), "one of three is not most")

    def test_codes_by_size_say_nothing_of_negatives(self) -> None:
        indian = "[>=10000000]##\\,##\\,##\\,##0;[>=100000]##\\,##\\,##0;##,##0"
        self.assertEqual(
            look_of(indian).clauses,
            {"decimals": {"fixed": 0}, "grouping": "lakhs", "scale": "ones", "form": "number"},
        )
        self.assertEqual(look_of(indian).unheld, ())

    @given(st.text(alphabet='#0,.;()-"\\[]$%_*?@ ₹Red<>=', max_size=24))
    def test_any_code_gives_clauses_a_rule_takes(self, code: str) -> None:
        read_clauses(look_of(code).clauses)


class RoundTripTest(unittest.TestCase):
    """A code written for a rule reads back as clauses that print the same."""

    @settings(max_examples=150)
    @given(
        st.fixed_dictionaries(
            {
                "scale": st.sampled_from(["ones", "thousands", "millions"]),
                "decimals": st.integers(0, 3).map(lambda n: {"fixed": n}),
                "negative": st.sampled_from(["minus", "brackets", "trailing_minus", "triangle", "unsigned"]),
                "zero": st.sampled_from(["figure", "dash", "blank", {"word": "nil"}]),
                "grouping": st.sampled_from(["threes", "none"]),
                "currency": st.sampled_from([None, "USD", "EUR"]),
            }
        ),
        st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**9), max_value=10**9, places=2),
    )
    def test_live_codes_read_back(self, clauses: dict[str, Any], amount: Decimal) -> None:
        made = one_figure(str(amount), rule("house", clauses))
        figure = prove(made, made.statements[0]).figures["a", "now"]
        code, live = code_of(made)
        if live:
            read = ResolvedClauses(**read_clauses(look_of(code).clauses).named())
            again = print_amount(figure.exact, read.at(rounds_away="signed"))
            self.assertEqual(again.text, figure.printed.text, code)
