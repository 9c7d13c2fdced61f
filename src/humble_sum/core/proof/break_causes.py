"""What would explain a source break: simple slips that would make the exact amounts add."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal

from humble_sum.core.amounts import EXACT, scaled
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.proof.checks import Check
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.relations import LineColumn

MOST = 4


def suspects(proof: Proof, check: Check) -> list[str]:
    """Slips that would explain a break to the last digit, in words, the likeliest first.

    A line that is not counted or should not be, a sign that is turned, two digits that changed
    places, a decimal point that slipped. Nothing is changed by them.
    """
    if not check.miss:
        return []
    found = dict.fromkeys(
        said for slip in (_turned, _left_out, _counted, _swapped, _slipped) for said in slip(proof, check)
    )
    return list(found)[:MOST]


def _parts(proof: Proof, check: Check) -> Iterator[tuple[LineColumn, int, Decimal]]:
    for cell, sign in check.relation.parts:
        exact = proof.figures[cell].exact
        if exact is not None:
            yield cell, sign, exact


def _turned(proof: Proof, check: Check) -> Iterator[str]:
    """Turning a part's sign takes twice the part away."""
    for cell, sign, exact in _parts(proof, check):
        if EXACT.add(check.miss, EXACT.multiply(2 * sign, exact)) == 0:
            yield f"the sign of {_name(proof, cell)} ({_said(proof, cell, exact)}) may be turned"


def _left_out(proof: Proof, check: Check) -> Iterator[str]:
    if check.relation.way != "down":
        return
    total, column = check.relation.total
    counted = {cell for cell, _ in check.relation.parts} | {check.relation.total}
    for line in proof.statement.figured:
        cell = (line.id, column)
        exact = proof.figures[cell].exact
        if cell in counted or not exact or total in (id for id, _ in line.parts):
            continue
        if exact in (check.miss, check.miss.copy_negate()):
            how = "counted" if exact == check.miss else "taken away"
            yield f"{_name(proof, cell)} ({_said(proof, cell, exact)}) may have to be {how} here"


def _counted(proof: Proof, check: Check) -> Iterator[str]:
    for cell, sign, exact in _parts(proof, check):
        if EXACT.add(check.miss, EXACT.multiply(sign, exact)) == 0:
            said = _said(proof, cell, exact)
            yield f"{_name(proof, cell)} ({said}) may not belong here, or be counted twice"


def _mended(proof: Proof, check: Check) -> Iterator[tuple[LineColumn, Decimal, Decimal]]:
    """Each amount of the relation, and what it would have to be for all to add."""
    stated = proof.figures[check.relation.total].exact
    assert stated is not None
    yield check.relation.total, stated, EXACT.subtract(stated, check.miss)
    for cell, sign, exact in _parts(proof, check):
        yield cell, exact, EXACT.add(exact, EXACT.multiply(sign, check.miss))


def _swapped(proof: Proof, check: Check) -> Iterator[str]:
    for cell, was, mended in _mended(proof, check):
        old, new = _aligned(was, mended)
        apart = [n for n, (a, b) in enumerate(zip(old, new, strict=True)) if a != b]
        same_sign = was.is_signed() == mended.is_signed()
        if same_sign and len(apart) == 2 and [old[n] for n in apart] == [new[n] for n in reversed(apart)]:
            said = f"{_said(proof, cell, was)} for {_said(proof, cell, mended)}"
            yield f"two digits of {_name(proof, cell)} may have changed places: {said}"


def _aligned(a: Decimal, b: Decimal) -> tuple[str, str]:
    """The digits of two amounts, each under its own: 01.10 and 10.10."""
    decimal_places = max(len(format(amount, "f").partition(".")[2]) for amount in (a, b))
    first, second = (f"{amount.copy_abs():.{decimal_places}f}" for amount in (a, b))
    return first.zfill(len(second)), second.zfill(len(first))


def _slipped(proof: Proof, check: Check) -> Iterator[str]:
    for cell, was, mended in _mended(proof, check):
        if any(scaled(was, power) == mended for power in (-3, -2, -1, 1, 2, 3)) and was:
            said = f"{_said(proof, cell, was)} for {_said(proof, cell, mended)}"
            yield f"the decimal point of {_name(proof, cell)} may have slipped: {said}"


def _name(proof: Proof, cell: LineColumn) -> str:
    return f"{proof.grid.labels[cell[0]]}, {proof.grid.heads[cell[1]]}"


def _said(proof: Proof, cell: LineColumn, amount: Decimal) -> str:
    return exact_text(amount, proof.figures[cell].clauses)
