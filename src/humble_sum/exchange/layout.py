"""A proof as rows of a printed table: what every writer of a statement sets out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from humble_sum.core.proofs import Figure, Proof
from humble_sum.core.statements import Line


@dataclass(frozen=True)
class Row:
    """One printed row; a heading has no figures. `last` is the statement's closing total."""

    line: Line
    figures: tuple[Figure, ...]
    last: bool

    @property
    def indented(self) -> bool:
        return self.line.kind == "line"


def rows(proof: Proof) -> Iterator[Row]:
    """The rows of the page, in order."""
    lines = proof.statement.lines
    for line in lines:
        figures = tuple(
            proof.figures[line.id, column.id]
            for column in proof.statement.columns
            if (line.id, column.id) in proof.figures
        )
        yield Row(line, figures, line is lines[-1] and line.kind == "total")


def caption(proof: Proof) -> str:
    """The unit the page says, with its exceptions."""
    return "; ".join(filter(None, (proof.caption, *proof.exceptions)))
