"""What a part of the bench measured: a row each, printed as one table at the end."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import NamedTuple, Protocol


class Row(NamedTuple):
    """One measurement: what was done, and what was measured."""

    what: str
    measured: str


class Part(Protocol):
    """A part of the bench. `tiny` makes it do each of its works once, on next to nothing."""

    def __call__(self, tiny: bool = False) -> Iterator[Row]: ...


def table(parts: Iterable[tuple[str, list[Row]]]) -> str:
    """The rows of all parts, each part under its name, the measured ones lined up."""
    named = list(parts)
    width = max((len(row.what) for _, rows in named for row in rows), default=0)
    lines = []
    for name, rows in named:
        lines += [name, *(f"  {row.what:<{width}}  {row.measured}" for row in rows)]
    return "\n".join(lines)


def print_part(name: str, part: Part) -> None:
    """Measure one part alone, and print its rows."""
    print(table([(name, list(part()))]))
