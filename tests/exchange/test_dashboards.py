"""Dashboards taken away: whatever labels say they are text, and figures stay under their heads."""

from __future__ import annotations

import csv
import io
import unittest
import xml.etree.ElementTree as ET
from concurrent.futures import ThreadPoolExecutor
from html.parser import HTMLParser
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from openpyxl import load_workbook

from humble_sum.core.errors import InputError
from humble_sum.core.places.chart import ChartData, chart_data
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.core.statements.placed import STYLES, Chart, Dashboard, Passage, Shows, Style, Tile
from humble_sum.exchange.chart_drawing import write_png, write_svg
from humble_sum.exchange.chart_layout import _advances, _ems
from humble_sum.exchange.dashboard_html import dashboard_body
from humble_sum.exchange.formats import OF_DASHBOARDS
from humble_sum.records.demo import demo_pack
from tests.making import rule

SVG = "{http://www.w3.org/2000/svg}"
# What a drawing, a page or a table could take for something else than text.
AWKWARD = (
    "US$ and A$",
    "$\\frac{$",
    "$$",
    "<script>alert(1)</script>",
    "]]>&amp;\"'",
    "=1+1",
    "a|b",
    "*bold*",
    "x" * 300,
    "क्रॉसिंग",
    "عبور",
    "渡し船",
)


def proved(*labels: str, missing: str = "dash") -> PackProof:
    """Two lines and their total over a column for each label; what is missing is in the second line."""
    columns = tuple(Column(id=f"c{n}", label=label) for n, label in enumerate(labels))
    amounts = ({c.id: str(n + 1) for n, c in enumerate(columns)}, {c.id: None for c in columns})
    lines = [
        Line.model_validate({"id": id, "label": labels[0], "amounts": each})
        for id, each in zip("ab", amounts, strict=True)
    ]
    lines.append(
        Line.model_validate({"id": "t", "label": "T", "kind": "total", "parts": [("a", 1), ("b", 1)]})
    )
    of = Statement(id="s", name="S", title="S", columns=columns, lines=tuple(lines))
    made = Pack(entity="E", period="P", statements=(of,))
    ruled = made.rulebook.model_copy(update={"rules": (rule("all", {"missing": missing}),)})
    return prove_pack(made.model_copy(update={"rulebook": ruled}))


def charted(pack_proof: PackProof, style: Style, width: int = 6) -> tuple[Chart, ChartData]:
    columns = tuple(column.id for column in pack_proof.pack.statements[0].columns)
    chart = Chart(
        kind="chart",
        id="c",
        label="Chart",
        width=width,
        style=style,
        statement="s",
        lines=("a", "b"),
        columns=columns[:1] if style == "shares" else columns,
        total="t",
    )
    return chart, chart_data(chart, pack_proof, Placer(pack_proof, "chart"))


def texts_of(svg: str) -> set[str]:
    found = {"".join(each.itertext()) for each in ET.fromstring(svg).iter(f"{SVG}text")}
    return {" ".join(text.split()) for text in found}


