"""HTML: one page that stands alone and looks like the proof."""

from __future__ import annotations

from html import escape

from humble_sum.core.amounts import amount_text
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Figure, Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.layout import Row, caption, rows
from humble_sum.exchange.travelling import isolated

TABLE_STYLE = """
table { width: 100%; border-collapse: collapse; font-variant-numeric: tabular-nums; }
th { font-weight: 400; text-align: start; padding: .1rem 0; }
thead th { text-align: end; color: #55676b; font-size: .875rem; padding: .75rem .7em .5rem 1.5rem; }
td { text-align: end; padding: .1rem 0 .1rem 1.5rem; white-space: nowrap; }
td data { display: inline-block; padding: 0 .7em 0 .4em; min-width: 4.2em; }
td.hangs data { padding-right: 0; min-width: 4.9em; }
.hang { display: inline-block; min-width: .7em; text-align: start; }
.heading th { font-weight: 600; padding-top: .6rem; }
.total th, .total td { font-weight: 600; }
td.rust { color: #a83c14; }
.subtotal data, .total data { border-top: 1px solid; }
.last data { border-bottom: 3px double; }
"""
STYLE = """
:root { color: #14262b; background: #e4e9e6; }
body { margin: 0; font: 16px/1.5 'IBM Plex Serif', 'Noto Serif', Georgia, serif; }
main { background: #fefefc; max-width: 46rem; margin: 2rem auto; padding: 2.5rem 3.5rem 3rem;
  border: 1px solid #b9c5c1; box-sizing: border-box; }
h1 { font-size: 1.3rem; margin: 0; }
p { margin: 0; color: #55676b; font-size: .875rem; }
.under { display: flex; justify-content: space-between; gap: 2rem; border-bottom: 1px solid;
  padding-bottom: .5rem; }
@media print { :root { background: none; } main { border: 0; margin: 0; padding: 0; max-width: none; } }
"""


def write_html(pack: Pack, proof: Proof) -> bytes:
    """The statement as its readers see it. Each figure's exact amount is in its data element."""
    statement = proof.statement
    page = f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>{escape(statement.title)}, {escape(pack.entity)}</title>
<style>{STYLE}{TABLE_STYLE}</style>
</head>
<body>
<main>
<p>{isolated(pack.entity)}</p>
<h1>{isolated(statement.title)}</h1>
<div class="under"><p>{isolated(pack.period)}</p><p>{isolated(caption(proof))}</p></div>
{statement_table(proof)}
</main>
</body>
</html>
"""
    return page.encode()


def write_edition(whole: PackProof) -> bytes:
    """All statements of an edition on one page, each as its readers see it."""
    pack = whole.pack
    parts = "\n".join(
        f"""<main>
<p>{isolated(pack.entity)}</p>
<h1>{isolated(proof.statement.title)}</h1>
<div class="under"><p>{isolated(pack.period)}</p><p>{isolated(caption(proof))}</p></div>
{statement_table(proof)}
</main>"""
        for proof in whole.proofs.values()
    )
    page = f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>{escape(pack.entity)}, {escape(pack.period)}</title>
<style>{STYLE}{TABLE_STYLE}</style>
</head>
<body>
{parts}
</body>
</html>
"""
    return page.encode()


def statement_table(proof: Proof) -> str:
    """The statement's lines and columns as a table."""
    heads = "".join(f'<th scope="col">{isolated(head)}</th>' for head in proof.heads)
    body = "\n".join(_row(row, len(proof.statement.columns)) for row in rows(proof))
    return f"""<table>
<thead><tr><td></td>{heads}</tr></thead>
<tbody>
{body}
</tbody>
</table>"""


def _row(row: Row, columns: int) -> str:
    classes = row.line.kind + (" last" if row.last else "")
    label = isolated(row.line.label)
    if not row.figures:
        return f'<tr class="{classes}"><th scope="rowgroup" colspan="{columns + 1}">{label}</th></tr>'
    cells = "".join(_cell(figure) for figure in row.figures)
    stands_in = f' style="padding-inline-start:{1.25 * row.line.steps:g}rem"' if row.line.steps else ""
    return f'<tr class="{classes}"><th scope="row"{stands_in}>{label}</th>{cells}</tr>'


def _cell(figure: Figure) -> str:
    printed = figure.printed
    text = escape(printed.whole)
    exact = "" if figure.exact is None else amount_text(figure.exact)
    tone = " rust" if printed.tone == "rust" else ""
    if not printed.hang or printed.after:
        return f'<td class="figure{tone}"><data value="{exact}"><bdi>{text}</bdi></data></td>'
    lead = escape(printed.whole[: -len(printed.hang)])
    hang = f'<span class="hang">{escape(printed.hang)}</span>'
    return f'<td class="figure hangs{tone}"><data value="{exact}"><bdi>{lead}{hang}</bdi></data></td>'
