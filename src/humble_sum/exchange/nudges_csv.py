"""The nudges of a pack as a table (RFC 4180): what moved, from what to what, why, by whom and when."""

from __future__ import annotations

from humble_sum.core.amounts import amount_text
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange.table_csv import table_csv

HEAD = ("statement", "line", "column", "exact", "rounded", "printed", "reason", "plan", "author", "made")


def write_nudges(whole: PackProof) -> bytes:
    """Every nudge in force, in page order. Exact amounts are plain decimals, the others as printed."""
    rows = []
    nudged = {(nudge.statement, nudge.line, nudge.column) for nudge in whole.pack.nudges}
    for id, proof in whole.proofs.items():
        for cell in proof.grid.cells:
            figure = proof.figures[cell] if (id, *cell) in nudged else None
            if figure is None or figure.nudge is None or figure.exact is None:
                continue
            nudge = figure.nudge
            own = print_amount(figure.exact, figure.clauses, money=figure.money, usual_sign=figure.usual_sign)
            said = (proof.statement.name, proof.grid.labels[cell[0]], proof.grid.heads[cell[1]])
            why = (own.whole, figure.printed.whole, nudge.reason, nudge.plan, nudge.author, nudge.made)
            rows.append([*said, amount_text(figure.exact), *why])
    return table_csv(HEAD, rows, plain=(HEAD.index("exact"),))
