"""Ties between statements taken in together: by formula, or the same amount under one code or label."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

from humble_sum.core.ids import new_id
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.formulas import foreign_cell
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Statement, Tie
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.core.statements.validation import sound

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
        ordered = tuple(sorted(spots, key=lambda spot: _place(made, spot)))
        id = new_id(f"{ordered[0][1]}-{ordered[0][2]}", taken)
        found[spots] = FoundTie(Tie(id=id, figures=ordered), evidence)
    return list(found.values())


def _place(made: Sequence[tuple[Draft, Statement]], spot: FigureRef) -> int:
    return next(n for n, (_, statement) in enumerate(made) if statement.id == spot[0])


def _by_formula(made: Sequence[tuple[Draft, Statement]]) -> Iterator[tuple[frozenset[FigureRef], str]]:
    """Cells that repeat a cell of another sheet of their workbook."""
    sheets = {(draft.table.source, draft.table.name.casefold()): (draft, of) for draft, of in made}
    for draft, statement in made:
        for line in draft.lines:
            for place, column in enumerate(draft.layout.figures):
                formula = draft.table.rows[line.row][column.index].formula
                named = foreign_cell(formula) if formula else None
                other = sheets.get((draft.table.source, named[0].casefold())) if named else None
                there = _spot(*other, *named[1]) if other and named else None
                if there is not None:
                    here = (statement.id, line.id, draft.columns[place].id)
                    yield frozenset((here, there)), "the workbook's own formula"


def _spot(draft: Draft, statement: Statement, row: int, column: int) -> FigureRef | None:
    line = next((line for line in draft.lines if line.row == row and not line.heading), None)
    place = next((n for n, each in enumerate(draft.layout.figures) if each.index == column), None)
    return None if line is None or place is None else (statement.id, line.id, draft.columns[place].id)


def _by_name(statements: Sequence[Statement]) -> Iterator[tuple[frozenset[FigureRef], str]]:
    """The same amount, in the same column, under the same code or label."""
    exact = {statement.id: exact_amounts(statement) for statement in statements}
    for one, other in combinations(statements, 2):
        columns = {name: column.id for column in other.columns for name in (column.label.casefold(),)}
        lines = {name: line for line in other.figured for name in (line.label.casefold(), line.id.casefold())}
        for line in one.figured:
            twin = lines.get(line.id.casefold()) or lines.get(line.label.casefold())
            if twin is None:
                continue
            for column in one.columns:
                there = columns.get(column.label.casefold())
                if there is None:
                    continue
                amount = exact[one.id][line.id, column.id]
                if amount is None or amount != exact[other.id][twin.id, there]:
                    continue
                if len(amount.as_tuple().digits) >= LEAST_DIGITS:
                    by = "code" if line.id == twin.id and line.label != twin.label else "name"
                    spots = frozenset(((one.id, line.id, column.id), (other.id, twin.id, there)))
                    yield spots, f"the same amount under one {by}"
