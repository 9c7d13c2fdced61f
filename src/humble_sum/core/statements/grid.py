"""The exact side of a statement: its figures numbered in page order, as whole numbers.

Nothing here hangs on rules, so a change of rules proves the statement again from the same grid.
"""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import scaled
from humble_sum.core.statements.pack import Answer, Statement
from humble_sum.core.statements.relations import LineColumn, Relation, exact_amounts, exact_miss, relations


@dataclass(frozen=True)
class GridRelation:
    """A relation by figure numbers: its total, its parts that are there, and what the exact amounts
    miss. `short` says that a part is missing; `miss` is None where there is nothing to compare, and
    `answer` what is done about a gap."""

    relation: Relation
    total: int
    parts: tuple[tuple[int, int], ...]
    short: bool
    miss: Decimal | None
    answer: Answer


@dataclass(frozen=True)
class Grid:
    """A statement's cells in page order and their exact amounts.

    `integers` has each amount as a whole number of 10**-`decimal_places`; None where it is missing.
    `labels` are the lines' by id, `heads` the columns'.
    """

    statement: Statement
    cells: tuple[LineColumn, ...]
    number: dict[LineColumn, int]
    amounts: tuple[Decimal | None, ...]
    integers: tuple[int | None, ...]
    decimal_places: int
    relations: tuple[GridRelation, ...]
    labels: dict[str, str]
    heads: dict[str, str]


def grid_of(statement: Statement) -> Grid:
    """The grid of a statement."""
    exact = exact_amounts(statement)
    cells = tuple((line.id, column.id) for line in statement.figured for column in statement.columns)
    number = {cell: n for n, cell in enumerate(cells)}
    amounts = tuple(exact[cell] for cell in cells)
    decimal_places = max((-_exponent(amount) for amount in amounts if amount is not None), default=0)
    decimal_places = max(decimal_places, 0)
    integers = tuple(None if a is None else int(scaled(a, decimal_places)) for a in amounts)
    shares = {column.id: column.share[0] for column in statement.columns if column.share}
    related = []
    lines = {line.id: line for line in statement.lines}
    columns = {column.id: column for column in statement.columns}
    for relation in relations(statement):
        parts = tuple((number[c], sign) for c, sign in relation.parts if exact[c] is not None)
        miss = exact_miss(relation, exact, shares)
        short = len(parts) < len(relation.parts)
        line, column = relation.total
        down = relation.way == "down"
        answer = lines[line].answer_in(column) if down else columns[column].answer_on(line)
        related.append(GridRelation(relation, number[relation.total], parts, short, miss, answer))
    labels = {line.id: line.label for line in statement.lines}
    heads = {column.id: column.label for column in statement.columns}
    return Grid(statement, cells, number, amounts, integers, decimal_places, tuple(related), labels, heads)


def _exponent(amount: Decimal) -> int:
    exponent = amount.as_tuple().exponent
    assert isinstance(exponent, int)
    return exponent
