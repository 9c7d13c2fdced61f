"""The demo's documents, written from the demo pack with faults planted: a report (DOCX), a deck (PPTX) and
last year's circular (PDF). Run it when the demo pack changes: python -m tools.demo_documents"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator, Sequence
from decimal import Decimal
from html import escape
from pathlib import Path

from weasyprint import HTML

from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.records.demo import demo_pack

OUT = Path(__file__).parent.parent / "src/humble_sum/demo/documents"
REPORT = (Path(__file__).parent / "annual_report.md").read_text(encoding="utf-8")
WHEN = (2026, 5, 4, 9, 30, 0)
PROOF: PackProof = prove_pack(demo_pack())
OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006"
PACKAGE = "http://schemas.openxmlformats.org/package/2006"
W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
DRAWN = (
    'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" '
    f'xmlns:r="{OFFICE}/relationships" '
    'xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main"'
)
TYPES = "application/vnd.openxmlformats-officedocument"
EMU = 12_700  # to a point


def crores(statement: str, line: str, column: str, off: str = "0") -> str:
    """A figure in crores with two decimals; `off` is what a slip adds to it."""
    exact = PROOF.proofs[statement].figures[line, column].exact
    assert exact is not None
    return f"₹{at_unit(abs(exact).scaleb(-7), -2) + Decimal(off)} crore"


def package(parts: dict[str, str]) -> bytes:
    """A package of parts with the same bytes every time."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as target:
        for path, text in parts.items():
            target.writestr(zipfile.ZipInfo(path, WHEN), text, zipfile.ZIP_DEFLATED)
    return made.getvalue()


def types(parts: dict[str, str]) -> str:
    """The part that says of what type each other is."""
    every = "".join(
        f'<Override PartName="/{path}" ContentType="{TYPES}.{kind}+xml"/>' for path, kind in parts.items()
    )
    return (
        f'<Types xmlns="{PACKAGE}/content-types"><Default Extension="xml" ContentType="application/xml"/>'
        '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
        f"{every}</Types>"
    )


def relations(*targets: tuple[str, str]) -> str:
    every = "".join(
        f'<Relationship Id="rId{n}" Type="{OFFICE}/relationships/{kind}" Target="{target}"/>'
        for n, (kind, target) in enumerate(targets, 1)
    )
    return f'<Relationships xmlns="{PACKAGE}/relationships">{every}</Relationships>'


def report() -> bytes:
    """The annual report as a Word document."""
    styles = "".join(
        f'<w:style w:type="paragraph" w:styleId="Heading{level}"><w:name w:val="heading {level}"/><w:pPr>'
        f'<w:outlineLvl w:val="{level - 1}"/></w:pPr><w:rPr><w:b/><w:sz w:val="{size}"/></w:rPr></w:style>'
        for level, size in ((1, 36), (2, 28))
    )
    body = "".join(word_blocks(REPORT))
    parts = {
        "[Content_Types].xml": types(
            {
                "word/document.xml": "wordprocessingml.document.main",
                "word/styles.xml": "wordprocessingml.styles",
            }
        ),
        "_rels/.rels": relations(("officeDocument", "word/document.xml")),
        "word/_rels/document.xml.rels": relations(("styles", "styles.xml")),
        "word/styles.xml": f"<w:styles {W}>{styles}</w:styles>",
        "word/document.xml": f"<w:document {W}><w:body>{body}<w:sectPr/></w:body></w:document>",
    }
    return package(parts)


def word_blocks(text: str) -> Iterator[str]:
    """The blocks of a Markdown text as WordprocessingML."""
    for block in text.strip().split("\n\n"):
        if block.startswith("#"):
            marks, _, said = block.partition(" ")
            yield word_paragraph(said, f'<w:pPr><w:pStyle w:val="Heading{len(marks)}"/></w:pPr>')
        elif block.startswith("|"):
            rows = [[cell.strip() for cell in line.strip("|").split("|")] for line in block.splitlines()]
            yield word_table([row for n, row in enumerate(rows) if n != 1])
        else:
            yield word_paragraph(block)


def word_paragraph(text: str, look: str = "") -> str:
    return f'<w:p>{look}<w:r><w:t xml:space="preserve">{escape(text)}</w:t></w:r></w:p>'


