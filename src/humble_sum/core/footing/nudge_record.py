"""The nudges of a statement as they are on record: what each figure would print alone, and what it prints."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.amounts import total
from humble_sum.core.footing.plan import added_drift
from humble_sum.core.footing.problem import describe_added_drift
from humble_sum.core.printing.figure import print_amount, scaled_text
from humble_sum.core.proof.statement_proof import Proof


@dataclass(frozen=True)
class NudgeRecord:
    """A nudge, in force or resting: the figure by name and in texts, why it moves, by which plan and whom."""

    line: str
    column: str
    label: str
    exact: str
    natural: str
    printed: str
    reason: str
    plan: str
    made: str
    author: str
    resting: bool


def nudge_records(proof: Proof) -> tuple[list[NudgeRecord], str]:
    """Every nudge of the statement in page order, and the drift that those in force add, as text."""
    found, added = [], []
    for figure in proof.figures.values():
        nudge = figure.nudge or figure.resting
        if nudge is None or figure.exact is None:
            continue
        if figure.nudge:
            added.append(added_drift(figure, nudge.units))
        line, column = figure.cell
        own = print_amount(figure.exact, figure.clauses, money=figure.money, usual_sign=figure.usual_sign)
        found.append(
            NudgeRecord(
                line=line,
                column=column,
                label=f"{proof.grid.labels[line]}, {proof.grid.heads[column]}",
                exact=scaled_text(figure.exact, figure.clauses),
                natural=own.full_text,
                printed=figure.printed.full_text,
                reason=nudge.reason,
                plan=nudge.plan,
                made=nudge.made,
                author=nudge.author,
                resting=figure.nudge is None,
            )
        )
    return found, describe_added_drift(total(added))
