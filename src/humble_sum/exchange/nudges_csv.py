"""The nudges of a pack as a table (RFC 4180): what moved, from what to what, why, by whom and when."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from humble_sum.core.amounts import amount_text
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange.table_csv import table_csv


class NudgeRow(NamedTuple):
    """What a record says of one nudge: the exact amount as a plain decimal, the others as printed."""

    statement: str
    line: str
    column: str
    exact: str
    rounded: str
    printed: str
    reason: str
    plan: str
    author: str
    made: str


def nudge_rows(pack_proof: PackProof) -> Iterator[NudgeRow]:
    """Every nudge in force, in page order."""
    nudged = {(nudge.statement, nudge.line, nudge.column) for nudge in pack_proof.pack.nudges}
    for id, proof in pack_proof.proofs.items():
        for cell in proof.grid.cells:
            figure = proof.figures[cell] if (id, *cell) in nudged else None
            if figure is None or figure.nudge is None or figure.exact is None:
                continue
            nudge = figure.nudge
            own = print_amount(figure.exact, figure.clauses, money=figure.money, usual_sign=figure.usual_sign)
            yield NudgeRow(
                statement=proof.statement.name,
                line=proof.grid.labels[cell[0]],
                column=proof.grid.heads[cell[1]],
                exact=amount_text(figure.exact),
                rounded=own.full_text,
                printed=figure.printed.full_text,
                reason=nudge.reason,
                plan=nudge.plan,
                author=nudge.author,
                made=nudge.made,
            )


def write_nudges(pack_proof: PackProof) -> bytes:
    """The nudges as a table, a column for each of what is said."""
    head = NudgeRow._fields
    return table_csv(head, nudge_rows(pack_proof), plain=(head.index("exact"),))
