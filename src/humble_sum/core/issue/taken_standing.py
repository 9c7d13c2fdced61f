"""How figures taken from other packs stand to what those packs have now, as amounts and as printed."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.taken import Source, Taken, TakenSource

# A pack as it is now, by whose it is, its period and edition; None where there is none.
Finder = Callable[[str, str, str], PackProof | None]
Stands = Literal["follows", "moved", "apart", "gone"]


@dataclass(frozen=True)
class SourceStanding:
    """A source and how it stands: it has the amount that was taken, another one now, another print than
    here, or is gone. `amount` is what it has now, `now` what it would give, and `printed_there` what its
    own page prints."""

    source: TakenSource
    stands: Stands
    now: Decimal | None
    printed_there: str = ""
    amount: Decimal | None = None


@dataclass(frozen=True)
class TakenStanding:
    """A figure that is taken, with its sources, and what it prints here."""

    taken: Taken
    sources: tuple[SourceStanding, ...]
    printed_here: str

    @property
    def open(self) -> bool:
        """Whether something of it does not follow."""
        return any(each.stands != "follows" for each in self.sources)


def taken_standings(pack_proof: PackProof, find: Finder) -> list[TakenStanding]:
    """How every figure that is taken stands now."""
    return [_standing(pack_proof, each, find) for each in pack_proof.pack.taken]


def resolved(pack: Pack, sources: Iterable[Source], find: Finder) -> tuple[TakenSource, ...]:
    """Sources with the amounts that they have now. Raises InputError where one is not there, has no amount,
    is in another currency without a rate, or follows this pack in a circle."""
    found = []
    for number, each in enumerate(sources):
        where = f"sources[{number}]"
        other = find(each.entity, each.period, each.edition)
        figure = None if other is None else _figure(other, each)
        if other is None:
            raise _bad(where, f"There is no pack of {each.entity} for {each.period}.", "Take it in first.")
        if figure is None or figure.exact is None:
            name = f"{each.entity} has no figure {'/'.join(each.figure)}"
            raise _bad(where, f"{name}, or it is missing.", "Choose another.")
        here, there = pack.currency, other.pack.currency
        if here and there and here != there and each.rate is None:
            raise _bad(where, f"{each.entity} is in {there}, and this pack in {here}.", "Give a rate.")
        if _leads_to(other.pack, pack, find, set()):
            raise _bad(where, f"{each.entity} follows this pack itself.", "Break the circle.")
        found.append(TakenSource(**each.model_dump(), amount=_amount(figure, each)))
    return tuple(found)


def _standing(pack_proof: PackProof, taken: Taken, find: Finder) -> TakenStanding:
    statement, line, column = taken.figure
    proof = pack_proof.proofs.get(statement)
    here = proof.figures.get((line, column)) if proof else None
    alone = len(taken.sources) == 1
    sources = tuple(_source(each, here if alone else None, find) for each in taken.sources)
    return TakenStanding(taken, sources, here.printed.full_text if here else "")


def _source(source: TakenSource, here: Figure | None, find: Finder) -> SourceStanding:
    other = find(source.entity, source.period, source.edition)
    figure = None if other is None else _figure(other, source)
    if figure is None or figure.exact is None:
        return SourceStanding(source, "gone", None)
    amount = _amount(figure, source)
    there = figure.printed.full_text
    now = source.model_copy(update={"amount": amount}).value
    if amount != source.amount:
        return SourceStanding(source, "moved", now, there, amount)
    return SourceStanding(source, "apart" if _apart(source, here, figure) else "follows", now, there, amount)


def _apart(source: TakenSource, here: Figure | None, there: Figure) -> bool:
    """Whether the two pages print one amount otherwise: in the same units, by another count of them."""
    if here is None or source.rate is not None or source.share is not None:
        return False
    if here.units is None or there.units is None or here.exponent != there.exponent:
        return False
    return abs(here.units) != abs(there.units)


def _figure(other: PackProof, source: Source) -> Figure | None:
    statement, line, column = source.figure
    proof = other.proofs.get(statement)
    return proof.figures.get((line, column)) if proof else None


def _amount(figure: Figure, source: Source) -> Decimal:
    """The amount that a source gives: exact, or as its page prints it."""
    if source.way == "as_printed" and figure.units is not None:
        return Decimal(figure.units).scaleb(figure.exponent)
    assert figure.exact is not None
    return figure.exact


def _leads_to(pack: Pack, wanted: Pack, find: Finder, seen: set[tuple[str, str]]) -> bool:
    """Whether a pack, or one that it takes figures from, is the wanted one."""
    own = (pack.entity, pack.period)
    if own == (wanted.entity, wanted.period):
        return True
    if own in seen:
        return False
    seen.add(own)
    sources = {(s.entity, s.period, s.edition) for taken in pack.taken for s in taken.sources}
    others = (find(*each) for each in sources)
    return any(other is not None and _leads_to(other.pack, wanted, find, seen) for other in others)


def _bad(where: str, what: str, remedy: str) -> InputError:
    return InputError("bad-source", Fault(where, what, remedy))
