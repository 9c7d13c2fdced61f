"""Packs in and out of the tables."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session, selectinload

from humble_sum.core.amounts import amount_text, read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.core.statements.pack import Column, Hold, Line, Members, Nudge, Pack, Statement, Tie
from humble_sum.core.statements.policy import Policy
from humble_sum.records.tables import (
    AmountRow,
    ColumnRow,
    HoldRow,
    LineRow,
    NudgeRow,
    PackRow,
    PartRow,
    RuleRow,
    StatementRow,
    TieRow,
)


def now() -> str:
    """The time, in UTC, as records keep it (RFC 3339)."""
    return datetime.now(UTC).isoformat(timespec="seconds")


def pack_rows(session: Session) -> Sequence[PackRow]:
    """Every pack's row, oldest first."""
    return session.scalars(select(PackRow).order_by(PackRow.created, PackRow.id)).all()


def pack_row(session: Session, id: str) -> PackRow:
    """One pack's row. Raises InputError when there is none."""
    row = session.get(PackRow, id)
    if row is None:
        raise InputError("no-such-pack", Fault("pack", f'There is no pack "{id}".'))
    return row


def add_pack(session: Session, pack: Pack) -> PackRow:
    """Keep a new pack."""
    row = PackRow(
        id=uuid.uuid4().hex[:12],
        entity=pack.entity,
        period=pack.period,
        currency=pack.currency,
        revision=1,
        created=now(),
    )
    session.add(row)
    session.flush()
    statements = [statement.model_dump(mode="json") for statement in pack.statements]
    write_state(session, row.id, state_of(pack) | {"statements": statements})
    return row


FOOTING_OF_LINES = {"readiness", "answer", "answers", "rounding"}
FOOTING_OF_COLUMNS = {"published", "answer", "answers"}


def _statement_row(pack_id: str, place: int, statement: Statement) -> StatementRow:
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


def load_pack(session: Session, row: PackRow) -> Pack:
    """The pack a row stands for."""
    statements = session.scalars(
        select(StatementRow)
        .where(StatementRow.pack == row.id)
        .order_by(StatementRow.position)
        .options(
            selectinload(StatementRow.columns),
            selectinload(StatementRow.lines).selectinload(LineRow.parts),
            selectinload(StatementRow.lines).selectinload(LineRow.amounts),
        )
    )
    return Pack(
        entity=row.entity,
        period=row.period,
        currency=row.currency,
        statements=tuple(_statement(s) for s in statements),
        **read_state(session, row.id),
    )


def _statement(row: StatementRow) -> Statement:
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


def state_of(pack: Pack) -> dict[str, Any]:
    """The parts of a pack that most changes change, as JSON: all but its statements."""
    rules = []
    for rule in pack.rulebook.rules:
        rules.append(rule.model_dump(mode="json") | {"clauses": rule.clauses.spelled()})
    return {
        "ties": [tie.model_dump(mode="json") for tie in pack.ties],
        "rules": rules,
        "holds": [hold.model_dump(mode="json") for hold in pack.holds],
        "nudges": [nudge.model_dump(mode="json") for nudge in pack.nudges],
        "specimens": [amount_text(amount) for amount in pack.specimens],
        "policy": pack.policy.model_dump(mode="json", exclude_defaults=True),
    }


def with_state(pack: Pack, state: dict[str, Any]) -> Pack:
    """A pack with the given parts of a state, as `write_state` would have kept them."""
    parts: dict[str, Any] = {}
    if "statements" in state:
        new = {each["id"]: Statement.model_validate(each) for each in state["statements"]}
        parts["statements"] = tuple(new.get(each.id, each) for each in pack.statements)
    if "rules" in state:
        parts["rulebook"] = Rulebook(rules=tuple(Rule.model_validate(rule) for rule in state["rules"]))
    for name, model in (("ties", Tie), ("holds", Hold), ("nudges", Nudge)):
        if name in state:
            parts[name] = tuple(model.model_validate(each) for each in state[name])
    if "specimens" in state:
        parts["specimens"] = tuple(read_amount(text) for text in state["specimens"])
    if "policy" in state:
        parts["policy"] = Policy.model_validate(state["policy"])
    return pack.model_copy(update=parts)


