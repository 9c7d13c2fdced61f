"""Workbooks: exact amounts in the cells, the printed look in number codes, notes on nudges."""

import io
import re
import unittest
import zipfile
from decimal import ROUND_HALF_UP, Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from openpyxl import load_workbook
from openpyxl.worksheet.worksheet import Worksheet

from humble_sum.core.proof.statement_proof import prove
from humble_sum.exchange.number_codes import quoted
from humble_sum.exchange.workbook import write_xlsx
from tests.exchange.test_outputs import footed_demo, hostile, printed
from tests.making import code_of, one_figure, rule

TOKEN = re.compile(r'"([^"]*)"|\\(.)|([#0][#0,.]*)|(%)')


def sections(code: str) -> list[str]:
    """A number code's sections, split at semicolons that are not quoted."""
    parts, quote = [""], False
    for place, character in enumerate(code):
        if character == '"' and code[place - 1 : place] != "\\":
            quote = not quote
        if character == ";" and not quote:
            parts.append("")
        else:
            parts[-1] += character
    return parts


def shown(code: str, value: Decimal) -> str:
    """What a number code shows, as ECMA-376 part 1, 18.8.31 has it, in English marks.

    Covers what `number_code` writes: three sections, literals, grouping in threes, decimals,
    scaling commas and the percent sign.
    """
    positive, negative, zero = sections(code)
    section = zero if value == 0 else negative if value < 0 else positive
    text, size = "", abs(value)
    tokens = list(TOKEN.finditer(section))
    size = size.scaleb(2 * sum(bool(token[4]) for token in tokens))
    for token in tokens:
        if token[3]:
            digits = token[3]
            bare = digits.rstrip(",")
            size = size.scaleb(-3 * (len(digits) - len(bare)))
            places = len(bare.partition(".")[2])
            rounded = size.quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP)
            text += f"{rounded:,f}" if "," in bare else f"{rounded:f}"
        else:
            text += token[1] or token[2] or token[4] or ""
    return text


def sheet_of(data: bytes) -> Worksheet:
    sheet = load_workbook(io.BytesIO(data)).active
    assert isinstance(sheet, Worksheet)
    return sheet


rules = st.fixed_dictionaries(
    {
        "locale": st.sampled_from(["en-US", "en-IN"]),
        "form": st.sampled_from(["amount", "number", "percent"]),
        "scale": st.sampled_from(["ones", "thousands", "lakhs", "millions", "crores", "billions"]),
        "decimals": st.integers(0, 3).map(lambda n: {"fixed": n}),
        "negative": st.sampled_from(["minus", "brackets", "cr", "triangle", "unsigned", "trailing_minus"]),
        "zero": st.sampled_from(["figure", "dash", "blank", {"word": 'n"il;'}]),
        "rounds_away": st.sampled_from(["figure", "signed", "dash", "less_than", "reveal"]),
        "rounding": st.sampled_from(["half_up", "half_even", "down"]),
        "grouping": st.sampled_from(["locale", "threes", "none"]),
        "currency": st.sampled_from([None, "INR", "KWD"]),
        "scale_word": st.sampled_from(["caption", "short", "full"]),
    }
)


class NumberCodeTest(unittest.TestCase):
    @settings(max_examples=300)
    @given(
        rules,
        st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**12), max_value=10**12, places=2),
    )
    def test_the_code_shows_the_printed_figure(self, clauses: dict[str, Any], amount: Decimal) -> None:
        made = one_figure(str(amount), rule("house", clauses))
        figure = prove(made, made.statements[0]).figures["a", "now"]
        code, _ = code_of(made)
        self.assertEqual(shown(code, amount), figure.printed.text)

    def test_thousands_stay_live_and_lakhs_are_the_printed_text(self) -> None:
        for scale, live, code in (
            ("thousands", True, '#,##0,;"("#,##0,")";"–"'),
            ("lakhs", False, '"(2,770)";"(2,770)";"(2,770)"'),
        ):
            house = rule("house", {"scale": scale, "negative": "brackets", "zero": "dash"})
            made = one_figure("-277037049.75", house)
            self.assertEqual(code_of(made), (code, live))

    def test_a_live_code_prints_other_amounts_by_the_rule_too(self) -> None:
        house = rule(
            "house",
            {"scale": "thousands", "decimals": {"fixed": 1}, "negative": "brackets", "currency": "USD"},
        )
        made = one_figure("1234567", house)
        code, live = code_of(made)
        self.assertTrue(live)
        for amount in ("-9876543", "0", "1050"):
            other = one_figure(amount, house)
            text = prove(other, other.statements[0]).figures["a", "now"].printed.text
            self.assertEqual(shown(code, Decimal(amount)), text)

    def test_quotes_in_words_are_escaped(self) -> None:
        self.assertEqual(quoted('a"b'), '"a"\\""b"')


class WorkbookTest(unittest.TestCase):
    def test_cells_hold_exact_amounts_digit_for_digit(self) -> None:
        made, proof = footed_demo()
        data = write_xlsx(made, proof)
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            xml = archive.read("xl/worksheets/sheet1.xml").decode()
        values = [Decimal(v) for v in re.findall(r'<c [^>]*t="n"[^>]*><v>([^<]+)</v>', xml)]
        exact = [figure.exact for figure in proof.figures.values() if figure.exact is not None]
        self.assertEqual(values, exact)

    def test_what_the_sheet_shows_is_the_page(self) -> None:
        made, proof = footed_demo()
        sheet = sheet_of(write_xlsx(made, proof))
        got = []
        for row in sheet.iter_rows(min_row=6, max_row=5 + len(proof.statement.lines)):
            texts = [str(row[0].value)]
            for cell in row[1:]:
                if isinstance(cell.value, int | float):
                    texts.append(shown(cell.number_format, Decimal(str(cell.value))))
                elif cell.value is not None:
                    texts.append(str(cell.value))
            got.append(texts)
        self.assertEqual(got, printed(proof))

    def test_nudged_figures_and_no_others_carry_a_note(self) -> None:
        made, proof = footed_demo()
        sheet = sheet_of(write_xlsx(made, proof))
        notes = {}
        for row in sheet.iter_rows(min_row=6):
            for cell in row[1:]:
                if cell.comment:
                    notes[str(row[0].value), (cell.column or 0) - 2] = cell.comment.text
        places = {column.id: n for n, column in enumerate(proof.statement.columns)}
        labels = {line.id: line.label for line in proof.statement.lines}
        self.assertEqual(
            set(notes),
            {(labels[n.line], places[n.column]) for n in made.nudges if n.statement == proof.statement.id},
        )
        note = notes["Harbour dues", 0]
        self.assertIn("Printed (149), nudged from (148). Exact −₹1,48,49,650.20.", note)

    def test_an_amount_too_long_for_a_cell_says_so(self) -> None:
        made = one_figure("12345678901234567890.12")
        sheet = sheet_of(write_xlsx(made, prove(made, made.statements[0])))
        comment = sheet.cell(6, 2).comment
        assert comment is not None
        self.assertIn("12345678901234567890.12", comment.text)

    def test_labels_are_text_and_never_formulas(self) -> None:
        made, proof = hostile()
        with zipfile.ZipFile(io.BytesIO(write_xlsx(made, proof))) as archive:
            self.assertNotIn("<f>", archive.read("xl/worksheets/sheet1.xml").decode())
