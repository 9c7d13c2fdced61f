"""Paper: every figure is on it, once and in order; tagged, with its fonts, and from nowhere else."""

import io
import subprocess
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path
from typing import Any
from unittest.mock import patch

from pypdf import PdfReader
from weasyprint.urls import FatalURLFetchingError

from humble_sum.core.errors import InputError
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange import paper
from humble_sum.exchange.containers.container import read_container
from humble_sum.exchange.containers.edition_files import FIGURES, PACK
from humble_sum.exchange.containers.issue_files import proved_in
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.containers.verification import verify
from humble_sum.exchange.html import on_paper, sheets_of, write_edition
from humble_sum.exchange.paper import presses, set_on_paper
from humble_sum.exchange.pdf_reading import not_there, said_on_paper
from humble_sum.exchange.sources.progress import Stopped
from tests.making import demo_income, pack, rule, statement


def in_locale(locale: str) -> Pack:
    """The income statement, whose house rule says another locale."""
    made = demo_income()
    first, *others = made.rulebook.rules
    said = first.clauses.model_dump(exclude_unset=True) | {"locale": locale}
    rules = (first.model_copy(update={"clauses": Clauses.model_validate(said)}), *others)
    return made.model_copy(update={"rulebook": made.rulebook.model_copy(update={"rules": rules})})


def edition_on_paper(pack_proof: PackProof) -> bytes:
    return set_on_paper(write_edition(pack_proof, paper=True)).data


def missing_from(pack_proof: PackProof, data: bytes) -> list[tuple[str, str]]:
    figures = [(str(figure.cell), figure.printed.full_text) for _, figure in on_paper(pack_proof)]
    assert figures
    return list(not_there(said_on_paper(data), figures))


