"""Charts as a browser draws them: nothing is cut at an edge, and no two texts touch, whatever the labels."""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path
from typing import Any, ClassVar, get_args

from selenium import webdriver

from humble_sum.core.places.chart import ChartData, chart_data
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.in_edition import editions_of, in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Chart, Style
from humble_sum.exchange.chart_alone import write_chart
from humble_sum.exchange.chart_drawing import DESK, REPORT, SERIES, Size, legend, write_svg
from humble_sum.records.demo import demo_pack
from tests.browser.desk import chromium
from tests.making import pack, rule, statement

# Each text's corners as they are painted, turned or not, and the edges of the drawing.
MEASURE = """
const svg = document.querySelector('svg');
const edge = svg.getBoundingClientRect();
const texts = [...svg.querySelectorAll('text')].filter(t => t.textContent.trim());
return [[edge.left, edge.top, edge.right, edge.bottom], texts.map(t => {
  const b = t.getBBox(), m = t.getScreenCTM();
  const at = (x, y) => [m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f];
  return [t.textContent, [at(b.x, b.y), at(b.x + b.width, b.y), at(b.x + b.width, b.y + b.height),
    at(b.x, b.y + b.height)]];
})];
"""
LABELS = {
    "long": "Adjustments for depreciation and amortisation of vessels, piers and landings",
    "word": "Donaudampfschifffahrtsgesellschaftskapitän",
    "devanagari": "ईंधन और स्नेहक पर कुल व्यय",
    "arabic": "مصروفات الوقود والزيوت للسنة المنتهية",
    "short": "Fuel",
    "han": "燃料費及び潤滑油費",
}
RULES: dict[str, dict[str, Any]] = {
    "brackets": {"negative": "brackets", "decimals": {"fixed": 2}},
    "lakhs": {"locale": "en-IN", "currency": "INR", "negative": "brackets"},
    "arabic": {"locale": "ar-EG", "currency": "EGP", "negative": "minus"},
    "marathi": {"locale": "mr-IN", "negative": "trailing_minus", "decimals": {"fixed": 1}},
}
AMOUNTS = ("1234567.8", "-98765.4", "5", "-2345678.9", "1200000", "-1100000", "0", None, "999999.9")
STYLES: tuple[Style, ...] = get_args(Style)
SAG = 2.0  # pixels of a text's box that hold no ink: its box is higher than its letters


def crossing(one: list[list[float]], other: list[list[float]]) -> bool:
    """Whether two boxes, turned or not, cover some of the same place (the separating axis theorem)."""
    for box in (one, other):
        for n in range(2):
            x, y = box[n + 1][0] - box[n][0], box[n + 1][1] - box[n][1]
            length = (x * x + y * y) ** 0.5 or 1.0
            sides = [[(x * px + y * py) / length for px, py in corners] for corners in (one, other)]
            if max(sides[0]) - SAG <= min(sides[1]) or max(sides[1]) - SAG <= min(sides[0]):
                return False
    return True


def charted(style: Style, columns: int, label: str, rules: dict[str, Any], lines: int = 3) -> ChartData:
    """A chart of some style over amounts of either sign, all of whose labels are of one kind."""
    ids = tuple(f"c{n}" for n in range(columns))
    amounts = {
        f"l{n}": [AMOUNTS[(n * 2 + place) % len(AMOUNTS)] for place in range(columns)] for n in range(lines)
    }
    of = statement(amounts, {"t": list(amounts)}, columns=ids)
    of = of.model_copy(
        update={
            "lines": tuple(
                x.model_copy(update={"label": f"{LABELS[label]} {n}"}) for n, x in enumerate(of.lines)
            ),
            "columns": tuple(
                c.model_copy(update={"label": f"{LABELS[label]} {n}"}) for n, c in enumerate(of.columns)
            ),
        }
    )
    pack_proof = prove_pack(pack(of, rule("house", rules)))
    said: dict[str, Any] = {
        "kind": "chart",
        "id": "k",
        "label": LABELS[label],
        "style": style,
        "statement": "s",
    }
    said |= {"lines": tuple(amounts), "columns": ids}
    if style in ("bridge", "shares"):
        said |= {"columns": ids[:2] if style == "bridge" else ids[:1], "total": "t"}
    return chart_data(Chart.model_validate(said), pack_proof, Placer(pack_proof, "chart"))


