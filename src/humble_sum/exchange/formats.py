"""Every format that something can be taken away in or issued in: each once.

The command line, the API, the browser and issues all read this list. What writes a format is named here
and imported when it is first needed, so that the list itself costs nothing to read.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Dashboard
from humble_sum.exchange.imprint import Imprint

Files = dict[str, tuple[str, bytes]]  # by name: what each is, and its bytes


@dataclass(frozen=True)
class Format:
    """A format: its name, what it is called, what it keeps, how its files' names end, and their media type.

    `statement`, `dashboard`, `chart` and `edition` name what writes one of these in it, as module and
    function below `humble_sum.exchange`; an empty name means that it cannot be written so. `paper` and
    `record_paper` name what makes the pages that are set as PDF, the second where the record of nudges goes
    out too. Those `usual` go out with an issue unless something else is chosen, the `imprinted` say at
    their foot which issue they are of, and `made_by` is the library that their bytes depend on.
    """

    name: str
    label: str
    keeps: str
    extension: str
    media_type: str
    statement: str = ""
    dashboard: str = ""
    chart: str = ""
    edition: str = ""
    paper: str = ""
    record_paper: str = ""
    usual: bool = False
    imprinted: bool = True
    made_by: str = ""
    binary: bool = False

    def write_statement(self, pack: Pack, proof: Proof) -> bytes:
        """One statement as a file. Raises InputError where this machine cannot make it."""
        data: bytes = _function(self.statement)(pack, proof)
        return data

    def write_dashboard(self, dashboard: Dashboard, pack_proof: PackProof, item: str | None) -> bytes:
        """A dashboard as a file; a picture is of the chart that `item` names. Raises InputError."""
        data: bytes = _function(self.chart or self.dashboard)(dashboard, pack_proof, item)
        return data

    def edition_files(self, pack_proof: PackProof, imprint: Imprint | None) -> Files:
        """The files of an issue in this format, without those set on paper."""
        return _made(self.edition, self, pack_proof, imprint)

    def paper_pages(self, pack_proof: PackProof, imprint: Imprint | None, with_record: bool) -> Files:
        """The pages that are set on paper, each under the name of its PDF."""
        pages = _made(self.paper, self, pack_proof, imprint)
        return pages | (_made(self.record_paper, self, pack_proof, imprint) if with_record else {})

    @property
    def issued(self) -> bool:
        """Whether an issue can have files in it."""
        return bool(self.edition or self.paper)


def _made(name: str, of: Format, pack_proof: PackProof, imprint: Imprint | None) -> Files:
    if not name:
        return {}
    files: Files = _function(name)(of.label, pack_proof, imprint)
    return files


def _function(name: str) -> Callable[..., Any]:
    module, _, function = name.partition(":")
    found: Callable[..., Any] = getattr(import_module(f"humble_sum.exchange.{module}"), function)
    return found


HTML, CSV, JSON = "text/html; charset=utf-8", "text/csv; charset=utf-8", "application/json"
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
MARKDOWN, TEXT = "text/markdown; charset=utf-8", "text/plain; charset=utf-8"
SVG = "image/svg+xml"
_EVERY = (
    Format(
        "html",
        "Web page",
        "as printed",
        "html",
        HTML,
        statement="html:write_html",
        dashboard="dashboard_files:write_page",
        edition="containers.edition_files:web_page",
        usual=True,
    ),
    Format(
        "pdf",
        "PDF",
        "as printed",
        "pdf",
        "application/pdf",
        statement="statement_pdf:write_pdf",
        paper="containers.edition_files:paper_page",
        record_paper="containers.edition_files:record_page",
        binary=True,
    ),
    Format(
        "xbrl",
        "Tagged page (Inline XBRL) and its taxonomy",
        "as printed and exact",
        "xhtml",
        "application/xhtml+xml",
        edition="containers.edition_files:tagged_page",
        binary=True,
    ),
    Format(
        "xlsx",
        "Workbook",
        "exact amounts, shown as printed",
        "xlsx",
        XLSX,
        statement="workbook:write_xlsx",
        dashboard="dashboard_files:write_xlsx",
        binary=True,
    ),
    Format(
        "exact",
        "Workbook, exact amounts, in ones",
        "exact amounts and live sums",
        "xlsx",
        XLSX,
        edition="containers.edition_files:exact_workbook",
        usual=True,
        made_by="XlsxWriter",
        binary=True,
    ),
    Format(
        "unit",
        "Workbook, exact amounts, in the unit of the page",
        "exact amounts and live sums",
        "xlsx",
        XLSX,
        edition="containers.edition_files:unit_workbook",
        made_by="XlsxWriter",
        binary=True,
    ),
    Format(
        "printed",
        "Workbook, the figures as printed",
        "as printed, with live sums",
        "xlsx",
        XLSX,
        edition="containers.edition_files:printed_workbook",
        made_by="XlsxWriter",
        binary=True,
    ),
    Format(
        "csv",
        "Figures as printed",
        "as printed",
        "csv",
        CSV,
        statement="delimited:write_csv",
        dashboard="dashboard_files:write_csv",
        edition="containers.edition_files:tables",
        usual=True,
        imprinted=False,
    ),
    Format(
        "csv-exact",
        "Exact amounts",
        "exact",
        "csv",
        CSV,
        statement="delimited:write_exact_csv",
    ),
    Format(
        "csv-both",
        "Figures as printed and exact",
        "as printed and exact",
        "csv",
        CSV,
        statement="delimited:write_both_csv",
    ),
    Format(
        "csv-tidy",
        "A row for each figure",
        "as printed and exact, with the trace",
        "csv",
        CSV,
        statement="delimited:write_tidy_csv",
    ),
    Format(
        "records",
        "A record for each figure",
        "as printed and exact, with the trace",
        "json",
        JSON,
        statement="figure_records:write_records",
        edition="containers.edition_files:records",
        imprinted=False,
    ),
    Format(
        "md",
        "Text in Markdown",
        "as printed",
        "md",
        MARKDOWN,
        statement="markdown:write_markdown",
        dashboard="dashboard_files:write_markdown",
        edition="containers.edition_files:markdown",
        imprinted=False,
    ),
    Format(
        "txt",
        "Plain text",
        "as printed",
        "txt",
        TEXT,
        statement="fixed_width:write_fixed_width",
        dashboard="dashboard_files:write_text",
    ),
    Format(
        "json",
        "Pack file",
        "amounts, rules, nudges, holds and editions",
        "json",
        JSON,
        statement="pack_json:write_pack_of",
    ),
    Format(
        "svg",
        "Drawing",
        "as printed",
        "svg",
        SVG,
        chart="dashboard_files:write_chart_svg",
    ),
    Format(
        "png",
        "Picture",
        "as printed",
        "png",
        "image/png",
        chart="dashboard_files:write_chart_png",
        binary=True,
    ),
    Format(
        "dashboards",
        "Dashboards of the edition",
        "as printed",
        "html",
        HTML,
        edition="containers.edition_files:dashboards",
        made_by="matplotlib",
    ),
    Format(
        "charts",
        "Charts of the edition",
        "as printed",
        "svg",
        SVG,
        edition="containers.edition_files:charts",
        imprinted=False,
        made_by="matplotlib",
    ),
    Format(
        "record",
        "Record of nudges and holds",
        "every figure moved or held",
        "html",
        HTML,
        edition="containers.edition_files:record",
        usual=True,
    ),
)
FORMATS: Mapping[str, Format] = {each.name: each for each in _EVERY}
OF_STATEMENTS = {name: each for name, each in FORMATS.items() if each.statement}
OF_DASHBOARDS = {name: each for name, each in FORMATS.items() if each.dashboard or each.chart}
OF_ISSUES = {name: each for name, each in FORMATS.items() if each.issued}
USUAL = tuple(name for name, each in OF_ISSUES.items() if each.usual)
FORMER_NAMES = {"markdown": "md"}  # as containers made by 0.1.0 name it


def chosen_formats(names: Sequence[str]) -> list[str]:
    """The formats of an issue that were chosen, in order. Raises InputError where a name is none of them."""
    chosen = {FORMER_NAMES.get(name, name) for name in names}
    for name in names:
        if FORMER_NAMES.get(name, name) not in OF_ISSUES:
            what = f'There is no "{name}".'
            raise InputError("no-such-format", Fault("files", what, f"Use {', '.join(OF_ISSUES)}."))
    return [name for name in OF_ISSUES if name in chosen]
