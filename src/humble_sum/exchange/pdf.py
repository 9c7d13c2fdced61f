"""PDF of what is also a web page: the same HTML, set on paper by WeasyPrint with the fonts that are here."""

from __future__ import annotations

import hashlib
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.html import write_edition, write_html
from humble_sum.exchange.record_page import write_record_page

# Tables break between lines and repeat their heads; a heading stays with what it is over. What is wider than
# a page that stands gets one that lies.
PAPER = """
@page {
  size: A4; margin: 20mm 18mm 22mm;
  @top-left { content: string(whose); font: 8.5pt 'Noto Serif', serif; color: #55676b; }
  @top-right { content: string(what); font: 8.5pt 'Noto Serif', serif; color: #55676b; }
  @bottom-center { content: counter(page) ' / ' counter(pages); font: 8.5pt 'Noto Serif', serif;
    color: #55676b; }
}
@page wide { size: A4 landscape; }
body { font: 10pt/1.4 'IBM Plex Serif', 'Noto Serif', 'Noto Serif Devanagari', 'Noto Naskh Arabic', serif; }
main { border: 0; margin: 0; padding: 0; max-width: none; page: auto; break-after: page; }
main:last-of-type { break-after: auto; }
main.wide { page: wide; font-size: 8pt; }
main.wide td { padding-left: 1em; }
td { unicode-bidi: plaintext; }
td.figure { padding-right: .7em; }
td.hangs { padding-right: 0; }
.subtotal .n, .total .n { display: inline-block; min-width: 4.2em; padding: 0 .7em 0 .4em;
  margin-right: -.7em; border-top: 1px solid; unicode-bidi: plaintext; }
.subtotal .hangs .n, .total .hangs .n { padding-right: 0; margin-right: 0; min-width: 4.9em; }
.last .n { border-bottom: 3px double; }
main.wide td .n { min-width: 0; }
main.wide thead th { padding-left: 1em; }
main.wide tbody th { min-width: 9em; }
main > p:first-child { string-set: whose content(); }
h1 { string-set: what content(); }
thead { display: table-header-group; }
tr { break-inside: avoid; }
tr.heading { break-after: avoid; }
tr.total, tr.subtotal { break-before: avoid; }
"""
NEEDED = "libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0"


def write_statement_pdf(pack: Pack, proof: Proof) -> bytes:
    """One statement as its readers see it. Raises InputError where this machine cannot make PDF."""
    return write_pdf(write_html(pack, proof, paper=True))


def write_edition_pdf(whole: PackProof) -> bytes:
    """All statements of an edition, each beginning on a page of its own. Raises InputError as above."""
    return write_pdf(write_edition(whole, paper=True))


def write_record_pdf(whole: PackProof) -> bytes:
    """The record of nudges and holds. Raises InputError as above."""
    return write_pdf(write_record_page(whole))


def write_pdf(page: bytes) -> bytes:
    """A page of ours on paper: tagged (ISO 32000-2, 14.8), fonts embedded, nothing fetched from anywhere.

    The same page with the same fonts is the same file, byte by byte.
    """
    made = _weasyprint()
    # No protocol is allowed, and what asks for one ends it.
    nothing = made.urls.URLFetcher(allowed_protocols=(), fail_on_errors=True)
    # The page's own style sheets would be stronger than one that is handed over.
    set_out = page.decode().replace("</head>", f"<style>{PAPER}</style>\n</head>", 1)
    document = made.HTML(string=set_out, url_fetcher=nothing)
    identifier = hashlib.sha256(page).digest()[:16]
    return bytes(document.write_pdf(pdf_tags=True, pdf_identifier=identifier))


def _weasyprint() -> Any:
    """WeasyPrint, read when a PDF is first asked for: it loads Pango, which may not be there."""
    try:
        import weasyprint
    except OSError:
        what = "PDF needs Pango, and it is not on the machine of Humble Sum."
        raise InputError("no-pdf", Fault("pdf", what, f"Install it: apt-get install {NEEDED}.")) from None
    return weasyprint
