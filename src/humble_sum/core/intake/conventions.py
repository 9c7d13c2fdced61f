"""Inferring a column's convention from all its cells, with the reasons."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from humble_sum.core.intake.amount_reading import (
    ARABIC,
    COMMA,
    POINT,
    Convention,
    Reading,
    read,
    read_amounts,
)
from humble_sum.core.intake.footnote_marks import without_raised
from humble_sum.core.intake.lexicon import normal
from humble_sum.core.intake.money_words import WITH_A_POINT
from humble_sum.core.locales import currencies

MARKED = re.compile(r"\d[\d.,'\u2019\u066b\u066c ]*\d|\d")

FEW = 4  # one cell of as many is few to decide how a column is written
PLENTY = 6  # cells like that which leave no doubt, where amounts are not in millions
LEAST_ALIKE = 3  # cells with three digits behind a point, before these are taken for groups


@dataclass(frozen=True)
class Inferred:
    """A column's convention and what it rests on.

    `agree` of `numbers` cells read as numbers under it; `sample` is a cell that shows it.
    `ambiguous` lists cells that another convention would read as another number, when nothing
    in the column tells which is right. `doubtful` lists cells that look like numbers and stayed
    text, or need a look for another reason.
    """

    convention: Convention
    reasons: tuple[str, ...]
    agree: int
    numbers: int
    sample: str
    ambiguous: tuple[int, ...]
    doubtful: tuple[int, ...]
    decided: bool = False  # cells of it leave no doubt of the convention
    weak: bool = False  # few cells decide, and others could be either

    @property
    def numeric(self) -> bool:
        """Whether the column holds figures: most of its cells that say anything are numbers."""
        return self.numbers > 0 and self.agree * 2 > self.numbers


def decided_by(text: str) -> Convention | None:
    """The convention that one cell's marks decide by themselves, or None where they do not.

    `1,234.5` has its decimal mark last. A mark that comes twice groups. One mark alone with
    other than three digits after it, more than three before it, or a zero before it, is a
    decimal mark; with three after it, it may be either.
    """
    found = MARKED.search(normal(without_raised(text)[0]))
    body = found[0] if found else ""
    if "\u066b" in body or "\u066c" in body:
        return POINT if "." in body else ARABIC
    marks = [mark for mark in body if mark in ".,"]
    if not marks:
        return None
    last = marks[-1]
    if len(set(marks)) == 2:
        return _with_decimal(last) if marks.count(last) == 1 else None
    if len(marks) > 1:
        return _with_decimal("," if last == "." else ".")
    before, _, after = body.rpartition(last)
    if len(after) != 3 or before.startswith("0") or not before.isdigit() or len(before) > 3:
        return _with_decimal(last)
    return None


def _with_decimal(mark: str) -> Convention:
    return POINT if mark == "." else COMMA


def infer(cells: Sequence[str], hint: Convention = POINT) -> Inferred:
    """The convention most cells decide for; `hint` where none decides.

    Cells that a tie leaves open are named, never settled silently.
    """
    said = [place for place, cell in enumerate(cells) if cell and not cell.isspace()]
    votes = {place: vote for place in said if (vote := decided_by(cells[place])) is not None}
    count = Counter(votes.values())
    tied: list[Convention] = []
    if count:
        best, most = count.most_common(1)[0]
        tied = [convention for convention, number in count.items() if number == most]
        convention = hint if hint in tied else best
    else:
        convention = hint
    _, others = read_amounts([cells[place] for place in said], convention)
    readings = {place: others.get(at) for at, place in enumerate(said)}
    numbers = [place for place in said if readings[place] is None or _looks_numeric(cells[place])]
    agree = [place for place in numbers if _is_number(readings[place])]
    open_cells = () if len(tied) == 1 else tuple(place for place in agree if _either(cells[place]))
    numeric = set(numbers)
    doubtful = tuple(
        place
        for place, reading in readings.items()
        if reading is not None and reading.kind == "text" and (reading.why or place in numeric)
    )
    sample = next((cells[place] for place, vote in votes.items() if vote == convention), "")
    return Inferred(
        convention,
        tuple(_reasons(convention, count, sample, len(open_cells))),
        len(agree),
        len(numbers),
        sample or next((cells[place] for place in agree), ""),
        open_cells,
        doubtful,
        bool(count) and len(count) == 1,
        FEW * count[convention] <= len(numbers)
        and any(_either(cells[place]) for place in {*agree} - {*votes}),
    )


def as_written_there(open_: Inferred, cells: Sequence[str], currency: str | None, dotted: bool) -> Inferred:
    """A convention that no cell decides, settled by where the table comes from: commas group where its unit
    has a currency of countries that all write so, and points where its dates are `dotted`, as in
    31.12.2026, and its currency is another, but for Switzerland's. As it is where that tells nothing."""
    sample = cells[open_.ambiguous[0]]
    if "," in sample and currency in WITH_A_POINT:
        convention, why = POINT, f"as amounts in {currency} are written"
    elif "." in sample and dotted and currency not in (None, "CHF", *WITH_A_POINT):
        convention, why = COMMA, "as where dates are written with points"
    else:
        return open_
    again = infer(cells, convention)
    return replace(again, ambiguous=(), reasons=(f"read with a {convention}, {why}",))


