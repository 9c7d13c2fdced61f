"""Pasted tables: HTML as a browser's clipboard has it, or text split by tabs."""

from __future__ import annotations

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.table import Table
from humble_sum.exchange.sources.text import read_text
from humble_sum.exchange.sources.web_page import read_web_page

NAME = "pasted table"


def read_pasted(text: str) -> Table:
    """The first table of pasted HTML, or the text as cells. Raises InputError where there is none."""
    if "<table" not in text.lower():
        return read_text(NAME, text.encode())
    tables = read_web_page(NAME, text)
    if not tables[0].rows:
        raise InputError("no-table", Fault(NAME, "The table has no rows."))
    return tables[0]
