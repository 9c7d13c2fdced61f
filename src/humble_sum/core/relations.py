"""Exact amounts of a whole statement, and the relations its structure implies."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from graphlib import TopologicalSorter
from typing import Literal

from humble_sum.core.amounts import EXACT, signed, total
from humble_sum.core.statements import Statement

Cell = tuple[str, str]  # line id, column id


@dataclass(frozen=True)
class Relation:
    """Signed parts that have to add to a total: down a column, or across columns."""

    id: str
    way: Literal["down", "across"]
    total: Cell
    parts: tuple[tuple[Cell, int], ...]


def exact_amounts(statement: Statement) -> dict[Cell, Decimal | None]:
    """Every figure's exact amount; None where it is missing.

    A total is what it states, or the sum of its parts that are there (missing when none is), and
    so is a column that adds others. A difference is missing where either of its two figures is.
    """
    amounts: dict[Cell, Decimal | None] = {}
    lines = {line.id: line for line in statement.lines}
    order = [
        lines[id]
        for id in TopologicalSorter({k: [p for p, _ in v.parts] for k, v in lines.items()}).static_order()
        if lines[id].kind != "heading"
    ]
    columns = {column.id: column for column in statement.columns}
    needs = {id: [term for term, _ in column.terms] for id, column in columns.items()}
    for id in TopologicalSorter(needs).static_order():
        column = columns[id]
        for line in order:
            if column.terms:
                adding = [(sign, amounts[line.id, term]) for term, sign in column.terms]
                whole = column.sum is not None or all(amount is not None for _, amount in adding)
                amounts[line.id, id] = _added(adding) if whole else None
            elif line.amounts.get(id) is not None or not line.adds:
                amounts[line.id, id] = line.amounts.get(id)
            else:
                amounts[line.id, id] = _added([(sign, amounts[part, id]) for part, sign in line.parts])
    return amounts


def _added(parts: Iterable[tuple[int, Decimal | None]]) -> Decimal | None:
    """The parts that are there, added; None when none is."""
    present = [signed(sign, amount) for sign, amount in parts if amount is not None]
    return total(present) if present else None


def relations(statement: Statement) -> tuple[Relation, ...]:
    """Sums down every column, then cross-sums of every derived column, in page order."""
    found = []
    for column in statement.columns:
        for line in statement.lines:
            if line.adds:
                parts = tuple(((part, column.id), sign) for part, sign in line.parts)
                found.append(Relation(f"down:{line.id}:{column.id}", "down", (line.id, column.id), parts))
    for column in statement.columns:
        for line in statement.figured if column.terms else ():
            terms = tuple(((line.id, term), sign) for term, sign in column.terms)
            found.append(Relation(f"across:{line.id}:{column.id}", "across", (line.id, column.id), terms))
    return tuple(found)


def exact_miss(relation: Relation, amounts: dict[Cell, Decimal | None]) -> Decimal | None:
    """Exact total less its exact parts that are there; None when the total or all parts are missing."""
    whole = amounts[relation.total]
    parts = _added([(sign, amounts[cell]) for cell, sign in relation.parts])
    return None if whole is None or parts is None else EXACT.subtract(whole, parts)
