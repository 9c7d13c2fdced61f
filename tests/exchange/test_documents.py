"""Documents of every kind: read, refused where they cannot be, and corrected with nothing else changed."""

from __future__ import annotations

import io
import unittest
import zipfile

from openpyxl import Workbook
from pypdf import PdfReader, PdfWriter
from weasyprint import HTML

from humble_sum.core.documents.document import Paragraph
from humble_sum.core.documents.proofreading import Proofread, Reader
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.exchange.documents.corrections import corrections_of
from humble_sum.exchange.documents.reading import corrected, read_document
from tests.every_change import DEMO

READER = Reader(prove_pack(DEMO))
W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
A = 'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main"'
WRONG, RIGHT = "₹33.83 crore", "₹33.38 crore"
SENTENCE = f"Revenue from crossings came to {WRONG} (2024–25: ₹31.37 crore)."
AT = "2026-05-04T09:30:00Z"


def zipped(parts: dict[str, str]) -> bytes:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as package:
        for path, text in parts.items():
            package.writestr(path, text)
    return made.getvalue()


def docx(body: str, **more: str) -> bytes:
    """A Word document with these paragraphs and tables."""
    document = f"<w:document {W}><w:body>{body}</w:body></w:document>"
    return zipped(
        {"[Content_Types].xml": "<Types/>", "word/document.xml": document, "word/vbaProject.bin": "macro"}
        | more
    )


def run_of(text: str, look: str = "") -> str:
    return f'<w:r><w:rPr>{look}</w:rPr><w:t xml:space="preserve">{text}</w:t></w:r>'


# The number is split over runs, one of them bold; what is struck out and what a field is told do not count.
BODY = (
    "<w:p><w:pPr><w:pStyle w:val='Heading1'/></w:pPr><w:r><w:t>Review</w:t></w:r></w:p><w:p>"
    + run_of("Revenue from crossings came to ₹33.")
    + run_of("83 cr", "<w:b/>")
    + "<w:del w:id='7' w:author='Bo'><w:r><w:delText>99</w:delText></w:r></w:del>"
    + "<w:r><w:instrText>PAGE 12</w:instrText></w:r>"
    + run_of("ore (2024–25: ₹31.37 crore).")
    + "</w:p><w:tbl><w:tr>"
    + "".join(f"<w:tc><w:p>{run_of(text)}</w:p></w:tc>" for text in ("₹ lakhs", "2025–26"))
    + "</w:tr><w:tr>"
    + "".join(f"<w:tc><w:p>{run_of(text)}</w:p></w:tc>" for text in ("Harbour dues", "184"))
    + "</w:tr><w:tr>"
    + "".join(f"<w:tc><w:p>{run_of(text)}</w:p></w:tc>" for text in ("Depreciation", "314"))
    + "</w:tr></w:tbl>"
)


def pptx() -> bytes:
    shape = f"<p:sp><p:txBody><a:p><a:r><a:t>{SENTENCE[:36]}</a:t></a:r><a:r><a:t>{SENTENCE[36:]}</a:t></a:r></a:p></p:txBody></p:sp>"
    return zipped(
        {
            "ppt/slides/slide1.xml": f"<p:sld {A}><p:cSld><p:spTree>{shape}</p:spTree></p:cSld></p:sld>",
            "ppt/media/x.png": "x",
        }
    )


def xlsx() -> bytes:
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    for row in (["₹ lakhs", "2025–26"], ["Harbour dues", 184], ["Depreciation", 314], ["Vessel upkeep", 395]):
        sheet.append(row)
    made = io.BytesIO()
    book.save(made)
    return made.getvalue()


