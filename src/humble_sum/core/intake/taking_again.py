"""A source that has changed since it was taken in: its tables in the place of those that were, and what is
read otherwise."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import amount_text
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.decisions import TableDecided
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.table import Table

MOST_SAID = 40


@dataclass(frozen=True)
class Brought:
    """Tables in order, each with where it comes from: the number of the old one that it takes the place of,
    or whose it is still, and None for one that is new. `fresh` are the numbers of those read again."""

    tables: list[Table]
    came_from: list[int | None]
    fresh: frozenset[int]


def in_place_of(
    tables: Sequence[Table], source: str, new: Sequence[Table], by_name_alone: bool = False
) -> Brought:
    """The tables with `new` in the place of those of the source: each in that of the one of its name; those
    of other names, unless it goes `by_name_alone`, in the places of those left, in order. What is new stands
    behind them, and what is gone is left out.

    Raises InputError where nothing was taken in from this source.
    """
    old = [number for number, table in enumerate(tables) if table.source == source]
    if not old:
        names = ", ".join(dict.fromkeys(table.source for table in tables))
        what = f"Nothing was taken in from {source}."
        raise InputError("no-such-source", Fault("name", what, f"There are: {names}."))
    met = _met([tables[number] for number in old], new, by_name_alone)
    place_of = {old[at]: number for number, at in met.items()}
    made: list[tuple[Table, int | None, bool]] = []
    for number, table in enumerate(tables):
        if number in place_of:
            made.append((new[place_of[number]], number, True))
        elif number not in old:
            made.append((table, number, False))
        if number == old[-1]:
            made += [(table, None, True) for n, table in enumerate(new) if n not in met]
    return Brought(
        [table for table, _, _ in made],
        [number for _, number, _ in made],
        frozenset(n for n, (_, _, again) in enumerate(made) if again),
    )


def _met(old: Sequence[Table], new: Sequence[Table], by_name_alone: bool) -> dict[int, int]:
    """By number of the new table, that of the old one it is."""
    named, again = (Counter(table.name for table in some) for some in (old, new))
    alone = {name for name in named if name and named[name] == 1 == again[name]}
    by_name = {table.name: number for number, table in enumerate(old)}
    met = {number: by_name[table.name] for number, table in enumerate(new) if table.name in alone}
    if by_name_alone:
        return met
    left = [number for number, table in enumerate(old) if table.name not in alone]
    others = [number for number, table in enumerate(new) if table.name not in alone]
    return met | dict(zip(others, left, strict=False))


def kept_decisions(decided: Mapping[int, TableDecided], brought: Brought) -> dict[int, TableDecided]:
    """What was decided, of the tables in their new places."""
    return {
        place: decided[number]
        for place, number in enumerate(brought.came_from)
        if number is not None and number in decided
    }


def read_otherwise(old: Draft, new: Draft) -> list[str]:
    """What a table is read as now that it was not before, in words: amounts, lines and columns; all are
    counted, and the first ones said."""
    said = list(_otherwise(old, new))
    more = len(said) - MOST_SAID
    return [*said[:MOST_SAID], *([f"and {more:,} more"] if more > 0 else [])]


def _otherwise(old: Draft, new: Draft) -> Iterator[str]:
    was, now = _amounts(old), _amounts(new)
    columns = [dict.fromkeys(column for _, column in some) for some in (was, now)]
    yield from (f"Column {column} is new" for column in columns[1] if column not in columns[0])
    yield from (f"Column {column} is gone" for column in columns[0] if column not in columns[1])
    lines = [dict.fromkeys(line for line, _ in some) for some in (was, now)]
    yield from (f"{line} is new" for line in lines[1] if line not in lines[0])
    yield from (f"{line} is gone" for line in lines[0] if line not in lines[1])
    for sheet_place, amount in now.items():
        if sheet_place in was and was[sheet_place] != amount:
            yield f"{sheet_place[0]}, {sheet_place[1]}: {_said(was[sheet_place])} is now {_said(amount)}"


def _amounts(made: Draft) -> dict[tuple[str, str], Decimal | None]:
    """Every amount by line and column; a line of the same name again has a number behind it."""
    return {
        (line.key or line.label, column.label): amount
        for line in made.lines
        if not line.heading
        for column, amount in zip(made.columns, line.amounts, strict=True)
    }


def _said(amount: Decimal | None) -> str:
    return "missing" if amount is None else amount_text(amount)
