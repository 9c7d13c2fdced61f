"""Packs in and out of the tables."""

from __future__ import annotations

import json
import uuid
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any, Literal

from pydantic import BaseModel
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from humble_sum.core.amounts import amount_text, read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.rules.house_style import Followed
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.core.statements.document_answers import DocumentAnswer
from humble_sum.core.statements.edition import Edition
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.pack import Pack, Statement, Tie
from humble_sum.core.statements.placed import Dashboard
from humble_sum.core.statements.policy import Policy
from humble_sum.core.statements.review_marks import Point, Signature
from humble_sum.core.statements.taken import Taken
from humble_sum.core.statements.taxonomy import Taxonomy
from humble_sum.records.statement_rows import AT_ONCE, add_statement, change_statement, reorder, statements_of
from humble_sum.records.tables import (
    DashboardRow,
    DocumentAnswerRow,
    EditionRow,
    HoldRow,
    NudgeRow,
    PackRow,
    PointRow,
    RuleRow,
    SignatureRow,
    StatementRow,
    TieRow,
)

MODELS: dict[str, type[BaseModel]] = {
    "ties": Tie,
    "holds": Hold,
    "nudges": Nudge,
    "editions": Edition,
    "dashboards": Dashboard,
    "points": Point,
    "signatures": Signature,
    "document_answers": DocumentAnswer,
}
# What has an id of its own in its place, and what is known by what it is about.
PLACED: dict[str, Any] = {"editions": EditionRow, "dashboards": DashboardRow, "points": PointRow}
KEYED: dict[str, Any] = {"signatures": SignatureRow, "document_answers": DocumentAnswerRow}
SHARED = ("follows", "taxonomies", "language", "taken")

Standing = Literal["in_use", "put_away", "taken_out"]


def now() -> str:
    """The time, in UTC, as records keep it (RFC 3339)."""
    return datetime.now(UTC).isoformat(timespec="seconds")


def pack_rows(session: Session, standing: Standing | None = None) -> Sequence[PackRow]:
    """Every pack's row, oldest first; or those that are in use, put away, or taken out."""
    every = select(PackRow).order_by(PackRow.created, PackRow.id)
    return session.scalars(every if standing is None else every.where(PackRow.standing == standing)).all()


def pack_row(session: Session, id: str) -> PackRow:
    """One pack's row; an id may name an edition too, behind an @. Raises InputError when there is none."""
    code, _, edition = id.partition("@")
    row = session.get(PackRow, code)
    if row is None:
        raise InputError("no-such-pack", Fault("pack", f'There is no pack "{code}".'))
    if edition:
        row.edition = edition
    return row


def following(session: Session) -> Sequence[tuple[PackRow, Followed]]:
    """The packs in use that follow a house style, with what they follow; oldest first."""
    found = ((row, _shared(row.shared)["follows"]) for row in pack_rows(session, "in_use"))
    return [(row, follows) for row, follows in found if follows is not None]


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


def load_pack(session: Session, row: PackRow) -> Pack:
    """The pack a row stands for."""
    return Pack(
        entity=row.entity,
        period=row.period,
        currency=row.currency,
        statements=tuple(statements_of(session, row.id)),
        **read_state(session, row.id),
    )


def state_of(pack: Pack) -> dict[str, Any]:
    """The parts of a pack that most changes change, as JSON: all but its statements."""
    rules = []
    for rule in pack.rulebook.rules:
        rules.append(rule.model_dump(mode="json") | {"clauses": rule.clauses.spelled()})
    return {
        "whose": {"entity": pack.entity, "period": pack.period, "currency": pack.currency},
        "ties": [tie.model_dump(mode="json") for tie in pack.ties],
        "rules": rules,
        "holds": [hold.model_dump(mode="json") for hold in pack.holds],
        "nudges": [nudge.model_dump(mode="json") for nudge in pack.nudges],
        "specimens": [amount_text(amount) for amount in pack.specimens],
        "policy": pack.policy.model_dump(mode="json", exclude_defaults=True),
        "own_edition": pack.own_edition,
        "shared": {
            name: said
            for name, said in pack.model_dump(mode="json", include=set(SHARED), exclude_defaults=True).items()
            if said
        },
        "editions": [edition.model_dump(mode="json", exclude_defaults=True) for edition in pack.editions],
        "dashboards": [dashboard.model_dump(mode="json") for dashboard in pack.dashboards],
        "document_answers": [
            each.model_dump(mode="json", exclude_defaults=True) for each in pack.document_answers
        ],
        "points": [point.model_dump(mode="json", exclude_defaults=True) for point in pack.points],
        "signatures": [each.model_dump(mode="json", exclude_defaults=True) for each in pack.signatures],
    }


