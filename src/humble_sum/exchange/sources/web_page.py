"""Tables of a web page, or of what a browser's clipboard holds: each with the titles that stand over it."""

from __future__ import annotations

import re
from html.parser import HTMLParser

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import EMPTY, SheetCell, Table, squared

MOST_SPAN = 1_000
MOST_CELLS = 2_000_000
MOST_TITLES = 4  # texts right above a table that are taken for its titles
LONGEST_TITLE = 200
TITLES = {"h1", "h2", "h3", "h4", "h5", "h6", "p", "caption", "div"}
RAISED = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")
NOTE = re.compile(r"[a-zA-Z]([, ]+[a-zA-Z0-9])*")  # the letters of notes, and no st of 31st


def read_web_page(name: str, text: str) -> list[Table]:
    """Every table of a page. Raises InputError where there is none, or where they have too many cells."""
    parser = _Tables(name)
    parser.feed(text)
    parser.close()
    if not parser.tables:
        raise InputError("no-table", Fault(name, "There is no table in it."))
    return parser.tables


class _Tables(HTMLParser):
    """Tables as rows of cells. A cell that spans others stands in the first of them."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.tables: list[Table] = []
        self._name = name
        self._depth = 0
        self._titles: list[str] = []
        self._title: list[str] | None = None
        self._text: list[str] | None = None
        self._raised = False
        self._cells = 0
        self._begin()

    def _begin(self) -> None:
        self._rows: list[list[SheetCell]] = []
        self._below: dict[int, int] = {}  # rows that a cell above still spans, by column
        self._span = (1, 1)
        self._hidden: set[int] = set()
        self._caption: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        told = dict(attrs)
        if tag == "table":
            self._depth += 1
            if self._depth == 1:
                self._end_title()
                self._begin()
        elif tag in TITLES and self._text is None:
            self._end_title()
            self._title = []
        elif tag == "sup":
            self._raised = True
        elif tag == "br":
            self.handle_data(" ")
        if self._depth != 1:
            return
        if tag == "tr":
            self._close()
            self._rows.append([])
            if "hidden" in told or "display:none" in (told.get("style") or "").replace(" ", ""):
                self._hidden.add(len(self._rows) - 1)
        elif tag in ("td", "th"):
            self._close()
            self._span = (_span(told.get("rowspan")), _span(told.get("colspan")))
            self._text = []
            if not self._rows:
                self._rows.append([])

    def handle_endtag(self, tag: str) -> None:
        if tag == "sup":
            self._raised = False
        if tag in TITLES:
            self._end_title()
        if self._depth == 1 and tag in ("td", "th", "tr", "table"):
            self._close()
        if tag == "table" and self._depth:
            self._depth -= 1
            if self._depth == 0:
                self._keep()

    def handle_data(self, data: str) -> None:
        said = _raised(data) if self._raised else data
        if self._text is not None:
            self._text.append(said)
        elif self._title is not None:
            self._title.append(said)

    def _end_title(self) -> None:
        said = _one_line("".join(self._title or ()))
        self._title = None
        if not said or len(said) > LONGEST_TITLE:
            return
        (self._caption if self._depth else self._titles).append(said)

    def _close(self) -> None:
        if self._text is None:
            return
        row = self._rows[-1]
        self._past_spanned(row)
        down, across = self._span
        self._cells += across
        if self._cells > MOST_CELLS:
            what = f"Its tables have more than {MOST_CELLS} cells."
            raise InputError(
                "too-large", Fault(self._name, what, "Take in the part that the statements need.")
            )
        if down > 1:
            self._below |= dict.fromkeys(range(len(row), len(row) + across), down - 1)
        row += [SheetCell(_one_line("".join(self._text))), *([EMPTY] * (across - 1))]
        self._text = None
        self._span = (1, 1)

    def _past_spanned(self, row: list[SheetCell]) -> None:
        """Leave the places empty that a cell of a row above spans."""
        while self._below.get(len(row), 0) > 0:
            self._below[len(row)] -= 1
            row.append(EMPTY)

    def _keep(self) -> None:
        titles = [*self._titles[-MOST_TITLES:], *self._caption]
        self._titles = []
        above = [[SheetCell(title)] for title in titles]
        rows, _ = squared([*above, *self._rows])
        if not self._rows or not rows:
            return
        hidden = frozenset(row + len(above) for row in self._hidden if row + len(above) < len(rows))
        notes: tuple[Fault, ...] = ()
        if hidden:
            shown = ", ".join(str(row + 1) for row in sorted(hidden)[:8])
            notes = (Fault(self._name, f"Hidden rows were read all the same: {shown}."),)
        self.tables.append(Table(self._name, titles[-1] if titles else "", rows, notes, hidden))


def _span(text: str | None) -> int:
    """How many cells a cell spans; one where it does not say so in plain digits."""
    told = (text or "").strip()
    return min(int(told), MOST_SPAN) if told.isascii() and told.isdigit() and int(told) else 1


def _raised(text: str) -> str:
    """Raised text so that it stays apart from what it is raised beside: 1,234² and 1,234 (a)."""
    return f" ({text.strip()})" if NOTE.fullmatch(text.strip()) else text.translate(RAISED)


def _one_line(text: str) -> str:
    """In HTML a run of white space is one space, but a no-break space is itself."""
    for space in "\n\t\r\f":
        text = text.replace(space, " ")
    return " ".join(piece for piece in text.split(" ") if piece)
