"""CSV (RFC 4180) of the printed text."""

from __future__ import annotations

import csv
import io

from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.layout import caption, rows
from humble_sum.exchange.travelling import neutral


def write_csv(pack: Pack, proof: Proof) -> bytes:
    """The statement as printed. UTF-8 with a mark, so that spreadsheets read its signs."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    statement = proof.statement
    table = [
        [pack.entity],
        [statement.title],
        [pack.period],
        [caption(proof)],
        ["", *proof.heads],
    ]
    for row in rows(proof):
        texts = [figure.printed.whole for figure in row.figures]
        table.append([row.line.label, *(texts or [""] * len(statement.columns))])
    for record in table:
        writer.writerow([neutral(text) for text in record])
    return out.getvalue().encode("utf-8-sig")
