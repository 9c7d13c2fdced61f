import unittest
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.derivation import Terms, derivable, derive, describe_terms
from humble_sum.core.errors import InputError
from humble_sum.core.statements.grid import grid_of
from humble_sum.core.statements.pack import Column, Line, Statement
from humble_sum.core.statements.relations import exact_amounts

QUARTERS = ("q1", "h1", "q2", "m9", "q3", "year", "q4")


def to_date(quarters: list[list[int]]) -> Statement:
    """Lines by quarters against year to date, all of them given, under a total."""
    lines = []
    for n, (a, b, c, d) in enumerate(quarters):
        amounts = (a, a + b, b, a + b + c, c, a + b + c + d, d)
        lines.append(
            Line(
                id=f"l{n}",
                label=f"Line {n}",
                amounts={id: Decimal(amount) / 100 for id, amount in zip(QUARTERS, amounts, strict=True)},
            )
        )
    adds = tuple((line.id, 1) for line in lines)
    lines.append(Line(id="all", label="All", kind="total", parts=adds))
    columns = tuple(Column(id=id, label=id.upper()) for id in QUARTERS)
    return Statement(id="s", name="S", title="S", columns=columns, lines=tuple(lines))


AMOUNTS = st.lists(
    st.lists(st.integers(-(10**9), 10**9), min_size=4, max_size=4), min_size=1, max_size=5
).filter(lambda lines: any(line[1] for line in lines))


class DerivingTest(unittest.TestCase):
    def ways(self, statement: Statement, column: str) -> list[Terms]:
        return list(derivable(grid_of(statement), column))

    @settings(max_examples=100)
    @given(AMOUNTS)
    def test_a_quarter_follows_from_two_years_to_date_and_back(self, quarters: list[list[int]]) -> None:
        statement = to_date(quarters)
        exact = exact_amounts(statement)
        terms = (("h1", 1), ("q1", -1))
        self.assertIn(terms, self.ways(statement, "q2"))
        for way in self.ways(statement, "q2"):
            derived = derive(statement, "q2", way)
            self.assertEqual(exact_amounts(derived), exact)
            self.assertFalse(any("q2" in line.amounts for line in derived.lines))
            self.assertEqual(derive(derived, "q2", ()), statement)

    def test_a_year_is_its_quarters_and_nothing_goes_in_a_circle(self) -> None:
        statement = to_date([[125, 250, 375, 425], [5, -17, 30, 1]])
        year = derive(statement, "year", (("q1", 1), ("q2", 1), ("q3", 1), ("q4", 1)))
        column = year.column("year")
        assert column is not None
        self.assertEqual(column.sum, ("q1", "q2", "q3", "q4"))
        self.assertEqual(describe_terms(year, column.terms), "Q1, Q2, Q3 and Q4 added")
        self.assertIn((("m9", 1), ("q4", 1)), self.ways(year, "year"))
        # The year is made of the last quarter now, which cannot be made of the year.
        self.assertEqual(self.ways(year, "q4"), [])
        with self.assertRaisesRegex(InputError, "made of itself"):
            derive(year, "q4", (("year", 1), ("m9", -1)))

    def test_longer_sums_are_found_among_columns_side_by_side(self) -> None:
        amounts = {"a": "10", "b": "7", "c": "5", "d": "300", "five": "22", "all": "322"}
        made = Statement(
            id="s",
            name="S",
            title="S",
            columns=tuple(Column(id=id, label=id) for id in amounts),
            lines=(Line.model_validate({"id": "x", "label": "X", "amounts": amounts}),),
        )
        self.assertEqual(self.ways(made, "five"), [(("all", 1), ("d", -1)), (("a", 1), ("b", 1), ("c", 1))])
        self.assertIn((("a", 1), ("b", 1), ("c", 1), ("d", 1)), self.ways(made, "all"))

    def test_a_share_is_made_of_its_column_only(self) -> None:
        quarters = to_date([[1, 2, 3, 4]])
        share = Column(id="share", label="Share", share=("h1", "all"))
        made = quarters.model_copy(update={"columns": (*quarters.columns, share)})
        self.assertEqual(self.ways(made, "q2"), self.ways(quarters, "q2"))
        self.assertNotIn("share", {id for terms in self.ways(made, "h1") for id, _ in terms})

    def test_a_percentage_need_not_add_across(self) -> None:
        amounts = {"a": Decimal(10), "b": Decimal(20), "both": Decimal(30)}
        shares = {"a": Decimal("0.1"), "b": Decimal("0.2"), "both": Decimal("0.15")}
        line = Line(id="fares", label="Fares", amounts=amounts)
        margin = Line(id="margin", label="Margin", kind="percent", amounts=shares)
        columns = tuple(Column(id=id, label=id) for id in amounts)
        statement = Statement(id="s", name="S", title="S", columns=columns, lines=(line, margin))
        made = derive(statement, "both", (("a", 1), ("b", 1))).column("both")
        assert made is not None
        self.assertEqual(made.sum, ("a", "b"))

    def test_what_does_not_come_to_its_amounts_is_refused_by_line(self) -> None:
        statement = to_date([[125, 250, 375, 425], [5, -17, 30, 1]])
        with self.assertRaisesRegex(InputError, "On Line 0, Q3 is not what H1 less Q1 comes to"):
            derive(statement, "q3", (("h1", 1), ("q1", -1)))
        for terms, says in (
            ((("h1", 1),), "difference of two others"),
            ((("h1", 1), ("none", 1)), 'no column "none"'),
            ((("h1", -1), ("q1", -1)), "difference of two others"),
        ):
            with self.assertRaisesRegex(InputError, says):
                derive(statement, "q2", terms)

    def test_an_amount_that_is_missing_is_not_made_up(self) -> None:
        statement = to_date([[125, 250, 375, 425], [5, -17, 30, 1]])
        first, *others = statement.lines
        without = first.model_copy(update={"amounts": {k: a for k, a in first.amounts.items() if k != "q2"}})
        self.assertEqual(self.ways(statement.model_copy(update={"lines": (without, *others)}), "q2"), [])
