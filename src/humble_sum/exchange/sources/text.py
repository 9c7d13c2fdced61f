"""Delimited text: encoding, delimiter and quoting found out, ragged rows named."""

from __future__ import annotations

import csv
import io
from collections import Counter
from collections.abc import Sequence

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import MOST_CELLS, SheetCell, Table, squared
from humble_sum.exchange.sources.aligned import aligned_rows, is_aligned, is_running_text
from humble_sum.exchange.sources.encodings import is_sure, sample, ways_to_read
from humble_sum.exchange.sources.group_commas import regrouped, width_of
from humble_sum.exchange.sources.piped import is_piped, piped_rows
from humble_sum.exchange.sources.progress import Progress, unheard

DELIMITERS = ",;\t|"
LOOKED_AT = 200  # rows that the delimiter is told from
ROWS_A_TIME = 500
FIELD_LIMIT = 1_000_000
MARKS = (
    (b"\xef\xbb\xbf", "utf-8-sig"),
    (b"\xff\xfe\x00\x00", "utf-32"),
    (b"\x00\x00\xfe\xff", "utf-32"),
    (b"\xff\xfe", "utf-16"),
    (b"\xfe\xff", "utf-16"),
)


def read_text(name: str, data: bytes, progress: Progress = unheard) -> Table:
    """A table from delimited text. Raises InputError where it is not text, or too long."""
    text, notes = decoded(name, data)
    lined = by_lines(text)
    if lined is not None:
        square, _ = squared([[SheetCell(cell) for cell in row] for row in lined])
        return Table(name, "", square, tuple(notes))
    delimiter = delimiter_of(text)
    lines = text.count("\n")
    csv.field_size_limit(FIELD_LIMIT)
    rows: list[list[str]] = []
    count = 0
    try:
        for record in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter):
            count += len(record)
            if count > MOST_CELLS:
                what = f"It has more than {MOST_CELLS:,} cells."
                raise InputError("too-long", Fault(name, what, "Take in the part that the statements need."))
            rows.append(record)
            if len(rows) % ROWS_A_TIME == 0:
                progress(len(rows), lines, name)
    except csv.Error as error:
        raise InputError(
            "broken-text", Fault(f"{name}, row {len(rows) + 1}", f"{error}.".capitalize())
        ) from None
    if delimiter == ",":
        rows, joined, longer = regrouped(rows)
        if joined:
            what = f"{_rows(joined)} longer than the headings: commas group digits there."
            notes.append(Fault(name, what, "Such numbers were read as one; they belong in quotation marks."))
        if longer:
            what = f"{_rows(longer)} longer than the headings."
            notes.append(Fault(name, what, "A heading is missing, or commas group digits: look at them."))
    width = width_of(rows)
    if shorter := [n for n, row in enumerate(rows) if 1 < len(row) < width]:
        what = f"{_rows(shorter)} not as long as the headings."
        notes.append(Fault(name, what, "Cells that are not there are blank."))
    square, _ = squared(_cells(rows))
    return Table(name, "", square, tuple(notes))


def _cells(rows: Sequence[Sequence[str]]) -> list[list[SheetCell]]:
    """Rows of cells, one for each text however often it comes: journals say the same in most rows."""
    known: dict[str, SheetCell] = {}
    made = []
    for row in rows:
        cells = []
        for text in row:
            cell = known.get(text)
            if cell is None:
                cell = known[text] = SheetCell(text)
            cells.append(cell)
        made.append(cells)
    return made


def by_lines(text: str) -> list[list[str]] | None:
    """The cells of text that is split by its lines' own shape, as in Markdown, as columns lined up by spaces,
    or as sentences, which have no cells; None where a delimiter splits it."""
    first = text[: LOOKED_AT * 1_000].splitlines()[:LOOKED_AT]
    for fits, rows in ((is_piped, piped_rows), (is_aligned, aligned_rows)):
        if fits(first):
            lines = text.splitlines()
            return rows(lines)
    return [[line] for line in text.splitlines()] if is_running_text(first) else None


def decoded(name: str, data: bytes) -> tuple[str, list[Fault]]:
    """The text, by its mark, as UTF-8, or in the older encoding that its letters tell, with a note. Raises
    InputError where nothing tells."""
    for mark, encoding in MARKS:
        if data.startswith(mark):
            try:
                return data.decode(encoding), []
            except UnicodeDecodeError:
                raise InputError(
                    "unknown-encoding", Fault(name, "Its text does not match its own mark.")
                ) from None
    if b"\x00" in data:
        raise InputError(
            "unknown-encoding", Fault(name, "This is not text.", "Save it as CSV or as a workbook.")
        )
    try:
        return data.decode("utf-8"), []
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
    ways = ways_to_read(data)
    if not ways:
        what = f"Its encoding is not known (line {line})."
        raise InputError("unknown-encoding", Fault(name, what, "Save it as UTF-8."))
    if not is_sure(ways):
        said = " or ".join(f"{way.name} (“{sample(way, ways[not n])}”)" for n, way in enumerate(ways[:2]))
        what = f"It is not UTF-8 (line {line}), and its letters do not tell what it is: {said}."
        raise InputError("unknown-encoding", Fault(name, what, "Save it as UTF-8."))
    what = f"It is not UTF-8 (line {line}); its letters are {ways[0].name}, and it was read so."
    return ways[0].text, [Fault(name, what, "Look at letters with accents.")]


def delimiter_of(text: str) -> str:
    """The delimiter that splits the first rows into the same number of cells, more than one."""
    best, score = ",", 0.0
    lines = "".join(line for line, _ in zip(io.StringIO(text, newline=""), range(LOOKED_AT), strict=False))
    for delimiter in DELIMITERS:
        try:
            widths = [len(r) for r in csv.reader(io.StringIO(lines, newline=""), delimiter=delimiter) if r]
        except csv.Error:
            continue
        counted = Counter(width for width in widths if width > 1)
        if not counted:
            continue
        width, rows = counted.most_common(1)[0]
        found = rows / len(widths) + min(width, 50) / 1000
        if found > score:
            best, score = delimiter, found
    return best


def _rows(numbers: Sequence[int]) -> str:
    shown = ", ".join(str(row + 1) for row in numbers[:5]) + ("…" if len(numbers) > 5 else "")
    return f"Row {shown} is" if len(numbers) == 1 else f"{len(numbers)} rows ({shown}) are"