FILES = {
    "a.docx": docx(BODY),
    "a.pptx": pptx(),
    "a.xlsx": xlsx(),
    "a.html": f"<!doctype html><script>12</script><h1>Review</h1><p>{SENTENCE.replace('₹', '&#8377;')}</p>".encode(),
    "a.md": f"# Review\n\n{SENTENCE}\n\n| ₹ lakhs | 2025–26 |\n|---|---|\n| Harbour dues | 184 |\n| Depreciation | 314 |\n".encode(),
    "b.md": "Revenue *from crossings*\ncame to **₹33.83** [crore](a.html) in the _year_.\n\n| ₹ lakhs | **2025–26** |\n|---|---|\n| Harbour dues | **184** |\n".encode(),
    "a.txt": f"Review\n\n{SENTENCE}\n".encode(),
}


def proofread(name: str, data: bytes) -> Proofread:
    return READER.proofread(read_document(name, data))


LINE = "Revenue from crossings came to ₹33.83 crore, which was more than anybody on the board had hoped for. "
PAGE = f"""<style>body {{ font: 10pt Noto Serif }} td {{ width: 8em }}</style><h1>Review</h1>
<p>The year in short, set over the whole width of the page, was a good one for all.</p>
<div style="column-count: 2">{"".join(f"<p>{LINE * 2}</p>" for _ in range(3))}</div><p>₹ lakhs</p>
<table><tr><td></td><td>2025–26</td><td>2024–25</td></tr><tr><td>Harbour dues</td><td>184</td><td>143</td></tr>
<tr><td>Depreciation</td><td>314</td><td>298</td></tr></table>"""


