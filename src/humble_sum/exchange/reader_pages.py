"""What the readers of an edition get: its statements and dashboards as pages of a printed report.

Nothing here is for anybody but readers: no drift, no rules, no nudges, and nothing that could be changed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from html import escape

from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Dashboard
from humble_sum.exchange.dashboard_html import DASHBOARD_STYLE, dashboard_body
from humble_sum.exchange.html import TABLE_STYLE, statement_table
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.language import language_of
from humble_sum.exchange.layout import caption
from humble_sum.exchange.safe_text import isolated

ICON = '<link rel="icon" href="/icon.svg" type="image/svg+xml">'
STYLE = """
:root { color: #14262b; background: #fefefc; }
body { margin: 0 auto; max-width: 72.5rem; padding: 1.4rem 3.75rem 3rem; box-sizing: border-box;
  font: 16px/1.5 'IBM Plex Serif', 'Noto Serif', 'Noto Serif Devanagari', 'Noto Naskh Arabic', serif; }
a { color: #0c5a61; }
body > header { display: flex; flex-wrap: wrap; gap: .2rem 1.2rem; align-items: baseline;
  border-bottom: 4px double; padding-bottom: .6rem; margin-bottom: 1.4rem; }
body > header h1 { font-size: 1.2rem; margin: 0; }
body > header p { margin: 0; }
.soft { color: #55676b; font: .8125rem/1.45 'IBM Plex Sans', 'Noto Sans', sans-serif; }
nav { margin-inline-start: auto; }
nav ul { display: flex; flex-wrap: wrap; gap: .2rem 1.2rem; list-style: none; margin: 0; padding: 0;
  font: .8125rem/1.6 'IBM Plex Sans', 'Noto Sans', sans-serif; }
nav a { text-decoration: none; padding-bottom: 2px; }
nav a:hover { text-decoration: underline; }
nav a[aria-current] { font-weight: 600; border-bottom: 2px solid; }
a:focus-visible, summary:focus-visible, .wide:focus-visible {
  outline: 2px solid #0c5a61; outline-offset: 3px; }
.statement { max-width: 50rem; }
.statement h2 { font-size: 1.2rem; margin: 0; }
.under { display: flex; justify-content: space-between; gap: 2rem; border-bottom: 1px solid;
  padding-bottom: .5rem; }
.under p { margin: 0; color: #55676b; font-size: .875rem; }
.wide { overflow-x: auto; }
footer { margin-top: 2.2rem; overflow-wrap: anywhere; }
footer p { margin: 0; }
@media (max-width: 720px) {
  body { padding: 1rem 1rem 2rem; }
  nav { margin-inline-start: 0; }
  .statement { font-size: .875rem; }
}
@media print {
  body { padding: 0; max-width: none; }
  nav { display: none; }
  body > header { border-bottom-width: 3px; }
}
"""


@dataclass(frozen=True)
class Link:
    """A page of the report: what it is called, and where it is; the page itself has no address."""

    name: str
    to: str | None


def reader_page(
    pack: Pack, unit: str, links: Sequence[Link], body: str, notes: Sequence[str], fonts: str = ""
) -> str:
    """One page of an edition's report, with notes at its foot."""
    edition = f"{pack.edition_name(pack.shown)} edition"
    over = ", ".join(filter(None, (edition, pack.period[:1].lower() + pack.period[1:], unit)))
    items = "".join(f"<li>{_link(link)}</li>" for link in links)
    nav = f'<nav aria-label="Contents"><ul>{items}</ul></nav>' if len(links) > 1 else ""
    name = next((link.name for link in links if link.to is None), edition)
    said = "".join(f"<p>{isolated(note)}</p>" for note in notes if note)
    foot = f'<footer class="soft">{said}</footer>' if said else ""
    linked = f'<link rel="stylesheet" href="{escape(fonts)}">{ICON}' if fonts else ""
    return f"""<!doctype html>
<html {language_of(pack)}>
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>{escape(name)}, {escape(pack.entity)}</title>
{linked}
<style>{STYLE}{TABLE_STYLE}{DASHBOARD_STYLE}</style>
</head>
<body>
<header><h1>{escape(pack.entity)}</h1><p class="soft">{escape(over)}</p>{nav}</header>
<main>{body}</main>
{foot}
</body>
</html>
"""


def _link(link: Link) -> str:
    if link.to is None:
        return f'<a aria-current="page" href="">{escape(link.name)}</a>'
    return f'<a href="{escape(link.to)}">{escape(link.name)}</a>'


def statement_body(proof: Proof, period: str) -> str:
    """A statement as a page of the report."""
    over = (
        f"<h2>{isolated(proof.statement.title)}</h2>"
        f'<div class="under"><p>{isolated(period)}</p><p>{isolated(caption(proof))}</p></div>'
    )
    return (
        '<article class="statement">'
        f'<div class="wide" tabindex="0" role="group" aria-label="{escape(proof.statement.title)}">'
        f"{statement_table(proof, over=over)}</div></article>"
    )


def unit_of_edition(pack_proof: PackProof) -> str:
    """The unit that most of an edition's statements are in."""
    captions = [proof.caption for proof in pack_proof.proofs.values()]
    return max(captions, key=captions.count)


def rounding_note(pack_proof: PackProof) -> str:
    """What readers are told of footing, where any figure was moved."""
    if not any(proof.figures.nudged for proof in pack_proof.proofs.values()):
        return ""
    return "Figures are rounded, and adjusted by as little as makes the printed totals add."


def dashboard_page(
    dashboard: Dashboard,
    pack_proof: PackProof,
    links: Sequence[Link],
    fonts: str = "",
    imprint: Imprint | None = None,
) -> str:
    """A dashboard as a page of the report; at its foot the issue that it is of, where it is of one."""
    body = dashboard_body(dashboard, pack_proof)
    notes = (rounding_note(pack_proof), imprint.text if imprint else "")
    return reader_page(pack_proof.pack, unit_of_edition(pack_proof), links, body, notes, fonts)


def statement_page(proof: Proof, pack_proof: PackProof, links: Sequence[Link], fonts: str = "") -> str:
    """A statement as a page of the report."""
    body = statement_body(proof, pack_proof.pack.period)
    return reader_page(
        pack_proof.pack, unit_of_edition(pack_proof), links, body, [rounding_note(pack_proof)], fonts
    )
