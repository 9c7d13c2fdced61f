"""Statements in and out of the tables: columns, lines, parts and amounts, written by what differs."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from decimal import Decimal
from typing import Any

from sqlalchemy import Select, bindparam, delete, insert, select, update
from sqlalchemy.orm import Session

from humble_sum.core.statements.pack import Column, Line, Members, Statement
from humble_sum.core.statements.policy import Policy
from humble_sum.records.tables import AmountRow, ColumnRow, LineRow, PartRow, StatementRow

AT_ONCE = 500  # rows deleted by one statement

FOOTING_OF_LINES = {
    *("readiness", "answer", "answers", "rounding", "translation"),
    *("concept", "concept_negated", "period_type"),
}
LINE = tuple(LineRow.__table__.columns)  # its values, without an object that watches them
FOOTING_OF_COLUMNS = {"apart", "published", "answer", "answers"}


def add_statement(session: Session, pack_id: str, place: int, statement: Statement) -> None:
    """Keep a statement at its place among those of a pack."""
    row = StatementRow(pack=pack_id, position=place, code=statement.id, **_words(statement))
    session.add(row)
    session.flush()
    _add_columns(session, row.id, statement)
    _add_lines(session, row.id, list(enumerate(statement.lines)))


def _words(statement: Statement) -> dict[str, Any]:
    return {
        "name": statement.name,
        "title": statement.title,
        "members": [members.model_dump(mode="json") for members in statement.members],
        "policy": statement.policy.model_dump(mode="json") if statement.policy else None,
    }


def _add_columns(session: Session, statement: int, of: Statement) -> None:
    session.add_all(
        ColumnRow(statement=statement, position=n, code=c.id, label=c.label, date=c.date, **_terms(c))
        for n, c in enumerate(of.columns)
    )


def _add_lines(session: Session, statement: int, placed: Sequence[tuple[int, Line]]) -> None:
    """Keep lines, each at its place, with their parts and amounts. A large statement has many thousand
    amounts, so they are written as they are, with no object for each."""
    if not placed:
        return
    rows = [
        {
            "statement": statement,
            "position": place,
            "code": line.id,
            "label": line.label,
            "kind": line.kind,
            "natural": line.usual_sign,
            "currency": line.currency,
            "indent": line.indent,
            "absent": line.absent,
            "footing": line.model_dump(mode="json", include=FOOTING_OF_LINES, exclude_defaults=True),
        }
        for place, line in placed
    ]
    found = session.execute(insert(LineRow).returning(LineRow.code, LineRow.id), rows)
    of = {row.code: row.id for row in found}
    parts = [
        {"line": of[line.id], "position": place, "code": id, "sign": sign}
        for _, line in placed
        for place, (id, sign) in enumerate(line.parts)
    ]
    amounts = [
        {"line": of[line.id], "column": column, "amount": amount}
        for _, line in placed
        for column, amount in line.amounts.items()
    ]
    for table, several in ((PartRow, parts), (AmountRow, amounts)):
        if several:
            session.connection().execute(insert(table), several)


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


def statements_of(session: Session, pack_id: str) -> Iterator[Statement]:
    """The statements of a pack, in their order."""
    for row in session.scalars(_rows_of(pack_id).order_by(StatementRow.position)).all():
        columns = session.scalars(
            select(ColumnRow).where(ColumnRow.statement == row.id).order_by(ColumnRow.position)
        )
        yield Statement(
            id=row.code,
            name=row.name,
            title=row.title,
            members=tuple(Members.model_validate(members) for members in row.members),
            policy=None if row.policy is None else Policy.model_validate(row.policy),
            columns=tuple(map(_column, columns)),
            lines=tuple(_lines(session, row.id)),
        )


def _rows_of(pack_id: str) -> Select[StatementRow]:
    return select(StatementRow).where(StatementRow.pack == pack_id)


def _column(row: ColumnRow) -> Column:
    return Column(
        id=row.code,
        label=row.label,
        date=row.date,
        difference=(row.first, row.second) if row.first and row.second else None,
        sum=tuple(row.adds) if row.adds else None,
        share=(row.share[0], row.share[1]) if row.share else None,
        absent=row.absent,
        **row.footing,
    )


def _lines(session: Session, statement: int) -> Iterator[Line]:
    """The lines of a statement, in their order; parts and amounts as values, with no object for each."""
    parts: dict[int, list[tuple[str, int]]] = {}
    amounts: dict[int, dict[str, Decimal | None]] = {}
    of = LineRow.statement == statement
    with_parts = select(PartRow.line, PartRow.code, PartRow.sign).join(LineRow, LineRow.id == PartRow.line)
    for line, code, sign in session.execute(with_parts.where(of).order_by(PartRow.position)):
        parts.setdefault(line, []).append((code, sign))
    with_amounts = select(AmountRow.line, AmountRow.column, AmountRow.amount).join(
        LineRow, LineRow.id == AmountRow.line
    )
    for line, column, amount in session.execute(with_amounts.where(of).order_by(AmountRow.id)):
        amounts.setdefault(line, {})[column] = amount
    for row in session.execute(select(*LINE).where(of).order_by(LineRow.position)):
        yield Line.model_validate(
            {
                "id": row.code,
                "label": row.label,
                "kind": row.kind,
                "natural": row.natural,
                "currency": row.currency,
                "indent": row.indent,
                "absent": row.absent,
                **row.footing,
                "parts": parts.get(row.id, []),
                "amounts": amounts.get(row.id, {}),
            }
        )


def change_statement(session: Session, pack_id: str, was: dict[str, Any], new: dict[str, Any]) -> None:
    """Write what a statement has otherwise than before: its own words, its columns, and single lines."""
    row = session.scalar(_rows_of(pack_id).where(StatementRow.code == new["id"]))
    assert row is not None
    # Lines that stay as they are need not be looked at again.
    old = {line["id"]: (place, line) for place, line in enumerate(was["lines"])}
    same = {line["id"] for line in new["lines"] if line["id"] in old and old[line["id"]][1] == line}
    made = Statement.model_validate(new | {"lines": new["lines"][:1]})
    for name, said in _words(made).items():
        if getattr(row, name) != said:
            setattr(row, name, said)
    if was["columns"] != new["columns"]:
        session.execute(delete(ColumnRow).where(ColumnRow.statement == row.id))
        _add_columns(session, row.id, made)
    again = [id for id in old if id not in same]
    for start in range(0, len(again), AT_ONCE):
        codes = again[start : start + AT_ONCE]
        session.execute(delete(LineRow).where(LineRow.statement == row.id, LineRow.code.in_(codes)))
    placed = list(enumerate(new["lines"]))
    written = [(place, Line.model_validate(line)) for place, line in placed if line["id"] not in same]
    _add_lines(session, row.id, written)
    moved = [
        {"of": row.id, "named": line["id"], "to": place}
        for place, line in placed
        if line["id"] in same and old[line["id"]][0] != place
    ]
    if moved:
        mine = (LineRow.statement == bindparam("of")) & (LineRow.code == bindparam("named"))
        place_of = update(LineRow).where(mine).values(position=bindparam("to"))
        session.connection().execute(place_of, moved)
    session.flush()


def reorder(session: Session, pack_id: str, order: list[str]) -> None:
    """Put the statements in this order, without those that it does not name."""
    for row in session.scalars(_rows_of(pack_id)).all():
        if row.code not in order:
            session.execute(delete(StatementRow).where(StatementRow.id == row.id))
        elif row.position != order.index(row.code):
            row.position = order.index(row.code)
    session.flush()
    session.expire_all()
