"""Spoiled containers: what somebody may do to a file of an issue who puts the manifest right again."""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile
from collections.abc import Callable, Iterator
from itertools import islice
from typing import Any

from pypdf import PdfReader, PdfWriter
from pypdf.generic import (
    ArrayObject,
    DecodedStreamObject,
    DictionaryObject,
    FloatObject,
    NameObject,
    RectangleObject,
    StreamObject,
    TextStringObject,
)

from humble_sum.exchange.containers.archive import write_archive
from humble_sum.exchange.containers.manifest import MANIFEST

Parts = dict[str, bytes]
Spoil = Callable[[Parts], None]


def parts_of(container: bytes) -> Parts:
    """The files of a container, the manifest among them."""
    with zipfile.ZipFile(io.BytesIO(container)) as packed:
        return {name: packed.read(name) for name in packed.namelist()}


def spoiled(container: bytes, spoil: Spoil, **restated: Any) -> bytes:
    """The container after a spoil, with the digests of all of its files made anew; `restated` is what else the
    manifest says."""
    parts = parts_of(container)
    before = dict(parts)
    spoil(parts)
    assert parts != before, "nothing was spoiled"
    told = json.loads(parts.pop(MANIFEST)) | restated
    says = {each["name"]: each["says"] for each in told["files"]}
    told["files"] = [
        {
            "name": name,
            "says": says.get(name, "More"),
            "sha256": hashlib.sha256(data).hexdigest(),
            "size": len(data),
        }
        for name, data in sorted(parts.items())
    ]
    manifest = (json.dumps(told, ensure_ascii=False, sort_keys=True, indent=1) + "\n").encode()
    return write_archive([(MANIFEST, manifest), *sorted(parts.items())])


def replaced(name: str, was: str, now: str) -> Spoil:
    """One text in a file replaced by another."""

    def spoil(parts: Parts) -> None:
        assert was.encode() in parts[name], (name, was)
        parts[name] = parts[name].replace(was.encode(), now.encode(), 1)

    return spoil


def restated(**said: Any) -> Spoil:
    """Other words of the manifest."""

    def spoil(parts: Parts) -> None:
        parts[MANIFEST] = json.dumps(json.loads(parts[MANIFEST]) | said).encode()

    return spoil


def check_restated(id: str, **said: Any) -> Spoil:
    """Other words of a check in the manifest."""

    def spoil(parts: Parts) -> None:
        told = json.loads(parts[MANIFEST])
        told["checks"] = [each | said if each["id"] == id else each for each in told["checks"]]
        parts[MANIFEST] = json.dumps(told).encode()

    return spoil


def put(name: str, data: bytes) -> Spoil:
    """Another file in the place of one."""

    def spoil(parts: Parts) -> None:
        parts[name] = data

    return spoil


def gone(name: str) -> Spoil:
    """A file left out."""

    def spoil(parts: Parts) -> None:
        del parts[name]

    return spoil


def in_book(name: str, change: Callable[[Parts], None]) -> Spoil:
    """The parts of a workbook changed."""

    def spoil(parts: Parts) -> None:
        inner = parts_of(parts[name])
        change(inner)
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
            for part, data in inner.items():
                packed.writestr(part, data)
        parts[name] = out.getvalue()

    return spoil


def cell(part: str, pattern: str, now: str) -> Callable[[Parts], None]:
    """One place in a part of a workbook said otherwise."""

    def change(inner: Parts) -> None:
        text, count = re.subn(pattern, now, inner[part].decode(), count=1)
        assert count, (part, pattern)
        inner[part] = text.encode()

    return change


def in_pdf(name: str, change: Callable[[PdfWriter], None]) -> Spoil:
    """A PDF opened, changed and written again."""

    def spoil(parts: Parts) -> None:
        writer = PdfWriter(clone_from=PdfReader(io.BytesIO(parts[name])))
        change(writer)
        out = io.BytesIO()
        writer.write(out)
        parts[name] = out.getvalue()

    return spoil


def painted(code: bytes, page: int = 0) -> Callable[[PdfWriter], None]:
    """Something more painted on a page."""

    def change(writer: PdfWriter) -> None:
        stream = DecodedStreamObject()
        stream.set_data(b"q " + code + b" Q")
        more = writer._add_object(stream)
        on: Any = writer.pages[page]
        own = on["/Contents"]
        on[NameObject("/Contents")] = ArrayObject([own.indirect_reference or writer._add_object(own), more])

    return change


