"""A page for auditors: every nudge and hold of an edition. What is the same for many nudges (their statement,
plan, author and day) is said once, over their table."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from html import escape

from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange.html import STYLE, page_foot, paper_foot
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.nudges_csv import NudgeRow, nudge_rows
from humble_sum.exchange.review_rows import POINTS, SIGNATURES, point_rows, signature_rows
from humble_sum.exchange.safe_text import isolated

NUDGES = ("Line", "Column", "Exact", "Own rounding", "Printed", "Why")
IN_COLUMNS = re.compile(r"^Exact .+? rounds to .+?\. (?=[A-Z])")
HOLDS = ("Statement", "Line", "Column", "Printed", "Reason", "By")
TABLE = """
table { border-collapse: collapse; margin-top: .5rem; font-size: .8125rem; width: 100%; }
th, td { text-align: start; vertical-align: top; padding-block: .25rem; padding-inline: 0 1rem; }
tbody th, td { border-top: 1px solid #b9c5c1; font-weight: 400; }
caption { font-size: 1rem; text-align: start; padding: 0; }
.nudges :is(td, th):last-child { width: 45%; }
.nudges :is(td, th):nth-child(3) { white-space: normal; overflow-wrap: anywhere; min-width: 8.5em; }
main > p { margin-top: .5rem; }
.nudges :is(td, th):nth-child(n+3):nth-child(-n+5) { text-align: end; font-variant-numeric: tabular-nums; }
.nudges td:nth-child(n+2):nth-child(-n+5):not(:nth-child(3)) { white-space: nowrap; width: 1%; }
.nudges th:first-child { min-width: 9em; }
h2 { font-size: 1rem; margin: 1.5rem 0 0; }
main { max-width: none; }
"""


def write_record_page(pack_proof: PackProof, imprint: Imprint | None = None) -> bytes:
    """Figure by figure: exact, its own rounding, what is printed, why, by which plan, who and when."""
    pack = pack_proof.pack
    rows = list(nudge_rows(pack_proof))
    edition = pack.edition_name(pack.shown)
    foot = f"\n{page_foot(imprint)}" if imprint else ""
    page = f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Record of nudges and holds, {escape(pack.entity)}</title>
<style>{STYLE}{TABLE}{paper_foot(imprint) if imprint else ""}</style>
</head>
<body>
<main>
<p class="whose">{isolated(pack.entity)}</p>
<h1>Record of nudges and holds</h1>
<div class="under"><p>{isolated(pack.period)}</p><p>{isolated(edition)}</p></div>
<p>{_counted(rows)}</p>
{_nudges(rows)}
{_table("holds", HOLDS, held_rows(pack_proof), "<h2>Holds</h2>")}{_review(pack_proof)}
</main>{foot}
</body>
</html>
"""
    return page.encode()


def _review(pack_proof: PackProof) -> str:
    """The points and signatures of the pack, where it has any."""
    points, signatures = point_rows(pack_proof.pack), signature_rows(pack_proof.pack)
    said = [_table("points", POINTS, points, "<h2>Points</h2>")] if points else []
    said += [_table("signatures", SIGNATURES, signatures, "<h2>Signatures</h2>")] if signatures else []
    return "".join(f"\n{each}" for each in said)


def held_rows(pack_proof: PackProof) -> list[tuple[str, ...]]:
    """Every hold in force, in page order, as its table says it."""
    return [
        (
            proof.statement.name,
            proof.grid.labels[line],
            proof.grid.heads[column],
            figure.printed.full_text,
            figure.held.reason or "no reason given",
            figure.held.author,
        )
        for proof in pack_proof.proofs.values()
        for (line, column), figure in proof.figures.items()
        if figure.held is not None
    ]


def nudged_cells(row: NudgeRow) -> tuple[str, ...]:
    """A nudge as its table says it. What stands in the columns beside it is not said again in the reason."""
    return (row.line, row.column, row.exact, row.rounded, row.printed, IN_COLUMNS.sub("", row.reason))


def _counted(rows: Sequence[NudgeRow]) -> str:
    count = "1 figure prints" if len(rows) == 1 else f"{len(rows)} figures print"
    return f"""{count} another number than the own rounding of the amount, so that every printed total is
the sum of its printed parts. Amounts are not changed."""


def _nudges(rows: Iterable[NudgeRow]) -> str:
    """The nudges of each statement, those together that were made by one plan, by one author on one day."""
    together: dict[tuple[str, str, str, str], list[NudgeRow]] = {}
    for row in rows:
        together.setdefault((row.statement, row.plan, row.author, row.made[:10]), []).append(row)
    said = [_table("nudges", NUDGES, map(nudged_cells, made), _made(*key)) for key, made in together.items()]
    return "\n".join(said) or "<h2>Nudges</h2>\n<p>None.</p>"


def _made(statement: str, plan: str, author: str, day: str) -> str:
    """What is said over a table of nudges."""
    whom = f"by {author}" if author else ""
    when = f"on {day}" if day else ""
    how = " ".join(each for each in ("Nudged", whom, when) if each)
    by_plan = f", as the plan says: {plan}" if plan else "."
    return f"<h2>Nudges, {isolated(statement)}</h2>\n<p>{isolated(how + by_plan)}</p>"


def _table(kind: str, heads: Sequence[str], rows: Iterable[Sequence[str]], over: str) -> str:
    """A table with what stands over it as its caption; where it is empty, that there is none."""
    listed = [
        f'<tr><th scope="row">{_text(first)}</th>{"".join(f"<td>{_text(cell)}</td>" for cell in others)}</tr>'
        for first, *others in rows
    ]
    if not listed:
        return f"{over}\n<p>None.</p>"
    head = "".join(f'<th scope="col">{each}</th>' for each in heads)
    body = "\n".join(listed)
    said = f"<caption>{over}</caption>"
    return (
        f'<table class="{kind}">{said}\n<thead><tr>{head}</tr></thead>\n<tbody>\n{body}\n</tbody>\n</table>'
    )


def _text(text: str) -> str:
    """Text of a cell: one without a letter from the right needs no element that says so."""
    return escape(text) if text.isascii() else isolated(text)
