"""Statements taken away as CSV, HTML and Markdown."""

import csv
import io
import unittest
from html.parser import HTMLParser

from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import Proof, prove
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.delimited import write_csv
from humble_sum.exchange.html import write_html
from humble_sum.exchange.markdown import write_markdown
from humble_sum.exchange.safe_text import neutral
from humble_sum.records.demo import demo_pack
from tests.making import pack, rule, statement

HOSTILE = '=1+1|<script>alert(1)</script>,"x"\nnext'


def footed_demo() -> tuple[Pack, Proof]:
    made = demo_pack()
    found = plan(prove_pack(made))
    assert isinstance(found, Plan)
    made = made.model_copy(update={"nudges": found.nudges})
    return made, prove(made, made.statements[0])


def hostile() -> tuple[Pack, Proof]:
    """A statement whose labels try to become something else in each format."""
    of = statement({"a": ["-5"]}, {}, columns=("now",))
    line = of.lines[0].model_copy(update={"label": HOSTILE})
    of = of.model_copy(update={"lines": (line,), "title": HOSTILE})
    made = pack(of, rule("house", {"negative": "brackets"})).model_copy(update={"entity": HOSTILE})
    return made, prove(made, of)


def printed(proof: Proof) -> list[list[str]]:
    """Label and printed texts, row by row."""
    return [
        [line.label]
        + [
            proof.figures[line.id, c.id].printed.text
            for c in proof.statement.columns
            if line.kind != "heading"
        ]
        for line in proof.statement.lines
    ]


class CsvTest(unittest.TestCase):
    def test_holds_the_printed_text_of_every_figure(self) -> None:
        made, proof = footed_demo()
        records = list(csv.reader(io.StringIO(write_csv(made, proof).decode("utf-8-sig"), newline="")))
        self.assertEqual(
            records[:4],
            [["Lanternfish Ferries"], ["Statement of income"], ["Year to 31 March 2026"], ["₹ lakhs"]],
        )
        rows = [[cell for n, cell in enumerate(r) if cell or n == 0 or len(set(r)) > 2] for r in records[5:]]
        for got, expected in zip(rows, printed(proof), strict=True):
            self.assertEqual(got[: len(expected)], expected)

    def test_lines_end_as_the_standard_says(self) -> None:
        made, proof = footed_demo()
        raw = write_csv(made, proof)
        self.assertEqual(raw.count(b"\n"), raw.count(b"\r\n"))

    def test_nothing_that_would_run_as_a_formula_is_left(self) -> None:
        for text in ("=1+1", "+5", "-5", "@x", "\tx", "\rx", "\n=x"):
            self.assertTrue(neutral(text).startswith("'"))
            self.assertEqual(neutral(text).replace("'", ""), text)
        for text in ("(5)", "−5", "1,844", "–", "n/a", "", "a=b"):
            self.assertEqual(neutral(text), text)
        made, proof = hostile()
        records = list(csv.reader(io.StringIO(write_csv(made, proof).decode("utf-8-sig"), newline="")))
        self.assertEqual(records[-1], ["'" + HOSTILE, "(5)"])

    def test_a_plus_or_hyphen_made_by_a_word_is_neutralised_too(self) -> None:
        of = statement({"a": ["0"]}, {}, columns=("now",))
        made = pack(of, rule("house", {"zero": {"word": "-nil"}}))
        self.assertIn("'-nil", write_csv(made, prove(made, of)).decode("utf-8-sig"))


class Cells(HTMLParser):
    """Rows of text, with the exact value of each data element."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[list[str]] = []
        self.values: list[str] = []
        self.tags: set[str] = set()

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.add(tag)
        if tag == "tr":
            self.rows.append([])
        if tag in ("td", "th") and self.rows:
            self.rows[-1].append("")
        if tag == "data":
            self.values.append(dict(attrs).get("value") or "")

    def handle_data(self, data: str) -> None:
        if self.rows and self.rows[-1]:
            self.rows[-1][-1] += data.strip("\n")


class HtmlTest(unittest.TestCase):
    def test_holds_printed_text_over_exact_amounts(self) -> None:
        made, proof = footed_demo()
        cells = Cells()
        cells.feed(write_html(made, proof).decode())
        self.assertEqual(cells.rows[1:], printed(proof))
        exact = ["" if f.exact is None else format(f.exact, "f") for f in proof.figures.values()]
        self.assertEqual(cells.values, exact)

    def test_text_stays_text(self) -> None:
        made, proof = hostile()
        page = write_html(made, proof).decode()
        cells = Cells()
        cells.feed(page)
        self.assertNotIn("script", cells.tags)
        self.assertEqual(cells.rows[1][1], "(5)")

    def test_stands_alone(self) -> None:
        made, proof = footed_demo()
        page = write_html(made, proof).decode()
        for reference in ("http", "src=", "<link", "@import", "url("):
            self.assertNotIn(reference, page)


class MarkdownTest(unittest.TestCase):
    def test_is_one_table_with_every_printed_figure(self) -> None:
        made, proof = footed_demo()
        lines = write_markdown(made, proof).decode().splitlines()
        rows = [line.replace("**", "").strip("|").split("|") for line in lines if line.startswith("|")][2:]
        got = [[cell.strip() for cell in row] for row in rows]
        self.assertEqual([row[: len(e)] for row, e in zip(got, printed(proof), strict=True)], printed(proof))

    def test_marks_that_would_format_are_escaped(self) -> None:
        made, proof = hostile()
        text = write_markdown(made, proof).decode()
        self.assertIn("\\|\\<script>", text)