def every_chart() -> Iterator[tuple[str, ChartData]]:
    """Charts of every kind with labels and rules of every kind, few places and many."""
    for style in STYLES:
        for n, label in enumerate(LABELS):
            rules = list(RULES)[n % len(RULES)]
            for columns in ((2, 30), (12,))[n % 2]:
                data = charted(
                    style, columns, label, RULES[rules], lines=columns if style in ("bridge", "shares") else 3
                )
                if not data.fault:
                    yield f"{style}, {label}, {rules}, {columns}", data


def of_demo(made: Pack) -> Iterator[tuple[str, Chart, ChartData]]:
    for edition in editions_of(made):
        pack_proof: PackProof = prove_pack(in_edition(made, edition))
        for board in pack_proof.pack.dashboards:
            for item in board.items if board.edition == pack_proof.pack.shown else ():
                if isinstance(item, Chart):
                    yield (
                        f"{edition}, {item.id}",
                        item,
                        chart_data(item, pack_proof, Placer(pack_proof, "chart")),
                    )


class ChartsTest(unittest.TestCase):
    driver: ClassVar[webdriver.Chrome]
    folder: ClassVar[Path]

    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory(ignore_cleanup_errors=True)))
        cls.driver = chromium(cls.folder / "profile")
        cls.addClassCleanup(lambda: cls.driver.quit())

    def assert_readable(self, name: str, svg: str) -> None:
        file = self.folder / "chart.html"
        page = f'<!doctype html><meta charset="utf-8"><body style="margin:40px;width:960px">{svg}</body>'
        file.write_text(page, encoding="utf-8")
        self.driver.get(file.as_uri())
        (left, top, right, bottom), texts = self.driver.execute_script(MEASURE)
        for said, corners in texts:
            for x, y in corners:
                inside = left - 1 <= x <= right + 1 and top - 1 - SAG <= y <= bottom + 1 + SAG
                self.assertTrue(inside, f"{name}: “{said}” is cut at an edge")
        for n, (said, corners) in enumerate(texts):
            for other, others in texts[n + 1 :]:
                self.assertFalse(crossing(corners, others), f"{name}: “{said}” touches “{other}”")

    def test_no_text_is_cut_and_no_two_touch(self) -> None:
        count = 0
        for count, (name, data) in enumerate(every_chart(), 1):
            size: Size = (REPORT, DESK)[count % 2]
            width = (4, 6, 12)[count % 3]
            with self.subTest(name, width=width):
                self.assert_readable(name, write_svg(data, "k", width, size))
        self.assertGreater(count, 40)

    def test_those_of_the_demo_too_and_alone_they_say_what_they_are(self) -> None:
        for name, chart, data in of_demo(demo_pack()):
            with self.subTest(name):
                self.assert_readable(name, write_svg(data, "k", chart.width, DESK))
                alone = write_chart(data, chart.label, "k", chart.width).decode()
                self.assert_readable(name, alone[alone.index("<svg") :])
                self.assertIn('role="img"', alone)
                for said in (chart.label, data.caption, *(series.name for series in data.series)):
                    self.assertIn(said.split(" ")[0], alone)

    def test_series_can_be_told_apart_in_grey(self) -> None:
        def lightness(colour: str) -> float:
            parts = [int(colour[n : n + 2], 16) / 255 for n in (1, 3, 5)]
            linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
            y = 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
            return 116 * y ** (1 / 3) - 16 if y > 0.008856 else 903.3 * y

        levels = sorted(map(lightness, SERIES))
        self.assertGreaterEqual(min(b - a for a, b in pairwise(levels)), 6.0)
        for count in (2, 3, 5, 8):
            keys = legend(
                charted("bars" if "bars" in STYLES else STYLES[0], 2, "short", RULES["lakhs"], lines=count)
            )
            self.assertEqual(len({*keys}), len(keys))


if __name__ == "__main__":
    unittest.main()
