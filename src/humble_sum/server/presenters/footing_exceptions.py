"""What single lines, columns and sums have footing do with them, besides the plan for all."""

from __future__ import annotations

from collections.abc import Iterator

from pydantic import BaseModel

from humble_sum.core.statements.pack import READINESS, Answer, Column, Line, Pack, Statement

ANSWERED: dict[Answer, str] = {
    "nudge": "made to add by nudges",
    "printed": "printed from printed figures",
    "note": "left with a note",
}


class ExceptionView(BaseModel):
    """A line, a column or one sum by name, what is said of it, and a figure where that is changed."""

    statement: str
    line: str
    column: str
    name: str
    says: str


def exceptions(pack: Pack) -> list[ExceptionView]:
    """Everything said of single lines, columns and sums, in page order."""
    return [
        ExceptionView(
            statement=statement.id,
            line=line.id,
            column=column.id,
            name=f"{name} in {statement.name}",
            says=says,
        )
        for statement in pack.statements
        for line, column, name, says in _excepted(statement)
    ]


def _excepted(statement: Statement) -> Iterator[tuple[Line, Column, str, str]]:
    first_line, first_column = statement.figured[0], statement.columns[0]
    for line in statement.figured:
        if line.readiness != "usual":
            yield line, first_column, line.label, READINESS[line.readiness]
        if line.rounding:
            yield line, first_column, line.label, "prints what is missed by rounding"
        if line.adds and line.answer != "nudge":
            yield line, first_column, line.label, ANSWERED[line.answer]
        for column in statement.columns:
            if line.adds and (answer := line.answers.get(column.id)):
                yield line, column, f"{line.label}, {column.label}", ANSWERED[answer]
    for column in statement.columns:
        if column.published:
            yield first_line, column, f"Column {column.label}", "published already"
        if column.terms and column.answer != "nudge":
            yield first_line, column, f"Column {column.label}", ANSWERED[column.answer]
        for line in statement.figured:
            if column.terms and (answer := column.answers.get(line.id)):
                yield line, column, f"{line.label} across to {column.label}", ANSWERED[answer]