def as_is_usual(
    open_: Inferred, cells: Sequence[str], currency: str | None, alike: Sequence[str]
) -> Inferred:
    """A convention that nothing decides, for the time being: where every one of several cells has three
    digits behind a point, points group, since amounts seldom have three decimals but in some currencies.
    `alike` are the open cells of the whole table, which is written in one way."""
    pointed = currency in WITH_A_POINT or (currency is not None and currencies.minor_units(currency) == 3)
    cells_alike = len(alike)
    if cells_alike >= PLENTY and not pointed and len({*map(len, alike)}) > 1:
        # So many amounts of one to six digits, each with three behind its only mark: groups.
        convention = COMMA if "." in cells[open_.ambiguous[0]] else POINT
        why = f"each of {cells_alike} amounts has three digits behind its mark, so it groups them"
        again = infer(cells, convention)
        return replace(again, ambiguous=(), reasons=(f"read with a {convention}: {why}",))
    if "." not in cells[open_.ambiguous[0]] or pointed or cells_alike < LEAST_ALIKE:
        return open_
    why = (
        f"{cells_alike} cells could be either; few amounts have 3 decimals, so they were read with a {COMMA}"
    )
    return replace(infer(cells, COMMA), ambiguous=open_.ambiguous, reasons=(why,))


def _is_number(reading: Reading | None) -> bool:
    return reading is None or reading.kind in ("amount", "zero")


def _looks_numeric(cell: str) -> bool:
    """Whether a cell says something and has a digit, or prints a zero some other way."""
    plain = normal(cell)
    return any(character.isdigit() for character in plain) or read(cell).kind == "zero"


def _either(cell: str) -> bool:
    """Whether the cell is a number under both decimal marks, and not the same one."""
    if cell.isdigit():
        return False
    amounts = {read(cell, convention).amount for convention in (POINT, COMMA)}
    return len(amounts) == 2 and None not in amounts


def _reasons(convention: Convention, count: Counter[Convention], sample: str, ambiguous: int) -> list[str]:
    reasons = []
    if votes := count[convention]:
        cells = "1 cell has" if votes == 1 else f"{votes} cells have"
        marks = (
            f"a {convention}" if convention.decimal in sample else f"digits grouped as with a {convention}"
        )
        reasons.append(f"{cells} {marks}, such as {sample}")
    for other, votes in count.items():
        if other != convention:
            cells = "1 cell has" if votes == 1 else f"{votes} cells have"
            reasons.append(f"{cells} a {other} instead")
    if ambiguous:
        cells = "1 cell" if ambiguous == 1 else f"{ambiguous} cells"
        reasons.append(f"{cells} could be either, and were read with a {convention}")
    return reasons
