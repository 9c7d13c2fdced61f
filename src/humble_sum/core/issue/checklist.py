"""The last checks before an edition goes out: what holds, what is open, and where to go for it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence

from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.issue.last_check import Check, Open
from humble_sum.core.issue.review_checks import review_checks
from humble_sum.core.places.places_report import Found
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import describe_figure, findings_of, unchecked_of
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.in_edition import EditionPack, factors_of
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack

NOTHING_YET: Mapping[FigureRef, str] = {}


def checklist(
    pack_proof: PackProof, placed: Iterable[Found], published: Mapping[FigureRef, str] = NOTHING_YET
) -> tuple[Check, ...]:
    """Every check of a pack as one edition's readers would get it. `placed` is all that its dashboards show,
    `published` what figures printed in the issue before, where they are published."""
    return (
        _sums(pack_proof),
        _ties(pack_proof),
        _breaks(pack_proof),
        _whole(pack_proof),
        _placed(list(placed)),
        _reasons(pack_proof),
        _published(pack_proof, published),
        _readable(pack_proof),
        _signs(pack_proof),
        _units(pack_proof),
        _rates(pack_proof.pack),
        *review_checks(pack_proof),
    )


def _figures(pack_proof: PackProof) -> Iterator[tuple[FigureRef, Figure]]:
    for id, proof in pack_proof.proofs.items():
        for (line, column), figure in proof.figures.items():
            yield (id, line, column), figure


def _named(pack_proof: PackProof, ref: FigureRef, says: str) -> Open:
    return Open(f"{describe_figure(pack_proof.pack, ref)} {says}", ref[0], ref)


def _sums(pack_proof: PackProof) -> Check:
    gaps = [each for id in pack_proof.proofs for each in findings_of(pack_proof, id)]
    open_ = tuple(Open(e.says, e.statement) for e in gaps if e.status == "gap" and _is_sum(e.relation))
    every = sum(len(proof.checks) for proof in pack_proof.proofs.values())
    nudges = len(pack_proof.pack.nudges)
    evidence = f"{every} down and across, {nudges} {'nudge' if nudges == 1 else 'nudges'}"
    settle = Foot(kind="foot", statement=pack_proof.pack.statements[0].id) if open_ else None
    return Check("sums", "Every sum foots as printed", evidence, open_, settle)


def _is_sum(relation: str) -> bool:
    return not relation.startswith("tie:")


def _ties(pack_proof: PackProof) -> Check:
    open_ = [
        Open(each.says, each.statement)
        for id in pack_proof.proofs
        for each in findings_of(pack_proof, id)
        if not _is_sum(each.relation)
    ]
    evidence = f"{len(pack_proof.ties)} between {len(pack_proof.proofs)} statements"
    return Check("ties", "Every tie agrees", evidence, tuple(open_))


def _breaks(pack_proof: PackProof) -> Check:
    found = [
        each for id in pack_proof.proofs for each in findings_of(pack_proof, id) if each.status == "break"
    ]
    open_ = tuple(Open(each.says, each.statement) for each in found if _is_sum(each.relation))
    evidence = f"{len(open_)} source breaks" if open_ else "no source break"
    return Check("breaks", "The figures add before rounding", evidence, open_)


def _whole(pack_proof: PackProof) -> Check:
    open_ = [
        Open(each.says, each.statement) for id in pack_proof.proofs for each in unchecked_of(pack_proof, id)
    ]
    evidence = "no part of a sum is missing" if not open_ else f"{len(open_)} lack a part"
    return Check("whole", "Every sum could be checked", evidence, tuple(open_))


def _placed(placed: Sequence[Found]) -> Check:
    open_ = []
    for found in placed:
        if found.agrees.standing == "disagrees":
            where = found.figure
            says = f"{found.dashboard.name} says {found.text or found.name}"
            open_.append(Open(says, where[0] if where else None, where, found.dashboard.id))
    evidence = f"{len(placed)} placed figures"
    return Check("places", "Every placed figure agrees with its page", evidence, tuple(open_))


def _reasons(pack_proof: PackProof) -> Check:
    held = [(ref, figure) for ref, figure in _figures(pack_proof) if figure.held is not None]
    bare = [ref for ref, figure in held if figure.held is not None and not figure.held.reason.strip()]
    nudged = {(n.statement, n.line, n.column) for n in pack_proof.pack.nudges if not n.reason.strip()}
    open_ = [_named(pack_proof, ref, "is held without a reason") for ref in bare]
    open_ += [_named(pack_proof, ref, "is nudged without a reason") for ref in sorted(nudged)]
    evidence = f"{len(held)} held, {len(pack_proof.pack.nudges)} nudged"
    return Check("reasons", "Every hold and nudge has its reason", evidence, tuple(open_))


def _published(pack_proof: PackProof, published: Mapping[FigureRef, str]) -> Check:
    now = {ref: figure.printed.full_text for ref, figure in _figures(pack_proof) if ref in published}
    open_ = [
        _named(
            pack_proof,
            ref,
            f"was published as {published[ref] or 'a blank'} and prints {text or 'a blank'}",
        )
        for ref, text in now.items()
        if text != published[ref]
    ]
    evidence = f"{len(now)} in published columns" if now else "none issued before in a published column"
    return Check("published", "Published figures are unchanged", evidence, tuple(open_))


def _readable(pack_proof: PackProof) -> Check:
    open_, missing = [], 0
    for ref, figure in _figures(pack_proof):
        missing += figure.exact is None
        if figure.printed.too_wide:
            open_.append(_named(pack_proof, ref, "is wider than its rule allows"))
        elif figure.exact and not figure.printed.full_text.strip() and figure.clauses.shown:
            open_.append(_named(pack_proof, ref, "prints nothing, and is not zero"))
    evidence = f"{missing} are missing and say so" if missing else "none is missing"
    return Check("readable", "Nothing is cut off, and nothing is empty by accident", evidence, tuple(open_))


def _signs(pack_proof: PackProof) -> Check:
    open_ = []
    for ref, figure in _figures(pack_proof):
        units, own = figure.units, figure.own_rounding
        if not figure.exact or units is None or own is None:
            continue
        if units and (units > 0) != (figure.exact > 0):
            open_.append(_named(pack_proof, ref, "prints with the other sign"))
        elif own and not units:
            open_.append(_named(pack_proof, ref, "is not zero, and was moved to print so"))
    return Check(
        "signs", "Amounts keep their signs, and none became zero", "by nudges and holds", tuple(open_)
    )


def _units(pack_proof: PackProof) -> Check:
    open_ = []
    for id, proof in pack_proof.proofs.items():
        scaled = any(
            decided.clauses.form == "amount" and decided.clauses.scale != "ones"
            for decided in proof.figures.decided
        )
        if scaled and not proof.caption and not any(map(_says_scale, proof.figures.decided)):
            open_.append(Open(f"{proof.statement.name} does not name its unit", id))
    said = [proof.caption for proof in pack_proof.proofs.values() if proof.caption]
    evidence = ", ".join(dict.fromkeys(said)) or "in ones"
    return Check("units", "Every page names its unit", evidence, tuple(open_))


def _says_scale(decided: object) -> bool:
    clauses = getattr(decided, "clauses", None)
    return clauses is not None and clauses.scale_word not in ("caption", "none")


def _rates(pack: Pack) -> Check:
    says = "Every translated column has its rate"
    edition = pack.base.edition(pack.edition_id) if isinstance(pack, EditionPack) else None
    if edition is None or not edition.currency:
        return Check("rates", says, "not translated")
    open_, count = [], 0
    for statement in pack.statements:
        factors = factors_of(statement, edition)
        count += len(factors)
        open_ += [
            Open(f"{column.label} of {statement.name} has no rate, and stays untranslated", statement.id)
            for column in statement.columns
            if column.id not in factors and not column.share and not column.apart
        ]
    return Check("rates", says, f"{count} columns in {edition.currency}", tuple(open_))


def placed_in(found: Iterable[Found], edition: str) -> list[Found]:
    """What is placed on the dashboards of one edition."""
    return [each for each in found if each.dashboard.edition == edition]
