"""The kinds of files that an issue may have: each once, with its label and how its files are made.

Everything here is made from the frozen pack and the imprint alone, and the same ones make the same bytes, so
that whoever has the container can make its files again.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.places.chart import chart_data
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.placed import Chart, Dashboard
from humble_sum.exchange.containers.figures_csv import write_figures
from humble_sum.exchange.delimited import write_csv
from humble_sum.exchange.edition_workbook import MODES, Mode, write_workbook
from humble_sum.exchange.figure_records import write_records
from humble_sum.exchange.html import write_edition
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.inline.page import write_inline
from humble_sum.exchange.markdown import write_markdown
from humble_sum.exchange.nudges_csv import write_nudges
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.reader_pages import Link, dashboard_page
from humble_sum.exchange.record_page import write_record_page

PACK, FIGURES, CERTIFICATE = "pack.json", "figures.csv", "certificate.json"
PACK_SAYS = "Pack file: amounts, rules, nudges and holds"
FIGURES_SAYS = "Every figure, exact and as printed"
CERTIFICATE_SAYS = "Certificate that no plan is less"
Files = dict[str, tuple[str, bytes]]  # by name: what each is, and its bytes
Makes = Callable[[PackProof, Imprint | None], Files]


def _none(_whole: PackProof, _imprint: Imprint | None) -> Files:
    return {}


@dataclass(frozen=True)
class FileKind:
    """A kind of file: its label, what its files are, whether it is usually chosen, what makes its files, and
    what makes the pages that are set on paper, each under the name of its PDF. `imprinted` ones say at their
    foot which issue they are of."""

    label: str
    formats: str
    make: Makes = _none
    papers: Makes = _none
    usual: bool = False
    imprinted: bool = True
    with_record: Makes = field(default=_none)  # further pages for paper, where the record is chosen too


def _page(pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {"edition.html": (FILE_KINDS["html"].label, write_edition(pack_proof, imprint=imprint))}


def _paper(pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {"edition.pdf": (FILE_KINDS["pdf"].label, write_edition(pack_proof, paper=True, imprint=imprint))}


def _record_paper(pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {"record.pdf": (f"{FILE_KINDS['record'].label}, on paper", write_record_page(pack_proof, imprint))}


def _tagged(pack_proof: PackProof, imprint: Imprint | None) -> Files:
    label = FILE_KINDS["xbrl"].label
    return {name: (label, data) for name, data in write_inline(pack_proof, imprint).items()}


def _workbook(mode: Mode) -> Makes:
    def make(pack_proof: PackProof, imprint: Imprint | None) -> Files:
        return {f"workbook-{mode}.xlsx": (FILE_KINDS[mode].label, write_workbook(pack_proof, mode, imprint))}

    return make


def _tables(pack_proof: PackProof, _: Imprint | None) -> Files:
    return {
        f"statement-{number}.csv": (f"{proof.statement.name} as printed", write_csv(pack_proof.pack, proof))
        for number, proof in enumerate(pack_proof.proofs.values(), 1)
    }


def _markdown(pack_proof: PackProof, _: Imprint | None) -> Files:
    return {
        f"statement-{number}.md": (f"{proof.statement.name} as text", write_markdown(pack_proof.pack, proof))
        for number, proof in enumerate(pack_proof.proofs.values(), 1)
    }


def _records(pack_proof: PackProof, _: Imprint | None) -> Files:
    return {
        f"figures-{number}.json": (
            f"{proof.statement.name}, a record for each figure",
            write_records(pack_proof.pack, proof),
        )
        for number, proof in enumerate(pack_proof.proofs.values(), 1)
    }


def _record(pack_proof: PackProof, imprint: Imprint | None) -> Files:
    label = FILE_KINDS["record"].label
    return {
        "record.csv": (label, write_nudges(pack_proof)),
        "record.html": (f"{label}, to be read", write_record_page(pack_proof, imprint)),
    }


def _boards(pack_proof: PackProof) -> Iterator[tuple[int, Dashboard]]:
    own = (board for board in pack_proof.pack.dashboards if board.edition == pack_proof.pack.shown)
    yield from enumerate(own, 1)


def _dashboards(pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {
        f"dashboard-{number}.html": (
            f"Dashboard: {board.name}",
            dashboard_page(board, pack_proof, [Link(board.name, None)], imprint=imprint).encode(),
        )
        for number, board in _boards(pack_proof)
    }


def _charts(pack_proof: PackProof, _: Imprint | None) -> Files:
    from humble_sum.exchange.chart_alone import write_chart  # read when it is first needed

    made: Files = {}
    for number, board in _boards(pack_proof):
        placer = Placer(pack_proof, "chart")
        for place, item in enumerate(board.items, 1):
            if isinstance(item, Chart) and not (data := chart_data(item, pack_proof, placer)).fault:
                drawing = write_chart(data, item.label, f"chart-{number}-{place}", item.width)
                made[f"chart-{number}-{place}.svg"] = (f"Chart: {item.label}", drawing)
    return made


FILE_KINDS: dict[str, FileKind] = {
    "html": FileKind("Web page of the edition", "HTML", _page, usual=True),
    "pdf": FileKind("PDF of the edition", "PDF", papers=_paper, with_record=_record_paper),
    "xbrl": FileKind("Tagged page (Inline XBRL) and its taxonomy", "XHTML, XSD", _tagged),
    "exact": FileKind(f"Workbook, {MODES['exact']}", "XLSX", _workbook("exact"), usual=True),
    "unit": FileKind(f"Workbook, {MODES['unit']}", "XLSX", _workbook("unit")),
    "printed": FileKind(f"Workbook, {MODES['printed']}", "XLSX", _workbook("printed")),
    "csv": FileKind("Figures as printed", "CSV", _tables, usual=True, imprinted=False),
    "markdown": FileKind("Statements as text", "Markdown", _markdown, imprinted=False),
    "records": FileKind("A record for each figure", "JSON", _records, imprinted=False),
    "dashboards": FileKind("Dashboards of the edition", "HTML", _dashboards),
    "charts": FileKind("Charts of the edition", "SVG", _charts, imprinted=False),
    "record": FileKind("Record of nudges and holds", "HTML, CSV", _record, usual=True),
}
USUAL = tuple(id for id, kind in FILE_KINDS.items() if kind.usual)


def chosen_kinds(choices: Sequence[str]) -> list[str]:
    """The kinds that were chosen, in order. Raises InputError where a choice is none."""
    for choice in choices:
        if choice not in FILE_KINDS:
            raise InputError(
                "no-such-format",
                Fault("files", f'There is no "{choice}".', f"Use {', '.join(FILE_KINDS)}."),
            )
    return [kind for kind in FILE_KINDS if kind in choices]


def own_files(pack_proof: PackProof) -> Files:
    """What is in every issue: the frozen pack, and its figures."""
    return {
        PACK: (PACK_SAYS, write_pack(base_of(pack_proof.pack))),
        FIGURES: (FIGURES_SAYS, write_figures(pack_proof)),
    }


def paper_pages(pack_proof: PackProof, kinds: Sequence[str], imprint: Imprint | None) -> Files:
    """The pages that are to be set on paper, under the names of their PDFs."""
    pages: Files = {}
    for kind in kinds:
        pages |= FILE_KINDS[kind].papers(pack_proof, imprint)
        if "record" in kinds:
            pages |= FILE_KINDS[kind].with_record(pack_proof, imprint)
    return pages


def kinds_named(names: Mapping[str, object]) -> list[str]:
    """The kinds that files of these names are of, for containers that do not say which were chosen."""
    signs = {
        **{"edition.html": "html", "edition.pdf": "pdf", "edition.xhtml": "xbrl", "record.html": "record"},
        **{f"workbook-{mode}.xlsx": mode for mode in MODES},
        "statement-1.csv": "csv",
    }
    found = {kind for name, kind in signs.items() if name in names}
    return [kind for kind in FILE_KINDS if kind in found]
