"""Tables of texts as CSV files (RFC 4180) that spreadsheets open and do not run."""

from __future__ import annotations

import csv
import io
from collections.abc import Collection, Iterable, Sequence

from humble_sum.exchange.safe_text import neutral


def table_csv(head: Sequence[str], rows: Iterable[Sequence[str]], plain: Collection[int] = ()) -> bytes:
    """A table of texts, none of which a spreadsheet will run; those of the `plain` columns as they stand."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(head)
    writer.writerows([text if n in plain else neutral(text) for n, text in enumerate(row)] for row in rows)
    return b"\xef\xbb\xbf" + out.getvalue().encode()
