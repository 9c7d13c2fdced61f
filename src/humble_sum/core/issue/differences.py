"""How two states of a pack differ in print: figure by figure, each with its cause."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef

Cause = Literal["amount", "parts", "rule", "nudge", "new", "gone"]
CAUSES: dict[Cause, str] = {
    "amount": "amount changed",
    "parts": "follows its parts",
    "rule": "printed by another rule",
    "nudge": "nudged or held differently",
    "new": "was not there",
    "gone": "is not there any more",
}


@dataclass(frozen=True)
class Difference:
    """A figure that prints otherwise: what it is, what it prints and printed, and why."""

    figure: FigureRef
    name: str
    was: str
    now: str
    cause: Cause

    @property
    def says(self) -> str:
        """The difference in a line: "3,425 was 3,420, follows its parts"."""
        if self.cause in ("new", "gone"):
            return f"{self.now or self.was or 'a blank'}, {CAUSES[self.cause]}"
        return f"{self.now or 'a blank'} was {self.was or 'a blank'}, {CAUSES[self.cause]}"


def differences(before: PackProof, after: PackProof) -> list[Difference]:
    """Every figure that prints otherwise in `after` than in `before`, in page order, gone ones last."""
    return [*_changed(before, after), *_gone(before, after)]


def same(before: PackProof, after: PackProof) -> int:
    """How many figures print as before."""
    return sum(
        1
        for id, proof in after.proofs.items()
        for cell, figure in proof.figures.items()
        if (was := _figure(before, (id, *cell))) is not None
        and was.printed.full_text == figure.printed.full_text
    )


def _changed(before: PackProof, after: PackProof) -> Iterator[Difference]:
    for id, proof in after.proofs.items():
        for (line, column), figure in proof.figures.items():
            ref = (id, line, column)
            was = _figure(before, ref)
            now = figure.printed.full_text
            if was is None:
                yield Difference(ref, describe_figure(after.pack, ref), "", now, "new")
            elif was.printed.full_text != now:
                name = describe_figure(after.pack, ref)
                yield Difference(ref, name, was.printed.full_text, now, _cause(after, ref, was, figure))


def _gone(before: PackProof, after: PackProof) -> Iterator[Difference]:
    for id, proof in before.proofs.items():
        for (line, column), figure in proof.figures.items():
            ref = (id, line, column)
            if _figure(after, ref) is None:
                yield Difference(ref, describe_figure(before.pack, ref), figure.printed.full_text, "", "gone")


def _figure(pack_proof: PackProof, ref: FigureRef) -> Figure | None:
    proof = pack_proof.proofs.get(ref[0])
    cell = ref[1:]
    return proof.figures[cell] if proof is not None and cell in proof.figures else None


def _cause(after: PackProof, ref: FigureRef, was: Figure, now: Figure) -> Cause:
    if was.exact != now.exact:
        statement = after.proofs[ref[0]].statement
        line, column = statement.line(ref[1]), statement.column(ref[2])
        assert line is not None and column is not None
        follows = column.derived or (line.adds and line.amounts.get(column.id) is None)
        return "parts" if follows or line.adds else "amount"
    return "nudge" if was.clauses == now.clauses else "rule"
