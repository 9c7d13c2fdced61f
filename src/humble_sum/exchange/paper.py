"""Pages of ours set on paper by WeasyPrint with the fonts that are here: here and now, or several at once,
each by a process of its own, so that who waits for them can do other things and stop them."""

from __future__ import annotations

import hashlib
import subprocess
import sys
from collections.abc import Callable, Iterator, Mapping
from contextlib import ExitStack, contextmanager
from typing import Any

from humble_sum.core.errors import Fault, InputError

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
.nudges, .holds { font-size: 8.5pt; }
h2 { break-after: avoid; }
thead { display: table-header-group; }
tr { break-inside: avoid; }
tr.heading { break-after: avoid; }
tr.total, tr.subtotal { break-before: avoid; }
"""
NEEDED = "libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0"
NO_PANGO = 3  # what a process ends with that cannot make PDF
BEAT = 0.5  # seconds between two looks whether a page is still waited for


def set_on_paper(page: bytes) -> bytes:
    """A page of ours as PDF: tagged (ISO 32000-2, 14.8), fonts embedded, nothing fetched from anywhere.

    The same page with the same fonts is the same file, byte by byte. Raises InputError where this machine
    cannot make PDF.
    """
    made = _weasyprint()
    # No protocol is allowed, and what asks for one ends it.
    nothing = made.urls.URLFetcher(allowed_protocols=(), fail_on_errors=True)
    # The page's own style sheets would be stronger than one that is handed over.
    set_out = page.decode().replace("</head>", f"<style>{PAPER}</style>\n</head>", 1)
    document = made.HTML(string=set_out, url_fetcher=nothing)
    identifier = hashlib.sha256(page).digest()[:16]
    return bytes(document.write_pdf(pdf_tags=True, pdf_identifier=identifier))


@contextmanager
def being_set(pages: Mapping[str, bytes]) -> Iterator[Callable[[str, Callable[[], None]], bytes]]:
    """The pages by name, all of them set at once while the block goes on. Yields what waits for one of them,
    calling its second argument now and then, and gives its PDF. Where the block ends early, so do they."""
    with ExitStack() as all_of_them:
        setting = {name: all_of_them.enter_context(_process(page)) for name, page in pages.items()}
        yield lambda name, beat: _awaited(setting[name], beat)


@contextmanager
def _process(page: bytes) -> Iterator[subprocess.Popen[bytes]]:
    """A process that sets a page; it is ended with the block."""
    command = [sys.executable, "-m", "humble_sum.exchange.paper"]
    pipe = subprocess.PIPE
    with subprocess.Popen(command, stdin=pipe, stdout=pipe, stderr=pipe) as process:
        try:
            assert process.stdin is not None
            process.stdin.write(page)  # it reads all of it before it does anything else
            process.stdin.close()
            process.stdin = None
            yield process
        finally:
            process.kill()


def _awaited(process: subprocess.Popen[bytes], beat: Callable[[], None]) -> bytes:
    while True:
        try:
            made, said = process.communicate(timeout=BEAT)
            break
        except subprocess.TimeoutExpired:
            beat()
    if process.returncode == NO_PANGO:
        raise _no_pango()
    if process.returncode:
        raise RuntimeError(f"a page was not set: {said.decode(errors='replace')[-2000:]}")
    return made


def _weasyprint() -> Any:
    """WeasyPrint, read when a PDF is first asked for: it loads Pango, which may not be there."""
    try:
        import weasyprint
    except OSError:
        raise _no_pango() from None
    return weasyprint


def _no_pango() -> InputError:
    what = "PDF needs Pango, and it is not on the machine of Humble Sum."
    return InputError("no-pdf", Fault("pdf", what, f"Install it: apt-get install {NEEDED}."))


def main() -> None:
    """Set the page of standard input on paper, on standard output."""
    page = sys.stdin.buffer.read()
    try:
        made = set_on_paper(page)
    except InputError:
        sys.exit(NO_PANGO)
    sys.stdout.buffer.write(made)


if __name__ == "__main__":
    main()
