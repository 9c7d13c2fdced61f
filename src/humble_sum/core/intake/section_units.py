"""The units that headings among the lines state for what stands under them: Passengers (000s), over Adults
and Children, in a table of millions of pounds."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import takewhile

from humble_sum.core.intake.decisions import RowDecided
from humble_sum.core.intake.line_units import LETTERED, NOTE, LineScale, decided_scale
from humble_sum.core.intake.named_measures import MOST_POINTS, kind_under
from humble_sum.core.intake.units import counted_in, unit_within
from humble_sum.core.intake.vocabulary import says

Amounts = Callable[[int], Sequence[Decimal | None]]
IN_PERCENT = re.compile(r"(^|[(\[,]\s*|(?<!\d)\s)(in )?(%|per ?cent(ages?)?|pct)[)\]]?\s*$", re.IGNORECASE)
FAR_LARGER = 1_000


@dataclass(frozen=True)
class RowSeen:
    """A row by its label, whether it has figures, how far it stands in, and what was decided of it."""

    row: int
    said: str
    figured: bool
    indent: int
    told: RowDecided

    @property
    def blank(self) -> bool:
        return not (self.said or self.figured)


@dataclass(frozen=True)
class Section:
    """A heading that states a unit, the rows it is stated for, and how their figures are to be scaled by it.
    `sure` where the source leaves no doubt of which rows these are and what it states."""

    heading: RowSeen
    rows: tuple[int, ...]
    scale: LineScale
    sure: bool


def sections(seen: Sequence[RowSeen], bounded: bool, amounts: Amounts) -> Iterator[Section]:
    """The headings that state a unit, in order; where one stands in another, the inner one comes later.

    `bounded` says that the table states a scale too, which goes on after a section. `amounts` are the
    figures of a row as they are written.
    """
    ends = [end[1] for row in seen if (end := LETTERED.search(row.said))]
    noted = any(NOTE.fullmatch(end) for end in ends)
    for place, heading in enumerate(seen):
        if not heading.said or (heading.figured and "(" not in heading.said):
            continue
        rows, closed = (_of_it(seen, place), True) if heading.figured else _under(seen, place, bounded)
        if kind_under(heading.said) is not None:
            rows = tuple(_about_as_large(rows, amounts))
        stated = _stated(heading, [amount for row in rows for amount in amounts(row)], not noted)
        if rows and stated is not None:
            scale, plain = stated
            yield Section(heading, rows, scale, (plain and closed) or heading.told.unit is not None)


def over_all(corner: str, rows: Sequence[int], amounts: Amounts) -> LineScale | None:
    """The scale that the heading of the labels states of all lines only by its letter, or as percentages:
    Passengers (m), Occupancy (%)."""
    here = RowSeen(-1, corner, False, 0, RowDecided())
    stated = _stated(here, [amount for row in rows for amount in amounts(row)], True)
    return stated[0] if stated is not None and (stated[0].percent or not stated[1]) else None


def _stated(
    heading: RowSeen, amounts: Sequence[Decimal | None], lettered: bool
) -> tuple[LineScale, bool] | None:
    """What a heading states of the amounts under it, and whether it does so in plain words."""
    if heading.told.unit is not None:
        return None if heading.figured else (decided_scale(heading.told), True)
    present = [abs(amount) for amount in amounts if amount is not None]
    if not present:
        return None
    if IN_PERCENT.search(heading.said):
        return (LineScale(percent=True), True) if 1 < max(present) < MOST_POINTS else None
    unit, _ = unit_within(heading.said)
    if unit is not None and unit.power:
        return LineScale(replace(unit, said=heading.said)), True
    if (kind := kind_under(heading.said)) is not None:
        return LineScale(alone=True, kind=kind), True
    letter = LETTERED.search(heading.said)
    if letter is None or not lettered or all(amount == amount.to_integral_value() for amount in present):
        return None
    unit = counted_in(letter[1], heading.said[: letter.start()])
    return (LineScale(replace(unit, said=heading.said)), False) if unit is not None else None


def _names_a_unit(said: str) -> bool:
    unit, _ = unit_within(said)
    return (unit is not None and bool(unit.power)) or bool(IN_PERCENT.search(said) or kind_under(said))


def _about_as_large(rows: Sequence[int], amounts: Amounts) -> Iterator[int]:
    """The first rows, to one that is far larger: the number of shares below what each earns."""
    most = [max((abs(amount) for amount in amounts(row) if amount is not None), default=0) for row in rows]
    for row, largest in zip(rows, most, strict=True):
        if largest > FAR_LARGER * max(most[0], 1):
            return
        yield row


def _of_it(seen: Sequence[RowSeen], place: int) -> tuple[int, ...]:
    """The rows that say what a line with figures is made of: those further in right below, or of which."""
    heading = seen[place]
    below = (seen[n] for n in range(place + 1, len(seen)))
    parts = takewhile(
        lambda row: row.figured and (row.indent > heading.indent or says(row.said, "memo")), below
    )
    return tuple(row.row for row in parts)


def _under(seen: Sequence[RowSeen], place: int, bounded: bool) -> tuple[tuple[int, ...], bool]:
    """The rows that stand under a heading, and whether the source shows where they end.

    Those that stand further in do, and a total of theirs. Where none stands further in, all do down to the
    next heading, to an empty row, or where the table has a scale of its own to a total.
    """
    heading = seen[place]
    below = range(place + 1, len(seen))
    first = next((seen[n] for n in below if seen[n].figured), None)
    deep = first is not None and first.indent > heading.indent
    rows: list[int] = []
    parted, plain = False, True
    for row in (seen[n] for n in below):
        if row.blank:
            parted = bool(rows)
            continue
        if not (row.figured or rows):
            plain = False  # a heading over headings
            continue
        if deep and row.indent > heading.indent:
            rows += [row.row] if row.figured else []
            continue
        if not (plain or bounded or row.figured or _names_a_unit(row.said)):
            continue  # another of the headings that it stands over
        totals = row.figured and says(row.said, "total")
        if deep or not row.figured:
            return tuple([*rows, row.row] if totals and rows else rows), deep or plain
        if parted and not totals:
            return tuple(rows), False
        rows.append(row.row)
        if totals and (bounded or parted):
            return tuple(rows), False
    return tuple(rows), deep or plain
