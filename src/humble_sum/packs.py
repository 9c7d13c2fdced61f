"""Packs from Python: read from a file, proved, changed by the commands that everything else uses, written.

>>> from humble_sum.records.demo import demo_pack
>>> pack = PackFile(demo_pack())
>>> pack.texts("income")["costs", "y26"]
'(2,770)'
>>> footed, says = pack.apply({"kind": "foot", "statement": "income"})
>>> says, footed.findings()
('Footed the pack: 46 figures nudged, no plan is less', [])
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import TYPE_CHECKING, Any, NamedTuple

if TYPE_CHECKING:
    from humble_sum.core.places.places_report import Found
    from humble_sum.core.proof.findings import Finding
    from humble_sum.core.proof.pack_proof import PackProof
    from humble_sum.core.statements.pack import Pack


class Changed(NamedTuple):
    """A pack after a change, and what the change did in words."""

    pack: PackFile
    says: str


class PackFile:
    """A pack as its file has it. It never changes: a change makes another one."""

    def __init__(self, pack: Pack):
        self.pack = pack

    @cached_property
    def proof(self) -> PackProof:
        """Every figure printed and every relation checked."""
        from humble_sum.core.proof.pack_proof import prove_pack

        return prove_pack(self.pack)

    def texts(self, statement: str) -> dict[tuple[str, str], str]:
        """What every figure of a statement prints, by line and column, in page order.

        Raises InputError where there is no such statement.
        """
        from humble_sum.core.proof.pack_proof import proof_of

        proof = proof_of(self.proof, statement)
        return dict(zip(proof.grid.cells, proof.figures.texts, strict=True))

    def findings(self) -> list[Finding]:
        """Every relation that does not add as printed, and every source break, in page order."""
        from humble_sum.core.proof.findings import findings_of

        return [found for each in self.pack.statements for found in findings_of(self.proof, each.id)]

    def in_edition(self, edition: str) -> PackFile:
        """The pack as the readers of an edition get it; what is then said of printing, held and nudged is
        that edition's own. Raises InputError where there is no such edition.

        >>> from humble_sum.records.demo import demo_pack
        >>> PackFile(demo_pack()).in_edition("Board").texts("income")["net", "y26"]
        '4.1'
        """
        from humble_sum.core.statements.in_edition import in_edition

        return PackFile(in_edition(self.pack, edition))

    def disagreements(self) -> list[Found]:
        """What is placed on dashboards and does not agree with the page of its edition."""
        from humble_sum.core.places.places_report import placed_on
        from humble_sum.core.proof.pack_proof import prove_pack
        from humble_sum.core.statements.in_edition import in_edition

        shown = {each.edition for each in self.pack.dashboards}
        proofs = {id: prove_pack(in_edition(self.pack, id)) for id in shown}
        placed = [found for each in self.pack.dashboards for found in placed_on(each, proofs[each.edition])]
        return [found for found in placed if found.agrees.standing != "agrees"]

    def proofread(self, name: str, data: bytes) -> dict[str, Any]:
        """Every number of a document judged against the pack, as `humble-sum proofread --json` tells it. The
        name says by its ending what kind of document it is.

        Raises InputError where it cannot be read.
        """
        from humble_sum.core.documents.proofreading import Reader
        from humble_sum.exchange.documents.proofread_json import as_json
        from humble_sum.exchange.documents.reading import read_document

        return as_json(Reader(self.proof).proofread(read_document(name, data)))

    def apply(self, change: Mapping[str, Any], author: str = "") -> Changed:
        """The pack after one change, spelled as over HTTP and by `humble-sum change`.

        `humble-sum change --list` names every kind with its fields. Raises InputError, naming each
        place that is wrong; this pack stays as it is.
        """
        from humble_sum.core.changes.apply import apply
        from humble_sum.core.changes.change_union import read_change

        made = apply(self.proof, read_change(dict(change)), author)
        return Changed(PackFile(made.pack), made.says)

    def write(self) -> bytes:
        """The pack as a file: UTF-8 JSON, by docs/formats/pack.schema.json."""
        from humble_sum.core.statements.in_edition import base_of
        from humble_sum.exchange.pack_json import write_pack

        return write_pack(base_of(self.pack))


def read_pack(data: bytes | str) -> PackFile:
    """A pack from its file. Raises InputError, naming each place that is wrong, fifty at most."""
    from humble_sum.exchange import pack_json

    return PackFile(pack_json.read_pack(data.encode() if isinstance(data, str) else data))
