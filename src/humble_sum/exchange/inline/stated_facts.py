"""Reading Inline XBRL back: the facts that a document states, worked out from its text alone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from xml.etree import ElementTree
from xml.etree.ElementTree import Element

from humble_sum.core.amounts import EXACT
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.exchange.inline.contexts import Dates
from humble_sum.exchange.inline.facts import Fact, facts_of, transformed
from humble_sum.exchange.inline.page import SPACES

TAG, XBRLI = f"{{{SPACES['ix']}}}nonFraction", f"{{{SPACES['xbrli']}}}"


@dataclass(frozen=True)
class Stated:
    """A fact as a document states it: its value, of when, in what, and to how many decimals."""

    name: str
    dates: Dates
    unit: str
    value: Decimal
    decimals: int


def read_inline(data: bytes) -> list[Stated]:
    """The numbers that a document states. Raises InputError where it is none, or a fact makes no number or is
    of no context or unit that is there."""
    if b"<!DOCTYPE" in data or b"<!ENTITY" in data:
        raise InputError("bad-container", Fault("inline", "It has entities of its own, which are not read."))
    try:
        root = ElementTree.fromstring(data)
        dates = {each.get("id"): _dates(each) for each in root.iter(f"{XBRLI}context")}
        units = {each.get("id"): _unit(each) for each in root.iter(f"{XBRLI}unit")}
        return [_stated(element, dates, units) for element in root.iter(TAG)]
    except (ElementTree.ParseError, ValueError, KeyError) as error:
        raise InputError("bad-container", Fault("inline", f"It cannot be read: {error}.")) from None


def _dates(context: Element) -> Dates:
    said = {
        name: context.findtext(f"{XBRLI}period/{XBRLI}{name}") for name in ("instant", "startDate", "endDate")
    }
    if said["instant"]:
        return Dates(date.fromisoformat(said["instant"]))
    return Dates(date.fromisoformat(said["endDate"] or ""), date.fromisoformat(said["startDate"] or ""))


def _unit(unit: Element) -> str:
    return "/".join((measure.text or "").rpartition(":")[2] for measure in unit.iter(f"{XBRLI}measure"))


def _stated(element: Element, dates: Mapping[str | None, Dates], units: Mapping[str | None, str]) -> Stated:
    text, get = "".join(element.itertext()), element.get
    number = transformed(text, (get("format") or "").partition(":")[2])
    if number is None:
        raise ValueError(f"{text} is no number by {get('format')}")
    value = EXACT.scaleb(number, int(get("scale") or 0))
    signed = value.copy_negate() if get("sign") == "-" else value
    return Stated(
        get("name") or "", dates[get("contextRef")], units[get("unitRef")], signed, int(get("decimals") or 0)
    )


def differences(pack_proof: PackProof, data: bytes, coarser: bool = False) -> Iterator[tuple[str, str]]:
    """Where a document and the figures differ, and how: another value, time or accuracy, a fact too many or
    too few. Earlier versions stated what was nudged as less accurate: `coarser`
    lets that be."""
    # Several figures may state the same: in the order of the page.
    wanted: dict[tuple[str, Dates, str], list[tuple[FigureRef, Fact]]] = {}
    for ref, fact in facts_of(pack_proof).stated.items():
        wanted.setdefault((fact.concept, fact.dates, fact.unit.measures), []).append((ref, fact))
    for stated in read_inline(data):
        found = wanted.get((stated.name, stated.dates, stated.unit))
        if not found:
            yield f"{stated.name} {stated.dates.id}", "it is stated, and is no figure of the pack"
            continue
        ref, fact = found.pop(0)
        if stated.value != fact.value:
            yield ", ".join(ref), f"{stated.value:f} is stated, and {fact.value:f} printed"
        elif stated.decimals > fact.decimals or (stated.decimals < fact.decimals and not coarser):
            yield (
                ", ".join(ref),
                f"it is stated to {stated.decimals} decimals, and printed to {fact.decimals}",
            )
    yield from ((", ".join(ref), "it is not stated") for left in wanted.values() for ref, _ in left)
