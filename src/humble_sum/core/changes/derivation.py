"""Columns that others make: a change, a year of quarters, a quarter out of two years to date, a closing
balance of an opening one and its movements.

A column is derived only where its amounts are what the others come to on every line, so that no
amount is lost and no source break hidden.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from humble_sum.core.amounts import signed, total
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.statements.grid import Grid, grid_of
from humble_sum.core.statements.pack import RATIOS, Column, Line, Statement

Terms = tuple[tuple[str, int], ...]
LONGEST = 12  # columns that a sum found here may have


def derivable(grid: Grid, column: str) -> Iterator[Terms]:
    """What a column could be derived from, differences first: terms are columns with their signs."""
    able = [other for other in grid.statement.columns if not _made_of(grid.statement, other.id, column)]
    sample = next((line for line in _compared(grid) if _amount(grid, line, column)), None)
    if sample is None:
        return
    amounts = {other.id: _amount(grid, sample, other.id) for other in able}
    asked = _amount(grid, sample, column)
    # One line leaves few candidates, which the others are then asked about.
    for terms in _candidates(grid.statement, {id: a for id, a in amounts.items() if a is not None}, asked):
        if _off(grid, column, terms) is None:
            yield terms


def derive(statement: Statement, column: str, terms: Terms) -> Statement:
    """The statement with a column derived from others, or given where there are no terms.

    Raises InputError where there is no such column, where the terms go round in a circle, are neither a
    difference nor a sum, or do not come to the column's amounts.
    """
    own = _column(statement, column)
    if own.share:
        raise InputError(
            "bad-structure", Fault("column", f"{own.label} has shares, which follow from others.")
        )
    if not terms:
        return _given(statement, own)
    for id, _ in terms:
        _column(statement, id)
        if _made_of(statement, id, column):
            raise InputError("bad-structure", Fault("terms", f"{own.label} cannot be made of itself."))
    signs = [sign for _, sign in terms]
    if len(terms) < 2 or not (all(sign > 0 for sign in signs) or signs == [1, -1]):
        what = "A column is the difference of two others, or the sum of two or more."
        raise InputError("bad-structure", Fault("terms", what))
    if (line := _off(grid_of(statement), column, terms)) is not None:
        what = f"On {line.label}, {own.label} is not what {describe_terms(statement, terms)} comes to."
        raise InputError("bad-structure", Fault("terms", what, "Correct the figures first."))
    ids = tuple(id for id, _ in terms)
    difference = -1 in signs
    changed = {
        "difference": ids if difference else None,
        "sum": None if difference else ids,
        "apart": False,
    }
    lines = [
        line
        if line.kind in RATIOS and not difference
        else line.model_copy(update={"amounts": {id: a for id, a in line.amounts.items() if id != column}})
        for line in statement.lines
    ]
    return _with(statement, own.model_copy(update=changed), lines)


def describe_terms(statement: Statement, terms: Terms) -> str:
    """What a column is made of, by name: "H1 less Q1"."""
    labels = [_column(statement, id).label for id, _ in terms]
    if any(sign < 0 for _, sign in terms):
        return " less ".join(labels)
    return f"{', '.join(labels[:-1])} and {labels[-1]} added"


def _given(statement: Statement, own: Column) -> Statement:
    """The column with its amounts as they are now, following from no others."""
    if not own.terms:
        return statement
    statement = _stated(statement, own)
    return _with(statement, own.model_copy(update={"difference": None, "sum": None}), statement.lines)


def with_totals_stated(statement: Statement, column: Column) -> Statement:
    """The statement with the totals of a column stating what they came to, so that none is lost where they
    no longer add."""
    grid = grid_of(statement)
    lines = []
    for line in statement.lines:
        amount = grid.amounts[grid.number[line.id, column.id]] if line.adds else None
        amounts = line.amounts if amount is None else {**line.amounts, column.id: amount}
        lines.append(line.model_copy(update={"amounts": amounts}))
    return statement.model_copy(update={"lines": tuple(lines)})


def _stated(statement: Statement, own: Column) -> Statement:
    """The statement with a derived column's figures stated, where no total's parts say them."""
    grid = grid_of(statement)
    lines = []
    for line in statement.lines:
        amount = None if line.kind == "heading" else grid.amounts[grid.number[line.id, own.id]]
        parts = [(sign, grid.amounts[grid.number[part, own.id]]) for part, sign in line.parts]
        follows = total([signed(sign, part) for sign, part in parts if part is not None])
        if amount is None or (line.adds and amount == follows):
            lines.append(line)
        else:
            lines.append(line.model_copy(update={"amounts": {**line.amounts, own.id: amount}}))
    return statement.model_copy(update={"lines": tuple(lines)})


def _with(statement: Statement, column: Column, lines: Sequence[Line]) -> Statement:
    columns = tuple(column if each.id == column.id else each for each in statement.columns)
    return statement.model_copy(update={"columns": columns, "lines": tuple(lines)})


def _candidates(statement: Statement, amounts: dict[str, int], asked: int | None) -> Iterator[Terms]:
    """Differences and sums of two that come to what is asked on one line, and longer sums of columns
    one after another that no column between them adds already."""
    assert asked is not None
    having: dict[int, list[str]] = {}
    for id, amount in amounts.items():
        having.setdefault(amount, []).append(id)
    for minuend, amount in amounts.items():
        yield from (((minuend, 1), (part, -1)) for part in having.get(amount - asked, []) if part != minuend)
    order = {id: place for place, id in enumerate(amounts)}
    for first, amount in amounts.items():
        for second in having.get(asked - amount, []):
            if order[second] > order[first]:
                yield (first, 1), (second, 1)
    inner = {id for column in statement.columns for id, _ in column.terms if column.id in amounts}
    outer = [id for id in amounts if id not in inner]
    for start in range(len(outer)):
        come = sum(amounts[id] for id in outer[start : start + 2])
        for end in range(start + 3, min(len(outer), start + LONGEST) + 1):
            come += amounts[outer[end - 1]]
            if come == asked:
                yield tuple((id, 1) for id in outer[start:end])


def _off(grid: Grid, column: str, terms: Terms) -> Line | None:
    """The first line on which terms do not come to a column's amount; None where there is none."""
    for line in _compared(grid):
        parts = [(sign, _amount(grid, line, id)) for id, sign in terms]
        present = [sign * amount for sign, amount in parts if amount is not None]
        difference = any(sign < 0 for _, sign in terms)
        complete = len(present) == len(parts) if difference else bool(present)
        if _amount(grid, line, column) != (sum(present) if complete else None):
            return line
    return None


def _compared(grid: Grid) -> Iterator[Line]:
    return (line for line in grid.statement.lines if line.kind != "heading" and line.kind not in RATIOS)


def _amount(grid: Grid, line: Line, column: str) -> int | None:
    return grid.integers[grid.number[line.id, column]]


def _made_of(statement: Statement, id: str, column: str) -> bool:
    """Whether a column is another, or made of it at any depth."""
    own = _column(statement, id)
    below = [*(term for term, _ in own.terms), *(own.share or ())[:1]]
    return id == column or any(_made_of(statement, other, column) for other in below)


def _column(statement: Statement, id: str) -> Column:
    own = statement.column(id)
    if own is None:
        raise InputError("no-such-column", Fault("column", f'There is no column "{id}".'))
    return own
