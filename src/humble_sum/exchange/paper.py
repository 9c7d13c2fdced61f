"""Pages of ours set on paper by WeasyPrint with the fonts that are here: here and now, or several at once,
each by a process of its own, so that who waits for them can do other things and stop them."""

from __future__ import annotations

import hashlib
import io
import json
import subprocess
import sys
import threading
import unicodedata
import zipfile
import zlib
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import ExitStack, contextmanager, suppress
from dataclasses import dataclass
from importlib.metadata import version as version_of
from typing import Any

from humble_sum.core.errors import Fault, InputError

# Tables break between lines and repeat their heads; a heading stays with what it is over. What is wider than
# a page that stands gets one that lies.
PAPER = """
@page {
  size: A4; margin: 20mm 18mm 22mm;
  @top-left { content: string(whose); font: 8.5pt 'Noto Serif', serif; color: #55676b; }
  @top-right { content: string(what); font: 8.5pt 'Noto Serif', serif; color: #55676b; }
  @bottom-right { content: counter(page) ' / ' counter(pages); font: 8.5pt 'Noto Serif', serif;
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
.whose { string-set: whose content(); }
h1 { string-set: what content(); }
.nudges, .holds { font-size: 8.5pt; }
h2 { break-after: avoid; }
footer.imprint { display: none; }
caption, thead { break-after: avoid; }
tbody tr:first-child { break-before: avoid; }
thead { display: table-header-group; }
tr { break-inside: avoid; }
tr.heading { break-after: avoid; }
tr.total, tr.subtotal { break-before: avoid; }
"""
NEEDED = "libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0"
NO_PANGO, NO_GLYPH = 3, 4  # what a process ends with that cannot make PDF, or lacks fonts
BEAT = 0.5  # seconds between two looks whether a page is still waited for
PAPERS = ("edition.pdf", "record.pdf")  # of an issue
MOST_NAMED = 8  # characters that are named, of those that no font has


@dataclass(frozen=True)
class OnPaper:
    """A PDF, and what it was made with: the versions of the libraries, and a digest of its fonts. Made with
    the same, the same page is the same file, byte by byte."""

    data: bytes
    made_with: str


def set_on_paper(page: bytes) -> OnPaper:
    """A page of ours as PDF: tagged (ISO 32000-2, 14.8), fonts embedded, nothing fetched from anywhere.

    Raises InputError where this machine cannot make PDF, or no font here has some character of the page.
    """
    made = _weasyprint()
    # No protocol is allowed, and what asks for one ends it.
    nothing = made.urls.URLFetcher(allowed_protocols=(), fail_on_errors=True)
    # The page's own style sheets would be stronger than one that is handed over.
    set_out = page.decode().replace("</head>", f"<style>{PAPER}</style>\n</head>", 1)
    document = made.HTML(string=set_out, url_fetcher=nothing).render(pdf_tags=True)
    identifier = hashlib.sha256(page).digest()[:16]
    data = bytes(document.write_pdf(pdf_tags=True, pdf_identifier=identifier))
    fonts = list(document.fonts.values())
    if missing := sorted({chr(point) for font in fonts for point in font.missing}):
        raise NoGlyph(missing)
    return OnPaper(data, _made_with(made, fonts))


def _made_with(made: Any, fonts: Iterable[Any]) -> str:
    """All that the bytes of a PDF hang on, but for its page."""
    from weasyprint.text.ffi import harfbuzz, pango

    number = pango.pango_version()
    pango_version = f"{number // 10_000}.{number // 100 % 100}.{number % 100}"
    # It is only asked whether it is at least some version: so number after number.
    least = harfbuzz.hb_version_atleast
    major = max(n for n in range(50) if least(n, 0, 0))
    minor = max(n for n in range(100) if least(major, n, 0))
    micro = max(n for n in range(100) if least(major, minor, n))
    digests = sorted({hashlib.sha256(font.file_content).hexdigest() for font in fonts})
    of_fonts = hashlib.sha256("".join(digests).encode()).hexdigest()[:16]
    parts = {
        "WeasyPrint": made.__version__,
        "pydyf": version_of("pydyf"),
        "fontTools": version_of("fonttools"),
        "Pango": pango_version,
        "HarfBuzz": f"{major}.{minor}.{micro}",
        "zlib": zlib.ZLIB_RUNTIME_VERSION,
        "fonts": of_fonts,
    }
    return ", ".join(f"{name} {version}" for name, version in parts.items())


