"""Evidence: what speaks for and against each way to read something, weighed in bits.

A bit is a doubling of the odds (the logarithm of a likelihood ratio, to base 2; I. J. Good, *Probability and
the Weighing of Evidence*, 1950). Bits of signals that do not depend on each other add up. The weights here
are set by hand for kinds of signals, never for a phrase, and held to what `python -m bench.reading` measures.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

DECIDED = 1_000.0  # a hand's decision outweighs everything
WRITTEN = 30.0  # the cells say it themselves: 12.5%, $5
STATED = 11.0  # a unit is stated: (%), (kt)
NAMED = 8.0  # a word says it
HINTED = 6.0  # a word says it that other things are called by too
LIKE = 3.0  # it looks like it
NAMING = 1.0  # a word behind a number, which names a thing: 5.5% notes, 30 days
USUAL = 3.0  # most are so, where nothing is said
BROKEN = -4.0  # a relation that should hold does not
MOST = 20.0  # of one kind of evidence: a model may be wrong
SETTLED = 4.0  # the margin from which a reading is settled, and below which it is asked


class Signal(NamedTuple):
    """One piece of evidence: for a reading with positive bits, against it with negative ones; `because` in
    words for a person, `cells` where it was seen."""

    reading: str
    bits: float
    because: str
    cells: tuple[str, ...] = ()


@dataclass(frozen=True)
class Verdict:
    """What a subject was read as, by how many bits before the next best reading, and every signal."""

    subject: str
    reading: str
    margin: float
    signals: tuple[Signal, ...] = ()

    def over(self, other: str) -> float:
        """By how many bits its reading is ahead of another one."""
        bits = weighed(self.signals, (self.reading, other))
        return bits[self.reading] - bits[other]

    @property
    def strongest(self) -> tuple[Signal, ...]:
        """The signals, those that say most first."""
        return tuple(sorted(self.signals, key=lambda signal: -abs(signal.bits)))


def settle(subject: str, signals: Sequence[Signal], readings: Collection[str], usual: str) -> Verdict:
    """The reading that most bits speak for; `usual` where nothing does, and among equals."""
    bits = weighed(signals, readings)
    best = max(bits, key=lambda reading: (bits[reading], reading == usual))
    others = [each for reading, each in bits.items() if reading != best]
    return Verdict(subject, best, bits[best] - max(others, default=0.0), tuple(signals))


def weighed(signals: Iterable[Signal], readings: Collection[str]) -> dict[str, float]:
    """The bits that each reading has."""
    bits = dict.fromkeys(readings, 0.0)
    for signal in signals:
        if signal.reading in bits:
            bits[signal.reading] += signal.bits
    return bits


def rising(count: int) -> float:
    """The bits of so many amounts that only ever rise: by chance one order in count! does."""
    return min(math.lgamma(count + 1) / math.log(2), MOST) if count > 1 else 0.0
