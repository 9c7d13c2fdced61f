"""CSV (RFC 4180): as printed, exact, or both, set out as the page is; and tidy, a row for each figure."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Sequence

from humble_sum.core.amounts import amount_text
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.figure_records import RECORD_FIELDS, figure_records
from humble_sum.exchange.layout import Row, caption, rows
from humble_sum.exchange.safe_text import neutral

NUMBERS = ("exact", "units", "exponent", "own_rounding", "drift")
IN_ONES = "exact amounts, in ones"
Said = Callable[[Row], Iterable[tuple[str, ...]]]  # what is said of each figure of a row, a cell each


def write_csv(pack: Pack, proof: Proof) -> bytes:
    """The statement as printed. UTF-8 with a mark, so that spreadsheets read its signs."""
    return _as_page(pack, proof, caption(proof), ("",), lambda row: zip(_printed(row), strict=True))


def write_exact_csv(pack: Pack, proof: Proof) -> bytes:
    """The statement's exact amounts as plain decimals; a missing one is empty."""
    return _as_page(pack, proof, IN_ONES, ("",), lambda row: zip(_exact(row), strict=True))


def write_both_csv(pack: Pack, proof: Proof) -> bytes:
    """Each column as printed, and beside it exact."""
    said = "; ".join(filter(None, (caption(proof), f"beside them {IN_ONES}")))
    return _as_page(
        pack, proof, said, ("", ", exact"), lambda row: zip(_printed(row), _exact(row), strict=True)
    )


def write_tidy_csv(pack: Pack, proof: Proof) -> bytes:
    """A row for each figure: what it is, exact and as printed, and how the one came to the other."""
    records = figure_records(pack, proof)
    table = ([_of_record(name, record[name]) for name in RECORD_FIELDS] for record in records)
    return _written([RECORD_FIELDS, *table])


def _as_page(pack: Pack, proof: Proof, said: str, beside: Sequence[str], of: Said) -> bytes:
    heads = [f"{head}{each}" for head in proof.heads for each in beside]
    table = [[pack.entity], [proof.statement.title], [pack.period], [said], ["", *heads]]
    table = [[neutral(text) for text in row] for row in table]
    for row in rows(proof):
        texts = [text for said_of_one in of(row) for text in said_of_one]
        table.append([neutral(row.line.label), *(texts or [""] * len(heads))])
    return _written(table)


def _printed(row: Row) -> list[str]:
    return list(map(neutral, row.texts))


def _of_record(name: str, text: str) -> str:
    """A number of ours is one whatever sign it has; anything else may be made to look like a formula."""
    return text if name in NUMBERS else neutral(text)


def _exact(row: Row) -> list[str]:
    return ["" if figure.exact is None else amount_text(figure.exact) for figure in row.figures]


def _written(table: Iterable[Sequence[str]]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerows(table)
    return out.getvalue().encode("utf-8-sig")
