"""Every format a statement can be taken away in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.delimited import write_csv
from humble_sum.exchange.fixed_width import write_fixed_width
from humble_sum.exchange.html import write_html
from humble_sum.exchange.markdown import write_markdown
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.workbook import write_xlsx


@dataclass(frozen=True)
class Output:
    """A format: what it is called, its media type, and what writes it."""

    label: str
    media_type: str
    write: Callable[[Pack, Proof], bytes]


OUTPUTS = {
    "xlsx": Output(
        "Workbook",
        "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        write_xlsx,
    ),
    "html": Output("Web page", "text/html; charset=utf-8", write_html),
    "csv": Output("CSV", "text/csv; charset=utf-8", write_csv),
    "md": Output("Markdown", "text/markdown; charset=utf-8", write_markdown),
    "txt": Output("Plain text", "text/plain; charset=utf-8", write_fixed_width),
    "json": Output("Pack file", "application/json", lambda pack, _: write_pack(base_of(pack))),
}
