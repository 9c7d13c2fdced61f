"""Which edition of a pack a document goes by, where nobody says: the one that it agrees with most."""

from __future__ import annotations

from humble_sum.core.documents.document import Document
from humble_sum.core.documents.proofreading import Proofread, Reader
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.in_edition import base_of, editions_of, in_edition


class Readers:
    """Readers of one pack in each of its editions, each made when it is first asked for."""

    def __init__(self, own: Reader):
        self._own = own
        self._made = {own.pack_proof.pack.shown: own}

    def proofread(self, document: Document) -> Proofread:
        """A document proofread in the edition of the pack that is given, or in the one that fits better: only
        where more of it disagrees than agrees are the others tried."""
        best = self._own.proofread(document)
        if _fits(best) >= 0:
            return best
        pack = base_of(self._own.pack_proof.pack)
        for edition in editions_of(pack):
            if edition not in self._made:
                self._made[edition] = Reader(prove_pack(in_edition(pack, edition)))
            other = self._made[edition].proofread(document)
            if _fits(other) > _fits(best):
                best = other
        return best


def _fits(read: Proofread) -> int:
    """How many more numbers agree than do not."""
    return read.count("agrees") + read.count("rounds") - read.count("disagrees") - read.count("doubt")
