"""Commas that group digits in text that commas split, where nobody quoted them: Revenue,1,234,1,100."""

from __future__ import annotations

import re
from collections.abc import Sequence

BEGINS = re.compile(r"\s*[(\[\-\u2212+]?\s*[^\w\s,.]?\s*[\-\u2212]?\d{1,3}")
GOES_ON = re.compile(r"\d{3}(\.\d+)?\s*[)\]%\-]*\s*")
ENDS = re.compile(r".*\d{3}")  # a part that another group may follow
MOST_ADDED = 40  # cells beyond the headings


def width_of(rows: Sequence[Sequence[str]]) -> int:
    """How many cells the headings have: the first row with more than one."""
    return next((len(row) for row in rows if len(row) > 1), 0)


def regrouped(rows: Sequence[list[str]]) -> tuple[list[list[str]], list[int], list[int]]:
    """The rows, those with more cells than the headings joined where groups of three digits can be joined in
    one way alone; the numbers of those joined, and of those that stay longer.

    Where some row cannot be, none is: then a column has no heading.
    """
    width = width_of(rows)
    longer = [n for n, row in enumerate(rows) if len(row) > width > 1 and any(row[width:])]
    joined = {n: _joined(rows[n], width) for n in longer}
    if not all(joined.values()):
        return [*rows], [], longer
    return [joined.get(n) or row for n, row in enumerate(rows)], longer, []


def _joined(row: Sequence[str], width: int) -> list[str] | None:
    """The row in so many cells; None where there is no way, or more than one."""
    if len(row) - width > MOST_ADDED:
        return None
    # The ways to split the first cells into so many, never more than two of each kept.
    ways: list[dict[int, list[list[str]]]] = [{0: [[]]}, *({} for _ in row)]
    for start in range(len(row)):
        for end in range(start + 1, len(row) + 1):
            if end - start > 1 and not _is_number(row[start:end]):
                break
            for count, made in ways[start].items():
                if count < width:
                    found = ways[end].setdefault(count + 1, [])
                    found += [[*each, ",".join(row[start:end])] for each in made[: 2 - len(found)]]
    ways_left = ways[len(row)].get(width, [])
    return ways_left[0] if len(ways_left) == 1 else None


def _is_number(parts: Sequence[str]) -> bool:
    first, *others = parts
    if not BEGINS.fullmatch(first):
        return False
    return all(GOES_ON.fullmatch(part) for part in others) and all(ENDS.fullmatch(p) for p in others[:-1])