class _Tags(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.tags: set[str] = set()
        self.text: list[str] = []

    def handle_starttag(self, tag: str, attrs: Any) -> None:
        self.tags.add(tag)

    def handle_data(self, data: str) -> None:
        self.text.append(data)


class DrawingTest(unittest.TestCase):
    def test_a_label_is_text_in_every_style_whatever_it_says(self) -> None:
        for label in AWKWARD:
            pack_proof = proved(label, "other")
            for style in STYLES:
                with self.subTest(label=label[:20], style=style):
                    _, data = charted(pack_proof, style)
                    svg = write_svg(data, "c")
                    self.assertNotIn(f"{SVG}script", {each.tag for each in ET.fromstring(svg).iter()})
                    if style in ("bars", "grouped", "stacked", "lines"):
                        shown = texts_of(svg)
                        self.assertTrue({label, " ".join(label)} & shown or "x…" in "".join(shown), shown)

    def test_it_fits_the_narrowest_place(self) -> None:
        wide = proved(*(f"Month {n} of a long year" for n in range(24)))
        for style in STYLES:
            for width in (2, 3, 12):
                chart, data = charted(wide, style, width)
                box = ET.fromstring(write_svg(data, "c", chart.width)).get("viewBox", "").split()
                self.assertGreater(float(box[2]), 0)

    @settings(max_examples=8, deadline=None)
    @given(
        st.lists(
            st.text(st.characters(codec="utf-8", exclude_categories=["C"]), min_size=1),
            min_size=1,
            max_size=6,
        )
    )
    def test_no_label_breaks_it(self, labels: list[str]) -> None:
        _, data = charted(proved(*(label.strip() or "x" for label in labels)), "grouped")
        ET.fromstring(write_svg(data, "c"))

    def test_the_same_chart_is_the_same_drawing_and_two_share_no_id(self) -> None:
        _, data = charted(proved("now", "then"), "stacked")
        one, other = write_svg(data, "one"), write_svg(data, "other")
        self.assertEqual(one, write_svg(data, "one"))
        ids = [{each.get("id") for each in ET.fromstring(svg).iter()} - {None} for svg in (one, other)]
        self.assertFalse(ids[0] & ids[1])

    def test_several_at_once_are_drawn_as_one_by_one(self) -> None:
        """A desk draws its charts in threads."""
        datas = [charted(proved(*AWKWARD[5:]), style)[1] for style in STYLES] * 4
        alone = [write_svg(data, "k") for data in datas]
        _ems.cache_clear()
        _advances.cache_clear()
        with ThreadPoolExecutor(8) as pool:
            self.assertEqual(list(pool.map(lambda data: write_svg(data, "k"), datas)), alone)

    def test_a_missing_point_is_drawn_as_its_word_and_not_at_nothing(self) -> None:
        _, data = charted(proved("now", "then"), "lines")
        points = data.series[1].points
        self.assertEqual([point.drawn for point in points], [None, None])
        self.assertEqual({point.text for point in points}, {"–"})

    def test_a_picture_without_the_letters_it_needs_is_refused_and_no_boxes_are_drawn(self) -> None:
        with self.assertRaises(InputError) as caught:
            write_png(charted(proved("渡し船"), "bars")[1], "c")
        self.assertIn("渡", caught.exception.faults[0].what)
        self.assertTrue(write_png(charted(proved("now"), "bars")[1], "c").startswith(b"\x89PNG"))


class FilesTest(unittest.TestCase):
    def board(self, label: str) -> Dashboard:
        pack_proof = proved(label, "other")
        items = (
            Tile(kind="tile", id="x", label=label, shows=Shows(figure=("s", "a", "c0")), against=label[:60]),
            charted(pack_proof, "grouped")[0].model_copy(update={"label": label}),
            Passage(kind="passage", id="p", label=label, text=label.replace("{", "{{").replace("}", "}}")),
        )
        return Dashboard(id="d", name=label, items=items)

    def test_html_has_labels_as_text_and_no_tag_of_theirs(self) -> None:
        plain = _Tags()
        plain.feed(dashboard_body(self.board("Plain"), proved("Plain", "other")))
        for label in AWKWARD:
            with self.subTest(label[:20]):
                page = _Tags()
                page.feed(dashboard_body(self.board(label), proved(label, "other")))
                self.assertLessEqual(page.tags, plain.tags | {"tspan"})
                self.assertIn(label, " ".join(page.text))

    def test_nothing_in_a_table_is_worked_out(self) -> None:
        board, pack_proof = self.board("=1+1"), proved("=1+1", "other")
        listed = list(
            csv.reader(
                io.StringIO(OF_DASHBOARDS["csv"].write_dashboard(board, pack_proof, None).decode("utf-8-sig"))
            )
        )
        self.assertFalse([text for row in listed for text in row if text.startswith("=")])
        sheet = load_workbook(
            io.BytesIO(OF_DASHBOARDS["xlsx"].write_dashboard(board, pack_proof, None))
        ).active
        assert sheet is not None
        cells = [cell for row in sheet.iter_rows() for cell in row if cell.value is not None]
        self.assertEqual({cell.data_type for cell in cells}, {"s"})
        self.assertIn("=1+1", [cell.value for cell in cells])

    def test_figures_stand_under_their_heads_where_others_print_nothing(self) -> None:
        pack_proof = proved("first", "second", missing="blank")
        board = Dashboard(id="d", name="D", items=(charted(pack_proof, "grouped")[0],))
        written = OF_DASHBOARDS["txt"].write_dashboard(board, pack_proof, None).decode().splitlines()
        start = next(n for n, line in enumerate(written) if "first" in line and line.startswith(" "))
        head, *rows = written[start : start + 3]
        ends = {len(row.rstrip()) for row in rows}
        self.assertEqual(ends, {head.index("first") + len("first")})

    def test_a_table_in_markdown_has_as_many_cells_in_every_row(self) -> None:
        for label in AWKWARD:
            written = (
                OF_DASHBOARDS["md"].write_dashboard(self.board(label), proved(label, "other"), None).decode()
            )
            rows = [line for line in written.splitlines() if line.startswith("|")]
            bars = {row.replace("\\|", "").count("|") for row in rows}
            self.assertEqual(len(bars), 1, label)

    def test_pictures_are_of_one_chart_that_can_be_drawn(self) -> None:
        demo = demo_pack()
        board = next(each for each in demo.dashboards if each.id == "operations")
        pack_proof = prove_pack(demo)
        for item in ("gone", board.items[0].id):
            with self.assertRaises(InputError):
                OF_DASHBOARDS["svg"].write_dashboard(board, pack_proof, item)
