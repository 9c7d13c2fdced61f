"""Figures typed by hand in running text: found, read, and matched to the figures of a pack."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT, of_units
from humble_sum.core.intake.amount_reading import read
from humble_sum.core.printing.rounding import position, round_units
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef

SIGN = r"(?:[₹€$£¥]|Rs\.?|INR|EUR|USD|GBP)"
SCALE = r"(?:lakh crores?|crores?|lakhs?|lacs?|millions?|billions?|thousands?|trillions?|cr|mn|bn|m|k)\b\.?"
TYPED = re.compile(
    rf"(?<![\w.,:/{{-])(?P<sign>{SIGN}\s?)?(?P<number>\d[\d.,’'\u00a0\u202f]*\d|\d)"
    rf"(?P<scale>[\s\u00a0\u202f]?{SCALE})?(?P<percent>\s?(?:%|per cent\b|percent\b))?(?![\w/])",
    re.IGNORECASE,
)
NEAR = Decimal("0.02")  # share of an amount within which a typed one may be meant for it
BEFORE = 120  # characters of text before a figure that may name it
MOST_OFFERED = 4


@dataclass(frozen=True)
class Typed:
    """A figure in running text: where it stands, its text, its amount and the exponent of its last digit."""

    start: int
    end: int
    text: str
    amount: Decimal
    exponent: int

    def off(self, amount: Decimal) -> Decimal:
        """How far it is from an amount that is rounded to its own last digit; signs are not looked at,
        since running text says them in words."""
        rounding = round_units(position(amount.copy_abs(), self.exponent), "half_up")
        return EXACT.subtract(self.amount.copy_abs(), of_units(rounding, self.exponent)).copy_abs()


@dataclass(frozen=True)
class Meant:
    """A figure that a typed one may be meant for; `prints` where the typed one is its rounding."""

    figure: FigureRef
    prints: bool


def typed_figures(text: str) -> Iterator[Typed]:
    """The figures of a running text, in order. Years, days and other bare whole numbers are none: only
    what has a currency, a scale word, a percent sign, decimals or grouped digits."""
    for found in TYPED.finditer(text):
        if typed := _typed(found):
            yield typed


def typed_figure(text: str) -> Typed | None:
    """The figure that a text types, where it types one and nothing else."""
    found = TYPED.fullmatch(text.strip())
    return _typed(found) if found else None


def _typed(found: re.Match[str]) -> Typed | None:
    number = found["number"]
    if not (found["sign"] or found["scale"] or found["percent"] or re.search(r"[.,]\d", number)):
        return None
    scale = (found["scale"] or "").strip().rstrip(".")
    reading = read(f"{number} {scale}".strip())
    if reading.amount is None:
        return None
    amount = reading.amount
    decimals = len(number.rpartition(".")[2]) if re.search(r"\.\d+$", number) else 0
    exponent = reading.power - decimals
    if found["percent"]:
        amount, exponent = EXACT.scaleb(amount, -2), exponent - 2
    return Typed(found.start(), found.end(), found.group(0).strip(), amount, exponent)


def meant_by(typed: Typed, before: str, pack_proof: PackProof) -> list[Meant]:
    """The figures that a typed one may be meant for: those it is a print of, and those near it that the
    text before names; the named first."""
    named = before[-BEFORE:].lower()
    found: list[tuple[tuple[bool, bool, bool, Decimal], Meant]] = []
    for id, proof in pack_proof.proofs.items():
        grid = proof.grid
        for (line, column), amount in zip(grid.cells, grid.amounts, strict=True):
            if not amount:
                continue
            apart = EXACT.subtract(amount, typed.amount).copy_abs()
            if apart > EXACT.multiply(amount.copy_abs(), NEAR):
                continue
            label = grid.labels[line].lower()
            in_full = label in named
            is_named = in_full or _first_words(label) in named
            prints = typed.off(amount) == 0
            if prints or is_named:
                found.append(
                    ((not in_full, not is_named, not prints, apart), Meant((id, line, column), prints))
                )
    return [meant for _, meant in sorted(found, key=lambda each: each[0])[:MOST_OFFERED]]


def _first_words(label: str) -> str:
    """What a label is called in passing: "revenue" for revenue from crossings, "surplus" for the year's."""
    return re.split(r" (?:from|for|of|on|and|before|by) ", label)[0]
