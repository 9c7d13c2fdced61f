"""What makes the files of an issue, a function for each format.

Everything here is made from the frozen pack and the imprint alone, and the same ones make the same bytes, so
that whoever has the container can make its files again.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from humble_sum.core.places.chart import chart_data
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.placed import Chart, Dashboard
from humble_sum.exchange.containers.figures_csv import write_figures
from humble_sum.exchange.delimited import write_csv
from humble_sum.exchange.edition_workbook import MODES, Mode, write_workbook
from humble_sum.exchange.figure_records import write_records
from humble_sum.exchange.formats import FORMATS, Files
from humble_sum.exchange.html import write_edition
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.inline.page import write_inline
from humble_sum.exchange.markdown import write_markdown
from humble_sum.exchange.nudges_csv import write_nudges
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.reader_pages import Link, dashboard_page
from humble_sum.exchange.record_page import write_record_page
from humble_sum.exchange.review_rows import write_points

PACK, FIGURES, CERTIFICATE, DOCUMENTS = "pack.json", "figures.csv", "certificate.json", "documents.csv"
PACK_SAYS = "Pack file: amounts, rules, nudges and holds"
FIGURES_SAYS = "Every figure, exact and as printed"
CERTIFICATE_SAYS = "Certificate that no plan is less"
DOCUMENTS_SAYS = "Every number of the documents, and how it stands"


def web_page(label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {"edition.html": (f"{label} of the edition", write_edition(pack_proof, imprint=imprint))}


def paper_page(label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {
        "edition.pdf": (f"{label} of the edition", write_edition(pack_proof, paper=True, imprint=imprint))
    }


def record_page(_label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {"record.pdf": ("Record of nudges and holds, on paper", write_record_page(pack_proof, imprint))}


def tagged_page(label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {name: (label, data) for name, data in write_inline(pack_proof, imprint).items()}


def exact_workbook(label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return _workbook("exact", label, pack_proof, imprint)


def unit_workbook(label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return _workbook("unit", label, pack_proof, imprint)


def printed_workbook(label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return _workbook("printed", label, pack_proof, imprint)


def _workbook(mode: Mode, label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {f"workbook-{mode}.xlsx": (label, write_workbook(pack_proof, mode, imprint))}


def tables(_label: str, pack_proof: PackProof, _: Imprint | None) -> Files:
    return {
        f"statement-{number}.csv": (f"{proof.statement.name} as printed", write_csv(pack_proof.pack, proof))
        for number, proof in enumerate(pack_proof.proofs.values(), 1)
    }


def markdown(_label: str, pack_proof: PackProof, _: Imprint | None) -> Files:
    return {
        f"statement-{number}.md": (f"{proof.statement.name} as text", write_markdown(pack_proof.pack, proof))
        for number, proof in enumerate(pack_proof.proofs.values(), 1)
    }


def records(_label: str, pack_proof: PackProof, _: Imprint | None) -> Files:
    return {
        f"figures-{number}.json": (
            f"{proof.statement.name}, a record for each figure",
            write_records(pack_proof.pack, proof),
        )
        for number, proof in enumerate(pack_proof.proofs.values(), 1)
    }


def record(label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    made = {
        "record.csv": (label, write_nudges(pack_proof)),
        "record.html": (f"{label}, to be read", write_record_page(pack_proof, imprint)),
    }
    if pack_proof.pack.points:
        made["points.csv"] = ("Points and their answers", write_points(pack_proof.pack))
    return made


def _boards(pack_proof: PackProof) -> Iterator[tuple[int, Dashboard]]:
    own = (board for board in pack_proof.pack.dashboards if board.edition == pack_proof.pack.shown)
    yield from enumerate(own, 1)


def dashboards(_label: str, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    return {
        f"dashboard-{number}.html": (
            f"Dashboard: {board.name}",
            dashboard_page(board, pack_proof, [Link(board.name, None)], imprint=imprint).encode(),
        )
        for number, board in _boards(pack_proof)
    }


def charts(_label: str, pack_proof: PackProof, _: Imprint | None) -> Files:
    from humble_sum.exchange.chart_alone import write_chart  # read when it is first needed

    made: Files = {}
    for number, board in _boards(pack_proof):
        placer = Placer(pack_proof, "chart")
        for place, item in enumerate(board.items, 1):
            if isinstance(item, Chart) and not (data := chart_data(item, pack_proof, placer)).fault:
                drawing = write_chart(data, item.label, f"chart-{number}-{place}", item.width)
                made[f"chart-{number}-{place}.svg"] = (f"Chart: {item.label}", drawing)
    return made


def own_files(pack_proof: PackProof) -> Files:
    """What is in every issue: the frozen pack, and its figures."""
    return {
        PACK: (PACK_SAYS, write_pack(base_of(pack_proof.pack))),
        FIGURES: (FIGURES_SAYS, write_figures(pack_proof)),
    }


def paper_pages(pack_proof: PackProof, formats: Sequence[str], imprint: Imprint | None) -> Files:
    """The pages that are to be set on paper, under the names of their PDFs."""
    pages: Files = {}
    for name in formats:
        pages |= FORMATS[name].paper_pages(pack_proof, imprint, "record" in formats)
    return pages


def formats_named(names: Mapping[str, object]) -> list[str]:
    """The formats that files of these names are in, for containers that do not say which were chosen."""
    signs = {
        **{"edition.html": "html", "edition.pdf": "pdf", "edition.xhtml": "xbrl", "record.html": "record"},
        **{f"workbook-{mode}.xlsx": mode for mode in MODES},
        "statement-1.csv": "csv",
    }
    found = {format for name, format in signs.items() if name in names}
    return [name for name in FORMATS if name in found]
