"""Whether a certificate is of the very plan that a pack keeps, and shows that none is less."""

from __future__ import annotations

from humble_sum.core.footing.certificate import Rejected, Verified, verify
from humble_sum.core.footing.plan import problem_of, ref_id
from humble_sum.core.proof.pack_proof import PackProof


def verify_kept(pack_proof: PackProof, certificate: object) -> Verified:
    """Check a certificate against what a pack prints. Raises InputError where it is none or of another
    problem, and Rejected where it is of other prints, or does not show that no plan is less."""
    problem = problem_of(pack_proof, list(pack_proof.proofs.values())).problem
    found = verify(problem, certificate)
    told: dict[str, object] = certificate["printed"] if isinstance(certificate, dict) else {}
    printed = {
        ref_id((id, *cell)): figure.units
        for id, proof in pack_proof.proofs.items()
        for cell, figure in proof.figures.items()
    }
    own = {entry.id: printed.get(entry.id) for entry in problem.entries}
    if told != own:
        other = sorted(id for id in own.keys() | told.keys() if own.get(id) != told.get(id))
        raise Rejected(f"The pack does not print what it is of: {', '.join(other[:3])}.")
    return found