class Presses:
    """Processes that set pages on paper, one for each name. They make themselves ready before they are given
    a page."""

    def __init__(self, processes: Mapping[str, subprocess.Popen[bytes]]):
        self._processes = processes

    def give(self, name: str, page: bytes) -> None:
        """Begin to set a page."""
        process = self._processes[name]
        assert process.stdin is not None
        with suppress(BrokenPipeError):  # it has ended; why is told when it is awaited
            process.stdin.write(page)
            process.stdin.close()
        process.stdin = None

    def awaited(self, name: str, beat: Callable[[], None]) -> OnPaper:
        """A page that was given, on paper; `beat` is called now and then until it is there. Raises
        InputError."""
        process = self._processes[name]
        while True:
            try:
                made, said = process.communicate(timeout=BEAT)
                break
            except subprocess.TimeoutExpired:
                beat()
        if process.returncode == NO_PANGO:
            raise _no_pango()
        if process.returncode == NO_GLYPH:
            raise NoGlyph(json.loads(made))
        if process.returncode:
            raise RuntimeError(f"a page was not set: {said.decode(errors='replace')[-2000:]}")
        made_with, _, data = made.partition(b"\n")
        return OnPaper(data, made_with.decode())


def papers_of(kinds: Iterable[str]) -> list[str]:
    """The names of the PDFs that an issue with some kinds of files has."""
    chosen = {*kinds}
    return ["edition.pdf", *(["record.pdf"] if "record" in chosen else [])] if "pdf" in chosen else []


def papers_in(container: bytes) -> list[str]:
    """The names of the PDFs in a container, so that presses can be made ready before it is read; none where
    it is no archive."""
    try:
        with zipfile.ZipFile(io.BytesIO(container)) as packed:
            return sorted(name for name in {*packed.namelist()} if name in PAPERS)
    except (zipfile.BadZipFile, ValueError, OSError, NotImplementedError):
        return []


@contextmanager
def presses(names: Iterable[str]) -> Iterator[Presses]:
    """Processes that set pages while the block goes on. Where it ends early, so do they."""
    with ExitStack() as all_of_them:
        yield Presses({name: all_of_them.enter_context(_process()) for name in names})


@contextmanager
def _process() -> Iterator[subprocess.Popen[bytes]]:
    """A process that waits for a page and sets it; it is ended with the block."""
    command = [sys.executable, "-m", "humble_sum.exchange.paper"]
    pipe = subprocess.PIPE
    with subprocess.Popen(command, stdin=pipe, stdout=pipe, stderr=pipe) as process:
        try:
            yield process
        finally:
            process.kill()


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


class NoGlyph(InputError):
    """Characters that no font here has."""

    def __init__(self, characters: list[str]):
        self.characters = characters
        super().__init__("no-pdf", _not_shown(characters))


def _not_shown(characters: list[str]) -> Fault:
    named = [f"{each} (U+{ord(each):04X} {unicodedata.name(each, '')}".rstrip() + ")" for each in characters]
    more = f", and {len(named) - MOST_NAMED} more" if len(named) > MOST_NAMED else ""
    what = f"No font here shows {', '.join(named[:MOST_NAMED])}{more}."
    do = "Install a font that does (Debian: fonts-noto-core, fonts-noto-cjk, fonts-symbola), or leave it out."
    return Fault("pdf", what, do)


def main() -> None:
    """Set the page of standard input on paper, on standard output: a line of what it was made with, and the
    PDF. The page is read while WeasyPrint is."""
    page: list[bytes] = []
    reading = threading.Thread(target=lambda: page.append(sys.stdin.buffer.read()))
    reading.start()
    try:
        _weasyprint()
        reading.join()
        made = set_on_paper(page[0])
    except NoGlyph as error:
        sys.stdout.buffer.write(json.dumps(error.characters).encode())
        sys.exit(NO_GLYPH)
    except InputError:
        sys.exit(NO_PANGO)
    sys.stdout.buffer.write(made.made_with.encode() + b"\n" + made.data)


if __name__ == "__main__":
    main()
