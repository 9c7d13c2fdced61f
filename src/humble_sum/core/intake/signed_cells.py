"""Formulas of a workbook as signed sums of cells. They are read and never run."""

from __future__ import annotations

import re

Place = tuple[int, int]  # row, column, from 0
MOST_CELLS = 10_000

REFERENCE = r"\$?([A-Za-z]{1,3})\$?([1-9]\d{0,6})"
TOKEN = re.compile(rf"\s*(?:(SUM)\s*\(|{REFERENCE}(?:\s*:\s*{REFERENCE})?|([-+,()]))", re.IGNORECASE)


# As OpenFormula has it: a sum, of all rows or of those not hidden, that passes over other such sums.
SUBTOTAL = re.compile(r"\bSUBTOTAL\s*\(\s*(?:109|9)\s*[,;]", re.IGNORECASE)


def signed_cells(formula: str) -> dict[Place, int] | None:
    """The cells a formula adds, each with its sign; None for any other kind of formula.

    Takes SUM, SUBTOTAL where it sums, plus, minus, cells and ranges on the same sheet. A cell added twice,
    or added and taken away, is not a sum of parts.
    """
    text = SUBTOTAL.sub("SUM(", formula.strip().removeprefix("="))
    found: list[tuple[Place, int]] = []
    signs = [1]
    sign, at, wants_term = 1, 0, True
    while at < len(text):
        match = TOKEN.match(text, at)
        if match is None:
            return None
        at = match.end()
        mark = match[6]
        if match[1] or mark == "(":
            if not wants_term:
                return None
            signs.append(signs[-1] * sign)
            sign = 1
        elif mark == ")":
            if wants_term or len(signs) == 1:
                return None
            signs.pop()
        elif mark in ("+", "-"):
            sign = (sign if wants_term else 1) * (-1 if mark == "-" else 1)
            wants_term = True
        elif mark == ",":
            if wants_term or len(signs) == 1:
                return None
            sign, wants_term = 1, True
        else:
            if not wants_term:
                return None
            cells = _range(match)
            if len(found) + len(cells) > MOST_CELLS:
                return None
            found += [(cell, signs[-1] * sign) for cell in cells]
            sign, wants_term = 1, False
    cells_of = dict(found)
    return cells_of if found and not wants_term and len(signs) == 1 and len(cells_of) == len(found) else None


QUOTIENT = re.compile(rf"=\s*{REFERENCE}\s*/\s*{REFERENCE}\s*", re.IGNORECASE)
FOREIGN = re.compile(rf"=\s*\+?(?:'((?:[^']|'')+)'|([^\W\d][\w.]*))!{REFERENCE}\s*", re.IGNORECASE)


def quotient(formula: str) -> tuple[Place, Place] | None:
    """The cell a formula divides and the cell it divides by; None for any other formula."""
    match = QUOTIENT.fullmatch(formula)
    return None if match is None else (_place(match[1], match[2]), _place(match[3], match[4]))


def foreign_cell(formula: str) -> tuple[str, Place] | None:
    """The one cell of another sheet that a formula repeats; None for any other formula."""
    match = FOREIGN.fullmatch(formula)
    if match is None:
        return None
    name = match[1].replace("''", "'") if match[1] else match[2]
    return name, _place(match[3], match[4])


def _range(match: re.Match[str]) -> list[Place]:
    first = _place(match[2], match[3])
    last = _place(match[4], match[5]) if match[4] else first
    rows = range(min(first[0], last[0]), max(first[0], last[0]) + 1)
    columns = range(min(first[1], last[1]), max(first[1], last[1]) + 1)
    if len(rows) * len(columns) > MOST_CELLS:
        return [first] * (MOST_CELLS + 1)
    return [(row, column) for row in rows for column in columns]


def _place(letters: str, number: str) -> Place:
    column = 0
    for letter in letters.upper():
        column = column * 26 + ord(letter) - ord("A") + 1
    return int(number) - 1, column - 1
