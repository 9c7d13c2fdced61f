"""Every figure of an edition in one table (RFC 4180): exact, as printed, and in whole units."""

from __future__ import annotations

import csv
import io

from humble_sum.core.amounts import amount_text
from humble_sum.core.proof.pack_proof import PackProof

HEAD = ("statement", "line", "column", "exact", "printed", "units", "exponent", "moved")


def write_figures(pack_proof: PackProof) -> bytes:
    """Every figure of every statement, by its ids."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(HEAD)
    writer.writerows(_rows(pack_proof))
    return out.getvalue().encode()


def _rows(pack_proof: PackProof) -> list[list[str]]:
    return [
        [
            id,
            line,
            column,
            "" if figure.exact is None else amount_text(figure.exact),
            figure.printed.full_text,
            "" if figure.units is None else str(figure.units),
            "" if figure.units is None else str(figure.printed.exponent),
            "yes" if figure.moved else "",
        ]
        for id, proof in pack_proof.proofs.items()
        for (line, column), figure in proof.figures.items()
    ]
