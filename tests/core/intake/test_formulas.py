import unittest

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.core.intake.signed_cells import signed_cells


class FormulasTest(unittest.TestCase):
    def test_sums_and_differences_become_signed_cells(self) -> None:
        for formula, cells in {
            "=SUM(B2:B4)": {(1, 1): 1, (2, 1): 1, (3, 1): 1},
            "=sum($B$2,B4)": {(1, 1): 1, (3, 1): 1},
            "=B2+B3-B4": {(1, 1): 1, (2, 1): 1, (3, 1): -1},
            "=-B2": {(1, 1): -1},
            "=B2-SUM(B3:B4)": {(1, 1): 1, (2, 1): -1, (3, 1): -1},
            "=B2-(B3-B4)": {(1, 1): 1, (2, 1): -1, (3, 1): 1},
            "= SUM( B2 : B3 ) - C4 ": {(1, 1): 1, (2, 1): 1, (3, 2): -1},
            "=AA10": {(9, 26): 1},
            "=SUM(B4:B3)": {(2, 1): 1, (3, 1): 1},
        }.items():
            with self.subTest(formula=formula):
                self.assertEqual(signed_cells(formula), cells)

    def test_anything_else_is_not_a_sum(self) -> None:
        for formula in (
            "=B2*2",
            "=B2/B3",
            "=AVERAGE(B2:B4)",
            "=IF(B2>0,B2,0)",
            "=Other!B2",
            "=B2+B2",
            "=B2-B2",
            "=SUM(B2",
            "=SUM()",
            "=B2 B3",
            "=B2+",
            "=(B2",
            "=B2)",
            "=1+B2",
            "=",
            "",
            "=SUM(A1:ZZ9999999)",
            "='C:\\[x.xlsx]S'!A1",
        ):
            with self.subTest(formula=formula):
                self.assertIsNone(signed_cells(formula))

    @given(st.text(alphabet="=SUM()AB12:,+-$ ", max_size=20))
    def test_no_text_breaks_it(self, formula: str) -> None:
        cells = signed_cells(formula)
        self.assertTrue(cells is None or set(cells.values()) <= {1, -1})
