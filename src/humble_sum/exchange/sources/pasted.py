"""Pasted tables: HTML as a browser's clipboard has it, or text split by tabs."""

from __future__ import annotations

from html.parser import HTMLParser

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import EMPTY, SheetCell, Table, squared
from humble_sum.exchange.sources.text import read_text

NAME = "pasted table"
MOST_SPAN = 1_000


def read_pasted(text: str) -> Table:
    """The first table of pasted HTML, or the text as cells. Raises InputError where there is none."""
    if "<table" not in text.lower():
        return read_text(NAME, text.encode())
    parser = _Cells()
    parser.feed(text)
    rows, _ = squared(parser.rows)
    if not rows:
        raise InputError("no-table", Fault(NAME, "The table has no rows."))
    return Table(NAME, "", rows)


class _Cells(HTMLParser):
    """Rows of the first table. A cell that spans columns stands in its first one."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[list[SheetCell]] = []
        self._text: list[str] | None = None
        self._span = 1
        self._done = False

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if self._done:
            return
        if tag == "tr":
            self._close()
            self.rows.append([])
        elif tag in ("td", "th"):
            self._close()
            span = dict(attrs).get("colspan") or "1"
            self._span = min(int(span), MOST_SPAN) if span.isdigit() and int(span) else 1
            self._text = []
            if not self.rows:
                self.rows.append([])
        elif tag == "br" and self._text is not None:
            self._text.append(" ")

    def handle_endtag(self, tag: str) -> None:
        if tag in ("td", "th", "tr", "table"):
            self._close()
        if tag == "table":
            self._done = True

    def handle_data(self, data: str) -> None:
        if self._text is not None:
            self._text.append(data)

    def _close(self) -> None:
        if self._text is not None:
            # In HTML a run of white space is one space, but a no-break space is itself.
            text = " ".join("".join(self._text).split(" "))
            text = " ".join(piece for piece in text.replace("\n", " ").replace("\t", " ").split(" ") if piece)
            self.rows[-1] += [SheetCell(text), *([EMPTY] * (self._span - 1))]
            self._text = None
