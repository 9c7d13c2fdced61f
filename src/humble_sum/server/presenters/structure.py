"""A line's place in its statement, as a sentence whose words open."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import islice
from typing import Any

from humble_sum.core.changes.derivation import Terms, derivable, terms_said
from humble_sum.core.changes.structure import could_join, totals_of
from humble_sum.core.intake.kinds import KINDS
from humble_sum.core.statements.grid import Grid
from humble_sum.core.statements.pack import (
    ANSWERS,
    READINESS,
    Column,
    Line,
    Natural,
    Statement,
)
from humble_sum.server.schemas import ChoiceView, MembersView, PartView, StructureView, WordView

NATURAL: dict[Natural, str] = {"either": "of either sign", "positive": "positive", "negative": "negative"}
SIGNS = {1: "added to", -1: "taken away from"}
NO_TOTAL = "no total"
MOST_WAYS = 12  # of deriving a column that are offered
PUBLISHED = {False: "not published yet", True: "published already"}


def structure_view(statement: Statement, line: Line, column: Column) -> StructureView:
    """What a line is, what counts it and with which sign, and what it adds."""
    ids = [each.id for each in statement.lines]
    at = ids.index(line.id)
    return StructureView(
        sentence=_sentence(statement, line, column),
        parts=[
            PartView(line=part, label=_label(statement, part), sign=1 if sign > 0 else -1)
            for part, sign in line.parts
        ],
        can_dissolve=line.adds and bool(totals_of(statement, line.id)),
        before=ids[at - 1] if at else None,
        after_next=ids[at + 2] if at + 2 < len(ids) else None,
        last=at + 1 == len(ids),
        members=[
            MembersView(
                id=members.id,
                label=members.label,
                axis=members.axis,
                members=list(members.members),
                absent=[label for label in members.members if label in _absent(statement)],
            )
            for members in statement.members
        ],
    )


def _sentence(statement: Statement, line: Line, column: Column) -> list[str | WordView]:
    owners = totals_of(statement, line.id)
    found: list[str | WordView] = [line.label, "is", _kind(line)]
    if joinable := could_join(statement, line.id):
        owner, sign = owners[0] if owners else (None, 1)
        if owner is not None:
            signs = [ChoiceView(value=value, label=label, example="") for value, label in SIGNS.items()]
            found += [",", _word("sign", SIGNS[sign], sign, signs)]
        else:
            found.append(", a part of")
        totals = [ChoiceView(value=None, label=NO_TOTAL, example="")]
        totals += [ChoiceView(value=total.id, label=total.label, example="") for total in joinable]
        label = owner.label if owner else NO_TOTAL
        found.append(_word("total", label, owner.id if owner else None, totals))
        others = [f"{SIGNS[s]} {total.label}" for total, s in owners[1:]]
        if others:
            found.append(f"and {' and '.join(others)}")
    naturals = [ChoiceView(value=value, label=label, example="") for value, label in NATURAL.items()]
    found += ["; usually", _word("natural", NATURAL[line.natural], line.natural, naturals), "."]
    found += ["In footing", _said("readiness", line.readiness, READINESS)]
    if line.adds:
        answers: dict[Any, str] = dict(ANSWERS)
        alone = column.id in line.answers
        if not alone and not any(part.rounding for part in statement.lines if part.id in dict(line.parts)):
            answers["rounding"] = "a rounding line takes them"
        found += ["; of its gaps"]
        if len(statement.columns) > 1:
            found += [_said("answered_in", alone, {False: "in every column", True: f"in {column.label}"})]
        found += [",", _said("answer", line.answer_in(column.id), answers)]
    found.append("." if not line.rounding else "; it prints what is missed by rounding.")
    if line.absent:
        found.append("It is absent: the figures taken in have no such line.")
    return found


def column_sentence(grid: Grid, column: Column, line: Line) -> list[str | WordView]:
    """What a column is made of, and what footing makes of it."""
    found: list[str | WordView] = [f"Column {column.label} is"]
    ways = [] if column.share else list(dict.fromkeys([*islice(derivable(grid, column.id), MOST_WAYS), ()]))
    if column.terms or len(ways) > 1:
        if column.terms not in ways:
            ways.insert(0, column.terms)
        choices = [ChoiceView(value=way, label=_made_of(grid, way), example="") for way in ways]
        found += [_word("terms", _made_of(grid, column.terms), column.terms, choices), "and"]
    found.append(_said("published", column.published, PUBLISHED))
    if column.terms:
        alone = line.id in column.answers
        found += [
            "; of its gaps",
            _said("answered_in", alone, {False: "on every line", True: f"on {line.label}"}),
        ]
        found += [",", _said("answer", column.answer_on(line.id), ANSWERS)]
    return [*found, "."]


def _made_of(grid: Grid, terms: Terms) -> str:
    return terms_said(grid.statement, terms) if terms else "given"


def _said(clause: str, value: Any, labels: Mapping[Any, str]) -> WordView:
    choices = [ChoiceView(value=each, label=said, example="") for each, said in labels.items()]
    return _word(clause, labels[value], value, choices)


def _kind(line: Line) -> WordView:
    able = [kind for kind in KINDS if line.adds == (kind in ("subtotal", "total")) and kind != "heading"]
    choices = [ChoiceView(value=kind, label=KINDS[kind], example="") for kind in able]
    return _word("line_kind", KINDS[line.kind], line.kind, choices)


def _word(clause: str, label: str, value: Any, choices: list[ChoiceView]) -> WordView:
    return WordView(
        clause=clause,
        label=label,
        value=value,
        level="default",
        rule=None,
        rule_name="",
        choices=choices,
        free=None,
    )


def _label(statement: Statement, id: str) -> str:
    line = statement.line(id)
    return line.label if line else id


def _absent(statement: Statement) -> set[str]:
    lines = {line.label for line in statement.lines if line.absent}
    return lines | {column.label for column in statement.columns if column.absent}
