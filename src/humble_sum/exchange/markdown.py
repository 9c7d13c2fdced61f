"""Markdown: the statement as a table."""

from __future__ import annotations

from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.layout import caption, rows
from humble_sum.exchange.safe_text import escaped


def write_markdown(pack: Pack, proof: Proof) -> bytes:
    """Title, caption and table; totals in bold."""
    statement = proof.statement
    said = ", ".join(filter(None, (pack.period, caption(proof))))
    out = [f"## {escaped(statement.title)}", "", f"{escaped(pack.entity)}, {escaped(said)}", ""]
    out.append("| | " + " | ".join(escaped(head) for head in proof.heads) + " |")
    out.append("|---|" + "---:|" * len(statement.columns))
    for row in rows(proof):
        texts = [figure.printed.full_text for figure in row.figures] or [""] * len(statement.columns)
        cells = [escaped(text) for text in (row.line.label, *texts)]
        if row.line.kind in ("heading", "total"):
            cells = [f"**{cell}**" if cell else "" for cell in cells]
        out.append("| " + " | ".join(cells) + " |")
    return ("\n".join(out) + "\n").encode()