class DocumentsTest(unittest.TestCase):
    def test_a_corrected_copy_of_each_kind_agrees_and_nothing_else_differs(self) -> None:
        for name, data in FILES.items():
            with self.subTest(name):
                read = proofread(name, data)
                self.assertTrue(read.count("disagrees"), read.numbers)
                fixed = corrected(name, data, corrections_of(read), "Asha", AT)
                again = proofread(name, fixed)
                self.assertEqual(again.count("disagrees"), 0)
                self.assertEqual(len(again.numbers), len(read.numbers))
                self.assertEqual(corrected(name, fixed, corrections_of(again), "Asha", AT), fixed)
                if name.endswith("x"):
                    old, new = zipfile.ZipFile(io.BytesIO(data)), zipfile.ZipFile(io.BytesIO(fixed))
                    self.assertEqual(old.namelist(), new.namelist())
                    differ = [path for path in old.namelist() if old.read(path) != new.read(path)]
                    self.assertEqual(len(differ), 1)
                else:
                    text = data.decode().replace("33.83", "33.38").replace("184", "148")
                    self.assertEqual(fixed.decode(), text)

    def test_pages_of_a_pdf_are_read_in_columns_and_tables(self) -> None:
        data = HTML(string=PAGE).write_pdf()
        blocks = read_document("a.pdf", data).blocks
        texts = [" ".join(block.text.split()) for block in blocks if isinstance(block, Paragraph)]
        self.assertEqual(texts[2:5], [(LINE * 2).strip()] * 3)
        self.assertTrue(isinstance(blocks[0], Paragraph) and blocks[0].heading)
        found = proofread("a.pdf", data).numbers
        wrong = [(each.text, each.should_print) for each in found if each.says == "disagrees"]
        self.assertEqual(wrong, [("₹33.83 crore", "₹33.38 crore")] * 6 + [("184", "148")])

    def test_a_pdf_may_be_turned_and_break_its_words(self) -> None:
        said = "Revenue from cross&shy;ings came to ₹33.83 crore"
        data = HTML(string=f"<div style='width: 4.4cm; hyphens: manual'>{said}</div>").write_pdf()
        turned, made = PdfWriter(clone_from=PdfReader(io.BytesIO(data))), io.BytesIO()
        turned.pages[0].rotate(90)
        turned.write(made)
        for each in (data, made.getvalue()):
            (block,) = read_document("a.pdf", each).blocks
            assert isinstance(block, Paragraph)
            self.assertEqual(" ".join(block.text.split()), said.replace("&shy;", ""))
            self.assertEqual([n.says for n in proofread("a.pdf", each).numbers], ["disagrees"])

    def test_marks_of_a_page_and_the_encoding_of_a_text_stay(self) -> None:
        page = "<p>Revenue from crossings came to <b>&#8377;33.</b>83 <i>crore</i> (2024–25: ₹31.37 crore).</p>".encode()
        fixed = corrected("a.html", page, corrections_of(proofread("a.html", page)), "Asha", AT)
        self.assertEqual(fixed.decode().count("<b>"), fixed.decode().count("</b>"))
        self.assertEqual(proofread("a.html", fixed).count("disagrees"), 0)
        for encoding in ("utf-16", "utf-8-sig"):
            text = FILES["a.txt"].decode().encode(encoding)
            fixed = corrected("a.txt", text, corrections_of(proofread("a.txt", text)), "Asha", AT)
            self.assertEqual(fixed, FILES["a.txt"].decode().replace("33.83", "33.38").encode(encoding))

    def test_word_corrections_are_tracked_changes_that_keep_the_look(self) -> None:
        read = proofread("a.docx", FILES["a.docx"])
        fixed = corrected("a.docx", FILES["a.docx"], corrections_of(read), "Asha", AT)
        said = zipfile.ZipFile(io.BytesIO(fixed)).read("word/document.xml").decode()
        self.assertIn('<w:ins w:id="', said)
        self.assertIn('w:author="Asha" w:date="2026-05-04T09:30:00Z"', said)
        self.assertIn("<w:rPr><w:b/></w:rPr><w:delText", said)
        self.assertIn(">99</w:delText>", said)
        self.assertIn(f">{RIGHT}</w:t>", said)

    def test_a_pdf_is_read_by_lines_and_gets_notes(self) -> None:
        table = "".join(
            f"<tr><td>{a}<td style='padding-left:9em'>{b}"
            for a, b in (("Harbour dues", "184"), ("Depreciation", "314"), ("Vessel upkeep", "395"))
        )
        data = HTML(string=f"<p>{SENTENCE}</p><p>₹ lakhs, 2025–26</p><table>{table}</table>").write_pdf()
        assert data is not None
        read = proofread("a.pdf", data)
        self.assertIn(WRONG, [each.text for each in read.numbers if each.judged.judgement == "disagrees"])
        fixed = corrected("a.pdf", data, corrections_of(read), "Asha", AT)
        notes = PdfReader(io.BytesIO(fixed)).pages[0]["/Annots"]
        self.assertTrue(any(RIGHT in str(note.get_object()["/Contents"]) for note in notes))  # type: ignore[attr-defined]

    def test_what_cannot_be_read_is_refused_with_a_sentence(self) -> None:
        scanned = PdfWriter()
        scanned.add_blank_page(100, 100)
        made = io.BytesIO()
        scanned.write(made)
        locked = PdfWriter()
        locked.add_blank_page(100, 100)
        locked.encrypt("secret")
        closed = io.BytesIO()
        locked.write(closed)
        bomb = docx(BODY, **{"word/media/a.bin": "0" * 450_000_000})
        doctype = '<!DOCTYPE d [<!ENTITY e SYSTEM "file:///etc/hostname">]>'
        entity = zipped(
            {
                "word/document.xml": f"{doctype}<w:document {W}><w:body><w:p><w:r><w:t>&e;</w:t></w:r></w:p></w:body></w:document>"
            }
        )
        for name, data in (
            ("a.pdf", made.getvalue()),
            ("a.pdf", closed.getvalue()),
            ("a.pdf", b"%PDF-1.7 broken"),
            ("a.docx", bomb),
            ("a.docx", entity),
            ("a.docx", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1 encrypted"),
            ("a.docx", b"PK nothing"),
            ("a.docx", zipped({"word/document.xml": "<w:document"})),
            ("a.xlsx", zipped({"xl/workbook.xml": "<x/>"})),
            ("a.txt", b"\xff\xff\xff"),
            ("a.odt", b""),
        ):
            with self.subTest(name), self.assertRaises(InputError) as refused:
                read_document(name, data)
            self.assertEqual(refused.exception.kind, "bad-document")