def repainted(pattern: bytes, now: bytes, page: int = 0) -> Callable[[PdfWriter], None]:
    """What a page paints, said otherwise."""

    def change(writer: PdfWriter) -> None:
        on: Any = writer.pages[page]
        data, count = re.subn(pattern, now, on.get_contents().get_data(), count=1)
        assert count, pattern
        stream = DecodedStreamObject()
        stream.set_data(data)
        on[NameObject("/Contents")] = writer._add_object(stream)

    return change


def noted(writer: PdfWriter) -> None:
    """A note laid over a page."""
    note = DictionaryObject(
        {
            NameObject("/Type"): NameObject("/Annot"),
            NameObject("/Subtype"): NameObject("/Square"),
            NameObject("/Rect"): RectangleObject((100, 100, 300, 300)),
            NameObject("/IC"): ArrayObject([FloatObject(1), FloatObject(1), FloatObject(1)]),
        }
    )
    writer.pages[0][NameObject("/Annots")] = ArrayObject([writer._add_object(note)])


def relettered(writer: PdfWriter) -> None:
    """Two digits that are read as each other: what is painted stays as it was."""
    fonts: Any = writer.pages[0]["/Resources"]
    for font in fonts["/Font"].values():
        stream = font.get_object()["/ToUnicode"].get_object()
        data = stream.get_data()
        if b"<0031>" in data and b"<0032>" in data:
            data = (
                data.replace(b"<0031>", b"<XXXX>").replace(b"<0032>", b"<0031>").replace(b"<XXXX>", b"<0032>")
            )
            made = DecodedStreamObject()
            made.set_data(data)
            font.get_object()[NameObject("/ToUnicode")] = writer._add_object(made)


def redrawn(writer: PdfWriter) -> None:
    """A digit that is drawn as another: what is read stays as it was."""
    from fontTools.ttLib import TTFont

    fonts: Any = writer.pages[0]["/Resources"]
    for font in fonts["/Font"].values():
        told = font.get_object()["/DescendantFonts"][0].get_object()["/FontDescriptor"].get_object()
        if "/FontFile2" not in told:
            continue
        glyphs = TTFont(io.BytesIO(told["/FontFile2"].get_object().get_data()))
        drawn = [name for name in glyphs.getGlyphOrder() if glyphs["glyf"][name].numberOfContours > 0]
        if len(drawn) < 3:
            continue
        one, two = drawn[1], drawn[-1]
        glyphs["glyf"][one], glyphs["glyf"][two] = glyphs["glyf"][two], glyphs["glyf"][one]
        out = io.BytesIO()
        glyphs.save(out)
        stream = StreamObject()
        stream._data = out.getvalue()
        told[NameObject("/FontFile2")] = writer._add_object(stream)


def scripted(writer: PdfWriter) -> None:
    """A script that runs when the file is opened."""
    action = {NameObject("/S"): NameObject("/JavaScript"), NameObject("/JS"): TextStringObject("app.beep()")}
    root: Any = writer.root_object
    root[NameObject("/OpenAction")] = writer._add_object(DictionaryObject(action))


def cropped(writer: PdfWriter) -> None:
    """A page of which a part is not shown."""
    writer.pages[0][NameObject("/CropBox")] = RectangleObject((0, 300, 595, 842))


def without_a_page(writer: PdfWriter) -> None:
    """A page left out."""
    writer.remove_page(len(writer.pages) - 1)


def twice(writer: PdfWriter) -> None:
    """A page that is there twice."""
    writer.add_page(writer.pages[0])


HIDDEN_SHEET = (
    '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData><row r="1">'
    '<c r="A1" t="inlineStr"><is><t>more</t></is></c></row></sheetData></worksheet>'
)


