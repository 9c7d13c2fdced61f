"""The edition's pages as Inline XBRL 1.1: XHTML whose figures are marked with what they state."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from xml.sax.saxutils import quoteattr

from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.inline.contexts import Dates
from humble_sum.exchange.inline.facts import PREFIX, Fact, Unit, facts_of
from humble_sum.exchange.inline.taxonomy_files import namespace_of, taxonomies_of, write_taxonomy
from humble_sum.exchange.inline.written import written
from humble_sum.exchange.layout import Row, caption, rows

PAGE, SCHEMA = "edition.xhtml", "edition.xsd"
SPACES = {
    "ix": "http://www.xbrl.org/2013/inlineXBRL",
    "ixt": "http://www.xbrl.org/inlineXBRL/transformation/2022-02-16",
    "xbrli": "http://www.xbrl.org/2003/instance",
    "link": "http://www.xbrl.org/2003/linkbase",
    "xlink": "http://www.w3.org/1999/xlink",
    "iso4217": "http://www.xbrl.org/2003/iso4217",
}
FOOTNOTE = "http://www.xbrl.org/2003/role/footnote"
SCHEME = "urn:humble-sum:entity"
STYLE = """
body { color: #14262b; font: 16px/1.5 'IBM Plex Serif', 'Noto Serif', Georgia, serif; }
div.page { max-width: 46rem; margin: 2rem auto; padding: 0 2rem; }
h1 { font-size: 1.3rem; margin: 0; }
p { margin: 0; color: #55676b; font-size: .875rem; }
table { width: 100%; border-collapse: collapse; border-top: 1px solid; margin-top: .5rem; }
th { font-weight: 400; text-align: left; padding: .1rem 0; }
thead th { text-align: right; color: #55676b; font-size: .875rem; padding: .75rem 0 .5rem 1.5rem; }
td { text-align: right; padding: .1rem 0 .1rem 1.5rem; white-space: nowrap; }
tr.heading th { font-weight: 600; padding-top: .6rem; }
tr.total th, tr.total td { font-weight: 600; }
tr.subtotal td, tr.total td { border-top: 1px solid; }
p.imprint { max-width: 46rem; margin: 2rem auto; padding: 0 2rem; font-size: .75rem; }
tr.last td { border-bottom: 3px double; }
"""
Facts = Mapping[FigureRef, Fact]


def write_inline(pack_proof: PackProof, imprint: Imprint | None = None) -> dict[str, bytes]:
    """The document and its taxonomy, by name; at its foot the issue that it is of. Raises InputError, naming
    each figure that cannot be tagged."""
    facts = facts_of(pack_proof).stated
    return {PAGE: _document(pack_proof, facts, imprint), SCHEMA: write_taxonomy(pack_proof, facts, SCHEMA)}


def _document(pack_proof: PackProof, facts: Facts, imprint: Imprint | None) -> bytes:
    pack = pack_proof.pack
    others = {each.prefix: each.namespace for each in taxonomies_of(pack_proof)}
    named = SPACES | {PREFIX: namespace_of(pack_proof)} | others
    spaces = " ".join(f"xmlns:{prefix}={quoteattr(uri)}" for prefix, uri in named.items())
    title = written(f"{pack.entity}, {pack.period}")
    pages = "\n".join(_page(pack, id, proof, facts) for id, proof in pack_proof.proofs.items())
    foot = f'\n<p class="imprint">{written(imprint.text)}</p>' if imprint else ""
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<html xmlns="http://www.w3.org/1999/xhtml" {spaces} xml:lang="en">
<head>
<meta http-equiv="Content-Type" content="application/xhtml+xml; charset=UTF-8" />
<title>{title}</title>
<style type="text/css">{STYLE}</style>
</head>
<body>
<div style="display:none"><ix:header>
{_hidden(facts)}<ix:references><link:schemaRef xlink:type="simple" xlink:href="{SCHEMA}" /></ix:references>
<ix:resources>
{_resources(pack, facts)}
</ix:resources>
</ix:header></div>
{pages}{foot}
</body>
</html>
""".encode()


def _resources(pack: Pack, facts: Facts) -> str:
    """A context for each time, and each unit, that some fact is of."""
    times = sorted({fact.dates for fact in facts.values()}, key=lambda dates: dates.id)
    units = sorted({fact.unit for fact in facts.values()}, key=lambda unit: unit.id)
    contexts = [_context(pack, dates) for dates in times]
    return "\n".join([*_relationships(facts), *contexts, *map(_unit, units)])


def _hidden(facts: Facts) -> str:
    """What the page states without printing it so: numbers of native digits, and notes to figures."""
    numbers = "".join(_mark(fact) for fact in facts.values() if fact.hidden)
    notes = "".join(
        f'<ix:footnote id="{id}" xml:lang="en" footnoteRole="{FOOTNOTE}">{written(note)}</ix:footnote>'
        for note, id in _notes(facts).items()
    )
    return f"<ix:hidden>{numbers}{notes}</ix:hidden>\n" if numbers or notes else ""


def _notes(facts: Facts) -> dict[str, str]:
    """Each note that some fact has, with a name for it."""
    said = dict.fromkeys(fact.note for fact in facts.values() if fact.note)
    return {note: f"note.{number}" for number, note in enumerate(said, 1)}


def _relationships(facts: Facts) -> list[str]:
    return [
        f'<ix:relationship fromRefs="{" ".join(fact.id for fact in facts.values() if fact.note == note)}" '
        f'toRefs="{id}" />'
        for note, id in _notes(facts).items()
    ]


def _context(pack: Pack, dates: Dates) -> str:
    if dates.first is None:
        period = f"<xbrli:instant>{dates.last}</xbrli:instant>"
    else:
        period = (
            f"<xbrli:startDate>{dates.first}</xbrli:startDate><xbrli:endDate>{dates.last}</xbrli:endDate>"
        )
    who = f'<xbrli:identifier scheme="{SCHEME}">{written(pack.entity)}</xbrli:identifier>'
    return (
        f'<xbrli:context id="{dates.id}"><xbrli:entity>{who}</xbrli:entity>'
        f"<xbrli:period>{period}</xbrli:period></xbrli:context>"
    )


def _unit(unit: Unit) -> str:
    of = f"<xbrli:measure>{f'iso4217:{unit.currency}' if unit.currency else 'xbrli:pure'}</xbrli:measure>"
    if unit.each:
        pure = "<xbrli:measure>xbrli:pure</xbrli:measure>"
        of = (
            f"<xbrli:divide><xbrli:unitNumerator>{of}</xbrli:unitNumerator>"
            f"<xbrli:unitDenominator>{pure}</xbrli:unitDenominator></xbrli:divide>"
        )
    return f'<xbrli:unit id="{unit.id}">{of}</xbrli:unit>'


def _page(pack: Pack, id: str, proof: Proof, facts: Facts) -> str:
    heads = "".join(f'<th scope="col">{written(head)}</th>' for head in proof.heads)
    body = "\n".join(_row(id, row, facts) for row in rows(proof))
    over = "".join(f"<p>{written(text)}</p>" for text in (pack.period, caption(proof)) if text)
    return f"""<div class="page">
<p>{written(pack.entity)}</p>
<h1>{written(proof.statement.title)}</h1>
{over}
<table>
<thead><tr><td></td>{heads}</tr></thead>
<tbody>
{body}
</tbody>
</table>
</div>"""


def _row(id: str, row: Row, facts: Facts) -> str:
    line, figures = row.line, row.figures
    classes = line.kind + (" last" if row.last else "")
    if not figures:
        width = len(row.proof.statement.columns) + 1
        return f'<tr class="{classes}"><th colspan="{width}">{written(line.label)}</th></tr>'
    stands_in = f' style="padding-left:{1.25 * line.steps:g}rem"' if line.steps else ""
    cells = "".join(f"<td>{text}</td>" for text in _cells(id, figures, facts))
    return f'<tr class="{classes}"><th scope="row"{stands_in}>{written(line.label)}</th>{cells}</tr>'


def _cells(id: str, figures: tuple[Figure, ...], facts: Facts) -> Iterator[str]:
    for figure in figures:
        fact = facts.get((id, *figure.cell))
        yield written(figure.printed.full_text) if fact is None else _tagged(fact)


def _tagged(fact: Fact) -> str:
    """A figure with its number marked; what stands around it, brackets and signs, stays outside."""
    if fact.hidden:  # read by machines from the head of the page
        return f'<span style="-ix-hidden:{fact.id}">{written(fact.printed)}</span>'
    before, after = fact.printed[: fact.at], fact.printed[fact.at + len(fact.tagged) :]
    return f"{written(before)}{_mark(fact)}{written(after)}"


def _mark(fact: Fact) -> str:
    """The number of a fact, with all that it states."""
    sign = ' sign="-"' if fact.negative else ""
    scale = f' scale="{fact.scale}"' if fact.scale else ""
    return (
        f'<ix:nonFraction name="{fact.concept}" contextRef="{fact.dates.id}" '
        f'unitRef="{fact.unit.id}" decimals="{fact.decimals}" format="ixt:{fact.format}"{scale}{sign} '
        f"id={quoteattr(fact.id)}>{written(fact.tagged)}</ix:nonFraction>"
    )
