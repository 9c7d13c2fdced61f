"""A line's and a column's place in a statement, as sentences whose words carry their change."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import islice
from typing import Any

from humble_sum.core.changes.derivation import Terms, derivable, describe_terms
from humble_sum.core.changes.structure import could_join, takes_rounding, totals_of
from humble_sum.core.changes.structure_commands import (
    AddRounding,
    AnswerRelation,
    DeriveColumn,
    FlipSign,
    MakePart,
    SetColumn,
    SetLine,
)
from humble_sum.core.intake.kinds import KINDS
from humble_sum.core.rules.words import Sentence, Word, plain_word
from humble_sum.core.statements.grid import Grid
from humble_sum.core.statements.pack import (
    ANSWERS,
    READINESS,
    Answer,
    Column,
    Line,
    Statement,
    UsualSign,
)

USUAL_SIGNS: dict[UsualSign, str] = {
    "either": "of either sign",
    "positive": "positive",
    "negative": "negative",
}
SIGNS = {1: "added to", -1: "taken away from"}
NO_TOTAL = "no total"
MOST_WAYS = 12  # of deriving a column that are offered
APART = {False: "added down by totals", True: "added by no total, as percentages are not"}
PUBLISHED = {False: "not published yet", True: "published already"}


def line_sentence(statement: Statement, line: Line, column: Column) -> Sentence:
    """What a line is, what counts it and with which sign, and what footing does with it; sums are
    answered in `column` where they are answered alone."""
    found: Sentence = [line.label, "is", _kind(statement, line)]
    found += _total(statement, line)
    found += ["; usually", _of_line(statement, line, "usual_sign", USUAL_SIGNS), "."]
    found += ["In footing", _of_line(statement, line, "readiness", READINESS)]
    if line.adds:
        alone = column.id in line.answers
        found += ["; of its gaps"]
        if len(statement.columns) > 1:
            where = {False: "in every column", True: f"in {column.label}"}
            found += [_answered_in(statement, "down", line, column, where)]
        found += [",", _line_answer(statement, line, column, alone)]
    found.append("." if not line.rounding else "; it prints what is missed by rounding.")
    if line.absent:
        found.append("It is absent: the figures taken in have no such line.")
    return found


def column_sentence(grid: Grid, column: Column, line: Line) -> Sentence:
    """What a column is made of, and what footing makes of it; its sums are answered on `line` where they
    are answered alone."""
    statement = grid.statement
    found: Sentence = [f"Column {column.label} is"]
    ways = [] if column.share else list(dict.fromkeys([*islice(derivable(grid, column.id), MOST_WAYS), ()]))
    if column.terms or len(ways) > 1:
        if column.terms not in ways:
            ways.insert(0, column.terms)
        found += [_terms(grid, column, ways), "and"]
    if not column.derived:
        found += [_of_column(statement, column, "apart", APART), "and"]
    found.append(_of_column(statement, column, "published", PUBLISHED))
    if column.terms:
        alone = line.id in column.answers
        where = {False: "on every line", True: f"on {line.label}"}
        found += ["; of its gaps", _answered_in(statement, "across", line, column, where), ","]
        if alone:
            found.append(_answer_alone(statement, "across", line, column, column.answer_on(line.id)))
        else:
            found.append(_of_column(statement, column, "answer", ANSWERS))
    return [*found, "."]


def _kind(statement: Statement, line: Line) -> Word:
    able = [kind for kind in KINDS if line.adds == (kind in ("subtotal", "total")) and kind != "heading"]
    changes = {
        kind: SetLine(kind="set_line", statement=statement.id, line=line.id, line_kind=kind) for kind in able
    }
    labels = {kind: KINDS[kind] for kind in able}
    return plain_word("line_kind", line.kind, labels, changes, KINDS[line.kind])


def _total(statement: Statement, line: Line) -> Sentence:
    """Which total counts the line, and how; nothing where none could."""
    joinable = could_join(statement, line.id)
    if not joinable:
        return []
    owners = totals_of(statement, line.id)
    owner, sign = owners[0] if owners else (None, 1)
    found: Sentence = []
    if owner is not None:
        flip = FlipSign(kind="flip_sign", statement=statement.id, line=line.id)
        found += [",", plain_word("sign", sign, SIGNS, {-sign: flip})]
    else:
        found.append(", a part of")
    labels: dict[str | None, str] = {None: NO_TOTAL} | {total.id: total.label for total in joinable}
    joins = {id: MakePart(kind="make_part", statement=statement.id, line=line.id, total=id) for id in labels}
    own, label = (owner.id, owner.label) if owner else (None, NO_TOTAL)
    found.append(plain_word("total", own, labels, joins, label))
    others = [f"{SIGNS[s]} {total.label}" for total, s in owners[1:]]
    if others:
        found.append(f"and {' and '.join(others)}")
    return found


def _of_line(statement: Statement, line: Line, word: str, labels: Mapping[Any, str]) -> Word:
    changes = {
        value: SetLine.model_validate(
            {"kind": "set_line", "statement": statement.id, "line": line.id, word: value}
        )
        for value in labels
    }
    return plain_word(word, getattr(line, word), labels, changes)


def _of_column(statement: Statement, column: Column, word: str, labels: Mapping[Any, str]) -> Word:
    said = {"statement": statement.id, "column": column.id, "label": column.label, "date": column.date}
    changes = {
        value: SetColumn.model_validate({"kind": "set_column", word: value} | said) for value in labels
    }
    return plain_word(word, getattr(column, word), labels, changes)


def _terms(grid: Grid, column: Column, ways: list[Terms]) -> Word:
    labels = {way: describe_terms(grid.statement, way) if way else "given" for way in ways}
    changes = {
        way: DeriveColumn(
            kind="derive_column", statement=grid.statement.id, column=column.id, terms=list(way)
        )
        for way in ways
    }
    return plain_word("terms", column.terms, labels, changes)


def _line_answer(statement: Statement, line: Line, column: Column, alone: bool) -> Word:
    """What is done about a total's gaps: a rounding line too, where it has none."""
    if alone:
        return _answer_alone(statement, "down", line, column, line.answer_in(column.id))
    labels: dict[str, str] = {str(answer): said for answer, said in ANSWERS.items()}
    changes: dict[str, Any] = {
        answer: SetLine(kind="set_line", statement=statement.id, line=line.id, answer=answer)
        for answer in ANSWERS
    }
    if takes_rounding(statement, line):
        labels["rounding"] = "a rounding line takes them"
        changes["rounding"] = AddRounding(kind="add_rounding", statement=statement.id, total=line.id)
    return plain_word("answer", line.answer, labels, changes)


def _answer_alone(statement: Statement, way: Any, line: Line, column: Column, now: Answer) -> Word:
    changes = {answer: _answer(statement, way, line, column, answer) for answer in ANSWERS}
    return plain_word("answer", now, ANSWERS, changes)


def _answered_in(
    statement: Statement, way: Any, line: Line, column: Column, where: Mapping[bool, str]
) -> Word:
    """Whether one sum is answered by itself or like its whole line or column."""
    alone = column.id in line.answers if way == "down" else line.id in column.answers
    now = line.answer_in(column.id) if way == "down" else column.answer_on(line.id)
    changes = {
        False: _answer(statement, way, line, column, None),
        True: _answer(statement, way, line, column, now),
    }
    return plain_word("answered_in", alone, where, changes)


def _answer(
    statement: Statement, way: Any, line: Line, column: Column, answer: Answer | None
) -> AnswerRelation:
    return AnswerRelation(
        kind="answer_relation",
        statement=statement.id,
        way=way,
        line=line.id,
        column=column.id,
        answer=answer,
    )
