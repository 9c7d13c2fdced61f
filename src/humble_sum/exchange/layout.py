"""A proof as rows of a printed table: what every writer of a statement sets out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import APART, Line


@dataclass(frozen=True)
class Row:
    """One printed row; a heading has no figures. `last` is the statement's closing total."""

    proof: Proof
    line: Line
    last: bool

    @property
    def figures(self) -> tuple[Figure, ...]:
        """The row's figures, printed when they are asked for."""
        if self.line.kind == "heading":
            return ()
        figures = self.proof.figures
        return tuple(figures[self.line.id, column.id] for column in self.proof.statement.columns)

    @property
    def texts(self) -> list[str]:
        """The row's figures as printed; those of the whole statement are printed together."""
        if self.line.kind == "heading":
            return []
        texts, number = self.proof.figures.texts, self.proof.grid.number
        return [texts[number[self.line.id, column.id]] for column in self.proof.statement.columns]


def rows(proof: Proof) -> Iterator[Row]:
    """The rows of the page, in order. A translation line stands where an edition has something for it."""
    lines = proof.statement.lines
    counted = [line for line in lines if line.kind not in APART]
    closing = counted[-1] if counted and counted[-1].kind == "total" else None
    for line in lines:
        if not line.translation or any(proof.figures[line.id, c.id].exact for c in proof.statement.columns):
            yield Row(proof, line, line is closing)


def caption(proof: Proof) -> str:
    """The unit the page says, with its exceptions."""
    return "; ".join(filter(None, (proof.caption, *proof.exceptions)))
