"""Every format a statement can be taken away in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.delimited import write_both_csv, write_csv, write_exact_csv, write_tidy_csv
from humble_sum.exchange.figure_records import write_records
from humble_sum.exchange.fixed_width import write_fixed_width
from humble_sum.exchange.html import write_html
from humble_sum.exchange.markdown import write_markdown
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.paper import set_on_paper
from humble_sum.exchange.workbook import write_xlsx


@dataclass(frozen=True)
class Output:
    """A format: what it is called, its media type, how its files' names end, and what writes it."""

    label: str
    media_type: str
    extension: str
    write: Callable[[Pack, Proof], bytes]


def write_pdf(pack: Pack, proof: Proof) -> bytes:
    """One statement as its readers see it. Raises InputError where this machine cannot make PDF."""
    return set_on_paper(write_html(pack, proof, paper=True)).data


CSV, JSON = "text/csv; charset=utf-8", "application/json"
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
OUTPUTS = {
    "xlsx": Output("Workbook", XLSX, "xlsx", write_xlsx),
    "pdf": Output("PDF", "application/pdf", "pdf", write_pdf),
    "html": Output("Web page", "text/html; charset=utf-8", "html", write_html),
    "csv": Output("Table as printed", CSV, "csv", write_csv),
    "csv-exact": Output("Table of exact amounts", CSV, "csv", write_exact_csv),
    "csv-both": Output("Table, printed and exact", CSV, "csv", write_both_csv),
    "csv-tidy": Output("A row for each figure, with its trace", CSV, "csv", write_tidy_csv),
    "records": Output("A record for each figure", JSON, "json", write_records),
    "md": Output("Markdown", "text/markdown; charset=utf-8", "md", write_markdown),
    "txt": Output("Plain text", "text/plain; charset=utf-8", "txt", write_fixed_width),
    "json": Output("Pack file", JSON, "json", lambda pack, _: write_pack(base_of(pack))),
}
