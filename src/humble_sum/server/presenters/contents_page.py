"""Ready commands for what the pack holds: one amount, its line, its column and its statement."""

from __future__ import annotations

from humble_sum.core.changes.contents_commands import (
    AddColumn,
    AddLine,
    CorrectAmount,
    EditStatement,
    MoveColumn,
    MoveStatement,
    RemoveColumn,
    RemoveLine,
    RemoveStatement,
)
from humble_sum.core.changes.structure import totals_of
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.server.figure_schemas import ContentsView


def contents_view(pack: Pack, statement: Statement, line: str, column: str) -> ContentsView:
    """What can be corrected, added and taken out around one figure. A new line joins the total that the
    line in hand is a part of."""
    id = statement.id
    ids = [each.id for each in pack.statements]
    at = ids.index(id)
    totals = totals_of(statement, line)
    earlier, later = ids[at - 1] if at else None, ids[at + 2] if at + 2 < len(ids) else None
    return ContentsView.model_construct(
        correct=CorrectAmount.model_construct(
            kind="correct_amount", statement=id, line=line, column=column, amount=None, reason=""
        ),
        add_line=AddLine.model_construct(
            kind="add_line",
            statement=id,
            label="",
            line_kind="line",
            before=line,
            total=totals[0][0].id if totals else None,
            amounts={},
        ),
        add_column=AddColumn.model_construct(
            kind="add_column", statement=id, label="", date=None, before=column
        ),
        edit_statement=EditStatement(
            kind="edit_statement", statement=id, name=statement.name, title=statement.title
        ),
        remove_line=RemoveLine(kind="remove_line", statement=id, line=line),
        remove_column=RemoveColumn(kind="remove_column", statement=id, column=column),
        column_last=MoveColumn(kind="move_column", statement=id, column=column, before=None),
        statement_earlier=(
            MoveStatement(kind="move_statement", statement=id, before=earlier) if at else None
        ),
        statement_later=(
            MoveStatement(kind="move_statement", statement=id, before=later) if at + 1 < len(ids) else None
        ),
        remove_statement=RemoveStatement(kind="remove_statement", statement=id),
    )