def with_state(pack: Pack, state: dict[str, Any]) -> Pack:
    """A pack with the given parts of a state, as `write_state` would have kept them."""
    parts: dict[str, Any] = {}
    if "statements" in state or "order" in state:
        new = {each["id"]: Statement.model_validate(each) for each in state.get("statements", [])}
        every = {each.id: each for each in pack.statements} | new
        order = state.get("order", [each.id for each in pack.statements])
        parts["statements"] = tuple(every[id] for id in order)
    if "rules" in state:
        parts["rulebook"] = Rulebook(rules=tuple(Rule.model_validate(rule) for rule in state["rules"]))
    if "own_edition" in state:
        parts["own_edition"] = state["own_edition"]
    if "shared" in state:
        parts |= _shared(state["shared"])
    parts |= state.get("whose", {})
    for name, model in MODELS.items():
        if name in state:
            parts[name] = tuple(model.model_validate(each) for each in state[name])
    if "specimens" in state:
        parts["specimens"] = tuple(read_amount(text) for text in state["specimens"])
    if "policy" in state:
        parts["policy"] = Policy.model_validate(state["policy"])
    return pack.model_copy(update=parts)


def read_state(session: Session, pack_id: str) -> dict[str, Any]:
    """Everything but the statements, as fields of a pack."""

    def rows(table: Any, order: Any) -> Any:
        return session.scalars(select(table).where(table.pack == pack_id).order_by(order))

    row = pack_row(session, pack_id)
    ties = ({"id": tie.code, "figures": tie.figures} for tie in rows(TieRow, TieRow.position))
    placed = {
        name: tuple(MODELS[name].model_validate(each.said) for each in rows(table, table.position))
        for name, table in (PLACED | KEYED).items()
    }
    return {
        "ties": tuple(Tie.model_validate(tie) for tie in ties),
        "rulebook": Rulebook(rules=tuple(_rule(rule) for rule in rows(RuleRow, RuleRow.position))),
        "holds": tuple(_hold(hold) for hold in rows(HoldRow, HoldRow.id)),
        "nudges": tuple(_nudge(nudge) for nudge in rows(NudgeRow, NudgeRow.id)),
        "specimens": tuple(read_amount(text) for text in row.specimens),
        "policy": Policy.model_validate(row.policy),
        "own_edition": row.own_edition,
        **_shared(row.shared),
        **placed,
    }


def _rule(row: RuleRow) -> Rule:
    reach = {name: getattr(row, name) for name in Reach.model_fields}
    own = {"id": row.code, "name": row.name, "clauses": row.clauses, "off": row.off}
    return Rule.model_validate(own | {"reach": reach})


def _hold(row: HoldRow) -> Hold:
    return Hold(
        statement=row.statement,
        line=row.line,
        column=row.column,
        printed=row.printed,
        reason=row.reason,
        author=row.author,
        made=row.made,
    )


