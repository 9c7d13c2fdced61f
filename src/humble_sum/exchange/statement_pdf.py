"""One statement as a PDF."""

from __future__ import annotations

from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.html import write_html
from humble_sum.exchange.paper import set_on_paper


def write_pdf(pack: Pack, proof: Proof) -> bytes:
    """One statement as its readers see it. Raises InputError where this machine cannot make PDF."""
    return set_on_paper(write_html(pack, proof, paper=True)).data
