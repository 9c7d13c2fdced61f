"""A page for auditors: every nudge and hold of an edition, on one table."""

from __future__ import annotations

import csv
import io
from html import escape

from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange.html import STYLE
from humble_sum.exchange.nudges_csv import write_nudges
from humble_sum.exchange.travelling import isolated

HEADS = ("Statement", "Line", "Column", "Exact", "Own rounding", "Printed", "Reason", "By", "When")
TABLE = """
table { border-collapse: collapse; margin-top: 1rem; font-size: .8125rem; }
th, td { text-align: start; vertical-align: top; padding: .25rem .75rem .25rem 0; }
td { border-top: 1px solid #b9c5c1; }
.nudges td:nth-child(n+4):nth-child(-n+6) { text-align: end; font-variant-numeric: tabular-nums; width: 1%; }
.nudges td:nth-child(n+8) { white-space: nowrap; }
caption { text-align: start; font-weight: 600; }
main { max-width: none; }
"""


def write_record_page(whole: PackProof) -> bytes:
    """Figure by figure: exact, its own rounding, what is printed, why, by which plan, who and when."""
    pack = whole.pack
    listed = list(csv.reader(io.StringIO(write_nudges(whole).decode("utf-8-sig"), newline="")))[1:]
    plans = "".join(f"<p>{isolated(plan)}</p>" for plan in dict.fromkeys(row[7] for row in listed) if plan)
    nudges = [[*row[:7], row[8], row[9][:10]] for row in listed]
    held = [
        (proof.statement.name, proof.grid.labels[line], proof.grid.heads[column], figure)
        for proof in whole.proofs.values()
        for (line, column), figure in proof.figures.items()
        if figure.held is not None
    ]
    holds = [
        (*said, figure.printed.whole, figure.held.reason or "no reason given", figure.held.author)
        for *said, figure in held
        if figure.held is not None
    ]
    edition = pack.edition_name(pack.shown)
    page = f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Record of nudges and holds, {escape(pack.entity)}</title>
<style>{STYLE}{TABLE}</style>
</head>
<body>
<main>
<p>{isolated(pack.entity)}</p>
<h1>Record of nudges and holds</h1>
<div class="under"><p>{isolated(pack.period)}</p><p>{isolated(edition)}</p></div>
<p>{len(nudges)} figures print another number than their own rounding, so that every printed total is the sum
of its printed parts. Amounts are not changed.</p>
{plans}
{_table("Nudges", HEADS, nudges)}
{_table("Holds", ("Statement", "Line", "Column", "Printed", "Reason", "By"), holds)}
</main>
</body>
</html>
"""
    return page.encode()


def _table(caption: str, heads: tuple[str, ...], rows: list[list[str]] | list[tuple[str, ...]]) -> str:
    if not rows:
        return f"<p>{caption}: none.</p>"
    head = "".join(f'<th scope="col">{each}</th>' for each in heads)
    body = "\n".join(
        "<tr>" + "".join(f"<td>{isolated(str(cell))}</td>" for cell in row) + "</tr>" for row in rows
    )
    inside = f"<thead><tr>{head}</tr></thead>\n<tbody>\n{body}\n</tbody>"
    return f'<table class="{caption.lower()}">\n<caption>{caption}</caption>\n{inside}\n</table>'
