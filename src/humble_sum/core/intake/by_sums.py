"""Numbers that could be either, settled by what adds: 1.234 less 567 is 667 only where the point groups."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from decimal import Decimal
from typing import TYPE_CHECKING

from humble_sum.core.amounts import signed, total
from humble_sum.core.intake.amount_reading import POINT
from humble_sum.core.intake.columns import ColumnRead, Layout
from humble_sum.core.intake.decisions import ColumnDecided, TableDecided
from humble_sum.core.intake.row_reading import Doubt
from humble_sum.core.intake.table import column_letters

if TYPE_CHECKING:
    from humble_sum.core.intake.draft import Draft


NOTHING = Decimal(0)


def by_sums(made: Draft, read: Callable[[TableDecided], Draft]) -> Draft:
    """The draft with its open columns, and those that few cells decide, read in the way in which more of its
    lines add; as it is where both ways are as good, and then it is asked."""
    open_ = {
        c.index: c for c in made.layout.figures if c.inferred and (c.inferred.ambiguous or c.inferred.weak)
    }
    if not open_:
        return made
    first = next(iter(open_.values())).inferred
    other = "comma" if first is not None and first.convention == POINT else "point"
    columns = dict(made.decided.columns)
    for index in open_:
        letters = column_letters(index)
        said = columns.get(letters, ColumnDecided()).model_copy(update={"convention": other})
        columns[letters] = said
    otherwise = read(made.decided.model_copy(update={"columns": columns}))
    here, there = _adding(made), _adding(otherwise)
    if here == there:
        return made
    chosen = made if here > there else otherwise
    weak = {n for n, column in open_.items() if column.inferred and not column.inferred.ambiguous}
    settled = {*open_} - weak if chosen is made else {*open_}
    return replace(
        chosen,
        layout=_told(chosen.layout, settled, weak),
        doubts=tuple(left for doubt in chosen.doubts if (left := _left_of(doubt)) is not None),
        decided=made.decided,
    )


def _left_of(doubt: Doubt) -> Doubt | None:
    """What is left to say of a cell that is no longer open: the mark that was taken off it."""
    if doubt.asks != "either":
        return doubt
    _, _, more = doubt.why.partition("; ")
    return replace(doubt, why=more, asks="") if more else None


def _adding(made: Draft) -> int:
    """In how many places a line is, or may be, the sum of others, or a column is: a line that adds in one
    column of two only because its name says so counts once."""
    taken = [(n, line.parts) for n, line in enumerate(made.lines) if line.parts]
    offered = [(offer.total, offer.parts) for offer in made.offers]
    across = sum(len(made.lines) for column in made.columns if column.derived)
    balanced = sum(_cancels_out(made, place) for place in range(len(made.layout.figures)))
    return across + balanced + sum(_holds(made, *each) for each in [*taken, *offered])


def _cancels_out(made: Draft, place: int) -> bool:
    """Whether debits and credits of a column leave nothing, as those of a trial balance do."""
    amounts = [amount for line in made.lines if not line.parts and (amount := line.amounts[place])]
    return len(amounts) > 2 and total(amounts) == 0


def _holds(made: Draft, of: int, parts: Sequence[tuple[int, int]]) -> int:
    columns = zip(*(made.lines[n].amounts for n, _ in parts), strict=True)
    sums = [
        total(signed(sign, one or NOTHING) for (_, sign), one in zip(parts, each, strict=True))
        for each in columns
    ]
    return sum(
        have is not None and have == wanted for have, wanted in zip(made.lines[of].amounts, sums, strict=True)
    )


def _told(layout: Layout, open_: set[int], weak: set[int]) -> Layout:
    """The layout with what settled its open columns; what is left of those that few cells decided the other
    way stays in doubt."""

    def settled(column: ColumnRead) -> ColumnRead:
        if column.index not in open_ or column.inferred is None:
            return column
        why = f"read with a {column.inferred.convention}, as so its lines add"
        doubtful = column.inferred.doubtful if column.index in weak else ()
        told = replace(column.inferred, ambiguous=(), doubtful=doubtful, reasons=(why,))
        return replace(column, inferred=told)

    return replace(layout, columns=tuple(settled(column) for column in layout.columns))
