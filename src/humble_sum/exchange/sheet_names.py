"""Names of sheets in a workbook (ECMA-376, 18.2.19): safe, short enough, and none twice or reserved."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from humble_sum.exchange.safe_text import one_line

MOST = 31  # units of UTF-16
UNSAFE = dict.fromkeys(map(ord, "[]:*?/\\'"), " ")
RESERVED = ("history",)  # programs keep it for themselves, in whatever case


def sheet_names(wanted: Sequence[str], taken: Iterable[str] = ()) -> list[str]:
    """A name for each sheet, none twice whatever its case; `taken` are those of other sheets."""
    known = {*RESERVED, *(name.lower() for name in taken)}
    names = []
    for name in wanted:
        base = _cut(" ".join(one_line(name).translate(UNSAFE).split()), MOST) or "Statement"
        found, number = base, 1
        while found.lower() in known:
            number += 1
            found = f"{_cut(base, MOST - 1 - len(str(number)))} {number}"
        known.add(found.lower())
        names.append(found)
    return names


def _cut(text: str, units: int) -> str:
    """The beginning of a text that takes at most so many units of UTF-16, no character cut in two."""
    while len(text.encode("utf-16-le", "replace")) > 2 * units:
        text = text[:-1]
    return text.strip()
