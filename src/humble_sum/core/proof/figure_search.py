"""Figures found by part of their names, over every statement of a pack."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice

from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef


@dataclass(frozen=True)
class Found:
    """A figure by its place, and its name: line, column, and the statement it stands in."""

    ref: FigureRef
    name: str


def find_figures(pack_proof: PackProof, typed: str, most: int) -> list[Found]:
    """At most so many figures whose names have every word typed, in any order: first those whose line
    and column have them all, then those whose statement's name has the rest."""
    words = typed.lower().split()
    if not words:
        return list(islice(_matching(pack_proof, words, False), most))
    own = list(islice(_matching(pack_proof, words, False), most))
    known = {each.ref for each in own}
    others = (each for each in _matching(pack_proof, words, True) if each.ref not in known)
    return [*own, *islice(others, most - len(own))]


def _matching(pack_proof: PackProof, words: list[str], with_statement: bool) -> Iterator[Found]:
    for id, proof in pack_proof.proofs.items():
        grid = proof.grid
        owner = proof.statement.name
        wanted = [word for word in words if not (with_statement and word in owner.lower())]
        labels = {line: name.lower() for line, name in grid.labels.items()}
        heads = {column: name.lower() for column, name in grid.heads.items()}
        for line, column in grid.cells:
            if all(word in labels[line] or word in heads[column] for word in wanted):
                yield Found((id, line, column), f"{grid.labels[line]}, {grid.heads[column]} in {owner}")
