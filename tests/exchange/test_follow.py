"""Numbers that follow figures: put into controls, written anew, and known for what they are."""

from __future__ import annotations

import io
import json
import unittest
import zipfile
from decimal import Decimal
from urllib.parse import quote_plus

from humble_sum.core.documents.proofreading import Reader
from humble_sum.core.documents.version_changes import number_changes
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.exchange.documents.corrections import corrections_of
from humble_sum.exchange.documents.follow import following, refreshed
from humble_sum.exchange.documents.links import figure_link
from humble_sum.exchange.documents.reading import corrected, read_document
from humble_sum.exchange.pack_json import read_pack, write_pack
from tests.every_change import DEMO
from tests.exchange.test_documents import AT, FILES, A, docx, proofread, run_of, zipped

DOCX = FILES["a.docx"]


def body(data: bytes) -> str:
    return zipfile.ZipFile(io.BytesIO(data)).read("word/document.xml").decode()


def moved_pack() -> bytes:
    """The demo pack with another amount of revenue, whose fares are higher by as much."""
    told = json.loads(write_pack(DEMO))
    for statement in told["statements"]:
        for line in statement["lines"]:
            if (statement["id"], line["id"]) == ("income", "fares"):
                line["amounts"]["y25"] = str(Decimal(line["amounts"]["y25"]) + 5_000_000)
    return json.dumps(told).encode()


class FollowTest(unittest.TestCase):
    def test_what_agrees_follows_and_is_written_anew_in_place(self) -> None:
        fixed = corrected("a.docx", DOCX, corrections_of(proofread("a.docx", DOCX)), "Asha", AT)
        made, count = following("a.docx", fixed, proofread("a.docx", fixed))
        read = proofread("a.docx", made)
        self.assertEqual(count, sum(each.follows for each in read.numbers))
        self.assertGreaterEqual(count, 3)
        self.assertIn('w:val="humble-sum:income/rev/y25"', body(made))
        self.assertEqual([n.text for n in read.numbers], [n.text for n in proofread("a.docx", fixed).numbers])
        again, none = following("a.docx", made, read)
        self.assertEqual((again, none), (made, 0))

        other = Reader(prove_pack(read_pack(moved_pack())))
        stale = other.proofread(read_document("a.docx", made))
        new, done = refreshed("a.docx", made, stale)
        self.assertEqual(
            [(e.was, e.now, e.figure) for e in done], [("₹31.37 crore", "₹31.87 crore", "income/rev/y25")]
        )
        self.assertEqual(body(new).replace("31.87", "31.37"), body(made))
        (change,) = number_changes(stale, other.proofread(read_document("a.docx", new)))
        self.assertEqual(change.says, "page 1, paragraph 2: ₹31.37 crore is ₹31.87 crore now")

    def test_a_control_says_which_figure_it_is_whatever_the_words_say(self) -> None:
        made, _ = following("a.docx", DOCX, proofread("a.docx", DOCX))
        renamed = body(made).replace("humble-sum:income/rev/y25", "humble-sum:income/net/y26")
        data = io.BytesIO()
        with zipfile.ZipFile(data, "w") as package:
            package.writestr("word/document.xml", renamed)
        found = {n.text: n for n in proofread("a.docx", data.getvalue()).numbers}
        self.assertEqual(found["₹31.37 crore"].figure, ("income", "net", "y26"))
        self.assertEqual(found["₹31.37 crore"].says, "disagrees")

    def test_a_copied_figure_is_known_by_its_link_where_it_is_of_this_entity(self) -> None:
        rels = "xmlns='http://schemas.openxmlformats.org/package/2006/relationships'"
        for entity, follows in (("Lanternfish Ferries", True), ("Another & Sons", False)):
            path = f"http://desk:8440/packs/p1/income?of={quote_plus(entity)}"
            spot = "rev/y25"
            relations = (
                f"<Relationships {rels}><Relationship Id='r1' TargetMode='External' Target='{path}'/>"
                f"<Relationship Id='r2' TargetMode='External' Target='{path}#{spot}'/></Relationships>"
            )
            refers = "xmlns:r='http://schemas.openxmlformats.org/officeDocument/2006/relationships'"
            link = f"<w:hyperlink {refers} r:id='r1' w:anchor='{spot}'>{run_of('₹31.37 crore')}</w:hyperlink>"
            click = f"<a:rPr><a:hlinkClick {refers} r:id='r2'/></a:rPr><a:t>₹31.37 crore</a:t>"
            shape = f"<p:sp><p:txBody><a:p><a:r><a:t>It was </a:t></a:r><a:r>{click}</a:r></a:p></p:txBody></p:sp>"
            cell = f"<w:tbl><w:tr><w:tc><w:p>{run_of('It')}</w:p></w:tc><w:tc><w:p>{link}</w:p></w:tc></w:tr></w:tbl>"
            files = {
                "a.docx": docx(
                    f"<w:p>{run_of('It was ')}{link}</w:p>", **{"word/_rels/document.xml.rels": relations}
                ),
                "b.docx": docx(cell, **{"word/_rels/document.xml.rels": relations}),
                "a.pptx": zipped(
                    {
                        "ppt/slides/slide1.xml": f"<p:sld {A}><p:cSld><p:spTree>{shape}</p:spTree></p:cSld></p:sld>",
                        "ppt/slides/_rels/slide1.xml.rels": relations,
                    }
                ),
                "a.html": f"<p>It was <a href='{path}#{spot}'>₹31.37 <b>crore</b></a>.</p>".encode(),
                "b.html": f"<table><tr><td>It<td><a href='{path}#{spot}'>₹31.37 crore</a></table>".encode(),
                "a.md": f"It was [**₹31.37** crore]({path}#{spot}).\n".encode(),
                "b.md": f"| a | b |\n|---|---|\n| It | [₹31.37 crore]({path}#{spot}) |\n".encode(),
            }
            for name, data in files.items():
                with self.subTest(name=name, entity=entity):
                    (number,) = proofread(name, data).numbers
                    self.assertEqual(number.follows, follows)
                    if follows:
                        self.assertEqual((number.figure, number.says), (("income", "rev", "y25"), "agrees"))

    def test_other_addresses_name_no_figure(self) -> None:
        for address in (
            "https://example.com/",
            "/packs/p/income#rev/y25",
            "http://desk/packs/p/income?of=X#rev",
            "http://desk/packs/p?of=X#rev/y25",
            "http://[/packs/p/income?of=X#rev/y25",
            "",
        ):
            self.assertIsNone(figure_link(address), address)


if __name__ == "__main__":
    unittest.main()
