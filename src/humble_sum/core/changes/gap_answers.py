"""Answers for every gap of a pack at once: left with the note, or taken by rounding lines."""

from __future__ import annotations

from collections.abc import Iterable

from humble_sum.core.changes.structure import Answering, add_rounding, takes_rounding
from humble_sum.core.proof.checks import Check
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Answer, Pack, Statement


def leave_gaps(pack_proof: PackProof) -> Pack:
    """The pack with every sum that has a gap left with the note. Ties cannot be left so."""
    return _with(pack_proof.pack, (_left(proof, gaps_of(proof)) for proof in pack_proof.proofs.values()))


def rounding_lines(pack_proof: PackProof, label: str) -> Pack:
    """The pack with a rounding line under each total that has a gap in some column and has none yet."""
    made = []
    for proof in pack_proof.proofs.values():
        statement = proof.statement
        for total in rounded_totals(proof):
            statement = add_rounding(statement, total, label)
        made.append(statement)
    return _with(pack_proof.pack, made)


def gaps_of(proof: Proof) -> list[Check]:
    return [check for check in proof.checks if check.status == "gap"]


def rounded_totals(proof: Proof) -> list[str]:
    """The totals that a rounding line would go to, in page order."""
    with_gap = {check.relation.total[0] for check in gaps_of(proof) if check.relation.way == "down"}
    lines = proof.statement.lines
    return [line.id for line in lines if line.id in with_gap and takes_rounding(proof.statement, line)]


def _left(proof: Proof, gaps: Iterable[Check]) -> Statement:
    note: Answer = "note"
    down: dict[str, dict[str, Answer]] = {}
    across: dict[str, dict[str, Answer]] = {}
    for check in gaps:
        line, column = check.relation.total
        if check.relation.way == "down":
            down.setdefault(line, {})[column] = note
        else:
            across.setdefault(column, {})[line] = note
    statement = proof.statement
    lines = [_answered(line, down.get(line.id)) for line in statement.lines]
    columns = [_answered(column, across.get(column.id)) for column in statement.columns]
    return statement.model_copy(update={"lines": tuple(lines), "columns": tuple(columns)})


def _answered(each: Answering, answers: dict[str, Answer] | None) -> Answering:
    return each.model_copy(update={"answers": {**each.answers, **answers}}) if answers else each


def _with(pack: Pack, statements: Iterable[Statement]) -> Pack:
    return pack.model_copy(update={"statements": tuple(statements)})