def word_table(rows: Sequence[Sequence[str]]) -> str:
    lines = "".join(f'<w:{side} w:val="single" w:sz="4"/>' for side in ("top", "bottom", "insideH"))
    cells = "".join(
        f"<w:tr>{''.join(f'<w:tc><w:tcPr/>{word_paragraph(cell)}</w:tc>' for cell in row)}</w:tr>"
        for row in rows
    )
    grid = "".join('<w:gridCol w:w="2200"/>' for _ in rows[0])
    look = f"<w:tblPr><w:tblBorders>{lines}</w:tblBorders></w:tblPr><w:tblGrid>{grid}</w:tblGrid>"
    return f"<w:tbl>{look}{cells}</w:tbl>"


def slides() -> list[tuple[str, list[str]]]:
    """The slides of the deck: a title, and what each says. Two numbers are wrong."""
    return [
        (
            "Lanternfish Ferries: the year to 31 March 2026",
            [
                f"Revenue from crossings {crores('income', 'rev', 'y26')}, up 6.4% "
                f"on {crores('income', 'rev', 'y25')}",
                f"Surplus for the year {crores('income', 'net', 'y26', '0.10')}",
                "Six routes, two of them new",
            ],
        ),
        (
            "What it cost",
            [
                f"Fuel and lubricants {crores('income', 'fuel', 'y26')}",
                f"Crew and shore wages {crores('income', 'crew', 'y26')}",
                f"Vessel upkeep {crores('income', 'keep', 'y25')}",
            ],
        ),
    ]


def deck() -> bytes:
    """The deck for the board as a presentation."""
    kinds = {
        "ppt/presentation.xml": "presentationml.presentation.main",
        "ppt/slideMasters/slideMaster1.xml": "presentationml.slideMaster",
        "ppt/slideLayouts/slideLayout1.xml": "presentationml.slideLayout",
        "ppt/theme/theme1.xml": "theme",
    }
    every = slides()
    kinds |= {f"ppt/slides/slide{n}.xml": "presentationml.slide" for n in range(1, len(every) + 1)}
    ids = "".join(f'<p:sldId id="{255 + n}" r:id="rId{n + 2}"/>' for n in range(1, len(every) + 1))
    tree = '<p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr/>'
    empty = f"<p:cSld><p:spTree>{tree}</p:spTree></p:cSld>"
    slots = " ".join(
        f'{slot}="{slot}"' for slot in (*(f"accent{n}" for n in range(1, 7)), "hlink", "folHlink")
    )
    master = (
        f'{empty}<p:clrMap bg1="lt1" tx1="dk1" bg2="lt2" tx2="dk2" {slots}/>'
        '<p:sldLayoutIdLst><p:sldLayoutId id="2147483649" r:id="rId1"/></p:sldLayoutIdLst>'
    )
    parts = {
        "[Content_Types].xml": types(kinds),
        "_rels/.rels": relations(("officeDocument", "ppt/presentation.xml")),
        "ppt/presentation.xml": (
            f"<p:presentation {DRAWN}>"
            '<p:sldMasterIdLst><p:sldMasterId id="2147483648" r:id="rId1"/></p:sldMasterIdLst>'
            f'<p:sldIdLst>{ids}</p:sldIdLst><p:sldSz cx="12192000" cy="6858000"/>'
            '<p:notesSz cx="6858000" cy="9144000"/>'
            "</p:presentation>"
        ),
        "ppt/_rels/presentation.xml.rels": relations(
            ("slideMaster", "slideMasters/slideMaster1.xml"),
            ("theme", "theme/theme1.xml"),
            *(("slide", f"slides/slide{n}.xml") for n in range(1, len(every) + 1)),
        ),
        "ppt/slideMasters/slideMaster1.xml": f"<p:sldMaster {DRAWN}>{master}</p:sldMaster>",
        "ppt/slideMasters/_rels/slideMaster1.xml.rels": relations(
            ("slideLayout", "../slideLayouts/slideLayout1.xml"), ("theme", "../theme/theme1.xml")
        ),
        "ppt/slideLayouts/slideLayout1.xml": f"<p:sldLayout {DRAWN}>{empty}</p:sldLayout>",
        "ppt/slideLayouts/_rels/slideLayout1.xml.rels": relations(
            ("slideMaster", "../slideMasters/slideMaster1.xml")
        ),
        "ppt/theme/theme1.xml": theme(),
    }
    for n, (title, lines) in enumerate(every, 1):
        shapes = shape(2, "title", [title], 40, 30) + shape(3, "body", lines, 24, 130)
        parts[f"ppt/slides/slide{n}.xml"] = (
            f"<p:sld {DRAWN}><p:cSld><p:spTree>{tree}{shapes}</p:spTree></p:cSld></p:sld>"
        )
        parts[f"ppt/slides/_rels/slide{n}.xml.rels"] = relations(
            ("slideLayout", "../slideLayouts/slideLayout1.xml")
        )
    return package(parts)


