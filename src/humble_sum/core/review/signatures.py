"""Signatures: given under what prints now, and compared with what prints later."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import PackProof, proof_of, prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.review.printed_state import printed_dashboard, printed_statement
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import base_of, editions_of, in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.review_marks import PrintedState, Role, Signature

UNKNOWN = "at a time not on record"


@dataclass(frozen=True)
class Since:
    """What prints otherwise than when a signature was given: figures by line and column (or by item), with
    what they printed and print, and whether other words changed."""

    figures: tuple[tuple[str, str, str, str], ...]
    words: bool

    @property
    def says(self) -> str:
        """How much changed: "3 figures since"."""
        count = len(self.figures)
        if not count:
            return "words changed since"
        return "1 figure since" if count == 1 else f"{count} figures since"


def sign(pack: Pack, role: Role, edition: str, statement: str | None, dashboard: str | None) -> Signature:
    """A signature under what a statement or a dashboard prints now in an edition, without a name yet.

    Raises InputError where there is no such edition, statement or dashboard.
    """
    if edition not in editions_of(base_of(pack)):
        raise InputError("no-such-edition", Fault("edition", f'There is no edition "{edition}".'))
    printed = printed_now(pack, edition, statement, dashboard)
    if printed is None:
        kind, id = ("statement", statement) if statement else ("dashboard", dashboard)
        raise InputError(f"no-such-{kind}", Fault(kind, f'There is no {kind} "{id}" in this edition.'))
    return Signature(role=role, statement=statement, dashboard=dashboard, edition=edition, printed=printed)


def printed_now(
    pack: Pack, edition: str, statement: str | None, dashboard: str | None, last: PackProof | None = None
) -> PrintedState | None:
    """What a statement or dashboard prints in an edition, None where it is gone. `last` may be a proof of an
    earlier state in that edition."""
    base = base_of(pack)
    if edition not in editions_of(base):
        return None
    shown = in_edition(base, edition)
    if statement is not None:
        found = shown.statement(statement)
        if found is None:
            return None
        if last is not None and last.pack.shown == edition:
            return printed_statement(shown, proof_of(prove_pack(shown, last), statement))
        return printed_statement(shown, prove(shown, found))
    board = base.dashboard(dashboard or "")
    if board is None or board.edition != edition:
        return None
    return printed_dashboard(prove_pack(shown, last), board)


def since(signature: Signature, now: PrintedState) -> Since | None:
    """What prints otherwise than it was signed; None where nothing does."""
    was = signature.printed
    if was == now:
        return None
    figures = []
    for line in {**was.lines, **now.lines}:
        before, after = _by_column(was, line), _by_column(now, line)
        for column in {**before, **after}:
            one, other = before.get(column, ""), after.get(column, "")
            if one != other or (column in before) != (column in after):
                figures.append((line, column, one, other))
    return Since(tuple(figures), was.words != now.words)


def relifted(old: PackProof, pack: Pack, made: str) -> Pack:
    """The pack after a change, with its signatures marked: those under what prints otherwise now are lifted
    at the time the change was `made`, those under what prints as signed stand again, and those under what is
    gone are gone."""
    base = base_of(pack)
    if not base.signatures or prints_alike(base_of(old.pack), base):
        return pack
    states: dict[tuple[str | None, str | None, str], PrintedState | None] = {}
    left = []
    for each in base.signatures:
        if each.under not in states:
            last = old if old.pack.shown == each.edition else None
            states[each.under] = printed_now(base, each.edition, each.statement, each.dashboard, last)
        now = states[each.under]
        if now is None:
            continue
        lifted = "" if since(each, now) is None else each.lifted or made or UNKNOWN
        left.append(each if lifted == each.lifted else each.model_copy(update={"lifted": lifted}))
    if tuple(left) == base.signatures:
        return pack
    changed = base.model_copy(update={"signatures": tuple(left)})
    return in_edition(changed, pack.shown) if pack.shown != OWN else changed


def brought(pack: Pack) -> Pack:
    """The pack as it comes in from a file: its signatures say that they came so, and its answers name no
    change of a history that stayed elsewhere."""
    if not pack.points and not pack.signatures:
        return pack
    points = tuple(
        point.model_copy(
            update={"answers": tuple(each.model_copy(update={"change": None}) for each in point.answers)}
        )
        for point in pack.points
    )
    marked = (each.model_copy(update={"brought": True}) for each in pack.signatures)
    signatures = {each.own_key: each for each in marked}
    return pack.model_copy(update={"points": points, "signatures": tuple(signatures.values())})


def unreviewed(pack: Pack) -> Pack:
    """The pack without points and signatures, as another period begins."""
    return pack.model_copy(update={"points": (), "signatures": ()})


def _by_column(state: PrintedState, line: str) -> dict[str, str]:
    texts = state.lines.get(line, ())
    names = state.columns or [str(number) for number in range(1, len(texts) + 1)]
    return dict(zip(names, texts, strict=False))


def prints_alike(old: Pack, new: Pack) -> bool:
    """Whether nothing that can print differs: only what is said of the pack."""
    said = {"points": (), "signatures": (), "specimens": (), "document_answers": ()}
    return old is new or old.model_copy(update=said) == new.model_copy(update=said)