def hidden_sheet(inner: Parts) -> None:
    """A sheet that is in the workbook and hidden."""
    inner["xl/worksheets/sheet99.xml"] = HIDDEN_SHEET.encode()
    types, book, links = "[Content_Types].xml", "xl/workbook.xml", "xl/_rels/workbook.xml.rels"
    kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"
    override = f'<Override PartName="/xl/worksheets/sheet99.xml" ContentType="{kind}"/></Types>'
    inner[types] = inner[types].replace(b"</Types>", override.encode())
    sheet = b'<sheet name="More" sheetId="99" state="hidden" r:id="rId99"/></sheets>'
    inner[book] = inner[book].replace(b"</sheets>", sheet)
    of = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet"
    link = f'<Relationship Id="rId99" Type="{of}" Target="worksheets/sheet99.xml"/></Relationships>'
    inner[links] = inner[links].replace(b"</Relationships>", link.encode())


SHEET, SHARED, STYLES = "xl/worksheets/sheet1.xml", "xl/sharedStrings.xml", "xl/styles.xml"
NUMBER = r'(<c r="B7"[^>]*>(?:<f>[^<]*</f>)?<v>)([^<]*)(</v>)'


def spoils_of_pages(name: str) -> Iterator[tuple[str, Spoil]]:
    """What may be done to a web page."""
    closing = "</body>"
    for says, was, now in (
        ("a figure", "1,844", "1,845"),
        ("the unit", "₹ lakhs", "₹ crores"),
        ("a label", "Fuel", "Fule"),
        ("a head", "2025–26", "2024–25"),
        ("the entity", "Lanternfish Ferries", "Lanternfish Ferry"),
        ("the foot", "issue 1", "issue 2"),
        ("a script", closing, "<script>document.title='x'</script></body>"),
        ("a frame", closing, '<iframe src="https://example.invalid/"></iframe></body>'),
        ("something that runs", "<main>", '<main onclick="x()">'),
        ("hidden text", closing, '<p style="display:none">more</p></body>'),
        ("a figure hidden", '<td class="figure">', '<td class="figure" style="display:none">'),
        ("an overlay", closing, '<p style="position:fixed;top:9rem;background:#fff">0</p></body>'),
        ("figures hidden by style", "</style>", "td data{display:none}</style>"),
        ("text painted by style", "</style>", "td::after{content:'0'}</style>"),
        ("white text", "</style>", "td{color:#fff}</style>"),
        ("a picture", closing, '<img src="data:image/png;base64,AAAA" alt="x"></body>'),
        ("a comment", closing, "<!-- more --></body>"),
        ("a link", closing, '<a href="https://example.invalid/">x</a></body>'),
        ("where it goes", "<meta charset", '<meta http-equiv="refresh" content="0;url=x"><meta charset'),
    ):
        yield f"{name}: {says}", replaced(name, was, now)
    exact = '<data value="184374651.40">'
    if name == "edition.html":
        yield f"{name}: an exact amount", replaced(name, exact, '<data value="184474651.40">')


def spoils_of_tagged() -> Iterator[tuple[str, Spoil]]:
    """What may be done to a tagged page and its taxonomy."""
    page, schema = "edition.xhtml", "edition.xsd"
    for says, was, now in (
        ("a figure", ">1,844<", ">1,845<"),
        ("the unit", "₹ lakhs", "₹ crores"),
        ("a label", "Fuel", "Fule"),
        ("a head", "2025–26", "2024–25"),
        ("a scale", 'scale="5"', 'scale="7"'),
        ("a sign", 'sign="-"', ""),
        ("its accuracy", 'decimals="-5"', 'decimals="0"'),
        ("a date", "2026-03-31", "2025-03-31"),
        ("a currency", "iso4217:INR", "iso4217:USD"),
        ("a script", "</body>", "<script>x()</script></body>"),
        ("a hidden fact", "<ix:resources>", "<ix:hidden></ix:hidden><ix:resources>"),
        ("hidden text", "</body>", '<p style="display:none">more</p></body>'),
        ("another taxonomy", f'xlink:href="{schema}"', 'xlink:href="https://example.invalid/x.xsd"'),
        ("style", "</style>", "td{color:#fff}</style>"),
        ("a line hidden", '<tr class="line">', '<tr class="line" style="display:none">'),
    ):
        yield f"{page}: {says}", replaced(page, was, now)
    for says, was, now in (
        ("a label", "Fuel", "Fule"),
        ("a sign of a sum", 'weight="1"', 'weight="-1"'),
        ("a kind", "monetaryItemType", "decimalItemType"),
        ("a time", 'periodType="duration"', 'periodType="instant"'),
        ("a document of its own", "<xs:schema", '<!DOCTYPE x [<!ENTITY e "1">]><xs:schema'),
    ):
        yield f"{schema}: {says}", replaced(schema, was, now)


