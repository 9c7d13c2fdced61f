"""HTML: one page that stands alone and looks like the proof."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from html import escape

from humble_sum.core.amounts import amount_text
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.language import language_of
from humble_sum.exchange.layout import Row, caption, rows
from humble_sum.exchange.safe_text import isolated

TABLE_STYLE = """
table { width: 100%; border-collapse: collapse; font-variant-numeric: tabular-nums; }
th { font-weight: 400; text-align: start; padding: .1rem 0; }
thead th { text-align: right; color: #55676b; font-size: .875rem; padding-block: .75rem .5rem;
  padding-inline: 1.5rem .7em; vertical-align: bottom; }
td { text-align: right; padding-block: .1rem; padding-inline: 1.5rem 0; white-space: nowrap; }
td data { display: inline-block; padding: 0 .7em 0 .4em; min-width: 4.2em; }
td.hangs data { padding-right: 0; min-width: 4.9em; }
.hang { display: inline-block; min-width: .7em; text-align: start; }
.heading th { font-weight: 600; padding-top: .6rem; }
.total th, .total td { font-weight: 600; }
td.rust { color: #a83c14; }
.subtotal data, .total data { border-top: 1px solid; }
.last data { border-bottom: 3px double; }
caption { text-align: start; padding: 0; }
"""
# In letters: what a sheet of paper that stands or lies has room for, what is between its columns, where a
# label folds, and the least a column takes.
UPRIGHT, LYING, UPRIGHT_GAP, LYING_GAP, LABEL_FOLDS, LEAST = 84, 140, 6, 5, 36, 6
STYLE = """
:root { color: #14262b; background: #e4e9e6; }
body { margin: 0; font: 16px/1.5 'IBM Plex Serif', 'Noto Serif', Georgia, serif; }
main { background: #fefefc; max-width: 46rem; margin: 2rem auto; padding: 2.5rem 3.5rem 3rem;
  border: 1px solid #b9c5c1; box-sizing: border-box; }
h1 { font-size: 1.3rem; margin: 0; }
p { margin: 0; color: #55676b; font-size: .875rem; }
.under { display: flex; justify-content: space-between; gap: 2rem; border-bottom: 1px solid;
  padding-bottom: .5rem; }
.imprint { max-width: 46rem; margin: 0 auto 2rem; color: #55676b; font-size: .75rem;
  overflow-wrap: anywhere; }
@media print { :root { background: none; } main { border: 0; margin: 0; padding: 0; max-width: none; } }
"""


def write_html(pack: Pack, proof: Proof, paper: bool = False) -> bytes:
    """The statement as its readers see it. Each figure's exact amount is in its data element. For paper its
    columns stand on as many pages as they need."""
    return _page(pack, f"{proof.statement.title}, {pack.entity}", list(_sheets(pack, proof, paper)))


def write_edition(pack_proof: PackProof, paper: bool = False, imprint: Imprint | None = None) -> bytes:
    """All statements of an edition on one page, each as its readers see it; at its foot, or on paper at that
    of every sheet, the issue that it is of."""
    pack = pack_proof.pack
    sheets = [sheet for proof in pack_proof.proofs.values() for sheet in _sheets(pack, proof, paper)]
    return _page(pack, f"{pack.entity}, {pack.period}", sheets, paper, imprint)


def _page(
    pack: Pack, title: str, sheets: Sequence[str], paper: bool = False, imprint: Imprint | None = None
) -> bytes:
    body = "\n".join(sheets)
    foot = "" if paper or imprint is None else f"\n{page_foot(imprint)}"
    style = f"{STYLE}{TABLE_STYLE}{paper_foot(imprint) if paper and imprint else ''}"
    page = f"""<!doctype html>
<html {language_of(pack)}>
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>{escape(title)}</title>
<style>{style}</style>
</head>
<body>
{body}{foot}
</body>
</html>
"""
    return page.encode()


def page_foot(imprint: Imprint) -> str:
    """The foot of a web page."""
    return f'<footer class="imprint">{isolated(imprint.text)}</footer>'


def paper_foot(imprint: Imprint) -> str:
    """The style that puts an imprint at the foot of every sheet of paper."""
    said = "".join(c if c.isalnum() and c.isascii() else f"\\{ord(c):x} " for c in imprint.text)
    look = "font: 6.5pt 'Noto Sans', sans-serif; color: #55676b;"
    return f"@page {{ @bottom-left {{ content: '{said}'; {look} }} }}"


def _sheets(pack: Pack, proof: Proof, paper: bool) -> Iterator[str]:
    """One statement with what stands over it; on paper, in as many sheets as its columns need. A sheet that
    lies is marked as wide."""
    columns = range(len(proof.statement.columns))
    groups = sheets_of(_widths(proof)) if paper else [columns]
    lies = paper and (len(groups) > 1 or _across(_widths(proof), UPRIGHT_GAP) > UPRIGHT)
    for group in groups:
        period = pack.period
        if len(groups) > 1:
            period += f", columns {group[0] + 1} to {group[-1] + 1} of {len(columns)}"
        over = f"""<p class="whose">{isolated(pack.entity)}</p>
<h1>{isolated(proof.statement.title)}</h1>
<div class="under"><p>{isolated(period)}</p><p>{isolated(caption(proof))}</p></div>
"""
        yield f"""<main{' class="wide"' if lies else ""}>
{statement_table(proof, group, _on_paper if paper else _cell, over)}
</main>"""


def on_paper(pack_proof: PackProof) -> Iterator[tuple[str, Figure]]:
    """The figures of an edition in the order in which its sheets of paper have them, by statement."""
    for id, proof in pack_proof.proofs.items():
        for group in sheets_of(_widths(proof)):
            for row in rows(proof):
                figures = row.figures
                yield from ((id, figures[n]) for n in group if figures)


def sheets_of(widths: Sequence[int]) -> list[Sequence[int]]:
    """The columns of each sheet of paper, by the letters of the labels and of each column: all on one that
    stands, or as many on each that lies as it has room for, at least one."""
    label, *each = widths
    columns = list(range(len(each)))
    if _across(widths, UPRIGHT_GAP) <= UPRIGHT or not columns:
        return [columns]
    groups: list[list[int]] = [[]]
    for column in columns:
        taken = [label, *(each[n] for n in groups[-1]), each[column]]
        if groups[-1] and _across(taken, LYING_GAP) > LYING:
            groups.append([])
        groups[-1].append(column)
    return [*groups]


def _widths(proof: Proof) -> list[int]:
    """How many letters the widest label has where it does not fold, and the widest text of each column."""
    labels = max((len(line.label) + 3 * line.steps for line in proof.statement.lines), default=0)
    widths = [max(len(head) // 2, LEAST) for head in proof.heads]
    for row in rows(proof):
        for place, figure in enumerate(row.figures):
            widths[place] = max(widths[place], len(figure.printed.full_text))
    return [min(labels, LABEL_FOLDS), *widths]


def _across(widths: Sequence[int], gap: int) -> int:
    return sum(widths) + gap * (len(widths) - 1)


def statement_table(
    proof: Proof,
    columns: Sequence[int] | None = None,
    cell: Callable[[Figure, Row], str] | None = None,
    over: str = "",
) -> str:
    """The statement's lines and columns as a table, with what stands over it as its caption; or some columns
    of it, by number, its figures as said."""
    shown = range(len(proof.statement.columns)) if columns is None else columns
    heads = "".join(f'<th scope="col">{isolated(proof.heads[n])}</th>' for n in shown)
    body = "\n".join(_row(row, shown, cell or _cell) for row in rows(proof))
    head = f"<caption>{over}</caption>" if over else ""
    return f"""<table>{head}
<thead><tr><td></td>{heads}</tr></thead>
<tbody>
{body}
</tbody>
</table>"""


def _row(row: Row, columns: Sequence[int], cell: Callable[[Figure, Row], str]) -> str:
    classes = row.line.kind + (" last" if row.last else "")
    label = isolated(row.line.label)
    if not row.figures:
        return f'<tr class="{classes}"><th scope="rowgroup" colspan="{len(columns) + 1}">{label}</th></tr>'
    figures = row.figures
    cells = "".join(cell(figures[n], row) for n in columns)
    stands_in = f' style="padding-inline-start:{1.25 * row.line.steps:g}rem"' if row.line.steps else ""
    return f'<tr class="{classes}"><th scope="row"{stands_in}>{label}</th>{cells}</tr>'


def _cell(figure: Figure, _row: Row) -> str:
    printed = figure.printed
    text = escape(printed.full_text)
    exact = "" if figure.exact is None else amount_text(figure.exact)
    tone = " rust" if printed.tone == "rust" else ""
    if not printed.hang or printed.after:
        return f'<td class="figure{tone}"><data value="{exact}"><bdi>{text}</bdi></data></td>'
    lead = escape(printed.full_text[: -len(printed.hang)])
    hang = f'<span class="hang">{escape(printed.hang)}</span>'
    return f'<td class="figure hangs{tone}"><data value="{exact}"><bdi>{lead}{hang}</bdi></data></td>'


def _on_paper(figure: Figure, row: Row) -> str:
    """The cell with no more than paper needs, as setting each element takes its time: a box of its own for
    the figure only where there is a rule over it."""
    printed = figure.printed
    tone = " rust" if printed.tone == "rust" else ""
    hangs = "" if not printed.hang or printed.after else " hangs"
    text = escape(printed.full_text)
    if hangs:
        lead = escape(printed.full_text[: -len(printed.hang)])
        text = f'{lead}<span class="hang">{escape(printed.hang)}</span>'
    if row.line.adds:
        text = f'<span class="n">{text}</span>'
    return f'<td class="figure{hangs}{tone}">{text}</td>'
