"""Making and undoing ties: figures that are one and the same, in two statements or in one, as the
opening balance is last period's closing one."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack, Tie


@dataclass(frozen=True)
class Tieable:
    """A figure that another could be tied to; `same` where their exact amounts are."""

    ref: FigureRef
    name: str
    same: bool


def tie(pack: Pack, ref: FigureRef, to: FigureRef) -> Pack:
    """The pack with a figure tied to another, and with whatever either is tied to already.

    Raises InputError where it is the same figure, or tied to it already.
    """
    if ref == to:
        raise InputError("bad-tie", Fault("to", "A figure cannot be tied to itself.", "Choose another one."))
    joined = [each for each in pack.ties if ref in each.figures or to in each.figures]
    if any(ref in each.figures and to in each.figures for each in joined):
        what = f"{describe_figure(pack, ref)} is tied to {describe_figure(pack, to)} already."
        raise InputError("bad-tie", Fault("to", what))
    # The figure it is tied to comes first: others are measured from it.
    first = next((each.figures for each in joined if to in each.figures), (to,))
    others = next((each.figures for each in joined if ref in each.figures), (ref,))
    id = joined[0].id if joined else new_id(to[1], {each.id.lower() for each in pack.ties})
    made = Tie(id=id, figures=(*first, *others))
    return pack.model_copy(update={"ties": (*(each for each in pack.ties if each not in joined), made)})


def untie(pack: Pack, ref: FigureRef) -> Pack:
    """The pack with a figure tied to nothing. Figures that it was tied to stay tied to each other.

    Raises InputError where it is in no tie.
    """
    if not any(ref in each.figures for each in pack.ties):
        raise InputError("bad-tie", Fault("figure", f"{describe_figure(pack, ref)} is tied to nothing."))
    left = []
    for each in pack.ties:
        figures = tuple(other for other in each.figures if other != ref)
        if len(figures) > 1:
            left.append(each if ref not in each.figures else Tie(id=each.id, figures=figures))
    return pack.model_copy(update={"ties": tuple(left)})


def tieable(pack_proof: PackProof, ref: FigureRef, typed: str) -> list[Tieable]:
    """The figures that one could be tied to whose names have every word typed: first those of the same
    exact amount, other statements' before its own, then the others where something was typed, those that
    have the words themselves before those whose statement has them."""
    amount = _amount(pack_proof, ref)
    tied = {other for each in pack_proof.pack.ties if ref in each.figures for other in each.figures}
    words = typed.lower().split()
    others = [
        (owner, *cell)
        for owner, proof in pack_proof.proofs.items()
        for cell in proof.grid.cells
        if (owner, *cell) != ref and (owner, *cell) not in tied
    ]
    alike = {other for other in others if amount is not None and _amount(pack_proof, other) == amount}
    found = []
    for place, other in enumerate(others):
        if words or other in alike:
            name, owner = _named(pack_proof, other)
            said = f"{name} in {owner}"
            if all(word in said.lower() for word in words):
                # A figure that has the words itself comes before one whose statement has them.
                own = all(word in name.lower() for word in words)
                order = (other not in alike, not own, other in alike and other[0] == ref[0], place)
                found.append((order, Tieable(other, said, other in alike)))
    return [each for _, each in sorted(found, key=lambda pair: pair[0])]


def _named(pack_proof: PackProof, ref: FigureRef) -> tuple[str, str]:
    """A figure's name and its statement's."""
    owner, line, column = ref
    grid = pack_proof.proofs[owner].grid
    return f"{grid.labels[line]}, {grid.heads[column]}", grid.statement.name


def _amount(pack_proof: PackProof, ref: FigureRef) -> object:
    owner, *cell = ref
    grid = pack_proof.proofs[owner].grid
    return grid.amounts[grid.number[cell[0], cell[1]]]
