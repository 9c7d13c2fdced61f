"""Dashboards as their readers get them: a printed report of hairlines and rules, in HTML without a script."""

from __future__ import annotations

from html import escape

from humble_sum.core.places.chart import ChartData, chart_data
from humble_sum.core.places.passages import Piece, SmallTable, printed_passage
from humble_sum.core.places.placed_figure import Placed, Placer
from humble_sum.core.places.tile import TRAIL_HIGH, TRAIL_WIDE, Target, TileFace, tile_face
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.placed import Chart, Dashboard, Passage, Tile
from humble_sum.exchange.safe_text import isolated

NARROW = 4  # of twelve columns: what a telephone has room for
DASHBOARD_STYLE = """
.board { display: grid; grid-template-columns: repeat(12, 1fr); column-gap: 1.875rem; row-gap: 1.4rem; }
.item { grid-column: span var(--w); min-width: 0; break-inside: avoid; }
.item h2 { font: 600 .875rem/1.4 'IBM Plex Sans', 'Noto Sans', sans-serif; margin: 0; }
.soft { color: #55676b; font: .8125rem/1.45 'IBM Plex Sans', 'Noto Sans', sans-serif; }
.board { overflow: hidden; }
.tile { border-inline-start: 1px solid #b9c5c1; padding-inline-start: .9375rem; margin-inline-start: -1rem; }
.tile h2 { font-weight: 400; font-size: .8125rem; color: #55676b; }
.tile .figure { font: 600 1.8rem/1.3 'IBM Plex Serif', 'Noto Serif', 'Noto Serif Devanagari',
  'Noto Naskh Arabic', serif; overflow-wrap: anywhere; }
.tile .figure small { font-size: 1rem; font-weight: 400; color: #55676b; }
.tile p { margin: 0; }
.tile p:not(.figure) { font: .8125rem/1.5 'IBM Plex Sans', 'Noto Sans', sans-serif; }
.tile svg { display: block; width: 100%; max-width: 12.5rem; margin-top: .4rem; }
.rust { color: #a83c14; }
.chart { border-top: 1px solid #14262b; padding-top: .4rem; }
.chart header { display: flex; justify-content: space-between; gap: 1rem; }
.chart svg { display: block; max-width: 100%; height: auto; }
.chart svg text, .chart svg tspan { font-family: 'IBM Plex Serif', 'Noto Serif', 'Noto Serif Devanagari',
  'Noto Naskh Arabic', serif !important; }
.legend { display: flex; flex-wrap: wrap; gap: .1rem 1rem; }
.chart .legend svg { display: inline-block; width: .75rem; height: .75rem; margin-inline-end: .35rem; }
.chart details { font: .8125rem/1.45 'IBM Plex Sans', sans-serif; color: #55676b; }
.chart details table { margin-top: .3rem; color: #14262b; }
.passage { max-width: 62rem; line-height: 1.65; }
.passage p { margin: 0 0 .7rem; }
.passage table { width: auto; min-width: 50%; margin: .2rem 0 .9rem; }
@media (max-width: 720px) {
  .board { grid-template-columns: 1fr 1fr; }
  .item { grid-column: 1 / -1; }
  .item.tile { grid-column: span 1; }
  .tile .figure { font-size: 1.35rem; }
  .drawn.wide { display: none; }
}
@media (min-width: 721px) { .drawn.narrow { display: none; } }
@media print { .drawn.wide { display: block; } .drawn.narrow { display: none; } }
@media print { .chart details { display: none; } }
"""


def dashboard_body(dashboard: Dashboard, pack_proof: PackProof) -> str:
    """Every item of a dashboard, in order; the pack is proved in its edition."""
    placers = {
        "tile": Placer(pack_proof, "tile"),
        "chart": Placer(pack_proof, "chart"),
        "passage": Placer(pack_proof, "passage"),
    }
    items = []
    for item in dashboard.items:
        placer = placers[item.kind]
        if isinstance(item, Tile):
            inside = _tile(item, tile_face(item, placer))
        elif isinstance(item, Chart):
            inside = _chart(item, chart_data(item, pack_proof, placer), f"{dashboard.id}-{item.id}")
        else:
            inside = _passage(item, pack_proof, placer)
        items.append(f'<section class="item {item.kind}" style="--w:{item.width}">{inside}</section>')
    return f'<div class="board">{"".join(items)}</div>'


def _tile(tile: Tile, face: TileFace) -> str:
    parts = [f"<h2>{isolated(tile.label)}</h2>"]
    unit = f" <small>{escape(face.unit)}</small>" if face.unit else ""
    parts.append(f'<p class="figure{_tone(face.placed)}"><bdi>{escape(_text(face.placed))}</bdi>{unit}</p>')
    if face.compare is not None:
        against = f" {escape(tile.against)}" if tile.against else ""
        said = escape(face.compare.text)
        parts.append(f'<p class="compare{_tone(face.compare)}"><bdi>{said}</bdi>{against}</p>')
    if face.target is not None:
        parts.append(_reached(face.target))
        parts.append(f'<p class="soft">{escape(face.target.says)}</p>')
    if face.trail:
        parts.append(_trail(face))
    return "".join(parts)


