"""Exact amounts of a whole statement, and the relations its structure implies."""

from __future__ import annotations

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

    A total is what it states, or the sum of its parts that are there (missing when none is). A
    derived column is missing where either of its two figures is.
    """
    amounts: dict[Cell, Decimal | None] = {}
    lines = {line.id: line for line in statement.lines}
    order = [
        lines[id]
        for id in TopologicalSorter({k: [p for p, _ in v.parts] for k, v in lines.items()}).static_order()
        if lines[id].kind != "heading"
    ]
    columns = {column.id: column for column in statement.columns}
    for id in TopologicalSorter({k: v.difference or () for k, v in columns.items()}).static_order():
        for line in order:
            if (pair := columns[id].difference) is not None:
                first, second = amounts[line.id, pair[0]], amounts[line.id, pair[1]]
                gone = first is None or second is None
                amounts[line.id, id] = None if gone else EXACT.subtract(first, second)  # type: ignore[arg-type]
            elif line.amounts.get(id) is not None or not line.adds:
                amounts[line.id, id] = line.amounts.get(id)
            else:
                present = [(sign, amounts[part, id]) for part, sign in line.parts]
                adding = [signed(sign, amount) for sign, amount in present if amount is not None]
                amounts[line.id, id] = total(adding) if adding else None
    return amounts


def relations(statement: Statement) -> tuple[Relation, ...]:
    """Sums down every column, then cross-sums of every derived column, in page order."""
    found = []
    for column in statement.columns:
        for line in statement.lines:
            if line.adds:
                parts = tuple(((part, column.id), sign) for part, sign in line.parts)
                found.append(Relation(f"down:{line.id}:{column.id}", "down", (line.id, column.id), parts))
    for column in statement.columns:
        if column.difference is None:
            continue
        first, second = column.difference
        for line in statement.figured:
            parts = (((line.id, first), 1), ((line.id, second), -1))
            found.append(Relation(f"across:{line.id}:{column.id}", "across", (line.id, column.id), parts))
    return tuple(found)


def exact_miss(relation: Relation, amounts: dict[Cell, Decimal | None]) -> Decimal | None:
    """Exact total less its exact parts that are there; None when the total or all parts are missing."""
    whole = amounts[relation.total]
    present = [(sign, amounts[cell]) for cell, sign in relation.parts]
    adding = [signed(sign, amount) for sign, amount in present if amount is not None]
    if whole is None or not adding:
        return None
    return EXACT.subtract(whole, total(adding))
