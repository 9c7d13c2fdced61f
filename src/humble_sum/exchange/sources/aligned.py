"""Text whose columns are lined up by spaces, as reports print them, and running text that has none."""

from __future__ import annotations

import re
from itertools import pairwise

from humble_sum.core.intake.amount_reading import CONVENTIONS, read

GAP = re.compile(r" {2,}|\t")
RULE = re.compile(r"[\s\-=_.—–─═]*[\-=_—–─═]{2,}[\s\-=_.—–─═]*")
LEAST_ROWS = 2
SENTENCE = re.compile(r"[.!?]['\"”’)]*$")
LEAST_WORDS = 6  # words of a line that can be a sentence
YEAR = re.compile(r"(19|20|21)\d\d([-/–]\d\d)?")
LEADERS = re.compile(r"\s*([._·…]( ?[._·…]){3,})\s*$")  # dots that lead from a label to its figures
CODE = re.compile(r"\d[\d.\-/]*[A-Za-z]?")
PAGE = re.compile(
    r"\b(page|seite|p[aá]gin[ae]|p[aá]g|sida|side|blad|strona|sheet)\b\.?:? *\d+( *(of|von|de|di|/) *\d+)?",
    re.IGNORECASE,
)
NUMBER = re.compile(r"[^A-Za-z]*\d[^A-Za-z]*|[-–—]")

Span = tuple[int, int, str]


def is_aligned(lines: list[str]) -> bool:
    """Whether most lines are words and then figures with wide gaps between, and no other delimiter."""
    said = [line for line in _once_headed(lines) if line.strip() and not RULE.fullmatch(line)]
    rows = [n for n, line in enumerate(said) if _is_row(_without_code(_spans(line)))]
    others = any("\t" in line or ";" in line or "|" in line for line in said)
    ends = any(text.endswith(",") for n in rows for _, _, text in _spans(said[n]))
    if len(rows) < LEAST_ROWS or others or ends:
        return False
    # Titles above them may be many, where lines are few.
    return len(rows) * 2 >= len(said) - rows[0] and len(rows) * 3 >= len(said)


def aligned_rows(lines: list[str]) -> list[list[str]]:
    """The cells of each line, by the columns that the figures of all lines stand in; rules drawn with dashes
    are left out, and what stands over every page again. Words over several columns stand in the first of
    them. Codes before the labels have a column of their own."""
    spans = [[] if RULE.fullmatch(line) else _spans(line) for line in _once_headed(lines)]
    coded = [each for each in spans if len(_without_code(each)) < len(each) and _is_row(each[1:])]
    if not coded:
        return _by_columns(lines, spans)
    # Where labels begin: what ends before that is a code, or its heading.
    label = min(each[1][0] for each in coded)
    codes = [each[0][2] if each and each[0][1] <= label and len(each) > 1 else "" for each in spans]
    others = [each[1:] if code else each for each, code in zip(spans, codes, strict=True)]
    cells = _by_columns(
        [line[label:] if code else line for line, code in zip(lines, codes, strict=True)], others
    )
    return [[code, *row] for code, row in zip(codes, cells, strict=True)]


def _by_columns(lines: list[str], spans: list[list[Span]]) -> list[list[str]]:
    rows = [each for each in spans if _is_row(each)]
    # A heading may be wider than its figures; what begins where no label reaches is no label.
    label_end = min(start for row in rows for start, _, text in row[1:] if _is_figure(text))
    label_end = min(label_end, max(end for row in rows for _, end, _ in row[:1]) + 1)
    columns = _merged(sorted((s, e) for row in rows for s, e, t in row[1:] if _is_figure(t)))
    made = []
    for line, each in zip(lines, spans, strict=True):
        if not each:
            made.append([""])
            continue
        cells = [""] * (len(columns) + 1)
        for start, end, text in each:
            place = _column(start, end, columns) if len(each) > 1 or start >= label_end else None
            at = 0 if place is None else place + 1
            cells[at] = f"{cells[at]} {text}".strip() if cells[at] else text
        indent = len(line) - len(line.lstrip(" "))
        label = LEADERS.sub("", cells[0])
        cells[0] = " " * indent + label if label else ""
        made.append(cells)
    return made


def _once_headed(lines: list[str]) -> list[str]:
    """The lines, with nothing where the titles and headings above the first figures stand over a later page
    again. Headings alone may be those of another table."""
    first = next((n for n, line in enumerate(lines) if _is_row(_without_code(_spans(line)))), 0)
    heads = [said for line in lines[:first] if (said := PAGE.sub("", line).strip())]
    if len(heads) < 2:
        return lines
    made, over = lines[:first], False
    for line in lines[first:]:
        said = PAGE.sub("", line).strip()
        over = said == heads[0] or (over and (not said or said in heads))
        made.append("" if over else line)
    return made


def is_running_text(lines: list[str]) -> bool:
    """Whether most lines are sentences, or parts of them."""
    said = [line.strip() for line in lines if line.strip()]
    sentences = [line for line in said if SENTENCE.search(line) and len(line.split()) >= LEAST_WORDS]
    long = [line for line in said if len(line.split()) >= LEAST_WORDS]
    return bool(sentences) and len(long) * 2 > len(said) and len(sentences) * 3 >= len(long)


def _spans(line: str) -> list[Span]:
    """The texts of a line between wide gaps, with where they begin and end."""
    found, at = [], 0
    for gap in [*GAP.finditer(line), None]:
        end = gap.start() if gap else len(line)
        if line[at:end].strip():
            text = line[at:end]
            start = at + len(text) - len(text.lstrip())
            found.append((start, start + len(text.strip()), text.strip()))
        at = gap.end() if gap else end
    return found


def _without_code(spans: list[Span]) -> list[Span]:
    """The texts of a line but for a code before its label."""
    is_coded = len(spans) > 2 and CODE.fullmatch(spans[0][2]) and not _is_figure(spans[1][2])
    return spans[1:] if is_coded else spans


def _is_row(spans: list[Span]) -> bool:
    """Words, or a year, and a figure behind them."""
    if len(spans) < 2:
        return False
    first, last = spans[0][2], spans[-1][2]
    return (not NUMBER.fullmatch(first) or bool(YEAR.fullmatch(first))) and _is_figure(last)


def _is_figure(text: str) -> bool:
    """Whether a text is a number, with a currency or the like at one of its ends or without."""
    if NUMBER.fullmatch(text):
        return True
    return any(read(text, convention).kind in ("amount", "zero") for convention in CONVENTIONS)


def _merged(spans: list[tuple[int, int]]) -> list[tuple[int, int]]:
    """Spans that touch, as one."""
    columns: list[tuple[int, int]] = []
    for start, end in spans:
        if columns and start < columns[-1][1]:
            columns[-1] = (columns[-1][0], max(end, columns[-1][1]))
        else:
            columns.append((start, end))
    return columns


def _column(start: int, end: int, columns: list[tuple[int, int]]) -> int | None:
    """The column that a text stands in: the one it overlaps most, or whose half of the gap it is in."""
    over = [(min(end, right) - max(start, left), -n) for n, (left, right) in enumerate(columns)]
    if max(over)[0] > 0:
        # Over several columns it is the heading of them all, and stands in the first.
        several = [n for n, (left, right) in enumerate(columns) if min(end, right) > max(start, left)]
        return several[0]
    edges = [(left_right[1] + right_left[0]) / 2 for left_right, right_left in pairwise(columns)]
    if end <= columns[0][0]:
        return None
    return sum(start >= edge for edge in edges)
