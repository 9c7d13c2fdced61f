"""Exact amounts of a whole statement, and the relations its structure implies."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import ROUND_05UP, Context, Decimal
from graphlib import TopologicalSorter
from typing import Literal

from humble_sum.core.amounts import EXACT, signed, total
from humble_sum.core.statements.pack import OWN_ACROSS, RATIOS, Column, Line, Statement

# A share is a quotient that need not end. Cut so, it still rounds right at any decimals a clause
# can ask for: the last digit says that more would follow (General Decimal Arithmetic, round-05up).
QUOTIENT = Context(prec=34, rounding=ROUND_05UP, traps=[])
NO_SHARE = ("per_unit", "count", "percent")
LineColumn = tuple[str, str]  # line id, column id


@dataclass(frozen=True)
class Relation:
    """Signed parts that have to add to a total: down a column, or across columns."""

    id: str
    way: Literal["down", "across"]
    total: LineColumn
    parts: tuple[tuple[LineColumn, int], ...]


def exact_amounts(statement: Statement) -> dict[LineColumn, Decimal | None]:
    """Every figure's exact amount; None where it is missing.

    A total is what it states, or the sum of its parts that are there (missing when none is), and
    so is a column that adds others. A difference is missing where either of its two figures is.
    """
    amounts: dict[LineColumn, Decimal | None] = {}
    lines = {line.id: line for line in statement.lines}
    order = [
        lines[id]
        for id in TopologicalSorter({k: [p for p, _ in v.parts] for k, v in lines.items()}).static_order()
        if lines[id].kind != "heading"
    ]
    columns = {column.id: column for column in statement.columns}
    needs = {id: [*(term for term, _ in c.terms), *(c.share or ())[:1]] for id, c in columns.items()}
    for id in TopologicalSorter(needs).static_order():
        column = columns[id]
        terms = column.terms
        for line in order:
            if column.share:
                amounts[line.id, id] = _share(line, column.share, amounts)
            elif terms and not _given_apart(line, column):
                adding = [(sign, amounts[line.id, term]) for term, sign in terms]
                complete = column.sum is not None or all(amount is not None for _, amount in adding)
                amounts[line.id, id] = _added(adding) if complete else None
            elif line.amounts.get(id) is not None or not line.adds or column.apart:
                amounts[line.id, id] = line.amounts.get(id)
            else:
                amounts[line.id, id] = _added([(sign, amounts[part, id]) for part, sign in line.parts])
    return amounts


def _given_apart(line: Line, column: Column) -> bool:
    """Whether the line's own amount stands in a column that adds others."""
    if column.sum is None or line.kind not in OWN_ACROSS:
        return False
    return line.kind in RATIOS or line.amounts.get(column.id) is not None


def _share(line: Line, of: tuple[str, str], amounts: Mapping[LineColumn, Decimal | None]) -> Decimal | None:
    column, base_line = of
    part, base = amounts[line.id, column], amounts[base_line, column]
    if line.kind in NO_SHARE or part is None or not base:
        return None
    share = QUOTIENT.divide(part, base)
    return QUOTIENT.normalize(share) if share else Decimal(0)


def _added(parts: Iterable[tuple[int, Decimal | None]]) -> Decimal | None:
    """The parts that are there, added; None when none is."""
    present = [signed(sign, amount) for sign, amount in parts if amount is not None]
    return total(present) if present else None


def relations(statement: Statement) -> tuple[Relation, ...]:
    """Sums down every column, then cross-sums of every derived column, in page order."""
    found = []
    for column in statement.columns:
        for line in () if column.apart else statement.lines:
            if line.adds:
                parts = tuple(((part, column.id), sign) for part, sign in line.parts)
                found.append(Relation(f"down:{line.id}:{column.id}", "down", (line.id, column.id), parts))
    for column in statement.columns:
        for line in statement.figured if column.terms else ():
            if _given_apart(line, column):
                continue
            terms = tuple(((line.id, term), sign) for term, sign in column.terms)
            found.append(Relation(f"across:{line.id}:{column.id}", "across", (line.id, column.id), terms))
    return tuple(found)


def exact_miss(
    relation: Relation, amounts: Mapping[LineColumn, Decimal | None], shares: Mapping[str, str]
) -> Decimal | None:
    """Exact total less its exact parts that are there; None when the total or all parts are missing.

    `shares` gives the column that each column of shares divides: shares add exactly when what
    they are shares of does.
    """

    def exact(cell: LineColumn) -> Decimal | None:
        if amounts[cell] is None:
            return None
        return amounts[cell[0], shares.get(cell[1], cell[1])]

    stated = exact(relation.total)
    parts = _added([(sign, exact(cell)) for cell, sign in relation.parts])
    return None if stated is None or parts is None else EXACT.subtract(stated, parts)
