"""The data of charts in presentations and reports: judged, and corrected in the chart and the workbook behind."""

from __future__ import annotations

import io
import unittest
import zipfile

from openpyxl import Workbook, load_workbook

from humble_sum.exchange.documents.corrections import corrections_of
from humble_sum.exchange.documents.reading import corrected
from tests.exchange.test_documents import AT, A, W, proofread, zipped

C = (
    'xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" '
    'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"'
)
RELATIONS = "http://schemas.openxmlformats.org/package/2006/relationships"
LINES = ("Harbour dues", "Depreciation", "Vessel upkeep")
NOW, BEFORE = ("184", "313.99999999999994", "395"), ("152", "300", "381")


def points(values: tuple[str, ...], formula: str) -> str:
    cached = "".join(f'<c:pt idx="{n}"><c:v>{value}</c:v></c:pt>' for n, value in enumerate(values))
    return f"<c:numRef><c:f>{formula}</c:f><c:numCache>{cached}</c:numCache></c:numRef>"


def chart() -> str:
    series = "".join(
        f"<c:ser><c:tx><c:strRef><c:strCache><c:pt idx='0'><c:v>{head}</c:v></c:pt></c:strCache></c:strRef></c:tx>"
        f"<c:cat>{points(LINES, 'Data!$A$2:$A$4')}</c:cat>"
        f"<c:val>{points(values, f'Data!${letter}$2:${letter}$4')}</c:val></c:ser>"
        for head, values, letter in (("2025–26", NOW, "B"), ("2024–25", BEFORE, "C"))
    )
    title = "<c:title><c:tx><c:rich><a:p><a:r><a:t>Costs, ₹ lakhs</a:t></a:r></a:p></c:rich></c:tx></c:title>"
    return f"<c:chartSpace {C}><c:chart>{title}<c:plotArea><c:barChart>{series}</c:barChart></c:plotArea></c:chart></c:chartSpace>"


def workbook() -> bytes:
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = "Data"
    sheet.append(["", "2025–26", "2024–25"])
    for line, now, before in zip(LINES, NOW, BEFORE, strict=True):
        sheet.append([line, float(now), float(before)])
    made = io.BytesIO()
    book.save(made)
    return made.getvalue()


def related(target: str) -> str:
    return f'<Relationships xmlns="{RELATIONS}"><Relationship Id="rId1" Type="t" Target="{target}"/></Relationships>'


def package(kind: str) -> bytes:
    """A slide or a report that shows the chart."""
    parts = {
        "ppt": {
            "ppt/slides/slide1.xml": f"<p:sld {A}><p:cSld><p:spTree/></p:cSld></p:sld>",
            "ppt/slides/_rels/slide1.xml.rels": related("../charts/chart1.xml"),
        },
        "word": {
            "word/document.xml": f"<w:document {W}><w:body/></w:document>",
            "word/_rels/document.xml.rels": related("charts/chart1.xml"),
        },
    }[kind]
    parts |= {
        f"{kind}/charts/chart1.xml": chart(),
        f"{kind}/charts/_rels/chart1.xml.rels": related("../embeddings/book.xlsx"),
    }
    made = io.BytesIO(zipped(parts))
    with zipfile.ZipFile(made, "a") as target:
        target.writestr(f"{kind}/embeddings/book.xlsx", workbook())
    return made.getvalue()


class ChartDataTest(unittest.TestCase):
    def test_a_chart_is_a_table_and_is_corrected_with_its_workbook(self) -> None:
        for name, kind in (("deck.pptx", "ppt"), ("report.docx", "word")):
            with self.subTest(name):
                data = package(kind)
                read = proofread(name, data)
                wrong = [each for each in read.numbers if each.says == "disagrees"]
                self.assertEqual((wrong[0].text, wrong[0].should_print), ("184", "148"))
                self.assertIn("314", [each.text for each in read.numbers if each.says == "agrees"])
                fixed = corrected(name, data, corrections_of(read), "Asha", AT)
                self.assertEqual(proofread(name, fixed).count("disagrees"), 0)
                old, new = zipfile.ZipFile(io.BytesIO(data)), zipfile.ZipFile(io.BytesIO(fixed))
                changed = {path for path in old.namelist() if old.read(path) != new.read(path)}
                self.assertEqual(changed, {f"{kind}/charts/chart1.xml", f"{kind}/embeddings/book.xlsx"})
                self.assertIn(b"313.99999999999994", new.read(f"{kind}/charts/chart1.xml"))
                book = load_workbook(io.BytesIO(new.read(f"{kind}/embeddings/book.xlsx")))
                self.assertEqual(book["Data"]["B2"].value, 148)


if __name__ == "__main__":
    unittest.main()
