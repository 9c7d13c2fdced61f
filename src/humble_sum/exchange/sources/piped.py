"""Tables written in Markdown: rows between bars under a row of dashes, other lines as titles."""

from __future__ import annotations

import re
from itertools import pairwise

RULE = re.compile(r"\s*\|?(\s*:?-{1,}:?\s*\|)+\s*(:?-{1,}:?)?\s*\|?\s*")
EMPHASIS = re.compile(r"(\*\*\*|\*\*|\*|___|__|_|`|~~)(?=\S)(.+?)(?<=\S)\1")
BREAK = re.compile(r"<br ?/?>", re.IGNORECASE)
BETWEEN = re.compile(r"(?<!\\)\|")


def is_piped(lines: list[str]) -> bool:
    """Whether a row of dashes between bars stands right below a row with bars."""
    return any("|" in above and RULE.fullmatch(line) for above, line in pairwise(lines))


def piped_rows(lines: list[str]) -> list[list[str]]:
    """The cells of each line, without bars, rules and emphasis; a line without bars is one cell."""
    rows = []
    for line in lines:
        if RULE.fullmatch(line):
            continue
        if "|" not in line:
            rows.append([_plain(line.strip().lstrip("#").strip())])
            continue
        inner = line.strip().removeprefix("|")
        inner = inner[:-1] if inner.endswith("|") and not inner.endswith("\\|") else inner
        rows.append([_plain(cell) for cell in BETWEEN.split(inner)])
    return rows


def _plain(cell: str) -> str:
    """A cell's own text; an indent before it stays, and a star behind it is a mark and not emphasis."""
    text = BREAK.sub(" ", cell.rstrip().removeprefix(" "))
    return EMPHASIS.sub(r"\2", text).replace("\\|", "|").replace("&nbsp;", "\u00a0")