def shape(id: int, kind: str, lines: Sequence[str], size: int, top: int) -> str:
    paragraphs = "".join(
        f'<a:p><a:r><a:rPr lang="en-IN" sz="{size * 100}"/><a:t>{escape(line)}</a:t></a:r></a:p>'
        for line in lines
    )
    return (
        f'<p:sp><p:nvSpPr><p:cNvPr id="{id}" name="{kind}"/><p:cNvSpPr/>'
        f'<p:nvPr><p:ph type="{kind}"/></p:nvPr></p:nvSpPr>'
        f'<p:spPr><a:xfrm><a:off x="{40 * EMU}" y="{top * EMU}"/>'
        f'<a:ext cx="{880 * EMU}" cy="{90 * EMU}"/></a:xfrm>'
        f'<a:prstGeom prst="rect"/></p:spPr><p:txBody><a:bodyPr/>{paragraphs}</p:txBody></p:sp>'
    )


def theme() -> str:
    """The least theme that a presentation may have, in our own colours."""
    colours = {"dk1": "14262b", "lt1": "fefefc", "dk2": "0c5a61", "lt2": "ecf3f1", "accent1": "0c5a61"}
    colours |= {"accent2": "a83c14", "accent3": "7d5200", "accent4": "5a3a86", "accent5": "2c6337"}
    colours |= {"accent6": "55676b", "hlink": "0c5a61", "folHlink": "5a3a86"}
    scheme = "".join(f'<a:{name}><a:srgbClr val="{value}"/></a:{name}>' for name, value in colours.items())
    face = '<a:latin typeface="Noto Sans"/><a:ea typeface=""/><a:cs typeface=""/>'
    fill = '<a:solidFill><a:schemeClr val="phClr"/></a:solidFill>'
    return (
        f'<a:theme {DRAWN} name="Lanternfish"><a:themeElements>'
        f'<a:clrScheme name="Lanternfish">{scheme}</a:clrScheme><a:fontScheme name="Lanternfish">'
        f"<a:majorFont>{face}</a:majorFont><a:minorFont>{face}</a:minorFont></a:fontScheme>"
        f'<a:fmtScheme name="Lanternfish"><a:fillStyleLst>{fill * 3}</a:fillStyleLst>'
        f"<a:lnStyleLst>{f'<a:ln>{fill}</a:ln>' * 3}</a:lnStyleLst>"
        f"<a:effectStyleLst>{'<a:effectStyle><a:effectLst/></a:effectStyle>' * 3}</a:effectStyleLst>"
        f"<a:bgFillStyleLst>{fill * 3}</a:bgFillStyleLst></a:fmtScheme></a:themeElements></a:theme>"
    )


def circular() -> bytes:
    """The circular of the year before, on paper. One number is wrong."""
    page = f"""<!doctype html><html lang="en"><title>Circular</title>
<style>body {{ font-family: Noto Serif }}</style>
<h1>Circular to members, 12 June 2025</h1>
<p>In 2024–25 revenue from crossings came to {crores("income", "rev", "y25")}, and total costs to
{crores("income", "costs", "y25", "0.09")}. The surplus for the year 2024–25 was
{crores("income", "net", "y25")}.</p>
<p>Members may write to us by 30 June 2025.</p></html>"""
    return bytes(HTML(string=page).write_pdf(pdf_identifier=b"lanternfish"))


if __name__ == "__main__":
    OUT.mkdir(exist_ok=True)
    for name, data in (
        ("Annual report.docx", report()),
        ("Board deck.pptx", deck()),
        ("Circular 2025.pdf", circular()),
    ):
        (OUT / name).write_bytes(data)
