"""Statements in and out of the tables: columns, lines, parts and amounts, written by what differs."""

from __future__ import annotations

from typing import Any

from sqlalchemy import bindparam, delete, select, update
from sqlalchemy.orm import Session, noload

from humble_sum.core.statements.pack import Column, Line, Members, Statement
from humble_sum.core.statements.policy import Policy
from humble_sum.records.tables import AmountRow, ColumnRow, LineRow, PartRow, StatementRow

AT_ONCE = 500  # rows deleted by one statement

FOOTING_OF_LINES = {
    *("readiness", "answer", "answers", "rounding", "translation"),
    *("concept", "concept_negated"),
}
FOOTING_OF_COLUMNS = {"apart", "published", "answer", "answers"}


def statement_row(pack_id: str, place: int, statement: Statement) -> StatementRow:
    """The rows a statement is kept as, at its place among those of a pack."""
    return StatementRow(
        pack=pack_id,
        position=place,
        code=statement.id,
        name=statement.name,
        title=statement.title,
        members=[members.model_dump(mode="json") for members in statement.members],
        policy=statement.policy.model_dump(mode="json") if statement.policy else None,
        columns=[
            ColumnRow(position=n, code=c.id, label=c.label, date=c.date, **_terms(c))
            for n, c in enumerate(statement.columns)
        ],
        lines=[
            LineRow(
                position=n,
                code=line.id,
                label=line.label,
                kind=line.kind,
                natural=line.usual_sign,
                currency=line.currency,
                indent=line.indent,
                absent=line.absent,
                footing=line.model_dump(mode="json", include=FOOTING_OF_LINES, exclude_defaults=True),
                parts=[PartRow(position=m, code=id, sign=sign) for m, (id, sign) in enumerate(line.parts)],
                amounts=[AmountRow(column=id, amount=amount) for id, amount in line.amounts.items()],
            )
            for n, line in enumerate(statement.lines)
        ],
    )


def _terms(column: Column) -> dict[str, Any]:
    first, second = column.difference or (None, None)
    return {
        "first": first,
        "second": second,
        "adds": list(column.sum) if column.sum else None,
        "share": list(column.share) if column.share else None,
        "absent": column.absent,
        "footing": column.model_dump(mode="json", include=FOOTING_OF_COLUMNS, exclude_defaults=True),
    }


def statement_of_row(row: StatementRow) -> Statement:
    """The statement that rows stand for."""
    return Statement(
        id=row.code,
        name=row.name,
        title=row.title,
        members=tuple(Members.model_validate(members) for members in row.members),
        policy=None if row.policy is None else Policy.model_validate(row.policy),
        columns=tuple(
            Column(
                id=c.code,
                label=c.label,
                date=c.date,
                difference=(c.first, c.second) if c.first and c.second else None,
                sum=tuple(c.adds) if c.adds else None,
                share=(c.share[0], c.share[1]) if c.share else None,
                absent=c.absent,
                **c.footing,
            )
            for c in row.columns
        ),
        lines=tuple(
            Line.model_validate(
                {
                    "id": line.code,
                    "label": line.label,
                    "kind": line.kind,
                    "natural": line.natural,
                    "currency": line.currency,
                    "indent": line.indent,
                    "absent": line.absent,
                    **line.footing,
                    "parts": [(part.code, part.sign) for part in line.parts],
                    "amounts": {amount.column: amount.amount for amount in line.amounts},
                }
            )
            for line in row.lines
        ),
    )


def change_statement(session: Session, pack_id: str, was: dict[str, Any], new: dict[str, Any]) -> None:
    """Write what a statement has otherwise than before: its own words, its columns, and single lines."""
    row = session.scalar(
        select(StatementRow)
        .where(StatementRow.pack == pack_id, StatementRow.code == new["id"])
        .options(noload("*"))
    )
    assert row is not None
    made = statement_row(pack_id, row.position, Statement.model_validate(new))
    for name in ("name", "title", "members", "policy"):
        if getattr(row, name) != getattr(made, name):
            setattr(row, name, getattr(made, name))
    if was["columns"] != new["columns"]:
        session.execute(delete(ColumnRow).where(ColumnRow.statement == row.id))
        session.add_all(_moved_to(row.id, column) for column in list(made.columns))
    old = {line["id"]: (place, line) for place, line in enumerate(was["lines"])}
    now = {line["id"]: line for line in new["lines"]}
    again = [id for id, (_, line) in old.items() if now.get(id) != line]
    for start in range(0, len(again), AT_ONCE):
        codes = again[start : start + AT_ONCE]
        session.execute(delete(LineRow).where(LineRow.statement == row.id, LineRow.code.in_(codes)))
    moved = []
    for place, line in enumerate(list(made.lines)):
        before = old.get(line.code)
        if before is None or before[1] != now[line.code]:
            session.add(_moved_to(row.id, line))
        elif before[0] != place:
            moved.append({"of": row.id, "named": line.code, "to": place})
    if moved:
        mine = (LineRow.statement == bindparam("of")) & (LineRow.code == bindparam("named"))
        place_of = update(LineRow).where(mine).values(position=bindparam("to"))
        session.connection().execute(place_of, moved)
    session.flush()
    session.expire(row)


def reorder(session: Session, pack_id: str, order: list[str]) -> None:
    """Put the statements in this order, without those that it does not name."""
    for row in session.scalars(
        select(StatementRow).where(StatementRow.pack == pack_id).options(noload("*"))
    ).all():
        if row.code not in order:
            session.execute(delete(StatementRow).where(StatementRow.id == row.id))
        elif row.position != order.index(row.code):
            row.position = order.index(row.code)
    session.flush()
    session.expire_all()


def _moved_to(statement: int, row: Any) -> Any:
    """A line or column made for a statement that is kept already."""
    row.statement = statement
    return row