def _nudge(row: NudgeRow) -> Nudge:
    return Nudge(
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


def write_state(
    session: Session, pack_id: str, state: dict[str, Any], was: dict[str, Any] | None = None
) -> None:
    """Have the tables hold the given parts of a state; only what differs is written.

    The parts are those of `state_of`, and statements: those given take the place of those with their ids, and
    every other stays, but for those that an `order` does not name. `was` has the same parts as they are now,
    of a pack that is kept already.
    """
    before = {each["id"]: each for each in (was or {}).get("statements", [])}
    for statement in state.get("statements", []):
        if statement["id"] in before:
            change_statement(session, pack_id, before[statement["id"]], statement)
        else:
            place = session.scalar(select(func.count()).where(StatementRow.pack == pack_id)) or 0
            add_statement(session, pack_id, place, Statement.model_validate(statement))
    if "order" in state:
        reorder(session, pack_id, state["order"])
    if "whose" in state:
        row = pack_row(session, pack_id)
        for name, said in state["whose"].items():
            setattr(row, name, said)
    if "ties" in state:
        ties = [{"code": tie["id"], "figures": tie["figures"]} for tie in state["ties"]]
        _write_placed(session, TieRow, pack_id, ties)
    if "rules" in state:
        _write_placed(session, RuleRow, pack_id, [_rule_fields(rule) for rule in state["rules"]])
    if "holds" in state:
        holds = [Hold.model_validate(entry).model_dump() for entry in state["holds"]]
        _write_in_turn(session, HoldRow, pack_id, holds)
    if "nudges" in state:
        nudges = [
            entry | {"units": str(entry["units"]), "natural": str(entry["natural"])}
            for entry in state["nudges"]
        ]
        _write_in_turn(session, NudgeRow, pack_id, nudges)
    if "specimens" in state:
        pack_row(session, pack_id).specimens = state["specimens"]
    if "policy" in state:
        pack_row(session, pack_id).policy = state["policy"]
    if "own_edition" in state:
        pack_row(session, pack_id).own_edition = state["own_edition"]
    if "shared" in state:
        pack_row(session, pack_id).shared = state["shared"]
    for name, table in PLACED.items():
        if name in state:
            said = [{"code": each["id"], "said": each} for each in state[name]]
            _write_placed(session, table, pack_id, said)
    for name, table in KEYED.items():
        if name in state:
            said = [{"code": _own_key(name, each), "said": each} for each in state[name]]
            _write_placed(session, table, pack_id, said)
    session.flush()


def _own_key(name: str, said: dict[str, Any]) -> str:
    """What no other of its kind has in a pack, where pack files give none."""
    if name == "signatures":
        return Signature.model_validate(said).own_key
    return json.dumps(list(DocumentAnswer.model_validate(said).key))


def _shared(said: dict[str, Any]) -> dict[str, Any]:
    """What else is said of a pack: the house style it follows, taxonomies that it names, its language, and
    what it takes from other packs."""
    follows = said.get("follows")
    return {
        "follows": None if follows is None else Followed.model_validate(follows),
        "taxonomies": tuple(Taxonomy.model_validate(each) for each in said.get("taxonomies", [])),
        "language": said.get("language"),
        "taken": tuple(Taken.model_validate(each) for each in said.get("taken", [])),
    }


def _rule_fields(rule: dict[str, Any]) -> dict[str, Any]:
    reach: dict[str, Any] = rule["reach"]
    own = {"code": rule["id"], "name": rule["name"], "clauses": rule["clauses"]}
    return own | {"off": rule.get("off", False)} | reach


def _differs(row: Any, fields: dict[str, Any]) -> bool:
    return any(getattr(row, name) != value for name, value in fields.items())


def _write_placed(session: Session, table: Any, pack_id: str, wanted: list[dict[str, Any]]) -> None:
    """Rows known by their code, each with its place: those gone are deleted, those changed are updated."""
    have = {row.code: row for row in session.scalars(select(table).where(table.pack == pack_id))}
    codes = {fields["code"] for fields in wanted}
    for code, row in have.items():
        if code not in codes:
            session.delete(row)
    session.flush()
    for position, fields in enumerate(wanted):
        placed = fields | {"position": position}
        row = have.get(fields["code"])
        if row is None:
            session.add(table(pack=pack_id, **placed))
        elif _differs(row, placed):
            for name, value in placed.items():
                setattr(row, name, value)


def _write_in_turn(session: Session, table: Any, pack_id: str, wanted: list[dict[str, Any]]) -> None:
    """Rows known by their figure, whose order is that in which they came. Those up to the first that is
    new or changed stay, but for those that are gone; the others are written again behind them."""
    have = session.scalars(select(table).where(table.pack == pack_id).order_by(table.id)).all()
    figures = {(each["statement"], each["line"], each["column"]) for each in wanted}
    left = [row for row in have if (row.statement, row.line, row.column) in figures]
    stay = 0
    for row, fields in zip(left, wanted, strict=False):
        if _differs(row, fields):
            break
        stay += 1
    kept = {row.id for row in left[:stay]}
    gone = [row.id for row in have if row.id not in kept]
    for start in range(0, len(gone), AT_ONCE):
        session.execute(delete(table).where(table.id.in_(gone[start : start + AT_ONCE])))
    session.add_all(table(pack=pack_id, **fields) for fields in wanted[stay:])