class PaperTest(unittest.TestCase):
    def test_every_figure_is_on_paper_whatever_its_script(self) -> None:
        for locale in ("ar-EG", "he"):
            with self.subTest(locale):
                pack_proof = proved_in(in_locale(locale))
                self.assertEqual(missing_from(pack_proof, edition_on_paper(pack_proof)), [])

    def test_words_written_from_the_right_beside_a_figure_are_no_fault_and_a_lost_sign_is(self) -> None:
        amounts = statement({"a": ["-1234567.5", "0"], "b": ["34", "-0.5"]}, {})
        for locale, currency, negative in (
            ("fa", "IRR", "trailing_minus"),
            ("fa", "IRR", "cr"),
            ("ar-EG", "EGP", "brackets"),
            ("he", "ILS", "minus"),
        ):
            with self.subTest(locale=locale, negative=negative):
                clauses = {"locale": locale, "currency": currency, "money_shown": "every"}
                said = clauses | {"decimals": {"fixed": 2}}
                pack_proof = proved_in(pack(amounts, rule("r", said | {"negative": negative})))
                data = edition_on_paper(pack_proof)
                self.assertEqual(missing_from(pack_proof, data), [])
                unsigned = proved_in(pack(amounts, rule("r", said | {"negative": "unsigned"})))
                self.assertTrue(missing_from(pack_proof, edition_on_paper(unsigned)))

    def test_another_pack_is_not_on_it(self) -> None:
        data = edition_on_paper(proved_in(demo_income()))
        other = proved_in(in_locale("ar-EG"))
        self.assertTrue(missing_from(other, data))

    def test_it_is_tagged_has_its_fonts_and_counts_its_pages(self) -> None:
        pack_proof = proved_in(demo_income())
        made: Any = PdfReader(io.BytesIO(edition_on_paper(pack_proof)))
        root = made.trailer["/Root"]
        self.assertTrue(root["/MarkInfo"]["/Marked"])
        self.assertIn("/StructTreeRoot", root)
        self.assertEqual(root["/Lang"], "en")
        for number, page in enumerate(made.pages, 1):
            text = page.extract_text()
            self.assertIn(f"{number} / {len(made.pages)}", text)
            self.assertIn("Lanternfish Ferries", text)
            for font in page["/Resources"]["/Font"].values():
                (inner,) = font.get_object()["/DescendantFonts"]
                self.assertTrue({"/FontFile2", "/FontFile3"} & set(inner.get_object()["/FontDescriptor"]))

    def test_the_same_is_the_same_and_nothing_is_fetched(self) -> None:
        page = b"<html><head><title>t</title></head><body><main><p>x</p><h1>y</h1></main></body></html>"
        self.assertEqual(set_on_paper(page), set_on_paper(page))
        with self.assertRaises(FatalURLFetchingError):
            set_on_paper(page.replace(b"<p>", b'<p><img src="http://127.0.0.1:9/x.png">'))

    def test_a_machine_without_its_library_says_what_to_install(self) -> None:
        with (
            patch.dict("sys.modules", {"weasyprint": None}),
            patch("builtins.__import__", side_effect=OSError("no such library")),
            self.assertRaises(InputError) as refused,
        ):
            paper._weasyprint()
        self.assertIn("apt-get install", str(refused.exception.faults[0]))

    def test_what_is_stopped_leaves_no_process(self) -> None:
        page = write_edition(proved_in(demo_income()), paper=True)
        real, begun = subprocess.Popen, []

        def begin(*told: Any, **more: Any) -> Any:
            begun.append(real(*told, **more))
            return begun[-1]

        def stop() -> None:
            raise Stopped

        with (
            patch("humble_sum.exchange.paper.subprocess.Popen", side_effect=begin),
            patch("humble_sum.exchange.paper.BEAT", 0.01),
            self.assertRaises(Stopped),
            presses(("a", "b")) as press,
        ):
            press.give("a", page)
            press.awaited("a", stop)
        self.assertEqual([process.returncode for process in begun], [-9, -9])

    def test_a_process_that_cannot_says_why(self) -> None:
        for says, wanted in (("raise OSError", InputError), ("raise ValueError('torn')", RuntimeError)):
            with self.subTest(says), tempfile.TemporaryDirectory() as folder:
                (Path(folder) / "weasyprint.py").write_text(says)
                with (
                    patch.dict("os.environ", {"PYTHONPATH": folder}),
                    self.assertRaises(wanted) as told,
                    presses(("a",)) as press,
                ):
                    press.give("a", b"<p>x</p>")
                    press.awaited("a", lambda: None)
            self.assertRegex(str(told.exception), "apt-get install|torn")

    def test_wide_tables_go_on_over_sheets_and_long_ones_over_pages(self) -> None:
        months = [Decimal(n) * 1_234_567 for n in range(16)]
        lines = {f"line{n}": [str(amount + n) for amount in months] for n in range(40)}
        columns = tuple(f"m{n}" for n in range(16))
        pack_proof = proved_in(pack(statement(lines, {"total": list(lines)}, columns)))
        data = edition_on_paper(pack_proof)
        self.assertEqual(missing_from(pack_proof, data), [])
        first = PdfReader(io.BytesIO(data)).pages[0]
        self.assertGreater(first.mediabox.width, first.mediabox.height)
        self.assertIn("columns 1 to", first.extract_text())

    def test_columns_are_shared_out_once_each(self) -> None:
        for widths in ([10], [10, 8, 8], [36, *[12] * 30], [10, 500, 5, 500], [0, *[1] * 300]):
            with self.subTest(widths):
                groups = sheets_of(widths)
                self.assertEqual([n for group in groups for n in group], list(range(len(widths) - 1)))
                self.assertTrue(all(groups) or len(widths) == 1)


class VerifiedPaperTest(unittest.TestCase):
    def test_paper_of_other_figures_is_found(self) -> None:
        made = demo_income()
        pack_proof = proved_in(made)
        wanted = Wanted(
            "A", "B", files=("pdf", "record"), reasons={c.id: "known" for c in checks_of(pack_proof)}
        )
        _, data = issue(pack_proof, 1, "2026-11-26T12:00:00Z", wanted)
        said = verify(data)
        self.assertEqual((said.faults, said.holds), ([], True))
        self.assertTrue(any("edition.pdf" in each for each in said.shown))
        files = read_container(data).files
        self.assertTrue({PACK, FIGURES, "edition.pdf", "record.pdf"} <= files.keys())

    def test_a_character_that_no_font_has_is_refused_by_name(self) -> None:
        made = demo_income()
        named = made.model_copy(update={"entity": "Lanternfish \U0001f3a3 \ue000"})
        with self.assertRaises(InputError) as refused:
            edition_on_paper(proved_in(named))
        self.assertIn("U+E000", str(refused.exception))
        self.assertIn("Install a font", str(refused.exception))
        with self.assertRaises(InputError) as refused, presses(("a",)) as press:
            press.give("a", write_edition(proved_in(named), paper=True))
            press.awaited("a", lambda: None)
        self.assertIn("U+E000", str(refused.exception))