def _reached(target: Target) -> str:
    """A bar of what was reached, and a stroke where the target is."""
    scale = max(target.reached, 1000)
    at, mark = target.reached * TRAIL_WIDE // scale, 1000 * (TRAIL_WIDE - 2) // scale
    return (
        f'<svg viewBox="0 0 {TRAIL_WIDE} 16" aria-hidden="true">'
        f'<path d="M0 4h{TRAIL_WIDE}v8h-{TRAIL_WIDE}z" fill="#e4e9e6"/>'
        f'<path d="M0 4h{at}v8h-{at}z" fill="#0c5a61"/><path d="M{mark} 0h2v16h-2z" fill="#14262b"/></svg>'
    )


def _trail(face: TileFace) -> str:
    lines = "".join(
        f'<polyline points="{" ".join(f"{x},{y + 4}" for x, y in run)}" fill="none" stroke="#0c5a61" '
        'stroke-width="1.6" stroke-linejoin="round"/>'
        for run in face.trail
    )
    x, y = face.trail[-1][-1]
    dot = f'<circle cx="{x}" cy="{y + 4}" r="2.6" fill="#0c5a61"/>'
    return f'<svg viewBox="-4 0 {TRAIL_WIDE + 8} {TRAIL_HIGH + 8}" aria-hidden="true">{lines}{dot}</svg>'


def _tone(placed: Placed) -> str:
    return " rust" if placed.printed is not None and placed.printed.tone == "rust" else ""


def _text(placed: Placed) -> str:
    return placed.text if not placed.gone else "…"


def _chart(chart: Chart, data: ChartData, id: str) -> str:
    head = (
        f'<header><h2>{isolated(chart.label)}</h2><span class="soft">{isolated(data.caption)}</span></header>'
    )
    if data.fault:
        return f'{head}<p class="soft">{escape(data.fault)}</p>'
    name = f"{chart.label}: {data.caption}".strip(": ")
    from humble_sum.exchange.chart_drawing import write_svg  # read when it is first needed

    # On a telephone a chart is drawn narrower, rather than scrolled or shrunk until nobody can read it.
    drawn = f'<div class="drawn wide">{write_svg(data, id, chart.width)}</div>'
    drawn += f'<div class="drawn narrow">{write_svg(data, f"{id}-narrow", NARROW)}</div>'
    notes = "".join(f'<p class="soft">{escape(note)}</p>' for note in data.notes)
    return (
        f'{head}{_legend(data)}<div role="img" aria-label="{escape(name)}" tabindex="0">{drawn}</div>'
        f"{notes}<details><summary>As a table</summary>{chart_table(data)}</details>"
    )


def _legend(data: ChartData) -> str:
    if len(data.series) < 2:
        return ""
    from humble_sum.exchange.chart_drawing import legend

    keys = legend(data)
    pairs = zip(keys, data.series, strict=True)
    said = "".join(f"<span>{key}{escape(series.name)}</span>" for key, series in pairs)
    return f'<p class="soft legend">{said}</p>'


def chart_table(data: ChartData) -> str:
    """What a chart prints, as a table: a row for each place, a column for each series."""
    heads = "".join(f'<th scope="col">{isolated(series.name)}</th>' for series in data.series)
    rows = "".join(
        f'<tr><th scope="row">{isolated(head)}</th>'
        + "".join(f"<td><bdi>{escape(series.points[place].text)}</bdi></td>" for series in data.series)
        + "</tr>"
        for place, head in enumerate(data.heads)
    )
    return f"<table><thead><tr><td></td>{heads}</tr></thead><tbody>{rows}</tbody></table>"


def _passage(passage: Passage, pack_proof: PackProof, placer: Placer) -> str:
    parts = []
    for block in printed_passage(passage, pack_proof, placer):
        parts.append(_small_table(block) if isinstance(block, SmallTable) else _paragraph(block))
    return "".join(parts)


def _paragraph(pieces: list[Piece]) -> str:
    texts = (
        escape(piece.text) if piece.agrees is None else f"<bdi>{escape(piece.text)}</bdi>" for piece in pieces
    )
    return f"<p>{''.join(texts)}</p>"


def _small_table(table: SmallTable) -> str:
    heads = "".join(f'<th scope="col">{isolated(head)}</th>' for head in table.heads)
    rows = "".join(
        f'<tr><th scope="row">{isolated(label)}</th>'
        + "".join(f"<td><bdi>{escape(each.full_text)}</bdi></td>" for each in printed)
        + "</tr>"
        for label, printed in table.rows
    )
    caption = f"<td>{escape(table.caption)}</td>"
    return f"<table><thead><tr>{caption}{heads}</tr></thead><tbody>{rows}</tbody></table>"