def spoils_of_books(name: str) -> Iterator[tuple[str, Spoil]]:
    """What may be done to a workbook."""
    for says, change in (
        ("a figure", cell(SHEET, NUMBER, r"\g<1>7\g<2>\g<3>")),
        ("the unit", cell(SHARED, "lakhs", "crores")),
        ("a label", cell(SHARED, "Fuel", "Fule")),
        ("a head", cell(SHARED, "2025–26", "2024–25")),
        ("a formula", cell(SHEET, r"<f>B7\+B8", "<f>B7-B8")),
        ("a formula without its value", cell(SHEET, r"(<f>B7[^<]*</f>)<v>[^<]*</v>", r"\1<v>1</v>")),
        ("a code", cell(STYLES, r'formatCode="[^"]*"', 'formatCode="&quot;0&quot;"')),
        ("a hidden row", cell(SHEET, r'<row r="8"', '<row r="8" hidden="1"')),
        ("a hidden column", cell(SHEET, r"<col min", '<col hidden="1" min')),
        ("a hidden sheet", hidden_sheet),
        ("a note", cell("xl/comments1.xml", r"(<t[^>]*>)Printed", r"\1Printd")),
        ("a macro", lambda inner: inner.update({"xl/vbaProject.bin": b"x"})),
        ("a link elsewhere", lambda inner: inner.update({"xl/externalLinks/externalLink1.xml": b"<x/>"})),
        (
            "a merged cell",
            cell(
                SHEET,
                "</sheetData>",
                '</sheetData><mergeCells count="1"><mergeCell ref="A7:B7"/></mergeCells>',
            ),
        ),
        ("a sheet's name", cell("xl/workbook.xml", 'name="Income"', 'name="Outcome"')),
    ):
        if says.startswith("a formula") and name == "workbook-unit.xlsx":
            continue
        yield f"{name}: {says}", in_book(name, change)


def spoils_of_pdfs(name: str) -> Iterator[tuple[str, Spoil]]:
    """What may be done to a PDF."""
    glyphs = rb"<([0-9a-f]{4})([0-9a-f]{4})"
    for says, change in (
        ("a figure or a word", repainted(glyphs, rb"<\2\1")),
        ("something over it", painted(b"1 1 1 rg 60 300 400 300 re f")),
        ("a line through it", painted(b"0 0 0 RG 3 w 60 300 m 400 300 l S")),
        ("nothing painted of the end", repainted(rb"(?s)(BT.*?ET)(.*)\Z", rb"\1")),
        ("a note", noted),
        ("a script", scripted),
        ("a file in it", lambda writer: writer.add_attachment("x.txt", b"x") and None),
        ("a page less", without_a_page),
        ("a page twice", twice),
        ("a part not shown", cropped),
        ("other letters read", relettered),
        ("other letters drawn", redrawn),
        ("other words about it", lambda writer: writer.add_metadata({"/Title": "Other"})),
    ):
        yield f"{name}: {says}", in_pdf(name, change)

    def longer(parts: Parts) -> None:
        parts[name] += b"\n% more\n%%EOF\n"

    yield f"{name}: more behind it", longer