def read_state(session: Session, pack_id: str) -> dict[str, Any]:
    """Ties, rulebook, holds, nudges, specimens and policy, as fields of a pack."""

    def rows(table: Any, order: Any) -> Any:
        return session.scalars(select(table).where(table.pack == pack_id).order_by(order))

    return {
        "ties": tuple(
            Tie.model_validate({"id": row.code, "figures": row.figures})
            for row in rows(TieRow, TieRow.position)
        ),
        "rulebook": Rulebook(
            rules=tuple(
                Rule.model_validate(
                    {
                        "id": row.code,
                        "name": row.name,
                        "reach": {name: getattr(row, name) for name in Reach.model_fields},
                        "clauses": row.clauses,
                        "off": row.off,
                    }
                )
                for row in rows(RuleRow, RuleRow.position)
            )
        ),
        "holds": tuple(
            Hold(
                statement=row.statement,
                line=row.line,
                column=row.column,
                printed=row.printed,
                reason=row.reason,
                author=row.author,
                made=row.made,
            )
            for row in rows(HoldRow, HoldRow.id)
        ),
        "nudges": tuple(
            Nudge(
                statement=row.statement,
                line=row.line,
                column=row.column,
                units=int(row.units),
                exponent=row.exponent,
                own_rounding=int(row.natural),
                reason=row.reason,
                plan=row.plan,
                made=row.made,
                author=row.author,
            )
            for row in rows(NudgeRow, NudgeRow.id)
        ),
        "specimens": tuple(read_amount(text) for text in pack_row(session, pack_id).specimens),
        "policy": Policy.model_validate(pack_row(session, pack_id).policy),
    }


def write_state(session: Session, pack_id: str, state: dict[str, Any]) -> None:
    """Put the given parts of a state in place of what was there.

    The parts are ties, rules, holds, nudges, specimens, policy and statements. Of the statements,
    those given take the place of those with their ids, in their order, and every other stays.
    """
    for statement in state.get("statements", []):
        _write_statement(session, pack_id, Statement.model_validate(statement))
    tables: dict[str, Any] = {"ties": TieRow, "rules": RuleRow, "holds": HoldRow, "nudges": NudgeRow}
    for name in state:
        if name in tables:
            session.execute(delete(tables[name]).where(tables[name].pack == pack_id))
    for place, tie in enumerate(state.get("ties", [])):
        session.add(TieRow(pack=pack_id, position=place, code=tie["id"], figures=tie["figures"]))
    for place, rule in enumerate(state.get("rules", [])):
        session.add(
            RuleRow(
                pack=pack_id,
                position=place,
                code=rule["id"],
                name=rule["name"],
                clauses=rule["clauses"],
                off=rule.get("off", False),
                **rule["reach"],
            )
        )
    for entry in state.get("holds", []):
        session.add(HoldRow(pack=pack_id, **Hold.model_validate(entry).model_dump()))
    for entry in state.get("nudges", []):
        texts = {"units": str(entry["units"]), "natural": str(entry["natural"])}
        session.add(NudgeRow(pack=pack_id, **(entry | texts)))
    if "specimens" in state:
        pack_row(session, pack_id).specimens = state["specimens"]
    if "policy" in state:
        pack_row(session, pack_id).policy = state["policy"]
    session.flush()


def _write_statement(session: Session, pack_id: str, statement: Statement) -> None:
    was = session.scalar(
        select(StatementRow).where(StatementRow.pack == pack_id, StatementRow.code == statement.id)
    )
    if was is None:
        place = session.scalar(select(func.count()).where(StatementRow.pack == pack_id)) or 0
    else:
        place = was.position
        session.execute(delete(StatementRow).where(StatementRow.id == was.id))
        session.expunge(was)
    session.add(_statement_row(pack_id, place, statement))
    session.flush()
