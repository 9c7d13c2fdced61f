"""Ties between statements taken in together: by formula, or the same amount under one code or label."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import combinations

from humble_sum.core.ids import new_id
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.periods import period_of
from humble_sum.core.intake.signed_cells import foreign_cell
from humble_sum.core.intake.table import column_letters
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Statement, Tie
from humble_sum.core.statements.relations import LineColumn, exact_amounts
from humble_sum.core.statements.validation import sound

WORD = re.compile(r"[^\W\d]{4,}")
LEAST_DIGITS = 4  # of an amount that is too telling to be the same by chance


@dataclass(frozen=True)
class FoundTie:
    """A tie with what speaks for it."""

    tie: Tie
    evidence: str


def found_ties(made: Sequence[tuple[Draft, Statement]]) -> list[FoundTie]:
    """Every tie between these statements, each drafted from its table; those that do not hold
    together, such as sums that go round in a circle, are left out."""
    made = [(draft, statement) for draft, statement in made if sound(statement)]
    found: dict[frozenset[FigureRef], FoundTie] = {}
    taken: set[str] = set()
    for spots, evidence in (*_by_formula(made), *_by_name([statement for _, statement in made])):
        if any(spots <= known for known in found):
            continue
        ordered = tuple(sorted(spots, key=lambda sheet_place: _place(made, sheet_place)))
        id = new_id(f"{ordered[0][1]}-{ordered[0][2]}", taken)
        found[spots] = FoundTie(Tie(id=id, figures=ordered), evidence)
    return list(found.values())


def _place(made: Sequence[tuple[Draft, Statement]], sheet_place: FigureRef) -> int:
    return next(n for n, (_, statement) in enumerate(made) if statement.id == sheet_place[0])


def _by_formula(made: Sequence[tuple[Draft, Statement]]) -> Iterator[tuple[frozenset[FigureRef], str]]:
    """Cells that repeat a cell of another sheet of their workbook."""
    sheets = {(draft.table.source, draft.table.name.casefold()): (draft, of) for draft, of in made}
    for draft, statement in made:
        for line in draft.lines:
            for place, column in enumerate(draft.layout.figures):
                formula = draft.table.rows[line.row][column.index].formula
                named = foreign_cell(formula) if formula else None
                other = sheets.get((draft.table.source, named[0].casefold())) if named else None
                there = _sheet_place(*other, *named[1]) if other and named else None
                if there is not None:
                    here = (statement.id, line.id, draft.columns[place].id)
                    yield frozenset((here, there)), "the workbook's own formula"


def _sheet_place(draft: Draft, statement: Statement, row: int, column: int) -> FigureRef | None:
    here = draft.table.find(f"{column_letters(column)}{row + 1}")
    if here is None:
        return None
    line = next((line for line in draft.lines if line.row == here[0] and not line.heading), None)
    place = next((n for n, each in enumerate(draft.layout.figures) if each.index == here[1]), None)
    return None if line is None or place is None else (statement.id, line.id, draft.columns[place].id)


def _by_name(statements: Sequence[Statement]) -> Iterator[tuple[frozenset[FigureRef], str]]:
    """The same amount, in the same column, under the same code or label."""
    exact = {statement.id: exact_amounts(statement) for statement in statements}
    for one, other in combinations(statements, 2):
        columns = _same_columns(one, other)
        lines = {name: line for line in other.figured for name in (line.label.casefold(), line.id.casefold())}
        for line in one.figured:
            twin = lines.get(line.id.casefold()) or lines.get(line.label.casefold())
            if twin is None:
                continue
            for column, there in columns.items():
                amount = exact[one.id][line.id, column]
                if amount is not None and amount == exact[other.id][twin.id, there] and _telling(amount):
                    by = "code" if line.id == twin.id and line.label != twin.label else "name"
                    spots = frozenset(((one.id, line.id, column), (other.id, twin.id, there)))
                    yield spots, f"the same amount under one {by}"
        yield from _openings(one, other, exact)
        yield from _openings(other, one, exact)


def _telling(amount: Decimal) -> bool:
    """Whether an amount has too many digits to be the same by chance."""
    return len(amount.as_tuple().digits) >= LEAST_DIGITS


def _same_columns(one: Statement, other: Statement) -> dict[str, str]:
    """The columns of one statement that are columns of the other: of one label, or of the only one whose
    period is the same however it is written."""
    by_label = {column.label.casefold(): column.id for column in other.columns}
    found: dict[str, str] = {}
    for column in one.columns:
        if (there := by_label.get(column.label.casefold())) is not None:
            found[column.id] = there
            continue
        period = period_of(column.label)
        meeting = [c.id for c in other.columns if period and (p := period_of(c.label)) and period.meets(p)]
        rivals = [c for c in one.columns if period and (p := period_of(c.label)) and period.meets(p)]
        if len(meeting) == 1 and len(rivals) == 1:
            found[column.id] = meeting[0]
    return found


def _openings(
    moving: Statement, standing: Statement, exact: Mapping[str, Mapping[LineColumn, Decimal | None]]
) -> Iterator[tuple[frozenset[FigureRef], str]]:
    """What a statement of movements opens with, where that is what another closed the period before with."""
    columns = _same_columns(moving, standing)
    order = [column.id for column in standing.columns if not column.derived]
    for line in moving.figured:
        if not says(line.label, "opening"):
            continue
        words = set(WORD.findall(line.label.casefold()))
        for column, there in columns.items():
            amount = exact[moving.id][line.id, column]
            if amount is None or not _telling(amount) or there not in order:
                continue
            place = order.index(there)
            twins = [
                (standing.id, twin.id, before)
                for before in (*order[place + 1 : place + 2], *order[max(place - 1, 0) : place])
                for twin in standing.figured
                if exact[standing.id][twin.id, before] == amount
                and words & set(WORD.findall(twin.label.casefold()))
            ]
            if len(twins) == 1:
                spots = frozenset(((moving.id, line.id, column), twins[0]))
                yield spots, "it opens with what the other closed the period before with"