def spoils_of_text() -> Iterator[tuple[str, Spoil]]:
    """What may be done to tables, records, the pack and the certificate."""
    for name, says, was, now in (
        ("figures.csv", "an amount", "184374651.40,", "184374651.41,"),
        ("figures.csv", "a figure", '"1,844"', '"1,845"'),
        ("figures.csv", "a mark", "yes", ""),
        ("statement-1.csv", "a figure", "1,844", "1,845"),
        ("statement-1.csv", "the unit", "lakhs", "crores"),
        ("statement-1.csv", "a label", "Fuel", "Fule"),
        ("statement-1.csv", "a head", "2025–26", "2024–25"),
        ("statement-1.csv", "a formula", "Fuel", "=1+1"),
        ("statement-1.md", "a figure", "1,844", "1,845"),
        ("statement-1.md", "a link", "Fuel", "[Fuel](https://example.invalid/)"),
        ("figures-1.json", "an amount", "184374651.40", "184374651.41"),
        ("figures-1.json", "a trace", "Exact", "Exakt"),
        ("record.csv", "a reason", "let", "lte"),
        ("record.csv", "a label", "Night freight", "Day freight"),
        ("record.html", "a reason", "let", "lte"),
        ("record.html", "a script", "</body>", "<script>x()</script></body>"),
        ("certificate.json", "a plan", '"printed": {', '"printed": {"x": 1, '),
        ("certificate.json", "more in it", "{\n", '{\n "note": "all is well",\n'),
        ("pack.json", "an amount", '"184374651.40"', '"184474651.40"'),
        ("pack.json", "a label", "Fuel", "Fule"),
        ("pack.json", "a rule", '"lakhs"', '"crores"'),
        ("pack.json", "a reason of a nudge", "Adds", "Ads"),
        ("pack.json", "other bytes", "\n", " \n"),
        ("pack.json", "something twice", "{", '{"period": "Another year", '),
    ):
        yield f"{name}: {says}", replaced(name, was, now)


def spoils_of_boards() -> Iterator[tuple[str, Spoil]]:
    """What may be done to charts and dashboards."""
    chart, board = "chart-1-8.svg", "dashboard-1.html"
    for name, says, was, now in (
        (chart, "a label", "Q1", "Q4"),
        (chart, "the unit", "lakhs", "crores"),
        (chart, "a script", "</svg>\n", "<script>x()</script></svg>\n"),
        (chart, "a part that is hidden", "<g", '<g visibility="hidden"'),
        (chart, "a part styled away", 'style="', 'style="display:none; '),
        (board, "a figure", "1,412", "1,512"),
        (board, "the unit", "lakhs", "crores"),
        (board, "a script", "</body>", "<script>x()</script></body>"),
    ):
        yield f"{name}: {says}", replaced(name, was, now)


def spoils_of_manifest() -> Iterator[tuple[str, Spoil]]:
    """What may be said otherwise in the manifest."""
    for says, change in (
        ("the entity", restated(entity="Lanternfish Boats")),
        ("the period", restated(period="Year to 31 March 2027")),
        ("the edition's name", restated(edition_name="Board")),
        ("an edition that is none", restated(edition="gone")),
        ("the number", restated(number=2)),
        ("the state", restated(state="final")),
        ("the kinds", restated(kinds=["html"])),
        ("no kinds", restated(kinds=[])),
        ("a kind that is none", restated(kinds=["html", "tar"])),
        ("no checks", restated(checks=[])),
        ("an open check that is said to hold", check_restated("whole", open=[], reason="")),
        ("other things open", check_restated("whole", open=["Storm claims receivable"])),
        ("an open check without a reason", check_restated("whole", reason="")),
        ("a check's evidence", check_restated("sums", evidence="999 down and across, 46 nudges")),
        ("a check called otherwise", check_restated("sums", says="All is well")),
    ):
        yield f"manifest.json: {says}", change


def spoils_of_names() -> Iterator[tuple[str, Spoil]]:
    """Files left out, and put in."""
    for name in ("edition.html", "edition.xsd", "record.csv", "statement-1.csv", "pack.json", "figures.csv"):
        yield f"{name}: left out", gone(name)
    for name in ("more.txt", "statement-2.csv", "edition.exe", "seal-1.jws"):
        yield f"{name}: put in", put(name, b"x")


def spoils_by_kind() -> Iterator[tuple[tuple[str, ...], list[tuple[str, Spoil]]]]:
    """Every spoil of files that are neither paper nor of dashboards, with the kinds of files that a container
    has to have for them."""
    yield ("html",), [*spoils_of_pages("edition.html")]
    yield ("xbrl",), [*spoils_of_tagged()]
    yield ("exact",), [*spoils_of_books("workbook-exact.xlsx")]
    for mode in ("unit", "printed"):  # they are made and read alike
        yield (mode,), [*islice(spoils_of_books(f"workbook-{mode}.xlsx"), 6)]
    yield ("csv", "markdown", "records", "record"), [*spoils_of_text()]
    yield ("html", "xbrl", "csv", "record"), [*spoils_of_manifest(), *spoils_of_names()]
