"""Columns that are shares of a line: a column's figures over one line's, as percentages."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from humble_sum.core.amounts import EXACT, scaled

Amounts = Sequence[Decimal | None]
LEAST_LINES = 3
MOST_WHOLE = 40  # lines tried as the whole, the last first


def found_shares(lines: Sequence[Amounts], columns: Sequence[int]) -> dict[int, tuple[int, int]]:
    """For each of these columns that is one of shares: the column and the line it divides.

    Every figure has to be the quotient, rounded as far as the figure itself is, and not all of
    them zero. The whole is a line whose own share is one.
    """
    found = {}
    for column in columns:
        shares = [line[column] for line in lines]
        if sum(bool(share) for share in shares) < LEAST_LINES:
            continue
        wholes = [n for n, share in enumerate(shares) if share == 1][-MOST_WHOLE:]
        for base in reversed(wholes):
            sources = [n for n in range(len(lines[base])) if n not in columns and lines[base][n]]
            of = next((n for n in sources if _divides(lines, shares, n, base)), None)
            if of is not None:
                found[column] = (of, base)
                break
    return found


def _divides(lines: Sequence[Amounts], shares: Sequence[Decimal | None], of: int, base: int) -> bool:
    total = lines[base][of]
    assert total
    agree = 0
    for line, share in zip(lines, shares, strict=True):
        amount = line[of]
        if share is None or amount is None:
            continue
        exponent = share.as_tuple().exponent
        assert isinstance(exponent, int)
        # |amount − share × total| ≤ half a step of the share × |total|, in exact decimals.
        miss = EXACT.subtract(amount, EXACT.multiply(share, total)).copy_abs()
        step = EXACT.multiply(scaled(Decimal(5), min(exponent, 0) - 1), total.copy_abs())
        if miss > step:
            return False
        agree += bool(share)
    return agree >= LEAST_LINES
